package xliff

import (
	"strconv"

	"zelvik/format/doc"
	"zelvik/format/inline"
	"zelvik/format/xmlscan"
	"zelvik/message"
)

// plainText reads the text of the element just begun.
func (p *parser) plainText() (string, doc.Element) {
	return p.Characters(func() string {
		if p.Name != "cp" {
			return ""
		}
		hex, _ := p.Value("hex")
		return character(hex)
	})
}

// character reads the number of a character that XML cannot hold (<cp hex>).
func character(hex string) string {
	n, err := strconv.ParseUint(hex, 16, 21)
	if err != nil {
		return ""
	}
	return string(rune(n))
}

// content reads the inline content of <source> or <target>.
func (p *parser) content(u *unit) ([]inline.Part, doc.Element) {
	at := p.Begun()
	if p.Lone {
		return nil, at
	}
	name := p.Name
	var parts []inline.Part
	text := func(s string) { parts = inline.AddText(parts, s) }
	var open []inline.Code // g and pc, whose content goes on as that of the text
	var ends []string      // what stands for their ends
	depth := len(p.Open)
	for p.Next() {
		switch p.Kind {
		case xmlscan.Text:
			text(p.Unescape(p.From, p.To))
		case xmlscan.CDATA:
			text(xmlscan.LineEnds(p.Src[p.InnerFrom:p.InnerTo]))
		case xmlscan.End:
			if len(p.Open) < depth {
				at.Content.To, at.Whole.To = p.From, p.To
				return parts, at
			}
			if n := len(open); n > 0 && p.Name == open[n-1].Name {
				c := open[n-1]
				c.Role, c.Equiv, c.Raw = message.Close, ends[n-1], p.Src[p.From:p.To]
				open, ends = open[:n-1], ends[:n-1]
				parts = append(parts, inline.Part{Code: &c})
			}
		case xmlscan.Start:
			if p.Name == "source" || p.Name == "target" || p.Name == "trans-unit" || p.Name == "unit" {
				p.Back()
				p.Close(name)
				at.Content.To, at.Whole.To = p.From, p.From
				return parts, at
			}
			if p.Name == "mrk" || p.Name == "sm" || p.Name == "em" {
				continue
			}
			if p.Name == "cp" {
				hex, _ := p.Value("hex")
				text(character(hex))
				continue
			}
			c := p.code(u)
			if (c.Name == "g" || c.Name == "pc") && c.Role == message.Open {
				end, _ := p.Value("dataRefEnd")
				end = u.data[end]
				if end == "" {
					end, _ = p.Value("equivEnd")
				}
				if tag, ok := c.Part().(*message.Markup); ok && end == "" && tag.Spelling != "" {
					end = "</" + tag.Tag + ">"
				}
				open, ends = append(open, *c), append(ends, end)
			}
			parts = append(parts, inline.Part{Code: c})
		}
	}
	at.Content.To, at.Whole.To = p.From, p.From
	return parts, at
}

// code reads the inline element just begun. The content of g and pc goes on
// after it as content of the text.
func (p *parser) code(u *unit) *inline.Code {
	p.form.Coded = true
	c := &inline.Code{Name: p.Name, Role: message.Lone}
	from := p.From
	value := func(names ...string) string {
		for _, name := range names {
			if v, ok := p.Value(name); ok && v != "" {
				return v
			}
		}
		return ""
	}
	c.ID = value("id", "startRef", "rid")
	c.Kind = value("ctype", "subType", "type")
	data := value("dataRef", "dataRefStart")
	c.Equiv = value("equiv-text", "equiv", "equivStart", "disp", "dispStart")
	if native, ok := u.data[data]; ok && data != "" {
		c.Equiv = native
	}
	switch p.Name {
	case "g", "pc":
		c.Role = message.Open
		c.Raw = p.Src[from:p.To]
		if p.Lone {
			c.Role = message.Lone
		}
		return c
	case "bpt", "bx", "sc":
		c.Role = message.Open
	case "ept", "ex", "ec":
		c.Role = message.Close
	case "it":
		if value("pos") == "close" {
			c.Role = message.Close
		} else {
			c.Role = message.Open
		}
	case "ph", "x":
	default:
		c.Kind = "unknown"
	}
	if c.Name == "ph" && c.Equiv != "" && p.second {
		c.Sample = value("disp")
	}
	if !p.Lone {
		if inner, _ := p.plainText(); inner != "" {
			c.Sample, c.Equiv = c.Equiv, inner
		}
	}
	if c.Sample == c.Equiv || c.Role != message.Lone {
		c.Sample = ""
	}
	c.Raw = p.Src[from:p.To]
	return c
}
