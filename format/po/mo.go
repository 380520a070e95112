package po

import (
	"bytes"
	"encoding/binary"
	"path"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/doc"
)

// Compiled is the format "mo": what gettext reads when a program runs. It is
// written only.
var Compiled = &format.Format{
	Name:       "mo",
	Title:      "gettext catalog, compiled (written only)",
	Files:      "de.mo, de/LC_MESSAGES/app.mo",
	Extensions: []string{".mo"},
	Table:      "messages",
	Holds:      format.Abilities{Plurals: true, Types: true, Bilingual: true},
	Recognise: func(p string, head []byte) format.Fit {
		if strings.EqualFold(path.Ext(p), ".mo") && (len(head) == 0 || bytes.HasPrefix(head, []byte("\xde\x12\x04\x95")) || bytes.HasPrefix(head, []byte("\x95\x04\x12\xde"))) {
			return format.Maybe // no family is made of what cannot be read
		}
		return format.No
	},
	Locate: locate,
	Path: func(dir, table string, tag culture.Tag, _ bool) string {
		if table == "messages" {
			return path.Join(dir, strings.ReplaceAll(string(tag), "-", "_")+".mo")
		}
		return path.Join(dir, table+"."+strings.ReplaceAll(string(tag), "-", "_")+".mo")
	},
	Parse: func(data []byte) (format.Document, []finding.Finding) {
		r := format.NewReader("")
		r.Damaged(0, "", "compiled gettext catalogs are written only", "give the .po file that it was made of")
		return &document{Pair: doc.Pair{Coded: charset.Decode(data), Source: &catalog.Catalog{}}, header: -1}, r.Done()
	},
	Message: Format.Message,
	Compose: format.Alone(compile),
	Join:    compile,
}

// compile writes the translated entries, sorted by their source texts as the
// reader's search asks (gettext manual, the format of GNU MO files), revision
// 0, little endian, without a hash table.
func compile(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) {
	text, losses := join(catalogs)
	for i := range catalogs[0].Entries {
		if e := &catalogs[0].Entries[i]; e.Note != "" {
			losses = append(losses, catalog.Loss{Kind: "note", Key: e.Key, Offset: e.Offset, Culture: catalogs[0].Culture, Lost: "the note", Instead: "none; compiled catalogs hold no notes"})
		}
	}
	parsed, _ := parse(text)
	d := parsed.(*document)
	type pair struct{ id, text string }
	var pairs []pair
	for i := range d.blocks {
		b := &d.blocks[i]
		if !b.translated() {
			continue
		}
		if slices.Contains(b.flags, "fuzzy") {
			losses = append(losses, catalog.Loss{Kind: "state", Key: b.key, Lost: "the text, which is a draft", Instead: "nothing; programs show the source text"})
			continue
		}
		id := b.id.text
		if b.context.from >= 0 {
			id = b.context.text + "\x04" + id
		}
		var texts []string
		if b.plural.from >= 0 {
			id += "\x00" + b.plural.text
			for n := range d.forms.Count {
				f, _ := b.texts.at(n)
				texts = append(texts, f.text)
			}
		} else {
			f, _ := b.texts.at(0)
			texts = []string{f.text}
		}
		pairs = append(pairs, pair{id, strings.Join(texts, "\x00")})
	}
	slices.SortFunc(pairs, func(a, b pair) int { return strings.Compare(a.id, b.id) })
	const head = 28
	n := uint32(len(pairs))
	out := binary.LittleEndian.AppendUint32(nil, 0x950412de)
	for _, word := range []uint32{0, n, head, head + 8*n, 0, head + 16*n} {
		out = binary.LittleEndian.AppendUint32(out, word)
	}
	at := head + 16*n
	for _, ids := range []bool{true, false} {
		for _, p := range pairs {
			size := uint32(len(p.text))
			if ids {
				size = uint32(len(p.id))
			}
			out = binary.LittleEndian.AppendUint32(out, size)
			out = binary.LittleEndian.AppendUint32(out, at)
			at += size + 1
		}
	}
	for _, p := range pairs {
		out = append(append(out, p.id...), 0)
	}
	for _, p := range pairs {
		out = append(append(out, p.text...), 0)
	}
	return out, losses
}
