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

// Binary gives the texts of the top dictionary of a binary property list, in
// the file's order. Everything else in it is left out.
func Binary(data []byte) ([]Pair, error) {
	if len(data) < 40 {
		return nil, errBinary
	}
	trailer := data[len(data)-32:]
	offsetSize, refSize := int(trailer[6]), int(trailer[7])
	count := binary.BigEndian.Uint64(trailer[8:])
	top := binary.BigEndian.Uint64(trailer[16:])
	table := binary.BigEndian.Uint64(trailer[24:])
	if offsetSize < 1 || offsetSize > 8 || refSize < 1 || refSize > 8 || count > uint64(len(data)) || table > uint64(len(data)) {
		return nil, errBinary
	}
	number := func(at, size int) (uint64, bool) {
		if at < 0 || size < 0 || at+size > len(data) {
			return 0, false
		}
		var n uint64
		for _, b := range data[at : at+size] {
			n = n<<8 | uint64(b)
		}
		return n, true
	}
	object := func(ref uint64) (at int, ok bool) {
		if ref >= count {
			return 0, false
		}
		n, ok := number(int(table)+int(ref)*offsetSize, offsetSize)
		return int(n), ok && n < uint64(len(data))
	}
	// head reads an object's kind and count.
	head := func(at int) (kind byte, size, from int, ok bool) {
		kind, size, from = data[at]>>4, int(data[at]&15), at+1
		if size == 15 && from < len(data) {
			bytes := 1 << (data[from] & 15)
			n, good := number(from+1, bytes)
			if !good || n > uint64(len(data)) {
				return 0, 0, 0, false
			}
			size, from = int(n), from+1+bytes
		}
		return kind, size, from, true
	}
	text := func(ref uint64) (string, bool) {
		at, ok := object(ref)
		if !ok {
			return "", false
		}
		kind, size, from, ok := head(at)
		switch {
		case ok && kind == 5 && from+size <= len(data):
			return string(data[from : from+size]), true
		case ok && kind == 6 && from+2*size <= len(data):
			units := make([]uint16, size)
			for i := range units {
				units[i] = binary.BigEndian.Uint16(data[from+2*i:])
			}
			return string(utf16.Decode(units)), true
		}
		return "", false
	}
	at, ok := object(top)
	if !ok {
		return nil, errBinary
	}
	kind, size, from, ok := head(at)
	if !ok || kind != 13 || from+2*size*refSize > len(data) {
		return nil, errors.New("its top value is no dictionary")
	}
	var pairs []Pair
	for i := range size {
		keyRef, _ := number(from+i*refSize, refSize)
		valueRef, _ := number(from+(size+i)*refSize, refSize)
		key, ok := text(keyRef)
		if !ok {
			return pairs, errBinary
		}
		if value, ok := text(valueRef); ok {
			pairs = append(pairs, Pair{key, value})
		}
	}
	return pairs, nil
}
