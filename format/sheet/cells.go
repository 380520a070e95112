package sheet

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"unicode/utf16"

	"zelvik/format/xmlscan"
	"zelvik/internal/fast"
)

// rows reads the cells of the first sheet. Rows that it does not have are left
// out; places tells their numbers.
func (b *book) rows(shared []string, mostText int) ([]row, error) {
	var list []row
	cells, size, number := 0, 0, 0
	s := xmlscan.New(b.xml)
	for s.Next() {
		if s.Kind == xmlscan.Start && local(s.Name) == "sheetData" {
			b.prefix = strings.TrimSuffix(s.Name, "sheetData")
			b.end = s.To
		}
		if s.Kind != xmlscan.Start || local(s.Name) != "row" {
			continue
		}
		r := place{from: s.From, number: number + 1}
		if text, ok := s.Value("r"); ok {
			n, err := strconv.Atoi(text)
			if err != nil || n <= number || n > mostRows {
				return nil, fmt.Errorf("a row has the number %q, and its place is another", cut(text))
			}
			r.number = n
		}
		line, err := b.line(s, shared)
		if err != nil {
			return nil, err
		}
		number, r.to = r.number, s.To
		if cells += len(line); cells > mostCells {
			return nil, fmt.Errorf("it has more than %d cells, gaps between them counted", mostCells)
		}
		for _, text := range line {
			size += len(text)
		}
		if size > mostText {
			return nil, fmt.Errorf("its cells hold more than %d MiB", mostText>>20)
		}
		b.last, b.end = max(b.last, number), r.to
		b.places = append(b.places, r)
		list = append(list, row{cells: line, from: -1})
	}
	if len(s.Faults) > 0 {
		return nil, errors.New("its sheet is no whole XML: " + s.Faults[0].Text)
	}
	return list, nil
}

// line reads the cells of the current row.
func (b *book) line(s *xmlscan.Scanner, shared []string) ([]string, error) {
	var line []string
	err := eachCell(s, func(c *bookCell) error {
		if c.column >= mostColumns {
			return nil
		}
		text, err := c.text(shared)
		if err != nil || text == "" {
			return err
		}
		if c.column >= len(line) {
			line = append(line, make([]string, c.column+1-len(line))...)
		}
		line[c.column] = text
		return nil
	})
	return line, err
}

// bookCell is one cell of a sheet.
type bookCell struct {
	column     int // from 0
	from, to   int
	name       string // of the element
	kind       string // its attribute t
	style      string // its attribute s, as it is spelled
	value      string
	inline     string
	calculated bool // by a formula
}

// eachCell goes through the cells of the current row element.
func eachCell(s *xmlscan.Scanner, visit func(*bookCell) error) error {
	if s.Lone {
		return nil
	}
	next := 0
	for depth := len(s.Open); len(s.Open) >= depth && s.Next(); {
		if s.Kind != xmlscan.Start || local(s.Name) != "c" {
			continue
		}
		c := &bookCell{column: next, from: s.From, name: s.Name}
		for _, a := range s.Attributes {
			value := s.Unescape(a.ValueFrom, a.ValueTo)
			switch a.Name {
			case "r":
				at, ok := columnOf(value)
				if !ok {
					return fmt.Errorf("a cell stands at %q", cut(value))
				}
				if at < next {
					return fmt.Errorf("the cell %s stands twice, or out of order", cut(value))
				}
				c.column = at
			case "t":
				c.kind = value
			case "s":
				c.style = value
			}
		}
		if err := c.read(s); err != nil {
			return err
		}
		next, c.to = c.column+1, s.To
		if err := visit(c); err != nil {
			return err
		}
	}
	return nil
}

// read reads what stands in the current cell element.
func (c *bookCell) read(s *xmlscan.Scanner) (err error) {
	if s.Lone {
		return nil
	}
	for depth := len(s.Open); len(s.Open) >= depth && s.Next(); {
		if s.Kind != xmlscan.Start {
			continue
		}
		switch local(s.Name) {
		case "v":
			c.value = inner(s)
		case "is":
			if c.inline, err = rich(s); err != nil {
				return err
			}
		case "f":
			c.calculated = true
			s.Skip()
		default:
			s.Skip()
		}
	}
	return nil
}

// text returns what the cell shows (ECMA-376, 18.18.11: types of cells). Numbers
// are as they are stored.
func (c *bookCell) text(shared []string) (string, error) {
	switch c.kind {
	case "s":
		n, err := strconv.Atoi(strings.TrimSpace(c.value))
		if err != nil || n < 0 || n >= len(shared) {
			return "", fmt.Errorf("the cell %s refers to the shared text %q, which is not there", columnName(c.column), cut(c.value))
		}
		return shared[n], nil
	case "inlineStr":
		return c.inline, nil
	case "b":
		if strings.TrimSpace(c.value) == "1" {
			return "TRUE", nil
		}
		return "FALSE", nil
	case "e":
		return "", nil // what a formula could not find
	}
	if len(c.value) > 4*mostCell {
		return "", fmt.Errorf("a cell has more than %d characters", mostCell)
	}
	return c.value, nil
}

// columnOf reads the column of a place such as "AB12", from 0.
func columnOf(at string) (int, bool) {
	n, i := 0, 0
	for i < len(at) && at[i]|0x20 >= 'a' && at[i]|0x20 <= 'z' {
		if n = n*26 + int(at[i]|0x20-'a') + 1; n > 1<<14 {
			return 0, false
		}
		i++
	}
	return n - 1, n > 0
}

// columnName returns the letters of a column, from 0.
func columnName(n int) string {
	name := ""
	for n++; n > 0; n = (n - 1) / 26 {
		name = string(rune('A'+(n-1)%26)) + name
	}
	return name
}

func cut(text string) string { return text[:min(len(text), 20)] }

// unescaped decodes characters that XML does not hold, spelled as _x0007_
// (ECMA-376, 22.9.2.19).
func unescaped(text string) string {
	if !strings.Contains(text, "_x") {
		return text
	}
	var out strings.Builder
	for i := 0; i < len(text); {
		if code, ok := escape(text[i:]); ok {
			out.WriteRune(code)
			i += 7
			continue
		}
		out.WriteByte(text[i])
		i++
	}
	return out.String()
}

// escape reads an escape at the beginning of a text.
func escape(text string) (rune, bool) {
	if len(text) < 7 || text[0] != '_' || text[1] != 'x' || text[6] != '_' {
		return 0, false
	}
	code, err := strconv.ParseUint(text[2:6], 16, 16)
	return rune(code), err == nil && !utf16.IsSurrogate(rune(code))
}

// appendText writes a text into a cell as XML, with escapes for the characters
// that XML does not hold and for what looks like an escape.
func appendText(out []byte, text string) []byte {
	clean := xmlscan.Legal(text) && !strings.Contains(text, "_x") && strings.IndexByte(text, '\r') < 0
	if !clean {
		var spelled strings.Builder
		for i, r := range text {
			_, looks := escape(text[i:])
			switch {
			case looks:
				spelled.WriteString("_x005F_")
			case r == '\r' || r < 0x10000 && !xmlscan.Legal(string(r)):
				fmt.Fprintf(&spelled, "_x%04X_", r)
			default:
				spelled.WriteRune(r)
			}
		}
		text = spelled.String()
	}
	return append(out, xmlscan.EscapeText(text)...)
}

// length is a text's length as spreadsheet programs count it.
func length(text string) int {
	n := 0
	for _, r := range text {
		n += utf16.RuneLen(r)
	}
	return n
}

// room is about how many bytes rows take in a sheet.
func room(rows [][]string) []byte {
	n := 2000
	for _, line := range rows {
		for _, text := range line {
			n += len(text) + 72
		}
	}
	return fast.Make[byte](n)
}
