package charset

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/htmlindex"
)

// page is a code page: Latin-1, or one that PO headers, resource scripts and
// the like name.
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

// DecodeIn decodes a file in the code page with a name or number. A file with
// a byte order mark, in UTF-16, or in a page that is not known is decoded as
// Decode does.
func DecodeIn(data []byte, name string) *Text {
	t := Decode(data)
	p, ok := lookup(name)
	if !ok || t.BOM || t.Encoding != UTF8 {
		return t
	}
	t = &Text{Encoding: Page, Bad: -1, data: data, page: p}
	ascii := true
	for _, c := range data {
		if c >= utf8.RuneSelf {
			ascii = false
			break
		}
	}
	if ascii {
		t.UTF8 = data
		return t
	}
	t.UTF8 = make([]byte, 0, len(data)+len(data)/4)
	for i := 0; i < len(data); {
		r, size := p.next(data[i:])
		if r == utf8.RuneError && t.Bad < 0 {
			t.Bad = len(t.UTF8)
		}
		t.UTF8 = utf8.AppendRune(t.UTF8, r)
		i += size
	}
	return t
}

// Name gives the name of the file's code page, "" where it is in Unicode.
func (t *Text) Name() string { return t.page.name }

// next decodes the first character of data, which is not empty.
func (p page) next(data []byte) (r rune, size int) {
	if data[0] < utf8.RuneSelf {
		return rune(data[0]), 1
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
