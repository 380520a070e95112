// Package lift finds text that people read in layouts and in code, where it
// should stand in a catalog. It knows files, not projects: which catalog a text
// goes to, and under which key, is decided by its caller.
package lift

import (
	"path"
	"strings"
	"unicode"

	"zelvik/format"
)

// Found is one text.
type Found struct {
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
	// With gives the changes of the file that refer to a key instead.
	With func(key string) []format.Replacement
	// Reference is how the file refers to a key, for people.
	Reference func(key string) string
}

// Kind is a kind of files in which texts are found.
type Kind struct {
	// Name is the toolkit's or the language's.
	Name string
	// Layout says that it is a layout, in which a text in a place for texts is
	// one without doubt.
	Layout bool
	// Formats are those of the catalogs its texts belong in, best first.
	Formats []string
	matches func(path string) bool
	find    func(path, text string, o Options) []Found
}

// Options say what is known of the catalog.
type Options struct {
	// Table is the base name of the catalog's files: the class of .NET resources.
	Table string
	// Namespace is that of the class.
	Namespace string
	// ByID says that the catalog's keys are ids, and not the texts themselves.
	ByID bool
}

// Kinds lists all kinds. Adding one is adding its line here.
var Kinds = []*Kind{
	androidLayout, xaml, qtForm, fxml,
	kotlin, java, swift, csharp, dart, typescript, cpp,
}

// Of gives the kind of a file by its path, or nil.
func Of(path string) *Kind {
	for _, k := range Kinds {
		if k.matches(path) {
			return k
		}
	}
	return nil
}

// Find finds the texts in a file of the kind.
func (k *Kind) Find(path, text string, o Options) []Found { return k.find(path, text, o) }

func ending(endings ...string) func(string) bool {
	return func(p string) bool {
		for _, e := range endings {
			if strings.HasSuffix(p, e) {
				return true
			}
		}
		return false
	}
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

// screen gives the name of a view from its file's: booking of
// activity_booking.xml and BookingPage.xaml.
func screen(p string) string {
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
