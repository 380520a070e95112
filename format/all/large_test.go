package all

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/po"
	apple "zelvik/format/strings"
)

// copies repeats the texts of a family, with the copy's number before the keys.
func copies(list []*catalog.Catalog, from, to int) []*catalog.Catalog {
	var out []*catalog.Catalog
	for _, c := range list {
		many := &catalog.Catalog{Culture: c.Culture}
		for n := from; n < to; n++ {
			for i := range c.Entries {
				e := c.Entries[i]
				e.Key = fmt.Sprintf("c%d_%s", n, e.Key)
				many.Add(e)
			}
		}
		out = append(out, many)
	}
	return out
}

// Large files are read and written in halves, side by side. They say what the
// same texts say in files that are too small for that, and so do their losses.
func TestLargeFilesSayWhatSmallOnesDo(t *testing.T) {
	const all, some = 300, 15 // of 48 texts each
	family := everything(t)
	for i, f := range Formats {
		if f.Name == "mo" || f.Name == "xlsx" || !*runAll && i%4 != 0 { // written only; a form of sheet
			continue
		}
		t.Run(f.Name, func(t *testing.T) {
			t.Parallel()
			large, losses := through(t, f, copies(family, 0, all))
			require.Greater(t, len(large[0].Entries), 10000)
			small := make([]map[string]*catalog.Entry, len(large))
			for i := range small {
				small[i] = map[string]*catalog.Entry{}
			}
			var lost []catalog.Loss
			for from := 0; from < all; from += some {
				part, more := through(t, f, copies(family, from, from+some))
				for i, c := range part {
					for j := range c.Entries {
						small[i][c.Entries[j].ID()] = &c.Entries[j]
					}
				}
				lost = append(lost, more...)
			}
			for i, c := range large {
				assert.Len(t, small[i], len(c.Entries), "%s", c.Culture)
				for j := range c.Entries {
					e := &c.Entries[j]
					other := small[i][e.ID()]
					if other == nil || said(e) != said(other) || e.Note != other.Note {
						require.Equal(t, said(other), said(e), "%s in %s", e.Key, c.Culture)
						require.Equal(t, other.Note, e.Note, "%s in %s", e.Key, c.Culture)
					}
				}
			}
			assert.Equal(t, byKey(lost), byKey(losses))
		})
	}
}

// byKey returns the losses that belong to an entry, in an order of their own.
func byKey(losses []catalog.Loss) []string {
	var list []string
	for _, l := range losses {
		if l.Key != "" {
			list = append(list, fmt.Sprint(l.Culture, "|", l.Key, "|", l.Kind, "|", l.Lost, "|", l.Instead))
		}
	}
	slices.Sort(list)
	return slices.Compact(list)
}

// The entries of a large file stand in the order and at the places of the file.
func TestLargeFilesKeepTheirOrder(t *testing.T) {
	family := copies(everything(t), 0, 300)
	for i, f := range Formats {
		if f.Name == "mo" || f.Name == "xlsx" || !*runAll && i%4 != 0 { // written only; a form of sheet
			continue
		}
		t.Run(f.Name, func(t *testing.T) {
			t.Parallel()
			data, _ := f.Compose(family[0], format.Options{})
			document, findings := f.Parse(data)
			require.False(t, damaged(findings))
			entries := document.Catalogs()[0].Entries
			assert.True(t, slices.IsSortedFunc(entries, func(a, b catalog.Entry) int { return cmp.Compare(a.Offset, b.Offset) }))
			assert.Greater(t, len(entries), 10000)
		})
	}
}

// Large files of shapes that are seldom seen are read in the time of others,
// and say the same: every text wrapped, and lines that end in CR alone.
func TestLargeFilesOfOddShapes(t *testing.T) {
	const n = 60000
	head := "msgid \"\"\nmsgstr \"\"\n\"Language: de\\n\"\n\"Content-Type: text/plain; charset=UTF-8\\n\"\n"
	var wrapped, plain strings.Builder
	for i := range n {
		fmt.Fprintf(&wrapped, "\nmsgid \"\"\n\"harbour %d\\n\"\n\"north\"\nmsgstr \"\"\n\"Hafen %d\\n\"\n\"Nord\"\n", i, i)
		fmt.Fprintf(&plain, "\nmsgid \"harbour %d\\nnorth\"\nmsgstr \"Hafen %d\\nNord\"\n", i, i)
	}
	for name, data := range map[string]string{
		"wrapped": head + wrapped.String(), "CR alone": strings.ReplaceAll(head+plain.String(), "\n", "\r"), "CR LF": strings.ReplaceAll(head+plain.String(), "\n", "\r\n"),
	} {
		t.Run(name, func(t *testing.T) {
			document, findings := po.Format.Parse([]byte(data))
			require.Empty(t, findings)
			target := document.Catalogs()[1]
			require.Len(t, target.Entries, n)
			for _, i := range []int{0, n / 2, n - 1} {
				assert.Equal(t, fmt.Sprintf("Hafen %d\nNord", i), target.Entries[i].Message.Pattern.String())
			}
		})
	}
}

// So are strings tables with lines that end in CR alone.
func TestLargeTablesWithCR(t *testing.T) {
	const n = 60000
	var out bytes.Buffer
	for i := range n {
		fmt.Fprintf(&out, "\"harbour %d\" = \"Hafen %d\";\r", i, i)
	}
	document, findings := apple.Format.Parse(out.Bytes())
	require.Empty(t, findings)
	require.Len(t, document.Catalogs()[0].Entries, n)
}
