// Package resx reads and writes .NET resource files, .resx and .resw: texts
// are offered for translation; files, images, form layout and everything else
// in them is kept untouched.
package resx

import (
	"path"
	"strings"

	"zelvik/culture"
	"zelvik/format"
)

// Format is the format "resx".
var Format = &format.Format{
	Name:       "resx",
	Title:      ".NET resources (.resx, .resw)",
	Files:      "Resources[.de].resx, Strings/de/Resources.resw",
	Extensions: []string{".resx", ".resw"},
	Table:      "Resources",
	Holds:      holds,
	Mark:       ".",
	Recognise:  recognise,
	Locate:     locate,
	Path:       filePath,
	Parse:      parse,
	Message:    read,
	Compose:    compose,
}

var holds = format.Abilities{
	Plurals: true, Exact: true, Ordinals: true, Selects: true, Several: true, Types: true, Notes: true,
}

func recognise(p string, head []byte) format.Fit {
	switch strings.ToLower(path.Ext(p)) {
	case ".resx", ".resw":
		return format.Yes
	}
	if strings.Contains(string(head), "<resheader") {
		return format.Maybe
	}
	return format.No
}

func locate(p string) format.Location {
	ext := path.Ext(p)
	name := strings.TrimSuffix(path.Base(p), ext)
	location := format.Location{Dir: path.Dir(p), Table: name, Neutral: true}
	if strings.EqualFold(ext, ".resw") { // the folder is the culture
		folder := path.Base(path.Dir(p))
		if tag, err := culture.Parse(folder); err == nil {
			location.Dir, location.Culture, location.Neutral = path.Dir(path.Dir(p)), tag, false
		}
		return location
	}
	dot := strings.LastIndexByte(name, '.')
	if dot < 0 {
		return location
	}
	table, suffix := name[:dot], name[dot+1:]
	tag, err := culture.Parse(suffix)
	if err == nil && !strings.Contains(suffix, "_") {
		location.Table, location.Culture, location.Neutral = table, tag, false
		return location
	}
	if err == nil {
		location.Table, location.Culture, location.Neutral = table, tag, false
		location.Misnamed = ".NET does not read the culture " + suffix
		location.Meant = filePath(location.Dir, table, tag, false)
		return location
	}
	// A suffix that looks like a culture and is none; others belong to the name.
	unknown, _ := err.(*culture.UnknownError)
	if unknown.Meant != "" && len(suffix) <= 7 && suffix != strings.ToUpper(suffix) || len(suffix) == 5 && suffix[2] == '-' {
		location.Table, location.Neutral, location.Unknown = table, false, unknown
		if unknown.Meant != "" {
			location.Culture = unknown.Meant
			location.Meant = filePath(location.Dir, table, unknown.Meant, false)
		}
	}
	return location
}

func filePath(dir, table string, tag culture.Tag, neutral bool) string {
	if neutral {
		return path.Join(dir, table+".resx")
	}
	return path.Join(dir, table+"."+string(tag)+".resx")
}
