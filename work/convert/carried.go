package convert

import (
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/message"
	"zelvik/project"
)

// carry returns what the files hold as the target can hold it, see carried.
func (w *writer) carry(holdings []project.Holding) ([]project.Holding, []catalog.Loss) {
	out := slices.Clone(holdings)
	var losses []catalog.Loss
	for i, h := range holdings {
		var more []catalog.Loss
		out[i].Catalog, more = w.carried(h.Catalog, h.File.Format)
		for j := range more {
			more[j].Culture = h.Catalog.Culture
		}
		losses = append(losses, more...)
	}
	return out, losses
}

// carried returns a catalog as the target can hold it, and what that loses: marks
// around text that translations keep become that text where the target has no
// place for markup, and texts that are the platform's own are no more than their
// names elsewhere. A catalog without any of these is given as it is.
func (w *writer) carried(c *catalog.Catalog, from *format.Format) (*catalog.Catalog, []catalog.Loss) {
	if c == nil || from == w.target || !from.Holds.Markup {
		return c, nil
	}
	var losses []catalog.Loss
	out := c
	change := func(i int) *catalog.Entry {
		if out == c {
			out = &catalog.Catalog{Culture: c.Culture, Entries: slices.Clone(c.Entries)}
		}
		return &out.Entries[i]
	}
	lose := func(e *catalog.Entry, kind, lost, instead string) {
		losses = append(losses, catalog.Loss{Kind: kind, Key: e.Key, Offset: e.Offset, Lost: lost, Instead: instead})
	}
	for i := range c.Entries {
		e := &c.Entries[i]
		if e.Platform() {
			lose(e, "reference", "that the text is the platform's "+e.Reference, "its name, as a text")
			change(i).Reference = ""
		}
		if w.target.Holds.Markup {
			continue
		}
		for _, p := range e.Message.Patterns() {
			if slices.ContainsFunc(p, kept) {
				lose(e, "markup", "that a part of the text stays as it is in translations", "the text alone")
				change(i).Message = bare(e.Message)
				break
			}
		}
	}
	return out, losses
}

// kept reports whether a part is the mark around what translations keep, which
// Android calls <xliff:g>.
func kept(p message.Part) bool {
	m, ok := p.(*message.Markup)
	return ok && strings.HasSuffix(m.Tag, ":g")
}

// bare returns a message without such marks.
func bare(m message.Message) message.Message {
	strip := func(p message.Pattern) message.Pattern {
		var out message.Pattern
		for _, part := range p {
			if !kept(part) {
				out = out.Add(part)
			}
		}
		return out
	}
	if m.Choice == nil {
		return message.Message{Pattern: strip(m.Pattern)}
	}
	choice := *m.Choice
	choice.Variants = slices.Clone(choice.Variants)
	for i := range choice.Variants {
		choice.Variants[i].Pattern = strip(choice.Variants[i].Pattern)
	}
	return message.Message{Choice: &choice}
}
