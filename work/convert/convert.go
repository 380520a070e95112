package convert

import (
	"cmp"
	"fmt"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync/atomic"

	"zelvik/internal/fast"
	"zelvik/project"

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
	Files    []project.Converted
	Losses   []catalog.Loss
	Findings []finding.Finding
	progress []func(done, total int)
	// copies are the files that get the bytes of another of their own format.
	copies []string
}

// LayoutLoss is the kind of the loss that changes no text: comments between
// entries, order of attributes, indentation. It does not count as a loss where
// losses are refused.
const LayoutLoss = "layout"

// File converts one file to one file. Out may be "-" for standard
// output; then what belongs into a companion file is reported as lost. Of a file
// with several cultures, the target gets all it can hold, or the one that its
// name or the options ask for.
func File(file *project.File, target *format.Format, out string, o project.Options) (*Conversion, error) {
	c := &Conversion{Findings: file.Findings}
	if target.Named != nil {
		target = target.Named(out)
	}
	place := format.Location{}
	if out != "-" {
		place = target.Locate(filepath.ToSlash(out))
	}
	f := &project.Family{Format: file.Format, Files: []*project.File{file}}
	if f.Source = o.Source; f.Source == "" {
		f.Source = f.GuessSource()
	}
	holdings := f.Holdings(file)
	if file.Format.Name == target.Name && !respelled(file.Format, target) {
		tag := cmp.Or(place.Culture, holdings[len(holdings)-1].Catalog.Culture)
		c.copy(file, target, tag, out)
		if file.Companion != nil && out != "-" {
			c.copy(file.Companion, target.Companion, tag, beside(out, target.Companion))
		}
		return c, nil
	}
	if damage := file.Damaged(); damage != nil {
		return nil, project.Refuse(damage)
	}
	if file.Companion != nil {
		if damage := file.Companion.Damaged(); damage != nil {
			return nil, project.Refuse(damage)
		}
	}
	ledger, err := project.ReadLedger(o.Disk, filepath.Dir(file.Path))
	if err != nil {
		return nil, err
	}
	source := holdings[0].Catalog
	for _, h := range holdings {
		ledger.Restore(h.Catalog, h.File.Format)
		if h.Catalog == source {
			source.Complete(nil)
		} else {
			h.Catalog.Complete(source)
		}
	}
	wanted := place.Culture
	if wanted == "" && len(o.Cultures) == 1 {
		wanted = o.Cultures[0]
	}
	chosen, err := choose(file, holdings, target, wanted, o.Cultures)
	if err != nil {
		return nil, err
	}
	if len(holdings) == 1 && place.Culture != "" {
		chosen[0].Catalog.Culture = place.Culture
	}
	companionPath := ""
	if target.Companion != nil && out != "-" {
		companionPath = beside(out, target.Companion)
	}
	w := &writer{conversion: c, target: target}
	if last := chosen[len(chosen)-1].Catalog; last == source || len(chosen) > 1 {
		source = nil
	}
	w.include(w.compose(chosen, source, out, companionPath))
	return c, nil
}

// choose picks the catalogs of a file that go into one file of the target.
func choose(file *project.File, holdings []project.Holding, target *format.Format, wanted culture.Tag, asked []culture.Tag) ([]project.Holding, error) {
	if len(holdings) == 1 {
		return holdings, nil
	}
	if target.Holds.Many {
		return slices.DeleteFunc(slices.Clone(holdings), func(h project.Holding) bool {
			return h != holdings[0] && asked != nil && !project.Answers(h.Catalog.Culture, asked)
		}), nil
	}
	var one *project.Holding
	for i := range holdings {
		if holdings[i].Catalog.Culture == wanted {
			one = &holdings[i]
		}
	}
	if one == nil && len(holdings) == 2 && (file.Format.Holds.Bilingual || target.Holds.Bilingual) {
		one = &holdings[1]
	}
	if one == nil {
		var have []string
		for _, h := range holdings {
			have = append(have, string(h.Catalog.Culture))
		}
		return nil, project.Usage("%s holds %d cultures (%s); name one with --cultures, or a folder with --out to write them all", file.Path, len(holdings), strings.Join(have, ", "))
	}
	if target.Holds.Bilingual && one.Catalog != holdings[0].Catalog {
		return []project.Holding{holdings[0], *one}, nil
	}
	return []project.Holding{*one}, nil
}

// respelled reports whether a form of a format was asked for that spells texts in
// another way than a file of the format does: json:dollar.
func respelled(have, asked *format.Format) bool {
	plain, err := all.Named(asked.Name)
	return err == nil && plain.Spelled != nil && asked != plain && asked != have
}

// copy plans the same bytes elsewhere.
func (c *Conversion) copy(file *project.File, target *format.Format, tag culture.Tag, out string) {
	c.Add(out, nil, file.Data)
	c.Files = append(c.Files, project.Converted{From: file.Path, Path: out, Format: target.Name, Culture: tag, Entries: len(file.Document.Catalogs()[0].Entries)})
	c.copies = append(c.copies, out)
}

// beside returns the path of a companion file.
func beside(path string, companion *format.Format) string {
	return strings.TrimSuffix(path, filepath.Ext(path)) + companion.Extensions[0]
}

// Families converts whole families into a folder.
// What progress there is hears how many files of a family are done.
func Families(families []*project.Family, target *format.Format, out string, progress ...func(done, total int)) (*Conversion, error) {
	c := &Conversion{progress: progress}
	for _, family := range families {
		for _, file := range family.Files {
			c.Findings = append(c.Findings, file.Findings...)
			if damage := file.Damaged(); damage != nil {
				return nil, project.Refuse(damage)
			}
		}
		ledger, err := family.Restore()
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
				path := filepath.Join(folder, project.LedgerName)
				c.Writes = slices.DeleteFunc(c.Writes, func(w files.Write) bool { return w.Path == path })
				data, err := ledger.Onto(path)
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

func convertFamily(c *Conversion, family *project.Family, target *format.Format, out string, only bool) error {
	table := family.Table
	if only || table == family.Format.Table {
		table = target.Table
	}
	var source *catalog.Catalog
	if m := family.SourceMember(); m != nil {
		source = m.Catalog
	}
	w := &writer{conversion: c, target: target}
	holdings := make([]project.Holding, len(family.Members))
	for i, m := range family.Members {
		holdings[i] = project.Holding{File: family.Files[i], Catalog: m.Catalog}
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
		jobs = append(jobs, func() *result { return w.compose(holdings, nil, path, "") })
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
		case isSource && target.Holds.Bilingual && !target.Template && len(holdings) > 1:
		case isSource || source == nil:
			jobs = append(jobs, func() *result { return w.compose(holdings[i:i+1], nil, path, companionPath) })
		case target.Holds.Bilingual:
			jobs = append(jobs, func() *result { return w.compose([]project.Holding{holdings[0], holdings[i]}, nil, path, "") })
		default:
			jobs = append(jobs, func() *result { return w.compose(holdings[i:i+1], source, path, companionPath) })
		}
	}
	layouts := map[string]bool{}
	for _, r := range c.run(jobs) {
		r.losses = slices.DeleteFunc(r.losses, func(l catalog.Loss) bool { // a file of several cultures is reported once
			again := l.Kind == LayoutLoss && l.Path != "" && layouts[l.Path]
			layouts[l.Path] = layouts[l.Path] || l.Kind == LayoutLoss
			return again
		})
		if target.Template { // the source's own file holds its plurals
			r.losses = slices.DeleteFunc(r.losses, func(l catalog.Loss) bool { return l.Kind == "source-plural" })
		}
		for _, other := range c.Writes {
			if other.Path == r.path {
				return project.Usage("two families would be written to %s; convert them one by one", r.path)
			}
		}
		w.include(r)
	}
	return nil
}

// run does jobs on all cores and gives their results in order.
func (c *Conversion) run(jobs []func() *result) []*result {
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
	_ = group.Wait() // no job fails
	return results
}

// writer composes files of one target format.
type writer struct {
	conversion *Conversion
	target     *format.Format
}

// result is one composed file with its companion.
type result struct {
	file                *project.File
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
func (w *writer) compose(from []project.Holding, source *catalog.Catalog, path, companionPath string) *result {
	last := from[len(from)-1]
	r := &result{file: from[0].File, culture: last.Catalog.Culture, path: path, companionPath: companionPath, entries: len(last.Catalog.Entries)}
	layout := make(chan []catalog.Loss, 1)
	go func() { layout <- layoutLosses(from, source) }()
	holdings, losses := w.carry(from)
	heldSource, _ := w.carried(source, from[0].File.Format)
	last = holdings[len(holdings)-1]
	reading := make(chan *sample, 1)
	go func() { reading <- w.sampled(holdings, heldSource, companionPath != "") }()
	var more []catalog.Loss
	if len(from) > 1 {
		r.culture = ""
		catalogs := make([]*catalog.Catalog, len(from))
		for i, h := range from {
			if i > 0 && h.File != from[i-1].File {
				r.more++
			}
			catalogs[i] = holdings[i].Catalog
			r.entries = max(r.entries, len(h.Catalog.Entries))
		}
		if w.target.Holds.Bilingual {
			r.culture = last.Catalog.Culture
		}
		r.data, more = w.target.Join(catalogs)
	} else {
		r.data, more = w.target.Compose(last.Catalog, format.Options{Source: heldSource, Beside: companionPath != ""})
	}
	losses = append(losses, more...)
	if companionPath != "" {
		r.companion, more = w.target.Companion.Compose(last.Catalog, format.Options{Source: heldSource, Beside: true})
		losses = append(losses, more...)
	}
	told := slices.Clone(losses) // which are put together further on
	r.check = func() error { return w.readBack(holdings, <-reading, r, told) }
	if l := <-layout; l != nil {
		losses = append(losses, l...)
	} else if len(r.companion) > 0 && mixed(last.Catalog) {
		losses = append(losses, catalog.Loss{Kind: LayoutLoss, Lost: "the order of the entries", Instead: "plurals stand in a file of their own and come last"})
	}
	losses = append(losses, leftAside(from)...)
	losses = catalog.Once(losses)
	locate := func(begin, end int) {
		for i := begin; i < end; i++ {
			l := &losses[i]
			at := from[0]
			for _, h := range from {
				if l.Culture == h.Catalog.Culture {
					at = h
				}
			}
			l.Culture = cmp.Or(l.Culture, at.Catalog.Culture)
			holder := at.File.Holder(l.Key)
			if l.Path = at.File.Path; l.Key != "" {
				l.Path = holder.Path
				l.Line, l.Column = holder.At(l.Offset)
			}
		}
	}
	fast.Halves(len(losses), locate, locate)
	r.losses = losses
	return r
}

func (w *writer) include(r *result) {
	c := w.conversion
	c.Checks = append(c.Checks, r.check)
	c.Add(r.path, nil, r.data)
	c.Files = append(c.Files, project.Converted{From: r.file.Path, Path: r.path, Format: w.target.Name, Culture: r.culture, Entries: r.entries, More: r.more})
	if len(r.companion) > 0 {
		c.Add(r.companionPath, nil, r.companion)
		c.Files = append(c.Files, project.Converted{From: r.file.Path, Path: r.companionPath, Format: w.target.Companion.Name, Culture: r.culture, Entries: r.entries})
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
// ones the loss is reported without looking: it costs as much as composing.
const compared = 20000

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

// leftAside reports what the files hold and the message tree does not.
func leftAside(from []project.Holding) (losses []catalog.Loss) {
	for _, h := range from {
		if h.Catalog.Obsolete > 0 {
			losses = append(losses, catalog.Loss{Kind: "obsolete", Offset: -1, Culture: h.Catalog.Culture, Lost: fmt.Sprintf("what is kept of texts that the program has no more (%d)", h.Catalog.Obsolete), Instead: "nothing; they stay in their own file"})
		}
		for i := range h.Catalog.Entries {
			if e := &h.Catalog.Entries[i]; e.Unread != "" {
				losses = append(losses, catalog.Loss{Kind: "width", Key: e.Key, Offset: e.Offset, Lost: e.Unread, Instead: "the text for the widest", Culture: h.Catalog.Culture})
			}
		}
	}
	return losses
}

// layoutLosses reports the files whose layout is their own, each once.
func layoutLosses(from []project.Holding, source *catalog.Catalog) (list []catalog.Loss) {
	for i, h := range from {
		if i > 0 && h.File == from[i-1].File {
			continue
		}
		if l := layoutLoss(h.File, h.Catalog, source); l != nil {
			list = append(list, *l)
		}
	}
	return list
}

// layoutLoss compares the file with what its own format's writer makes of its
// texts. Where they differ, the way back from another format will not give the
// same bytes, and that is said.
func layoutLoss(file *project.File, from, source *catalog.Catalog) *catalog.Loss {
	if file.Companion != nil || file.Format.Companion != nil {
		return nil
	}
	if len(from.Entries) <= compared && file.Plain(from, source) {
		return nil
	}
	return &catalog.Loss{
		Kind: LayoutLoss, Path: file.Path, Culture: from.Culture,
		Lost:    "the file's own layout: comments between entries, spacing, order of attributes, ways to escape",
		Instead: "the plain layout, should the texts come back to " + file.Format.Name,
	}
}
