package memory

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
	"zelvik/message/icu"
)

func entry(t require.TestingT, key, text string) catalog.Entry {
	m, faults := icu.Parse(text)
	require.Empty(t, faults)
	m.Complete(nil)
	return catalog.Entry{Key: key, Message: m}
}

// remembered is a memory of texts and their translations.
func remembered(t require.TestingT, tag culture.Tag, pairs ...[3]string) *Memory {
	source, target := &catalog.Catalog{}, &catalog.Catalog{}
	for _, p := range pairs {
		source.Add(entry(t, p[0], p[1]))
		target.Add(entry(t, p[0], p[2]))
	}
	m := &Memory{}
	m.Add(source, target, tag, "older")
	return m
}

func TestFind(t *testing.T) {
	known := remembered(t, "de",
		[3]string{"a", "Sailings", "Abfahrten"},
		[3]string{"b", "Sailings", "Fahrten"},
		[3]string{"c", "Go to pier {pier} on deck 2", "Gehen Sie zu Anleger {pier} auf Deck 2"},
		[3]string{"d", "{from} to {to}", "Von {from} nach {to}"},
		[3]string{"e", "{n, plural, one {# crate} other {# crates}}", "{n, plural, one {# Kiste} other {# Kisten}}"},
		[3]string{"f", "Show it <b>on board</b> now", "Zeigen Sie es jetzt <b>an Bord</b>"},
	)
	for name, c := range map[string]struct {
		key, text string
		percent   int
		want      string
	}{
		"exactly, with the key":       {"b", "Sailings", 100, "Fahrten"},
		"exactly, another key":        {"z", "Sailings", 100, "Abfahrten"},
		"a placeholder of other name": {"z", "Go to pier {gate} on deck 2", 100, "Gehen Sie zu Anleger {gate} auf Deck 2"},
		"another number":              {"z", "Go to pier {gate} on deck 3", 0, "Gehen Sie zu Anleger {gate} auf Deck 3"},
		"a word more":                 {"z", "Go to pier {gate} on deck 2 now", 87, "Gehen Sie zu Anleger {gate} auf Deck 2"},
		"two placeholders":            {"z", "{here} to {there}", 100, "Von {here} nach {there}"},
		"a plural":                    {"z", "{count, plural, one {# crate} other {# crates}}", 100, "{count, plural, one {# Kiste} other {# Kisten}}"},
		"markup":                      {"z", "Show it <b>on board</b> now", 100, "Zeigen Sie es jetzt <b>an Bord</b>"},
		"without a placeholder":       {"z", "Go to pier on deck 2", 0, ""},
		"another word":                {"z", "Departures", 0, ""},
		"half of it":                  {"z", "Go to bed", 0, ""},
		"a text for a plural":         {"z", "{n, plural, one {Sailings} other {Sailings}}", 0, ""},
		"empty":                       {"z", "", 0, ""},
	} {
		e := entry(t, c.key, c.text)
		found := known.Find(&e, "de", 75)
		if c.want == "" {
			assert.Nil(t, found, name)
			continue
		}
		require.NotNil(t, found, name)
		text, _ := icu.Writer{}.Write(found.Text)
		assert.Equal(t, c.want, text, name)
		if c.percent > 0 {
			assert.Equal(t, c.percent, found.Percent, name)
		} else {
			assert.Less(t, found.Percent, 101, name)
		}
		assert.Equal(t, "older", found.Unit.Origin)
	}
	e := entry(t, "a", "Sailings")
	assert.Nil(t, known.Find(&e, "fr", 75))
	crates := entry(t, "z", "{n, plural, one {# crate} other {# crates}}")
	assert.Nil(t, remembered(t, "pl", [3]string{"e", "{n, plural, one {# crate} other {# crates}}", "{n, plural, one {# Kiste} other {# Kisten}}"}).Find(&crates, "pl", 75), "a form that Polish needs is not there")
}

// What was remembered is found again whole, whatever it is.
func TestWhatIsRememberedIsFound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringMatching(`[a-z{}'<>0-9 äß漢]{1,40}`).Draw(t, "text")
		source := &catalog.Catalog{Entries: []catalog.Entry{{Key: "k", Message: message.Plain(text)}}}
		target := &catalog.Catalog{Entries: []catalog.Entry{{Key: "k", Message: message.Plain("T" + text)}}}
		m := &Memory{}
		m.Add(source, target, "de", "")
		found := m.Find(&source.Entries[0], "de", 100)
		require.NotNil(t, found)
		require.Equal(t, "T"+text, found.Text.String())
	})
}

func BenchmarkFind(b *testing.B) {
	m := &Memory{}
	source, target := &catalog.Catalog{}, &catalog.Catalog{}
	words := []string{"sailing", "deck", "pier", "boarding", "ferry", "island", "crate", "weather", "delay", "ticket", "north", "south"}
	text := func(i int) string {
		out := ""
		for j := range 8 {
			out += words[(i*(j+3)+j*j+i/(j+1))%len(words)] + " "
		}
		return out
	}
	for i := range 20000 {
		e := catalog.Entry{Key: text(i), Message: message.Plain(text(i))}
		source.Add(e)
		target.Add(e)
	}
	m.Add(source, target, "de", "")
	for i := 0; b.Loop(); i++ {
		e := catalog.Entry{Key: "x", Message: message.Plain(text(i%20000) + "now")}
		m.Find(&e, "de", 75)
	}
}
