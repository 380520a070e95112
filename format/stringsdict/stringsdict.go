// Package stringsdict reads and writes Apple's .stringsdict property lists:
// format keys with one or several plural variables, nested variables, and
// width variants.
package stringsdict

import (
	"fmt"
	"path"
	"strings"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
)

// Format is the format "stringsdict".
var Format = &format.Format{
	Name:       "stringsdict",
	Title:      "Apple plural rules beside a strings table",
	Files:      "de.lproj/Localizable.stringsdict",
	Extensions: []string{".stringsdict"},
	Table:      "Localizable",
	Holds:      holds,
	Recognise: func(p string, head []byte) format.Fit {
		if strings.EqualFold(path.Ext(p), ".stringsdict") {
			return format.Yes
		}
		return format.No
	},
	Locate: func(p string) format.Location { return LocateIn(p, "stringsdict") },
	Path: func(dir, table string, tag culture.Tag, neutral bool) string {
		return path.Join(dir, string(tag)+".lproj", table+".stringsdict")
	},
	Parse:   parse,
	Message: func(text string) (message.Message, []message.Fault) { return literal(text), nil },
	Compose: compose,
}

// LocateIn tells what a path below a .lproj folder says, for files with the
// extension (without its dot).
func LocateIn(p, extension string) format.Location {
	folder := path.Base(path.Dir(p))
	ext := path.Ext(p)
	location := format.Location{Dir: path.Dir(path.Dir(p)), Table: strings.TrimSuffix(path.Base(p), ext)}
	name, inside := strings.CutSuffix(folder, ".lproj")
	if !inside {
		location.Dir, location.Neutral = path.Dir(p), true
		if lower := strings.ToLower(folder); strings.HasSuffix(lower, ".lproj") || strings.HasSuffix(lower, "lproj") {
			location.Dir = path.Dir(path.Dir(p))
			location.Misnamed = "Apple's platforms do not read the folder " + folder
			bare := strings.TrimRight(folder[:len(folder)-len("lproj")], "._- ")
			if tag, err := culture.Parse(bare); err == nil {
				location.Culture, location.Neutral = tag, false
				location.Meant = path.Join(location.Dir, string(tag)+".lproj", path.Base(p))
			}
		}
		return location
	}
	if ext != "."+extension {
		location.Misnamed = fmt.Sprintf("Apple's platforms do not read the extension %s", ext)
		location.Meant = path.Join(path.Dir(p), location.Table+"."+extension)
	}
	if name == "Base" {
		location.Neutral = true
		return location
	}
	tag, err := culture.Parse(legacy(name))
	location.Culture = tag
	if err != nil {
		unknown, _ := err.(*culture.UnknownError)
		location.Unknown = unknown
		if unknown.Meant != "" {
			location.Culture = unknown.Meant
			location.Meant = path.Join(location.Dir, string(unknown.Meant)+".lproj", path.Base(p))
		}
		return location
	}
	if strings.Contains(name, "_") || !strings.EqualFold(name, legacy(name)) {
		return location // zh_CN and English are old but read
	}
	if parts := strings.Split(name, "-"); len(parts) > 1 && name != string(tag) && strings.EqualFold(name, string(tag)) {
		location.Misnamed = fmt.Sprintf("on a case-sensitive file system Apple's platforms do not find %s", folder)
		location.Meant = path.Join(location.Dir, string(tag)+".lproj", path.Base(p))
	}
	return location
}

// legacy returns the tag that a folder name of old systems stands for, which Apple's
// still read: the English name of a language.
func legacy(name string) string {
	if tag, ok := culture.Called(name); ok {
		return string(tag)
	}
	return name
}

var holds = format.Abilities{Plurals: true, Zero: true, Several: true, Types: true, Notes: true}
