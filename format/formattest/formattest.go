// Package formattest tries a format, as testing/fstest tries a file system: on odd files
// in many shapes, which stand in testdata/odd.txtar of the format's package, and on random
// texts.
package formattest

import (
	"bytes"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"
	"pgregory.net/rapid"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/message"
)

// Odd is the path of the odd files of a format, in its package.
const Odd = "testdata/odd.txtar"

// odd is one odd file in one of its shapes.
type odd struct {
	name string
	data []byte
}

// Try tries a format on its odd files. Without changes a file's bytes come back; an edit
// touches one entry; what is added, renamed and removed reads so; faults say where they
// are and how to fix them; random texts survive.
func Try(t *testing.T, f *format.Format) {
	archive, err := txtar.ParseFile(Odd)
	require.NoError(t, err)
	files := shapes(archive, f)
	t.Run("bytes", func(t *testing.T) {
		for _, file := range files {
			document, _ := f.Parse(file.data)
			out, _, err := document.Edit(nil)
			require.NoError(t, err, file.name)
			require.True(t, bytes.Equal(file.data, out), file.name)
		}
	})
	t.Run("edits", func(t *testing.T) { edits(t, f, files) })
	t.Run("keys", func(t *testing.T) { keys(t, f, files) })
	t.Run("plurals", func(t *testing.T) { plurals(t, f, files) })
	t.Run("faults", func(t *testing.T) { faults(t, f, archive) })
	t.Run("random texts", func(t *testing.T) { random(t, f) })
	t.Run("spellings", func(t *testing.T) { spellings(t, f, archive) })
}

// shapes returns every file of an archive in every shape.
func shapes(archive *txtar.Archive, f *format.Format) []odd {
	var list []odd
	for _, file := range archive.Files {
		if strings.HasPrefix(file.Name, "spelling/") {
			continue
		}
		add := func(shape string, data []byte) {
			list = append(list, odd{file.Name + " " + shape, data})
		}
		crlf := bytes.ReplaceAll(file.Data, []byte("\n"), []byte("\r\n"))
		add("as it is", file.Data)
		add("with CR LF", crlf)
		add("with mixed line ends", bytes.Replace(file.Data, []byte("\n"), []byte("\r\n"), 5))
		add("with a byte order mark", append([]byte("\xEF\xBB\xBF"), file.Data...))
		add("without a last line end", bytes.TrimRight(file.Data, "\n"))
		add("in UTF-16 LE with mark", encode16(file.Data, true, true))
		add("in UTF-16 BE with mark", encode16(file.Data, false, true))
		add("in UTF-16 LE", encode16(file.Data, true, false))
		add("in UTF-16 BE", encode16(file.Data, false, false))
		add("in UTF-16 with half a pair", append(encode16(crlf, true, true), 0x3D, 0xD8))
		add("in bad UTF-8", append([]byte("\xff\xc3"), file.Data...))
		lines := bytes.SplitAfter(file.Data, []byte("\n"))
		half := len(lines) / 2
		add("with both sides of a merge", slices.Concat(bytes.Join(lines[:half], nil), []byte("<<<<<<< ours\n"), lines[half], []byte("=======\n"),
			lines[half], lines[half/2], []byte(">>>>>>> theirs\n"), bytes.Join(lines[half+1:], nil)))
		for i := 1; i < 8; i++ {
			add(fmt.Sprintf("cut off at %d/8", i), file.Data[:len(file.Data)*i/8])
		}
	}
	return append(list, odd{"empty", nil}, odd{"binary", []byte("\x00\x01\x02\xff\xfe\x00rest")},
		odd{"a mark alone", []byte("\xEF\xBB\xBF")}, odd{"one byte", []byte("<")})
}

func encode16(data []byte, little, mark bool) []byte {
	units := utf16.Encode([]rune(string(data)))
	if mark {
		units = append([]uint16{0xFEFF}, units...)
	}
	out := make([]byte, 0, len(units)*2)
	for _, u := range units {
		if little {
			out = append(out, byte(u), byte(u>>8))
		} else {
			out = append(out, byte(u>>8), byte(u))
		}
	}
	return out
}

// damaged reports whether a finding keeps the file from being read whole.
func damaged(findings []finding.Finding) bool { return slices.ContainsFunc(findings, format.Damage) }

// own returns the catalog that the tests change: the only one, or the last of
// several, which is a translation.
func own(d format.Document) *catalog.Catalog {
	list := d.Catalogs()
	return list[len(list)-1]
}

// noteOf returns the note of a key, which may stand with the source alone.
func noteOf(d format.Document, key string) string {
	for _, c := range d.Catalogs() {
		if e := c.Find(key); e != nil && e.Note != "" {
			return e.Note
		}
	}
	return ""
}

// change fills in the culture of a change.
func change(d format.Document, c format.Change) []format.Change {
	if len(d.Catalogs()) > 1 {
		c.Culture = own(d).Culture
	}
	return []format.Change{c}
}

// texts returns all messages by key.
func texts(d format.Document) map[string]string {
	all := map[string]string{}
	for _, e := range own(d).Entries {
		if _, double := all[e.ID()]; !double {
			all[e.ID()] = e.Message.String()
		}
	}
	return all
}

// edits changes one text: it reads back as it was set, every other entry reads as
// before, and all bytes before and after one stretch are untouched.
func edits(t *testing.T, f *format.Format, files []odd) {
	tried := 0
	for _, file := range files {
		document, findings := f.Parse(file.data)
		if damaged(findings) {
			continue
		}
		before := texts(document)
		for _, e := range own(document).Entries {
			if e.Message.Choice != nil || e.Product != "" {
				continue
			}
			for _, text := range []string{"New", "  it's \"quoted\" \\ <x> & {y} 100% \n 😀 ", "@at", ""} {
				m := message.Plain(text)
				out, _, err := document.Edit(change(document, format.Change{Key: e.Key, Message: &m}))
				if errors.Is(err, format.ErrKeyIsText) || errors.Is(err, format.ErrPieces) || err != nil && strings.Contains(err.Error(), "save the file as UTF-8 first") {
					continue
				}
				require.NoError(t, err, "%s: %s", file.name, e.Key)
				again, more := f.Parse(out)
				require.False(t, damaged(more), "%s: %s set to %q: %v\n%s", file.name, e.Key, text, more, out)
				after := texts(again)
				if text != "" || f.Name != "sheet" { // an empty cell is no text
					require.Equal(t, text, after[e.Key], "%s: %s", file.name, e.Key)
				}
				for id, old := range before {
					if id != e.ID() {
						require.Equal(t, old, after[id], "%s: %s changed with %s", file.name, id, e.Key)
					}
				}
				require.LessOrEqual(t, changedLines(file.data, out), 4, "%s: %s set to %q", file.name, e.Key, text)
				tried++
			}
		}
	}
	assert.Greater(t, tried, 20)
}

// changedLines counts the lines between the first and the last difference.
func changedLines(a, b []byte) int {
	start := 0
	for start < len(a) && start < len(b) && a[start] == b[start] {
		start++
	}
	end := 0
	for end < len(a)-start && end < len(b)-start && a[len(a)-1-end] == b[len(b)-1-end] {
		end++
	}
	return bytes.Count(a[start:len(a)-end], []byte("\n"))
}

// keys adds, renames and removes an entry.
func keys(t *testing.T, f *format.Format, files []odd) {
	for _, file := range files {
		document, findings := f.Parse(file.data)
		if damaged(findings) || len(own(document).Entries) == 0 {
			continue
		}
		before := texts(document)
		m, note := message.Plain("Fresh"), "A note"
		for _, after := range []string{"", "boarding.title", "boarding_title", "nowhere"} {
			out, losses, err := document.Edit(change(document, format.Change{Key: "fresh", Message: &m, Note: &note, After: after}))
			if errors.Is(err, format.ErrKeyIsText) || errors.Is(err, format.ErrPieces) {
				continue
			}
			require.NoError(t, err, file.name)
			added, more := f.Parse(out)
			require.False(t, damaged(more), "%s after %q\n%s", file.name, after, out)
			e := own(added).Find("fresh")
			require.NotNil(t, e, "%s after %q\n%s", file.name, after, out)
			require.Equal(t, "Fresh", e.Message.String())
			if len(losses) == 0 {
				require.Equal(t, "A note", noteOf(added, "fresh"), "%s after %q\n%s", file.name, after, out)
			}
			require.Len(t, texts(added), len(before)+1, file.name)
			if after != "" && own(document).Find(after) != nil {
				assert.Equal(t, own(document).At(after)+1, own(added).At("fresh"), "%s after %q", file.name, after)
			}
			// Taken out again, the file is what it was.
			back, _, err := added.Edit(change(added, format.Change{Op: format.Remove, Key: "fresh"}))
			require.NoError(t, err)
			gone, _ := f.Parse(back)
			require.Equal(t, before, texts(gone), file.name)
			renamed, _, err := added.Edit(change(added, format.Change{Op: format.Rename, Key: "fresh", NewKey: "older"}))
			require.NoError(t, err)
			other, _ := f.Parse(renamed)
			require.NotNil(t, own(other).Find("older"), file.name)
			require.Nil(t, own(other).Find("fresh"), file.name)
		}
		_, _, err := document.Edit(change(document, format.Change{Op: format.Remove, Key: "nowhere at all"}))
		require.ErrorIs(t, err, format.ErrNoEntry)
	}
}

// plurals gives the plurals of a file other forms.
func plurals(t *testing.T, f *format.Format, files []odd) {
	for _, file := range files {
		document, findings := f.Parse(file.data)
		if damaged(findings) {
			continue
		}
		for _, e := range own(document).Entries {
			if e.Message.Choice == nil || len(e.Message.Choice.Selectors) > 1 || e.Message.Choice.Selectors[0].Kind != message.Plural {
				continue
			}
			changed := message.Message{Choice: &message.Choice{Selectors: e.Message.Choice.Selectors}}
			for _, key := range []string{"one", "few", "other"} {
				changed.Choice.Variants = append(changed.Choice.Variants, message.Variant{Keys: []string{key}, Pattern: message.Pattern{message.Text("form " + key)}})
			}
			out, losses, err := document.Edit(change(document, format.Change{Key: e.Key, Message: &changed}))
			if errors.Is(err, format.ErrKeyIsText) || errors.Is(err, format.ErrPieces) {
				continue
			}
			require.NoError(t, err, file.name)
			again, more := f.Parse(out)
			require.False(t, damaged(more), "%s\n%s", file.name, out)
			if got := strings.Replace(own(again).Find(e.Key).Message.String(), "many: form other | ", "", 1); len(losses) == 0 {
				require.Equal(t, "one: form one | few: form few | other: form other", got, file.name)
			} else {
				require.Equal(t, "one: form one | other: form other", got, file.name)
			}
		}
	}
}

// random writes and reads random texts, alone and set into a file.
func random(t *testing.T, f *format.Format) {
	if f.Name == "stringsdict" {
		t.Skip("it holds no text without a plural")
	}
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringOfN(rapid.SampledFrom([]rune("ab '\"\\<>&{}%@?#\n\té😀;=/*-\u00a0\u202e1$sd,:]")), 0, 24, -1).Draw(t, "text")
		c := &catalog.Catalog{Culture: "en"}
		c.Add(catalog.Entry{Key: "a", Message: message.Plain(text)})
		c.Add(catalog.Entry{Key: "b", Message: message.Plain("plain")})
		data, losses := f.Compose(c, format.Options{})
		document, findings := f.Parse(data)
		if damaged(findings) {
			t.Fatalf("%s: %q: %v\n%s", f.Name, text, findings, data)
		}
		if e := own(document).Find("a"); e == nil && len(losses) > 0 {
			return // told as lost
		} else if got := e.Message.String(); got != text && len(losses) == 0 {
			t.Fatalf("%s: %q was read as %q\n%s", f.Name, text, got, data)
		}
		m := message.Plain(text)
		edited, losses, err := document.Edit(change(document, format.Change{Key: "b", Message: &m}))
		if err != nil {
			t.Fatal(err)
		}
		again, findings := f.Parse(edited)
		if e := own(again).Find("b"); e == nil && len(losses) > 0 {
			return
		} else if got := e.Message.String(); damaged(findings) || got != text && len(losses) == 0 {
			t.Fatalf("%s: %q set was read as %q: %v\n%s", f.Name, text, got, findings, edited)
		}
	})
}

// faults holds the faults of damaged files against the lines of the archive's comment.
func faults(t *testing.T, f *format.Format, archive *txtar.Archive) {
	for _, file := range archive.Files {
		_, findings := f.Parse(file.Data)
		var have []string
		for _, found := range findings {
			have = append(have, fmt.Sprintf("%d:%d %s", found.Line, found.Column, found.Message))
			assert.NotEmpty(t, found.Fix, found.Message)
		}
		for line := range strings.Lines(string(archive.Comment)) {
			if want, ok := strings.CutPrefix(strings.TrimSuffix(line, "\n"), file.Name+": "); ok {
				assert.Contains(t, have, want, "%s\n%s", file.Name, strings.Join(have, "\n"))
			}
		}
	}
}
