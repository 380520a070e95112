package all

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/formattest"
	"zelvik/message"
)

var (
	families = flag.Int("families", 1, "how many random families TestMeaning makes")
	first    = flag.Int("first", 0, "the number of the first of them")
	// CI runs all of what takes long; without it a part is run that shows most faults.
	runAll = flag.Bool("all", false, "try large files in every format")
)

// wellFormedOutside reads a file by a parser that is not ours.
func wellFormedOutside(f *format.Format, data []byte) error {
	trimmed := bytes.TrimSpace(data)
	switch {
	case bytes.HasPrefix(trimmed, []byte("<")) && f.Name != "properties" && f.Name != "winrc" && f.Name != "sheet":
		return formattest.WellFormed(data)
	case (f.Name == "json" || f.Name == "arb" || f.Name == "xcstrings") && !json.Valid(data):
		return fmt.Errorf("no JSON")
	}
	return nil
}

// Random families into every format and back: every file is well-formed, what
// differs is reported, and what is reported differs.
func TestMeaning(t *testing.T) {
	read := func(name, text string) message.Message {
		f, err := Named(name)
		require.NoError(t, err)
		m, _ := f.Message(text)
		return m
	}
	styles, err := formattest.Styles("testdata/styles.txtar")
	require.NoError(t, err)
	for n := range *families {
		seed := *first + n
		for _, a := range Formats {
			if a.Name == "mo" || a.Name == "stringsdict" || a.Name == "xliff2" {
				continue
			}
			for _, b := range Formats {
				if b == a || b.Name == "mo" || b.Name == "stringsdict" {
					continue
				}
				t.Run(fmt.Sprintf("%d %s to %s", seed, a.Name, b.Name), func(t *testing.T) {
					make := func() []*catalog.Catalog {
						list, _ := through(t, a, formattest.Family(seed, slices.Index(Formats, a), 40, styles, read))
						return list
					}
					start := make()
					there, losses := through(t, b, make())
					back, more := through(t, a, there)
					known, _ := told(append(losses, more...))
					for place, difference := range differences(start, back) {
						tag, key, _ := strings.Cut(place, " ")
						if !known[place] && !known[" "+key] && !known[tag+" "] && !known[" "] {
							t.Errorf("UNTOLD %s\n    %s", place, difference)
						}
					}
					again := make()
					now := differences(again, there)
					for _, l := range losses {
						if l.Key == "" || l.Kind == "" || l.Kind == "layout" || l.Kind == "key" { // of a key, the platform's name changed

							continue
						}
						changed := now[string(l.Culture)+" "+l.Key] != ""
						for _, c := range again {
							changed = changed || now[string(c.Culture)+" "+l.Key] != ""
						}
						if !changed {
							t.Errorf("NOTHING CHANGED %s %s: %s %s: %s\n    %s", l.Culture, l.Key, l.Kind, l.Lost, l.Instead, said(again[0].Find(l.Key)))
						}
					}
				})
			}
		}
	}
}
