// Package language knows files that people write programs in: the texts in them that
// readers see and that should stand in a catalog, and the places that ask a catalog
// for a key. Each language is a value in a file of its own and in the list Languages.
// The layouts of toolkits are such files, too: package toolkit has them as Kinds.
//
// It knows files, not projects: which catalog a text goes to, and under which key, is
// decided by its caller.
package language

import (
	"path"
	"strings"
	"unicode"

	"zelvik/format"
)

// Text is a text in a file.
type Text struct {
	// From and To span what is replaced: the value of an attribute, a literal
	// with its quotes.
	From, To int
	// Text is what people read.
	Text string
	// Where says where it stands: "android:text of Button", "setText(".
	Where string
	// Screen names the view: the file, without what all such files are called.
	Screen string
	// ID is the name of the element, "" for none.
	ID string
	// Certain says that With gives what compiles and shows the same.
	Certain bool
	// Doubt says why it is not certain.
	Doubt string
	// With returns the changes of the file that refer to a key instead.
	With func(key string) []format.Replacement
	// Reference is how the file refers to a key, for people.
	Reference func(key string) string
}

var (
	address   = lazy(`://|^(www\.|mailto:|tel:|/|\.{1,2}/|[A-Za-z]:\\|#|@|\$|\?)|^\S+@\S+\.\S+$`)
	spelling  = lazy(`%(\d+\$)?[-+ 0#,]*[\d.]*[a-zA-Z@]|\{[^{}]*\}|\$\{?\w+\}?|%\d`)
	dates     = lazy(`^[yMLdHhKkmsSaEeuzZXx'TQqw:./, \-]+$`)
	doubled   = lazy(`yy|MM|dd|HH|hh|mm|ss|[dM][./ -]`)
	codeName  = lazy(`^[A-Za-z0-9]*([_.:/\\-][A-Za-z0-9*]+)+[_.:/]?$|^[a-z]+[A-Z]\w*$|^[A-Z][a-z]+([A-Z][a-z]+)+$|^[A-Z0-9_]{4,}$`)
	signature = lazy(`^(select|insert|update|delete|create|alter|drop)\s+.*\b(from|into|set|table)\b|[{};]\s*$|^</?\w|=>|\(\)`)
)

// Human reports whether a text is one that people read: it has a word, and is
// no address, name of code, pattern of a date or a number. Alone says that one
// word is enough, as in a place for texts.
func Human(text string, alone bool) bool {
	text = strings.TrimSpace(text)
	if len(text) > 4000 || address.re().MatchString(text) || dates.re().MatchString(text) && doubled.re().MatchString(text) {
		return false
	}
	bare := spelling.re().ReplaceAllString(text, " ")
	if codeName.re().MatchString(strings.TrimSpace(bare)) || signature.re().MatchString(strings.ToLower(bare)) {
		return false
	}
	words, letters, lower, spaced := 0, 0, false, false
	for _, word := range strings.Fields(bare) {
		n := 0
		for _, r := range word {
			if unicode.IsLetter(r) {
				n++
				lower = lower || unicode.IsLower(r) || !unicode.IsUpper(r)
				spaced = spaced || unicode.In(r, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Thai)
			}
		}
		if letters += n; n > 0 {
			words++
		}
	}
	switch {
	case letters < 2 && !spaced:
		return false
	case spaced:
		return true
	case alone:
		return lower || letters <= 3 || words > 1
	}
	first := []rune(strings.TrimLeft(text, "¡¿\"'“„«( "))
	return words > 1 && lower && len(first) > 0 && unicode.IsUpper(first[0])
}

// Screen returns the name of a view from its file's: booking of
// activity_booking.xml and BookingPage.xaml.
func Screen(p string) string {
	name := path.Base(p)
	if name == "AndroidManifest.xml" {
		return "app"
	}
	for ext := path.Ext(name); ext != ""; ext = path.Ext(name) {
		name = strings.TrimSuffix(name, ext)
	}
	words := Words(name)
	for len(words) > 1 && extra[words[0]] {
		words = words[1:]
	}
	for len(words) > 1 && extra[words[len(words)-1]] {
		words = words[:len(words)-1]
	}
	return strings.Join(words, "_")
}

// extra are words of files' names that say what kind of file it is.
var extra = map[string]bool{
	"activity": true, "fragment": true, "layout": true, "view": true, "item": true, "dialog": true, "page": true, "window": true,
	"screen": true, "widget": true, "form": true, "controller": true, "component": true, "model": true, "ui": true, "main": true,
}

// Words parts a name or a text into words in lower case, at signs and at
// capital letters.
func Words(text string) []string {
	var list []string
	var word []rune
	flush := func() {
		if len(word) > 0 {
			list = append(list, strings.ToLower(string(word)))
			word = nil
		}
	}
	runes := []rune(text)
	for i, r := range runes {
		switch {
		case r == '\'' || r == '’':
			continue
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			flush()
			continue
		case unicode.IsUpper(r) && i > 0 && (unicode.IsLower(runes[i-1]) || i+1 < len(runes) && unicode.IsLower(runes[i+1]) && unicode.IsUpper(runes[i-1])):
			flush()
		}
		word = append(word, r)
	}
	flush()
	return list
}

// Identifier spells a key as the classes made of resources do.
func Identifier(key string) string {
	return strings.Map(func(r rune) rune {
		if r == '_' || r >= '0' && r <= '9' || r >= 'A' && r <= 'Z' || r >= 'a' && r <= 'z' || r > 0x7f {
			return r
		}
		return '_'
	}, key)
}
