// Package winrc reads and writes the string tables of Windows resource scripts
// (.rc), of which one file may hold several languages; the captions of menus
// and dialogs are read and changed where they stand.
package winrc

import (
	"path"
	"strconv"
	"strings"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/printf"
)

// Format is the format "winrc".
var Format = &format.Format{
	Name:       "winrc",
	Title:      "Windows resource script",
	Files:      "app.rc",
	Extensions: []string{".rc"},
	Table:      "app",
	Holds:      holds,
	Recognise: func(p string, head []byte) format.Fit {
		switch strings.ToLower(path.Ext(p)) {
		case ".rc", ".rc2":
			return format.Yes
		}
		if strings.HasPrefix(string(head), "STRINGTABLE") || strings.Contains(string(head), "\nSTRINGTABLE") {
			return format.Maybe
		}
		return format.No
	},
	Locate: locate,
	Path:   func(dir, table string, _ culture.Tag, _ bool) string { return path.Join(dir, table+".rc") },
	Parse:  parse,
	Message: func(text string) (message.Message, []message.Fault) {
		p, faults := printf.Windows.Parse(text)
		return message.Message{Pattern: p}, faults
	},
	Compose: format.Alone(join),
	Join:    join,
}

// locate knows one file for all cultures, and one for each: app.de.rc, app_de.rc,
// app_1031.rc with Windows' number, German.rc, de/app.rc.
func locate(p string) format.Location {
	read := func(name string) (culture.Tag, error) {
		if tag, ok := culture.Called(name); ok {
			return tag, nil
		}
		if n, err := strconv.Atoi(name); err == nil {
			if tag, ok := tagOf(strconv.Itoa(n&0x3ff), strconv.Itoa(n>>10)); ok && n > 0x400 {
				return tag, nil
			}
		}
		return culture.Parse(name)
	}
	location, ok := format.InName(p, "app", "._-", read)
	if folder := path.Base(path.Dir(p)); !ok {
		if tag, err := culture.Parse(folder); err == nil && tag.Known() && folder != "rc" && (len(folder) == 2 || strings.Contains(folder, "-")) {
			location.Dir, location.Culture, location.Neutral = path.Dir(path.Dir(p)), tag, false
		}
	}
	return location
}

var holds = format.Abilities{Types: true, Notes: true, Many: true}

// languages are Windows' language numbers with their names in winnt.h and the
// cultures of their sublanguages ([MS-LCID]); the first is the default.
var languages = []struct {
	number int
	name   string
	subs   string
}{
	{0x01, "ARABIC", "1=ar 2=ar-IQ 3=ar-EG 4=ar-LY 5=ar-DZ 6=ar-MA"}, {0x02, "BULGARIAN", "1=bg"}, {0x03, "CATALAN", "1=ca"},
	{0x04, "CHINESE", "2=zh-Hans 1=zh-Hant 3=zh-HK 4=zh-SG 5=zh-MO"}, {0x05, "CZECH", "1=cs"}, {0x06, "DANISH", "1=da"},
	{0x07, "GERMAN", "1=de 2=de-CH 3=de-AT 4=de-LU 5=de-LI"}, {0x08, "GREEK", "1=el"},
	{0x09, "ENGLISH", "1=en 2=en-GB 3=en-AU 4=en-CA 5=en-NZ 6=en-IE 7=en-ZA"},
	{0x0a, "SPANISH", "3=es 1=es-ES 2=es-MX 11=es-AR"}, {0x0b, "FINNISH", "1=fi"},
	{0x0c, "FRENCH", "1=fr 2=fr-BE 3=fr-CA 4=fr-CH 5=fr-LU"}, {0x0d, "HEBREW", "1=he"}, {0x0e, "HUNGARIAN", "1=hu"},
	{0x0f, "ICELANDIC", "1=is"}, {0x10, "ITALIAN", "1=it 2=it-CH"}, {0x11, "JAPANESE", "1=ja"}, {0x12, "KOREAN", "1=ko"},
	{0x13, "DUTCH", "1=nl 2=nl-BE"}, {0x14, "NORWEGIAN", "1=nb 2=nn"}, {0x15, "POLISH", "1=pl"}, {0x16, "PORTUGUESE", "2=pt 1=pt-BR"},
	{0x17, "ROMANSH", "1=rm"}, {0x18, "ROMANIAN", "1=ro"}, {0x19, "RUSSIAN", "1=ru"}, {0x1a, "CROATIAN", "1=hr 2=sr-Latn 3=sr"},
	{0x1b, "SLOVAK", "1=sk"}, {0x1c, "ALBANIAN", "1=sq"}, {0x1d, "SWEDISH", "1=sv 2=sv-FI"}, {0x1e, "THAI", "1=th"},
	{0x1f, "TURKISH", "1=tr"}, {0x20, "URDU", "1=ur"}, {0x21, "INDONESIAN", "1=id"}, {0x22, "UKRAINIAN", "1=uk"},
	{0x23, "BELARUSIAN", "1=be"}, {0x24, "SLOVENIAN", "1=sl"}, {0x25, "ESTONIAN", "1=et"}, {0x26, "LATVIAN", "1=lv"},
	{0x27, "LITHUANIAN", "1=lt"}, {0x29, "FARSI", "1=fa"}, {0x2a, "VIETNAMESE", "1=vi"}, {0x2b, "ARMENIAN", "1=hy"},
	{0x2c, "AZERI", "1=az"}, {0x2d, "BASQUE", "1=eu"}, {0x2f, "MACEDONIAN", "1=mk"}, {0x36, "AFRIKAANS", "1=af"},
	{0x37, "GEORGIAN", "1=ka"}, {0x38, "FAEROESE", "1=fo"}, {0x39, "HINDI", "1=hi"}, {0x3a, "MALTESE", "1=mt"},
	{0x3c, "IRISH", "2=ga"}, {0x3e, "MALAY", "1=ms"}, {0x3f, "KAZAK", "1=kk"}, {0x41, "SWAHILI", "1=sw"}, {0x43, "UZBEK", "1=uz"},
	{0x44, "TATAR", "1=tt"}, {0x45, "BENGALI", "1=bn"}, {0x46, "PUNJABI", "1=pa"}, {0x47, "GUJARATI", "1=gu"}, {0x49, "TAMIL", "1=ta"},
	{0x4a, "TELUGU", "1=te"}, {0x4b, "KANNADA", "1=kn"}, {0x4c, "MALAYALAM", "1=ml"}, {0x4e, "MARATHI", "1=mr"},
	{0x50, "MONGOLIAN", "1=mn"}, {0x52, "WELSH", "1=cy"}, {0x56, "GALICIAN", "1=gl"},
}

// subnames are sublanguages that winnt.h names otherwise than by their
// language alone.
var subnames = map[string]int{
	"NEUTRAL": 0, "DEFAULT": 1, "SYS_DEFAULT": 2, "ENGLISH_US": 1, "ENGLISH_UK": 2, "ENGLISH_AUS": 3, "ENGLISH_CAN": 4, "ENGLISH_NZ": 5, "ENGLISH_EIRE": 6,
	"GERMAN_SWISS": 2, "GERMAN_AUSTRIAN": 3, "GERMAN_LUXEMBOURG": 4, "GERMAN_LIECHTENSTEIN": 5, "FRENCH_BELGIAN": 2, "FRENCH_CANADIAN": 3,
	"FRENCH_SWISS": 4, "FRENCH_LUXEMBOURG": 5, "PORTUGUESE": 2, "PORTUGUESE_BRAZILIAN": 1, "SPANISH_MEXICAN": 2, "SPANISH_MODERN": 3,
	"SPANISH_ARGENTINA": 11, "CHINESE_TRADITIONAL": 1, "CHINESE_SIMPLIFIED": 2, "CHINESE_HONGKONG": 3, "CHINESE_SINGAPORE": 4, "CHINESE_MACAU": 5,
	"DUTCH_BELGIAN": 2, "ITALIAN_SWISS": 2, "NORWEGIAN_BOKMAL": 1, "NORWEGIAN_NYNORSK": 2, "SWEDISH_FINLAND": 2, "SERBIAN_LATIN": 2,
	"SERBIAN_CYRILLIC": 3, "ARABIC_SAUDI_ARABIA": 1, "ARABIC_EGYPT": 3, "IRISH_IRELAND": 2,
}

// pseudo are the numbers that Windows has for trying out an interface: qps-ploc
// and qps-plocm (Windows, pseudo-locales).
var pseudo = map[culture.Tag][2]int{"en-XA": {0x101, 1}, "ar-XB": {0x1ff, 2}}

// tagOf returns the culture of a language and sublanguage, as numbers or names.
func tagOf(language, sub string) (tag culture.Tag, ok bool) {
	n, s := numberOf(language), numberOf(sub)
	for tag, numbers := range pseudo {
		if numbers == [2]int{n, s} {
			return tag, true
		}
	}
	name := strings.TrimPrefix(strings.ToUpper(language), "LANG_")
	if n < 0 && name == "NEUTRAL" || n == 0 {
		return "", true
	}
	if name == "SERBIAN" {
		n = 0x1a
	}
	if s < 0 {
		known, ok := subnames[strings.TrimPrefix(strings.ToUpper(sub), "SUBLANG_")]
		if s = known; !ok {
			s = 1
		}
	}
	for _, l := range languages {
		if l.number != n && l.name != name {
			continue
		}
		first := culture.Tag("")
		for pair := range strings.FieldsSeq(l.subs) {
			number, tag, _ := strings.Cut(pair, "=")
			if first == "" {
				first = culture.Tag(tag)
			}
			if numberOf(number) == s {
				return culture.Tag(tag), true
			}
		}
		return culture.Tag(first.Base()), true
	}
	return "", false
}

// numbersOf returns language and sublanguage of a culture, or of its nearest
// parent; false where Windows has none.
func numbersOf(tag culture.Tag) (language, sub int, exact, ok bool) {
	if numbers, ok := pseudo[tag]; ok {
		return numbers[0], numbers[1], true, true
	}
	for t := tag; t != ""; t = t.Parent() {
		for _, l := range languages {
			for pair := range strings.FieldsSeq(l.subs) {
				if number, known, _ := strings.Cut(pair, "="); known == string(t) {
					return l.number, numberOf(number), t == tag, true
				}
			}
		}
	}
	if tag.Base() == "zh" {
		return 0x04, map[bool]int{true: 1, false: 2}[tag.Script() == "Hant"], tag == "zh", true
	}
	return 0, 0, false, false
}

// numberOf reads a number, -1 where it is none.
func numberOf(text string) int {
	n, base := 0, 10
	if rest, ok := strings.CutPrefix(strings.ToLower(text), "0x"); ok {
		text, base = rest, 16
	}
	if text == "" || len(text) > 6 {
		return -1
	}
	for _, c := range text {
		digit := strings.IndexRune("0123456789abcdef", c|0x20)
		if c >= '0' && c <= '9' {
			digit = int(c - '0')
		}
		if digit < 0 || digit >= base {
			return -1
		}
		n = n*base + digit
	}
	return n
}
