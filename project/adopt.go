package project

import (
	"path"
	"slices"
	"strings"

	"zelvik/culture"
	"zelvik/finding"
)

// adopt lets families take in files that belong to them though they are called in
// another way. Families that are left without files are of no interest.
func adopt(list []*Family) {
	for _, take := range []func(f *Family, others []*Family){companions, template, neutralNames, tags, suffixes, cases} {
		for _, f := range list {
			if len(f.Files) == 0 {
				continue
			}
			take(f, slices.DeleteFunc(slices.Clone(list), func(other *Family) bool { return other == f || len(other.Files) == 0 }))
		}
	}
}

// companions attaches files to those they stand beside. One that stands alone in
// its culture is that culture's file.
func companions(f *Family, others []*Family) {
	for _, other := range others {
		if other.Format != f.Format.Companion || other.Dir != f.Dir || other.Table != f.Table {
			continue
		}
		for _, file := range f.Files {
			i := slices.IndexFunc(other.Files, func(o *File) bool {
				return o.Location.Culture == file.Location.Culture && o.Location.Neutral == file.Location.Neutral
			})
			if i >= 0 {
				file.Companion = other.Files[i]
				other.Files = slices.Delete(other.Files, i, i+1)
			}
		}
		f.Files, other.Files = append(f.Files, other.Files...), nil
	}
}

// template takes in a template of another name: app.pot beside de.po and fr.po.
func template(f *Family, others []*Family) {
	if !f.Format.Template || f.Table != f.Format.Table || slices.ContainsFunc(f.Files, neutral) {
		return
	}
	others = slices.DeleteFunc(others, func(o *Family) bool {
		return o.Format != f.Format || o.Dir != f.Dir || len(o.Files) != 1 || !neutral(o.Files[0])
	})
	if len(others) == 1 {
		f.Files = append(f.Files, others[0].Files...)
		others[0].Files = nil
	}
}

// neutralNames takes in the source that is called so instead of by its culture:
// lang/default.json beside lang/de.json, lang/base/app.json beside lang/de/app.json.
func neutralNames(f *Family, others []*Family) {
	if slices.ContainsFunc(f.Files, neutral) {
		return
	}
	for _, o := range others {
		if o.Format != f.Format || len(o.Files) != 1 || !neutral(o.Files[0]) {
			continue
		}
		if called(o.Table) && o.Dir == f.Dir && f.Table == f.Format.Table || called(path.Base(o.Dir)) && path.Dir(o.Dir) == f.Dir && o.Table == f.Table {
			f.Files = append(f.Files, o.Files...)
			o.Files = nil
			return
		}
	}
}

// called reports whether a name is that of a source.
func called(name string) bool { return name == "base" || name == "default" || name == "source" }

// around returns the folder of the family whose files stand in a folder: the one around
// it where it is called as a source is.
func around(dir string) string {
	if called(path.Base(dir)) {
		return path.Dir(dir)
	}
	return dir
}

// tags takes in files that are called by a culture of which Unicode has no data,
// beside others that are called by theirs: lki.json beside de.json. What only looks
// like a culture is reported.
func tags(f *Family, others []*Family) {
	if !f.Format.General || f.Table != f.Format.Table {
		return
	}
	for _, o := range others {
		language, rest, parted := strings.Cut(strings.ReplaceAll(o.Table, "_", "-"), "-")
		if o.Format != f.Format || o.Dir != f.Dir || len(o.Files) != 1 || !neutral(o.Files[0]) || len(language) < 2 || len(language) > 3 || language != strings.ToLower(language) || parted && len(rest) < 2 {
			continue
		}
		if language >= "qaa" && language <= "qtz" && len(language) == 3 { // private use (ISO 639-2): notes on the texts, and no translation
			o.Files = nil
			continue
		}
		at := &o.Files[0].Location
		tag, err := culture.Parse(o.Table)
		if at.Unknown, _ = err.(*culture.UnknownError); at.Unknown == nil {
			at.Culture = tag
		} else if !parted {
			at.Unknown = nil
			continue // any.json
		}
		at.Neutral = false
		f.Files, o.Files = append(f.Files, o.Files...), nil
	}
}

// suffixes takes in, as misnamed, files of a format whose names end with .de that
// end with _de, or with what is no culture.
func suffixes(f *Family, others []*Family) {
	if f.Format.Mark == "" || !slices.ContainsFunc(f.Files, neutral) {
		return
	}
	for _, o := range others {
		suffix, ok := strings.CutPrefix(o.Table, f.Table)
		if !ok || o.Format != f.Format || o.Dir != f.Dir || len(o.Files) != 1 || !neutral(o.Files[0]) || len(suffix) < 3 || strings.IndexByte("._-", suffix[0]) < 0 {
			continue
		}
		file := o.Files[0]
		at := &file.Location
		tag, err := culture.Parse(suffix[1:])
		unknown, _ := err.(*culture.UnknownError)
		switch {
		case err == nil && tag.Known() && suffix[:1] != f.Format.Mark:
			at.Culture, at.Misnamed = tag, "the platform reads the culture after "+f.Format.Mark+" alone"
			at.Meant = f.Format.Path(f.Dir, f.Table, tag, false)
		case suffix[:1] == f.Format.Mark && unknown != nil && strings.IndexByte(suffix[1:], '-') >= 0:
			at.Unknown, at.Culture = unknown, unknown.Meant
		default:
			continue
		}
		at.Neutral = false
		f.Files = append(f.Files, file)
		o.Files = nil
	}
}

// cases takes in, as misnamed, files whose table differs by case from the one that
// most cultures have: a device tells them apart.
func cases(f *Family, others []*Family) {
	for _, o := range others {
		if o.Format != f.Format || o.Dir != f.Dir || o.Table == f.Table || !strings.EqualFold(o.Table, f.Table) || len(o.Files) > len(f.Files) || len(o.Files) == len(f.Files) && o.Table != strings.ToLower(o.Table) {
			continue
		}
		for _, file := range o.Files {
			if !slices.ContainsFunc(f.Files, func(have *File) bool { return have.Location.Culture == file.Location.Culture }) {
				file.Location.Misnamed = "a device tells " + path.Base(file.Path) + " from " + f.Table + path.Ext(file.Path) + ", which the other cultures have"
				file.Location.Meant = path.Join(path.Dir(file.Path), f.Table+path.Ext(file.Path))
				f.Files = append(f.Files, file)
			}
		}
		o.Files = slices.DeleteFunc(o.Files, func(file *File) bool { return slices.Contains(f.Files, file) })
	}
}

// contradiction reports a file that states another culture than its name does.
func (f *File) contradiction(stated culture.Tag) {
	named := f.Location.Culture
	if named == "" || stated == "" || stated == named || stated.Language() == named.Language() {
		return
	}
	f.Findings = append(f.Findings, finding.Finding{Rule: "file-misnamed", Severity: finding.Error, Path: f.Path,
		Message: "the file says that it is in " + stated.Name() + ", and its name that it is in " + named.Name(), Fix: "correct the one that is wrong"})
}
