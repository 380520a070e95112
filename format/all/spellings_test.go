package all

import (
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/message"
)

// Odd spellings of markup: attributes on lines of their own, single quotes,
// blanks before a bracket, comments and sections that look like markup.
var spellings = map[string]string{
	"android": `<?xml version='1.0'?>
<!-- <resources> <string name="a">no</string> -->
<resources
    >
  <string
      name = 'a'
      >Hello</string
  >
  <!-- of b, with </resources> in it --><string name="b"><![CDATA[<b>]]> text</string >
  <?odd <string name="c"> ?>
</resources >
<!-- </resources> the end -->
`,
	"resx": `<root><!-- <data name="a"> -->
  <data
     xml:space='preserve' name = 'a'
     ><value
     >Hello</value
     ><comment >of a</comment ></data >
  <data name="b" ><value><![CDATA[</data>]]></value ></data>
</root ><!-- </root> -->
`,
	"xliff": `<xliff version='1.2'
   ><file source-language="en" target-language='de' original="x" datatype="plaintext"><body>
<!-- <trans-unit id="a"><source>no</source></trans-unit> -->
<trans-unit
   resname = 'a' id='1'
   ><source >Hello</source ><target
      state = 'translated'
      xml:space='preserve'
      >Hallo</target ><note >of a</note ></trans-unit >
<trans-unit id="2" resname="b"><source>Two</source><target state='new'>Zwei</target></trans-unit>
</body ></file ></xliff >
`,
	"xliff2": `<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version='2.0' srcLang="en" trgLang="de"><file id="f">
<unit id='u1' name = "a"
  ><notes ><note >of a</note ></notes ><segment
    state = 'translated'
    ><source >Hello</source ><target >Hallo</target ></segment ></unit >
<unit id="u2" name="b"><notes><note>of b</note></notes><segment><source>Two</source><target>Zwei</target></segment></unit>
</file ></xliff >
`,
	"qt": `<!DOCTYPE TS>
<TS version="2.1" language="de" sourcelanguage='en'
  ><context><name>c</name>
<message id = 'a'
  ><source >Hello</source ><extracomment >of a</extracomment ><translation
    type = 'unfinished'
    >Hallo</translation ></message >
<!-- <message id="x"> --><message id="b"><source>Two</source><translation>Zwei</translation></message>
</context></TS ><!-- </TS> -->
`,
	"tmx": `<tmx version='1.4'><header srclang="en" adminlang='en'
 /><body ><!-- <tu tuid="a"> -->
<tu
  tuid = 'a'
  ><note >of a</note ><tuv xml:lang='en' ><seg >Hello</seg ></tuv ><tuv
   xml:lang = "de"><seg >Hallo</seg ></tuv ></tu >
<tu tuid="b"><tuv xml:lang="en"><seg>Two</seg></tuv><tuv xml:lang="de"><seg>Zwei</seg></tuv></tu>
</body ></tmx >
`,
	"stringsdict": `<plist version='1.0'
><dict ><!-- <key>a</key> --><key
>a</key ><dict ><key >NSStringLocalizedFormatKey</key ><string >%#@n@</string ><key>n</key><dict><key>NSStringFormatSpecTypeKey</key><string>NSStringPluralRuleType</string><key>NSStringFormatValueTypeKey</key><string>d</string><key>one</key><string >one</string ><key>other</key><string>%d</string></dict></dict ></dict ></plist >
`,
}

// wellFormed reads a file by another parser.
func wellFormed(data []byte) error {
	decoder := xml.NewDecoder(strings.NewReader(string(data)))
	for {
		if _, err := decoder.Token(); errors.Is(err, io.EOF) {
			return nil
		} else if err != nil {
			return err
		}
	}
}

// Each of text, note, state, rename, add and remove works on odd spellings, and
// what comes of it is read by a second parser, with all else as it was.
func TestOddSpellingsOfMarkup(t *testing.T) {
	text, source, empty, note := message.Plain("Neu & <neu>"), message.Plain("New"), "", "a note & <more>"
	for name, file := range spellings {
		f, err := Named(name)
		require.NoError(t, err)
		for _, newline := range []string{"\n", "\r\n"} {
			data := []byte(strings.ReplaceAll(file, "\n", newline))
			require.NoError(t, wellFormed(data), name)
			document, faults := f.Parse(data)
			require.Empty(t, faults, name)
			list := document.Catalogs()
			tag := list[len(list)-1].Culture
			tried := 0
			for what, change := range map[string]format.Change{
				"text": {Culture: tag, Key: "a", Message: &text, Source: &source}, "note": {Culture: tag, Key: "a", Note: &note}, "no note": {Culture: tag, Key: "a", Note: &empty},
				"done": {Culture: tag, Key: "a", State: state(catalog.Done)}, "draft": {Culture: tag, Key: "a", State: state(catalog.Draft)}, "missing": {Culture: tag, Key: "a", State: state(catalog.Missing)},
				"rename": {Op: format.Rename, Culture: tag, Key: "a", NewKey: "fresh"}, "add after": {Culture: tag, Key: "fresh", Message: &text, Source: &source, After: "a"},
				"add last": {Culture: tag, Key: "fresh", Message: &text, Source: &source, After: "nowhere"}, "add first": {Culture: tag, Key: "fresh", Message: &text, Source: &source}, "remove": {Op: format.Remove, Key: "a"},
			} {
				out, losses, err := document.Edit([]format.Change{change})
				if err != nil {
					continue
				}
				tried++
				assert.NoError(t, wellFormed(out), "%s %s\n%s", name, what, out)
				assert.NoError(t, format.ReadBack(f, document, []format.Change{change}, out, losses), "%s %s\n%s", name, what, out)
				again, faults := f.Parse(out)
				assert.Empty(t, faults, "%s %s\n%s", name, what, out)
				switch what {
				case "note", "no note":
					if len(losses) == 0 {
						var notes []string // a bilingual file has one for the source and one for the translation
						for _, c := range again.Catalogs() {
							if e := c.Find("a"); e != nil {
								notes = append(notes, e.Note)
							}
						}
						assert.Contains(t, notes, *change.Note, "%s %s\n%s", name, what, out)
					}
				case "done", "draft", "missing":
					last := again.Catalogs()[len(again.Catalogs())-1].Find("a")
					if f.Holds.States && len(losses) == 0 && assert.NotNil(t, last) && what != "missing" {
						assert.Equal(t, *change.State, last.State, "%s %s\n%s", name, what, out)
					}
				}
			}
			assert.GreaterOrEqual(t, tried, 8, name)
		}
	}
}

func state(s catalog.State) *catalog.State { return &s }
