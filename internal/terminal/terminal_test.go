package terminal

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/pmezard/go-difflib/difflib"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/internal/diff"
)

// The difference is the one that comparing all lines gives.
func TestDiff(t *testing.T) {
	var lines []string
	for i := range 60 {
		lines = append(lines, fmt.Sprintf("line %d\n", i%40))
	}
	for name, change := range map[string]func([]string) []string{
		"first":   func(l []string) []string { return append([]string{"new\n"}, l...) },
		"last":    func(l []string) []string { return append(l, "new\n") },
		"middle":  func(l []string) []string { l[30] = "new\n"; return l },
		"removed": func(l []string) []string { return append(l[:20], l[23:]...) },
		"two":     func(l []string) []string { l[10], l[50] = "new\n", "newer\n"; return l },
		"near":    func(l []string) []string { l[1] = "new\n"; return l },
	} {
		before := strings.Join(lines, "")
		after := strings.Join(change(append([]string(nil), lines...)), "")
		want, err := difflib.GetUnifiedDiffString(difflib.UnifiedDiff{
			A: diff.Split([]byte(before)), B: diff.Split([]byte(after)), FromFile: "a/x", ToFile: "b/x", Context: 3})
		require.NoError(t, err)
		var out bytes.Buffer
		New(&out, "never").Diff("x", []byte(before), []byte(after))
		assert.Equal(t, strings.TrimSpace(want), strings.TrimSpace(out.String()), name)
	}
}

func TestWidths(t *testing.T) {
	for _, row := range []struct {
		text  string
		width int
		want  string
	}{
		{"Boarding", 20, "Boarding"}, {"Boarding pass", 8, "Boardin…"}, {"乗船券です", 5, "乗船…"}, {"e\u0301e\u0301e\u0301", 3, "e\u0301e\u0301e\u0301"}, {"x", 0, "x"},
	} {
		cut := Cut(row.text, row.width)
		assert.Equal(t, row.want, cut)
		if row.width > 0 {
			assert.LessOrEqual(t, Width(cut), row.width)
		}
	}
	assert.Equal(t, "a⏎b⇥c", Visible("a\r\nb\tc"))
}

func TestTableAligns(t *testing.T) {
	var out bytes.Buffer
	New(&out, "never").Table([]string{"key", "n"}, [][]string{{"乗船", "1"}, {"abcdef", "22"}}, 1)
	assert.Equal(t, "key      n\n乗船     1\nabcdef  22\n", out.String())
	out.Reset()
	New(&out, "always").Printf("%s", New(&out, "always").Bad("x"))
	assert.Contains(t, out.String(), "\x1b[")
}

func TestWrapped(t *testing.T) {
	p := &Printer{Width: 30}
	assert.Equal(t, "  one two three four five six\n  seven", p.Wrapped(2, "one two three four five six seven"))
	assert.Equal(t, "  a_word_that_is_longer_than_the_width\n  is whole", p.Wrapped(2, "a_word_that_is_longer_than_the_width is whole"))
	assert.Equal(t, "  日本語 日本語 日本語 日本語\n  日本語", p.Wrapped(2, "日本語 日本語 日本語 日本語 日本語"))
	p.Width = 0
	assert.Equal(t, "  one two", p.Wrapped(2, "one two"))
}

// What comes from files cannot steer a terminal, whoever prints it; our own
// colours can.
func TestControlCharactersAreShown(t *testing.T) {
	nasty := "a\x1b[31mred\x1b[0m\x9b2J\u009b2J\u202egnp\u202c\u2028\x07\x7f\r\u200f\x00z"
	shown := `a\u001b[31mred\u001b[0m` + "\uFFFD2J" + `\u009b2J\u202egnp\u202c\u2028\u0007\u007f\u000d\u200f\u0000z`
	var out bytes.Buffer
	p := New(&out, "always")
	p.Printf("%s\t%s\n", p.Bad("x"), nasty)
	assert.Equal(t, "\x1b[91mx\x1b[0m\t"+shown+"\n", out.String())
	out.Reset()
	p.Table([]string{nasty}, [][]string{{nasty}, {p.Good("日本")}})
	p.Diff(nasty, []byte(nasty+"\n"), []byte("b\n"))
	assert.NotContains(t, strings.ReplaceAll(strings.ReplaceAll(out.String(), "\x1b[9", ""), "\x1b[0m", ""), "\x1b[31m")
	for _, bad := range []string{"\x9b", "\u202e", "\u2028", "\x07", "\x7f", "\r", "\x00"} {
		assert.NotContains(t, strings.ReplaceAll(out.String(), "\u009b", ""), bad)
	}
	assert.Equal(t, strings.ReplaceAll(shown, `\uFFFD`, "\uFFFD"), Visible(nasty))
	assert.Equal(t, `{"a":"\u009b\u202e\u007fé日"}`, string(EscapeJSON([]byte("{\"a\":\"\u009b\u202e\x7fé日\"}"))))
}
