package formattest

import (
	"bytes"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/message"
)

// WithoutIdle takes out selectors that nothing depends on beside others: a
// writer may leave them out.
func WithoutIdle(c *message.Choice) {
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
			WithoutIdle(m.Choice)
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

// Fuzz checks a reader on anything: no panic, the same bytes back, and what is
// composed of it reads the same.
func Fuzz(f *testing.F, target *format.Format) {
	archive, err := txtar.ParseFile(Odd)
	require.NoError(f, err)
	for _, file := range shapes(archive, target) {
		f.Add(file.data)
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
