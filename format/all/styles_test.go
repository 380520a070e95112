package all

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/formattest"
)

// catalog makes a catalog of texts, one for each style, by reading a file of the
// format that has them as they are spelled.
func (s styles) catalog(t *testing.T, words string, tag culture.Tag) *catalog.Catalog {
	c, f := &catalog.Catalog{Culture: tag}, s.format
	for i, style := range s.list {
		e := catalog.Entry{Key: fmt.Sprintf("k%d", i), Offset: -1}
		if f.Name == "arb" { // styles are described beside the text
			text := fmt.Sprintf(`{"k%d": "%s {x}", "@k%d": {"placeholders": {"x": %s}}}`, i, words, i, style)
			document, faults := f.Parse([]byte(text))
			require.Empty(t, faults, style)
			e.Message = document.Catalogs()[0].Entries[0].Message
		} else {
			m, faults := f.Message(words + " " + style)
			require.Empty(t, faults, style)
			e.Message = m
		}
		require.True(t, e.Message.HasPlaceholders() || e.Message.Choice != nil, style)
		c.Add(e)
	}
	return c
}

// exchanged are the formats by which texts go to translators and come back.
func exchanged(t *testing.T) map[string]*format.Format {
	list := map[string]*format.Format{}
	for _, name := range []string{"xliff", "xliff2", "sheet", "tmx"} {
		f, err := Named(name)
		require.NoError(t, err)
		list[name] = f
	}
	list["workbook"] = list["sheet"].Named("texts.xlsx")
	return list
}

// styles are those of one format, spelled as its texts do.
type styles struct {
	format *format.Format
	list   []string
}

// inventory reads testdata/styles.txtar.
func inventory(t *testing.T) (all []styles) {
	archive, err := txtar.ParseFile("testdata/styles.txtar")
	require.NoError(t, err)
	for _, file := range archive.Files {
		f, err := Named(file.Name)
		require.NoError(t, err)
		text := strings.ReplaceAll(strings.TrimSpace(string(file.Data)), `\u00a4`, "¤")
		all = append(all, styles{f, strings.Split(text, "\n")})
	}
	return all
}

// Every style of every platform goes through every exchange format and is
// spelled afterwards as it was.
func TestStylesThroughExchange(t *testing.T) {
	for _, own := range inventory(t) {
		native := own.format
		for name, exchange := range exchanged(t) {
			for _, tag := range []culture.Tag{"de-CH", "ar"} {
				t.Run(native.Name+" through "+name+" "+string(tag), func(t *testing.T) {
					list := []*catalog.Catalog{own.catalog(t, "Shown", "en"), own.catalog(t, "Da", tag)}
					formattest.Settle(list)
					write := func(list []*catalog.Catalog) string {
						source, _ := native.Compose(list[0], format.Options{})
						target := source
						if native.Holds.Bilingual {
							target, _ = native.Join(list)
						} else {
							target, _ = native.Compose(list[1], format.Options{Source: list[0]})
						}
						return string(source) + string(target)
					}
					direct := strings.Split(write(list), "\n")
					data, losses := exchange.Join(list)
					assert.Empty(t, losses)
					document, faults := exchange.Parse(data)
					require.Empty(t, faults, "%s", data)
					back := document.Catalogs()
					formattest.Settle(back)
					after := strings.Split(write(back), "\n")
					require.Equal(t, len(direct), len(after), "%s", data)
					for i := range direct {
						if direct[i] != after[i] {
							t.Errorf("%s\n  became %s", direct[i], after[i])
						}
					}
				})
			}
		}
	}
}
