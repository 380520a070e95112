// Package android reads and writes Android string resources:
// res/values[-qualifiers]/*.xml, after the platform's documentation of string
// resources and the behaviour of its resource compiler.
package android

import (
	"errors"
	"path"
	"regexp"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/format"
)

// Format is the format "android".
var Format = &format.Format{
	Name:       "android",
	Title:      "Android string resources",
	Files:      "res/values[-de]/strings.xml",
	Extensions: []string{".xml"},
	Table:      "strings",
	Holds:      holds,
	Closed:     true,
	Recognise:  recognise,
	Locate:     locate,
	Path:       filePath,
	Parse:      parse,
	Message:    read,
	Compose:    compose,
}

var holds = format.Abilities{
	Plurals: true, Names: true, Samples: true, Types: true, Markup: true, Arrays: true, Notes: true, Fixed: true,
}

func recognise(p string, head []byte) format.Fit {
	if !strings.EqualFold(path.Ext(p), ".xml") {
		if text := string(head); strings.Contains(text, "<resources") && (strings.Contains(text, "<string") || strings.Contains(text, "<plurals")) {
			return format.Maybe
		}
		return format.No
	}
	inValues := strings.HasPrefix(path.Base(path.Dir(p)), "values")
	text := string(head)
	resources := strings.Contains(text, "<resources")
	texts := strings.Contains(text, "<string") || strings.Contains(text, "<plurals")
	others := strings.Contains(text, "<color") || strings.Contains(text, "<style") || strings.Contains(text, "<dimen") ||
		strings.Contains(text, "<item") || strings.Contains(text, "<attr") || strings.Contains(text, "<bool") || strings.Contains(text, "<integer")
	switch {
	case resources && (texts || inValues && !others):
		return format.Yes
	case resources, inValues && len(head) == 0:
		return format.Maybe
	case inValues && len(head) < 512 && !strings.Contains(text, "<"):
		return format.Maybe // damaged or empty
	}
	return format.No
}

// qualifier tells configuration qualifiers that are no languages
// (Android documentation, "Configuration qualifier names").
var qualifier = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`^(mcc\d+|mnc\d+|ldrtl|ldltr|sw\d+dp|w\d+dp|h\d+dp|small|normal|large|xlarge|long|notlong|` +
		`round|notround|widecg|nowidecg|highdr|lowdr|port|land|car|desk|television|appliance|watch|vrheadset|night|notnight|` +
		`[lmhxtv]+dpi|nodpi|anydpi|\d+dpi|notouch|finger|keysexposed|keyshidden|keyssoft|nokeys|qwerty|12key|navexposed|` +
		`navhidden|nonav|dpad|trackball|wheel|v\d+|masculine|feminine|neuter)$`)
})

// network is the beginning of qualifiers for a mobile network, which alone stand
// before the language.
var network = regexp.MustCompile(`^-mcc\d+`)

// language reports whether a qualifier looks like a language.
func language(part string) bool {
	return (len(part) == 2 || len(part) == 3) && strings.Trim(strings.ToLower(part), "abcdefghijklmnopqrstuvwxyz") == ""
}

// region reports whether a qualifier looks like a region: rCH, r419.
func region(part string) bool {
	return len(part) == 3 && part[0] == 'r' && strings.Trim(part[1:], "ABCDEFGHIJKLMNOPQRSTUVWXYZ") == "" ||
		len(part) == 4 && part[0] == 'r' && strings.Trim(part[1:], "0123456789") == ""
}

// elements are the elements around placeholders.
var elements = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`</?\w+:g\b[^>]*>`) })

func locate(p string) format.Location {
	folder := path.Base(path.Dir(p))
	location := format.Location{
		Dir:   path.Dir(path.Dir(p)),
		Table: strings.TrimSuffix(path.Base(p), path.Ext(p)),
	}
	if !strings.HasPrefix(folder, "values") {
		location.Dir, location.Neutral = path.Dir(p), true
		return location
	}
	location.Part = true
	rest := strings.TrimPrefix(folder, "values")
	if rest == "" {
		location.Neutral = true
		return location
	}
	tag, others, err := parseQualifiers(rest)
	switch {
	case err == nil:
		location.Culture, location.Neutral, location.Aside = tag, tag == "", others
		if old := tag.Withdrawn().Base(); old != tag.Base() && path.Base(location.Dir) == "res" && strings.Contains(folder, "-"+tag.Base()) {
			location.Misnamed = "Android asks for " + culture.Tag(tag.Base()).Name() + " by its old code " + old
			location.Meant = path.Join(location.Dir, strings.Replace(folder, "-"+tag.Base(), "-"+old, 1), path.Base(p))
			location.Spare = true
		}
		return location
	case errors.As(err, &location.Unknown):
		if location.Unknown.Meant != "" {
			location.Culture = location.Unknown.Meant
			location.Meant = path.Join(location.Dir, "values-"+Qualifier(location.Culture), path.Base(p))
		}
		return location
	}
	location.Misnamed = "Android does not read the folder " + folder
	if tag, err := culture.Parse(strings.Trim(rest, "-_. ")); err == nil {
		location.Culture = tag
		location.Meant = path.Join(location.Dir, "values-"+Qualifier(tag), path.Base(p))
	}
	return location
}

var errQualifier = errors.New("no qualifier")

// parseQualifiers reads "-de-rCH-night": the culture, and whether there are
// qualifiers for other things.
func parseQualifiers(rest string) (tag culture.Tag, others bool, err error) {
	if !strings.HasPrefix(rest, "-") {
		return "", false, errQualifier
	}
	var parts []string
	for i, part := range strings.Split(rest[1:], "-") {
		switch {
		case strings.HasPrefix(part, "b+"):
			parts = append(parts, strings.Split(part[2:], "+")...)
		case qualifier().MatchString(part) && part != "car":
			others = true
		case len(parts) == 0 && (!others || network.MatchString(rest)) && language(part): // after the network's numbers
			parts = append(parts, part)
		case len(parts) == 1 && (!others || network.MatchString(rest)) && region(part):
			parts = append(parts, part[1:])
		case i > 0 && part == "car":
			others = true
		default:
			return "", others, errQualifier
		}
	}
	if len(parts) == 0 {
		return "", others, nil
	}
	tag, err = culture.Parse(strings.Join(parts, "-"))
	return tag, others, err
}

// Qualifier is the folder qualifier for a culture: "de", "de-rCH", "iw",
// "b+sr+Latn". Android never reads values-he (Locale.adjustLanguageCode).
func Qualifier(tag culture.Tag) string {
	parts := strings.Split(string(tag.Withdrawn()), "-")
	switch {
	case len(parts) == 1 && len(parts[0]) <= 3:
		return parts[0]
	case len(parts) == 2 && len(parts[1]) == 2:
		return parts[0] + "-r" + parts[1]
	}
	return "b+" + strings.Join(parts, "+")
}

func filePath(dir, table string, tag culture.Tag, neutral bool) string {
	folder := "values"
	if !neutral {
		folder += "-" + Qualifier(tag)
	}
	return path.Join(dir, folder, table+".xml")
}
