package xliff

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Inline codes are the placeholders and tags that they stand for, and those of a
// translation are what the source's codes with their IDs are.
func TestInlineCodes(t *testing.T) {
	const (
		first  = `<xliff version="1.2"><file original="a" source-language="en" target-language="de"><body><trans-unit id="k">%s</trans-unit></body></file></xliff>`
		second = `<xliff version="2.1" srcLang="en" trgLang="de"><file id="f"><unit id="k"><originalData><data id="d1">&lt;em class="x"></data><data id="d2">&lt;/em></data><data id="d3">%%1$s</data></originalData><segment>%s</segment></unit></file></xliff>`
	)
	for _, c := range []struct{ file, unit, source, target string }{
		{first, `<source>Hi <x id="I" equiv-text="{{name}}"/></source><target>Hallo <x id="I"/></target>`, "Hi {name}", "Hallo {name}"},
		{first, `<source><x id="S" equiv-text="&lt;b&gt;"/>a<x id="E" equiv-text="&lt;/b&gt;"/></source><target>b<x id="S"/>c<x id="E"/></target>`, "<b>a</b>", "b<b>c</b>"},
		{first, `<source><g id="1" ctype="bold">a <g id="2">b</g></g></source><target><g id="1">c</g></target>`, "<b>a <g>b</g></b>", "<b>c</b>"},
		{first, `<source><g id="1" ctype="x-i">a</g> <ph id="2">%d</ph></source><target><ph id="2">%d</ph></target>`, "<i>a</i> %d", "%d"},
		{second, `<source><pc id="1" dataRefStart="d1" dataRefEnd="d2">a</pc></source><target><pc id="1">b</pc></target>`, `<em class="x">a</em>`, `<em class="x">b</em>`},
		{second, `<source><ph id="1" dataRef="d3"/></source><target>x <ph id="1" dataRef="d3"/></target>`, "%1$s", "x %1$s"},
		{second, `<source><ph id="1" equiv="NAME" disp="{{name}}"/>, <ph id="2" equiv="TIME"/></source><target><ph id="2"/>, <ph id="1"/></target>`, "{name}, {TIME}", "{TIME}, {name}"},
	} {
		document, findings := Format.Parse(fmt.Appendf(nil, c.file, c.unit))
		require.Empty(t, findings, c.unit)
		catalogs := document.Catalogs()
		assert.Equal(t, c.source, catalogs[0].Entries[0].Message.String(), c.unit)
		assert.Equal(t, c.target, catalogs[1].Entries[0].Message.String(), c.unit)
	}
}

// Ids are those of one <file>.
func TestSameIDInSeveralFiles(t *testing.T) {
	document, findings := Format.Parse([]byte(`<xliff version="2.0" srcLang="en"><file id="f1"><unit id="1"><segment><source>One</source></segment></unit></file>
<file id="f2"><unit id="1"><notes><note>No comment provided by engineer.</note></notes><segment><source>Two</source></segment></unit></file></xliff>`))
	require.Empty(t, findings)
	entries := document.Catalogs()[0].Entries
	require.Len(t, entries, 2)
	assert.Equal(t, []string{"1", "f2#1"}, []string{entries[0].Key, entries[1].Key})
	assert.Empty(t, entries[1].Note)
}
