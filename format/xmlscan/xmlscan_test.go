package xmlscan

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// walk lists the tokens of a document and its faults.
func walk(src string) (tokens, faults []string) {
	s := New(src)
	for s.Next() {
		text := src[s.From:s.To]
		switch s.Kind {
		case Start:
			for _, a := range s.Attributes {
				text += fmt.Sprintf("|%s=%s", a.Name, s.Unescape(a.ValueFrom, a.ValueTo))
			}
		case Text:
			text = s.Unescape(s.From, s.To)
		}
		tokens = append(tokens, text)
	}
	for _, f := range s.Faults {
		faults = append(faults, fmt.Sprintf("%d %s", f.Offset, f.Text))
	}
	return tokens, faults
}

func TestTokens(t *testing.T) {
	for src, want := range map[string]string{
		`<a b="1" c = 'x>y'>t</a>`:                           `<a b="1" c = 'x>y'>|b=1|c=x>y · t · </a>`,
		`<a/><!-- <b> --><?pi x?><![CDATA[<c>]]>`:            `<a/> · <!-- <b> --> · <?pi x?> · <![CDATA[<c>]]>`,
		`<a>&lt;&#65;&#x1F600;&amp;&quot;&apos;</a>`:         `<a> · <A😀&"' · </a>`,
		`<!DOCTYPE a [<!ENTITY e "v"><!-- > -->]><a>&e;</a>`: `<!DOCTYPE a [<!ENTITY e "v"><!-- > -->]> · <a> · v · </a>`,
	} {
		tokens, faults := walk(src)
		assert.Equal(t, want, strings.Join(tokens, " · "))
		assert.Empty(t, faults, src)
	}
}

func TestFaults(t *testing.T) {
	for src, want := range map[string]string{
		"<a><b></a>":     "3 <b> is not closed before </a>",
		"<a>":            "0 <a> is not closed",
		"</a>":           "0 </a> closes nothing",
		"<a b></a>":      "3 the attribute b has no value",
		"<a b=1></a>":    "3 the value of b has no quotes",
		`<a b="1></a>`:   "5 the value of b has no closing quote",
		"<a <b/></a>":    "0 the tag <a is not closed",
		"<a>x < y</a>":   "5 a bare < in text",
		"<a>x & y</a>":   "5 an & that begins no entity",
		"<a>&nbsp;</a>":  "3 the entity &nbsp; is not known to XML",
		"<a>&#0;</a>":    "3 the entity &#0; is not known to XML",
		"<!-- x":         "0 a comment that is not closed",
		"<![CDATA[ x":    "0 a CDATA section that is not closed",
		`<a b="" b=""/>`: "8 the attribute b stands twice",
		"<a></a x>":      "3 the end tag </a is not closed",
	} {
		_, faults := walk(src)
		if assert.NotEmpty(t, faults, src) {
			assert.Equal(t, want, faults[0], src)
		}
	}
}

// Entities declared in a document are not expanded inside one another, and
// nesting is bounded.
func TestBombs(t *testing.T) {
	tokens, _ := walk(`<!DOCTYPE a [<!ENTITY x "ha"><!ENTITY y "&x;&x;&x;">]><a>&y;</a>`)
	assert.Equal(t, "&x;&x;&x;", tokens[2])
	_, faults := walk(strings.Repeat("<a>", 10000))
	assert.Contains(t, strings.Join(faults, "\n"), "nested more than 256 deep")
}

func TestEscapes(t *testing.T) {
	for _, text := range []string{"plain", `a < b & "c" > 'd'`, "line\r\nend\ttab"} {
		tokens, faults := walk(`<a b="` + EscapeAttribute(text) + `">` + EscapeText(text) + "</a>")
		assert.Empty(t, faults)
		assert.Equal(t, text, tokens[1])
		assert.True(t, strings.HasSuffix(tokens[0], "|b="+text), tokens[0])
	}
	assert.False(t, Legal("a\x01"))
	assert.True(t, Legal("a\t\n😀"))
}
