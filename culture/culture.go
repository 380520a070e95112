// Package culture knows what a program must know of a language: its BCP 47
// tag, the tags it falls back to, its direction, its plural rules, how it
// writes numbers, and which of several cultures serves a reader best. The data
// is Unicode's locale data (CLDR 48), embedded as text and read when first
// asked for.
package culture

//go:generate go run ./internal/generate -from ../node_modules

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"iter"
	"slices"
	"strings"
	"sync"

	"golang.org/x/text/language"

	"zelvik/finding"
)

// Tag is a BCP 47 language tag in canonical spelling: "de", "pt-BR",
// "sr-Latn-RS", "en-x-grown". The empty Tag is the root of all fallback.
type Tag string

//go:embed data/*.txt
var data embed.FS

// rows returns the tab-separated columns of a table, comments left out.
func rows(name, separator string) iter.Seq[[]string] {
	return func(yield func([]string) bool) {
		text, err := data.ReadFile("data/" + name)
		if err != nil {
			panic(err) // the table is embedded: only a typing mistake here can miss it
		}
		for line := range strings.Lines(string(text)) {
			line = strings.TrimSuffix(line, "\n")
			if strings.HasPrefix(line, "# ") || line == "" {
				continue
			}
			if !yield(strings.Split(line, separator)) {
				return
			}
		}
	}
}

// pairs reads a two-column table.
func pairs(name string) map[string]string {
	table := map[string]string{}
	for row := range rows(name, " ") {
		table[row[0]] = row[1]
	}
	return table
}

var (
	parents     = sync.OnceValue(func() map[string]string { return pairs("parents.txt") })
	likely      = sync.OnceValue(func() map[string]string { return pairs("likely.txt") })
	rightToLeft = sync.OnceValue(func() map[string]bool {
		scripts := map[string]bool{}
		for row := range rows("right-to-left.txt", "\t") {
			scripts[row[0]] = true
		}
		return scripts
	})
)

// replaced holds the withdrawn language codes that platforms still write, and
// today's (IANA language subtag registry).
var replaced = map[string]string{"iw": "he", "in": "id", "ji": "yi", "jw": "jv", "mo": "ro", "sh": "sr-Latn"}

// kept are the withdrawn codes by which platforms ask to this day
// (java.util.Locale, Android's Locale.adjustLanguageCode).
var kept = []string{"iw", "in", "ji"}

// Withdrawn returns a tag with the old code of its language where platforms still
// ask by it: iw-IL for he-IL.
func (t Tag) Withdrawn() Tag {
	base, rest := t.cut()
	for _, old := range kept {
		if replaced[old] == base {
			return Tag(old + rest)
		}
	}
	return t
}

// Modern undoes Withdrawn: he-IL for iw-IL.
func (t Tag) Modern() Tag {
	base, rest := t.cut()
	if slices.Contains(kept, base) {
		return Tag(replaced[base] + rest)
	}
	return t
}

// second holds, of two codes that mean one language, the one that Unicode does not
// prefer, and the other (CLDR, languageAlias).
var second = map[string]string{"no": "nb", "tl": "fil"}

// Language returns the code of the tag's language, of two that mean one the code that
// Unicode prefers: nb for no, fil for tl.
func (t Tag) Language() string {
	base := t.Base()
	return cmp.Or(second[base], base)
}

// UnknownError says that a tag is well formed or nearly so but names nothing.
type UnknownError struct {
	Tag string
	// Meant is the tag that was probably meant, or empty.
	Meant Tag
}

// Error returns one sentence with the fix.
func (e *UnknownError) Error() string {
	if e.Meant != "" {
		return fmt.Sprintf("%q is no culture; %s (%s) was probably meant", e.Tag, e.Meant, e.Meant.Name())
	}
	return fmt.Sprintf("%q is no culture; use a BCP 47 tag such as de, pt-BR or zh-Hant", e.Tag)
}

// Parse reads a BCP 47 tag, with _ accepted for -, and gives its canonical
// spelling with withdrawn codes replaced. The error is an *UnknownError.
func Parse(text string) (Tag, error) {
	unknown := func() (Tag, error) { return "", &UnknownError{Tag: text, Meant: meant(text)} }
	known, variant := laterVariant(text)
	parsed, err := language.Raw.Parse(known)
	var value language.ValueError
	if err != nil && !errors.As(err, &value) || err != nil || text == "" {
		return unknown()
	}
	if parts := strings.FieldsFunc(text, func(r rune) bool { return r == '-' || r == '_' }); len(parts) > 1 && len(parts[1]) == 3 && parts[1] > "999" &&
		!slices.Contains([]string{"ar", "kok", "lv", "ms", "sgn", "sw", "uz", "zh"}, strings.ToLower(parts[0])) {
		return unknown() // no language has others below it but these (extlang, IANA Language Subtag Registry): de_alt is no Altai
	}
	tag := Tag(parsed.String()) + variant
	base, rest := tag.cut()
	if now, old := replaced[base]; old {
		// Serbo-Croatian with a region outside the Balkans is a slip for the
		// region's own language.
		if region := tag.Region(); base == "sh" && region != "" && likely()["und-"+region] != "" &&
			!strings.HasPrefix(likely()["und-"+region], "sr-") && !strings.HasPrefix(likely()["und-"+region], "hr-") && !strings.HasPrefix(likely()["und-"+region], "bs-") {
			return unknown()
		}
		tag = Tag(now + rest)
	}
	return tag, nil
}

// laterVariants are those that were registered after the library's table was made
// (IANA Language Subtag Registry).
var laterVariants = []string{"akhmimic", "anpezo", "bciav", "bcizbl", "blasl", "bohairic", "fascia", "fayyumic", "fodom", "gherd", "hanoi", "huett",
	"kleinsch", "leidentr", "ltg1929", "ltg2007", "lycopol", "mdcegyp", "mdctrans", "mesokem", "pehoeji", "sahidic", "saigon", "synnejyl", "tailo", "tunumiit",
	"valbadia", "vecdruka", "viennese"}

// laterVariant cuts off a variant at the end of a tag that the library does not know.
func laterVariant(text string) (before string, variant Tag) {
	at := strings.LastIndexAny(text, "-_")
	if at > 0 && slices.Contains(laterVariants, strings.ToLower(text[at+1:])) {
		return text[:at], Tag("-" + strings.ToLower(text[at+1:]))
	}
	return text, ""
}

// MustParse is Parse for tags that are known to be good; it panics otherwise.
func MustParse(text string) Tag {
	tag, err := Parse(text)
	if err != nil {
		panic(err)
	}
	return tag
}

// meant guesses the tag behind a mistaken one: a country's code where a
// language's belongs ("jp"), a language that is none before a good country
// ("sh-CN"), letters in the wrong place.
func meant(text string) Tag {
	parts := strings.FieldsFunc(text, func(r rune) bool { return r == '-' || r == '_' || r == ' ' || r == '.' })
	if len(parts) == 0 {
		return ""
	}
	region := strings.ToUpper(parts[len(parts)-1])
	for i, candidate := range []string{region, strings.ToUpper(parts[0])} {
		if i > 0 && len(parts) > 1 { // a language, and what is none of its regions: de_alt
			if tag, err := Parse(parts[0]); err == nil && tag.Known() {
				if script := finding.Nearest(parts[1], []string{"Arab", "Cyrl", "Deva", "Guru", "Hans", "Hant", "Latn"}); len(parts[1]) == 4 && script != "" {
					return tag + Tag("-"+script)
				}
				return tag
			}
		}
		full := likely()["und-"+candidate]
		if full == "" { // the data leaves out countries whose likely language is English
			full = "en-Latn-" + candidate
		}
		if len(candidate) != 2 || names()["territorie"][candidate] == "" {
			continue
		}
		language, rest, _ := strings.Cut(full, "-")
		_, where, _ := strings.Cut(rest, "-")
		if home := likely()[language]; strings.HasSuffix(home, "-"+where) && len(parts) == 1 {
			return Tag(language)
		}
		return Tag(language + "-" + where)
	}
	if len(parts) == 1 && len(parts[0]) == 4 { // dede, ptbr
		if tag, err := language.Raw.Parse(parts[0][:2] + "-" + parts[0][2:]); err == nil {
			return Tag(tag.String())
		}
	}
	return ""
}

// cut splits off the language: "sr", "-Latn-RS".
func (t Tag) cut() (base, rest string) {
	i := strings.IndexByte(string(t), '-')
	if i < 0 {
		return string(t), ""
	}
	return string(t[:i]), string(t[i:])
}

// Base is the language subtag.
func (t Tag) Base() string {
	base, _ := t.cut()
	return base
}

// subtags yields the subtags after the language and before an extension.
func (t Tag) subtags(yield func(string) bool) {
	for i, part := range strings.Split(string(t), "-") {
		if len(part) == 1 || i > 0 && !yield(part) {
			return
		}
	}
}

// Region is the region subtag as written, or "".
func (t Tag) Region() string {
	for part := range t.subtags {
		if len(part) == 2 || len(part) == 3 && part[0] >= '0' && part[0] <= '9' {
			return part
		}
	}
	return ""
}

// writtenScript is the script subtag as written, or "".
func (t Tag) writtenScript() string {
	for part := range t.subtags {
		if len(part) == 4 && part[0] >= 'A' && part[0] <= 'Z' {
			return part
		}
	}
	return ""
}

// Script is the script the culture is written in: as the tag says, else the
// likely one (UTS #35, likely subtags). Unknown languages give "Latn".
func (t Tag) Script() string {
	if script := t.writtenScript(); script != "" {
		return script
	}
	base, region := t.Base(), t.Region()
	for _, key := range []string{base + "-" + region, base} {
		if full := likely()[key]; full != "" {
			return strings.Split(full, "-")[1]
		}
	}
	return "Latn"
}

// Maximal is the tag with its likely script and region: "zh-TW" gives
// "zh-Hant-TW".
func (t Tag) Maximal() Tag {
	region := t.Region()
	if region == "" {
		for _, key := range []string{t.Base() + "-" + t.Script(), t.Base()} {
			if full := likely()[key]; full != "" {
				region = strings.Split(full, "-")[2]
				break
			}
		}
	}
	if region == "" {
		return Tag(t.Base() + "-" + t.Script())
	}
	return Tag(t.Base() + "-" + t.Script() + "-" + region)
}

// Parent is the tag that answers where this one has no text: the explicit
// parent of Unicode's locale data, else the tag without its last subtag. The
// parent of a language is "".
func (t Tag) Parent() Tag {
	if parent, ok := parents()[string(t)]; ok {
		if parent == "root" || parent == "und" {
			return ""
		}
		return Tag(parent)
	}
	i := strings.LastIndexByte(string(t), '-')
	if i < 0 {
		return ""
	}
	parent := string(t[:i])
	if i >= 2 && parent[i-2] == '-' { // do not end in a lone extension letter
		parent = parent[:i-2]
	}
	return Tag(parent)
}

// Parents are all parents in order, nearest first, the root left out.
func (t Tag) Parents() []Tag {
	list := []Tag{}
	for parent := t.Parent(); parent != ""; parent = parent.Parent() {
		list = append(list, parent)
	}
	return list
}

// RightToLeft reports whether the culture's script runs from right to left.
// The region XB is reserved for pseudo-cultures with mirrored text.
func (t Tag) RightToLeft() bool { return t.Region() == "XB" || rightToLeft()[t.Script()] }

// Direction is "ltr" or "rtl".
func (t Tag) Direction() string {
	if t.RightToLeft() {
		return "rtl"
	}
	return "ltr"
}

// Pseudo reports whether the tag names a pseudo-culture: region XA or XB, or
// a private-use tag below the source.
func (t Tag) Pseudo() bool {
	region := t.Region()
	return region == "XA" || region == "XB" || strings.Contains(string(t), "-x-")
}

// Scripts returns the scripts that Unicode's locale data knows the language to be
// written in, somewhere; none where the tag names one.
func (t Tag) Scripts() (list []string) {
	if t.writtenScript() != "" {
		return nil
	}
	for known, full := range likely() {
		if known == t.Base() || strings.HasPrefix(known, t.Base()+"-") {
			if script := Tag(full).Script(); !slices.Contains(list, script) {
				list = append(list, script)
			}
		}
	}
	slices.Sort(list)
	return list
}
