package growth

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
)

func TestGuidance(t *testing.T) {
	for length, want := range map[int]float64{1: 2, 10: 2, 11: 1.8, 30: 1.6, 31: 1.4, 70: 1.51, 71: 1.3, 5000: 1.3} {
		assert.Equal(t, want, Guidance(length), length)
	}
}

func family(texts map[culture.Tag][]string) *catalog.Family {
	f := &catalog.Family{Name: "f", Source: "en"}
	for tag, list := range texts {
		c := &catalog.Catalog{}
		for i, text := range list {
			c.Entries = append(c.Entries, catalog.Entry{Key: fmt.Sprint("k", i), Message: message.Plain(text)})
		}
		f.Members = append(f.Members, &catalog.Member{Culture: tag, Catalog: c})
	}
	return f
}

func TestMeasure(t *testing.T) {
	var en, de []string
	for i := range 11 { // 10 characters that become 10, 11, ... 20
		en = append(en, strings.Repeat("a", 10))
		de = append(de, strings.Repeat("b", 10+i))
	}
	en, de = append(en, "ab", "copy this", "empty one"), append(de, "much longer", "copy this", "")
	m := Measure([]*catalog.Family{family(map[culture.Tag][]string{"en": en, "de": de, "fi": {"aaaaaaaaaaaaaaa"}})})
	assert.Equal(t, Measured{
		{"de", 11, 1.5, 1.9, 2, "k10"},
		{"fi", 1, 1.5, 1.5, 1.5, "k0"},
	}, m)
	long := strings.Repeat("x", 80)
	assert.Equal(t, 1.9, m.Of("de", long), "the culture's own")
	assert.Equal(t, 1.3, m.Of("fi", long), "too few to say")
	assert.Equal(t, 2.0, m.Of("de", "Back"), "the guidance is greater")
}
