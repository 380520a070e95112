package set

import (
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/message"
	"zelvik/project"
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

// Text plans the change of one text in the native file of its family, and of
// nothing else in it.
func Text(w *project.Workspace, s Setting) (*files.Plan, *project.File, []catalog.Loss, error) {
	family, member, err := holder(w, s)
	if err != nil {
		return nil, nil, nil, err
	}
	file := family.File(member).Holder(s.Key)
	change := format.Change{Op: format.Set, Key: s.Key, Note: s.Note, State: s.State, Culture: member.Culture}
	entry := member.Catalog.Find(s.Key)
	plan := &files.Plan{}
	if s.State != nil && !family.HoldsStates() {
		if err := setState(w, family, member, entry, s); err != nil {
			return nil, nil, nil, err
		}
		w.SaveLedgers(plan)
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
		return nil, nil, nil, project.Usage("%s has no text for %s; give one", member.Path, s.Key)
	}
	if entry == nil {
		change.After = family.Neighbour(member, s.Key)
		var source *catalog.Catalog
		if m := family.SourceMember(); m != nil {
			source = m.Catalog
		}
		if e := source.Find(s.Key); e != nil {
			change.Source = &e.Message
		}
		if e := source.Find(s.Key); e != nil {
			file = family.Home(member, s.Key, e.Message.Choice != nil)
		}
	}
	data, losses, err := file.Edit([]format.Change{change})
	if err != nil {
		return nil, nil, nil, err
	}
	plan.Add(file.Path, file.Data, data)
	return plan, file, losses, nil
}

// setState puts a state into the ledger, for a format that holds none.
func setState(w *project.Workspace, family *project.Family, member *catalog.Member, entry *catalog.Entry, s Setting) error {
	source := family.SourceMember()
	if source == nil || member == source || source.Catalog.Find(s.Key) == nil || entry == nil || s.Text != nil {
		return project.Usage("%s files hold no states, and the ledger holds those of translations that are there: name a culture that has the text, and set the text first", family.Format.Name)
	}
	if *s.State == catalog.Missing {
		return project.Usage("%s files hold no states; remove the text instead", family.Format.Name)
	}
	r, err := w.RecallOf(family)
	if err != nil {
		return err
	}
	r.SetState(family, s.Key, member.Culture, *s.State)
	return nil
}

// message makes the new message of a text.
func (s Setting) message(family *project.Family, member *catalog.Member, entry *catalog.Entry) (message.Message, error) {
	m, faults := family.Format.Message(*s.Text)
	if len(faults) > 0 {
		return m, project.Usage("the text: %s at character %d; %s", faults[0].Text, faults[0].Offset+1, faults[0].Fix)
	}
	old := entry
	if old == nil {
		old, _ = family.Lookup(s.Key, member.Culture)
	}
	if old == nil || old.Message.Choice == nil || m.Choice != nil {
		if s.Form != "" {
			return m, project.Usage("%s has no plural forms; leave out --form", s.Key)
		}
		return m, nil
	}
	choice := old.Message.Choice
	if len(choice.Selectors) > 1 {
		return m, project.Usage("%s depends on %d arguments; edit it in the file", s.Key, len(choice.Selectors))
	}
	if s.Form == "" {
		return m, project.Usage("%s has plural forms (%s); name one with --form", s.Key, strings.Join(forms(choice), ", "))
	}
	if !slices.Contains(culture.Categories, s.Form) && !strings.HasPrefix(s.Form, "=") {
		return m, project.Usage("%q is no plural form; use zero, one, two, few, many or other", s.Form)
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
func holder(w *project.Workspace, s Setting) (*project.Family, *catalog.Member, error) {
	var candidates []*project.Family
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
			return nil, nil, project.Usage("no file has the key %s; %s was probably meant (to add it, say --culture %s)", s.Key, nearest, source)
		case nearest != "":
			return nil, nil, project.Usage("no file has the key %s; %s was probably meant", s.Key, nearest)
		case s.Culture != "":
			return nil, nil, project.Usage("no file has the key %s; add it in the source culture %s first", s.Key, source)
		}
	}
	if len(candidates) == 0 {
		return nil, nil, project.Usage("no file has the key %s; zelvik table lists the keys", s.Key)
	}
	if len(candidates) > 1 {
		var names []string
		for _, f := range candidates {
			names = append(names, f.Name)
		}
		return nil, nil, project.Usage("the key %s is in %d families (%s); name the files of one", s.Key, len(candidates), strings.Join(names, ", "))
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
			return nil, nil, project.Usage("%s has no file for %s, and the files it has name no culture", family.Name, tag)
		}
		return nil, nil, project.Usage("%s has no file for %s; there are %s", family.Name, tag, strings.Join(have, ", "))
	}
	return family, member, nil
}
