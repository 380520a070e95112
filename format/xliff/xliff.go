// Package xliff reads and writes XLIFF, the standard for exchange with
// translators, in its versions 1.2, 2.0 and 2.1 (OASIS).
package xliff

import (
	"path"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/loose"
)

// Format is the format "xliff": it reads all versions and writes 1.2, which is
// read most widely.
var Format = made(nil)

func init() { Format.Settle = settle }

// made makes the format, of which the units that have these ids have these keys,
// whatever they are called.
func made(keys map[string]string) *format.Format {
	return &format.Format{
		Name:       "xliff",
		Title:      "XLIFF 1.2, 2.0, 2.1 (written as 1.2)",
		Files:      "messages.de.xlf, de.xliff",
		Extensions: []string{".xlf", ".xliff"},
		Table:      "messages",
		Holds:      holds,
		Recognise:  recognise,
		Locate:     locate,
		Path:       filePath,
		Parse:      func(data []byte) (format.Document, []finding.Finding) { return parse(data, keys) },
		Message:    read,
		Compose:    format.Alone(join12),
		Join:       join12,
	}
}

// settle has units known by their ids where the units of one file have names beside
// them and those of the other have none.
func settle(source, other format.Document) *format.Format {
	s, o := source.(*document), other.(*document)
	if s.named() == o.named() {
		return nil
	}
	keys := map[string]string{}
	for i := range s.units {
		keys[s.units[i].id] = s.Source.Entries[i].Key
	}
	known := 0
	for i := range o.units {
		if _, ok := keys[o.units[i].id]; ok {
			known++
		}
	}
	if known*2 < len(o.units) { // other ids: of two programs, and no help
		return nil
	}
	return made(keys)
}

// named reports whether any unit has a name beside its id.
func (d *document) named() bool {
	for i := range d.units {
		if d.units[i].id != d.Source.Entries[i].Key {
			return true
		}
	}
	return false
}

// Second is the format "xliff2": XLIFF written as 2.1.
var Second = &format.Format{
	Name:       "xliff2",
	Title:      "XLIFF, written as 2.1",
	Files:      "messages.de.xlf",
	Extensions: []string{".xlf"},
	Table:      "messages",
	Holds:      holds,
	Recognise:  func(string, []byte) format.Fit { return format.No },
	Locate:     locate,
	Path:       filePath,
	Parse:      Format.Parse,
	Message:    read,
	Compose:    format.Alone(join21),
	Join:       join21,
}

var holds = format.Abilities{
	Plurals: true, Zero: true, Exact: true, Ordinals: true, Selects: true, Several: true, Names: true, Samples: true, Types: true, Markup: true,
	Notes: true, States: true, Fixed: true, Limits: true, Bilingual: true,
}

func read(text string) (message.Message, []message.Fault) { return loose.Of(text).Parse(text) }

func join12(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) { return join(catalogs, false) }
func join21(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) { return join(catalogs, true) }

func recognise(p string, head []byte) format.Fit {
	switch strings.ToLower(path.Ext(p)) {
	case ".xlf", ".xliff":
		return format.Yes
	}
	if strings.Contains(string(head), "<xliff") && strings.Contains(string(head), "urn:oasis:names:tc:xliff:document:") && !strings.Contains(string(head), "<resources") {
		return format.Maybe
	}
	return format.No
}

// locate knows de.xlf, messages.de.xlf, messages_de.xlf and messages-de.xlf.
func locate(p string) format.Location {
	location, _ := format.InName(p, "messages", "._-", culture.Parse)
	return location
}

func filePath(dir, table string, tag culture.Tag, neutral bool) string {
	if neutral {
		return path.Join(dir, table+".xlf")
	}
	return path.Join(dir, table+"."+string(tag)+".xlf")
}
