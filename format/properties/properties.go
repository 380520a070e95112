// Package properties reads and writes Java's resource bundles: properties
// files (java.util.Properties) whose values are texts, or patterns of
// MessageFormat.
package properties

import (
	"path"
	"regexp"
	"slices"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/loose"
	"zelvik/message/printf"
)

// Format is the format "properties".
var Format = &format.Format{
	Name:       "properties",
	Title:      "Java resource bundle",
	Files:      "messages[_de_CH].properties",
	Extensions: []string{".properties"},
	Table:      "messages",
	Holds:      holds,
	Recognise:  recognise,
	Locate:     locate,
	Path:       filePath,
	Parse:      parse,
	Message:    read,
	Compose:    compose,
}

var holds = format.Abilities{Plurals: true, Exact: true, Ordinals: true, Selects: true, Several: true, Types: true, Notes: true}

// recognise is sure of a name with a culture in it; others may be settings.
func recognise(p string, head []byte) format.Fit {
	if !strings.EqualFold(path.Ext(p), ".properties") {
		return format.No
	}
	if l := locate(p); !l.Neutral || path.Base(p) == "messages.properties" {
		return format.Yes
	}
	return format.Maybe
}

// locate takes the longest ending of the name that is a culture, in the form
// of ResourceBundle: Base_zh_Hant_TW.
func locate(p string) format.Location {
	name := strings.TrimSuffix(path.Base(p), path.Ext(p))
	location := format.Location{Dir: path.Dir(p), Table: name, Neutral: true}
	for i := 1; i < len(name)-1; i++ {
		if name[i] != '_' {
			continue
		}
		suffix := name[i+1:]
		tag, err := culture.Parse(suffix)
		if err == nil && tag.Known() && len(tag.Base()) <= 3 && suffix == strings.Replace(suffix, tag.Base(), strings.ToLower(tag.Base()), 1) {
			location.Table, location.Culture, location.Neutral = name[:i], tag, false
			if strings.Contains(suffix, "-") {
				location.Misnamed = "ResourceBundle parts language and region with an underscore"
				location.Meant = filePath(location.Dir, location.Table, tag, false)
			}
			return location
		}
		if unknown, ok := err.(*culture.UnknownError); ok && unknown.Meant != "" && (len(suffix) == 2 || len(suffix) == 5 && strings.ContainsAny(suffix[2:3], "_-")) {
			location.Table, location.Neutral, location.Unknown, location.Culture = name[:i], false, unknown, unknown.Meant
			location.Meant = filePath(location.Dir, location.Table, unknown.Meant, false)
			return location
		}
	}
	return location
}

func filePath(dir, table string, tag culture.Tag, neutral bool) string {
	if neutral {
		return path.Join(dir, table+".properties")
	}
	return path.Join(dir, table+"_"+strings.ReplaceAll(string(tag), "-", "_")+".properties")
}

// read makes a message of a value: a MessageFormat pattern where it has an
// argument in braces, a format string of java.util.Formatter where it has a
// percent placeholder, else the text as it stands.
func read(value string) (message.Message, []message.Fault) {
	switch {
	case strings.IndexByte(value, '{') > 0 && expression().MatchString(value) && !icu.LooksChosen(value):
		return loose.Single.Parse(value)
	case Patterned(value):
		return icu.ParseJava(value)
	case printf.Java.Formatted(value):
		p, faults := printf.Java.Parse(value)
		return message.Message{Pattern: p}, faults
	}
	return message.Plain(value), nil
}

// expression finds ${age > 17 ? 'a' : 'b'} and #{bean.name}, which frameworks evaluate
// in texts with {name}, and which are no patterns of MessageFormat.
var expression = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`[$#]\{\w+[ .(][^{}]*\}`) })

// expressive reports whether a pattern has such an expression in its text, and shows
// its arguments as they are.
func expressive(p message.Pattern) bool {
	for _, part := range p {
		if argument, ok := part.(*message.Placeholder); ok && argument.Type != message.String {
			return false
		}
	}
	return slices.ContainsFunc(p, func(part message.Part) bool {
		text, ok := part.(message.Text)
		return ok && strings.IndexByte(string(text), '{') >= 0 && expression().MatchString(string(text))
	})
}

// Patterned reports whether a value is a pattern: {0} or {name}, with or
// without a type. Expressions such as ${home} and #{bean.name} are none.
func Patterned(value string) bool {
	if icu.LooksChosen(value) {
		return true
	}
	for i := 0; i < len(value); i++ {
		if value[i] != '{' {
			continue
		}
		end, number := i+1, true
		for end < len(value) && (value[end] == '_' || value[end] >= '0' && value[end] <= '9' || value[end]|0x20 >= 'a' && value[end]|0x20 <= 'z') {
			number = number && value[end] <= '9'
			end++
		}
		if !number && i > 0 && strings.IndexByte("$#{", value[i-1]) >= 0 {
			continue
		}
		if end > i+1 && end < len(value) && (value[end] == '}' || value[end] == ',' && strings.IndexByte(value[end:], '}') > 0) {
			return true
		}
	}
	return false
}
