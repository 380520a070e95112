package format

import (
	"strings"

	"zelvik/catalog"
	"zelvik/message"
	"zelvik/message/loose"
)

// Guessed gathers the texts of a new file whose reader finds out from them how
// they spell placeholders, so that a writer can tell which will be read as
// something else.
type Guessed struct {
	// Carried says that the texts are those of an exchange file.
	Carried bool
	votes   loose.Votes
	texts   []guessed
}

type guessed struct {
	catalog *catalog.Catalog
	entry   *catalog.Entry
	text    string
	meant   message.Message
}

// Add keeps a text, and the message that it spells.
func (g *Guessed) Add(t *Teller, text string, meant message.Message) {
	if strings.IndexByte(text, '{') < 0 && strings.IndexByte(text, '%') < 0 {
		return
	}
	g.votes.Count(text)
	g.texts = append(g.texts, guessed{t.Catalog, t.Entry, text, meant})
}

// Join adds what was gathered elsewhere.
func (g *Guessed) Join(other *Guessed) {
	g.votes.Add(other.votes)
	g.texts = append(g.texts, other.texts...)
}

// Tell reports the texts that will be read as something else, though they were
// written in a spelling.
func (g *Guessed) Tell(t *Teller, spelling loose.Spelling) {
	best := g.votes.Best()
	for i := range g.texts {
		e := &g.texts[i]
		if best == spelling && (e.meant.Choice != nil || e.meant.HasPlaceholders()) {
			continue
		}
		parse := best.Parse
		if g.Carried {
			parse = best.Carried
		}
		if read, _ := parse(e.text); read.Choice == nil != (e.meant.Choice == nil) || read.Choice == nil && read.Pattern.Shown() != e.meant.Pattern.Shown() {
			t.Catalog, t.Entry = e.catalog, e.entry
			t.Lose("escape", "which signs in the text are a placeholder", "they are read as in most texts of the file, as "+best.String())
		}
	}
}

// SpellingOf returns the way in which most placeholders of catalogs were spelled,
// where it is one that a reader sees: {{name}}, %{name} or ${name}. A new file
// keeps it; else it is {name}.
func SpellingOf(catalogs ...*catalog.Catalog) loose.Spelling {
	var votes loose.Votes
	for _, c := range catalogs {
		for i := range c.Entries {
			if _, plain := c.Entries[i].Message.Plain(""); plain {
				continue
			}
			for p := range c.Entries[i].Message.Placeholders() {
				if p.Syntax == message.Braces {
					votes.Count(p.Spelling)
				} else {
					votes[loose.Braces]++
				}
			}
		}
	}
	return votes.Best()
}
