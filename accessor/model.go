package accessor

import (
	"cmp"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/native"
)

// New makes the model of families whose placeholders are complete, for a language.
// The families have one source culture.
func New(l *Language, parts []Part, o Options) (*Model, error) {
	m := &Model{Options: o, language: l}
	var from []string
	tags := map[culture.Tag]bool{}
	for i, part := range parts {
		f := part.Family
		switch {
		case f.SourceMember() == nil:
			return nil, fmt.Errorf("%s has no file in the source culture %s; add it, or name the families that have one", f.Name, f.Source)
		case i > 0 && f.Source != m.Source:
			return nil, fmt.Errorf("the source of %s is %s, that of %s is %s; accessors of one application have one source", part.From, f.Source, parts[0].From, m.Source)
		}
		m.Source = f.Source
		for _, member := range f.Members {
			tags[member.Culture] = true
		}
		if part.From != "" {
			from = append(from, part.From)
		}
	}
	m.From = strings.Join(slices.Compact(from), ", ")
	m.cultures(tags)
	for i, part := range parts {
		c := &Catalog{Type: cmp.Or(part.Type, Type), Number: i, model: m}
		if err := c.fill(part); err != nil {
			return nil, err
		}
		m.Catalogs = append(m.Catalogs, c)
	}
	m.matching()
	m.codes, m.patterns = m.gather("currency/", currencyCode()), m.gather(",", datePattern())
	return m, nil
}

// cultures sets the cultures, the source first, and who answers for each.
func (m *Model) cultures(tags map[culture.Tag]bool) {
	list := slices.SortedFunc(maps.Keys(tags), func(a, b culture.Tag) int {
		if (a == m.Source) != (b == m.Source) {
			if a == m.Source {
				return -1
			}
			return 1
		}
		return strings.Compare(string(a), string(b))
	})
	for _, tag := range list {
		c := Culture{Tag: tag, OwnName: tag.OwnName(), Direction: tag.Direction(), Cardinal: tag.Cardinal(), Ordinal: tag.Ordinal()}
		c.Kin = tag == m.Source || slices.Contains(tag.Parents(), m.Source)
		c.Fallback = []culture.Tag{tag}
		for _, parent := range tag.Parents() {
			if tags[parent] && parent != m.Source {
				c.Fallback = append(c.Fallback, parent)
			}
		}
		if tag != m.Source {
			c.Fallback = append(c.Fallback, m.Source)
		}
		m.Cultures = append(m.Cultures, c)
	}
}

// fill gives a catalog its members and texts.
func (c *Catalog) fill(part Part) error {
	source := part.Family.SourceMember()
	var entries []*catalog.Entry
	for i := range source.Catalog.Entries {
		if e := &source.Catalog.Entries[i]; e.Product == "" {
			entries = append(entries, e)
			c.Members = append(c.Members, c.member(source.Catalog, e))
		}
	}
	gone, err := c.gone(part.Gone)
	if err != nil {
		return err
	}
	c.Members = append(c.Members, gone...)
	for _, known := range c.model.Cultures {
		member := part.Family.Member(known.Tag)
		if member == nil {
			c.Texts = append(c.Texts, nil)
			continue
		}
		row := make([]string, len(c.Members))
		for i, g := range part.Gone {
			if row[len(entries)+i] = g.Texts[known.Tag]; member == source && g.Texts[known.Tag] == "" {
				row[len(entries)+i] = c.Members[len(entries)+i].Text
			}
		}
		for i, e := range entries {
			if own := member.Catalog.Find(e.ID()); own != nil {
				resolved, ok := member.Catalog.Resolve(own)
				if !ok {
					resolved, ok = source.Catalog.Resolve(own)
				}
				if ok {
					row[i] = c.text(&c.Members[i], resolved)
				}
			}
		}
		c.Texts = append(c.Texts, row)
	}
	return nil
}

// gone makes members of keys that the source does not have any more. Their
// parameters are those of the texts; in the source they say their words.
func (c *Catalog) gone(list []Gone) ([]Member, error) {
	var members []Member
	for i := range list {
		g := &list[i]
		made := Member{Key: g.Key, Words: Words(g.Key), Gone: true}
		made.Text = strings.Join(made.Words, " ")
		for _, tag := range slices.Sorted(maps.Keys(g.Texts)) {
			m, faults := icu.Parse(g.Texts[tag])
			if len(faults) > 0 {
				return nil, fmt.Errorf("%s: the ledger's text of %s in %s is no message: %s; delete it from the ledger", g.Key, g.Key, tag, faults[0].Text)
			}
			for _, argument := range m.Arguments() {
				if !slices.ContainsFunc(made.Parameters, func(p Parameter) bool { return p.Key == argument.Name }) {
					made.Parameters = append(made.Parameters, c.parameter(m, argument))
				}
			}
		}
		members = append(members, made)
	}
	return members, nil
}

func (c *Catalog) member(of *catalog.Catalog, e *catalog.Entry) Member {
	m, _ := of.Resolve(e)
	made := Member{Key: e.Key, Words: Words(e.Key), Note: sentence(e.Note), Text: m.Main().String()}
	for _, argument := range m.Arguments() {
		p := c.parameter(m, argument)
		if told := toldOf(e.Note, &argument); told != nil {
			p.Words = told
		}
		if p.Unprinted != "" {
			c.Findings = append(c.Findings, finding.Finding{
				Rule: "style-unprinted", Severity: finding.Warning, Key: e.Key,
				Message: fmt.Sprintf("%s writes no %s; {%s} takes a text that the application has written", c.model.language.Title, p.Unprinted, p.Key),
				Fix:     "write the value in the application, or give the placeholder a style that the language has",
			})
		}
		made.Parameters = append(made.Parameters, p)
	}
	return made
}

// sentence ends a note as a sentence, for what stands after it in a comment.
func sentence(note string) string {
	note = strings.TrimSpace(note)
	if last, _ := utf8.DecodeLastRuneInString(note); unicode.IsLetter(last) || unicode.IsDigit(last) || last == ')' {
		return note + "."
	}
	return note
}

// told matches what a note calls an argument: "{0} = guest name", "{1}: the pier".
var told = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`\{(\d)\}\s*(?:=|:|is)\s*(?:the |a |an )?(\pL+(?: \pL+){0,2})`)
})

// toldOf are the words by which a note calls an argument that has no name of its own.
func toldOf(note string, argument *message.Placeholder) []string {
	if !argument.MadeName() {
		return nil
	}
	for _, found := range told().FindAllStringSubmatch(note, -1) {
		if found[1] == strconv.Itoa(argument.Position-1) {
			return Words(found[2])
		}
	}
	return nil
}

// parameter is what an argument of a message is to a member: one that is
// counted is a number, and one whose style cannot be written a text.
func (c *Catalog) parameter(m message.Message, argument message.Placeholder) Parameter {
	p := Parameter{Key: argument.Name, Words: Words(argument.Name), Type: argument.Type, Sample: argument.Sample}
	if m.Choice != nil {
		for i, s := range m.Choice.Selectors {
			switch {
			case p.Key != s.Argument.Name:
			case s.Kind == message.Select:
				p.Cases = selects(m, i)
			case p.Type == message.String:
				p.Type = message.Integer
			}
		}
	}
	for _, pattern := range m.Patterns() {
		for _, part := range pattern {
			q, ok := part.(*message.Placeholder)
			if !ok || q.Name != argument.Name {
				continue
			}
			if own := c.model.own(q); own != "" {
				p.Spelling, p.Own = cmp.Or(p.Spelling, own), p.Own || q.Type != message.Integer || q.Style != ""
			} else if !c.model.prints(q) {
				p.Type, p.Unprinted = message.String, cmp.Or(native.Spelling(q), q.Spelling, string(q.Style))
			}
		}
	}
	return p
}

// own returns the spelling of a placeholder that the platform prints, or "".
func (m *Model) own(p *message.Placeholder) string {
	if m.language.Own == nil {
		return ""
	}
	return m.language.Own(p)
}

// selects are the keys of a message's variants at a selector, but for other.
func selects(m message.Message, selector int) []string {
	var keys []string
	for _, v := range m.Choice.Variants {
		if key := v.Keys[selector]; key != message.Default && !slices.Contains(keys, key) {
			keys = append(keys, key)
		}
	}
	return keys
}

// prints reports whether the language writes a placeholder by its type and style.
func (m *Model) prints(p *message.Placeholder) bool {
	if m.language.Prints != nil {
		return m.language.Prints(p)
	}
	return Common(p)
}

// Common reports whether a style is one that can be told to a runtime: numbers of
// a pattern, grouped, with fraction digits, zeros, a sign or a currency, and dates by
// length, skeleton or pattern.
func Common(p *message.Placeholder) bool {
	pattern, _, custom := p.Style.Custom()
	switch {
	case custom:
		return !strings.ContainsAny(pattern, "|=%")
	case p.Type == message.String:
		return true
	case p.Type == message.Date || p.Type == message.Time:
		return p.Style.Length() == string(p.Style)
	}
	for word := range strings.FieldsSeq(string(p.Style)) {
		if word[0] != '.' && word != "group" && word != "sign" && !strings.HasPrefix(word, "zero=") && word != p.Style.Code() {
			return false
		}
	}
	return true
}

// text writes a message for the runtime: ICU, with markup as text, and with
// placeholders as the catalog spells them where the platform prints those. A decimal
// without a style is written bare: the runtime shows the digits that it has.
func (c *Catalog) text(member *Member, m message.Message) string {
	type kept struct {
		at  *message.Placeholder
		was message.Placeholder
	}
	var changed []kept
	for p := range m.Placeholders() {
		texts := slices.ContainsFunc(member.Parameters, func(q Parameter) bool { return q.Key == p.Name && q.Type == message.String })
		if p.Type == message.Decimal && p.Style == "" && p.Syntax.Named() || texts && p.Type != message.String {
			changed = append(changed, kept{p, *p})
			p.Type, p.Style = message.String, ""
		}
	}
	out, _ := icu.Writer{Own: c.model.language.Own}.Write(m)
	for _, k := range changed {
		*k.at = k.was
	}
	return out
}

// matching gathers what choosing a culture by preferences needs to know.
func (m *Model) matching() {
	bases := map[string]bool{}
	for _, c := range m.Cultures {
		bases[c.Tag.Base()] = true
	}
	for _, tag := range culture.LikelyTags() {
		if bases[tag.Base()] {
			m.Scripts = append(m.Scripts, Script{string(tag), tag.Script()})
		}
	}
	for _, pair := range culture.Aliases() {
		m.Aliases = append(m.Aliases, Parent{pair[0], pair[1]})
	}
	for _, pair := range culture.ExplicitParents() {
		if bases[culture.Tag(pair[0]).Base()] {
			m.Parents = append(m.Parents, Parent{pair[0], pair[1]})
		}
	}
}

// FallbackIndexes are the cultures' fallbacks as numbers of cultures.
func (m *Model) FallbackIndexes() [][]int {
	var list [][]int
	for _, c := range m.Cultures {
		var row []int
		for _, tag := range c.Fallback {
			row = append(row, slices.IndexFunc(m.Cultures, func(other Culture) bool { return other.Tag == tag }))
		}
		list = append(list, row)
	}
	return list
}
