// Package json reads and writes JSON catalogs in the shapes that web and other
// applications use: flat or nested, a file per culture or one for all, plurals
// as ICU messages, as an object of categories, or as keys with a category
// after them.
package json

import (
	"errors"
	"path"
	"regexp"
	"slices"
	"strings"
	"sync"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/loose"
)

// Format is the format "json".
var Format = made(parse, compose, func(text string) (message.Message, []message.Fault) { return loose.Of(text).Parse(text) })

// spelled are the format's forms in which it is settled how placeholders are
// spelled.
var spelled = sync.OnceValue(func() map[string]*format.Format {
	list := map[string]*format.Format{}
	for i, word := range loose.Words {
		s := loose.Spelling(i)
		f := made(func(data []byte) (format.Document, []finding.Finding) { return parseAs(data, &s) },
			func(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) { return composeAs(c, o, s) }, s.Parse)
		list[word] = f
	}
	return list
})

func init() {
	Format.Spelled = func(word string) *format.Format { return spelled()[word] }
	Format.Settle = func(source, other format.Document) *format.Format {
		s, ok := source.(*document)
		o, alike := other.(*document)
		if ok && alike && s.spelling == loose.Single && o.spelling == loose.Braces {
			return Format.Spelled(loose.Words[loose.Single])
		}
		return nil
	}
}

func made(parse func([]byte) (format.Document, []finding.Finding), compose func(*catalog.Catalog, format.Options) ([]byte, []catalog.Loss), read func(string) (message.Message, []message.Fault)) *format.Format {
	return &format.Format{
		Name:       "json",
		Title:      "JSON catalog, flat or nested",
		Files:      "de.json, locales/de/app.json, app.de.json",
		Extensions: []string{".json", ".jsonc"},
		Table:      "messages",
		Holds:      holds,
		General:    true,
		Recognise:  recognise,
		Locate:     locate,
		Path: func(dir, table string, tag culture.Tag, _ bool) string {
			if table == "messages" {
				return path.Join(dir, string(tag)+".json")
			}
			return path.Join(dir, string(tag), table+".json")
		},
		Parse:   parse,
		Message: read,
		Compose: compose,
	}
}

var holds = format.Abilities{Plurals: true, Exact: true, Ordinals: true, Selects: true, Several: true, Names: true, Types: true, Arrays: true, Items: true}

// settings are JSON files that hold no texts, whatever folder they are in.
var settings = []string{"package.json", "package-lock.json", "tsconfig.json", "manifest.json", "composer.json", "jsconfig.json", "zelvik.ledger.json", "zelvik.schema.json"}

// looksLike is how an object begins whose first value is a text or an object.
var looksLike = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`^(?:\x{feff})?\s*\{\s*"(?:[^"\\]|\\.)*"\s*:\s*["{]`)
})

// folders are names of folders that hold translations.
var folders = []string{"locales", "locale", "_locales", "i18n", "l10n", "lang", "langs", "language", "languages", "translations", "messages", "strings", "nls", "texts"}

// allIn is how a file begins that holds all cultures, each in an object of its own.
var allIn = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`^(?:\x{feff})?\s*\{\s*"([A-Za-z]{2,3}(?:[-_][A-Za-z0-9]+)*)"\s*:\s*\{`)
})

// recognise is sure of a file whose name, or whose folder among translations,
// is a culture; other JSON files may be anything.
func recognise(p string, head []byte) format.Fit {
	ext := strings.ToLower(path.Ext(p))
	if ext != ".json" && ext != ".jsonc" {
		if looksLike().Match(head) {
			return format.Maybe
		}
		return format.No
	}
	if slices.Contains(settings, strings.ToLower(path.Base(p))) || strings.HasSuffix(p, ".bundle.json") { // made by zelvik accessors
		return format.No
	}
	if strings.Contains(string(head), `"locale_data"`) { // compiled of a gettext catalog
		return format.No
	}
	if l := locate(p); l.Culture != "" {
		if path.Base(path.Dir(p)) != string(l.Culture) || slices.Contains(folders, strings.ToLower(path.Base(path.Dir(path.Dir(p))))) ||
			len(l.Culture) > 3 || strings.HasPrefix(path.Base(p), string(l.Culture)) {
			return format.Yes
		}
	}
	if m := allIn().FindSubmatch(head); m != nil && slices.Contains(folders, strings.ToLower(strings.TrimSuffix(path.Base(p), path.Ext(p)))) {
		if _, ok := tagOf(string(m[1])); ok {
			return format.Yes // translations.json
		}
	}
	if slices.Contains(folders, strings.ToLower(path.Base(path.Dir(p)))) && strings.HasPrefix(strings.TrimLeft(string(head), "\ufeff \t\r\n"), "{") {
		return format.Yes
	}
	return format.Maybe
}

// locate knows de.json, app.de.json, app_de.json, app-de.json and de/app.json.
var errNoTag = errors.New("no culture")

func locate(p string) format.Location {
	read := func(name string) (culture.Tag, error) {
		if tag, ok := tagOf(name); ok {
			return tag, nil
		}
		return "", errNoTag
	}
	location, ok := format.InName(p, "messages", "._-", read)
	if ok && doubtful(location, strings.TrimSuffix(path.Base(p), path.Ext(p))) {
		location.Table, location.Culture, location.Neutral, ok = strings.TrimSuffix(path.Base(p), path.Ext(p)), "", true, false
	}
	if ok {
		return location
	}
	if tag, ok := tagOf(path.Base(path.Dir(p))); ok {
		location.Dir, location.Culture, location.Neutral = path.Dir(path.Dir(p)), tag, false
		return location
	}
	name := location.Table
	if _, err := culture.Parse(name); err != nil {
		if unknown, ok := err.(*culture.UnknownError); ok && unknown.Meant != "" && (name == strings.ToLower(name) || name == strings.ToUpper(name) || len(name) == 5) && (len(name) == 2 || len(name) == 5 && strings.ContainsAny(name[2:3], "_-")) {
			location.Table, location.Neutral, location.Unknown, location.Culture = "messages", false, unknown, unknown.Meant
			location.Meant = path.Join(location.Dir, string(unknown.Meant)+".json")
		}
	}
	return location
}

// doubtful reports whether the end of a name that reads as a culture's is something
// else: web-types.lit is no Lithuanian, whose code has two letters, and id_alt no Altai.
func doubtful(l format.Location, name string) bool {
	end := name[min(len(l.Table)+1, len(name)):]
	if l.Table == "messages" && name != "messages."+end || len(end) != 3 {
		return false
	}
	_, tagged := tagOf(l.Table)
	return tagged || len(l.Culture) == 2
}

// tagOf reads a name that is a culture and nothing else: two or three letters
// in lower case, and what may follow them.
func tagOf(name string) (culture.Tag, bool) {
	base, _, _ := strings.Cut(strings.ReplaceAll(name, "_", "-"), "-")
	if len(base) < 2 || len(base) > 3 || base != strings.ToLower(base) {
		return "", false
	}
	tag, err := culture.Parse(name)
	return tag, err == nil && tag.Known()
}
