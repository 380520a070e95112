package text

import (
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
