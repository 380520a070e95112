package arb

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/charset"
	"zelvik/format/jsonscan"
	"zelvik/message"
	"zelvik/message/icu"
)

// document is a bundle that was read.
type document struct {
	text    *charset.Text
	catalog *catalog.Catalog
	root    jsonscan.Value
	// members are the entries' indexes in root.Members.
	members []int32
}

// Catalogs gives the file's one catalog.
func (d *document) Catalogs() []*catalog.Catalog { return []*catalog.Catalog{d.catalog} }

// Text gives the file as UTF-8.
func (d *document) Text() string { return d.text.String() }

type parser struct {
	*document
	lines    *finding.Lines
	findings []finding.Finding
}

// originalKey is the custom attribute ("x-" as the specification asks) that
// keeps a key which an ARB cannot spell.
const originalKey = "x-key"

func parse(data []byte) (format.Document, []finding.Finding) {
	p := &parser{document: &document{text: charset.Decode(data), catalog: &catalog.Catalog{}}}
	src := p.Text()
	p.lines = finding.NewLines(src)
	if charset.Binary(data) {
		p.report("file-damaged", 0, "", "the file is binary, no JSON text", "give an .arb file")
		return p.document, p.findings
	}
	if p.text.Bad >= 0 {
		p.report("file-damaged", p.text.Bad, "", "the file is not valid "+p.text.Encoding.String(), "save it as UTF-8")
	}
	root, faults := jsonscan.Parse(src)
	p.root = root
	for _, f := range faults {
		p.report("file-damaged", f.Offset, "", f.Text, f.Mend)
	}
	if root.Kind != jsonscan.Object && len(faults) == 0 {
		p.report("file-damaged", root.From, "", "the file is no JSON object", `write {"key": "text"}`)
	}
	p.entries()
	finding.Sort(p.findings)
	return p.document, p.findings
}

func (p *parser) report(rule string, offset int, key, text, mend string) {
	if len(p.findings) > 1000 {
		return
	}
	line, column := p.lines.At(offset)
	p.findings = append(p.findings, finding.Finding{Rule: rule, Severity: finding.Error, Line: line, Column: column, Key: key, Message: text, Mend: mend})
}

func (p *parser) entries() {
	metadata := map[string]*jsonscan.Value{}
	seen := make(map[string]int, len(p.root.Members))
	for i := range p.root.Members {
		m := &p.root.Members[i]
		if at, double := seen[m.Key]; double {
			line, _ := p.lines.At(at)
			p.report("key-duplicate", m.KeyFrom, m.Key, fmt.Sprintf("the key %s stands twice; first in line %d", m.Key, line), "remove one of them")
			continue
		}
		seen[m.Key] = m.KeyFrom
		if strings.HasPrefix(m.Key, "@") && m.Value.Kind == jsonscan.Object {
			metadata[m.Key[1:]] = &m.Value
		}
		if m.Key == "@@locale" {
			if tag, err := culture.Parse(m.Value.Text); err == nil {
				p.catalog.Culture = tag
			} else {
				p.report("culture-unknown", m.Value.From, "", err.Error(), "write the file's culture")
			}
		}
	}
	clear(seen)
	p.catalog.Entries = make([]catalog.Entry, 0, len(p.root.Members))
	for i := range p.root.Members {
		m := &p.root.Members[i]
		if strings.HasPrefix(m.Key, "@") {
			continue
		}
		if m.Value.Kind != jsonscan.String {
			p.report("file-damaged", m.Value.From, m.Key, fmt.Sprintf("the text of %s is no string", m.Key), "put it in double quotes")
			continue
		}
		if _, double := seen[m.Key]; double {
			continue
		}
		seen[m.Key] = i
		e := catalog.Entry{Key: m.Key, Offset: m.KeyFrom}
		var faults []message.Fault
		e.Message, faults = icu.Parse(m.Value.Text)
		for _, f := range faults {
			p.report(f.Rule, m.Value.From+1+f.Offset, m.Key, f.Text, f.Mend)
		}
		if about := metadata[m.Key]; about != nil {
			describe(&e, about)
		}
		p.catalog.Entries = append(p.catalog.Entries, e)
		p.members = append(p.members, int32(i))
	}
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
	kind, style := get("type"), get("format")
	digits := -1
	code := ""
	if optional := about.Find("optionalParameters"); optional != nil {
		if v := optional.Find("decimalDigits"); v != nil && len(v.Text) == 1 {
			digits = int(v.Text[0] - '0')
		}
		for _, name := range []string{"name", "symbol"} {
			if v := optional.Find(name); v != nil && code == "" {
				code = v.Text
			}
		}
	}
	if style == "" && (p.Type != message.String && p.Style != "" || p.Type >= message.Percent) {
		return // the message itself says more
	}
	switch {
	case kind == "DateTime":
		p.Type, p.Style = dateStyle(style)
	case kind == "String" || kind == "Object":
	case style == "percentPattern" || style == "decimalPercentPattern":
		p.Type, p.Style = message.Percent, message.NewStyle(message.FractionWord(digits))
	case style == "currency" || style == "simpleCurrency" || style == "compactCurrency" || style == "compactSimpleCurrency":
		p.Type, p.Style = message.Currency, message.NewStyle(code, message.FractionWord(digits))
	case kind == "int" && style == "":
		p.Type = message.Integer
	case kind == "int" && (style == "decimalPattern" || style == "decimalPatternDigits" && digits <= 0):
		p.Type, p.Style = message.Integer, "group"
	case kind == "double" || kind == "num" || kind == "int":
		p.Type = message.Decimal
		switch style {
		case "":
			if kind == "num" {
				p.Type = message.Integer
			}
		case "decimalPattern", "decimalPatternDigits":
			p.Style = message.NewStyle("group", message.FractionWord(digits))
		case "scientificPattern":
			p.Style = "scientific"
		default:
			p.Style = message.Style("icu:" + style)
		}
	}
}

// dateStyle reads the name of a date format: yMd and yMMMd are skeletons.
func dateStyle(format string) (message.Type, message.Style) {
	kind := message.Date
	if strings.ContainsAny(format, "jHhms") && !strings.ContainsAny(format, "yMdE") {
		kind = message.Time
	}
	switch {
	case format == "yMd":
		return kind, "short"
	case format == "jm" || format == "Hm":
		if format == "jm" {
			return kind, "short"
		}
		return kind, "::Hm"
	case format == "":
		return kind, ""
	case strings.ContainsAny(format, " .,/-:'"):
		return kind, message.Style("=" + format)
	}
	return kind, message.Style("::" + format)
}
