package sheet

import (
	"strings"

	"zelvik/format"
	"zelvik/internal/fast"
)

// cell is one cell and where it stands.
type cell struct {
	text     string
	from, to int
	// quoted says that it stands in quotes, which from and to include.
	quoted bool
}

// row is one row with the texts of its cells; to is before its line end. From
// is -1 in a workbook.
type row struct {
	cells    []string
	from, to int
}

// fault is something wrong in a table.
type fault struct {
	offset    int
	text, fix string
}

// separator finds out what parts the cells: the sign that stands most often in
// the first row, outside quotes.
func separator(src string) byte {
	counts := map[byte]int{}
	quoted := false
	for i := 0; i < len(src); i++ {
		c := src[i]
		if c == '"' {
			quoted = !quoted
		} else if !quoted && (c == '\n' || c == '\r') {
			break
		} else if !quoted && strings.IndexByte(",;\t|", c) >= 0 {
			counts[c]++
		}
	}
	best := byte(',')
	for _, c := range []byte("\t;|") {
		if counts[c] > counts[best] {
			best = c
		}
	}
	return best
}

// scan reads a table (RFC 4180): quotes double inside quotes, line ends stand
// in them. Spaces belong to their cell.
func scan(src string, report func(fault)) (rows []row, sep byte) {
	sep = separator(src)
	at := 0
	if line := firstLine(src); strings.HasPrefix(line, "sep=") && len(line) == 5 { // a hint that spreadsheets read
		sep = line[4]
		at = len(line)
		at += lineEnd(src[at:])
	}
	if rows = halves(src, at, sep); rows == nil {
		rows, _ = scanRows(nil, src, at, len(src), sep, report)
	}
	return rows, sep
}

// halves reads the rows of a large table on both cores; nil where it is small,
// where something is wrong with it, or where the line in its middle goes on
// with a cell.
func halves(src string, at int, sep byte) []row {
	line := strings.IndexByte(src[len(src)/2:], '\n')
	if len(src) < fast.Large || line < 0 {
		return nil
	}
	middle := len(src)/2 + line + 1
	lines := strings.Count(src[at:middle], "\n")
	room := fast.Make[row](lines + strings.Count(src[middle:], "\n") + 1)
	sound := [2]bool{true, true}
	var first, rest []row
	var end int
	fast.Both(func() {
		first, end = scanRows(room[:0:lines], src, at, middle, sep, func(fault) { sound[0] = false })
	}, func() {
		rest, _ = scanRows(room[lines:lines], src, middle, len(src), sep, func(fault) { sound[1] = false })
	})
	if end != middle || !sound[0] || !sound[1] {
		return nil
	}
	return fast.Joined(room, lines, first, rest)
}

// scanRows reads the rows that begin before an end, and gives the place after
// the last one.
func scanRows(rows []row, src string, at, end int, sep byte, report func(fault)) ([]row, int) {
	var room []string // for the cells of many rows
	for at < end {
		r := row{from: at}
		begin := len(room)
		for {
			var c cell
			c, at = scanCell(src, at, sep, report)
			if len(room) == cap(room) { // these cells go on in a new one, which is for the rows that are left as well
				cells := room[begin:]
				most := max(cap(rows)-len(rows), 64) * (len(cells) + 2)
				room = append(fast.Make[string](min(most, 1<<20)), cells...)
				begin = 0
			}
			room = append(room, c.text)
			if at < len(src) && src[at] == sep {
				at++
				continue
			}
			break
		}
		r.cells = room[begin:len(room):len(room)]
		r.to = at
		at += lineEnd(src[at:])
		rows = fast.Append(rows, r)
	}
	return rows, at
}

// places returns the cells of a row with their places.
func places(src string, r row, sep byte) []cell {
	var list []cell
	for at := r.from; ; at++ {
		var c cell
		c, at = scanCell(src, at, sep, nil)
		if list = append(list, c); at >= r.to {
			return list
		}
	}
}

func firstLine(src string) string {
	if end := strings.IndexAny(src, "\r\n"); end >= 0 {
		return src[:end]
	}
	return src
}

// lineEnd returns the size of the line end that a text begins with.
func lineEnd(text string) int {
	switch {
	case strings.HasPrefix(text, "\r\n"):
		return 2
	case text != "":
		return 1
	}
	return 0
}

func scanCell(src string, at int, sep byte, report func(fault)) (cell, int) {
	c := cell{from: at}
	if at >= len(src) || src[at] != '"' {
		for {
			at += format.Run(src[at:], sep, sep)
			if at >= len(src) || src[at] == sep || src[at] == '\n' || src[at] == '\r' {
				break
			}
			at++
		}
		c.text, c.to = src[c.from:at], at
		return c, at
	}
	c.quoted = true
	at++
	if end := strings.IndexByte(src[at:], '"'); end >= 0 { // most end at the first quote
		if next := at + end + 1; next == len(src) || src[next] == sep || src[next] == '\n' || src[next] == '\r' {
			c.text, c.to = src[at:at+end], next
			return c, next
		}
	}
	var out strings.Builder
	for {
		end := strings.IndexByte(src[at:], '"')
		if end < 0 {
			if report != nil {
				report(fault{c.from, "a quote that is not closed", `add "`})
			}
			out.WriteString(src[at:])
			c.text, c.to = out.String(), len(src)
			return c, len(src)
		}
		out.WriteString(src[at : at+end])
		at += end + 1
		if at < len(src) && src[at] == '"' {
			out.WriteByte('"')
			at++
			continue
		}
		break
	}
	start := at
	for at < len(src) && src[at] != sep && src[at] != '\n' && src[at] != '\r' {
		at++
	}
	if at > start {
		if report != nil && strings.TrimSpace(src[start:at]) != "" {
			report(fault{start, "something after the closing quote of a cell", `write "" for a quote inside it`})
		}
		out.WriteString(strings.TrimRight(src[start:at], " "))
	}
	c.text, c.to = out.String(), at
	return c, at
}

// appendCell writes a cell, in quotes where it needs them.
func appendCell(out []byte, text string, sep byte) []byte {
	if text == "" {
		return out
	}
	if format.Run(text, '"', sep) == len(text) && text[0] > ' ' && text[0] < 0x80 && text[len(text)-1] > ' ' && text[len(text)-1] < 0x80 { // as most are
		return append(out, text...)
	}
	if !strings.ContainsAny(text, "\"\r\n") && strings.IndexByte(text, sep) < 0 && strings.TrimSpace(text) == text {
		return append(out, text...)
	}
	out = append(out, '"')
	out = append(out, strings.ReplaceAll(text, `"`, `""`)...)
	return append(out, '"')
}

// guard puts an apostrophe before a text that a spreadsheet would run as a
// formula, and before one that begins as a guarded one does.
func guard(text string) string {
	if risky(strings.TrimLeft(text, "'")) {
		return "'" + text
	}
	return text
}

// unguard takes the apostrophe away again.
func unguard(text string) string {
	if strings.HasPrefix(text, "'") && risky(strings.TrimLeft(text, "'")) {
		return text[1:]
	}
	return text
}

func risky(text string) bool { return text != "" && strings.IndexByte("=+-@\t\r", text[0]) >= 0 }
