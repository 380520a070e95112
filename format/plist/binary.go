package plist

import (
	"encoding/binary"
	"errors"
	"strings"
	"unicode/utf16"
)

// Pair is a key and text of a dictionary.
type Pair struct{ Key, Text string }

// IsBinary reports whether the data is a binary property list.
func IsBinary(data []byte) bool {
	return strings.HasPrefix(string(data[:min(len(data), 8)]), "bplist00")
}

var errBinary = errors.New("an offset points outside the file")

// Binary returns the texts of the top dictionary of a binary property list, in
// the file's order. Everything else in it is left out.
func Binary(data []byte) ([]Pair, error) {
	if len(data) < 40 {
		return nil, errBinary
	}
	trailer := data[len(data)-32:]
	b := binaryList{data: data, offsetSize: int(trailer[6]), refSize: int(trailer[7]), count: binary.BigEndian.Uint64(trailer[8:]), table: binary.BigEndian.Uint64(trailer[24:])}
	if b.offsetSize < 1 || b.offsetSize > 8 || b.refSize < 1 || b.refSize > 8 || b.count > uint64(len(data)) || b.table > uint64(len(data)) {
		return nil, errBinary
	}
	at, ok := b.object(binary.BigEndian.Uint64(trailer[16:]))
	if !ok {
		return nil, errBinary
	}
	kind, size, from, ok := b.head(at)
	if !ok || kind != 13 || from+2*size*b.refSize > len(data) {
		return nil, errors.New("its top value is no dictionary")
	}
	var pairs []Pair
	for i := range size {
		keyRef, _ := b.number(from+i*b.refSize, b.refSize)
		valueRef, _ := b.number(from+(size+i)*b.refSize, b.refSize)
		key, ok := b.text(keyRef)
		if !ok {
			return pairs, errBinary
		}
		if value, ok := b.text(valueRef); ok {
			pairs = append(pairs, Pair{key, value})
		}
	}
	return pairs, nil
}

// binaryList is a binary property list: its objects, and the table of their
// offsets.
type binaryList struct {
	data                []byte
	offsetSize, refSize int
	count, table        uint64
}

func (b *binaryList) number(at, size int) (uint64, bool) {
	if at < 0 || size < 0 || at+size > len(b.data) {
		return 0, false
	}
	var n uint64
	for _, c := range b.data[at : at+size] {
		n = n<<8 | uint64(c)
	}
	return n, true
}

// object finds the object with a number.
func (b *binaryList) object(ref uint64) (at int, ok bool) {
	if ref >= b.count {
		return 0, false
	}
	n, ok := b.number(int(b.table)+int(ref)*b.offsetSize, b.offsetSize)
	return int(n), ok && n < uint64(len(b.data))
}

// head reads an object's kind and count.
func (b *binaryList) head(at int) (kind byte, size, from int, ok bool) {
	kind, size, from = b.data[at]>>4, int(b.data[at]&15), at+1
	if size == 15 && from < len(b.data) {
		bytes := 1 << (b.data[from] & 15)
		n, good := b.number(from+1, bytes)
		if !good || n > uint64(len(b.data)) {
			return 0, 0, 0, false
		}
		size, from = int(n), from+1+bytes
	}
	return kind, size, from, true
}

// text reads a string, in ASCII or in UTF-16.
func (b *binaryList) text(ref uint64) (string, bool) {
	at, ok := b.object(ref)
	if !ok {
		return "", false
	}
	kind, size, from, ok := b.head(at)
	switch {
	case ok && kind == 5 && from+size <= len(b.data):
		return string(b.data[from : from+size]), true
	case ok && kind == 6 && from+2*size <= len(b.data):
		units := make([]uint16, size)
		for i := range units {
			units[i] = binary.BigEndian.Uint16(b.data[from+2*i:])
		}
		return string(utf16.Decode(units)), true
	}
	return "", false
}
