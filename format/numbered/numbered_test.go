package numbered

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"zelvik/culture"
	"zelvik/message"
)

func TestMatch(t *testing.T) {
	english := func(n int) int {
		if n == 1 {
			return 0
		}
		return 1
	}
	for _, row := range []struct {
		tag   culture.Tag
		count int
		form  func(int) int
		want  map[string]int
	}{
		{"en", 2, english, map[string]int{"one": 0, "other": 1}},
		{"fr", 2, func(n int) int { return min(n, 2) / 2 }, map[string]int{"one": 0, "other": 1}}, // many, of millions alone, is other's
		{"he", 2, english, map[string]int{"one": 0, "two": 1, "other": 1}},
		{"ja", 1, func(int) int { return 0 }, map[string]int{"other": 0}},
		{"lv", 3, func(n int) int { // one, other, zero
			switch {
			case n%10 == 1 && n%100 != 11:
				return 0
			case n != 0:
				return 1
			}
			return 2
		}, map[string]int{"one": 0, "zero": 1, "other": 1}}, // most numbers of CLDR's zero have the second form
		{"", 2, nil, map[string]int{"one": 0, "other": 1}},
		{"", 3, nil, map[string]int{"one": 0, "few": 1, "other": 2}},
	} {
		assert.Equal(t, row.want, Match(row.tag, row.count, row.form).Index, "%s %d", row.tag, row.count)
	}
}

func TestOwn(t *testing.T) {
	assert.Equal(t, map[string]int{"one": 0, "few": 1, "many": 2, "other": 2}, Own("pl").Index)
	assert.Equal(t, map[string]int{"zero": 0, "one": 1, "two": 2, "few": 3, "many": 4, "other": 5}, Own("ar").Index)
	assert.Equal(t, 2, Own("pt-BR").Count)
}

func TestFill(t *testing.T) {
	m := message.Message{Choice: &message.Choice{Selectors: []message.Selector{{}}}}
	for _, form := range []string{"one", "few", "many", "other"} {
		m.Choice.Variants = append(m.Choice.Variants, message.Variant{Keys: []string{form}, Pattern: message.Pattern{message.Text(form)}})
	}
	spell := func(p message.Pattern) (string, []message.Loss) { return p.String(), nil }
	texts, losses := Own("pl").Fill(m, spell)
	assert.Equal(t, []string{"one", "few", "many"}, texts)
	assert.Len(t, losses, 1, "other is for fractions")
	texts, losses = Own("en").Fill(m, spell)
	assert.Equal(t, []string{"one", "other"}, texts)
	assert.Len(t, losses, 2, "few and many")
	texts, losses = Own("ar").Fill(message.Plain("x"), spell)
	assert.Equal(t, []string{"x", "x", "x", "x", "x", "x"}, texts)
	assert.Empty(t, losses)
}
