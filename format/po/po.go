// Package po reads and writes gettext's message catalogs: .po files with a
// source and a translation, .pot templates with a source alone, and compiled
// .mo files, which are written only.
package po

import (
	"path"
	"strings"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/message/loose"
)

// Format is the format "po".
var Format = &format.Format{
	Name:       "po",
	Title:      "gettext catalog",
	Files:      "de.po, app.de.po, messages.pot",
	Extensions: []string{".po", ".pot"},
	Table:      "messages",
	Template:   true,
	Holds:      holds,
	Recognise:  recognise,
	Locate:     locate,
	Path:       filePath,
	Parse:      parse,
	Message: func(text string) (message.Message, []message.Fault) {
		m, faults := loose.Of(text).Parse(text)
		if m.Choice == nil {
			m.Pattern = tight(m.Pattern)
		}
		return m, faults
	},
	Compose: format.Alone(join),
	Join:    join,
}

var holds = format.Abilities{Plurals: true, Forms: true, Types: true, Notes: true, States: true, Bilingual: true}

func recognise(p string, head []byte) format.Fit {
	switch strings.ToLower(path.Ext(p)) {
	case ".po":
		return format.Yes
	case ".pot": // also a template of slides
		if len(head) == 0 || strings.Contains(string(head), "msgid") {
			return format.Yes
		}
		return format.No
	}
	if text := string(head); strings.Contains(text, "\nmsgid \"") && strings.Contains(text, "\nmsgstr") {
		return format.Maybe
	}
	return format.No
}

// locate knows de.po, app.de.po, app-de.po, app_de.po and de/LC_MESSAGES/app.po.
func locate(p string) format.Location {
	ext := path.Ext(p)
	name := strings.TrimSuffix(path.Base(p), ext)
	location := format.Location{Dir: path.Dir(p), Table: name, Neutral: true}
	if strings.EqualFold(ext, ".pot") {
		return location
	}
	if folder := path.Dir(p); path.Base(folder) == "LC_MESSAGES" {
		folder = path.Dir(folder)
		tag, err := culture.ParsePOSIX(path.Base(folder))
		unknown, isUnknown := err.(*culture.UnknownError)
		if err == nil || isUnknown && unknown.Meant != "" {
			location.Dir, location.Culture, location.Neutral = path.Dir(folder), tag, false
			if err != nil {
				location.Unknown, location.Culture = unknown, unknown.Meant
				location.Meant = path.Join(path.Dir(folder), string(unknown.Meant), "LC_MESSAGES", path.Base(p))
			}
			return location
		}
	}
	if tag, err := culture.ParsePOSIX(name); err == nil && tag.Known() {
		location.Table, location.Culture, location.Neutral = "messages", tag, false
		return location
	}
	for i := 1; i < len(name)-1; i++ {
		if strings.IndexByte("._-", name[i]) < 0 {
			continue
		}
		if tag, err := culture.ParsePOSIX(name[i+1:]); err == nil && tag.Known() {
			location.Table, location.Culture, location.Neutral = name[:i], tag, false
			return location
		}
	}
	if _, err := culture.Parse(name); err != nil {
		if unknown, ok := err.(*culture.UnknownError); ok && unknown.Meant != "" && (len(name) == 2 || len(name) == 5 && strings.ContainsAny(name[2:3], "_-")) {
			location.Table, location.Neutral, location.Unknown, location.Culture = "messages", false, unknown, unknown.Meant
			location.Meant = filePath(location.Dir, "messages", unknown.Meant, false)
		}
	}
	return location
}

func filePath(dir, table string, tag culture.Tag, neutral bool) string {
	switch {
	case neutral:
		return path.Join(dir, table+".pot")
	case table == "messages":
		return path.Join(dir, strings.ReplaceAll(string(tag), "-", "_")+".po")
	}
	return path.Join(dir, table+"."+strings.ReplaceAll(string(tag), "-", "_")+".po")
}
