package project

import (
	"bytes"
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"io"
	"iter"
	"maps"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/format"
	"zelvik/message"
)

// LedgerName is the ledger's file name.
const LedgerName = "zelvik.ledger.json"

// Ledger holds what no native format can: the names, types and samples of
// placeholders in formats that refer to them by position, which source text a
// translation was made of, which texts are drafts, which were handed to
// translators, and the texts of keys that are set aside.
type Ledger struct {
	entries map[ledgerID]Line
	// path is where it was read, "" where there was none; data what it was.
	path string
	data []byte
	disk *files.Disk
}

// ledgerID tells lines apart. What is known of a key's placeholders goes
// wherever the key goes and has no family; all else is a family's own.
type ledgerID struct{ key, family string }

// ledgerEntry is one line: a key and what is kept of it. Fingerprints are
// those of the texts that they are about, so that what is said of a text ends
// when somebody changes it.
type Line struct {
	Key string `json:"key"`
	// Family is the family's path, from the ledger's folder.
	Family string `json:"family,omitempty"`
	// Arguments are those of its message, by position.
	Arguments []argument `json:"arguments,omitempty"`
	// Markup says that tags in its texts are markup, where a format holds text alone.
	Markup bool `json:"markup,omitempty"`
	// Source is the fingerprint of the source's text that the translations are
	// of, but for those that are moved.
	Source string `json:"source,omitempty"`
	// Copies are texts that were put there to be translated, by culture.
	Copies Prints `json:"copies,omitempty"`
	// Moved, Drafts and Handed are translations, by culture, of an earlier
	// source text, those that a machine made, and those that are with a
	// translator.
	Moved  Prints `json:"moved,omitempty"`
	Drafts Prints `json:"drafts,omitempty"`
	Handed Prints `json:"handed,omitempty"`
	// Aside are the texts, as ICU messages, of a key that the source does not
	// have any more.
	Aside Prints `json:"aside,omitempty"`
}

// prints are fingerprints of texts, or texts, by culture.
type Prints map[culture.Tag]string

// With returns the prints with one more, or with an empty one one less.
func (p Prints) With(tag culture.Tag, print string) Prints {
	if p[tag] == print {
		return p
	}
	out := Prints{}
	for known, old := range p {
		out[known] = old
	}
	if out[tag] = print; print == "" {
		delete(out, tag)
	}
	if len(out) == 0 {
		return nil
	}
	return out
}

func (e *Line) empty() bool {
	return e.Arguments == nil && !e.Markup && e.Source == "" && e.Copies == nil && e.Moved == nil && e.Drafts == nil && e.Handed == nil && len(e.Aside) == 0
}

// argument is what is known of one position; an empty name is a gap.
type argument struct {
	Name   string        `json:"name"`
	Type   message.Type  `json:"type,omitempty"`
	Style  message.Style `json:"style,omitempty"`
	Sample string        `json:"sample,omitempty"`
}

// ReadLedger reads the ledger at or above a folder; an empty one where there
// is none.
func ReadLedger(disk *files.Disk, dir string) (*Ledger, error) {
	l := &Ledger{entries: map[ledgerID]Line{}, disk: disk}
	stop := disk.Root(dir)
	if stop == "" {
		stop = filepath.Dir(disk.Absolute(dir)) // beside a folder of resources
	}
	for at := disk.Absolute(dir); ; at = filepath.Dir(at) {
		data, err := disk.Existing(filepath.Join(at, LedgerName))
		if err != nil {
			return l, err
		}
		if data != nil {
			l.path, l.data = disk.Short(filepath.Join(at, LedgerName)), data
			return l, l.parse(l.path, data)
		}
		if at == stop || filepath.Dir(at) == at {
			return l, nil
		}
	}
}

func (l *Ledger) parse(path string, data []byte) error {
	var list []Line
	if err := json.Unmarshal(data, &list); err != nil {
		return &files.Error{Path: path, Text: "the ledger is damaged: " + err.Error(), Fix: "restore it from version control, or remove it"}
	}
	for _, e := range list {
		l.entries[ledgerID{e.Key, e.Family}] = e
	}
	return nil
}

// Note keeps what a format without names would forget of a source catalog.
func (l *Ledger) Note(c *catalog.Catalog) {
	for i := range c.Entries {
		e := &c.Entries[i]
		var list []argument
		worth := false
		for _, p := range e.Message.Arguments() {
			if p.Position <= 0 || p.Position > 64 {
				continue
			}
			for len(list) < p.Position {
				list = append(list, argument{})
			}
			list[p.Position-1] = argument{p.Name, p.Type, p.Style, p.Sample}
			worth = worth || !p.MadeName() || p.Sample != ""
		}
		markup := e.Message.HasMarkup()
		if !worth {
			list = nil
		}
		if worth || markup {
			l.Put(Line{Key: e.Key, Arguments: list, Markup: markup})
		}
	}
}

// Restore names the placeholders of a catalog in a format without names, and
// gives the texts of one without markup theirs.
func (l *Ledger) Restore(c *catalog.Catalog, f *format.Format) {
	if len(l.entries) == 0 {
		return
	}
	for i := range c.Entries {
		known, ok := l.entries[ledgerID{c.Entries[i].Key, ""}]
		if !ok {
			continue
		}
		if known.Markup && !f.Holds.Markup {
			c.Entries[i].Message = c.Entries[i].Message.Marked()
		}
		for p := range c.Entries[i].Message.Placeholders() {
			if p.Position == 0 && p.Name != "" { // a format with names alone
				p.Position = 1 + slices.IndexFunc(known.Arguments, func(a argument) bool { return a.Name == p.Name })
			}
			if p.Position < 1 || p.Position > len(known.Arguments) {
				continue
			}
			a := known.Arguments[p.Position-1]
			if a.Name == "" {
				continue
			}
			if p.MadeName() || p.Name == "count" || strings.HasPrefix(p.Name, "arg") {
				p.Name = a.Name
			}
			if p.Sample == "" {
				p.Sample = a.Sample
			}
			if p.Type == message.String && p.Style == "" && (a.Type >= message.Percent || p.Syntax == message.Marker || p.Syntax == message.Braces) { // what the file cannot say
				p.Type, p.Style, p.Spelling = a.Type, a.Style, ""
			}
		}
	}
}

// Restore names the placeholders of a family by its ledger, and completes its
// messages.
func (f *Family) Restore() (*Ledger, error) {
	ledger, err := ReadLedger(f.disk, f.Dir)
	if err != nil {
		return nil, err
	}
	for _, m := range f.Members {
		ledger.Restore(m.Catalog, f.Format)
	}
	f.CompleteAll()
	return ledger, nil
}

// Onto returns the bytes of a ledger that is kept elsewhere: what is known there
// stays, and is joined by what is new.
func (l *Ledger) Onto(path string) ([]byte, error) {
	data, err := l.disk.Existing(path)
	if err != nil || len(data) == 0 {
		return l.Bytes(), err
	}
	there := &Ledger{entries: map[ledgerID]Line{}}
	if err := there.parse(path, data); err != nil {
		return nil, err
	}
	for id, e := range l.entries {
		if _, known := there.entries[id]; !known || id.family == "" {
			there.Put(e)
		}
	}
	return there.Bytes(), nil
}

// Put keeps a line, or takes it out where it says nothing.
func (l *Ledger) Put(e Line) {
	id := ledgerID{e.Key, e.Family}
	if l.entries[id] = e; e.empty() {
		delete(l.entries, id)
	}
}

// Bytes writes the ledger: sorted, one line an entry, so that it merges.
func (l *Ledger) Bytes() []byte {
	ids := slices.SortedFunc(maps.Keys(l.entries), func(a, b ledgerID) int {
		return cmp.Or(cmp.Compare(a.key, b.key), cmp.Compare(a.family, b.family))
	})
	var out bytes.Buffer
	encoder := json.NewEncoder(&out)
	encoder.SetEscapeHTML(false)
	out.WriteString("[\n")
	for i, id := range ids {
		if err := encoder.Encode(l.entries[id]); err != nil {
			continue // strings and numbers always marshal
		}
		if out.Truncate(out.Len() - 1); i < len(ids)-1 {
			out.WriteByte(',')
		}
		out.WriteByte('\n')
	}
	out.WriteString("]\n")
	return out.Bytes()
}

// Empty reports whether there is nothing to keep.
func (l *Ledger) Empty() bool { return len(l.entries) == 0 }

// record is what the ledger says of one family.
type Record struct {
	*Ledger
	family string
}

// Record returns the record of a family: that of the nearest ledger going up from
// it, else of a new one beside the configuration, at the project's root, or
// beside the family. Families with one ledger share it.
func (w *Workspace) Record(f *Family) (*Record, error) {
	found, err := ReadLedger(w.Disk, f.Dir)
	if err != nil {
		return nil, err
	}
	if found.path == "" {
		found.path = filepath.Join(w.ledgerDir(f), LedgerName)
	}
	if w.ledgers == nil {
		w.ledgers = map[string]*Ledger{}
	}
	if known := w.ledgers[found.path]; known != nil {
		found = known
	}
	w.ledgers[found.path] = found
	name := f.Name
	if rel, err := filepath.Rel(w.Disk.Absolute(filepath.Dir(found.path)), w.Disk.Absolute(filepath.FromSlash(f.Name))); err == nil {
		name = filepath.ToSlash(rel)
	}
	return &Record{found, name}, nil
}

// ledgerDir is where a new ledger goes.
func (w *Workspace) ledgerDir(f *Family) string {
	dir := filepath.FromSlash(f.Dir)
	if at := FindConfig(w.Disk, dir); at != "" {
		return filepath.Dir(at)
	}
	if w.Config.dir != "" && w.Config.dir != "." {
		return w.Config.dir
	}
	if root := w.Disk.Root(dir); root != "" {
		return w.Disk.Short(root)
	}
	if f.Format.Closed {
		return filepath.Dir(dir)
	}
	return dir
}

// SaveLedgers plans the new content of the ledgers that were looked at.
func (w *Workspace) SaveLedgers(p *files.Plan) {
	for _, path := range slices.Sorted(maps.Keys(w.ledgers)) {
		l := w.ledgers[path]
		if l.data == nil && l.Empty() {
			continue
		}
		p.Add(path, l.data, l.Bytes())
	}
}

// Lines returns what is known of each key of the family, in no order.
func (r *Record) Lines() iter.Seq2[string, Line] {
	return func(yield func(string, Line) bool) {
		for id, line := range r.entries {
			if id.family == r.family && !yield(id.key, line) {
				return
			}
		}
	}
}

// Of returns the line of a key.
func (r *Record) Of(key string) Line {
	e := r.entries[ledgerID{key, r.family}]
	e.Key, e.Family = key, r.family
	return e
}

// Settle ends what was said of a translation: it is one of the source text as
// it is, made by a person.
func (r *Record) Settle(key string, tag culture.Tag) {
	e := r.Of(key)
	e.Copies, e.Moved, e.Drafts, e.Handed = e.Copies.With(tag, ""), e.Moved.With(tag, ""), e.Drafts.With(tag, ""), e.Handed.With(tag, "")
	r.Put(e)
}

// Rename carries what is known of a key over to its new name.
func (r *Record) Rename(old, fresh string) {
	for _, family := range []string{r.family, ""} {
		if e, ok := r.entries[ledgerID{old, family}]; ok {
			delete(r.entries, ledgerID{old, family})
			e.Key = fresh
			r.Put(e)
		}
	}
}

// Mark gives states to the translations of a family whose format holds none:
// draft and moved, as far as nobody changed them since.
func (r *Record) Mark(f *Family) {
	source := f.SourceMember()
	if source == nil || len(r.entries) == 0 || f.HoldsStates() {
		return
	}
	for id, line := range r.entries {
		s := source.Catalog.Find(id.key)
		if id.family != r.family || s == nil {
			continue
		}
		changed := line.Source != "" && line.Source != Fingerprint(s)
		for _, m := range f.Members {
			if m == source || !changed && line.Copies[m.Culture] == "" && line.Moved[m.Culture] == "" && line.Drafts[m.Culture] == "" {
				continue
			}
			e := m.Catalog.Find(id.key)
			if e == nil || e.Message.Empty() {
				continue
			}
			switch print := Fingerprint(e); {
			case line.Copies[m.Culture] == print:
				e.State = catalog.Missing
			case changed, line.Moved[m.Culture] == print:
				e.State = catalog.Moved
			case line.Drafts[m.Culture] == print:
				e.State = catalog.Draft
			}
		}
	}
}

// SetState says of a translation, in a family whose format holds no states, how
// far it has come.
func (r *Record) SetState(f *Family, key string, tag culture.Tag, state catalog.State) {
	r.Turn(f, key)
	line := r.Of(key)
	line.Copies, line.Moved, line.Drafts = line.Copies.With(tag, ""), line.Moved.With(tag, ""), line.Drafts.With(tag, "")
	switch print := Fingerprint(f.Member(tag).Catalog.Find(key)); state {
	case catalog.Moved:
		line.Moved = line.Moved.With(tag, print)
	case catalog.Draft:
		line.Drafts = line.Drafts.With(tag, print)
	}
	r.Put(line)
}

// Turn takes the source text of a key as it is: the translations of another
// one are moved from then on.
func (r *Record) Turn(f *Family, key string) {
	source := f.SourceMember()
	s := source.Catalog.Find(key)
	line := r.Of(key)
	was := line.Source
	if line.Source = Fingerprint(s); was == line.Source {
		return
	}
	for _, m := range f.Members {
		if e := m.Catalog.Find(key); was != "" && m != source && e != nil && !e.Message.Empty() {
			line.Moved = line.Moved.With(m.Culture, Fingerprint(e))
		}
	}
	r.Put(line)
}

// Recall gives the families what their ledgers know: names of placeholders, and
// states of translations. It runs before anything looks at the texts, and
// completes them (see CompleteAll).
func (w *Workspace) Recall() error {
	for _, f := range w.Families {
		if _, err := w.RecallOf(f); err != nil {
			return err
		}
	}
	return nil
}

func (w *Workspace) RecallOf(f *Family) (*Record, error) {
	r, err := w.Record(f)
	if err != nil {
		return nil, err
	}
	for _, m := range f.Members {
		r.Restore(m.Catalog, f.Format)
	}
	f.CompleteAll()
	r.Mark(f)
	return r, nil
}

// Fingerprint tells whether a text is still the one it was; none has one of
// its own. How a placeholder is spelled or named does not count.
func Fingerprint(e *catalog.Entry) string {
	if e == nil {
		return "none"
	}
	hash := sha256.New()
	var seen []*message.Placeholder // numbered as they appear, since formats name and number them differently
	for keys, pattern := range e.Message.Patterns() {
		for _, key := range keys {
			_, _ = io.WriteString(hash, key+"\x00")
		}
		for _, part := range pattern {
			switch part := part.(type) {
			case message.Text:
				_, _ = io.WriteString(hash, string(part))
			case *message.Placeholder:
				at := slices.IndexFunc(seen, part.Same)
				if at < 0 {
					at, seen = len(seen), append(seen, part)
				}
				_, _ = io.WriteString(hash, "\x01"+strconv.Itoa(at)+"\x01")
			case *message.Markup:
				_, _ = io.WriteString(hash, part.String())
			}
		}
		_, _ = io.WriteString(hash, "\x02")
	}
	return hex.EncodeToString(hash.Sum(nil)[:6])
}
