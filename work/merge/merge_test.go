package merge

import (
	"fmt"
	"maps"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"
	"pgregory.net/rapid"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/all"
	"zelvik/message"
)

// Each archive in testdata is a merge: base, ours, theirs and merged, whose
// name returns the format, and a comment with a conflict a line.
func TestMerge(t *testing.T) {
	archives, err := filepath.Glob("testdata/*.txtar")
	require.NoError(t, err)
	require.NotEmpty(t, archives)
	for _, path := range archives {
		t.Run(strings.TrimSuffix(filepath.Base(path), ".txtar"), func(t *testing.T) {
			archive, err := txtar.ParseFile(path)
			require.NoError(t, err)
			files := map[string][]byte{}
			var f *format.Format
			for _, file := range archive.Files {
				name := strings.TrimSuffix(filepath.Base(file.Name), filepath.Ext(file.Name))
				files[name] = file.Data
				f, _ = all.Detect("values/"+file.Name, file.Data)
			}
			r, err := Merge(f, files["base"], files["ours"], files["theirs"])
			require.NoError(t, err)
			assert.Equal(t, string(files["merged"]), string(r.Data))
			var said strings.Builder
			for _, c := range r.Conflicts {
				fmt.Fprintf(&said, "%s %s\n", c.Key, c.What)
			}
			if r.Untaken != "" {
				fmt.Fprintf(&said, "%s\n", r.Untaken)
			}
			assert.Equal(t, string(archive.Comment), said.String())
			again, err := Merge(f, files["base"], files["theirs"], files["ours"])
			require.NoError(t, err)
			assert.Len(t, again.Conflicts, len(r.Conflicts), "the other way around")
		})
	}
}

// file writes a family of one text in two cultures, as far as a format has
// room for them.
func file(f *format.Format, texts map[string]string, order []string) []byte {
	source, target := &catalog.Catalog{Culture: "en"}, &catalog.Catalog{Culture: "de"}
	for _, key := range order {
		source.Add(catalog.Entry{Key: key, Message: message.Plain("Text of " + strings.TrimSuffix(key, "_new")), Offset: -1})
		target.Add(catalog.Entry{Key: key, Message: message.Plain(texts[key]), Offset: -1})
	}
	if f.Join != nil {
		data, _ := f.Join([]*catalog.Catalog{source, target})
		return data
	}
	data, _ := f.Compose(target, format.Options{})
	return data
}

// said reads a file's German texts.
func said(t require.TestingT, f *format.Format, data []byte) map[string]string {
	d, findings := f.Parse(data)
	require.Empty(t, findings, "%s\n%s", f.Name, data)
	list := d.Catalogs()
	texts := map[string]string{}
	c := list[len(list)-1]
	for i := range c.Entries {
		texts[c.Entries[i].Key] = c.Entries[i].Message.String()
	}
	return texts
}

// merged are the formats of which files are merged: all that are read.
func merged() []*format.Format {
	return slices.DeleteFunc(slices.Clone(all.Formats), func(f *format.Format) bool { return f.Name == "mo" || f.Name == "stringsdict" })
}

// Two sides make changes that do not exclude one another, anywhere in a file of
// every format: the result says all of them.
func TestNothingIsLost(t *testing.T) {
	for _, f := range merged() {
		t.Run(f.Name, func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				base, ours, theirs, want := map[string]string{"key": "Bleibt"}, map[string]string{"key": "Bleibt"}, map[string]string{"key": "Bleibt"}, map[string]string{"key": "Bleibt"}
				order, ourOrder, theirOrder := []string{"key"}, []string{"key"}, []string{"key"}
				for i := range rapid.IntRange(1, 9).Draw(t, "entries") {
					key, text := fmt.Sprintf("key_%c", 'a'+i), fmt.Sprintf("Wort %d", i)
					base[key], order = text, append(order, key)
					edit, remove := rapid.IntRange(0, 9).Draw(t, "what "+key), false
					sides := [2]string{text, text}
					switch edit {
					case 0, 1:
						sides[edit] = "Neu " + key
						text = sides[edit]
					case 2, 3:
						sides[edit-2], remove = "", true
					case 4:
						sides, text = [2]string{"Beide", "Beide"}, "Beide"
					case 5:
						sides, remove = [2]string{"", ""}, true
					case 6, 7: // one side renames, the other edits
						sides[7-edit] = "Neu " + key
						text = sides[7-edit]
					}
					names := [2]string{key, key}
					if edit == 6 || edit == 7 {
						names[edit-6] = key + "_new"
						want[key+"_new"], remove = text, true
					}
					for s, side := range []map[string]string{ours, theirs} {
						list := []*[]string{&ourOrder, &theirOrder}[s]
						if sides[s] != "" {
							side[names[s]], *list = sides[s], append(*list, names[s])
						}
					}
					if !remove {
						want[key] = text
					}
					for s, name := range []string{"ours", "theirs"} { // one that a side adds
						if rapid.IntRange(0, 4).Draw(t, "added "+name+key) == 0 {
							added := fmt.Sprintf("new_%s_%c", name, 'a'+i)
							[]map[string]string{ours, theirs}[s][added], want[added] = added, added
							list := []*[]string{&ourOrder, &theirOrder}[s]
							*list = append(*list, added)
						}
					}
				}
				r, err := Merge(f, file(f, base, order), file(f, ours, ourOrder), file(f, theirs, theirOrder))
				require.NoError(t, err)
				require.Empty(t, r.Conflicts)
				require.Equal(t, want, said(t, f, r.Data))
			})
		})
	}
}

// In every format: both sides change one text differently, and others. Ours
// stands, theirs is beside it, and what is marked is reported by its reader.
func TestConflicts(t *testing.T) {
	base := map[string]string{"key_a": "Eins", "key_b": "Zwei", "key_c": "Drei", "key_d": "Vier"}
	order := slices.Sorted(maps.Keys(base))
	for _, f := range merged() {
		for name, sides := range map[string][2]map[string]string{
			"edited":        {{"key_a": "Eins", "key_b": "Unser", "key_c": "Drei", "key_d": "Vier"}, {"key_a": "Eins!", "key_b": "Ihres", "key_c": "Drei", "key_d": "Vier"}},
			"removed here":  {{"key_a": "Eins", "key_c": "Drei", "key_d": "Vier"}, {"key_a": "Eins!", "key_b": "Ihres", "key_c": "Drei", "key_d": "Vier"}},
			"removed there": {{"key_a": "Eins", "key_b": "Unser", "key_c": "Drei", "key_d": "Vier"}, {"key_a": "Eins!", "key_c": "Drei", "key_d": "Vier"}},
			"added":         {{"key_a": "Eins", "key_b": "Zwei", "key_c": "Drei", "key_d": "Vier", "key_e": "Unser"}, {"key_a": "Eins!", "key_b": "Zwei", "key_c": "Drei", "key_d": "Vier", "key_e": "Ihres"}},
		} {
			t.Run(f.Name+" "+name, func(t *testing.T) {
				r, err := Merge(f, file(f, base, order), file(f, sides[0], slices.Sorted(maps.Keys(sides[0]))), file(f, sides[1], slices.Sorted(maps.Keys(sides[1]))))
				require.NoError(t, err)
				require.NotEmpty(t, r.Conflicts)
				assert.Equal(t, name, r.Conflicts[0].What)
				key := "key_b"
				if name == "added" {
					key = "key_e"
				}
				texts := said(t, f, r.Data)
				assert.Equal(t, "Eins!", texts["key_a"])
				want := sides[0][key]
				if want == "" {
					want = sides[1][key]
				}
				assert.Equal(t, want, texts[key])
				d, _ := f.Parse(r.Data)
				marked := slices.ContainsFunc(d.Catalogs(), func(c *catalog.Catalog) bool {
					e := c.Find(key)
					return e != nil && strings.Contains(e.Note, catalog.ConflictMark) || c.Find(key+catalog.ConflictAside) != nil
				})
				assert.True(t, marked, string(r.Data))
				if list := d.Catalogs(); len(list) > 1 { // the source of a text that stays
					require.NotNil(t, list[0].Find(key), string(r.Data))
					assert.Equal(t, "Text of "+key, list[0].Find(key).Message.String(), string(r.Data))
				}
			})
		}
	}
}

// Random bytes for lines: what both have is kept, and nothing is invented.
func TestLines(t *testing.T) {
	line := rapid.SampledFrom([]string{"a\n", "b\n", "c\n", "d\n"})
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) []byte {
			return []byte(strings.Join(rapid.SliceOfN(line, 0, 12).Draw(t, name), ""))
		}
		base, ours := draw("base"), draw("ours")
		same, ok := Lines(base, ours, base)
		require.True(t, ok)
		require.Equal(t, string(ours), string(same))
		same, ok = Lines(base, base, ours)
		require.True(t, ok)
		require.Equal(t, string(ours), string(same))
		same, ok = Lines(base, ours, ours)
		require.True(t, ok)
		require.Equal(t, string(ours), string(same))
	})
}
