package verify

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

var keyOrphan = &Rule{
	Name: "key-orphan", Severity: finding.Warning,
	Doc:     "A translation has a key that the source does not have.",
	Why:     "It is a leftover, or the source forgot it, and other cultures show nothing there.",
	Example: "values-de/strings.xml has old_title, values/strings.xml has not",
	Fix:     "Remove it, or add it to the source.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		source := f.SourceMember()
		if source == nil || m == source {
			return
		}
		orphans := 0
		sources := source.Catalog.Follow()
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			if sources.Find(e.ID()) != nil || status.Listed(f.Family, source.Catalog, e.Key) || longer(f, source.Catalog, e.Key) {
				continue
			}
			fix := ""
			if orphans++; orphans > mostSlips {
			} else if near := nearKey(source.Catalog, e.Key); near != "" {
				fix = near + " was probably meant"
				if strings.EqualFold(near, e.Key) {
					fix = "the source spells it " + near + "; keys that differ by case are two"
				}
			}
			report(e, "the source has no key "+e.Key, fix)
		}
	},
}

// mostSlips is up to how many keys of a file are looked for by what is like
// them. With more, the file is another one, and no slip.
const mostSlips = 50

// nearKey looks for a key that differs by a slip, in catalogs of a size where
// that is quick.
func nearKey(c *catalog.Catalog, key string) string {
	if len(c.Entries) > 5000 {
		return ""
	}
	keys := make([]string, len(c.Entries))
	for i := range c.Entries {
		keys[i] = c.Entries[i].Key
	}
	return finding.Nearest(key, keys)
}

// longer reports whether a key is an item more of a list that the source has, or one
// of the numbered plurals of its text: languages have different numbers of forms.
func longer(f *Family, source *catalog.Catalog, key string) bool {
	if f.Format != "json" {
		return false
	}
	if name, _, ok := catalog.SplitArrayKey(key); ok {
		return source.Find(catalog.ArrayKey(name, 0)) != nil
	}
	stem := strings.TrimRight(key, "0123456789")
	if stem = strings.TrimSuffix(stem, "_"); stem == key {
		stem = strings.TrimSuffix(key, "_plural")
	}
	return stem != key && (source.Find(stem) != nil || source.Find(strings.TrimSuffix(stem, "_plural")) != nil)
}

var textMissing = &Rule{
	Name: "text-missing", Severity: finding.Warning,
	Doc:     "A culture has no text for a key, nor has a parent that may answer for it.",
	Why:     "The reader sees the source language in the middle of their own.",
	Example: "boarding_title is in values/ and not in values-fi/",
	Fix:     "Translate it: zelvik set KEY TEXT --culture TAG",
	Family: func(f *Family, report Report) {
		source := f.SourceMember()
		if source == nil {
			return
		}
		var thin []*catalog.Member // are reported as a whole
		lacks := map[*catalog.Member][]*catalog.Entry{}
		for _, m := range f.Members {
			if m == source || m.Culture.Pseudo() {
				continue
			}
			of, own := 0, m.Catalog.Follow()
			for i := range source.Catalog.Entries {
				s := &source.Catalog.Entries[i]
				switch status.Uncompared(f.Family, m, s, own.Find(s.ID()), f.Names) {
				case status.Exempt:
					continue
				case status.Missing:
					if !parentTold(f, m) {
						lacks[m] = append(lacks[m], s)
					}
				case status.Waiting:
					lacks[m] = append(lacks[m], s)
				}
				of++
			}
			if n := len(lacks[m]); n > mostLacking && n*2 > of {
				thin = append(thin, m)
				report(m, fmt.Sprintf("%s has %d of %d texts", m.Culture.Name(), of-n, of), "zelvik draft fills them, zelvik handoff gives them to a translator")
			}
		}
		for i := range source.Catalog.Entries {
			s := &source.Catalog.Entries[i]
			about := lacking{source: s}
			var names []string
			for _, m := range f.Members {
				if !slices.Contains(thin, m) && len(lacks[m]) > 0 && lacks[m][0] == s {
					about.members, names = append(about.members, m), append(names, m.Culture.Name())
					lacks[m] = lacks[m][1:]
				}
			}
			if names != nil {
				report(about, fmt.Sprintf("%s (%q) has no text in %s", s.Key, short(s.Message), strings.Join(names, ", ")), "")
			}
		}
	},
}

// mostLacking is up to how many missing texts of a culture are reported one by one,
// whatever part of it they are.
const mostLacking = 10

var cultureAbsent = &Rule{
	Name: "culture-absent", Severity: finding.Error,
	Doc:     "A culture that zelvik.yaml names has no file in a family.",
	Why:     "Its readers see the source language, and nothing tells that somebody should translate.",
	Example: "cultures: [de, fr] beside values/ and values-de/",
	Fix:     "Make its files: zelvik begin TAG",
	Family: func(f *Family, report Report) {
		var names []string
		for _, tag := range f.Absent() {
			names = append(names, fmt.Sprintf("%s (%s)", tag.Name(), tag))
		}
		if names != nil {
			report(f.Name, "zelvik.yaml names cultures that have no file here: "+strings.Join(names, ", "), "")
		}
	},
}

// Absent returns the cultures that the family is to have and has not.
func (f *Family) Absent() (list []culture.Tag) {
	for _, tag := range f.Cultures {
		misnamed := func(m Misnamed) bool { return m.Culture == tag } // that is reported
		if f.Member(tag) == nil && !f.Partial && !slices.ContainsFunc(f.Misnamed, misnamed) {
			list = append(list, tag)
		}
	}
	return list
}

// parentTold reports whether a parent of a culture is in the family: what it
// lacks is reported there, and once.
func parentTold(f *Family, m *catalog.Member) bool {
	return slices.ContainsFunc(m.Culture.Parents(), func(tag culture.Tag) bool {
		return tag != f.Source && f.Member(tag) != nil
	})
}

// short returns the beginning of a message, spelled as its file does.
func short(m message.Message) string {
	var whole strings.Builder
	for _, part := range m.Main() {
		switch part := part.(type) {
		case message.Text:
			whole.WriteString(string(part))
		case *message.Placeholder:
			whole.WriteString(spelled(part))
		case *message.Markup:
			whole.WriteString(part.String())
		}
	}
	text := []rune(whole.String())
	if len(text) > 40 {
		return string(text[:39]) + "…"
	}
	return string(text)
}

var textEmpty = &Rule{
	Name: "text-empty", Severity: finding.Warning,
	Doc:     "A translation is empty where the source is not.",
	Why:     "An empty text does not fall back: the label is blank.",
	Example: `<string name="boarding_title"></string>`,
	Fix:     "Translate it, or remove the entry so that it falls back.",
	Pair: func(p *Pair, report Report) {
		if p.Status == status.Empty {
			report(p.Entry, "the text is empty; the source says "+fmt.Sprintf("%q", short(p.Source.Message)), "")
		}
	},
}

var textMoved = &Rule{
	Name: "text-moved", Severity: finding.Warning,
	Doc:     "The source changed after this was translated.",
	Why:     "The translation says what the source said before.",
	Example: `"Harbour map" became "Chart of the harbour", and the German text is still "Hafenplan"`,
	Fix:     "Translate it anew, or say that it still fits: zelvik set KEY --state done --culture TAG",
	Pair: func(p *Pair, report Report) {
		if p.Status == status.Moved {
			report(p.Entry, fmt.Sprintf("the source changed after the translation; now it says %q", short(p.Source.Message)), "")
		}
	},
}

var textDraft = &Rule{
	Name: "text-draft", Severity: finding.Advice,
	Doc:     "A machine made this translation, and nobody has looked at it yet.",
	Why:     "Memories and services get gender, tone and names wrong.",
	Example: "zelvik draft filled boarding_title in Finnish",
	Fix:     "Read it; then change it, or say that it is right: zelvik set KEY --state done --culture TAG",
	Pair: func(p *Pair, report Report) {
		if p.Status == status.Draft {
			report(p.Entry, fmt.Sprintf("a draft that nobody has looked at: %q", short(p.Entry.Message)), "")
		}
	},
}

var textCopied = &Rule{
	Name: "text-copied", Severity: finding.Warning,
	Doc:     "A translation is the same as the source, and it is no name, number or address.",
	Why:     "A file that was copied to be translated was left as it is.",
	Example: `values-fi/strings.xml: <string name="delay_title">Your sailing is late</string>`,
	Fix:     "Translate it; mark names in zelvik.yaml under verify: names.",
	Pair: func(p *Pair, report Report) {
		if p.Status == status.Copied {
			var about any = p.Entry
			if len(strings.Fields(p.Entry.Message.Main().Literal())) == 1 { // perhaps a name, or a word that people have taken over
				about = mild{p.Entry}
			}
			report(about, fmt.Sprintf("the text is the source's own: %q", short(p.Entry.Message)), "")
		}
	},
}
