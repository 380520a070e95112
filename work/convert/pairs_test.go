package convert

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"zelvik/demo"
	"zelvik/files"
	"zelvik/format/all"
	"zelvik/project"
)

// CI tries all pairs of formats; without it every fifth is tried.
var runAll = flag.Bool("all", false, "try every pair of formats")

// convertTo converts a folder's family into another folder and gives what was
// lost, by culture and key.
func convertTo(t *testing.T, from, named, to, out string) (*project.Family, map[string]bool) {
	t.Helper()
	families, err := project.Families([]string{from}, project.Options{From: named, Source: "en"})
	require.NoError(t, err)
	require.Len(t, families, 1, "%s %s", named, from)
	target, err := all.Named(to)
	require.NoError(t, err)
	conversion, err := Families(families, target, out)
	require.NoError(t, err)
	require.NoError(t, (&files.Session{}).Commit(&conversion.Plan))
	told := map[string]bool{}
	for _, l := range conversion.Losses {
		if l.Kind != LayoutLoss {
			told[string(l.Culture)+" "+l.Key] = true
			told["- "+l.Key] = told["- "+l.Key] || l.Culture == "en"
		}
	}
	again, err := project.Families([]string{out}, project.Options{From: to, Source: "en"})
	require.NoError(t, err)
	require.Len(t, again, 1, "%s %s", to, out)
	return again[0], told
}

// texts returns what a family says, by culture and key, its ledger included.
func texts(t *testing.T, f *project.Family, dir string) map[string]string {
	ledger, err := project.ReadLedger(nil, dir)
	require.NoError(t, err)
	for _, m := range f.Members {
		ledger.Restore(m.Catalog, f.Format)
	}
	f.CompleteAll()
	said := map[string]string{}
	for _, m := range f.Members {
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			text := e.Message.String()
			for _, a := range e.Message.Arguments() {
				text += fmt.Sprintf(" {%s %d %s %s}", a.Name, a.Position, a.Type, a.Style)
			}
			said[string(m.Culture)+" "+e.Key] = text
		}
	}
	return said
}

// The demo's family in every format, converted into every other and back: what
// no loss was reported for is the same, names, types and positions of placeholders
// among it, which the ledger keeps.
func TestDemoThereAndBack(t *testing.T) {
	root := t.TempDir()
	require.NoError(t, os.CopyFS(filepath.Join(root, "demo"), demo.Project()))
	for i, a := range all.Formats {
		if a.Name == "mo" || a.Name == "stringsdict" || a.Name == "xliff2" {
			continue
		}
		dir := filepath.Join(root, "a-"+a.Name)
		start, _ := convertTo(t, filepath.Join(root, "demo/android"), "android", a.Name, dir)
		before := texts(t, start, dir)
		for j, b := range all.Formats {
			if !*runAll && (i+j)%5 != 0 || b == a || b.Name == "mo" || b.Name == "stringsdict" || b.Name == "xliff2" {
				continue
			}
			t.Run(a.Name+" to "+b.Name, func(t *testing.T) {
				there, back := filepath.Join(root, a.Name+"-"+b.Name), filepath.Join(root, a.Name+"-"+b.Name+"-back")
				_, told := convertTo(t, dir, a.Name, b.Name, there)
				family, more := convertTo(t, there, b.Name, a.Name, back)
				after := texts(t, family, back)
				for place, text := range before {
					_, key, _ := strings.Cut(place, " ")
					if after[place] != text && !told[place] && !told["- "+key] && !more[place] && !more["- "+key] {
						t.Errorf("%s: %s\nbecame %s", place, text, after[place])
					}
				}
			})
		}
	}
}
