package all

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

// odd is one odd file in one of its shapes.
type odd struct {
	name   string
	format *format.Format
	data   []byte
}

// oddFiles returns every file of the collection in every shape.
func oddFiles(t testing.TB) []odd {
	archive, err := txtar.ParseFile("testdata/odd.txtar")
	require.NoError(t, err)
	var list []odd
	for _, file := range archive.Files {
		f, fit := Detect(file.Name, file.Data)
		require.NotNil(t, f, file.Name)
		require.Equal(t, format.Yes, fit, file.Name)
		add := func(shape string, data []byte) {
			list = append(list, odd{file.Name + " " + shape, f, data})
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
	for _, f := range Formats {
		list = append(list, odd{f.Name + " empty", f, nil}, odd{f.Name + " binary", f, []byte("\x00\x01\x02\xff\xfe\x00rest")},
			odd{f.Name + " a mark alone", f, []byte("\xEF\xBB\xBF")}, odd{f.Name + " one byte", f, []byte("<")})
	}
	return list
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

func TestUnchangedFilesKeepTheirBytes(t *testing.T) {
	for _, file := range oddFiles(t) {
		document, _ := file.format.Parse(file.data)
		out, _, err := document.Edit(nil)
		require.NoError(t, err, file.name)
		require.True(t, bytes.Equal(file.data, out), file.name)
	}
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

// One text edited: it reads back as it was set, every other entry reads as
// before, and all bytes before and after one stretch are untouched.
func TestEditTouchesOneEntry(t *testing.T) {
	edits := 0
	for _, file := range oddFiles(t) {
		document, findings := file.format.Parse(file.data)
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
				again, more := file.format.Parse(out)
				require.False(t, damaged(more), "%s: %s set to %q: %v\n%s", file.name, e.Key, text, more, out)
				after := texts(again)
				if text != "" || file.format.Name != "sheet" { // an empty cell is no text
					require.Equal(t, text, after[e.Key], "%s: %s", file.name, e.Key)
				}
				for id, old := range before {
					if id != e.ID() {
						require.Equal(t, old, after[id], "%s: %s changed with %s", file.name, id, e.Key)
					}
				}
				require.LessOrEqual(t, changedLines(file.data, out), 4, "%s: %s set to %q", file.name, e.Key, text)
				edits++
			}
		}
	}
	assert.Greater(t, edits, 1000)
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

func TestAddRenameRemove(t *testing.T) {
	for _, file := range oddFiles(t) {
		document, findings := file.format.Parse(file.data)
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
			added, more := file.format.Parse(out)
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
			gone, _ := file.format.Parse(back)
			require.Equal(t, before, texts(gone), file.name)
			renamed, _, err := added.Edit(change(added, format.Change{Op: format.Rename, Key: "fresh", NewKey: "older"}))
			require.NoError(t, err)
			other, _ := file.format.Parse(renamed)
			require.NotNil(t, own(other).Find("older"), file.name)
			require.Nil(t, own(other).Find("fresh"), file.name)
		}
		_, _, err := document.Edit(change(document, format.Change{Op: format.Remove, Key: "nowhere at all"}))
		require.ErrorIs(t, err, format.ErrNoEntry)
	}
}

func TestPluralForms(t *testing.T) {
	for _, file := range oddFiles(t) {
		document, findings := file.format.Parse(file.data)
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
			again, more := file.format.Parse(out)
			require.False(t, damaged(more), "%s\n%s", file.name, out)
			if got := strings.Replace(own(again).Find(e.Key).Message.String(), "many: form other | ", "", 1); len(losses) == 0 {
				require.Equal(t, "one: form one | few: form few | other: form other", got, file.name)
			} else {
				require.Equal(t, "one: form one | other: form other", got, file.name)
			}
		}
	}
}

// Random texts survive being written and read by every format, alone and set
// into a file.
func TestRandomTexts(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringOfN(rapid.SampledFrom([]rune("ab '\"\\<>&{}%@?#\n\té😀;=/*-\u00a0\u202e1$sd,:]")), 0, 24, -1).Draw(t, "text")
		for _, f := range Formats {
			if f.Name == "stringsdict" || f.Name == "mo" {
				continue
			}
			c := &catalog.Catalog{Culture: "en"}
			c.Add(catalog.Entry{Key: "a", Message: message.Plain(text)})
			c.Add(catalog.Entry{Key: "b", Message: message.Plain("plain")})
			data, losses := f.Compose(c, format.Options{})
			document, findings := f.Parse(data)
			if damaged(findings) {
				t.Fatalf("%s: %q: %v\n%s", f.Name, text, findings, data)
			}
			if e := own(document).Find("a"); e == nil && len(losses) > 0 {
				continue // told as lost
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
				continue
			} else if got := e.Message.String(); damaged(findings) || got != text && len(losses) == 0 {
				t.Fatalf("%s: %q set was read as %q: %v\n%s", f.Name, text, got, findings, edited)
			}
		}
	})
}

func TestFaultsSayWhereAndHow(t *testing.T) {
	archive, err := txtar.ParseFile("testdata/odd.txtar")
	require.NoError(t, err)
	want := map[string][]string{
		"values-de/damaged.xml": {"2:5 <string> is not closed", "5:5 the key twice stands twice; first in line 4", "6:5 <string> without a name",
			"7:18 the value of name has no closing quote", "9:5 text between the elements", `10:23 "lots" is no quantity`},
		"de.lproj/Damaged.strings": {`1:21 a semicolon is missing after the text of "a"`, "3:7 a quote that is not closed", `5:1 "=" where a key belongs`,
			`6:5 a = is missing after the key "e"`, `7:7 the text of "f" is missing`, `8:12 \q is no escape`, "10:1 a comment that is not closed"},
		"Damaged.de.resx": {"2:42 <value> is not closed", "4:3 the key Next stands twice; first in line 3", "5:3 <data> without a name", "6:51 the tag <b> stands bare in a text"},
		"app_de.arb": {"4:3 a comma is missing before this key", "4:20 a brace that is not closed", "6:3 the key c stands twice; first in line 5",
			`7:8 "unquoted" is no JSON value`, "8:8 a quote that is not closed", `10:13 \q is no escape`, "10:23 a comma before the closing brace"},
		"Damaged_de.properties": {`2:7 \u without four hexadecimal digits, which Java refuses to load`, "4:1 the key fine stands twice; first in line 1"},
	}
	for _, file := range archive.Files {
		if want[file.Name] == nil {
			continue
		}
		f, _ := Detect(file.Name, file.Data)
		_, findings := f.Parse(file.Data)
		var have []string
		for _, found := range findings {
			have = append(have, fmt.Sprintf("%d:%d %s", found.Line, found.Column, found.Message))
			assert.NotEmpty(t, found.Fix, found.Message)
		}
		for _, line := range want[file.Name] {
			assert.Contains(t, have, line, "%s\n%s", file.Name, strings.Join(have, "\n"))
		}
	}
}

func TestFormatsAreWhole(t *testing.T) {
	for _, f := range Formats {
		for _, missing := range []bool{f.Recognise == nil, f.Locate == nil, f.Path == nil, f.Parse == nil, f.Message == nil, f.Compose == nil} {
			assert.False(t, missing, f.Name)
		}
		for _, text := range []string{f.Name, f.Title, f.Files, f.Table} {
			assert.NotEmpty(t, text, f.Name)
		}
		m, faults := f.Message("plain text")
		assert.Empty(t, faults)
		assert.Equal(t, "plain text", m.String())
		path := f.Path("dir", "Table", "pt-BR", false)
		location := f.Locate(path)
		if !f.Holds.Many {
			assert.Equal(t, "pt-BR", string(location.Culture), path)
		}
		assert.Equal(t, "dir/Table", location.Family(), path)
		if f.Name == "mo" || f.Name == "xliff2" { // named only to be written
			continue
		}
		found, fit := Detect(path, []byte("<TS><resources><string key,en"))
		assert.Equal(t, f.Name, found.Name)
		assert.Equal(t, format.Yes, fit)
	}
}

func TestNamed(t *testing.T) {
	f, err := Named("arb")
	require.NoError(t, err)
	assert.Equal(t, "arb", f.Name)
	_, err = Named("andriod")
	assert.ErrorContains(t, err, "android was probably meant")
	_, err = Named("x")
	assert.ErrorContains(t, err, "there are android, strings")
}

// withoutIdle takes out selectors that nothing depends on beside others: a
// writer may leave them out.
func withoutIdle(c *message.Choice) {
	for i := 0; c != nil && i < len(c.Selectors) && len(c.Selectors) > 1; i++ {
		if slices.ContainsFunc(c.Variants, func(v message.Variant) bool { return v.Keys[i] != message.Default }) {
			continue
		}
		c.Selectors = slices.Delete(slices.Clone(c.Selectors), i, i+1)
		for j := range c.Variants {
			c.Variants[j].Keys = slices.Delete(slices.Clone(c.Variants[j].Keys), i, i+1)
		}
		i--
	}
}

// complete makes the messages of a document comparable.
func complete(d format.Document) {
	for _, c := range d.Catalogs() {
		c.Complete(nil)
		for i := range c.Entries {
			m := c.Entries[i].Message
			withoutIdle(m.Choice)
			if m.Choice == nil || len(m.Choice.Selectors) != 1 || !slices.ContainsFunc(m.Choice.Variants, func(v message.Variant) bool { return v.Keys[0] == message.Default }) {
				continue
			}
			other := m.Main().String()
			m.Choice.Variants = slices.DeleteFunc(m.Choice.Variants, func(v message.Variant) bool { // what says the same as other
				return v.Keys[0] != message.Default && !strings.HasPrefix(v.Keys[0], "=") && v.Pattern.String() == other
			})
		}
	}
}

// fuzz checks a reader on anything: no panic, the same bytes back, and what is
// composed of it reads the same.
func fuzz(f *testing.F, target *format.Format) {
	for _, file := range oddFiles(f) {
		if file.format == target {
			f.Add(file.data)
		}
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		if len(data) > 1<<16 {
			return
		}
		document, findings := target.Parse(data)
		out, _, err := document.Edit(nil)
		if err != nil || !bytes.Equal(out, data) {
			t.Fatalf("the bytes changed: %v", err)
		}
		editOne(t, target, data, len(findings) == 0)
		if len(findings) > 0 {
			return
		}
		complete(document)
		var composed []byte
		var losses []catalog.Loss
		if list := document.Catalogs(); len(list) > 1 && target.Join == nil {
			return
		} else if len(list) > 1 {
			composed, losses = target.Join(list)
		} else {
			composed, losses = target.Compose(list[0], format.Options{})
		}
		if len(losses) > 0 {
			return
		}
		again, findings := target.Parse(composed)
		if damaged(findings) {
			t.Fatalf("what was composed is damaged: %v\n%q", findings, composed)
		}
		complete(again)
		want, have := texts(document), texts(again)
		for id, text := range want {
			if have[id] != text {
				t.Fatalf("%q: %q became %q\n%q", id, text, have[id], composed)
			}
		}
	})
}

// editOne changes a text of whatever was read: it does not panic, and where the
// file is whole all other texts stay what they were.
func editOne(t *testing.T, target *format.Format, data []byte, whole bool) {
	document, _ := target.Parse(data)
	c := own(document)
	if len(c.Entries) == 0 {
		return
	}
	e := c.Entries[len(data)%len(c.Entries)]
	text := []rune(e.Message.Main().String())
	at := len(data) % (len(text) + 1)
	m, faults := target.Message(string(text[:at]) + "é x" + string(text[min(at+1, len(text)):]))
	if e.Message.Choice != nil || len(faults) > 0 || m.Choice != nil {
		return
	}
	edited, _, err := document.Edit(change(document, format.Change{Op: format.Set, Key: e.ID(), Message: &m}))
	if err != nil || !whole || bytes.IndexByte(data, 0) >= 0 { // whether UTF-16 is one without a mark is a guess
		return
	}
	want := texts(document)
	again, _ := target.Parse(edited)
	have := texts(again)
	for id, text := range want {
		if unsigned.Replace(have[id]) != unsigned.Replace(text) && id != e.ID() {
			t.Fatalf("setting %q: %q was %q and is %q\n%q", e.ID(), id, text, have[id], edited)
		}
	}
}

// unsigned takes away the signs of placeholders: how a file spells them is found by
// all of its texts.
var unsigned = strings.NewReplacer("{", "", "}", "", "$", "", "%", "", " ", "")

func fuzzNamed(f *testing.F, name string) {
	target, err := Named(name)
	require.NoError(f, err)
	fuzz(f, target)
}

func FuzzAndroid(f *testing.F)     { fuzzNamed(f, "android") }
func FuzzStrings(f *testing.F)     { fuzzNamed(f, "strings") }
func FuzzStringsdict(f *testing.F) { fuzzNamed(f, "stringsdict") }
func FuzzResx(f *testing.F)        { fuzzNamed(f, "resx") }
func FuzzARB(f *testing.F)         { fuzzNamed(f, "arb") }
func FuzzProperties(f *testing.F)  { fuzzNamed(f, "properties") }
func FuzzPO(f *testing.F)          { fuzzNamed(f, "po") }
func FuzzQt(f *testing.F)          { fuzzNamed(f, "qt") }
func FuzzXLIFF(f *testing.F)       { fuzzNamed(f, "xliff") }
func FuzzJSON(f *testing.F)        { fuzzNamed(f, "json") }
func FuzzSheet(f *testing.F)       { fuzzNamed(f, "sheet") }
func FuzzTMX(f *testing.F)         { fuzzNamed(f, "tmx") }
func FuzzWinRC(f *testing.F)       { fuzzNamed(f, "winrc") }
func FuzzXCStrings(f *testing.F)   { fuzzNamed(f, "xcstrings") }
