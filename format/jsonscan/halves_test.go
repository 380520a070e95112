package jsonscan

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// alone reads a document on one core.
func alone(data string) (Value, []Fault) {
	p := &parser{data: data, size: len(data)}
	p.space()
	v := p.value()
	if p.space(); p.at < len(data) && len(p.faults) == 0 {
		p.fault(p.at, "something follows the end of the document", "remove it")
	}
	return v, p.faults
}

// A document that is read in halves is what it is when it is read whole.
func TestHalves(t *testing.T) {
	members := func(n int, format string) string {
		var out strings.Builder
		for i := range n {
			if i > 0 {
				out.WriteString(",\n")
			}
			fmt.Fprintf(&out, format, i)
		}
		return out.String()
	}
	flat := members(40000, `  "key%d": "a text of some length"`)
	for _, c := range []struct {
		name, data string
		parted     bool
	}{
		{"flat", "{\n" + flat + "\n}\n", true},
		{"nested", "{\n\"version\": 1,\n\"strings\": {\n" + members(20000, `"key%d": {`+"\n"+`"en": {"value": "a text",`+"\n"+`"state": "new"}`+"\n}") + "\n},\n\"last\": true\n}", true},
		{"one object in another", "{\n\"a\": {\n\"b\": {\n" + flat + "\n}}}", true},
		{"an array around", "{\n\"a\": [{\n" + flat + "\n}]}", false},
		{"in one line", "{" + strings.ReplaceAll(flat, "\n", "") + "}", false},
		{"a comment with quotes in the middle", "{\n" + flat + ",\n/*\n" + strings.Repeat("\"x\": \"y\",\n", 300000) + "*/\n" + members(40000, `"more%d": ""`) + "}", false},
		{"a fault in the first half", "{\n\"x\" \"y\",\n" + flat + "\n}", false},
		{"a fault in the second half", "{\n" + flat + ",\n}", false},
		{"a brace too many", "{\n" + flat + "\n}}", false},
		{"a brace too few", "{\n\"a\": {\n" + flat + "\n}", false},
		{"a comma is missing in the middle", "{\n" + strings.ReplaceAll(flat, ",", "") + "\n}", false},
		{"values nested", "{\n\"a\": {\n" + flat + "\n},\n\"b\": [1, {\"c\": null}]}", true},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.parted, halves(c.data) != nil)
			want, faults := alone(c.data)
			have, found := Parse(c.data)
			assert.Equal(t, faults, found)
			assert.True(t, assert.ObjectsAreEqual(want, have), "the tree differs")
		})
	}
}
