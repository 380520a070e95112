package loose

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestSpellings(t *testing.T) {
	for _, row := range []struct {
		text     string
		spelling Spelling
		read     string // as people see it
		names    []string
	}{
		{"Hello, {name}", Braces, "Hello, {name}", []string{"name"}},
		{"{0} of {1}", Braces, "{0} of {1}", []string{"", ""}},
		{"{count, plural, one {# crate} other {# crates}}", Braces, "one: {count} crate | other: {count} crates", []string{"count", "count", "count"}},
		{"Hello, {{name}}", Double, "Hello, {name}", []string{"name"}},
		{"{{count, number}} crates", Double, "{count} crates", []string{"count"}},
		{"Hello, %{name}", Percent, "Hello, {name}", []string{"name"}},
		{"Hello, ${name}", Dollar, "Hello, {name}", []string{"name"}},
		{"%s of %2$d", Printf, "%s of %2$d", []string{"", ""}},
		{"%1$@ has %2$lld", Apple, "%1$@ has %2$lld", []string{"", ""}},
		{"no placeholder", Braces, "no placeholder", nil},
		{"a {b c} d {", Braces, "a {b c} d {", nil},
		{"{ not one }", Braces, "{ not one }", nil},
		{"it's 100% of :all @home", Braces, "it's 100% of :all @home", nil},
	} {
		spelling := Of(row.text)
		assert.Equal(t, row.spelling, spelling, row.text)
		m, faults := spelling.Parse(row.text)
		assert.Empty(t, faults, row.text)
		assert.Equal(t, row.read, m.String(), row.text)
		var names []string
		for p := range m.Placeholders() {
			names = append(names, p.Name)
		}
		assert.Equal(t, row.names, names, row.text)
		written, losses := spelling.Write(m)
		assert.Empty(t, losses, row.text)
		assert.Equal(t, row.text, written)
	}
}

func TestNamedSigns(t *testing.T) {
	m, _ := Colon.Parse("Hello :name, at 9:40 see https://skerryline.example")
	assert.Equal(t, "Hello {name}, at 9:40 see https://skerryline.example", m.String())
	m, _ = At.Parse("Hello @name, write to info@skerryline.example")
	assert.Equal(t, "Hello {name}, write to info@skerryline.example", m.String())
}

func TestVotes(t *testing.T) {
	var votes Votes
	for _, text := range []string{"{{a}} x", "{{b}}", "{c}", "%s"} {
		votes.Count(text)
	}
	assert.Equal(t, Double, votes.Best())
	votes = Votes{}
	for _, text := range []string{"%d x", "%d y", "%@ z"} {
		votes.Count(text)
	}
	assert.Equal(t, Apple, votes.Best(), "what printf spells belongs to Apple's where that is there, too")
}

func TestLosses(t *testing.T) {
	m, _ := Braces.Parse("{price, number, ::currency/EUR} for {name}")
	text, losses := Double.Write(m)
	assert.Equal(t, "{{price}} for {{name}}", text)
	assert.Len(t, losses, 1)
	assert.Equal(t, "type", losses[0].Kind)
	assert.True(t, Braces.Misread("{x}"))
	assert.False(t, Braces.Misread("it's"))
}
