// Package charset turns the bytes of a text file into UTF-8 and changes in
// that UTF-8 back into changes of the bytes, so that what was not changed
// stays the same to the byte, even where it was badly encoded.
package charset

import (
	"bytes"
	"fmt"
	"slices"
	"unicode/utf16"
	"unicode/utf8"
	"unsafe"

	"zelvik/format"
)

// Encoding is a Unicode encoding form, or Page for one of the older code pages.
type Encoding uint8

// The encodings.
const (
	UTF8 Encoding = iota
	UTF16LE
	UTF16BE
	Page
)

// String names the encoding.
func (e Encoding) String() string {
	return [...]string{"UTF-8", "UTF-16LE", "UTF-16BE", "text in its code page"}[e]
}

// Text is a decoded file.
type Text struct {
	// UTF8 is the text; a byte order mark is left out.
	UTF8     []byte
	Encoding Encoding
	// BOM says that the file began with a byte order mark.
	BOM bool
	// Bad is the offset of the first place that could not be decoded, -1 for
	// none. Such places stand in UTF8 as they are (UTF-8) or as U+FFFD.
	Bad int
	// Conflicts are what a merge left in the file. UTF8 has blanks in place of
	// the marks and of the side that is not ours.
	Conflicts []Conflict
	data      []byte
	// parts are the code pages of the file, in their order.
	parts []paged
}

// Decode finds out the encoding and decodes. A file without a byte order mark
// is UTF-16 when zero bytes stand where UTF-16 has them for ASCII.
func Decode(data []byte) *Text {
	t := &Text{data: data, Bad: -1}
	switch {
	case bytes.HasPrefix(data, []byte("\xEF\xBB\xBF")):
		t.UTF8, t.BOM = data[3:], true
	case bytes.HasPrefix(data, []byte("\xFF\xFE")):
		t.Encoding, t.BOM = UTF16LE, true
	case bytes.HasPrefix(data, []byte("\xFE\xFF")):
		t.Encoding, t.BOM = UTF16BE, true
	default:
		t.UTF8 = data
		t.Encoding = guess(data)
	}
	if t.Encoding == UTF8 {
		if !utf8.Valid(t.UTF8) {
			t.Bad = invalid(t.UTF8)
		}
	} else {
		t.decode16()
	}
	t.conflicts()
	return t
}

// guess looks at the first bytes for zeros, which UTF-16 has on one side of ASCII
// characters and seldom on the other.
func guess(data []byte) Encoding {
	head := data[:min(len(data), 256)&^1]
	var even, odd int
	for i, c := range head {
		if c == 0 {
			if i%2 == 0 {
				even++
			} else {
				odd++
			}
		}
	}
	switch half := len(head) / 2; {
	case half >= 2 && odd > half/2 && even*4 < odd:
		return UTF16LE
	case half >= 2 && even > half/2 && odd*4 < even:
		return UTF16BE
	}
	return UTF8
}

func invalid(text []byte) int {
	for i := 0; i < len(text); {
		r, size := utf8.DecodeRune(text[i:])
		if r == utf8.RuneError && size == 1 {
			return i
		}
		i += size
	}
	return -1
}

// Binary reports whether the data is no text at all: it has zero bytes that
// no encoding explains.
func Binary(data []byte) bool {
	return guess(data) == UTF8 && !bytes.HasPrefix(data, []byte("\xFF\xFE")) && !bytes.HasPrefix(data, []byte("\xFE\xFF")) &&
		bytes.IndexByte(data[:min(len(data), 8000)], 0) >= 0
}

func (t *Text) unit(i int) uint16 {
	if t.Encoding == UTF16BE {
		return uint16(t.data[i])<<8 | uint16(t.data[i+1])
	}
	return uint16(t.data[i+1])<<8 | uint16(t.data[i])
}

// next decodes the character at byte i of the file.
func (t *Text) next(i int) (r rune, size int) {
	if t.Encoding == Page {
		return t.page(i).next(t.data[i:])
	}
	if i+1 >= len(t.data) {
		return utf8.RuneError, 1
	}
	u := t.unit(i)
	if !utf16.IsSurrogate(rune(u)) {
		return rune(u), 2
	}
	if i+3 < len(t.data) {
		if r := utf16.DecodeRune(rune(u), rune(t.unit(i+2))); r != utf8.RuneError {
			return r, 4
		}
	}
	return utf8.RuneError, 2
}

func (t *Text) start() int {
	if !t.BOM {
		return 0
	}
	if t.Encoding == UTF8 {
		return 3
	}
	return 2
}

func (t *Text) decode16() {
	t.UTF8 = make([]byte, 0, len(t.data))
	for i := t.start(); i < len(t.data); {
		r, size := t.next(i)
		if r == utf8.RuneError && t.Bad < 0 && !(size == 2 && t.unit(i) == 0xFFFD) {
			t.Bad = len(t.UTF8)
		}
		t.UTF8 = utf8.AppendRune(t.UTF8, r)
		i += size
	}
}

// String is UTF8 as a string that shares its memory: a reader keeps the
// stretches it needs without copying them. Nobody changes the bytes.
func (t *Text) String() string { return unsafe.String(unsafe.SliceData(t.UTF8), len(t.UTF8)) }

// encode writes text in the encoding that the file has at a byte. The error
// names the first character that a code page does not have.
func (t *Text) encode(text string, at int) ([]byte, error) {
	switch t.Encoding {
	case UTF8:
		return []byte(text), nil
	case Page:
		return t.page(at).encode(text)
	}
	var out []byte
	for _, u := range utf16.Encode([]rune(text)) {
		if t.Encoding == UTF16BE {
			out = append(out, byte(u>>8), byte(u))
		} else {
			out = append(out, byte(u), byte(u>>8))
		}
	}
	return out, nil
}

// Patch returns the file's bytes with changes made, whose places count in UTF8.
func (t *Text) Patch(replacements []format.Replacement) ([]byte, error) {
	if len(replacements) == 0 {
		return t.data, nil
	}
	moved := slices.Clone(replacements)
	if t.Encoding == UTF8 {
		for i := range moved {
			moved[i].Start += t.start()
			moved[i].End += t.start()
		}
		return format.Patch(t.data, moved)
	}
	places := map[int]int{}
	for _, r := range replacements {
		places[r.Start], places[r.End] = -1, -1
	}
	at := 0
	for i := t.start(); ; {
		if _, wanted := places[at]; wanted {
			places[at] = i
		}
		if i >= len(t.data) {
			break
		}
		r, size := t.next(i)
		at += len(string(r))
		i += size
	}
	for i := range moved {
		moved[i].Start, moved[i].End = places[moved[i].Start], places[moved[i].End]
		if moved[i].Start < 0 || moved[i].End < 0 {
			return nil, fmt.Errorf("a change begins inside a character")
		}
		encoded, err := t.encode(moved[i].Text, moved[i].Start)
		if err != nil {
			return nil, err
		}
		moved[i].Text = string(encoded)
	}
	return format.Patch(t.data, moved)
}
