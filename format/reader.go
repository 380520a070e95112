package format

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/internal/fast"
	"zelvik/message"
)

// Reader gathers the findings of a parse. The readers of the formats are built
// on it.
type Reader struct {
	Findings []finding.Finding
	lines    *finding.Lines
	// ids are those that were noted, found by their numbers; room is how many
	// there may be.
	ids     []noted
	numbers *catalog.Numbers
	room    int
}

// noted is an ID and where it stands.
type noted struct {
	id     string
	offset int
}

// NewReader begins the parse of a text.
func NewReader(src string) Reader {
	return Reader{lines: finding.NewLines(src), room: len(src) / 80}
}

// maxFindings bounds what is reported of one file.
const maxFindings = 1000

// Parallel does work on the numbers below n in two halves at once where there
// are many. Each half has a reader of its own for its findings.
func (r *Reader) Parallel(n int, work func(r *Reader, from, to int)) {
	second := Reader{lines: r.lines}
	fast.Halves(n, func(from, to int) { work(r, from, to) }, func(from, to int) { work(&second, from, to) })
	r.Findings = append(r.Findings, second.Findings...)
}

// Spelled is the text of an entry as the file has it, unescaped, and where it
// stands.
type Spelled struct {
	Text   string
	Offset int
}

// Texts reads the texts of entries, in two halves at once where there are many:
// they take longer than finding them. A pattern that is damaged is reported as an
// escape where the file is whole without it.
func (r *Reader) Texts(entries []catalog.Entry, texts []Spelled, whole bool, parse func(text string) (message.Message, []message.Fault)) {
	r.Parallel(len(texts), func(r *Reader, from, to int) {
		for i := from; i < to; i++ {
			m, faults := parse(texts[i].Text)
			entries[i].Message = m
			r.InText(faults, whole, texts[i].Offset, entries[i].Key)
		}
	})
}

// InText tells the faults of the text of an entry that stands at an offset: those
// of escapes where the file is whole without them.
func (r *Reader) InText(faults []message.Fault, whole bool, offset int, key string) {
	for _, f := range faults {
		rule := f.Rule
		if whole && rule == "file-damaged" {
			rule = "escape-wrong"
		}
		r.Report(rule, offset, key, f.Text, f.Fix)
	}
}

// Report reports a fault at an offset of the text.
func (r *Reader) Report(rule string, offset int, key, text, fix string) {
	r.report(finding.Error, rule, offset, key, text, fix)
}

// Warn reports what does no harm by itself.
func (r *Reader) Warn(rule string, offset int, key, text, fix string) {
	r.report(finding.Warning, rule, offset, key, text, fix)
}

func (r *Reader) report(severity finding.Severity, rule string, offset int, key, text, fix string) {
	if len(r.Findings) > maxFindings {
		return
	}
	line, column := r.lines.At(offset)
	r.Findings = append(r.Findings, finding.Finding{Rule: rule, Severity: severity, Line: line, Column: column, Key: key, Message: text, Fix: fix})
}

// ConflictRule is the rule by which conflicts are reported that a merge left in a file.
const ConflictRule = "merge-conflict"

// Damage reports whether a fault keeps a file from being read whole.
func Damage(f finding.Finding) bool { return f.Rule == "file-damaged" || f.Rule == ConflictRule }

// Damaged reports a fault that keeps the file from being read whole.
func (r *Reader) Damaged(offset int, key, text, fix string) {
	r.Report("file-damaged", offset, key, text, fix)
}

// Once notes that an ID stands at an offset. It is false, and told, where the
// ID stood before.
func (r *Reader) Once(id, key string, offset int) bool {
	r.named(id, key, offset)
	if r.numbers == nil {
		r.numbers, r.ids = catalog.NewNumbers(r.room), fast.Make[noted](r.room)
	}
	if n := r.numbers.Add(len(r.ids), catalog.Hash(id, ""), func(n int) bool { return r.ids[n].id == id }); n >= 0 {
		r.Twice(key, offset, r.ids[n].offset)
		return false
	}
	r.ids = fast.Append(r.ids, noted{id, offset})
	return true
}

// Add puts an entry into a catalog. It is false, and told, where the catalog
// has one of the same key.
func (r *Reader) Add(c *catalog.Catalog, e catalog.Entry) bool {
	r.named(e.Key, e.Key, e.Offset)
	if first := c.Add(e); first >= 0 {
		c.Entries = c.Entries[:len(c.Entries)-1]
		r.Twice(e.Key, e.Offset, c.Entries[first].Offset)
		return false
	}
	return true
}

// AddAll looks through a catalog whose entries were appended. Those whose key an
// earlier one has are reported and taken out; gone hears the number of each before
// any is.
func (r *Reader) AddAll(c *catalog.Catalog, gone func(number int)) {
	hashes := make([]uint64, len(c.Entries))
	r.Parallel(len(c.Entries), func(r *Reader, from, to int) {
		for i := from; i < to; i++ {
			e := &c.Entries[i]
			r.named(e.Key, e.Key, e.Offset)
			hashes[i] = catalog.Hash(e.Key, e.Product)
		}
	})
	double := map[*catalog.Entry]bool{}
	c.Doubles(hashes, func(first int, e *catalog.Entry) {
		r.Twice(e.Key, e.Offset, c.Entries[first].Offset)
		double[e] = true
	})
	if len(double) == 0 {
		return
	}
	kept := make([]catalog.Entry, 0, len(c.Entries))
	for i := range c.Entries {
		if e := &c.Entries[i]; double[e] {
			gone(i)
		} else {
			kept = append(kept, *e)
		}
	}
	c.Entries = kept
}

func (r *Reader) named(id, key string, offset int) {
	if strings.IndexByte(id, 0) >= 0 {
		r.Damaged(offset, key, "a zero character in a key", "remove it")
	}
}

// Twice reports a key that stood at another offset first.
func (r *Reader) Twice(key string, offset, first int) {
	line, _ := r.lines.At(first)
	r.Report("key-duplicate", offset, key, fmt.Sprintf("the key %s stands twice; first in line %d", key, line), "remove one of them")
}

// Done returns the findings in the order of the file.
func (r *Reader) Done() []finding.Finding {
	finding.Sort(r.Findings)
	return r.Findings
}

// Teller gathers the losses of a writer, entry by entry. The writers of the
// formats are built on it.
type Teller struct {
	Losses []catalog.Loss
	// Catalog and Entry are what is being written.
	Catalog *catalog.Catalog
	Entry   *catalog.Entry
	// Source says that it is the source, and that the format refers to
	// arguments by name alone, so that their positions are reported.
	Source bool
}

// Lose reports a loss in the current entry.
func (t *Teller) Lose(kind, lost, instead string) {
	l := catalog.Loss{Kind: kind, Lost: lost, Instead: instead}
	if t.Entry != nil {
		l.Key, l.Offset = t.Entry.Key, t.Entry.Offset
	}
	if t.Catalog != nil {
		l.Culture = t.Catalog.Culture
	}
	t.Losses = fast.Append(t.Losses, l)
}

// Told notes the losses of a text, as the pattern syntaxes give them with it,
// and returns the text.
func (t *Teller) Told(text string, losses []message.Loss) string {
	for _, l := range losses {
		t.Lose(l.Kind, l.Lost, l.Instead)
	}
	return text
}

// Comment returns a note as a comment can hold it: without control characters,
// its lines ended by LF.
func (t *Teller) Comment(note string) string {
	note = strings.NewReplacer("\r\n", "\n", "\r", "\n").Replace(note)
	clean := strings.Map(func(r rune) rune {
		if r < ' ' && r != '\n' && r != '\t' || r == 0x7F {
			return -1
		}
		return r
	}, note)
	if clean != note {
		t.Lose("note", "the control characters in the note", "they are left out")
	}
	return clean
}

// XMLComment is Comment for an XML comment, which cannot hold two hyphens.
func (t *Teller) XMLComment(note string) string {
	note = t.Comment(note)
	if strings.Contains(note, "--") {
		t.Lose("note", "the hyphens in the note", "they are written apart, as XML comments cannot hold them")
		for strings.Contains(note, "--") {
			note = strings.ReplaceAll(note, "--", "- -")
		}
	}
	return note
}

// Unheld tells what the format cannot hold beside the text, and whether the
// entry is written at all: a text for one product is not.
func (t *Teller) Unheld(e *catalog.Entry, title string, holds Abilities) bool {
	t.Entry = e
	if e.Product != "" {
		t.aside(e)
		return false
	}
	t.Beside(e, title, holds)
	return true
}

// Beside tells what the format cannot hold beside the text.
func (t *Teller) Beside(e *catalog.Entry, title string, holds Abilities) {
	_, plain := e.Message.Plain("")
	if !holds.Samples && !plain {
		for p := range e.Message.Placeholders() {
			if p.Sample != "" {
				t.Lose("sample", "the example "+p.Sample+" of {"+p.Name+"}", "none; the ledger of a family keeps it")
			}
		}
	}
	if t.Source && !plain && !e.Message.Placed() && e.Message.HasPlaceholders() {
		t.Lose("position", "which argument is the first and which the second", "the order in which the text shows them; the ledger of a family keeps the positions")
	}
	if !holds.Markup && !plain {
		t.Marked(e)
	}
	if c := e.Message.Choice; c != nil && !holds.Zero && holds.Plurals && t.Catalog != nil && t.Catalog.Culture != "" {
		t.zero(c)
	}
	if !holds.Notes && strings.TrimSpace(e.Note) != "" {
		t.Lose("note", "the note", "none; "+title+" hold no notes")
	}
	if e.Fixed && !holds.Fixed {
		t.Lose("fixed", "that the text is not translated", "it looks like any other")
	}
	if e.State > catalog.Unstated && e.State < catalog.Done && !holds.States {
		t.Lose("state", "the state "+e.State.String(), "none; "+title+" hold no states")
	}
	if e.Limit > 0 && !holds.Limits {
		t.Lose("limit", fmt.Sprintf("the limit of %d characters", e.Limit), "none; "+title+" hold no limits")
	}
}

// zero reports a form that no number asks for by the culture's rules.
func (t *Teller) zero(c *message.Choice) {
	for i, s := range c.Selectors {
		if s.Kind != message.Plural || slices.Contains(t.Catalog.Culture.Cardinal().Categories(), culture.Zero) {
			continue
		}
		for _, v := range c.Variants {
			if v.Keys[i] == culture.Zero {
				t.Lose("plural", "the form zero, which only Apple's platforms show for 0 in this culture", "the form is there, and nothing shows it")
				return
			}
		}
	}
}

// Marked goes on to an entry, and tells that its markup is written as characters.
func (t *Teller) Marked(e *catalog.Entry) {
	t.Entry = e
	for _, p := range e.Message.Patterns() {
		if tag := p.Markup(); tag != nil {
			t.Lose("markup", "that "+tag.String()+" is markup", "the characters of the tag")
			return
		}
	}
}

// Keys returns the keys of catalogs, each once, and reports texts for one product.
func (t *Teller) Keys(catalogs []*catalog.Catalog) []string {
	keys := catalog.Keys(catalogs, func(c *catalog.Catalog, e *catalog.Entry) {
		t.Catalog, t.Entry = c, e
		t.aside(e)
	})
	t.Catalog, t.Entry = nil, nil
	return keys
}

func (t *Teller) aside(e *catalog.Entry) {
	t.Lose("product", "the text for the product "+e.Product, "nothing; the text for all products is kept")
}

// Strays reports texts that the source does not have, and so are not written.
func (t *Teller) Strays(source, target *catalog.Catalog) {
	for i := range target.Entries {
		if e := &target.Entries[i]; source.Find(e.ID()) == nil {
			t.Catalog, t.Entry = target, e
			t.Lose("source", "the text, which the source does not have", "nothing")
		}
	}
}

// Resolved returns the message of an entry; a reference to another entry becomes
// a copy of that one's text, and that is reported.
func (t *Teller) Resolved(c *catalog.Catalog, e *catalog.Entry) *catalog.Entry {
	if e.Reference == "" || c == nil {
		return e
	}
	m, ok := c.Resolve(e)
	if !ok {
		return e
	}
	t.Lose("reference", "that the text is the one of "+e.Reference, "a copy of that text")
	resolved := *e
	resolved.Message, resolved.Reference = m, ""
	return &resolved
}
