package accessor

import (
	"slices"
	"strings"
	"unicode/utf8"
)

// Layout is how a language's formatter breaks what does not fit into a line.
type Layout struct {
	Width  int  // of a line, in characters
	Indent int  // of the items of a list that is broken, in columns
	Hang   int  // of a part that goes on in the next line, in columns
	Comma  bool // after the last item of a list that is broken
	// Closed lists end in the line of their last item, and a list whose items
	// fit into a line stays one line.
	Closed bool
	// Filled lists stand below their opening bracket, with as many items in a
	// line as it holds.
	Filled bool
}

// Piece is a text, or a list between brackets that may be broken.
type Piece struct {
	// Text ends with the opening bracket if there are items.
	Text  string
	Items []Piece
	// Close is the closing bracket and what stands after it.
	Close string
	// Inner are the columns by which a list is indented whose bracket closes in
	// a line of its own, where Layout's lists are Closed.
	Inner int
	// Rest stands after the text, or in the next line where it does not fit.
	Rest string
}

// Pieces makes pieces of texts.
func Pieces(texts ...string) []Piece {
	list := make([]Piece, len(texts))
	for i, text := range texts {
		list[i].Text = text
	}
	return list
}

// Flat is the piece in one line.
func (p Piece) Flat() string {
	var out strings.Builder
	out.WriteString(p.Text)
	for i, item := range p.Items {
		if i > 0 {
			out.WriteString(", ")
		}
		out.WriteString(item.Flat())
	}
	out.WriteString(p.Close)
	if p.Rest != "" {
		out.WriteString(" " + p.Rest)
	}
	return out.String()
}

// Lay writes a piece at a column; after is what stands after it in its last
// line. The first line is not indented, it has its place already.
func (l Layout) Lay(p Piece, column int, after string) string {
	flat := p.Flat()
	if column+utf8.RuneCountInString(flat)+len(after) <= l.Width || len(p.Items) == 0 && p.Rest == "" {
		return flat + after
	}
	if p.Rest != "" {
		return p.Text + "\n" + strings.Repeat(" ", column+l.Hang) + p.Rest + after
	}
	if l.Filled {
		return l.fill(p, column, after)
	}
	inner, closed := column+l.Indent, l.Closed && p.Inner == 0
	if p.Inner > 0 {
		inner = column + p.Inner
	}
	indent := "\n" + strings.Repeat(" ", inner)
	if l.Closed {
		all := Piece{Items: p.Items}.Flat()
		end := p.Close + after
		if !closed {
			end = "\n" + strings.Repeat(" ", column) + end
		}
		if line, _, _ := strings.Cut(all+end, "\n"); inner+utf8.RuneCountInString(line) <= l.Width {
			return p.Text + indent + all + end
		}
	}
	var out strings.Builder
	out.WriteString(p.Text)
	for i, item := range p.Items {
		behind := ","
		if last := i == len(p.Items)-1; last && closed {
			behind = p.Close + after
		} else if last && !l.Comma {
			behind = ""
		}
		out.WriteString(indent + l.Lay(item, inner, behind))
	}
	if !closed {
		out.WriteString("\n" + strings.Repeat(" ", column) + p.Close + after)
	}
	return out.String()
}

// fill writes a list below its opening bracket, or in the next line where that
// leaves an item no place.
func (l Layout) fill(p Piece, column int, after string) string {
	inner := column + utf8.RuneCountInString(p.Text)
	if line := strings.LastIndexByte(p.Text, '\n'); line >= 0 {
		inner = utf8.RuneCountInString(p.Text[line+1:])
	}
	var out strings.Builder
	out.WriteString(p.Text)
	if slices.ContainsFunc(p.Items, func(item Piece) bool { return inner+len(item.Flat())+1 > l.Width }) {
		inner = column + l.Hang
		out.WriteString("\n" + strings.Repeat(" ", inner))
	}
	at := inner
	for i, item := range p.Items {
		behind := ","
		if i == len(p.Items)-1 {
			behind = p.Close + after
		}
		if size := utf8.RuneCountInString(item.Flat()); i > 0 && at+1+size+len(behind) > l.Width {
			out.WriteString("\n" + strings.Repeat(" ", inner))
			at = inner
		} else if i > 0 {
			out.WriteByte(' ')
			at++
		}
		text := l.Lay(item, at, behind)
		out.WriteString(text)
		if line := strings.LastIndexByte(text, '\n'); line >= 0 {
			at, text = 0, text[line+1:]
		}
		at += utf8.RuneCountInString(text)
	}
	return out.String()
}

// Row is a list of texts between brackets, as a piece.
func Row(open string, texts []string, end string) Piece {
	return Piece{Text: open, Items: Pieces(texts...), Close: end}
}

// Condition breaks a condition of Expression at the operators of its outermost
// level, the operator at the end of a line or at the beginning of the next.
// It returns the condition alone where that fits.
func (l Layout) Condition(before, condition, after string, leading bool) string {
	column := utf8.RuneCountInString(before)
	if column+utf8.RuneCountInString(condition)+len(after) <= l.Width {
		return before + condition + after
	}
	margin := "\n" + strings.Repeat(" ", len(before)-len(strings.TrimLeft(before, " "))+l.Hang)
	operator := " || "
	depth, parts, from := 0, []string(nil), 0
	for _, operator = range []string{" || ", " && "} {
		depth, parts, from = 0, nil, 0
		for i := range condition {
			switch {
			case condition[i] == '(':
				depth++
			case condition[i] == ')':
				depth--
			case depth == 0 && strings.HasPrefix(condition[i:], operator):
				parts, from = append(parts, condition[from:i]), i+len(operator)
			}
		}
		if parts != nil {
			break
		}
	}
	parts = append(parts, condition[from:])
	if l.Filled { // lines hold as much as they can
		lines := parts[:1]
		for _, part := range parts[1:] {
			line := &lines[len(lines)-1]
			if column+len(*line)+len(operator)+len(part)+len(after) <= l.Width {
				*line += operator + part
			} else {
				lines = append(lines, part)
			}
		}
		parts = lines
	}
	between := strings.TrimRight(operator, " ") + margin
	if leading {
		between = margin + strings.TrimLeft(operator, " ")
	}
	return before + strings.Join(parts, between) + after
}
