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
)

// styled makes a catalog of texts, one for each style, by reading a file of the
// format that has them as they are spelled.
func styled(t *testing.T, f *format.Format, styles []string, words string, tag culture.Tag) *catalog.Catalog {
	c := &catalog.Catalog{Culture: tag}
	for i, style := range styles {
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

// Every style of every platform goes through every exchange format and is
// spelled afterwards as it was.
func TestStylesThroughExchange(t *testing.T) {
	archive, err := txtar.ParseFile("testdata/styles.txtar")
	require.NoError(t, err)
	for _, file := range archive.Files {
		native, err := Named(file.Name)
		require.NoError(t, err)
		styles := strings.Split(strings.TrimSpace(string(file.Data)), "\n")
		for i := range styles {
			styles[i] = strings.ReplaceAll(styles[i], `\u00a4`, "¤")
		}
		for name, exchange := range exchanged(t) {
			for _, tag := range []culture.Tag{"de-CH", "ar"} {
				t.Run(file.Name+" through "+name+" "+string(tag), func(t *testing.T) {
					list := []*catalog.Catalog{styled(t, native, styles, "Shown", "en"), styled(t, native, styles, "Da", tag)}
					settle(list)
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
					settle(back)
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
