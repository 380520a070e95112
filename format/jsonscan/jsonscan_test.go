package jsonscan

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// show writes a value on one line.
func show(v Value) string {
	switch v.Kind {
	case Object:
		var parts []string
		for _, m := range v.Members {
			parts = append(parts, m.Key+":"+show(m.Value))
		}
		return "{" + strings.Join(parts, ",") + "}"
	case Array:
		var parts []string
		for _, item := range v.Items {
			parts = append(parts, show(item))
		}
		return "[" + strings.Join(parts, ",") + "]"
	}
	return v.Text
}

func TestParse(t *testing.T) {
	for src, want := range map[string]string{
		`{"a": "b", "c": [1, -2.5e3, true, null, {}]}`: "{a:b,c:[1,-2.5e3,true,null,{}]}",
		"// note\n{ /* x */ \"a\" /* y */ : 1 } // z":  "{a:1}",
		`"\u00e9\ud83d\ude00\n\/\\\""`:                 "é😀\n/\\\"",
		`{"a": 1, "a": 2}`:                             "{a:1,a:2}",
	} {
		v, faults := Parse(src)
		assert.Empty(t, faults, src)
		assert.Equal(t, want, show(v))
	}
}

func TestFaults(t *testing.T) {
	for src, want := range map[string]string{
		"":                    "0 the file is empty",
		"{":                   "0 a brace that is not closed",
		"[1":                  "0 a bracket that is not closed",
		`{"a": 1,}`:           "7 a comma before the closing brace",
		`{"a": 1 "b": 2}`:     "8 a comma is missing before this key",
		`{"a" 1}`:             `5 a colon is missing after the key "a"`,
		`{"a": b}`:            `6 "b" is no JSON value`,
		`{a: 1}`:              `1 "a" where a key in quotes belongs`,
		"{\"a\": \"b\n}":      "6 a quote that is not closed",
		`{"a": "\x"}`:         `7 \x is no escape`,
		`{"a": "\u12"}`:       `7 \u without four hexadecimal digits`,
		"{\"a\": \"\x01\"}":   "7 the control character U+0001 in a string",
		`{} {}`:               "3 something follows the end of the document",
		`{"a": 1}}`:           "8 something follows the end of the document",
		`{"a": ,"b": 1}`:      `6 "," where a value belongs`,
		`{,"a": 1}`:           "1 a comma too many",
		"{\"a\": 'b'}":        `6 "'b'" is no JSON value`,
		"{\"a\": 1 /* open }": "0 a brace that is not closed",
	} {
		_, faults := Parse(src)
		if assert.NotEmpty(t, faults, src) {
			assert.Equal(t, want, fmt.Sprintf("%d %s", faults[0].Offset, faults[0].Text), src)
			assert.NotEmpty(t, faults[0].Fix)
		}
	}
	_, faults := Parse(strings.Repeat("[", 100000))
	require.NotEmpty(t, faults)
	assert.Contains(t, faults[0].Text, "nested more than 200 deep")
}

// What is quoted, Go's own reader and this one read as it was.
func TestQuote(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.String().Draw(t, "text")
		for _, quoted := range []string{Quote(text), QuoteASCII(text)} {
			var back string
			if err := json.Unmarshal([]byte(quoted), &back); err != nil || back != text {
				t.Fatalf("%q as %s: %q %v", text, quoted, back, err)
			}
			v, faults := Parse(quoted)
			if v.Text != text || len(faults) > 0 {
				t.Fatalf("%q as %s: %q %v", text, quoted, v.Text, faults)
			}
		}
	})
}
