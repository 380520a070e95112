package verify

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/finding"
	"zelvik/message"
)

var markupBroken = &Rule{
	Name: "markup-broken", Severity: finding.Error,
	Doc:     "Tags are not closed, or are others than in the source.",
	Why:     "What shows the text shows the tag as characters, or nothing after it; a link leads nowhere.",
	Example: `source "<b>Pier 2</b>", translation "<b>Anleger 2<b>"`,
	Fix:     "Write the tags of the source, each with its end.",
	Pair: func(p *Pair, report Report) {
		if !comparable(p) {
			return
		}
		if _, plain := p.Source.Message.Plain("<"); plain { // as most are
			if _, plain := p.Entry.Message.Plain("<"); plain {
				return
			}
		}
		source := tags(p.Source.Message)
		if source.open != "" { // not markup, or no better itself
			return
		}
		for keys, pattern := range p.Entry.Message.Patterns() {
			if len(pattern) == 0 {
				continue
			}
			own := tagsOf(pattern)
			form := ""
			if keys != nil {
				form = " in the form " + strings.Join(keys, "+")
			}
			if own.open != "" {
				report(p.Entry, fmt.Sprintf("the tag %s has no counterpart%s", own.open, form), "")
				return
			}
			for _, name := range source.names {
				if !slices.Contains(own.names, name) && !slices.Contains(lone, name) && everywhere(p.Source.Message, name) {
					report(p.Entry, fmt.Sprintf("the tag <%s> of the source is missing%s", name, form), "")
					return
				}
			}
			for _, name := range own.names {
				if !slices.Contains(source.names, name) && !slices.Contains(lone, name) && !slices.Contains(typographic, name) {
					var about any = p.Entry
					if len(source.names) == 0 && slices.Contains(stressing, name) { // what shows it may read tags all the same
						about = mild{p.Entry}
					}
					report(about, fmt.Sprintf("the source has no tag <%s>%s", name, form), "")
					return
				}
			}
		}
	},
}

// lone are elements that a translation may have more or fewer of: they only
// break lines.
var lone = []string{"br", "wbr", "p", "hr"}

// typographic are elements that a language may need where another does not: French
// writes 2e with a raised e.
var typographic = []string{"sup", "sub", "bdi", "bdo", "nobr", "ruby", "rt", "rp", "small"}

// stressing are elements that set a word off, as translators do with a name that
// they leave as it is.
var stressing = []string{"i", "b", "em", "strong", "u", "code"}

// tagged are the elements of a text; open is a tag that is not closed, or an end
// without one.
type tagged struct {
	names []string
	open  string
}

// tags returns those of all forms of a message.
func tags(m message.Message) tagged {
	var all tagged
	for _, pattern := range m.Patterns() {
		own := tagsOf(pattern)
		if all.open == "" {
			all.open = own.open
		}
		for _, name := range own.names {
			if !slices.Contains(all.names, name) {
				all.names = append(all.names, name)
			}
		}
	}
	return all
}

// everywhere reports whether each form of a message has the element.
func everywhere(m message.Message, name string) bool {
	for _, pattern := range m.Patterns() {
		if !slices.Contains(tagsOf(pattern).names, name) {
			return false
		}
	}
	return true
}

func tagsOf(p message.Pattern) tagged {
	var found tagged
	var open []*message.Markup
	for tag := range p.Tags() {
		name := strings.ToLower(tag.Tag)
		if !slices.Contains(found.names, name) {
			found.names = append(found.names, name)
		}
		switch {
		case tag.Role == message.Open && !slices.Contains(lone, name) && name != "img":
			open = append(open, tag)
		case tag.Role == message.Close && !slices.Contains(lone, name):
			if n := len(open); n == 0 || !strings.EqualFold(open[n-1].Tag, tag.Tag) {
				found.open = tag.String()
				return found
			}
			open = open[:len(open)-1]
		}
	}
	if len(open) > 0 {
		found.open = open[len(open)-1].String()
	}
	return found
}
