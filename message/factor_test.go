package message_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// A text is split where each count has a stretch of its own, and only there.
func TestFactor(t *testing.T) {
	for text, want := range map[string]string{
		"{a, plural, one {# boat} other {# boats}} with {b, plural, one {# crate} other {# crates}}":  "[0] with [1]",
		"On {a, plural, one {# deck} other {# decks}}: {b, plural, one {a crate} other {# crates}}.":  "On [0] [1]",
		"{a, plural, one {{b, plural, one {both} other {x}}} other {{b, plural, one {y} other {z}}}}": "",
		"{a, plural, one {# boat} other {# boats}}":                                                   "",
	} {
		m := parse(t, text)
		f, ok := m.Choice.Factor()
		assert.Equal(t, want != "", ok, text)
		shown := ""
		for _, part := range f.Parts {
			if part.Selector >= 0 {
				shown += map[int]string{0: "[0]", 1: "[1]"}[part.Selector]
			} else {
				shown += part.Pattern.String()
			}
		}
		assert.Equal(t, want, shown, text)
		for i := range f.Forms {
			assert.Len(t, f.Forms[i], 2, text)
		}
	}
}
