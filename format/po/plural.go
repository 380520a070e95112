package po

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/culture"
	"zelvik/format/numbered"
)

// header writes the header Plural-Forms of a culture.
func header(tag culture.Tag) string {
	categories := numbered.Reached(tag)
	return fmt.Sprintf("nplurals=%d; plural=%s;", len(categories), formula(tag, categories))
}

// formula writes the culture's rules for whole numbers as an expression in C.
func formula(tag culture.Tag, categories []string) string {
	if len(categories) == 1 {
		return "0"
	}
	rules := tag.Cardinal()
	conditions := make([]string, 0, len(categories))
	for _, category := range categories[:len(categories)-1] {
		condition := "0"
		for _, rule := range rules {
			if rule.Category == category {
				condition = inC(rule.Condition)
			}
		}
		conditions = append(conditions, condition)
	}
	if len(categories) == 2 {
		if n, ok := strings.CutPrefix(conditions[0], "n == "); ok && !strings.Contains(n, " ") {
			return "(n != " + n + ")"
		}
		return "!(" + conditions[0] + ")"
	}
	var out strings.Builder
	out.WriteByte('(')
	for i, condition := range conditions {
		fmt.Fprintf(&out, "%s ? %d : ", condition, i)
	}
	fmt.Fprintf(&out, "%d)", len(conditions))
	return out.String()
}

// inC writes a condition for whole numbers.
func inC(c culture.Condition) string {
	var rows []string
	for _, row := range c {
		var terms []string
		possible := true
		for _, r := range row {
			if r.Operand != 'n' && r.Operand != 'i' { // whole numbers have no fraction and no exponent
				zero := slices.ContainsFunc(r.Ranges, func(s culture.Span) bool { return s.Low == 0 })
				possible = possible && zero != r.Not
				continue
			}
			terms = append(terms, relation(r))
		}
		if !possible {
			continue
		}
		if len(terms) == 0 {
			return "1"
		}
		rows = append(rows, strings.Join(terms, " && "))
	}
	if len(rows) == 0 {
		return "0"
	}
	if len(rows) > 1 {
		for i := range rows {
			if strings.Contains(rows[i], "&&") {
				rows[i] = "(" + rows[i] + ")"
			}
		}
	}
	return strings.Join(rows, " || ")
}

func relation(r culture.Relation) string {
	n := "n"
	if r.Modulus != 0 {
		n = fmt.Sprintf("n%%%d", r.Modulus)
	}
	var list []string
	for _, s := range r.Ranges {
		switch {
		case s.Low == s.High && r.Not:
			list = append(list, fmt.Sprintf("%s != %d", n, s.Low))
		case s.Low == s.High:
			list = append(list, fmt.Sprintf("%s == %d", n, s.Low))
		case r.Not:
			list = append(list, fmt.Sprintf("(%s < %d || %s > %d)", n, s.Low, n, s.High))
		case s.Low == 0:
			list = append(list, fmt.Sprintf("%s <= %d", n, s.High))
		default:
			list = append(list, fmt.Sprintf("%s >= %d && %s <= %d", n, s.Low, n, s.High))
		}
	}
	if r.Not {
		return strings.Join(list, " && ")
	}
	if len(list) == 1 {
		return list[0]
	}
	for i := range list {
		if strings.Contains(list[i], "&&") {
			list[i] = "(" + list[i] + ")"
		}
	}
	return "(" + strings.Join(list, " || ") + ")"
}

// expression is a plural expression: C's operators over n.
type expression struct {
	op      string // "n", "#" for a number, or an operator
	number  int
	a, b, c *expression
}

// parseExpression reads what stands after "plural=".
func parseExpression(text string) (*expression, error) {
	p := &expressions{text: text}
	e := p.ternary(0)
	p.space()
	if p.err == nil && p.at < len(text) {
		p.fail()
	}
	return e, p.err
}

type expressions struct {
	text string
	at   int
	err  error
}

func (p *expressions) space() {
	for p.at < len(p.text) && strings.IndexByte(" \t\r\n", p.text[p.at]) >= 0 {
		p.at++
	}
}

func (p *expressions) fail() *expression {
	if p.err == nil {
		p.err = fmt.Errorf("the plural expression cannot be read at %q", p.text[p.at:])
	}
	return &expression{op: "#"}
}

func (p *expressions) take(sign string) bool {
	p.space()
	if strings.HasPrefix(p.text[p.at:], sign) {
		p.at += len(sign)
		return true
	}
	return false
}

func (p *expressions) ternary(depth int) *expression {
	if depth > 60 {
		return p.fail()
	}
	e := p.binary(0, depth)
	if p.err == nil && p.take("?") {
		b := p.ternary(depth + 1)
		if !p.take(":") {
			return p.fail()
		}
		return &expression{op: "?", a: e, b: b, c: p.ternary(depth + 1)}
	}
	return e
}

// levels are C's binary operators, those that bind least first.
var levels = [][]string{{"||"}, {"&&"}, {"==", "!="}, {"<=", ">=", "<", ">"}, {"+", "-"}, {"*", "/", "%"}}

func (p *expressions) binary(level, depth int) *expression {
	if level == len(levels) {
		return p.unary(depth)
	}
	e := p.binary(level+1, depth)
loop:
	for p.err == nil {
		for _, op := range levels[level] {
			if p.take(op) {
				e = &expression{op: op, a: e, b: p.binary(level+1, depth)}
				continue loop
			}
		}
		break
	}
	return e
}

func (p *expressions) unary(depth int) *expression {
	if depth > 60 {
		return p.fail()
	}
	p.space()
	switch {
	case p.at < len(p.text) && p.text[p.at] == '!' && !strings.HasPrefix(p.text[p.at:], "!="):
		p.at++
		return &expression{op: "!", a: p.unary(depth + 1)}
	case p.take("("):
		e := p.ternary(depth + 1)
		if !p.take(")") {
			return p.fail()
		}
		return e
	case p.take("n"):
		return &expression{op: "n"}
	}
	start := p.at
	for p.at < len(p.text) && p.text[p.at] >= '0' && p.text[p.at] <= '9' && p.at-start < 9 {
		p.at++
	}
	if start == p.at {
		return p.fail()
	}
	n, _ := strconv.Atoi(p.text[start:p.at])
	return &expression{op: "#", number: n}
}

// eval returns the form of a number. Division by zero gives -1, which is none.
func (e *expression) eval(n int) int {
	switch e.op {
	case "n":
		return n
	case "#":
		return e.number
	case "?":
		if e.a.eval(n) != 0 {
			return e.b.eval(n)
		}
		return e.c.eval(n)
	case "!":
		return truth(e.a.eval(n) == 0)
	case "&&":
		return truth(e.a.eval(n) != 0 && e.b.eval(n) != 0)
	case "||":
		return truth(e.a.eval(n) != 0 || e.b.eval(n) != 0)
	}
	a, b := e.a.eval(n), e.b.eval(n)
	switch e.op {
	case "==":
		return truth(a == b)
	case "!=":
		return truth(a != b)
	case "<=":
		return truth(a <= b)
	case ">=":
		return truth(a >= b)
	case "<":
		return truth(a < b)
	case ">":
		return truth(a > b)
	case "+":
		return a + b
	case "-":
		return a - b
	case "*":
		return a * b
	}
	if b == 0 {
		return -1
	}
	if e.op == "/" {
		return a / b
	}
	return a % b
}

func truth(b bool) int {
	if b {
		return 1
	}
	return 0
}
