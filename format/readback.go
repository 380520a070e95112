package format

import (
	"fmt"
	"slices"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
)

// ReadBackError says that what was written would not be read as it was meant.
type ReadBackError struct {
	Key, Text, Why string
}

// Error returns one sentence.
func (e *ReadBackError) Error() string {
	text := ""
	if e.Text != "" {
		text = fmt.Sprintf(" (%q)", e.Text)
	}
	return fmt.Sprintf("the text of %s%s would not be read back: %s; nothing was written", e.Key, text, e.Why)
}

// ReadBack reads an edited file whole and holds it against what it was and what
// was to change: no fault is new, the texts that were set are there, and all
// others are as they were. Of a change of which a loss was reported, only that the
// entry can be read is asked. Places of entries and spellings are not compared.
func ReadBack(f *Format, before Document, changes []Change, data []byte, losses []catalog.Loss) error {
	after, faults := f.Parse(data)
	if fault := newDamage(before, f, faults); fault != nil {
		key := fault.Key
		if key == "" && len(changes) > 0 {
			key = changes[0].Key
		}
		return &ReadBackError{key, meant(changes, key), fault.Message}
	}
	told, touched, last := toldOf(losses), map[string]bool{}, map[string]int{}
	for n, c := range changes {
		touched[c.Key], last[c.Key] = true, n
		if c.NewKey != "" {
			touched[c.NewKey], last[c.NewKey] = true, n
		}
	}
	was, is := before.Catalogs(), after.Catalogs()
	for i, c := range was {
		drift := 0 // of places, as entries are added before
		now := counterpart(was, is, c.Culture, i)
		for j := range c.Entries {
			e := &c.Entries[j]
			if touched[e.Key] {
				continue
			}
			at := now.NearAt(j+drift, e.ID())
			switch {
			case at >= 0 && sameReading(e.Message, now.Entries[at].Message):
				drift = at - j
			case at >= 0:
				return &ReadBackError{e.Key, e.Message.String(), fmt.Sprintf("it would become %q with the change of %s", now.Entries[at].Message.String(), changes[0].Key)}
			case !e.Message.Empty():
				return &ReadBackError{e.Key, e.Message.String(), "it would be lost with the change of " + changes[0].Key}
			}
		}
	}
	for n, c := range changes {
		if told[c.Key] || last[c.Key] > n && (c.NewKey == "" || last[c.NewKey] > n) {
			continue // a later change of the same key counts
		}
		if err := c.readBack(is, counterpart(was, is, c.Culture, -1)); err != nil {
			return err
		}
	}
	return nil
}

// newDamage returns a fault that keeps the file from being read whole, where it
// has more of them than it had.
func newDamage(before Document, f *Format, now []finding.Finding) *finding.Finding {
	fault := func(list []finding.Finding) (n int, last *finding.Finding) {
		for i := range list {
			if Damage(list[i]) || list[i].Rule == "key-duplicate" {
				n, last = n+1, &list[i]
			}
		}
		return n, last
	}
	many, last := fault(now)
	if many == 0 {
		return nil
	}
	unchanged, _, err := before.Edit(nil)
	if err != nil {
		return last
	}
	_, old := f.Parse(unchanged)
	if had, _ := fault(old); many > had {
		return last
	}
	return nil
}

func meant(changes []Change, key string) string {
	for _, c := range changes {
		if c.Key == key && c.Message != nil {
			return c.Message.String()
		}
	}
	return ""
}

func toldOf(losses []catalog.Loss) map[string]bool {
	told := map[string]bool{}
	for i := range losses {
		told[losses[i].Key] = true
	}
	return told
}

// counterpart returns what became of a culture's catalog. Who read the file may
// have told its catalogs their cultures since, so places count first.
func counterpart(was, is []*catalog.Catalog, tag culture.Tag, at int) *catalog.Catalog {
	if at < 0 {
		at = slices.IndexFunc(was, func(c *catalog.Catalog) bool { return c.Culture == tag })
	}
	if at < 0 && tag == "" {
		at = 0
	}
	if at >= 0 && len(was) == len(is) {
		return is[at]
	}
	return catalogOf(is, tag, len(is)-1)
}

// catalogOf returns the catalog of a culture, else the one at a place.
func catalogOf(list []*catalog.Catalog, tag culture.Tag, at int) *catalog.Catalog {
	for _, c := range list {
		if c.Culture == tag {
			return c
		}
	}
	if at < len(list) {
		return list[at]
	}
	return &catalog.Catalog{}
}

// readBack looks for what one change was to do.
func (c *Change) readBack(is []*catalog.Catalog, now *catalog.Catalog) error {
	text := ""
	if c.Message != nil {
		text = c.Message.String()
	}
	switch c.Op {
	case Rename:
		if !slices.ContainsFunc(is, func(o *catalog.Catalog) bool { return o.Find(c.NewKey) != nil }) {
			return &ReadBackError{c.Key, "", "the key " + c.NewKey + " would not be there"}
		}
	case Remove:
		if e := now.Find(c.Key); e != nil && !e.Message.Empty() && c.Culture != "" {
			return &ReadBackError{c.Key, "", "it would still be there"}
		}
	case Set:
		if c.Message == nil || c.Message.Empty() {
			return nil
		}
		e := now.Find(c.Key)
		if e == nil {
			return &ReadBackError{c.Key, text, "it would not be there"}
		}
		if !sameReading(*c.Message, e.Message) {
			return &ReadBackError{c.Key, text, fmt.Sprintf("it would be read as %q", e.Message.String())}
		}
	}
	return nil
}

// Made is a file that was made anew.
type Made struct {
	Format *Format
	Data   []byte
}

// ReadBackNew reads files that were made anew together, such as a file and its
// companion, and holds them against the catalogs they were made of: every text
// is there, but for what losses report.
func ReadBackNew(files []Made, catalogs []*catalog.Catalog, losses []catalog.Loss) error {
	var is [][]*catalog.Catalog
	for _, made := range files {
		document, faults := made.Format.Parse(made.Data)
		for i := range faults {
			if Damage(faults[i]) || faults[i].Rule == "key-duplicate" {
				key := keyAt(document, &faults[i])
				return &ReadBackError{key, textOf(catalogs, key), faults[i].Message}
			}
		}
		is = append(is, document.Catalogs())
	}
	told := toldOf(losses)
	for i, c := range catalogs {
		if slices.ContainsFunc(losses, func(l catalog.Loss) bool { return l.Kind == "culture" && l.Key == "" && l.Culture == c.Culture }) {
			continue // left out
		}
		if len(catalogs) > 1 && i == 0 && files[0].Format.Holds.Bilingual {
			continue // the source's own file has it
		}
		for j := range c.Entries {
			e := &c.Entries[j]
			if told[e.Key] || e.Message.Empty() || e.Product != "" || e.Reference != "" {
				continue
			}
			var found *catalog.Entry
			same := false
			for _, list := range is {
				for at, other := range list {
					if same || other.Culture != c.Culture && at != i && len(list) > 1 { // a source and a translation may have one culture
						continue
					}
					if one := other.Near(j, e.ID()); one != nil {
						found, same = one, sameReading(e.Message, one.Message)
					}
				}
			}
			switch {
			case found == nil:
				return &ReadBackError{e.Key, e.Message.String(), "it would not be there"}
			case !same:
				return &ReadBackError{e.Key, e.Message.String(), fmt.Sprintf("it would be read as %q", found.Message.String())}
			}
		}
	}
	return nil
}

// keyAt returns the key of the entry in which a fault stands: the last one that
// begins before it.
func keyAt(d Document, fault *finding.Finding) string {
	key, last := fault.Key, -1
	if key != "" {
		return key
	}
	lines := finding.NewLines(d.Text())
	for _, c := range d.Catalogs() {
		for i := range c.Entries {
			e := &c.Entries[i]
			if line, column := lines.At(max(e.Offset, 0)); e.Offset > last && (line < fault.Line || line == fault.Line && column <= fault.Column) {
				key, last = e.Key, e.Offset
			}
		}
	}
	return key
}

func textOf(catalogs []*catalog.Catalog, key string) string {
	for _, c := range catalogs {
		if e := c.Find(key); e != nil {
			return e.Message.String()
		}
	}
	return ""
}

// sameReading reports whether a person would read the same: the same characters
// with placeholders at the same places, however they are spelled or named. Of a
// choice every text that is read has to be one that was meant, as formats have
// the forms that their platform needs.
func sameReading(meant, read message.Message) bool {
	if meant.Choice == nil && read.Choice == nil {
		return alike(meant.Pattern, read.Pattern) || meant.Pattern.Shown() == read.Pattern.Shown()
	}
	var texts []string
	texts = slices.AppendSeq(texts, meant.Shown())
	for text := range read.Shown() {
		if text != "" && !slices.Contains(texts, text) {
			return false
		}
	}
	return !read.Empty() || meant.Empty()
}

// alike reports whether two patterns have the same parts, which is found faster
// than what they show.
func alike(a, b message.Pattern) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		switch part := a[i].(type) {
		case message.Text:
			if other, ok := b[i].(message.Text); !ok || part != other {
				return false
			}
		case *message.Placeholder:
			if _, ok := b[i].(*message.Placeholder); !ok {
				return false
			}
		default:
			return false
		}
	}
	return true
}
