package text

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestSet(t *testing.T) {
	s := NewSetter(nil)
	style := Style{Size: 16}
	one := s.Set("Boarding pass", style, 0)
	assert.Len(t, one.Lines, 1)
	assert.InDelta(t, 105, one.Width, 8)
	assert.Equal(t, 22.0, one.Height)
	wrapped := s.Set("Boarding pass", style, one.Width-1)
	assert.Len(t, wrapped.Lines, 2)
	assert.Equal(t, "Boarding", wrapped.Lines[0].Text)
	assert.Equal(t, wrapped.Lines[0].Width, wrapped.Word)
	assert.Len(t, s.Set("a\nb", style, 0).Lines, 2)
	assert.Equal(t, 2*one.Width, s.Set("Boarding pass", Style{Size: 32}, 0).Width, "sizes scale exactly")
	assert.Greater(t, s.Set("Boarding pass", Style{Size: 16, Bold: true}, 0).Width, one.Width)
}

// Arabic letters are joined: a word is narrower than its letters alone.
func TestArabicJoins(t *testing.T) {
	s := NewSetter(nil)
	style := Style{Size: 20, RightToLeft: true, Language: "ar"}
	word := s.Set("بطاقة", style, 0)
	alone := 0.0
	for _, r := range "بطاقة" {
		alone += s.Set(string(r), style, 0).Width
	}
	assert.Less(t, word.Width, alone-5)
	assert.Empty(t, word.Missing)
}

func TestMissing(t *testing.T) {
	p := NewSetter(nil).Set("乗船券", Style{Size: 10}, 0)
	assert.Equal(t, []rune("乗船券"), p.Missing)
	assert.Equal(t, 30.0, p.Width)
}

func TestMixedOrder(t *testing.T) {
	p := NewSetter(nil).Set("קוד SK", Style{Size: 10, RightToLeft: true}, 0)
	glyphs := p.Lines[0].Glyphs
	assert.Equal(t, "NotoSans", glyphs[0].Font.Name, "the Latin letters stand at the left end")
	assert.Equal(t, "NotoSansHebrew", glyphs[len(glyphs)-1].Font.Name)
}

// Fonts of the system are asked last, for what no other font has.
func TestSystemFonts(t *testing.T) {
	fonts := &Fonts{System: true}
	s := NewSetter(fonts)
	p := s.Set("Pier 海", Style{Size: 20}, 0)
	if len(p.Missing) > 0 {
		t.Skip("no font of this system has Chinese characters")
	}
	glyphs := p.Lines[0].Glyphs
	assert.Equal(t, "NotoSans", glyphs[0].Font.Name)
	assert.NotEqual(t, "NotoSans", glyphs[len(glyphs)-1].Font.Name)
	assert.InDelta(t, 20, glyphs[len(glyphs)-1].Width, 1, "an ideograph is one em wide")
	again := NewSetter(fonts).Set("Pier 海", Style{Size: 20}, 0)
	assert.Equal(t, p.Width, again.Width)
	assert.Equal(t, []rune{'\U000F0000'}, s.Set("\U000F0000", Style{Size: 20}, 0).Missing)
}

// The ellipsis stands where reading goes on: at the right end of a line from
// left to right, at the left end of one from right to left.
func TestCut(t *testing.T) {
	s := NewSetter(nil)
	left := s.Cut("Boarding pass of a passenger", Style{Size: 16}, 100, 1)
	assert.Len(t, left.Lines, 1)
	assert.LessOrEqual(t, left.Width, 100.0)
	assert.Equal(t, "Boarding p…", left.Lines[0].Text)
	right := s.Cut("בטרם העלייה לסיפון הספינה", Style{Size: 16, RightToLeft: true}, 100, 1)
	glyphs := right.Lines[0].Glyphs
	dots := s.Set("…", Style{Size: 16, RightToLeft: true}, 0).Lines[0].Glyphs[0]
	assert.Equal(t, dots.ID, glyphs[0].ID, "the ellipsis is the leftmost glyph")
	two := s.Cut("one two three four five six seven", Style{Size: 16}, 90, 2)
	assert.Len(t, two.Lines, 2)
	assert.True(t, strings.HasSuffix(two.Lines[1].Text, "…"))
	whole := s.Cut("short", Style{Size: 16}, 90, 1)
	assert.Equal(t, "short", whole.Lines[0].Text)
}
