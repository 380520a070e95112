package project

import (
	"cmp"
	"path/filepath"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
)

// Conversion is what a conversion would write and could not carry.
type Conversion struct {
	Plan
	Files    []Converted
	Losses   []catalog.Loss
	Findings []finding.Finding
}

// Converted is one file of a conversion.
type Converted struct {
	From    string      `json:"from"`
	Path    string      `json:"path"`
	Format  string      `json:"format"`
	Culture culture.Tag `json:"culture,omitempty"`
	Entries int         `json:"entries"`
}

// LayoutLoss is the kind of the loss that changes no text: comments between
// entries, order of attributes, indentation. It does not count as a loss where
// losses are refused.
const LayoutLoss = "layout"

// ConvertFile converts one file to one file. Out may be "-" for standard
// output; then what belongs into a companion file is told as lost.
func ConvertFile(file *File, target *format.Format, out string) (*Conversion, error) {
	c := &Conversion{Findings: file.Findings}
	tag := cmp.Or(file.Location.Culture, file.Document.Catalogs()[0].Culture)
	place := format.Location{}
	if out != "-" {
		place = target.Locate(filepath.ToSlash(out))
		tag = cmp.Or(place.Culture, tag)
	}
	if file.Format == target {
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
	from := file.Catalog()
	from.Culture = cmp.Or(tag, "en")
	ledger, err := ReadLedger(filepath.Dir(file.Path))
	if err != nil {
		return nil, err
	}
	ledger.Restore(from)
	from.Complete(nil)
	companionPath := ""
	if target.Companion != nil && out != "-" {
		companionPath = beside(out, target.Companion)
	}
	w := &writer{conversion: c, target: target}
	r := w.compose(file, from, nil, out, companionPath)
	w.take(r)
	return c, nil
}

// copy plans the same bytes elsewhere.
func (c *Conversion) copy(file *File, target *format.Format, tag culture.Tag, out string) {
	c.Add(out, nil, file.data)
	c.Files = append(c.Files, Converted{file.Path, out, target.Name, tag, len(file.Document.Catalogs()[0].Entries)})
}

// beside gives the path of a companion file.
func beside(path string, companion *format.Format) string {
	return strings.TrimSuffix(path, filepath.Ext(path)) + companion.Extensions[0]
}

// ConvertFamilies converts whole families into a folder.
func ConvertFamilies(families []*Family, target *format.Format, out string) (*Conversion, error) {
	c := &Conversion{}
	for _, family := range families {
		for _, file := range family.Files {
			c.Findings = append(c.Findings, file.Findings...)
			if damage := file.Damaged(); damage != nil {
				return nil, Refuse(damage)
			}
		}
		ledger, err := ReadLedger(family.Dir)
		if err != nil {
			return nil, err
		}
		for _, m := range family.Members {
			ledger.Restore(m.Catalog)
		}
		family.CompleteAll()
		if err := convertFamily(c, family, target, out, len(families) == 1); err != nil {
			return nil, err
		}
		if !keepsNames(target.Name) {
			if source := family.SourceMember(); source != nil {
				ledger.Note(source.Catalog)
			}
			if !ledger.Empty() {
				c.Losses = slices.DeleteFunc(c.Losses, func(l catalog.Loss) bool { return l.Kind == "name" })
				path := filepath.Join(out, LedgerName)
				c.Writes = slices.DeleteFunc(c.Writes, func(w Write) bool { return w.Path == path })
				c.Add(path, nil, ledger.Bytes())
			}
		}
	}
	return c, nil
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
	results := make([]*result, len(family.Members))
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, m := range family.Members {
		isSource := m.Culture == family.Source
		path := filepath.FromSlash(target.Path(filepath.ToSlash(out), table, m.Culture, isSource))
		companionPath := ""
		if target.Companion != nil {
			companionPath = filepath.FromSlash(target.Companion.Path(filepath.ToSlash(out), table, m.Culture, isSource))
		}
		group.Go(func() error {
			from := source
			if isSource {
				from = nil
			}
			results[i] = w.compose(family.Files[i], m.Catalog, from, path, companionPath)
			return nil
		})
	}
	if err := group.Wait(); err != nil {
		return err
	}
	for _, r := range results {
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
	path, companionPath string
	data, companion     []byte
	entries             int
	losses              []catalog.Loss
}

func (w *writer) compose(file *File, from, source *catalog.Catalog, path, companionPath string) *result {
	r := &result{file: file, culture: from.Culture, path: path, companionPath: companionPath, entries: len(from.Entries)}
	layout := make(chan *catalog.Loss, 1)
	go func() { layout <- layoutLoss(file, from, source) }()
	var losses []catalog.Loss
	r.data, losses = w.target.Compose(from, format.Options{Source: source, Beside: companionPath != ""})
	if companionPath != "" {
		var more []catalog.Loss
		r.companion, more = w.target.Companion.Compose(from, format.Options{Source: source, Beside: true})
		losses = append(losses, more...)
	}
	if l := <-layout; l != nil {
		losses = append(losses, *l)
	} else if len(r.companion) > 0 && mixed(from) {
		losses = append(losses, catalog.Loss{Kind: LayoutLoss, Lost: "the order of the entries", Instead: "plurals stand in a file of their own and come last"})
	}
	for i := range from.Entries {
		if e := &from.Entries[i]; e.Unread != "" {
			losses = append(losses, catalog.Loss{Kind: "width", Key: e.Key, Offset: e.Offset, Lost: e.Unread, Instead: "the text for the widest"})
		}
	}
	losses = once(losses)
	for i := range losses {
		l := &losses[i]
		holder := file.Holder(l.Key)
		l.Path, l.Culture = file.Path, from.Culture
		if l.Key != "" {
			l.Path = holder.Path
			l.Line, l.Column = holder.At(l.Offset)
		}
	}
	r.losses = losses
	return r
}

func (w *writer) take(r *result) {
	c := w.conversion
	c.Add(r.path, nil, r.data)
	c.Files = append(c.Files, Converted{r.file.Path, r.path, w.target.Name, r.culture, r.entries})
	if len(r.companion) > 0 {
		c.Add(r.companionPath, nil, r.companion)
		c.Files = append(c.Files, Converted{r.file.Path, r.companionPath, w.target.Companion.Name, r.culture, r.entries})
	}
	slices.SortStableFunc(r.losses, func(a, b catalog.Loss) int { return cmp.Compare(a.Line, b.Line) })
	c.Losses = append(c.Losses, r.losses...)
}

// compared is up to how many entries a file's layout is compared. In larger
// ones the loss is told without looking: it costs as much as composing.
const compared = 20000

// once leaves out losses that were told already: a placeholder may stand in
// every form of a plural.
func once(losses []catalog.Loss) []catalog.Loss {
	type told struct{ kind, key, lost string }
	seen := map[told]bool{}
	return slices.DeleteFunc(losses, func(l catalog.Loss) bool {
		t := told{l.Kind, l.Key, l.Lost}
		again := seen[t]
		seen[t] = true
		return again
	})
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
	if len(from.Entries) <= compared {
		comparison := format.Compare(file.data)
		last, _ := file.Format.Compose(from, format.Options{Source: source, Against: comparison})
		if comparison.Same(last) {
			return nil
		}
	}
	return &catalog.Loss{
		Kind: LayoutLoss, Path: file.Path, Culture: from.Culture,
		Lost:    "the file's own layout: comments between entries, spacing, order of attributes, ways to escape",
		Instead: "the plain layout, should the texts come back to " + file.Format.Name,
	}
}
