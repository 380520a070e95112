package webpage

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/project"
	"zelvik/work/table"
)

// TestTable makes a page of texts that would like to be more than text.
func TestTable(t *testing.T) {
	t.Chdir(t.TempDir())
	for at, text := range map[string]string{
		"l/en.json": `{"</script>": "<script>alert(1)</script>", "n": "{count, plural, one {# <b>crate</b>} other {# crates}}", "only": "Deck"}`,
		"l/ar.json": `{"</script>": "\"'&", "n": "{count, plural, other {# صندوق}}"}`,
	} {
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
	w, err := project.Load([]string{"l"}, "", project.Options{From: "json"})
	require.NoError(t, err)
	tables, err := table.Of(w, table.Filter{})
	require.NoError(t, err)
	page, err := Table(tables)
	require.NoError(t, err)
	made := string(page)
	for _, text := range []string{
		`<tr><th scope="row">&lt;/script&gt;</th>`,
		`&lt;script&gt;alert(1)&lt;/script&gt;`,
		`<td data-culture="ar" lang="ar" dir="rtl">&#34;&#39;&amp;</td>`,
		`<div><small><bdi>other</bdi></small> <bdi>{count}</bdi> صندوق</div>`,
		`<td data-culture="ar" lang="ar" dir="rtl" class="missing" data-mark="-"></td>`,
		`<option value="moved">~ moved</option>`,
	} {
		assert.Contains(t, made, text)
	}
	assert.NotContains(t, made, "http")
}
