package culture

import (
	"slices"
	"strings"
	"sync"

	xlanguage "golang.org/x/text/language"
)

var names = sync.OnceValue(func() map[string]map[string]string {
	tables := map[string]map[string]string{}
	for row := range rows("names.txt", "\t") {
		if tables[row[0]] == nil {
			tables[row[0]] = map[string]string{}
		}
		tables[row[0]][row[1]] = row[2]
	}
	return tables
})

var pseudoNames = map[string]string{"XA": "pseudo-accents", "XB": "pseudo-bidi"}

// Name is the culture's name in English: "German (Switzerland)".
func (t Tag) Name() string {
	table := names()
	if name := table["language"][string(t)]; name != "" {
		return name
	}
	name := table["language"][t.Base()]
	if name == "" {
		name = t.Base()
	}
	var details []string
	if script := t.writtenScript(); script != "" {
		details = append(details, orCode(table["script"][script], script))
	}
	if region := t.Region(); region != "" {
		details = append(details, orCode(pseudoNames[region], orCode(table["territorie"][region], region)))
	}
	if _, private, ok := strings.Cut(string(t), "-x-"); ok {
		details = append(details, private)
	}
	if len(details) > 0 {
		name += " (" + strings.Join(details, ", ") + ")"
	}
	return name
}

// OwnName is the culture's name in its own language, for a language menu:
// "Deutsch (Schweiz)", "العربية". Where Unicode's locale data has none it is
// the English name.
func (t Tag) OwnName() string {
	table := names()
	name := table["own"][t.Base()]
	if name == "" {
		return t.Name()
	}
	var details []string
	for part := range t.subtags {
		if own := table["own-part"][t.Base()+"-"+part]; own != "" {
			details = append(details, own)
		} else {
			details = append(details, orCode(pseudoNames[part], part))
		}
	}
	if len(details) == 0 {
		return name
	}
	return name + " (" + strings.Join(details, ", ") + ")"
}

// OwnNamed reports whether a text is a language's name in that language, as menus of
// languages have it: "日本語", "简体中文".
func OwnNamed(text string) bool {
	return ownNames()[strings.ToLower(text)]
}

var ownNames = sync.OnceValue(func() map[string]bool {
	all := map[string]bool{}
	for _, name := range names()["own"] {
		all[strings.ToLower(name)] = true
	}
	return all
})

func orCode(name, code string) string {
	if name == "" {
		return code
	}
	return name
}

// Languages are the language codes that have plural rules, sorted.
func Languages() []string {
	var list []string
	for language := range pluralTables()["cardinal"] {
		list = append(list, language)
	}
	for language := range pluralTables()["ordinal"] {
		list = append(list, language)
	}
	slices.Sort(list)
	return slices.Compact(list)
}

// Known reports whether Unicode's locale data has a name for the language, so
// that a file name's ending is likely to mean it.
func (t Tag) Known() bool { return names()["language"][t.Base()] != "" }

// LikelyTags are the tags that Unicode's locale data knows the likely script
// and region of, sorted.
func LikelyTags() []Tag {
	var list []Tag
	for tag := range likely() {
		list = append(list, Tag(tag))
	}
	slices.Sort(list)
	return list
}

// OfKey returns the culture that a key ends with, as that of a language in a menu does:
// locale_zh-CN; "" for none.
func OfKey(key string) Tag {
	at := strings.IndexAny(key, "._-:")
	if at <= 0 || at == len(key)-1 {
		return ""
	}
	if word := strings.ToLower(key[:at]); !strings.Contains(word, "lang") && !strings.Contains(word, "locale") && !strings.Contains(word, "cultur") {
		return ""
	}
	if tag, err := Parse(key[at+1:]); err == nil && tag.Known() {
		return tag
	}
	return ""
}

// ExplicitParents are the parents that are not found by truncation, as pairs
// of child and parent, sorted.
func ExplicitParents() [][2]string {
	var list [][2]string
	for child, parent := range parents() {
		list = append(list, [2]string{child, parent})
	}
	slices.SortFunc(list, func(a, b [2]string) int { return strings.Compare(a[0], b[0]) })
	return list
}

// called are the cultures by their English names, as old systems named folders.
var called = sync.OnceValue(func() map[string]Tag {
	list := map[string]Tag{}
	for code, name := range names()["language"] {
		if tag, err := Parse(code); err == nil {
			list[strings.ToLower(name)] = tag
		}
	}
	for name, tag := range map[string]Tag{"farsi": "fa", "nynorsk": "nn", "norwegian": "nb", "flemish": "nl-BE", "moldavian": "ro-MD"} {
		list[name] = tag
	}
	return list
})

// Called returns the culture with an English name: Hungarian, Brazilian Portuguese.
func Called(name string) (Tag, bool) {
	tag, ok := called()[strings.ToLower(strings.ReplaceAll(name, "_", " "))]
	return tag, ok
}

func isLetters(s string) bool {
	return !strings.ContainsFunc(s, func(r rune) bool { return r|0x20 < 'a' || r|0x20 > 'z' })
}

// ParsePOSIX is Parse for the names of locales, in which a modifier says the
// script: sr_RS@latin (setlocale(3)). Other modifiers, and encodings, are left
// out.
func ParsePOSIX(name string) (Tag, error) {
	base, modifier, _ := strings.Cut(name, "@")
	base, _, _ = strings.Cut(base, ".")
	language, region, _ := strings.Cut(base, "_")
	script := map[string]string{"latin": "Latn", "cyrillic": "Cyrl", "devanagari": "Deva"}[strings.ToLower(modifier)]
	if len(modifier) == 4 { // en@shaw: the code of a script itself
		if code, err := xlanguage.ParseScript(modifier); err == nil {
			script = code.String()
		}
	}
	if script == "" {
		if len(modifier) >= 5 { // a variant: ca@valencia, ru@petr1708
			if tag, err := Parse(base + "_" + modifier); err == nil {
				return tag, nil
			}
		}
		tag, err := Parse(base)
		if err != nil && len(region) >= 5 && len(region) <= 8 && isLetters(region) { // de_Formal: a variant of a project's own
			if own, known := Parse(language); known == nil && own.Known() {
				return own + "-x-" + Tag(strings.ToLower(region)), nil
			}
		}
		return tag, err
	}
	if region != "" {
		script += "_" + region
	}
	return Parse(language + "_" + script)
}
