package project

import (
	"path/filepath"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/message"
)

// Setting is one text or note to be changed.
type Setting struct {
	Key     string
	Culture culture.Tag
	// Text is the new text as the format spells placeholders; nil leaves it.
	Text *string
	// Note is the new note; nil leaves it.
	Note *string
	// State is the new state; nil leaves it.
	State *catalog.State
	// Form is the plural form that the text is for, "" for the whole message.
	Form string
}

// Set plans the change of one text in the native file of its family, and of
// nothing else in it.
func (w *Workspace) Set(s Setting) (*files.Plan, *File, []catalog.Loss, error) {
	family, member, err := w.holder(s)
	if err != nil {
		return nil, nil, nil, err
	}
	file := family.File(member).Holder(s.Key)
	change := format.Change{Op: format.Set, Key: s.Key, Note: s.Note, State: s.State, Culture: member.Culture}
	entry := member.Catalog.Find(s.Key)
	plan := &files.Plan{}
	if s.State != nil && !family.holdsStates() {
		if err := w.setState(family, member, entry, s); err != nil {
			return nil, nil, nil, err
		}
		w.saveLedgers(plan)
		if change.State = nil; s.Text == nil && s.Note == nil {
			return plan, file, nil, nil
		}
	}
	if s.Text != nil {
		m, err := s.message(family, member, entry)
		if err != nil {
			return nil, nil, nil, err
		}
		change.Message = &m
	} else if entry == nil {
		return nil, nil, nil, usage("%s has no text for %s; give one", member.Path, s.Key)
	}
	if entry == nil {
		change.After = neighbour(family, member, s.Key)
		var source *catalog.Catalog
		if m := family.SourceMember(); m != nil {
			source = m.Catalog
		}
		if e := source.Find(s.Key); e != nil {
			change.Source = &e.Message
		}
		if e := source.Find(s.Key); e != nil && e.Message.Choice != nil && family.Format.Companion != nil {
			if companion := family.File(member).Companion; companion != nil {
				file = companion
			}
		}
	}
	data, losses, err := file.Edit([]format.Change{change})
	if err != nil {
		return nil, nil, nil, err
	}
	plan.Add(file.Path, file.data, data)
	return plan, file, losses, nil
}

// setState puts a state into the ledger, for a format that holds none.
func (w *Workspace) setState(family *Family, member *catalog.Member, entry *catalog.Entry, s Setting) error {
	source := family.SourceMember()
	if source == nil || member == source || source.Catalog.Find(s.Key) == nil || entry == nil || s.Text != nil {
		return usage("%s files hold no states, and the ledger holds those of translations that are there: name a culture that has the text, and set the text first", family.Format.Name)
	}
	if *s.State == catalog.Missing {
		return usage("%s files hold no states; remove the text instead", family.Format.Name)
	}
	r, err := w.recall(family)
	if err != nil {
		return err
	}
	r.state(family, s.Key, member.Culture, *s.State)
	return nil
}

// message makes the new message of a text.
func (s Setting) message(family *Family, member *catalog.Member, entry *catalog.Entry) (message.Message, error) {
	m, faults := family.Format.Message(*s.Text)
	if len(faults) > 0 {
		return m, usage("the text: %s at character %d; %s", faults[0].Text, faults[0].Offset+1, faults[0].Mend)
	}
	old := entry
	if old == nil {
		old, _ = family.Lookup(s.Key, member.Culture)
	}
	if old == nil || old.Message.Choice == nil || m.Choice != nil {
		if s.Form != "" {
			return m, usage("%s has no plural forms; leave out --form", s.Key)
		}
		return m, nil
	}
	choice := old.Message.Choice
	if len(choice.Selectors) > 1 {
		return m, usage("%s depends on %d arguments; edit it in the file", s.Key, len(choice.Selectors))
	}
	if s.Form == "" {
		return m, usage("%s has plural forms (%s); name one with --form", s.Key, strings.Join(forms(choice), ", "))
	}
	if !slices.Contains(culture.Categories, s.Form) && !strings.HasPrefix(s.Form, "=") {
		return m, usage("%q is no plural form; use zero, one, two, few, many or other", s.Form)
	}
	changed := &message.Choice{Selectors: choice.Selectors}
	found := false
	for _, v := range choice.Variants {
		if v.Keys[0] == s.Form {
			v.Pattern, found = m.Pattern, true
		}
		changed.Variants = append(changed.Variants, v)
	}
	if !found {
		changed.Variants = append(changed.Variants, message.Variant{Keys: []string{s.Form}, Pattern: m.Pattern})
		slices.SortStableFunc(changed.Variants, func(a, b message.Variant) int {
			return slices.Index(culture.Categories, a.Keys[0]) - slices.Index(culture.Categories, b.Keys[0])
		})
	}
	return message.Message{Choice: changed}, nil
}

func forms(choice *message.Choice) []string {
	var list []string
	for _, v := range choice.Variants {
		list = append(list, strings.Join(v.Keys, "+"))
	}
	return list
}

// holder finds the family and member that a setting is about: the one that has
// the key in the culture, else the one whose source has it.
func (w *Workspace) holder(s Setting) (*Family, *catalog.Member, error) {
	var candidates []*Family
	for _, f := range w.Families {
		for _, m := range f.Members {
			if m.Catalog.Find(s.Key) != nil {
				candidates = append(candidates, f)
				break
			}
		}
	}
	if len(candidates) == 0 && len(w.Families) == 1 && s.Text != nil {
		candidates = w.Families
		var keys []string
		for _, m := range w.Families[0].Members {
			for i := range m.Catalog.Entries {
				keys = append(keys, m.Catalog.Entries[i].Key)
			}
		}
		source := w.Families[0].Source
		nearest := finding.Nearest(s.Key, keys)
		switch {
		case s.Culture == source: // who names the source means to add to it
		case nearest != "" && s.Culture == "":
			return nil, nil, usage("no file has the key %s; %s was probably meant (to add it, say --culture %s)", s.Key, nearest, source)
		case nearest != "":
			return nil, nil, usage("no file has the key %s; %s was probably meant", s.Key, nearest)
		case s.Culture != "":
			return nil, nil, usage("no file has the key %s; add it in the source culture %s first", s.Key, source)
		}
	}
	if len(candidates) == 0 {
		return nil, nil, usage("no file has the key %s; zelvik table lists the keys", s.Key)
	}
	if len(candidates) > 1 {
		var names []string
		for _, f := range candidates {
			names = append(names, f.Name)
		}
		return nil, nil, usage("the key %s is in %d families (%s); name the files of one", s.Key, len(candidates), strings.Join(names, ", "))
	}
	family := candidates[0]
	tag := s.Culture
	if tag == "" {
		tag = family.Source
		if len(family.Members) == 1 {
			tag = family.Members[0].Culture
		}
	}
	member := family.Member(tag)
	if member == nil {
		var have []string
		for _, m := range family.Members {
			if m.Culture != "" {
				have = append(have, string(m.Culture))
			}
		}
		if have == nil {
			return nil, nil, usage("%s has no file for %s, and the files it has name no culture", family.Name, tag)
		}
		return nil, nil, usage("%s has no file for %s; there are %s", family.Name, tag, strings.Join(have, ", "))
	}
	return family, member, nil
}

// neighbour gives the key behind which a new entry goes: the nearest one above
// it in the source that the culture has.
func neighbour(family *Family, member *catalog.Member, key string) string {
	source := family.SourceMember()
	if source == nil {
		return key // it goes last
	}
	for i := source.Catalog.At(key) - 1; i >= 0; i-- {
		if k := source.Catalog.Entries[i].Key; member.Catalog.Find(k) != nil {
			return k
		}
	}
	if source.Catalog.At(key) < 0 {
		return key // not there: it goes last
	}
	return ""
}

// AddPseudo plans a pseudo-culture of every family, beside it or below out.
func (w *Workspace) AddPseudo(tag culture.Tag, make func(*catalog.Catalog) *catalog.Catalog, out string) (*Conversion, error) {
	c := &Conversion{}
	for _, f := range w.Families {
		source := f.SourceMember()
		if source == nil {
			return nil, usage("%s has no file in the source culture %s; name it in zelvik.yaml", f.Name, f.Source)
		}
		file := f.File(source)
		if damage := file.Damaged(); damage != nil {
			return nil, Refuse(damage)
		}
		if f.Format.Holds.Many {
			if err := c.addCulture(f, file, make(source.Catalog), out); err != nil {
				return nil, err
			}
			continue
		}
		dir := f.Dir
		if out != "" {
			dir = out
		}
		made := make(source.Catalog)
		if f.Format.Holds.Items { // the file takes the shape of the source's
			if added, err := c.addLike(f, file, source.Catalog, made, f.PathOf(dir, tag)); err != nil {
				return nil, err
			} else if added {
				continue
			}
		}
		wr := &writer{conversion: c, target: f.Format}
		companion := ""
		if f.Format.Companion != nil {
			companion = f.Format.Companion.Path(dir, f.Table, tag, false)
		}
		from, path, src := []holding{{file: file, catalog: made}}, f.PathOf(dir, tag), source.Catalog
		if f.Format.Holds.Bilingual {
			from, src = []holding{{file: file, catalog: source.Catalog}, from[0]}, nil
		}
		r := wr.compose(from, src, path, companion)
		r.losses = nil // a pseudo-culture is in the same format and loses nothing that is shown
		wr.take(r)
	}
	return c, nil
}

// addLike plans a file that is the source's with other texts. It is false where
// that would have texts of other cultures, or say that it is of another.
func (c *Conversion) addLike(f *Family, file *File, source, made *catalog.Catalog, path string) (bool, error) {
	var changes []format.Change
	for i := range source.Entries {
		e := &source.Entries[i]
		change := format.Change{Op: format.Remove, Culture: source.Culture, Key: e.Key}
		if own := made.Near(i, e.ID()); own != nil {
			change.Op, change.Message = format.Set, &own.Message
		}
		changes = append(changes, change)
	}
	data, _, err := file.Edit(changes)
	if err != nil {
		return false, err
	}
	again, _ := f.Format.Parse(data)
	if held := again.Catalogs(); len(held) != 1 || held[0].Culture != "" && held[0].Culture != made.Culture {
		return false, nil
	}
	c.Add(path, nil, data)
	c.Files = append(c.Files, Converted{From: file.Path, Path: path, Format: f.Format.Name, Culture: made.Culture, Entries: len(made.Entries)})
	return true, nil
}

// addCulture plans a culture more in a file that holds all of them.
func (c *Conversion) addCulture(f *Family, file *File, made *catalog.Catalog, out string) error {
	path, old := file.Path, file.data
	if out != "" {
		path, old = filepath.FromSlash(f.Format.Path(filepath.ToSlash(out), f.Table, made.Culture, true)), nil
	}
	var changes []format.Change
	for i := range made.Entries {
		e := &made.Entries[i]
		changes = append(changes, format.Change{Op: format.Set, Culture: made.Culture, Key: e.Key, Message: &e.Message})
	}
	data, _, err := file.Edit(changes)
	if err != nil {
		return err
	}
	c.Add(path, old, data)
	c.Files = append(c.Files, Converted{From: file.Path, Path: path, Format: f.Format.Name, Culture: made.Culture, Entries: len(made.Entries)})
	return nil
}
