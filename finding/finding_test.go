package finding

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestLines(t *testing.T) {
	text := "\uFEFFab\ncé😀d\r\n\re"
	l := NewLines(text)
	for offset, want := range map[int][2]int{0: {1, 1}, 3: {1, 1}, 4: {1, 2}, 5: {1, 3}, 6: {2, 1}, 9: {2, 3}, 13: {2, 4}, 16: {3, 1}, 17: {4, 1}, 99: {4, 2}, -1: {1, 1}} {
		line, column := l.At(offset)
		assert.Equal(t, want, [2]int{line, column}, offset)
	}
}

func TestNearest(t *testing.T) {
	words := []string{"android", "arb", "strings", "text-missing"}
	for word, want := range map[string]string{"andriod": "android", "ARB": "arb", "abr": "arb", "string": "strings", "text-mising": "text-missing", "yaml": "", "": ""} {
		assert.Equal(t, want, Nearest(word, words), word)
	}
}

func TestJSON(t *testing.T) {
	f := Finding{Rule: "text-missing", Severity: Error, Path: "a", Line: 2, Column: 3, Message: "m"}
	data, err := json.Marshal(f)
	require.NoError(t, err)
	assert.JSONEq(t, `{"rule":"text-missing","severity":"error","path":"a","line":2,"column":3,"message":"m"}`, string(data))
	var back Finding
	require.NoError(t, json.Unmarshal(data, &back))
	assert.Equal(t, f, back)
	assert.Error(t, json.Unmarshal([]byte(`{"severity":"bad"}`), &back))
	assert.Equal(t, "a:2:3", f.Place())
}

func TestSortIsTotal(t *testing.T) {
	list := []Finding{{Path: "b"}, {Path: "a", Line: 2}, {Path: "a", Line: 1, Rule: "y"}, {Path: "a", Line: 1, Rule: "x"}}
	Sort(list)
	assert.Equal(t, []Finding{{Path: "a", Line: 1, Rule: "x"}, {Path: "a", Line: 1, Rule: "y"}, {Path: "a", Line: 2}, {Path: "b"}}, list)
}
