package verify

import (
	"fmt"
	"strings"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/message"
)

// platformRefuses is reported by readers, too.
var platformRefuses = &Rule{
	Name: "platform-refuses", Severity: finding.Error,
	Doc:     "The platform's compiler refuses a text.",
	Why:     "The application cannot be built, or is built without the file.",
	Example: `<string name="ask">?</string> with a word after the mark; <string name="from">%s to %s</string>`,
	Fix:     "Write it as the message says.",
	Catalog: func(f *Family, m *catalog.Member, report Report) {
		if f.Format != "android" || f.Refers == nil {
			return
		}
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			if e.Reference == "" || strings.ContainsAny(e.Reference, "@?") || f.Refers(e.Reference) {
				continue
			}
			report(e, fmt.Sprintf("the text refers to @string/%s, which no file has", e.Reference), "write the text, or add the key")
		}
	},
	Pair: func(p *Pair, report Report) {
		if p.Family.Format != "po" || !comparable(p) || p.Entry.State == catalog.Moved || p.Entry.State == catalog.Draft {
			return
		}
		if at := lineEnds(p); at != "" {
			report(p.Entry, fmt.Sprintf("msgid and msgstr do not both %s with \\n, and msgfmt refuses the file: %q", at, short(p.Entry.Message)), "begin and end it as the msgid does")
		}
	},
}

// lineEnds says where one of both texts has a line end and the other none.
func lineEnds(p *Pair) string {
	source, has := p.Source.Message.Main(), p.Entry.Message.Main()
	ends := func(p message.Pattern) (begins, ends bool) {
		first, _ := p[0].(message.Text)
		last, _ := p[len(p)-1].(message.Text)
		return strings.HasPrefix(string(first), "\n"), strings.HasSuffix(string(last), "\n")
	}
	if len(source) == 0 || len(has) == 0 {
		return ""
	}
	begins, stops := ends(source)
	switch b, e := ends(has); {
	case b != begins:
		return "begin"
	case e != stops:
		return "end"
	}
	return ""
}
