package arb

import (
	"fmt"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/doc"
	"zelvik/format/jsonscan"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/native"
)

// document is a bundle that was read.
type document struct {
	doc.One
	root jsonscan.Value
	// members are the entries' indexes in root.Members.
	members []int32
}

type parser struct {
	*document
	format.Reader
}

// originalKey is the custom attribute ("x-" as the specification asks) that
// keeps a key which an ARB cannot spell.
const originalKey = "x-key"

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{One: doc.NewOne(data)}}
	ok := false
	if p.Reader, p.root, ok = jsonscan.Open(p.Coded, data, "an .arb file"); !ok {
		return p.document, p.Done()
	}
	p.entries()
	return p.document, p.Done()
}

func (p *parser) entries() {
	members := p.root.Members
	p.Catalog.Entries = fast.Make[catalog.Entry](len(members))
	p.members = make([]int32, 0, len(members))
	var metadata map[string]*jsonscan.Value // where it does not stand after its key
	for i := range members {
		m := &members[i]
		if !p.Once(m.Key, m.Key, m.KeyFrom) {
			continue
		}
		if about, ok := strings.CutPrefix(m.Key, "@"); ok {
			if m.Value.Kind == jsonscan.Object && !(len(p.members) > 0 && int(p.members[len(p.members)-1]) == i-1 && members[i-1].Key == about) {
				if metadata == nil {
					metadata = map[string]*jsonscan.Value{}
				}
				metadata[about] = &m.Value
			}
			if m.Key == "@@locale" {
				if tag, err := culture.Parse(m.Value.Text); err == nil {
					p.Catalog.Culture = tag
				} else {
					p.Report("culture-unknown", m.Value.From, "", err.Error(), "write the file's culture")
				}
			}
			continue
		}
		if m.Value.Kind != jsonscan.String {
			p.Damaged(m.Value.From, m.Key, fmt.Sprintf("the text of %s is no string", m.Key), "put it in double quotes")
			continue
		}
		p.Catalog.Entries = append(p.Catalog.Entries, catalog.Entry{Key: m.Key, Offset: m.KeyFrom})
		p.members = append(p.members, int32(i))
	}
	p.Parallel(len(p.members), func(r *format.Reader, from, to int) {
		for n := from; n < to; n++ {
			i := int(p.members[n])
			m, e := &members[i], &p.Catalog.Entries[n]
			var faults []message.Fault
			e.Message, faults = icu.Parse(m.Value.Text)
			for _, f := range faults {
				r.Report(f.Rule, m.Value.From+1+f.Offset, m.Key, f.Text, f.Fix)
			}
			about := metadata[m.Key]
			if next := i + 1; about == nil && next < len(members) && members[next].Value.Kind == jsonscan.Object && isAbout(members[next].Key, m.Key) {
				about = &members[next].Value
			}
			if about != nil {
				describe(e, about)
			}
		}
	})
}

// isAbout reports whether one key is that of another's metadata.
func isAbout(about, key string) bool {
	return len(about) == len(key)+1 && about[0] == '@' && about[1:] == key
}

// describe takes note, key and placeholder types from the metadata.
func describe(e *catalog.Entry, about *jsonscan.Value) {
	if v := about.Find("description"); v != nil {
		e.Note = v.Text
	}
	if v := about.Find(originalKey); v != nil && v.Text != "" {
		e.Key = v.Text
	}
	declared := about.Find("placeholders")
	if declared == nil {
		return
	}
	for p := range e.Message.Placeholders() {
		for i := range declared.Members {
			if declared.Members[i].Key == p.Name {
				p.Position = i + 1
				declare(p, &declared.Members[i].Value)
			}
		}
	}
}

// declare sets type, style and sample from one placeholder's metadata.
func declare(p *message.Placeholder, about *jsonscan.Value) {
	get := func(key string) string {
		if v := about.Find(key); v != nil {
			return v.Text
		}
		return ""
	}
	p.Sample = get("example")
	d := native.Declaration{Type: get("type"), Format: get("format")}
	if v := about.Find("isCustomDateFormat"); v != nil && (v.Text == "true" || v.Kind != jsonscan.String) {
		d.Custom = true
	}
	if optional := about.Find("optionalParameters"); optional != nil {
		o := &native.Parameter{}
		for _, m := range optional.Members {
			switch m.Key {
			case "decimalDigits":
				if n, err := strconv.Atoi(m.Value.Text); err == nil {
					o.Digits = &n
				}
			case "name":
				o.Name = m.Value.Text
			case "symbol":
				o.Symbol = m.Value.Text
			case "customPattern":
				o.Pattern = m.Value.Text
			case "locale":
				o.Locale = m.Value.Text
			}
		}
		d.Optional = o
	}
	if d.Format == "" && (p.Type != message.String && p.Style != "" || p.Type >= message.Percent) {
		return // the message itself says more
	}
	d.Describe(p)
}
