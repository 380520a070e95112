package accessor_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/accessor"
	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
)

func TestNames(t *testing.T) {
	for key, want := range map[string]string{
		"boarding.greeting": "boardingGreeting", "boarding_title": "boardingTitle", "deckNumber": "deckNumber", "URLs": "urls",
		"9lives": "text9lives", "": "text", "...": "text", "tür": "tu00fcr", "days[0]": "days0",
	} {
		assert.Equal(t, want, accessor.Camel(accessor.Words(key)), key)
	}
}

// An array whose members take no arguments is a list, too; a name that is taken gets
// List after it.
func TestLists(t *testing.T) {
	var c accessor.Catalog
	for _, key := range []string{"days[0]", "days[1]", "days[2]", "title", "title[0]", "rest[1]", "asked[0]"} {
		c.Members = append(c.Members, accessor.Member{Key: key, Words: accessor.Words(key)})
	}
	c.Members[6].Parameters = []accessor.Parameter{{Words: []string{"n"}}}
	c.Name(nil, accessor.Camel, accessor.Camel)
	lists := map[string][]string{}
	for _, list := range c.Lists {
		for _, m := range list.Items {
			lists[list.Name] = append(lists[list.Name], m.Name)
		}
	}
	assert.Equal(t, map[string][]string{"days": {"days0", "days1", "days2"}, "titleList": {"title0"}}, lists)
}

// What a note says is a sentence in a comment, and names an argument that has no name.
func TestNotes(t *testing.T) {
	family := &catalog.Family{Name: "x", Source: "en", Members: []*catalog.Member{{Culture: "en", Catalog: &catalog.Catalog{Culture: "en", Entries: []catalog.Entry{{
		Key: "welcome", Note: "Greets (at the pier)", Message: message.Message{Pattern: message.Pattern{&message.Placeholder{Name: "arg1", Position: 1}, message.Text("!")}},
	}, {
		Key: "leave", Note: "{0} = guest name, {1} is the pier", Message: message.Message{Pattern: message.Pattern{&message.Placeholder{Name: "arg1", Position: 1}, message.Text(" "), &message.Placeholder{Name: "arg2", Position: 2}}},
	}}}}}}
	m, err := accessor.New(&accessor.Language{}, []accessor.Part{{Family: family}}, accessor.Options{})
	require.NoError(t, err)
	members := m.Catalogs[0].Members
	assert.Equal(t, "Greets (at the pier).", members[0].Note)
	assert.Equal(t, []string{"arg1"}, members[0].Parameters[0].Words)
	assert.Equal(t, []string{"guest", "name"}, members[1].Parameters[0].Words)
	assert.Equal(t, []string{"pier"}, members[1].Parameters[1].Words)
	assert.Equal(t, "arg2", members[1].Parameters[1].Key)
}

// The generated expressions of every culture's rules are of the shape that
// C-like languages read: balanced, and over the operands alone.
func TestPluralExpressions(t *testing.T) {
	for _, language := range culture.Languages() {
		for _, rules := range []culture.Rules{culture.Tag(language).Cardinal(), culture.Tag(language).Ordinal()} {
			for _, rule := range rules {
				text := accessor.Expression(rule.Condition, "==", "!=")
				assert.Equal(t, strings.Count(text, "("), strings.Count(text, ")"), text)
				assert.Empty(t, strings.Trim(text, "ivwft0123456789 %=!&|<>()"), text)
			}
		}
	}
	for tag, want := range map[culture.Tag]string{
		"en": "i == 1 && v == 0", "fr": "i == 0 || i == 1", "ar": "t == 0 && i == 0",
	} {
		assert.Equal(t, want, accessor.Expression(tag.Cardinal()[0].Condition, "==", "!="), tag)
	}
}

func TestLayout(t *testing.T) {
	call := accessor.Piece{Text: "call(", Items: []accessor.Piece{{Text: "first"}, accessor.Row("inner(", []string{"a", "b"}, ")"), {Text: "name:", Rest: "value"}}, Close: ")"}
	for _, c := range []struct {
		name   string
		layout accessor.Layout
		want   string
	}{
		{"fits", accessor.Layout{Width: 40, Indent: 2}, "  call(first, inner(a, b), name: value);"},
		{"a line each", accessor.Layout{Width: 30, Indent: 2, Comma: true}, "  call(\n    first,\n    inner(a, b),\n    name: value,\n  );"},
		{"no comma after the last", accessor.Layout{Width: 30, Indent: 2}, "  call(\n    first,\n    inner(a, b),\n    name: value\n  );"},
		{"inner lists and parts, too", accessor.Layout{Width: 13, Indent: 2, Hang: 4}, "  call(\n    first,\n    inner(\n      a,\n      b\n    ),\n    name:\n        value\n  );"},
		{"closed, the items in a line", accessor.Layout{Width: 39, Indent: 4, Closed: true}, "  call(\n      first, inner(a, b), name: value);"},
		{"closed, a line each", accessor.Layout{Width: 30, Indent: 4, Closed: true}, "  call(\n      first,\n      inner(a, b),\n      name: value);"},
		{"filled", accessor.Layout{Width: 30, Filled: true}, "  call(first, inner(a, b),\n       name: value);"},
		{"filled, below where an item has no place", accessor.Layout{Width: 18, Hang: 4, Filled: true}, "  call(\n      first,\n      inner(a, b),\n      name:\n          value);"},
	} {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.want, "  "+c.layout.Lay(call, 2, ";")) })
	}
}

func TestConditionsAreBroken(t *testing.T) {
	const rule = "(v == 0 && i != 1) || (v == 0 && i >= 5) || f > 12"
	for _, c := range []struct {
		name    string
		layout  accessor.Layout
		leading bool
		text    string
		want    string
	}{
		{"fits", accessor.Layout{Width: 80, Hang: 4}, false, rule, "  if (" + rule + ") {"},
		{"after operators", accessor.Layout{Width: 40, Hang: 4}, false, rule, "  if ((v == 0 && i != 1) ||\n      (v == 0 && i >= 5) ||\n      f > 12) {"},
		{"before operators", accessor.Layout{Width: 40, Hang: 8}, true, rule, "  if ((v == 0 && i != 1)\n          || (v == 0 && i >= 5)\n          || f > 12) {"},
		{"filled", accessor.Layout{Width: 50, Hang: 4, Filled: true}, false, rule, "  if ((v == 0 && i != 1) || (v == 0 && i >= 5) ||\n      f > 12) {"},
		{"and, where nothing is outside of it", accessor.Layout{Width: 20, Hang: 4}, false, "v == 0 && (i < 2 || i > 4)", "  if (v == 0 &&\n      (i < 2 || i > 4)) {"},
	} {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.want, c.layout.Condition("  if (", c.text, ") {", c.leading)) })
	}
}

func TestFill(t *testing.T) {
	assert.Equal(t, "// one two\n// three", accessor.Fill("// ", " one  two\nthree", 12))
	assert.Equal(t, "// a\n// wordThatIsTooLong\n// b", accessor.Fill("// ", "a wordThatIsTooLong b", 12))
}
