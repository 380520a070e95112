package check

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/project"
)

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
