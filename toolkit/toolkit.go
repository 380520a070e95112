// Package toolkit says what a toolkit is: how its layouts and manifests are recognised,
// which texts stand in a layout and how it asks for a key, and where manifests and
// builds list the cultures of an application. Each toolkit is a package below this one
// and a line in package toolkit/all.
package toolkit

import (
	"path"
	"regexp"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/language"
)

// Toolkit is one toolkit.
type Toolkit struct {
	// Name is the toolkit's or the platform's, for people.
	Name string
	// Layout and Manifest report whether a file is one of the toolkit's, by its
	// slash-separated path; nil where there are none.
	Layout, Manifest func(path string) bool
	// Source is what its layouts are as sources of texts and of keys; nil where they
	// are not read.
	Source *language.Kind
	// Catalogs are the formats of the toolkit's catalogs, and Neutral gives the culture of
	// those without one in their names, as the project around a folder states it, "" where
	// it does not; nil where none does.
	Catalogs []string
	Neutral  func(disk *files.Disk, dir string) culture.Tag
	// Lists are the lists of cultures in manifests and builds.
	Lists []*List
}

// List is a list of cultures in a file of a platform. One that is not there is not
// made: then the platform takes the cultures of which it finds files.
type List struct {
	// File is a pattern of path.Match for the file's name.
	File string
	// All is a regular expression that finds the list, its first group what stands in
	// it; Item finds one entry of it, its first group the culture.
	All, Item string
	// Gap parts two entries where the list has one alone. Blank says that nothing but
	// space and a line's continuation parts two that stand together.
	Gap   string
	Blank bool
	// Spell returns the culture as the list has it; nil for its tag.
	Spell func(culture.Tag) string
	// Entry returns a whole entry; nil for one that looks as the last.
	Entry func(culture.Tag) string

	once      sync.Once
	all, item *regexp.Regexp
}

// Add puts a culture after the last of the list in a file, as that one stands. It is
// false where there is no list, or it has the culture.
func (l *List) Add(text string, tag culture.Tag) (string, bool) {
	l.once.Do(func() { l.all, l.item = regexp.MustCompile(l.All), regexp.MustCompile(l.Item) })
	place := l.all.FindStringSubmatchIndex(text)
	if place == nil {
		return "", false
	}
	inner := text[place[2]:place[3]]
	items := l.item.FindAllStringSubmatchIndex(inner, -1)
	last := -1
	for i, item := range items {
		known, err := culture.Parse(strings.Replace(inner[item[2]:item[3]], "-r", "-", 1)) // underscores are read as hyphens
		if err == nil && known == tag {
			return "", false
		}
		if err == nil && known.Known() {
			last = i
		}
	}
	if last < 0 {
		return "", false
	}
	item, gap := items[last], l.Gap
	if last > 0 {
		if between := inner[items[last-1][1]:item[0]]; !l.Blank || strings.Trim(between, " \t\r\n\\") == "" {
			gap = between
		}
	}
	var entry string
	switch {
	case l.Entry != nil:
		entry = l.Entry(tag)
	case l.Spell != nil:
		entry = inner[item[0]:item[2]] + l.Spell(tag) + inner[item[3]:item[1]]
	default:
		entry = inner[item[0]:item[2]] + string(tag) + inner[item[3]:item[1]]
	}
	at := place[2] + item[1]
	return text[:at] + gap + entry + text[at:], true
}

// Called makes a Manifest of the names of files.
func Called(names ...string) func(string) bool {
	return func(p string) bool {
		for _, name := range names {
			if ok, err := path.Match(name, path.Base(p)); ok && err == nil {
				return true
			}
		}
		return false
	}
}
