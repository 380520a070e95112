package exchange

import (
	"cmp"
	"path/filepath"
	"slices"
	"strings"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/catalog/status"
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
	for _, tag := range tags {
		if !slices.ContainsFunc(w.Families, func(f *project.Family) bool { return f.Member(tag) != nil }) {
			return nil, project.Usage("no family has a file for %s; make it first: zelvik begin %s", tag.Name(), tag)
		}
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
				how := status.Of(&f.Family, m, s, e, w.Config.Verify.Names)
				if s.Fixed || s.Product != "" || !all && !how.Open() {
					continue
				}
				from.Add(*s)
				if e != nil && !e.Message.Empty() && how != status.Waiting { // a copy of the source says nothing that it does not
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
			path := filepath.Join(out, files.Name(exchangeName(w, f))+"."+string(m.Culture)+extension)
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
			made := project.Converted{From: f.Files[i].Path, Path: path, Format: target.Name, Culture: m.Culture, Entries: len(from.Entries)}
			made.Words, made.Characters = volume(from)
			h.Files = append(h.Files, made)
		}
	}
	w.SaveLedgers(&h.Plan)
	return h, h.mark(w, out)
}

// exchangeName names a family's exchange files: by its table, and where another
// family has the same one, by what tells their folders apart, too.
func exchangeName(w *project.Workspace, f *project.Family) string {
	parts := strings.Split(filepath.ToSlash(f.Name), "/")
	apart := make([]bool, len(parts))
	shared := false
	for _, other := range w.Families {
		if other == f || other.Table != f.Table {
			continue
		}
		theirs := strings.Split(filepath.ToSlash(other.Name), "/")
		shared = true
		for i := range parts {
			apart[i] = apart[i] || len(theirs) != len(parts) || parts[i] != theirs[i]
		}
	}
	if !shared {
		return f.Table
	}
	var kept []string
	for i, part := range parts {
		if apart[i] && i < len(parts)-1 && part != ".." {
			kept = append(kept, part)
		}
	}
	return strings.Join(append(kept, f.Table), "-")
}

// volume counts the words and characters of a catalog's texts, each form of a plural.
func volume(c *catalog.Catalog) (words, characters int) {
	for i := range c.Entries {
		for _, pattern := range c.Entries[i].Message.Patterns() {
			text := pattern.Literal()
			words += len(strings.Fields(text))
			characters += utf8.RuneCountInString(text)
		}
	}
	return words, characters
}

// mark says in the folder what it is for, unless it is one of texts.
func (h *Handoff) mark(w *project.Workspace, out string) error {
	for _, f := range w.Families {
		for _, file := range f.Files {
			if w.Disk.Inside(out, file.Path) {
				return nil
			}
		}
	}
	if len(h.Files) == 0 {
		return nil
	}
	const text = "What zelvik handoff writes here goes to translators; zelvik takeback FILE merges what comes\nback. Because of this file no texts of the application are looked for in the folder.\n"
	return h.Make(w.Disk, filepath.Join(out, project.ExchangeName), []byte(text), func([]byte) bool { return true })
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
