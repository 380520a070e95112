package convert

import (
	"fmt"
	"slices"

	"zelvik/catalog"
	"zelvik/files"
	"zelvik/format"
	"zelvik/format/all"
	"zelvik/project"
)

// Settle holds what a conversion would write against what is there. A catalog
// that is there gets what is new and changed, entry by entry, and keeps the rest
// as it is; where a key of it would go, nothing is written without replace. Old
// is filled in for what is to be replaced.
func (c *Conversion) Settle(disk *files.Disk, replace bool) error {
	var kept []files.Write
	for _, w := range c.Writes {
		if w.Path == "-" || w.Old != nil {
			kept = append(kept, w)
			continue
		}
		old, err := disk.Existing(w.Path)
		if err != nil {
			return err
		}
		if old == nil {
			kept = append(kept, w)
			continue
		}
		made := slices.IndexFunc(c.Files, func(f project.Converted) bool { return f.Path == w.Path })
		if made < 0 { // the ledger, which begins with what was there
			kept = append(kept, files.Write{Path: w.Path, Old: old, New: w.New})
			continue
		}
		report := &c.Files[made]
		w.Old = old
		if w.New, err = c.merge(report, w, replace); err != nil {
			return err
		}
		kept = append(kept, w)
	}
	c.Writes = slices.DeleteFunc(kept, func(w files.Write) bool { return w.Old != nil && string(w.Old) == string(w.New) })
	return nil
}

// merge returns what a catalog becomes that is there already.
func (c *Conversion) merge(report *project.Converted, w files.Write, replace bool) ([]byte, error) {
	f, err := all.Named(report.Format)
	if err != nil {
		return nil, err
	}
	if f.Named != nil {
		f = f.Named(w.Path)
	}
	m := &project.Merged{}
	report.Merged = m
	if string(w.Old) == string(w.New) || f.Name == "mo" { // compiled, and made again as often as one likes
		return w.New, nil
	}
	there, faults := f.Parse(w.Old)
	if slices.ContainsFunc(faults, format.Damage) && !replace && len(w.Old) > 0 {
		at := slices.IndexFunc(faults, format.Damage)
		return nil, project.Usage("%s is there already, and cannot be read as %s (%s); write elsewhere with --out, or say --replace", w.Path, f.Name, faults[at].Message)
	}
	fresh, _ := f.Parse(w.New)
	changes := compare(m, there.Catalogs(), fresh.Catalogs())
	if len(m.Gone) > 0 {
		if !replace {
			return nil, project.Usage("%s is there already, and %s would go: %s; nothing was written. Write elsewhere with --out, or say --replace to replace it",
				w.Path, keysOf(m.Gone), project.Listed(m.Gone))
		}
		return w.New, nil
	}
	if slices.Contains(c.copies, w.Path) {
		return w.New, nil
	}
	if len(changes) == 0 {
		return w.Old, nil
	}
	data, losses, err := format.EditInTurn(f, there, changes)
	if err != nil || len(losses) > 0 || format.ReadBack(f, there, changes, data, nil) != nil {
		return w.New, nil // it has no room for what is new; no key goes
	}
	return data, nil
}

// compare lists what is new, changed and gone, with the changes that bring it.
func compare(m *project.Merged, there, fresh []*catalog.Catalog) []format.Change {
	var changes []format.Change
	name := func(c *catalog.Catalog, key string) string {
		if len(there) > 1 || len(fresh) > 1 {
			return fmt.Sprintf("%s (%s)", key, c.Culture)
		}
		return key
	}
	match := func(list []*catalog.Catalog, c *catalog.Catalog) *catalog.Catalog {
		for _, other := range list {
			if other.Culture == c.Culture || len(there) == 1 && len(fresh) == 1 {
				return other
			}
		}
		return &catalog.Catalog{}
	}
	for _, c := range there {
		now := match(fresh, c)
		for i := range c.Entries {
			if e := &c.Entries[i]; now.Near(i, e.ID()) == nil {
				m.Gone = append(m.Gone, name(c, e.Key))
			}
		}
	}
	for i, c := range fresh {
		was := match(there, c)
		last := ""
		for j := range c.Entries {
			e := &c.Entries[j]
			change := format.Change{Op: format.Set, Culture: c.Culture, Key: e.Key, Message: &e.Message, After: last}
			if last = e.Key; len(there) == 1 {
				change.Culture = there[0].Culture
			}
			if i > 0 {
				if s := fresh[0].Find(e.ID()); s != nil {
					change.Source = &s.Message
				}
			}
			if e.Note != "" {
				change.Note = &e.Note
			}
			if e.State != catalog.Unstated {
				change.State = &e.State
			}
			switch old := was.Near(j, e.ID()); {
			case old == nil:
				m.New = append(m.New, name(c, e.Key))
			case old.Message.String() != e.Message.String() || e.Note != "" && old.Note != e.Note || e.State != catalog.Unstated && old.State != e.State:
				m.Changed = append(m.Changed, name(c, e.Key))
			default:
				continue
			}
			changes = append(changes, change)
		}
	}
	return changes
}

func keysOf(list []string) string {
	if len(list) == 1 {
		return "a key of it"
	}
	return fmt.Sprintf("%d keys of it", len(list))
}
