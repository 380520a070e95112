package glossary

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
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

func TestBroken(t *testing.T) {
	terms := []Term{{"en": {"pier"}, "de": {"Anleger"}, "fi": {"laituri"}}, {"en": {"car deck"}, "de": {"Autodeck"}, "fi": {"autokansi"}}}
	for _, test := range []struct {
		source, translation string
		to                  culture.Tag
		broken              bool
	}{
		{"Go to the pier", "Zum Anleger", "de", false},
		{"Go to the pier", "Zum Steg", "de", true},
		{"Go to the pier", "Zum Steg", "de-CH", true},
		{"Go to the pier", "Au ponton", "fr", false},
		{"The PIERS", "Fähranlegers", "de", false},
		{"Happier", "Froher", "de", false},
		{"At the pier", "Laiturilta", "fi", false},
		{"The car decks", "Autokannella", "fi", false},
		{"The car decks", "Kannella", "fi", true},
	} {
		_, _, broken := Broken(terms, "en", test.source, test.to, test.translation)
		assert.Equal(t, test.broken, broken, "%s: %s", test.source, test.translation)
	}
}
