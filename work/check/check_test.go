package check

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
			dir, contents := t.TempDir(), map[string]string{}
			for _, file := range archive.Files {
				contents[file.Name] = string(file.Data)
			}
			place(t, dir, contents)
			w, err := project.Load([]string{"."}, "", project.Options{Disk: &files.Disk{Dir: dir}})
			require.NoError(t, err)
			var found strings.Builder
			for _, f := range Run(w, nil).Findings {
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

func TestFamilies(t *testing.T) {
	dir := t.TempDir()
	for path, text := range map[string]string{
		"res/values/strings.xml":                `<resources><string name="a">A</string></resources>`,
		"res/values-iw/strings.xml":             `<resources><string name="a">א</string></resources>`,
		"res/values-b+sr+Latn/strings.xml":      `<resources/>`,
		"res/values-sw600dp/strings.xml":        `<resources><string name="a">Wide</string></resources>`,
		"res/values/colors.xml":                 `<resources><color name="c">#fff</color></resources>`,
		"Apple/Base.lproj/Main.strings":         `"a" = "A";`,
		"Apple/de.lproj/Main.strings":           `"a" = "A";`,
		"node_modules/x/res/values/strings.xml": `<resources/>`,
		"Net/Strings/en-US/Resources.resw":      `<root/>`,
		"Net/Form.Designer.resx":                `<root/>`,
		"l10n/intl_pt_BR.arb":                   `{"a": "A"}`,
		"l10n/intl_en.arb":                      `{"a": "A"}`,
		"l10n/my_app.arb":                       `{}`,
		"po/app.pot":                            "msgid \"\"\nmsgstr \"\"\n\nmsgid \"a\"\nmsgstr \"\"\n",
		"po/de.po":                              "msgid \"a\"\nmsgstr \"b\"\n",
		"web/i18n/de-DE.json":                   `{"a": "A"}`,
		"web/i18n/en-US.json":                   `{"a": "A"}`,
		"assets/translations.json":              `{"en": {"a": "A"}, "de": {"a": "A"}}`,
		"assets/sizes.json":                     `{"en": {"a": "A"}, "de": {"a": "A"}}`,
	} {
		at := filepath.Join(dir, path)
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
	t.Chdir(dir)
	families, err := project.Families([]string{"."}, project.Options{})
	require.NoError(t, err)
	have := map[string]string{}
	for _, f := range families {
		tags := ""
		for _, m := range f.Members {
			tags += string(m.Culture) + " "
		}
		have[f.Name] = f.Format.Name + " " + strings.TrimSpace(tags)
	}
	assert.Equal(t, map[string]string{
		"res/strings": "android en he sr-Latn", "Apple/Main": "strings en de", "Net/Strings/Resources": "resx en-US",
		"Net/Form.Designer": "resx en", "l10n/intl": "arb en pt-BR", "l10n/my_app": "arb en",
		"po/messages": "po en de", "web/i18n/messages": "json en-US de-DE", "assets/translations": "json en de",
	}, have)
}

func TestLedgerNamesPlaceholders(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, project.LedgerName), []byte("[\n{\"key\":\"k\",\"arguments\":[{\"name\":\"who\",\"sample\":\"Runa\"}]}\n]\n"), 0o644))
	ledger, err := project.ReadLedger(nil, dir)
	require.NoError(t, err)
	path := filepath.Join(dir, "x.strings")
	require.NoError(t, os.WriteFile(path, []byte(`"k" = "Hello, %@";`), 0o644))
	file, err := project.Open(nil, path, "")
	require.NoError(t, err)
	c := file.Catalogs()[0]
	ledger.Restore(c, file.Format)
	assert.Equal(t, "Hello, {who}", c.Entries[0].Message.String())
	require.NoError(t, os.WriteFile(filepath.Join(dir, project.LedgerName), []byte("{"), 0o644))
	_, err = project.ReadLedger(nil, dir)
	assert.ErrorContains(t, err, "the ledger is damaged")
}

// place writes files below a folder.
func place(t *testing.T, dir string, contents map[string]string) {
	for name, text := range contents {
		at := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
}
