package verify_test

import (
	"cmp"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/files"
	"zelvik/project"
	"zelvik/verify"
	"zelvik/work/check"
)

var update = flag.Bool("update", false, "write what the rules find into their archives")

// Each archive in testdata/rules is a project; its comment lists what verify
// finds in it, a line each: rule, place, severity, message and fix. Everything else
// in the project shows the rules not firing. -update writes the lines anew.
func TestRules(t *testing.T) {
	archives, err := filepath.Glob("testdata/rules/*.txtar")
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, path := range archives {
		t.Run(filepath.Base(path), func(t *testing.T) {
			archive, err := txtar.ParseFile(path)
			require.NoError(t, err)
			dir := t.TempDir()
			for _, file := range archive.Files {
				at := filepath.Join(dir, filepath.FromSlash(file.Name))
				require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
				require.NoError(t, os.WriteFile(at, file.Data, 0o644))
			}
			w, err := project.Load([]string{"."}, "", project.Options{Disk: &files.Disk{Dir: dir}})
			require.NoError(t, err)
			var found strings.Builder
			for _, f := range check.Run(w, nil).Findings {
				fmt.Fprintf(&found, "%s %s %s: %s -> %s\n", f.Rule, f.Place(), f.Severity, f.Message, f.Fix)
				seen[f.Rule] = true
				assert.NotEmpty(t, f.Fix, f.Rule)
			}
			if *update {
				archive.Comment = []byte(cmp.Or(found.String(), "nothing\n"))
				require.NoError(t, os.WriteFile(path, txtar.Format(archive), 0o644))
			}
			assert.Equal(t, string(archive.Comment), cmp.Or(found.String(), "nothing\n"))
		})
	}
	for _, rule := range verify.Rules {
		if rule.Family != nil || rule.Catalog != nil || rule.Pair != nil {
			assert.True(t, seen[rule.Name], "no archive shows %s firing", rule.Name)
		}
		for _, text := range []string{rule.Doc, rule.Why, rule.Example, rule.Fix} {
			assert.NotEmpty(t, text, rule.Name)
		}
	}
}
