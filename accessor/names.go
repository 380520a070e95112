package accessor

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"zelvik/finding"
)

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
func (c *Catalog) Name(reserved map[string]bool, join, parameter func([]string) string) {
	taken := map[string]string{}
	order := make([]int, len(c.Members))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return strings.Compare(c.Members[a].Key, c.Members[b].Key) })
	for _, i := range order {
		member := &c.Members[i]
		name := join(member.Words)
		if reserved[name] {
			name += "Text"
		}
		wanted := name
		for n := 2; taken[name] != ""; n++ {
			name = fmt.Sprintf("%s%d", wanted, n)
		}
		if name != wanted {
			c.Findings = append(c.Findings, finding.Finding{
				Rule: "name-clash", Severity: finding.Error, Key: member.Key,
				Message: fmt.Sprintf("the keys %s and %s both give the member %s; the second is %s", taken[wanted], member.Key, wanted, name),
				Fix:     fmt.Sprintf("rename it: zelvik rename %s %s", finding.Quoted(member.Key), finding.Quoted(c.free(member.Key))),
			})
		}
		if proposed := member.spellable(); proposed != "" && !member.Gone {
			c.Findings = append(c.Findings, finding.Finding{
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
	c.lists(reserved, taken, join)
}

// lists finds the arrays of texts without parameters. A name that a member has gets
// List after it.
func (c *Catalog) lists(reserved map[string]bool, taken map[string]string, join func([]string) string) {
	c.Lists = nil
	for i := 0; i < len(c.Members); i++ {
		base, first := strings.CutSuffix(c.Members[i].Key, "[0]")
		if !first {
			continue
		}
		list := List{Name: join(Words(base))}
		for n := i; n < len(c.Members) && c.Members[n].Key == fmt.Sprintf("%s[%d]", base, n-i) && len(c.Members[n].Parameters) == 0; n++ {
			list.Items = append(list.Items, &c.Members[n])
		}
		if reserved[list.Name] || taken[list.Name] != "" {
			list.Name += "List"
		}
		if taken[list.Name] == "" && len(list.Items) > 0 {
			taken[list.Name] = base
			c.Lists = append(c.Lists, list)
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
func (c *Catalog) free(key string) string {
	mark := "_"
	if i := strings.LastIndexFunc(key, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }); i > 0 {
		mark = key[i : i+1]
	}
	for n := 2; ; n++ {
		proposed := fmt.Sprintf("%s%s%d", key, mark, n)
		words := strings.Join(Words(proposed), "")
		if !slices.ContainsFunc(c.Members, func(other Member) bool { return strings.Join(other.Words, "") == words }) {
			return proposed
		}
	}
}
