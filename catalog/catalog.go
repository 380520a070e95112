// Package catalog holds entries, catalogs and families in memory, as every
// format is read into them and written from them.
package catalog

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"zelvik/culture"
	"zelvik/internal/fast"
	"zelvik/message"
)

// State says how far a translation has come.
type State uint8

// The states of an entry. Most formats hold none.
const (
	Unstated State = iota
	Missing        // known to be untranslated
	Draft          // filled by machine, or marked for review
	Moved          // the source changed after the translation
	Done           // translated and reviewed
)

// String returns the state's word.
func (s State) String() string {
	return [...]string{"unstated", "missing", "draft", "moved", "done"}[s]
}

// ParseState reads a state by its word. The error lists the words.
func ParseState(word string) (State, error) {
	for s := Missing; s <= Done; s++ {
		if s.String() == word {
			return s, nil
		}
	}
	return Unstated, fmt.Errorf("%q is no state; choose missing, draft, moved or done", word)
}

// Entry is one key with its message, note and state.
type Entry struct {
	Key     string
	Message message.Message
	// Note is what the developer tells the translator.
	Note string
	// Product names the product variant the entry is for, "" for all.
	Product string
	// Reference is the key whose text this entry repeats, "" for none.
	Reference string
	State     State
	// Fixed says that the entry is not to be translated.
	Fixed bool
	// Limit is the greatest length in characters, 0 for none.
	Limit int
	// Unread says what of the entry its reader could not bring into Message,
	// such as texts for narrower screens; "" for nothing.
	Unread string
	// Offset is the byte in the document at which the entry stands, counted in
	// the UTF-8 form of its text; -1 where it stands nowhere yet.
	Offset int
}

// ID tells entries apart: the key, and the product variant where there is one.
func (e *Entry) ID() string {
	if e.Product == "" {
		return e.Key
	}
	return e.Key + "\x00" + e.Product
}

// Catalog is one culture's entries, in the order of the file.
type Catalog struct {
	// Culture is the tag the file states or its name gives; "" where neither
	// says.
	Culture culture.Tag
	Entries []Entry
	// Extracted is when a source was taken out of the code, as the file states it:
	// "2026-03-01 10:15+0000"; "" where it does not.
	Extracted string
	// Obsolete is how many entries the file keeps of which the program has no text
	// any more.
	Obsolete int
	// single is how many entries there were when each was found to have an ID of
	// its own; 0 where nobody looked.
	single int
	// index is made when the first entry is looked for, by whoever comes first.
	index atomic.Pointer[Numbers]
}

// Find returns the entry with the ID, or nil. The first of several with the same
// key answers.
func (c *Catalog) Find(id string) *Entry {
	if i := c.At(id); i >= 0 {
		return &c.Entries[i]
	}
	return nil
}

// At returns the number of the entry with the ID, or -1.
func (c *Catalog) At(id string) int {
	if c == nil {
		return -1
	}
	key, product, _ := strings.Cut(id, "\x00")
	return c.indexed().Find(Hash(key, product), func(number int) bool {
		e := &c.Entries[number]
		return e.Key == key && e.Product == product
	})
}

// indexed returns the index, which is made where there is none.
func (c *Catalog) indexed() *Numbers {
	x := c.index.Load()
	if x == nil {
		x = c.makeIndex()
		c.index.Store(x)
	}
	return x
}

// Near returns the entry with the ID, or nil, as Find does. It looks first where
// the entry probably is: catalogs mostly have theirs in the same order.
func (c *Catalog) Near(number int, id string) *Entry {
	if i := c.NearAt(number, id); i >= 0 {
		return &c.Entries[i]
	}
	return nil
}

// NearAt returns the number of the entry that Near gives, or -1.
func (c *Catalog) NearAt(number int, id string) int {
	if c != nil && number >= 0 && number < len(c.Entries) {
		if e := &c.Entries[number]; e.Key == id && e.Product == "" {
			return number
		}
	}
	return c.At(id)
}

// Keys returns the keys of several catalogs, each once, in the order of the first
// catalog that has it. Entries for one product are set aside.
func Keys(catalogs []*Catalog, aside func(c *Catalog, e *Entry)) []string {
	keys := make([]string, 0, len(catalogs[0].Entries))
	for n, c := range catalogs {
		single := c.single == len(c.Entries) || c.indexed().Len() == len(c.Entries)
		for i := range c.Entries {
			e := &c.Entries[i]
			if e.Product != "" {
				aside(c, e)
			} else if (single || c.At(e.Key) == i) && !slices.ContainsFunc(catalogs[:n], func(c *Catalog) bool { return c.Near(i, e.Key) != nil }) {
				keys = append(keys, e.Key)
			}
		}
	}
	return keys
}

// Grow makes room for n entries.
func (c *Catalog) Grow(n int) {
	if len(c.Entries) > 0 || cap(c.Entries) < n {
		c.Entries = slices.Grow(c.Entries, n)
	}
	if c.index.Load() == nil {
		c.index.Store(NewNumbers(n))
	}
}

// Add appends an entry. Where there is one with the same ID already, that one
// goes on answering, and its number is given; else -1.
func (c *Catalog) Add(e Entry) (first int) {
	x := c.indexed()
	c.Entries = fast.Append(c.Entries, e)
	return c.add(x, len(c.Entries)-1, Hash(e.Key, e.Product))
}

// Platform reports whether the entry's text is one of the platform's own, which
// its reference names with a sign: "@android:string/ok", "?attr/title".
func (e *Entry) Platform() bool {
	return e.Reference != "" && (e.Reference[0] == '@' || e.Reference[0] == '?')
}

// Resolve returns the message of the entry, following references to other
// entries of the catalog for a few steps.
func (c *Catalog) Resolve(e *Entry) (message.Message, bool) {
	for range 8 {
		if e.Reference == "" {
			return e.Message, true
		}
		if e = c.Find(e.Reference); e == nil {
			return message.Message{}, false
		}
	}
	return message.Message{}, false
}

// Complete gives names, positions and types to all placeholders, from the
// source catalog where one is given (see message.Message.Complete).
func (c *Catalog) Complete(source *Catalog) {
	source.At("") // make the index before it is shared
	part := func(from, to int) { complete(c.Entries[from:to], source) }
	fast.Halves(len(c.Entries), part, part)
}

func complete(entries []Entry, source *Catalog) {
	for i := range entries {
		e := &entries[i]
		if e.Message.Choice == nil && (len(e.Message.Pattern) == 0 || len(e.Message.Pattern) == 1 && isText(e.Message.Pattern[0])) {
			continue
		}
		var arguments []message.Placeholder
		if s := source.Find(e.ID()); s != nil {
			arguments = s.Message.Arguments()
			e.Message.CountAs(s.Message)
		}
		e.Message.Complete(arguments)
	}
}

func isText(part message.Part) bool {
	_, ok := part.(message.Text)
	return ok
}

// Loss is something that a conversion could not carry.
type Loss struct {
	// Kind is one of the kinds that docs/losses.md explains.
	Kind    string      `json:"kind"`
	Path    string      `json:"path,omitempty"`
	Line    int         `json:"line,omitempty"`
	Column  int         `json:"column,omitempty"`
	Key     string      `json:"key,omitempty"`
	Culture culture.Tag `json:"culture,omitempty"`
	// Lost says what was lost; Instead what was done instead.
	Lost    string `json:"lost"`
	Instead string `json:"instead"`
	// Offset is where the entry stands in what was read; Line and Column are
	// made from it.
	Offset int `json:"-"`
}

// Family is the set of catalogs that hold the same keys, one per culture.
type Family struct {
	// Name is the path pattern or base name that the members share.
	Name string
	// Format is the name of the members' format.
	Format string
	// Source is the culture the others are translated from.
	Source  culture.Tag
	Members []*Member
	// Twins are second files in the source culture, such as values-en beside
	// values: a platform shows readers of that culture their texts first.
	Twins []*Member

	judged sync.Once
	judges []*Member
	asked  sync.Once
	byText bool
}

// KeyedByText reports whether keys are the texts themselves, as far as some hundred
// of them tell: a key shows, then, where there is no text.
func (f *Family) KeyedByText() bool {
	f.asked.Do(func() {
		source := f.SourceMember()
		if source == nil {
			return
		}
		read, spaced := 0, 0
		for i := 0; i < len(source.Catalog.Entries); i += max(1, len(source.Catalog.Entries)/300) {
			if read++; strings.Contains(source.Catalog.Entries[i].Key, " ") {
				spaced++
			}
		}
		f.byText = spaced*4 > read
	})
	return f.byText
}

// Kept reports whether most of the well-translated cultures have the source's own
// text for a key: then it is a name, or a term that people leave as it is.
func (f *Family) Kept(id string) bool {
	f.judged.Do(f.findJudges)
	source := f.SourceMember()
	if len(f.judges) < 3 || source == nil {
		return false
	}
	s := source.Catalog.Find(id)
	const longest = 4 // words: names and terms have no more, sentences do
	if s == nil || len(strings.Fields(s.Message.Main().Literal())) > longest {
		return false
	}
	same := 0
	for _, m := range f.judges {
		if e := m.Catalog.Find(id); e != nil && e.State != Missing && e.State != Draft && e.Message.String() == s.Message.String() {
			same++
		}
	}
	return same*5 >= len(f.judges)*3
}

// findJudges gathers the members that are translated well, as far as some hundred of
// their texts tell.
func (f *Family) findJudges() {
	source := f.SourceMember()
	if source == nil || len(f.Members) < 4 {
		return
	}
	entries := source.Catalog.Entries
	step := max(1, len(entries)/300)
	for _, m := range f.Members {
		if m == source || m.Culture.Base() == f.Source.Base() || m.Culture.Pseudo() {
			continue
		}
		read, texts, copies := 0, 0, 0
		for i := 0; i < len(entries); i += step {
			read++
			e := m.Catalog.Near(i, entries[i].ID())
			if e == nil || e.Message.Empty() || e.State == Missing || e.State == Draft {
				continue
			}
			if texts++; e.Message.String() == entries[i].Message.String() {
				copies++
			}
		}
		if copies*5 <= texts*3 && texts*2 >= read {
			f.judges = append(f.judges, m)
		}
	}
}

// Member is one file of a family with one of its catalogs.
type Member struct {
	Path    string
	Culture culture.Tag
	// Neutral says that the file's name has no culture: it answers last.
	Neutral bool
	Catalog *Catalog
}

// Member returns the member for a culture, or nil.
func (f *Family) Member(tag culture.Tag) *Member {
	for _, m := range f.Members {
		if m.Culture == tag {
			return m
		}
	}
	return nil
}

// SourceMember returns the member in the source culture, or nil.
func (f *Family) SourceMember() *Member { return f.Member(f.Source) }

// Lookup returns the entry that answers for a key in a culture: its own, a
// parent's, or the source's; and the member it stands in.
func (f *Family) Lookup(id string, tag culture.Tag) (*Entry, *Member) {
	for t := tag; t != ""; t = t.Parent() {
		if m := f.Member(t); m != nil {
			if e := m.Catalog.Find(id); e != nil {
				return e, m
			}
		}
	}
	if m := f.SourceMember(); m != nil {
		return m.Catalog.Find(id), m
	}
	return nil, nil
}

// ArrayKey makes the key of an array's item: "days[2]".
func ArrayKey(name string, index int) string { return fmt.Sprintf("%s[%d]", name, index) }

// SplitArrayKey takes an array item's key apart.
func SplitArrayKey(key string) (name string, index int, ok bool) {
	open := strings.LastIndexByte(key, '[')
	if open <= 0 || !strings.HasSuffix(key, "]") || open+2 >= len(key) {
		return "", 0, false
	}
	for _, c := range key[open+1 : len(key)-1] {
		if c < '0' || c > '9' || index > 1<<20 {
			return "", 0, false
		}
		index = index*10 + int(c-'0')
	}
	return key[:open], index, true
}
