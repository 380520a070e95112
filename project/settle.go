package project

import (
	"cmp"
	"path"
	"path/filepath"
	"slices"

	"zelvik/catalog"
	"zelvik/culture"
)

// settle finds out the source culture, fills the members and puts the source
// first, the others by tag.
func (f *Family) settle(o Options) {
	f.Source, f.disk = o.Source, o.Disk
	if f.Source == "" {
		f.Source = f.GuessSource()
	}
	var good []*File
	for _, file := range f.Files {
		if file.misnamed() {
			if right := file.Location.Meant; file.Location.Spare && slices.ContainsFunc(f.Files, func(other *File) bool {
				return path.Dir(filepath.ToSlash(other.Path)) == path.Dir(filepath.ToSlash(right)) && other.Location.Culture == file.Location.Culture && !other.misnamed()
			}) {
				continue // a copy, for whoever would ask by that name
			}
			f.Misnamed = append(f.Misnamed, file)
			continue
		}
		good = append(good, file)
	}
	f.settleForm(good)
	var holdings []Holding
	for _, file := range good {
		holdings = append(holdings, f.Holdings(file)...)
	}
	slices.SortStableFunc(holdings, func(a, b Holding) int {
		x, y := a.Catalog.Culture, b.Catalog.Culture
		return cmp.Or(compareBool(y == f.Source, x == f.Source),
			compareBool(b.source && b.File.Location.Culture == f.Source, a.source && a.File.Location.Culture == f.Source), compareBool(b.File.Location.Neutral, a.File.Location.Neutral),
			newer(a, b),
			cmp.Compare(x, y), cmp.Compare(a.File.Path, b.File.Path))
	})
	f.stateless = f.Format.Holds.OptionalStates && !slices.ContainsFunc(holdings, func(h Holding) bool {
		return slices.ContainsFunc(h.Catalog.Entries, func(e catalog.Entry) bool { return e.State != catalog.Unstated })
	})
	f.Files, f.Members, f.Twins, f.Others = nil, nil, nil, nil
	var twins []*File
	for _, h := range holdings {
		tag := h.Catalog.Culture
		if o.Cultures != nil && tag != f.Source && !Answers(tag, o.Cultures) {
			f.Others = append(f.Others, tag)
			continue
		}
		if first := f.Member(tag); first != nil { // a second file for one culture, such as Base.lproj, or the source that stands beside every translation
			if h.source && tag == f.Source && (f.Format.NameCounts && !ofSource(f.File(first), first, tag) || h.Catalog.Extracted > first.Catalog.Extracted || len(first.Catalog.Entries) == 0) {
				first.Catalog = first.Catalog.Union(h.Catalog)
				first.Catalog.Extracted = max(first.Catalog.Extracted, h.Catalog.Extracted)
			}
			if tag == f.Source && first.Neutral && !f.Format.Holds.Bilingual && h.File.Location.Culture == tag {
				twins = append(twins, h.File)
				f.Twins = append(f.Twins, &catalog.Member{Path: h.File.Path, Culture: tag, Catalog: h.Catalog})
			}
			continue
		}
		f.Files = append(f.Files, h.File)
		f.Members = append(f.Members, &catalog.Member{Path: h.File.Path, Culture: tag, Neutral: h.File.Location.Neutral, Catalog: h.Catalog})
	}
	f.Files = append(f.Files, twins...)
}

// settleForm reads those files again of which the source's shows how to read them:
// the first file's, where the source has none of its own.
func (f *Family) settleForm(list []*File) {
	if f.Format.Settle == nil || len(list) < 2 {
		return
	}
	at := slices.IndexFunc(list, func(file *File) bool { return file.Location.Neutral || file.Location.Culture == f.Source })
	if at < 0 && !f.Format.Holds.Bilingual {
		return
	}
	for _, file := range list {
		if form := f.Format.Settle(list[max(at, 0)].Document, file.Document); form != nil {
			again := ParseFile(file.Path, form, file.Data)
			file.Format, file.Document, file.Findings = form, again.Document, again.Findings
		}
	}
}

// unlike reports whether a folder's JSON files that are called by cultures have no keys
// in common: they are data of each culture, and no translations.
func (f *Family) unlike() bool {
	source := f.SourceMember()
	if !f.Format.General || source == nil || len(f.Members) < 3 || len(source.Catalog.Entries) < 50 {
		return false
	}
	strangers := 0
	for _, m := range f.Members {
		read, shared := 0, 0
		for i := 0; i < len(m.Catalog.Entries); i += max(1, len(m.Catalog.Entries)/100) { // a hundred tell
			read++
			if source.Catalog.Near(i, m.Catalog.Entries[i].ID()) != nil {
				shared++
			}
		}
		if m != source && shared*20 < read {
			strangers++
		}
	}
	return strangers*2 > len(f.Members)
}

// ofSource reports whether a file is that of the source, whose keys count. One that
// holds plurals alone, as Qt's does for a source that is in the code, is not.
func ofSource(file *File, m *catalog.Member, source culture.Tag) bool {
	if file.Location.Neutral {
		return true
	}
	return file.Location.Culture == source &&
		slices.ContainsFunc(m.Catalog.Entries, func(e catalog.Entry) bool { return e.Message.Choice == nil })
}

// Holding is one catalog of a file.
type Holding struct {
	File    *File
	Catalog *catalog.Catalog
	// source says that it is the source in a bilingual file.
	source bool
}

// Holdings returns the catalogs of a file, their cultures filled in from the
// file's name and the family's source where the file does not state them.
func (f *Family) Holdings(file *File) []Holding {
	catalogs := file.Catalogs()
	var holdings []Holding
	for i, c := range catalogs {
		bilingual := file.Format.Holds.Bilingual
		switch {
		case bilingual && i == 0:
			c.Culture = cmp.Or(c.Culture, f.Source)
		case len(catalogs) == 1 || bilingual:
			named := file.Location.Culture
			file.contradiction(c.Culture)
			if bilingual && !file.Format.NameCounts { // the file knows better than its name
				named = cmp.Or(c.Culture, named)
			}
			c.Culture = cmp.Or(named, c.Culture, f.Source)
		default:
			c.Culture = cmp.Or(c.Culture, f.Source)
		}
		holdings = append(holdings, Holding{file, c, bilingual && i == 0})
	}
	if len(holdings) == 2 && holdings[0].source && holdings[1].Catalog.Culture == f.Source { // what stands beside a source is that source, with its plurals
		own := &catalog.Catalog{Culture: f.Source, Entries: slices.Clone(holdings[0].Catalog.Entries)}
		for i := range own.Entries {
			if e := holdings[1].Catalog.Find(own.Entries[i].ID()); e != nil && !e.Message.Empty() {
				own.Entries[i].Message = e.Message
			}
		}
		return []Holding{{file, own, true}}
	}
	return holdings
}

// newer puts the source that was extracted last first, of those that stand beside
// translations, or else the one with more texts: the others have not caught up with it.
func newer(a, b Holding) int {
	if !a.source || !b.source {
		return 0
	}
	return cmp.Or(cmp.Compare(b.Catalog.Extracted, a.Catalog.Extracted), cmp.Compare(len(b.Catalog.Entries), len(a.Catalog.Entries)))
}
