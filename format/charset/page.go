package charset

import (
	"bytes"
	"fmt"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/htmlindex"
)

// page is a code page: Latin-1, or one that PO headers, resource scripts and
// the like name. One without an encoding is UTF-8.
type page struct {
	name     string
	encoding encoding.Encoding
}

// codePages are the numbers by which Windows names code pages.
var codePages = map[string]string{
	"437": "ibm437", "850": "ibm850", "852": "ibm852", "866": "ibm866", "874": "windows-874",
	"932": "shift_jis", "936": "gbk", "949": "euc-kr", "950": "big5", "65001": "utf-8",
}

// old are the pages that the index of names on the web leaves out.
var old = map[string]encoding.Encoding{
	"ibm437": charmap.CodePage437, "ibm850": charmap.CodePage850, "ibm852": charmap.CodePage852,
	"iso-8859-1": charmap.ISO8859_1, "latin1": charmap.ISO8859_1, "us-ascii": charmap.ISO8859_1, "ascii": charmap.ISO8859_1,
}

// lookup finds a code page by its name or its number; false where it is not
// known, or no code page but a form of Unicode.
func lookup(name string) (page, bool) {
	name = strings.ToLower(strings.TrimSpace(name))
	if known, ok := codePages[strings.TrimPrefix(name, "cp")]; ok {
		name = known
	} else if digits := strings.TrimPrefix(name, "cp"); len(digits) == 4 && strings.HasPrefix(digits, "125") {
		name = "windows-" + digits
	}
	if e, ok := old[name]; ok {
		return page{name, e}, true
	}
	e, err := htmlindex.Get(name)
	if err != nil || strings.HasPrefix(name, "utf") || strings.HasPrefix(name, "iso-2022") || strings.Contains(name, "unicode") {
		return page{}, false
	}
	return page{name, e}, true
}

// Known reports whether a name or number is that of an encoding that can be
// read.
func Known(name string) bool {
	_, ok := lookup(name)
	return ok || strings.EqualFold(strings.ReplaceAll(name, "-", ""), "utf8") || name == "65001"
}

// Part is a stretch of a file in one code page: from a byte on, up to the next.
type Part struct {
	From int
	// Page is its name or number.
	Page string
}

// DecodeIn decodes a file in the code page with a name or number. A file with
// a byte order mark, in UTF-16, or in a page that is not known is decoded as
// Decode does.
func DecodeIn(data []byte, name string) *Text {
	if _, ok := lookup(name); !ok {
		return Decode(data)
	}
	return DecodeParts(data, []Part{{0, name}})
}

// DecodeParts decodes a file whose parts are in several code pages; the first
// begins with the file. A part whose page is not known is read in the one
// before, one in UTF-8 as such.
func DecodeParts(data []byte, parts []Part) *Text {
	t := Decode(data)
	if t.BOM || t.Encoding != UTF8 {
		return t
	}
	t = &Text{Encoding: Page, Bad: -1, data: data}
	for _, part := range parts {
		p, ok := lookup(part.Page)
		switch {
		case ok:
		case Known(part.Page):
			p = page{name: "utf-8"}
		case len(t.parts) > 0:
			continue
		}
		t.parts = append(t.parts, paged{part.From, p})
	}
	ascii := true
	for _, c := range data {
		if c >= utf8.RuneSelf {
			ascii = false
			break
		}
	}
	if ascii {
		t.UTF8 = bytes.Clone(data)
		t.conflicts()
		return t
	}
	t.UTF8 = make([]byte, 0, len(data)+len(data)/4)
	for i := 0; i < len(data); {
		r, size := t.next(i)
		if r == utf8.RuneError && t.Bad < 0 {
			t.Bad = len(t.UTF8)
		}
		t.UTF8 = utf8.AppendRune(t.UTF8, r)
		i += size
	}
	t.conflicts()
	return t
}

// paged is a part with its page.
type paged struct {
	from int
	page page
}

// page returns the code page at byte i of the file.
func (t *Text) page(i int) page {
	n := len(t.parts) - 1
	for n > 0 && t.parts[n].from > i {
		n--
	}
	return t.parts[n].page
}

// next decodes the first character of data, which is not empty.
func (p page) next(data []byte) (r rune, size int) {
	if data[0] < utf8.RuneSelf {
		return rune(data[0]), 1
	}
	if p.encoding == nil {
		return utf8.DecodeRune(data)
	}
	decoder := p.encoding.NewDecoder()
	var out [8]byte
	for size = 1; size <= min(len(data), 4); size++ {
		n, used, err := decoder.Transform(out[:], data[:size], false)
		if err == nil && n > 0 && used == size {
			r, _ = utf8.DecodeRune(out[:n])
			if r != utf8.RuneError {
				return r, size
			}
			break
		}
	}
	return utf8.RuneError, 1
}

func (p page) encode(text string) ([]byte, error) {
	if p.encoding == nil {
		return []byte(text), nil
	}
	out, err := p.encoding.NewEncoder().Bytes([]byte(text))
	if err == nil {
		return out, nil
	}
	for _, r := range text {
		if _, err := p.encoding.NewEncoder().Bytes([]byte(string(r))); err != nil {
			return nil, fmt.Errorf("the file's encoding %s has no %q; save the file as UTF-8 first", p.name, r)
		}
	}
	return nil, fmt.Errorf("the text cannot be written in the file's encoding %s; save the file as UTF-8 first", p.name)
}
