package formattest

import (
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/message"
)

// WellFormed reads a file by another parser.
func WellFormed(data []byte) error {
	decoder := xml.NewDecoder(strings.NewReader(string(data)))
	for {
		if _, err := decoder.Token(); errors.Is(err, io.EOF) {
			return nil
		} else if err != nil {
			return err
		}
	}
}

// spellings tries each of text, note, state, rename, add and remove on odd spellings, and
// what comes of it is read by a second parser, with all else as it was.
func spellings(t *testing.T, f *format.Format, archive *txtar.Archive) {
	text, source, empty, note := message.Plain("Neu & <neu>"), message.Plain("New"), "", "a note & <more>"
	for _, file := range archive.Files {
		name, spelled := strings.CutPrefix(file.Name, "spelling/")
		if !spelled {
			continue
		}
		for _, newline := range []string{"\n", "\r\n"} {
			data := []byte(strings.ReplaceAll(string(file.Data), "\n", newline))
			require.NoError(t, WellFormed(data), name)
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
				assert.NoError(t, WellFormed(out), "%s %s\n%s", name, what, out)
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
