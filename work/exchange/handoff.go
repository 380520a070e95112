package exchange

import (
	"cmp"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/format"
	"zelvik/project"
)

// Handoff is what is handed to translators.
type Handoff struct {
	files.Plan
	Files  []project.Converted
	Losses []catalog.Loss
	// Skipped says which families were left out, and why.
	Skipped []string
}

// waits reports whether a text is to be translated or looked at.
func waits(s, e *catalog.Entry) bool {
	return e == nil || e.Message.Empty() && !s.Message.Empty() || e.State == catalog.Missing || e.State == catalog.Draft || e.State == catalog.Moved
}

// HandoffOptions say what is handed out.
type HandoffOptions struct {
	// Out is the folder to write to.
	Out string
	// Cultures limits the cultures, nil for all.
	Cultures []culture.Tag
	// Extension is the ending of spreadsheets, ".xlsx" where it is "".
	Extension string
	// All takes every text, not only those that wait.
	All bool
	// Replace lets it replace files that hold texts of a translator.
	Replace bool
	// Pictures gives, for keys in a culture, the pictures of the screens that
	// show them; nil for none.
	Pictures func(tag culture.Tag, keys []string) (map[string][]string, error)
}

// Out plans a file per family and culture with the texts that wait, in an
// exchange format, and notes in the ledger what they were. Notes name the
// pictures of the screens on which a text stands.
func Out(w *project.Workspace, target *format.Format, o HandoffOptions) (*Handoff, error) {
	out, tags, all := o.Out, o.Cultures, o.All
	if !target.Holds.Bilingual && !target.Holds.Many {
		return nil, project.Usage("%s files hold one culture; translators need the source beside it: choose xliff, xliff2, po, qt, sheet or tmx", target.Name)
	}
	h := &Handoff{Plan: files.Plan{Out: o.Out, Replace: o.Replace, Why: "there already, with texts that are not here yet; zelvik takeback merges them"}}
	for _, f := range w.Families {
		source := f.SourceMember()
		if source == nil {
			h.Skipped = append(h.Skipped, project.Sourceless(f))
			continue
		}
		ledger, err := w.RecallOf(f)
		if err != nil {
			return nil, err
		}
		for i, m := range f.Members {
			if m == source || m.Culture.Pseudo() || f.Regional(m) || tags != nil && !slices.Contains(tags, m.Culture) {
				continue
			}
			from, to := &catalog.Catalog{Culture: f.Source}, &catalog.Catalog{Culture: m.Culture}
			for j := range source.Catalog.Entries {
				s := &source.Catalog.Entries[j]
				e := m.Catalog.Find(s.ID())
				if s.Fixed || s.Product != "" || !all && !waits(s, e) {
					continue
				}
				from.Add(*s)
				if e != nil && !e.Message.Empty() {
					to.Add(*e)
				}
				line := ledger.Of(s.Key)
				line.Handed = line.Handed.With(m.Culture, project.Fingerprint(e))
				ledger.Put(line)
			}
			if len(from.Entries) == 0 {
				continue
			}
			if err := o.picture(from, m.Culture); err != nil {
				return nil, err
			}
			extension := target.Extensions[0]
			if target.Named != nil {
				extension = cmp.Or(o.Extension, ".xlsx") // what people write in
			}
			path := filepath.Join(out, files.Name(f.Table)+"."+string(m.Culture)+extension)
			form := target
			if target.Named != nil {
				form = target.Named(path)
			}
			for _, other := range h.Files {
				if other.Path == path {
					return nil, project.Usage("two families would be handed off as %s; name the files of one", path)
				}
			}
			data, losses := form.Join([]*catalog.Catalog{from, to})
			for k := range losses {
				losses[k].Path = f.Files[i].Path
			}
			h.Losses = append(h.Losses, catalog.Once(losses)...)
			if err := h.Make(w.Disk, path, data, unfilled(form, data)); err != nil {
				return nil, err
			}
			h.Files = append(h.Files, project.Converted{From: f.Files[i].Path, Path: path, Format: target.Name, Culture: m.Culture, Entries: len(from.Entries)})
		}
	}
	w.SaveLedgers(&h.Plan)
	return h, nil
}

// unfilled reports of an exchange file that is there whether it holds no
// translation but those that a new one has, so that nothing is lost with it.
func unfilled(f *format.Format, fresh []byte) func([]byte) bool {
	return func(old []byte) bool {
		there, faults := f.Parse(old)
		if slices.ContainsFunc(faults, format.Damage) || len(there.Catalogs()) < 2 {
			return false
		}
		now, _ := f.Parse(fresh)
		for _, c := range there.Catalogs()[1:] {
			for i := range c.Entries {
				e := &c.Entries[i]
				if e.Message.Empty() {
					continue
				}
				if !slices.ContainsFunc(now.Catalogs(), func(o *catalog.Catalog) bool {
					same := o.Find(e.ID())
					return o.Culture == c.Culture && same != nil && same.Message.String() == e.Message.String()
				}) {
					return false
				}
			}
		}
		return true
	}
}

// picture names in the notes of a catalog the pictures on which its texts
// stand.
func (o HandoffOptions) picture(c *catalog.Catalog, tag culture.Tag) error {
	if o.Pictures == nil {
		return nil
	}
	var keys []string
	for i := range c.Entries {
		keys = append(keys, c.Entries[i].Key)
	}
	pictures, err := o.Pictures(tag, keys)
	if err != nil {
		return err
	}
	for i := range c.Entries {
		e := &c.Entries[i]
		if list := pictures[e.Key]; list != nil {
			if e.Note != "" {
				e.Note += "\n"
			}
			e.Note += "Picture: " + strings.Join(list, ", ")
		}
	}
	return nil
}

// Takeback is what comes back from translators.
type Takeback struct {
	files.Plan
	Returned []Returned `json:"returned"`
	Losses   []catalog.Loss
}

// Returned is one text that came back.
type Returned struct {
	// What is merged, same, conflict or refused.
	What    string      `json:"what"`
	Path    string      `json:"path"`
	Culture culture.Tag `json:"culture"`
	Key     string      `json:"key"`
	// Why says what stands against it.
	Why string `json:"why,omitempty"`
}

// Back plans to merge the texts of an exchange file into the native files.
// What is in the way of a text is told, and then it is not merged: a source
// that changed meanwhile, a text that changed here, a rule that it breaks.
func Back(w *project.Workspace, file *project.File) (*Takeback, error) {
	if damage := file.Damaged(); damage != nil {
		return nil, project.Refuse(damage)
	}
	guest := &project.Family{Format: file.Format, Files: []*project.File{file}}
	guest.Source = guest.GuessSource()
	held := guest.Holdings(file)
	if len(held) < 2 {
		return nil, project.Usage("%s holds one culture; an exchange file has the source beside the translation", file.Path)
	}
	f := home(w, held[0].Catalog)
	if f == nil {
		return nil, project.Usage("no family here has the keys of %s; name its folder", file.Path)
	}
	source := f.SourceMember()
	ledger, err := w.RecallOf(f)
	if err != nil {
		return nil, err
	}
	t := &Takeback{}
	changes := map[*project.File][]format.Change{}
	var order []*project.File
	for _, h := range held[1:] {
		m := f.Member(h.Catalog.Culture)
		if m == nil {
			return nil, project.Usage("%s has no file for %s; add one first", f.Name, h.Catalog.Culture)
		}
		own := f.File(m)
		if damage := own.Damaged(); damage != nil {
			return nil, project.Refuse(damage)
		}
		for i := range h.Catalog.Entries {
			e := &h.Catalog.Entries[i]
			if s := source.Catalog.Find(e.ID()); s != nil {
				e.Message = e.Message.MarkedAs(s.Message)
			}
		}
		h.Catalog.Complete(source.Catalog)
		broken := w.Broken(f, source, h.Catalog)
		last := ""
		for i := range h.Catalog.Entries {
			e := &h.Catalog.Entries[i]
			say := func(what, why string) {
				t.Returned = append(t.Returned, Returned{what, own.Path, m.Culture, e.Key, why})
			}
			s, now := source.Catalog.Find(e.ID()), m.Catalog.Find(e.ID())
			switch asked := held[0].Catalog.Find(e.ID()); {
			case e.Message.Empty():
				continue
			case s == nil:
				say("conflict", "the source does not have the key any more")
				continue
			case now != nil && now.Message.String() == e.Message.String() && !waits(s, now):
				say("same", "")
				ledger.Settle(e.Key, m.Culture)
				continue
			case asked != nil && !sameText(asked, s):
				say("conflict", fmt.Sprintf("the source changed meanwhile, from %q to %q", asked.Message.String(), s.Message.String()))
				continue
			case handed(ledger, e.Key, m.Culture) != "" && handed(ledger, e.Key, m.Culture) != project.Fingerprint(now):
				say("conflict", fmt.Sprintf("the text changed here meanwhile, to %q; it came back as %q", textOf(now), e.Message.String()))
				continue
			case broken[e.Key] != nil:
				say("refused", broken[e.Key].Rule+": "+broken[e.Key].Message)
				continue
			}
			say("merged", "")
			ledger.Settle(e.Key, m.Culture)
			holder := own.Holder(e.ID())
			if now == nil && e.Message.Choice != nil && own.Companion != nil {
				holder = own.Companion
			}
			change := format.Change{Op: format.Set, Culture: m.Culture, Key: e.Key, Message: &e.Message, Source: &s.Message, After: f.Neighbour(m, e.Key)}
			if last != "" && now == nil && change.After == "" {
				change.After = last
			}
			if f.HoldsStates() {
				state := catalog.Done
				if e.State == catalog.Draft || e.State == catalog.Moved {
					state = e.State
				}
				change.State = &state
			}
			if changes[holder] == nil {
				order = append(order, holder)
			}
			changes[holder] = append(changes[holder], change)
		}
	}
	for _, holder := range order {
		data, losses, err := holder.Edit(changes[holder])
		if err != nil {
			return nil, err
		}
		t.Losses = append(t.Losses, losses...)
		t.Add(holder.Path, holder.Data, data)
	}
	w.SaveLedgers(&t.Plan)
	return t, nil
}

// handed gives the fingerprint of a text when it was handed out, or "".
func handed(r *project.Record, key string, tag culture.Tag) string { return r.Of(key).Handed[tag] }

func textOf(e *catalog.Entry) string {
	if e == nil {
		return ""
	}
	return e.Message.String()
}

// sameText reports whether the source that stood in an exchange file is the
// one that is here. A format that holds less than ours says less of it.
func sameText(asked, s *catalog.Entry) bool {
	asked.Message.Complete(s.Message.Arguments())
	if asked.Message.Main().String() != s.Message.Main().String() {
		return false
	}
	if asked.Message.Choice == nil || s.Message.Choice == nil {
		return true
	}
	for _, v := range asked.Message.Choice.Variants {
		for _, own := range s.Message.Choice.Variants {
			if slices.Equal(v.Keys, own.Keys) && v.Pattern.String() != own.Pattern.String() {
				return false
			}
		}
	}
	return true
}

// home gives the family to which the keys of a catalog belong: the one that
// has most of them.
func home(w *project.Workspace, c *catalog.Catalog) *project.Family {
	var best *project.Family
	most := 0
	for _, f := range w.Families {
		source := f.SourceMember()
		if source == nil {
			continue
		}
		n := 0
		for i := range c.Entries {
			if source.Catalog.Find(c.Entries[i].ID()) != nil {
				n++
			}
		}
		if n > most {
			best, most = f, n
		}
	}
	return best
}
