package language

import (
	"iter"
	"slices"
	"strings"
)

// Glued is a place where code joins a text of a catalog with something else.
type Glued struct {
	// At is where the look-up stands, Look the look-up, With what it is joined
	// with.
	At         int
	Look, With string
}

// lookUps finds the look-ups in a text.
func (l *Language) lookUps(text string) iter.Seq[[2]int] {
	return func(yield func([2]int) bool) {
		at := 0
		for line := range strings.Lines(text) {
			if slices.ContainsFunc(l.marks, func(mark string) bool { return strings.Contains(line, mark) }) {
				for _, span := range l.asks.re().FindAllStringIndex(line, -1) {
					if !yield([2]int{at + span[0], at + span[1]}) {
						return
					}
				}
			}
			at += len(line)
		}
	}
}

// glued finds the places in a file of the language.
func (l *Language) glued(text string) []Glued {
	if len(text) > largest || !strings.Contains(text, "+") {
		return nil
	}
	var list []Glued
	last := -1 // the line of the last one: a sentence is reported once
	for span := range l.lookUps(text) {
		line := strings.LastIndexByte(text[:span[0]], '\n') + 1
		start := strings.TrimSpace(text[line:span[0]])
		if line == last || strings.HasPrefix(start, "//") || strings.HasPrefix(start, "*") || strings.HasPrefix(start, "#") || quotes(text[line:span[0]]) {
			continue
		}
		end := span[1]
		if strings.HasPrefix(text[end:], "(") && strings.Contains(text[span[0]:end], "Strings.") {
			continue // a function of a class that is called so: resources are properties
		}
		if open := strings.IndexAny(text[span[0]:span[1]], "(["); open >= 0 && !strings.HasPrefix(text[span[0]:], "AppLocalizations") {
			end = closing(text, span[0]+open)
		} else if end < len(text) && text[end] == '(' {
			end = closing(text, end)
		}
		if end < 0 || sentence(text[span[0]:end]) {
			continue
		}
		look, with := text[span[0]:end], ""
		if !label.re().MatchString(look) {
			with = operandAfter(text[end:])
		}
		if with == "" && !begins.re().MatchString(look) {
			with = operandBefore(text[:span[0]])
		}
		if with == "" {
			continue
		}
		last = line
		list = append(list, Glued{At: span[0], Look: text[span[0]:end], With: with})
	}
	return list
}

// quotes reports whether a place in a line is inside of a literal.
func quotes(before string) bool {
	before = strings.ReplaceAll(before, `\"`, "")
	return strings.Count(before, `"`)%2 == 1 || strings.Count(before, "'")%2 == 1 || strings.Count(before, "`")%2 == 1
}

// closing returns the place after the bracket that closes the one at open, -1
// where none does.
func closing(text string, open int) int {
	depth := 0
	for i := open; i < len(text) && i < open+400; i++ {
		switch text[i] {
		case '(', '[', '{':
			depth++
		case ')', ']', '}':
			if depth--; depth == 0 {
				return i + 1
			}
		case '"', '\'', '`':
			end := strings.IndexByte(text[i+1:], text[i])
			if end < 0 {
				return -1
			}
			i += end + 1
		case ';':
			return -1
		}
	}
	return -1
}

var (
	// A literal may have letters before it that say what it is made of: u" ", L" ".
	joins     = lazy(`^\s*\+\s*(?:(?:u8|[uULR@$])?(?:"([^"\\\n]*)"|'([^'\\\n]*)')\s*\+\s*)?([\w$.!?]+(?:\([^()]*\))?)(["'(]?)`)
	joined    = lazy(`([\w$)\]]+)\s*\+\s*(?:(?:u8|[uULR@$])?(?:"([^"\\\n]*)"|'([^'\\\n]*)')\s*\+\s*)?$`)
	separated = lazy(`^[\s\p{P}\p{S}]*$`)
)

// operandAfter returns what is joined to the end of a look-up; "" where nothing is
// but signs, or where the pieces are told apart by more than a space.
func operandAfter(rest string) string {
	m := joins.re().FindStringSubmatch(rest)
	if m == nil || !together(m[1]+m[2]) || !value(m[3]) || strings.ContainsAny(m[3], "\"'`") || m[4] != "" && m[4] != "(" || literals(rest[len(m[0])-len(m[4]):]) {
		return ""
	}
	return m[3]
}

func operandBefore(before string) string {
	before = before[max(0, len(before)-200):]
	m := joined.re().FindStringSubmatch(before)
	if m != nil && strings.HasPrefix(strings.TrimSpace(before[strings.LastIndexByte(before[:len(before)-len(m[0])], '\n')+1:]), "#") {
		return "" // of the preprocessor
	}
	if m == nil || !together(m[2]+m[3]) || !value(m[1]) {
		return ""
	}
	if strings.HasSuffix(m[1], ")") || strings.HasSuffix(m[1], "]") {
		return "what comes before it"
	}
	return m[1]
}

// literals reports whether an operand is called with literals: what comes of them is
// no value that a sentence is about, but a link, say.
func literals(call string) bool {
	if !strings.HasPrefix(call, "(") {
		return false
	}
	end := closing(call, 0)
	return end > 0 && strings.ContainsAny(call[:end], "\"'`")
}

// What the text of a look-up tells, where it is by its text: whole is a sentence or in
// brackets, a label ends with a colon, and what begins with a capital begins a sentence.
var (
	label  = lazy(`:(?:\s|<[^>]*>)*["'][^"']*$`)
	begins = lazy(`^[^"']*["'](?:<[^>]*>)*\p{Lu}[^"']* `)
	whole  = lazy(`^[^"']*["'][(\[].*[)\]]["']|^[^"']*["'](?:<[^>]*>)*[^\s"'](?:.|\n)*[.!?](?:<[^>]*>)*["'][^"']*$`)
)

// sentence reports whether a look-up is by a text that is a whole sentence: what is
// joined to it is another one.
func sentence(look string) bool { return whole.re().MatchString(look) }

// together reports whether what stands between two pieces makes one sentence of
// them: a space, or words, and no tag.
func together(between string) bool {
	return strings.TrimSpace(between) == "" || !separated.re().MatchString(between) && !strings.Contains(between, "<")
}

// value reports whether an operand is one: not a count in a loop, not a literal.
func value(operand string) bool {
	first := operand[0]
	return !(first >= '0' && first <= '9') && first != '+' && operand != "="
}
