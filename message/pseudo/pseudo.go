// Package pseudo makes pseudo-cultures: the source texts changed so that
// faults of an interface show before anyone has translated. Placeholders,
// markup and plural structure stay as they are.
package pseudo

import (
	"fmt"
	"iter"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
)

// Style says what is done to texts.
type Style struct {
	// Accented letters show texts that never went through a catalog.
	Accented bool
	// Grown texts show boxes that are too small for a translation.
	Grown bool
	// Mirrored texts run from right to left.
	Mirrored bool
	// Bracketed texts show where they are cut, or glued from pieces.
	Bracketed bool
}

// Styles are the pseudo-cultures by the end of their tags, for the docs.
var Styles = map[string]Style{
	"XA":       {Accented: true, Grown: true, Bracketed: true},
	"XB":       {Mirrored: true},
	"accented": {Accented: true},
	"grown":    {Grown: true},
	"mirrored": {Mirrored: true},
	"brackets": {Bracketed: true},
}

// StyleOf returns the style of a pseudo-culture's tag: en-XA, ar-XB, en-x-grown.
// Several private subtags add up: en-x-accented-grown. (A subtag has at most
// eight letters, so brackets are "brackets".)
func StyleOf(tag culture.Tag) (Style, error) {
	if style, ok := Styles[tag.Region()]; ok {
		return style, nil
	}
	var sum Style
	_, private, found := strings.Cut(string(tag), "-x-")
	for part := range strings.SplitSeq(private, "-") {
		style, ok := Styles[part]
		if !ok || !found {
			return sum, fmt.Errorf("%s is no pseudo-culture; use en-XA (accented, grown, bracketed), ar-XB (mirrored), or en-x-accented, en-x-grown, en-x-mirrored, en-x-brackets", tag)
		}
		sum.Accented = sum.Accented || style.Accented
		sum.Grown = sum.Grown || style.Grown
		sum.Mirrored = sum.Mirrored || style.Mirrored
		sum.Bracketed = sum.Bracketed || style.Bracketed
	}
	return sum, nil
}

// accents gives every Latin letter a look-alike that the embedded fonts have.
var accents = strings.NewReplacer(
	"a", "ä", "b", "ƀ", "c", "č", "d", "ď", "e", "ë", "f", "ƒ", "g", "ğ", "h", "ĥ", "i", "ï", "j", "ĵ", "k", "ķ", "l", "ļ", "m", "ɱ",
	"n", "ñ", "o", "ö", "p", "þ", "q", "ʠ", "r", "ř", "s", "š", "t", "ť", "u", "ü", "v", "ṽ", "w", "ŵ", "x", "ẋ", "y", "ÿ", "z", "ž",
	"A", "Ä", "B", "Ɓ", "C", "Č", "D", "Ď", "E", "Ë", "F", "Ƒ", "G", "Ğ", "H", "Ĥ", "I", "Ï", "J", "Ĵ", "K", "Ķ", "L", "Ļ", "M", "Ṁ",
	"N", "Ñ", "O", "Ö", "P", "Þ", "Q", "Ɋ", "R", "Ř", "S", "Š", "T", "Ť", "U", "Ü", "V", "Ṽ", "W", "Ŵ", "X", "Ẋ", "Y", "Ÿ", "Z", "Ž",
)

// Growth returns how long a translation of a text of so many characters is to
// be expected, in percent of its length: the lower figure of the W3C's
// article "Text size in translation".
func Growth(length int) int {
	switch {
	case length <= 10:
		return 200
	case length <= 20:
		return 180
	case length <= 30:
		return 160
	case length <= 50:
		return 140
	case length <= 70:
		return 151
	}
	return 130
}

// filler is what grown texts are filled up with, broken like words.
const filler = "äëïöü "

// Message makes the pseudo form of a message.
func (s Style) Message(m message.Message) message.Message {
	out := m.Map(func(text message.Text) message.Text {
		var done strings.Builder
		for kept, piece := range pieces(string(text)) {
			if !kept && s.Accented {
				piece = accent(piece)
			}
			if !kept && s.Mirrored {
				piece = mirror(piece)
			}
			done.WriteString(piece)
		}
		return message.Text(done.String())
	})
	finish := func(source, p message.Pattern) message.Pattern {
		if len(p) == 0 || strings.TrimSpace(source.Literal()) == "" && len(source) == 1 {
			return p
		}
		var done message.Pattern
		if s.Bracketed {
			done = done.Add(message.Text("‹"))
		}
		if s.Mirrored {
			done = done.Add(message.Text("\u200F"))
		}
		for _, part := range p {
			done = done.Add(part)
		}
		if s.Grown {
			done = done.Add(message.Text(fill(utf8.RuneCountInString(source.String()))))
		}
		if s.Bracketed {
			done = done.Add(message.Text("›"))
		}
		return done
	}
	if out.Choice == nil {
		out.Pattern = finish(m.Pattern, out.Pattern)
		return out
	}
	for i := range out.Choice.Variants {
		out.Choice.Variants[i].Pattern = finish(m.Choice.Variants[i].Pattern, out.Choice.Variants[i].Pattern)
	}
	return out
}

// entity is a character reference, as texts have that are shown as HTML.
var entity = regexp.MustCompile(`&(#[0-9]+|#x[0-9A-Fa-f]+|[A-Za-z][A-Za-z0-9]*);`)

// pieces yields a text piece by piece. Tags and character references are kept: a
// view may read them though the format holds text alone.
func pieces(text string) iter.Seq2[bool, string] {
	return func(yield func(bool, string) bool) {
		for _, part := range message.SplitMarkup(nil, text) {
			literal, ok := part.(message.Text)
			if !ok {
				if !yield(true, part.(*message.Markup).String()) {
					return
				}
				continue
			}
			at := 0
			for _, span := range entity.FindAllStringIndex(string(literal), -1) {
				if !yield(false, string(literal[at:span[0]])) || !yield(true, string(literal[span[0]:span[1]])) {
					return
				}
				at = span[1]
			}
			if !yield(false, string(literal[at:])) {
				return
			}
		}
	}
}

// fill makes what a text of so many characters lacks.
func fill(length int) string {
	missing := length*Growth(length)/100 - length
	if missing <= 0 {
		return ""
	}
	long := []rune(strings.Repeat(filler, missing/6+1))
	return strings.TrimRight(" "+string(long[:missing]), " ")
}

// accent changes the letters of all words but addresses.
func accent(text string) string {
	if !strings.Contains(text, "://") && !strings.Contains(text, "@") {
		return accents.Replace(text)
	}
	words := strings.SplitAfter(text, " ")
	for i, word := range words {
		if !strings.Contains(word, "://") && !strings.Contains(word, "@") {
			words[i] = accents.Replace(word)
		}
	}
	return strings.Join(words, "")
}

// mirror puts the letters between overrides, so that they run from right to
// left (UAX #9, RLO and PDF), and right-to-left marks around them, so that they
// do not join a placeholder beside them; outer spaces stay outside.
func mirror(text string) string {
	core := strings.TrimFunc(text, unicode.IsSpace)
	if core == "" {
		return text
	}
	at := strings.Index(text, core)
	return text[:at] + "\u200F\u202E" + core + "\u202C\u200F" + text[at+len(core):]
}

// Catalog makes the pseudo form of a catalog: every text of the source that is
// translated, in the order of the source.
func Catalog(source *catalog.Catalog, tag culture.Tag, style Style) *catalog.Catalog {
	out := &catalog.Catalog{Culture: tag}
	out.Grow(len(source.Entries))
	for i := range source.Entries {
		e := source.Entries[i]
		if e.Fixed {
			continue
		}
		if e.Reference == "" {
			e.Message = style.Message(e.Message)
		}
		e.Note = ""
		out.Add(e)
	}
	return out
}
