// Package accessor says what is generated for a family, once for all
// languages: members with typed parameters, the texts of all cultures, plural
// rules and fallback chains. The packages below spell it, each in its language.
package accessor

import (
	"bytes"
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/message"
	"zelvik/message/icu"
)

// Type is the name of the type with the members where none is asked for.
const Type = "Wording"

// Options say how a family's accessors are generated.
type Options struct {
	// Package is the package, namespace or module; Type the name of the type
	// with the members, Wording by default.
	Package, Type string
	// Hidden keeps the type from being seen outside its package or module.
	Hidden bool
	// From and Command are named in the header line: what the accessors are made of, and
	// the command that makes them again.
	From, Command string
	// Bundles leaves the texts of all cultures but the source out of the code:
	// they are written as bundle files, which the application loads.
	Bundles bool
	// Binding adds a file that ties the switch to what the language's
	// interfaces observe.
	Binding bool
	// Cases adds a file of tests, for the application's own toolchain.
	Cases bool
	// Gone are entries that the source does not have any more, by culture; their
	// members stay, marked as deprecated.
	Gone []Gone
}

// Gone is a key that the source does not have any more, and its texts as ICU
// messages.
type Gone struct {
	Key   string
	Texts map[culture.Tag]string
}

// Language is a language that accessors are generated in.
type Language struct {
	// Name is what --language takes; Title is for people.
	Name, Title string
	// Package is the package where none is asked for, "" where the language needs none.
	Package string
	// PackagePattern says in words what a package name looks like.
	PackagePattern string
	// ValidPackage reports whether a package name can be spelled.
	ValidPackage func(name string) bool
	// Member joins the words of a key to the name of a member.
	Member func(words []string) string
	// Generate spells the model: files by name, relative to the folder of the
	// sources, in the package's folder where the language has such.
	Generate func(m *Model) map[string][]byte
}

// Model is what to generate.
type Model struct {
	Options
	Members []Member
	// Cultures are all cultures, the source first.
	Cultures []Culture
	Source   culture.Tag
	// Scripts are the likely scripts of the cultures' languages, for choosing a
	// culture by a reader's preferences: "zh-TW" to "Hant", "zh" to "Hans".
	Scripts []Script
	// Parents are the explicit parents of Unicode's locale data that lie
	// between a possible preference and a supported culture.
	Parents []Parent
	// codes and skeletons are the currencies and the fields of dates in the
	// texts, sorted.
	codes, skeletons []string
	// Findings are names that clash or cannot be spelled.
	Findings []finding.Finding
}

// Script is a tag and its likely script.
type Script struct{ Tag, Script string }

// Parent is a tag and its explicit parent.
type Parent struct{ Tag, Parent string }

// Culture is a supported culture.
type Culture struct {
	Tag       culture.Tag
	OwnName   string
	Direction string
	// Fallback are the cultures asked in order, this one first, the source last.
	Fallback []culture.Tag
	// Kin says that the source is the culture itself or a parent of it, so that
	// no text is missing where the source answers.
	Kin      bool
	Cardinal culture.Rules
	Ordinal  culture.Rules
	// Texts are ICU messages by member index; "" where the culture has none.
	Texts []string
}

// Member is one accessor.
type Member struct {
	Key string
	// Words are the key's words in lower case, which each language joins in
	// its own way; Name is what the language made of them.
	Words      []string
	Name       string
	Note, Text string
	Parameters []Parameter
	// Gone says that the source does not have the key any more.
	Gone bool
}

// Parameter is one argument of a member.
type Parameter struct {
	// Key is the placeholder's name in the messages; Words its words, Name the
	// language's spelling.
	Key    string
	Words  []string
	Name   string
	Type   message.Type
	Sample string
}

// New makes the model of a family whose placeholders are complete.
func New(f *catalog.Family, o Options) (*Model, error) {
	source := f.SourceMember()
	if source == nil {
		return nil, fmt.Errorf("%s has no file in the source culture %s; name it in %s", f.Name, f.Source, "zelvik.yaml")
	}
	m := &Model{Options: o, Source: f.Source}
	if m.Type == "" {
		m.Type = Type
	}
	var entries []*catalog.Entry
	for i := range source.Catalog.Entries {
		e := &source.Catalog.Entries[i]
		if e.Product != "" {
			continue
		}
		entries = append(entries, e)
		m.Members = append(m.Members, member(source.Catalog, e))
	}
	gone, err := goneMembers(o.Gone)
	if err != nil {
		return nil, err
	}
	m.Members = append(m.Members, gone...)
	members := slices.Clone(f.Members)
	slices.SortStableFunc(members, func(a, b *catalog.Member) int {
		if (a == source) != (b == source) {
			if a == source {
				return -1
			}
			return 1
		}
		return strings.Compare(string(a.Culture), string(b.Culture))
	})
	for _, member := range members {
		c := Culture{Tag: member.Culture, OwnName: member.Culture.OwnName(), Direction: member.Culture.Direction(),
			Cardinal: member.Culture.Cardinal(), Ordinal: member.Culture.Ordinal(), Fallback: fallback(f, member.Culture)}
		c.Kin = c.Tag == f.Source || slices.Contains(c.Tag.Parents(), f.Source)
		c.Texts = make([]string, len(m.Members))
		for i, g := range o.Gone {
			if c.Texts[len(entries)+i] = g.Texts[c.Tag]; c.Tag == f.Source && g.Texts[c.Tag] == "" {
				c.Texts[len(entries)+i] = m.Members[len(entries)+i].Text
			}
		}
		for i, e := range entries {
			if own := member.Catalog.Find(e.ID()); own != nil {
				if resolved, ok := member.Catalog.Resolve(own); ok {
					c.Texts[i] = text(resolved)
				} else if resolved, ok := source.Catalog.Resolve(own); ok {
					c.Texts[i] = text(resolved)
				}
			}
		}
		m.Cultures = append(m.Cultures, c)
	}
	m.matching()
	m.codes, m.skeletons = m.gather("currency/", currencyCode()), m.gather("::", skeleton())
	return m, nil
}

// goneMembers makes members of keys that the source does not have any more.
// Their parameters are those of the texts; in the source they say their words.
func goneMembers(gone []Gone) ([]Member, error) {
	var list []Member
	for i := range gone {
		g := &gone[i]
		made := Member{Key: g.Key, Words: Words(g.Key), Gone: true}
		made.Text = strings.Join(made.Words, " ")
		for _, tag := range slices.Sorted(maps.Keys(g.Texts)) {
			m, faults := icu.Parse(g.Texts[tag])
			if len(faults) > 0 {
				return nil, fmt.Errorf("%s: the ledger's text of %s in %s is no message: %s; delete it from the ledger", g.Key, g.Key, tag, faults[0].Text)
			}
			for _, argument := range m.Arguments() {
				if !slices.ContainsFunc(made.Parameters, func(p Parameter) bool { return p.Key == argument.Name }) {
					made.Parameters = append(made.Parameters, parameter(m, argument))
				}
			}
		}
		list = append(list, made)
	}
	return list, nil
}

// text writes a message for the runtime: ICU, with markup as text. A decimal
// without a style is written bare: the runtime shows the digits that it has.
func text(m message.Message) string {
	var bare []*message.Placeholder
	for p := range m.Placeholders() {
		if p.Type == message.Decimal && p.Style == "" && p.Syntax.Named() {
			p.Type = message.String
			bare = append(bare, p)
		}
	}
	out, _ := icu.Writer{}.Write(m)
	for _, p := range bare {
		p.Type = message.Decimal
	}
	return out
}

func member(c *catalog.Catalog, e *catalog.Entry) Member {
	m, _ := c.Resolve(e)
	made := Member{Key: e.Key, Words: Words(e.Key), Note: e.Note, Text: m.Main().String()}
	for _, argument := range m.Arguments() {
		made.Parameters = append(made.Parameters, parameter(m, argument))
	}
	return made
}

// parameter is what an argument of a message is to a member: one that is
// counted is a number.
func parameter(m message.Message, argument message.Placeholder) Parameter {
	p := Parameter{Key: argument.Name, Words: Words(argument.Name), Type: argument.Type, Sample: argument.Sample}
	if m.Choice != nil {
		for _, s := range m.Choice.Selectors {
			if p.Key == s.Argument.Name && s.Kind != message.Select && p.Type == message.String {
				p.Type = message.Integer
			}
		}
	}
	return p
}

// fallback lists the cultures of the family that answer for one, in order.
func fallback(f *catalog.Family, tag culture.Tag) []culture.Tag {
	list := []culture.Tag{tag}
	for _, parent := range tag.Parents() {
		if f.Member(parent) != nil && parent != f.Source {
			list = append(list, parent)
		}
	}
	if tag != f.Source {
		list = append(list, f.Source)
	}
	return list
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
	for _, pair := range culture.ExplicitParents() {
		if bases[culture.Tag(pair[0]).Base()] {
			m.Parents = append(m.Parents, Parent{pair[0], pair[1]})
		}
	}
}

// Words parts a key at everything that is no letter or digit and where a
// small letter meets a capital: "boarding.deckNumber" gives boarding, deck,
// number.
func Words(key string) []string {
	var words []string
	var word strings.Builder
	flush := func() {
		if word.Len() > 0 {
			words = append(words, strings.ToLower(word.String()))
			word.Reset()
		}
	}
	previous := ' '
	for _, r := range key {
		switch {
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			flush()
		case unicode.IsUpper(r) && unicode.IsLower(previous):
			flush()
			word.WriteRune(r)
		default:
			word.WriteRune(r)
		}
		previous = r
	}
	flush()
	return words
}

// Camel joins words as lowerCamelCase. Letters beyond ASCII that the languages
// take differently are written as u and their number.
func Camel(words []string) string {
	var out strings.Builder
	for _, word := range words {
		for i, r := range word {
			switch {
			case r > unicode.MaxASCII:
				fmt.Fprintf(&out, "u%04x", r)
			case i == 0 && out.Len() > 0:
				out.WriteRune(unicode.ToUpper(r))
			default:
				out.WriteRune(r)
			}
		}
	}
	name := out.String()
	if name == "" {
		return "text"
	}
	if first, _ := utf8.DecodeRuneInString(name); unicode.IsDigit(first) {
		return "text" + name
	}
	return name
}

// Pascal joins words as UpperCamelCase, otherwise as Camel does.
func Pascal(words []string) string {
	name := Camel(words)
	return strings.ToUpper(name[:1]) + name[1:]
}

// Name gives members and parameters their names in a language. A reserved word
// (the language keeps it, or every type has it) gets Text after it; of clashing names the first in the order of
// keys stays and the others get a number, and a finding says so.
func (m *Model) Name(reserved map[string]bool, join, parameter func([]string) string) {
	taken := map[string]string{}
	order := make([]int, len(m.Members))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return strings.Compare(m.Members[a].Key, m.Members[b].Key) })
	for _, i := range order {
		member := &m.Members[i]
		name := join(member.Words)
		if reserved[name] {
			name += "Text"
		}
		wanted := name
		for n := 2; taken[name] != ""; n++ {
			name = fmt.Sprintf("%s%d", wanted, n)
		}
		if name != wanted {
			m.Findings = append(m.Findings, finding.Finding{
				Rule: "name-clash", Severity: finding.Error, Key: member.Key,
				Message: fmt.Sprintf("the keys %s and %s both give the member %s; the second is %s", taken[wanted], member.Key, wanted, name),
				Fix:     fmt.Sprintf("rename it: zelvik rename %s %s", finding.Quoted(member.Key), finding.Quoted(m.free(member.Key))),
			})
		}
		if proposed := member.spellable(); proposed != "" && !member.Gone {
			m.Findings = append(m.Findings, finding.Finding{
				Rule: "name-clash", Severity: finding.Advice, Key: member.Key,
				Message: fmt.Sprintf("the key %s cannot be spelled as a name; its member is %s", member.Key, name),
				Fix:     fmt.Sprintf("rename it: zelvik rename %s %s", finding.Quoted(member.Key), finding.Quoted(proposed)),
			})
		}
		taken[name] = member.Key
		member.Name = name
		used := map[string]bool{}
		for j := range member.Parameters {
			p := &member.Parameters[j]
			p.Name = parameter(p.Words)
			if reserved[p.Name] {
				p.Name += "Value"
			}
			base := p.Name
			for n := 2; used[p.Name]; n++ {
				p.Name = fmt.Sprintf("%s%d", base, n)
			}
			used[p.Name] = true
		}
	}
}

// spellable proposes a key for one that gives no name of letters of ASCII
// alone, of the first words of its text; "" for one that does.
func (m *Member) spellable() string {
	plain := func(word string) bool {
		return !strings.ContainsFunc(word, func(r rune) bool { return r > unicode.MaxASCII })
	}
	if len(m.Words) > 0 && !slices.ContainsFunc(m.Words, func(word string) bool { return !plain(word) }) {
		return ""
	}
	var words []string
	for _, word := range Words(m.Text) {
		if plain(word) && len(words) < 3 {
			words = append(words, word)
		}
	}
	if len(words) == 0 || unicode.IsDigit(rune(words[0][0])) {
		words = append([]string{"text"}, words...)
	}
	return strings.Join(words, "_")
}

// free proposes a key in place of one whose name clashes: the key with a
// number, in its own way of parting words, that no other key's words are.
func (m *Model) free(key string) string {
	mark := "_"
	if i := strings.LastIndexFunc(key, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }); i > 0 {
		mark = key[i : i+1]
	}
	for n := 2; ; n++ {
		proposed := fmt.Sprintf("%s%s%d", key, mark, n)
		words := strings.Join(Words(proposed), "")
		if !slices.ContainsFunc(m.Members, func(other Member) bool { return strings.Join(other.Words, "") == words }) {
			return proposed
		}
	}
}

// Keys are the members' keys, in order.
func (m *Model) Keys() []string {
	keys := make([]string, len(m.Members))
	for i := range m.Members {
		keys[i] = m.Members[i].Key
	}
	return keys
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

// Generated reports whether a file is one that accessors made: code that says
// so in its first lines, or a bundle.
func Generated(data []byte) bool {
	head := data[:min(len(data), 400)]
	if bytes.HasPrefix(bytes.TrimSpace(head), []byte("{")) {
		return bytes.Contains(head, []byte(`"culture"`)) && bytes.Contains(head, []byte(`"texts"`))
	}
	lines := bytes.SplitN(head, []byte("\n"), 4)
	return slices.ContainsFunc(lines[:min(len(lines), 3)], func(line []byte) bool { return bytes.Contains(line, []byte("enerated by zelvik")) })
}

// MadeOf returns what a generated file says that it is made of; "" where it does not.
func MadeOf(data []byte) string {
	_, rest, _ := bytes.Cut(data[:min(len(data), 400)], []byte("enerated by zelvik from "))
	family, _, found := bytes.Cut(rest, []byte(". Do not edit"))
	if !found {
		return ""
	}
	return string(family)
}

// Header is the line that every generated file begins with.
func (m *Model) Header(language string) string {
	command := m.Command
	if command == "" {
		command = fmt.Sprintf("zelvik accessors %s --language %s", m.From, language)
	}
	return fmt.Sprintf("Generated by zelvik from %s. Do not edit; run: %s", m.From, strings.ReplaceAll(command, "\n", " "))
}
