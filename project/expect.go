package project

import (
	"slices"
	"strings"

	"zelvik/culture"
)

// Expect returns an error where no family has a text for one of these cultures, and the
// configuration does not ask for it.
func (w *Workspace) Expect(tags []culture.Tag) error {
	have := append(w.Cultures(), w.Config.Cultures...)
	for _, f := range w.Families {
		have = append(have, f.Others...)
	}
	return Expect(tags, have)
}

// Expect returns an error where a culture that is asked for, and is no pseudo-culture,
// is answered by none of those that are there.
func Expect(tags, have []culture.Tag) error {
	for _, tag := range tags {
		if tag.Pseudo() || slices.ContainsFunc(have, func(t culture.Tag) bool { return Answers(t, []culture.Tag{tag}) }) {
			continue
		}
		var names []string
		for _, t := range have {
			names = append(names, string(t))
		}
		slices.Sort(names)
		return Usage("no family has a text in %s (%s); there are %s, and zelvik begin %s makes a file for it", tag, tag.Name(), strings.Join(slices.Compact(names), ", "), tag)
	}
	return nil
}
