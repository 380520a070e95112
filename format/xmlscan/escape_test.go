package xmlscan

import (
	"math/rand"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestEscape(t *testing.T) {
	for _, row := range []struct{ text, element, attribute string }{
		{"", "", ""},
		{"plain", "plain", "plain"},
		{"twelve plain", "twelve plain", "twelve plain"},
		{"Bed & <b>", "Bed &amp; &lt;b&gt;", "Bed &amp; &lt;b&gt;"},
		{"she said \"go\"", "she said \"go\"", "she said &quot;go&quot;"},
		{"two\r\nlines\tand", "two&#13;\nlines\tand", "two&#13;&#10;lines&#9;and"},
		{"seven>x", "seven&gt;x", "seven&gt;x"},
		{"héllo", "héllo", "héllo"},
	} {
		assert.Equal(t, row.element, EscapeText(row.text), row.text)
		assert.Equal(t, row.attribute, EscapeAttribute(row.text), row.text)
	}
}

// TestPlain compares looking at eight bytes together with looking at each.
func TestPlain(t *testing.T) {
	signs := []string{"&", "<", ">", "\x00", "\t", "\x1f", "\x7f", "é", "\uFFFD", "\uFFFE", "\u2028", "=", "?", "%", "'", "\xef"}
	r := rand.New(rand.NewSource(1))
	for range 20000 {
		text := strings.Repeat("x", r.Intn(20))
		if r.Intn(2) == 0 {
			text += signs[r.Intn(len(signs))]
		}
		text += strings.Repeat("y", r.Intn(20))
		want := !strings.ContainsFunc(text, func(c rune) bool { return c < 0x20 || c == '&' || c == '<' || c == '>' }) && strings.IndexByte(text, 0xEF) < 0
		assert.Equal(t, want, plain(text), "%q", text)
	}
}

func TestLegal(t *testing.T) {
	for text, want := range map[string]bool{"": true, "tab\tand\r\n": true, "\x00": false, "a long text with \x1b in it": false, "\uFFFD": true, "\uFFFE": false, "x\uFFFF": false, "é and 日本": true} {
		assert.Equal(t, want, Legal(text), "%q", text)
	}
}
