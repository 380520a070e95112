package project

import (
	"bytes"
	"cmp"
	"fmt"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync/atomic"
	"zelvik/pages"

	"golang.org/x/sync/errgroup"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/all"
)

// Conversion is what a conversion would write and could not carry.
type Conversion struct {
	files.Plan
	Files    []Converted
	Losses   []catalog.Loss
	Findings []finding.Finding
	progress []func(done, total int)
	// copies are the files that get the bytes of another of their own format.
	copies []string
}

// Converted is one file of a conversion.
type Converted struct {
	From    string      `json:"from"`
	Path    string      `json:"path"`
	Format  string      `json:"format"`
	Culture culture.Tag `json:"culture,omitempty"`
	Entries int         `json:"entries"`
	// More is how many other files were joined into it.
	More int `json:"more,omitempty"`
	// Merged says what became of the catalog that was there; nil where none was.
	Merged *Merged `json:"merged,omitempty"`
}

// LayoutLoss is the kind of the loss that changes no text: comments between
// entries, order of attributes, indentation. It does not count as a loss where
// losses are refused.
const LayoutLoss = "layout"

// ConvertFile converts one file to one file. Out may be "-" for standard
// output; then what belongs into a companion file is told as lost. Of a file
// with several cultures, the target gets all it can hold, or the one that its
// name or the options ask for.
func ConvertFile(file *File, target *format.Format, out string, o Options) (*Conversion, error) {
	c := &Conversion{Findings: file.Findings}
	if target.Named != nil {
		target = target.Named(out)
	}
	place := format.Location{}
	if out != "-" {
		place = target.Locate(filepath.ToSlash(out))
	}
	f := &Family{Format: file.Format, Files: []*File{file}}
	if f.Source = o.Source; f.Source == "" {
		f.Source = f.guessSource()
	}
	held := f.holdings(file)
	if file.Format.Name == target.Name && !respelled(file.Format, target) {
		tag := cmp.Or(place.Culture, held[len(held)-1].catalog.Culture)
		c.copy(file, target, tag, out)
		if file.Companion != nil && out != "-" {
			c.copy(file.Companion, target.Companion, tag, beside(out, target.Companion))
		}
		return c, nil
	}
	if damage := file.Damaged(); damage != nil {
		return nil, Refuse(damage)
	}
	if file.Companion != nil {
		if damage := file.Companion.Damaged(); damage != nil {
			return nil, Refuse(damage)
		}
	}
	ledger, err := ReadLedger(filepath.Dir(file.Path))
	if err != nil {
		return nil, err
	}
	source := held[0].catalog
	for _, h := range held {
		ledger.Restore(h.catalog, h.file.Format)
		if h.catalog == source {
			source.Complete(nil)
		} else {
			h.catalog.Complete(source)
		}
	}
	wanted := place.Culture
	if wanted == "" && len(o.Cultures) == 1 {
		wanted = o.Cultures[0]
	}
	chosen, err := choose(file, held, target, wanted, o.Cultures)
	if err != nil {
		return nil, err
	}
	if len(held) == 1 && place.Culture != "" {
		chosen[0].catalog.Culture = place.Culture
	}
	companionPath := ""
	if target.Companion != nil && out != "-" {
		companionPath = beside(out, target.Companion)
	}
	w := &writer{conversion: c, target: target}
	if last := chosen[len(chosen)-1].catalog; last == source || len(chosen) > 1 {
		source = nil
	}
	w.take(w.compose(chosen, source, out, companionPath))
	return c, nil
}

// choose picks the catalogs of a file that go into one file of the target.
func choose(file *File, held []holding, target *format.Format, wanted culture.Tag, asked []culture.Tag) ([]holding, error) {
	if len(held) == 1 {
		return held, nil
	}
	if target.Holds.Many {
		return slices.DeleteFunc(slices.Clone(held), func(h holding) bool {
			return h != held[0] && asked != nil && !answers(h.catalog.Culture, asked)
		}), nil
	}
	var one *holding
	for i := range held {
		if held[i].catalog.Culture == wanted {
			one = &held[i]
		}
	}
	if one == nil && len(held) == 2 && (file.Format.Holds.Bilingual || target.Holds.Bilingual) {
		one = &held[1]
	}
	if one == nil {
		var have []string
		for _, h := range held {
			have = append(have, string(h.catalog.Culture))
		}
		return nil, usage("%s holds %d cultures (%s); name one with --cultures, or a folder with --out to write them all", file.Path, len(held), strings.Join(have, ", "))
	}
	if target.Holds.Bilingual && one.catalog != held[0].catalog {
		return []holding{held[0], *one}, nil
	}
	return []holding{*one}, nil
}

// respelled reports whether a form of a format was asked for that spells texts in
// another way than a file of the format does: json:dollar.
func respelled(have, asked *format.Format) bool {
	plain, err := all.Named(asked.Name)
	return err == nil && plain.Spelled != nil && asked != plain && asked != have
}

// copy plans the same bytes elsewhere.
func (c *Conversion) copy(file *File, target *format.Format, tag culture.Tag, out string) {
	c.Add(out, nil, file.data)
	c.Files = append(c.Files, Converted{From: file.Path, Path: out, Format: target.Name, Culture: tag, Entries: len(file.Document.Catalogs()[0].Entries)})
	c.copies = append(c.copies, out)
}

// beside gives the path of a companion file.
func beside(path string, companion *format.Format) string {
	return strings.TrimSuffix(path, filepath.Ext(path)) + companion.Extensions[0]
}

// ConvertFamilies converts whole families into a folder.
// What progress there is hears how many files of a family are done.
func ConvertFamilies(families []*Family, target *format.Format, out string, progress ...func(done, total int)) (*Conversion, error) {
	c := &Conversion{progress: progress}
	for _, family := range families {
		for _, file := range family.Files {
			c.Findings = append(c.Findings, file.Findings...)
			if damage := file.Damaged(); damage != nil {
				return nil, Refuse(damage)
			}
		}
		ledger, err := family.restore()
		if err != nil {
			return nil, err
		}
		if err := convertFamily(c, family, target, out, len(families) == 1); err != nil {
			return nil, err
		}
		if !target.Holds.Names || !target.Holds.Samples || keptByLedger(c.Losses) {
			if source := family.SourceMember(); source != nil {
				ledger.Note(source.Catalog)
			}
			if !ledger.Empty() {
				c.Losses = slices.DeleteFunc(c.Losses, func(l catalog.Loss) bool {
					return l.Kind == "name" || l.Kind == "type" || l.Kind == "sample" || l.Kind == "position"
				})
				folder := out
				if len(c.Writes) > 0 && c.Writes[len(c.Writes)-1].Path == out { // out is one file for all cultures
					folder = filepath.Dir(out)
				}
				path := filepath.Join(folder, LedgerName)
				c.Writes = slices.DeleteFunc(c.Writes, func(w files.Write) bool { return w.Path == path })
				data, err := ledger.onto(path)
				if err != nil {
					return nil, err
				}
				c.Add(path, nil, data)
			}
		}
	}
	return c, nil
}

// keptByLedger reports whether places of arguments were lost, or that tags are
// markup, which a ledger keeps.
func keptByLedger(losses []catalog.Loss) bool {
	return slices.ContainsFunc(losses, func(l catalog.Loss) bool { return l.Kind == "position" || l.Kind == "markup" })
}

func convertFamily(c *Conversion, family *Family, target *format.Format, out string, only bool) error {
	table := family.Table
	if only || table == family.Format.Table {
		table = target.Table
	}
	var source *catalog.Catalog
	if m := family.SourceMember(); m != nil {
		source = m.Catalog
	}
	w := &writer{conversion: c, target: target}
	held := make([]holding, len(family.Members))
	for i, m := range family.Members {
		held[i] = holding{file: family.Files[i], catalog: m.Catalog}
	}
	var jobs []func() *result
	if target.Holds.Many {
		path := filepath.FromSlash(target.Path(filepath.ToSlash(out), table, family.Source, true))
		if ext := filepath.Ext(out); ext != "" && slices.Contains(target.Extensions, strings.ToLower(ext)) { // out is the file
			path = out
			if target.Named != nil {
				target = target.Named(out)
				w.target = target
			}
		}
		jobs = append(jobs, func() *result { return w.compose(held, nil, path, "") })
	}
	for i, m := range family.Members {
		if target.Holds.Many {
			break
		}
		isSource := m.Culture == family.Source
		path := filepath.FromSlash(target.Path(filepath.ToSlash(out), table, m.Culture, isSource))
		companionPath := ""
		if target.Companion != nil {
			companionPath = filepath.FromSlash(target.Companion.Path(filepath.ToSlash(out), table, m.Culture, isSource))
		}
		switch {
		case isSource && target.Holds.Bilingual && !target.Template && len(held) > 1:
		case isSource || source == nil:
			jobs = append(jobs, func() *result { return w.compose(held[i:i+1], nil, path, companionPath) })
		case target.Holds.Bilingual:
			jobs = append(jobs, func() *result { return w.compose([]holding{held[0], held[i]}, nil, path, "") })
		default:
			jobs = append(jobs, func() *result { return w.compose(held[i:i+1], source, path, companionPath) })
		}
	}
	results := make([]*result, len(jobs))
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	var done atomic.Int32
	for i, job := range jobs {
		group.Go(func() error {
			results[i] = job()
			for _, hear := range c.progress {
				hear(int(done.Add(1)), len(jobs))
			}
			return nil
		})
	}
	if err := group.Wait(); err != nil {
		return err
	}
	layouts := map[string]bool{}
	for _, r := range results {
		r.losses = slices.DeleteFunc(r.losses, func(l catalog.Loss) bool { // a file of several cultures is told once
			again := l.Kind == LayoutLoss && l.Path != "" && layouts[l.Path]
			layouts[l.Path] = layouts[l.Path] || l.Kind == LayoutLoss
			return again
		})
		if target.Template { // the source's own file holds its plurals
			r.losses = slices.DeleteFunc(r.losses, func(l catalog.Loss) bool { return l.Kind == "source-plural" })
		}
		for _, other := range c.Writes {
			if other.Path == r.path {
				return usage("two families would be written to %s; convert them one by one", r.path)
			}
		}
		w.take(r)
	}
	return nil
}

// writer composes files of one target format.
type writer struct {
	conversion *Conversion
	target     *format.Format
}

// result is one composed file with its companion.
type result struct {
	file                *File
	culture             culture.Tag
	more                int
	path, companionPath string
	data, companion     []byte
	entries             int
	losses              []catalog.Loss
	// check reads what was composed; it may run beside all that is done until the
	// files are placed.
	check func() error
}

// compose writes catalogs into one file: one, with its source where it is a
// translation, or several where the format holds several.
func (w *writer) compose(from []holding, source *catalog.Catalog, path, companionPath string) *result {
	last := from[len(from)-1]
	r := &result{file: from[0].file, culture: last.catalog.Culture, path: path, companionPath: companionPath, entries: len(last.catalog.Entries)}
	layout := make(chan []catalog.Loss, 1)
	go func() {
		var list []catalog.Loss
		for i, h := range from {
			if i > 0 && h.file == from[i-1].file {
				continue
			}
			if l := layoutLoss(h.file, h.catalog, source); l != nil {
				list = append(list, *l)
			}
		}
		layout <- list
	}()
	held, losses := w.carry(from)
	heldSource, _ := w.carried(source, from[0].file.Format)
	last = held[len(held)-1]
	reading := make(chan *sample, 1)
	go func() { reading <- w.sampled(held, heldSource, companionPath != "") }()
	var more []catalog.Loss
	if len(from) > 1 {
		r.culture = ""
		catalogs := make([]*catalog.Catalog, len(from))
		for i, h := range from {
			if i > 0 && h.file != from[i-1].file {
				r.more++
			}
			catalogs[i] = held[i].catalog
			r.entries = max(r.entries, len(h.catalog.Entries))
		}
		if w.target.Holds.Bilingual {
			r.culture = last.catalog.Culture
		}
		r.data, more = w.target.Join(catalogs)
	} else {
		r.data, more = w.target.Compose(last.catalog, format.Options{Source: heldSource, Beside: companionPath != ""})
	}
	losses = append(losses, more...)
	if companionPath != "" {
		r.companion, more = w.target.Companion.Compose(last.catalog, format.Options{Source: heldSource, Beside: true})
		losses = append(losses, more...)
	}
	told := slices.Clone(losses) // which are put together further on
	r.check = func() error { return w.readBack(held, <-reading, r, told) }
	if l := <-layout; l != nil {
		losses = append(losses, l...)
	} else if len(r.companion) > 0 && mixed(last.catalog) {
		losses = append(losses, catalog.Loss{Kind: LayoutLoss, Lost: "the order of the entries", Instead: "plurals stand in a file of their own and come last"})
	}
	for _, h := range from {
		if h.catalog.Obsolete > 0 {
			losses = append(losses, catalog.Loss{Kind: "obsolete", Offset: -1, Culture: h.catalog.Culture, Lost: fmt.Sprintf("what is kept of texts that the program has no more (%d)", h.catalog.Obsolete), Instead: "nothing; they stay in their own file"})
		}
		for i := range h.catalog.Entries {
			if e := &h.catalog.Entries[i]; e.Unread != "" {
				losses = append(losses, catalog.Loss{Kind: "width", Key: e.Key, Offset: e.Offset, Lost: e.Unread, Instead: "the text for the widest", Culture: h.catalog.Culture})
			}
		}
	}
	losses = once(losses)
	locate := func(begin, end int) {
		for i := begin; i < end; i++ {
			l := &losses[i]
			at := from[0]
			for _, h := range from {
				if l.Culture == h.catalog.Culture {
					at = h
				}
			}
			l.Culture = cmp.Or(l.Culture, at.catalog.Culture)
			holder := at.file.Holder(l.Key)
			if l.Path = at.file.Path; l.Key != "" {
				l.Path = holder.Path
				l.Line, l.Column = holder.At(l.Offset)
			}
		}
	}
	pages.Halves(len(losses), locate, locate)
	r.losses = losses
	return r
}

func (w *writer) take(r *result) {
	c := w.conversion
	c.Checks = append(c.Checks, r.check)
	c.Add(r.path, nil, r.data)
	c.Files = append(c.Files, Converted{From: r.file.Path, Path: r.path, Format: w.target.Name, Culture: r.culture, Entries: r.entries, More: r.more})
	if len(r.companion) > 0 {
		c.Add(r.companionPath, nil, r.companion)
		c.Files = append(c.Files, Converted{From: r.file.Path, Path: r.companionPath, Format: w.target.Companion.Name, Culture: r.culture, Entries: r.entries})
	}
	if byLine := func(a, b catalog.Loss) int { return cmp.Compare(a.Line, b.Line) }; !slices.IsSortedFunc(r.losses, byLine) {
		slices.SortStableFunc(r.losses, byLine)
	}
	if c.Losses == nil {
		c.Losses = r.losses
		return
	}
	c.Losses = append(c.Losses, r.losses...)
}

// compared is up to how many entries a file's layout is compared. In larger
// ones the loss is told without looking: it costs as much as composing.
const compared = 20000

// once leaves out losses that were told already: a placeholder may stand in
// every form of a plural.
func once(losses []catalog.Loss) []catalog.Loss {
	kept := losses[:0]
	seen := catalog.NewNumbers(len(losses))
	for i := range losses {
		l := &losses[i]
		same := func(n int) bool {
			k := &kept[n]
			return k.Lost == l.Lost && k.Key == l.Key && k.Kind == l.Kind && k.Culture == l.Culture
		}
		if seen.Add(len(kept), catalog.Hash(l.Key, string(l.Culture)), same) < 0 {
			kept = append(kept, *l)
		}
	}
	return kept
}

// mixed reports whether an entry without a choice follows one with a choice.
func mixed(c *catalog.Catalog) bool {
	choice := false
	for i := range c.Entries {
		if c.Entries[i].Message.Choice != nil {
			choice = true
		} else if choice {
			return true
		}
	}
	return false
}

// layoutLoss compares the file with what its own format's writer makes of its
// texts. Where they differ, the way back from another format will not give the
// same bytes, and that is said.
func layoutLoss(file *File, from, source *catalog.Catalog) *catalog.Loss {
	if file.Companion != nil || file.Format.Companion != nil {
		return nil
	}
	if len(from.Entries) <= compared && file.plain(from, source) {
		return nil
	}
	return &catalog.Loss{
		Kind: LayoutLoss, Path: file.Path, Culture: from.Culture,
		Lost:    "the file's own layout: comments between entries, spacing, order of attributes, ways to escape",
		Instead: "the plain layout, should the texts come back to " + file.Format.Name,
	}
}

// plain reports whether the file looks as its own format's writer would write
// it. One with several cultures is compared once.
func (f *File) plain(from, source *catalog.Catalog) bool {
	if f.Format.Named != nil { // in its own form
		composed, _ := f.Format.Named(f.Path).Join(f.Document.Catalogs())
		return bytes.Equal(composed, f.data)
	}
	if f.Format.Join == nil {
		comparison := format.Compare(f.data)
		last, _ := f.Format.Compose(from, format.Options{Source: source, Against: comparison})
		return comparison.Same(last)
	}
	f.joined.Do(func() {
		composed, _ := f.Format.Join(f.Document.Catalogs())
		f.same = bytes.Equal(composed, f.data)
	})
	return f.same
}
