package glossary

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
)

func TestRead(t *testing.T) {
	for name, test := range map[string]struct {
		data  string
		terms []Term
		err   string
	}{
		"table":        {"en,de,note\npier, Anleger | Steg,of ferries\nempty,,\n", []Term{{"en": {"pier"}, "de": {"Anleger", "Steg"}}}, ""},
		"semicolons":   {"\ufeffen;pt_BR\npier;\"píer;cais\"\n", []Term{{"en": {"pier"}, "pt-BR": {"píer;cais"}}}, ""},
		"one culture":  {"en,note\npier,x\n", nil, "line 1: the first row has to name two cultures or more: en,de,fr"},
		"nothing":      {"", nil, "line 1: the file is empty; its first row names cultures: en,de,fr"},
		"bad quote":    {"en,de\n\"pier,Anleger\n", nil, `line 2: extraneous or missing " in quoted-field`},
		"TBX 2":        {`<martif><text><body><termEntry><langSet xml:lang="en"><tig><term>pier</term></tig></langSet><langSet xml:lang="de"><ntig><termGrp><term>Anleger</term></termGrp></ntig></langSet></termEntry></body></text></martif>`, []Term{{"en": {"pier"}, "de": {"Anleger"}}}, ""},
		"TBX culture":  {"<tbx>\n<langSec xml:lang=\"jp\"/></tbx>", nil, `line 2: "jp" is no culture; ja (Japanese) was probably meant`},
		"TBX unclosed": {"<tbx>\n<a></tbx>", nil, "line 2: the file is no good TBX: XML syntax error on line 2: element <a> closed by </tbx>"},
	} {
		terms, err := Read([]byte(test.data))
		if test.err != "" {
			assert.EqualError(t, err, test.err, name)
			continue
		}
		require.NoError(t, err, name)
		assert.Equal(t, test.terms, terms, name)
	}
}

func TestGlossary(t *testing.T) {
	g := &Glossary{Source: "en"}
	g.Include([]Term{{"en": {"pier"}, "de": {"Anleger"}, "fi": {"laituri"}, "ja": {"桟橋"}}, {"en": {"car deck"}, "de": {"Autodeck"}, "fi": {"autokansi"}}})
	var source, target catalog.Catalog
	source.Add(catalog.Entry{Key: "a", Message: message.Plain("Skerry Line")})
	target.Add(catalog.Entry{Key: "a", Message: message.Plain("Skerry Line")})
	g.Add(&source, &target, "de")
	for _, test := range []struct {
		source, translation string
		to                  culture.Tag
		missing             string
	}{
		{"Go to the pier", "Zum Anleger", "de", ""},
		{"Go to the pier", "Zum Steg", "de", "pier"},
		{"Go to the pier", "Zum Steg", "de-CH", "pier"},
		{"Go to the pier", "Au ponton", "fr", ""},
		{"The PIERS of Skerry Line", "Die Fähranleger der Skerry Line", "de", ""},
		{"Pier 2 of Skerry Line", "Anleger 2 der Schärenlinie", "de", "Skerry Line"},
		{"Happier", "Froher", "de", ""},
		{"At the pier", "Laiturilta", "fi", ""},
		{"The car decks", "Autokannella", "fi", ""},
		{"The car decks", "Kannella", "fi", "car deck"},
		{"At the pier", "桟で", "ja", "pier"},
	} {
		var missing []string
		for _, p := range g.Missing(test.source, test.translation, test.to) {
			missing = append(missing, p.Source)
		}
		assert.Equal(t, test.missing, strings.Join(missing, ","), "%s: %s", test.source, test.translation)
	}
	whole, ok := g.Whole(" Pier", "de")
	assert.True(t, ok)
	assert.Equal(t, "Anleger", whole.Target())
	assert.Empty(t, (*Glossary)(nil).In("pier", "de"))
	assert.Empty(t, g.In("pier", "fr"))
}
