package format

import (
	"path"
	"strings"

	"zelvik/culture"
)

// InName reads a culture out of a file's name: all of it, as in de.po, whose table
// is the usual one, or what stands after one of the marks, as in app_pt_BR.ts, as
// much as is one. It is false where the name has none; then the location is that of
// the file without a culture.
func InName(p, usual, marks string, read func(name string) (culture.Tag, error)) (Location, bool) {
	name := strings.TrimSuffix(path.Base(p), path.Ext(p))
	location := Location{Dir: path.Dir(p), Table: name, Neutral: true}
	if tag, err := read(name); err == nil && tag.Known() {
		location.Table, location.Culture, location.Neutral = usual, tag, false
		return location, true
	}
	for i := 1; i < len(name)-1; i++ {
		if strings.IndexByte(marks, name[i]) < 0 {
			continue
		}
		if tag, err := read(name[i+1:]); err == nil && tag.Known() {
			location.Table, location.Culture, location.Neutral = name[:i], tag, false
			return location, true
		}
	}
	return location, false
}
