package refer

import (
	"bytes"
	"cmp"
	"maps"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"zelvik/accessor"
	languages "zelvik/accessor/all"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/language"
	"zelvik/project"
	"zelvik/toolkit/all"
)

// Mention is a place that may refer to a key, and is left to a person.
type Mention struct {
	Path   string `json:"path"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
	// Text is the line.
	Text string `json:"text"`
}

// quoted is a key between quotes, which may be meant as one.
var quoted = language.LookUp{Pattern: `["'](KEY)["']`}

// referring finds the places in a file that refer to a key: those that are
// certain as replacements, the others as mentions.
func referring(f *project.Family, file *source, calls []call, old, fresh string) (changes []format.Replacement, mentions []Mention) {
	text := string(file.data)
	if !strings.Contains(text, file.kind.Mark) {
		return nil, nil
	}
	for _, c := range calls {
		if name := c.language.Member(accessor.Words(old)); c.language.Name == file.kind.Accessor && strings.Contains(text, name) {
			for _, at := range spans(&language.Call, text, "TYPE", c.kind, "CALL", name) {
				changes = append(changes, format.Replacement{Start: at[0], End: at[1], Text: c.language.Member(accessor.Words(fresh))})
			}
		}
	}
	if !strings.Contains(text, old) && !strings.Contains(text, language.Identifier(old)) {
		return changes, nil
	}
	told := func(from, to int) bool {
		return slices.ContainsFunc(changes, func(c format.Replacement) bool { return c.Start <= from && to <= c.End })
	}
	for i := range file.kind.LookUps {
		lookUp := &file.kind.LookUps[i]
		if lookUp.Formats != nil && !slices.Contains(lookUp.Formats, f.Format.Name) {
			continue
		}
		now := fresh
		if lookUp.Named() {
			now = language.Identifier(fresh)
		}
		for _, at := range uses(f, lookUp, text, old) {
			if !told(at[0], at[1]) {
				changes = append(changes, format.Replacement{Start: at[0], End: at[1], Text: now})
			}
		}
	}
	if !file.kind.Quoted {
		return changes, nil
	}
	var lines *finding.Lines
	for _, at := range uses(f, &quoted, text, old) {
		if told(at[0], at[1]) {
			continue
		}
		if lines == nil {
			lines = finding.NewLines(text)
		}
		line, column := lines.At(at[0])
		start := strings.LastIndexByte(text[:at[0]], '\n') + 1
		end, _, _ := bytes.Cut(file.data[start:], []byte("\n"))
		mentions = append(mentions, Mention{file.path, line, column, strings.TrimSpace(string(end))})
	}
	return changes, mentions
}

// uses returns the spans of a key in the look-ups of a text.
func uses(f *project.Family, lookUp *language.LookUp, text, key string) [][2]int {
	return spans(lookUp, text, "KEY", key, "NAME", language.Identifier(key), "TABLE", path.Base(f.Table))
}

// spans returns the spans of what a look-up asks for, with texts in the place of words.
func spans(lookUp *language.LookUp, text string, words ...string) (list [][2]int) {
	for i := 1; i < len(words); i += 2 {
		words[i] = regexp.QuoteMeta(words[i])
	}
	pattern := strings.NewReplacer(words...).Replace(lookUp.Pattern)
	for _, m := range regexp.MustCompile(pattern).FindAllStringSubmatchIndex(text, -1) {
		if to := m[3]; to == len(text) || !wordByte(text[to]) && (lookUp.Named() || text[to] != '.') { // else it is a longer key
			list = append(list, [2]int{m[2], to})
		}
	}
	return list
}

func wordByte(c byte) bool {
	return c == '_' || c >= '0' && c <= '9' || c|0x20 >= 'a' && c|0x20 <= 'z'
}

// refer plans the new name of a key in the layouts and the code that refer to
// it in these families.
func (r *Renaming) refer(w *project.Workspace, families []*project.Family, old, fresh string) error {
	changes := map[string][]format.Replacement{}
	sources := map[string]*source{}
	for _, f := range families {
		found, err := referrers(w, f)
		if err != nil {
			return err
		}
		called := calls(w, f)
		for _, file := range found {
			list, mentions := referring(f, file, called, old, fresh)
			for _, m := range mentions {
				if !slices.Contains(r.Mentions, m) {
					r.Mentions = append(r.Mentions, m)
				}
			}
			for _, c := range list {
				if !slices.Contains(changes[file.path], c) {
					changes[file.path] = append(changes[file.path], c)
				}
			}
			sources[file.path] = file
		}
	}
	for _, at := range slices.Sorted(maps.Keys(changes)) {
		data, err := format.Patch(sources[at].data, changes[at])
		if err != nil {
			return &files.Error{Path: at, Text: err.Error(), Fix: "rename it by hand"}
		}
		r.Add(at, sources[at].data, data)
	}
	r.Mentions = slices.DeleteFunc(r.Mentions, func(m Mention) bool { // certain for another family
		return slices.ContainsFunc(changes[m.Path], func(c format.Replacement) bool {
			line, column := finding.NewLines(string(sources[m.Path].data)).At(c.Start)
			return line == m.Line && column == m.Column
		})
	})
	return nil
}

// call is how a family's accessors are called in a language.
type call struct {
	language *accessor.Language
	// kind is the name of the type with the members.
	kind string
}

// calls returns the calls of the accessors that the configuration makes of a family.
func calls(w *project.Workspace, f *project.Family) (list []call) {
	for _, set := range w.Config.Accessors {
		place := w.Disk.Absolute(filepath.Join(w.Config.Dir(), filepath.FromSlash(set.Family)))
		inside := w.Disk.Inside(place, w.Disk.Absolute(f.Dir)) || slices.ContainsFunc(f.Files, func(file *project.File) bool { return w.Disk.Inside(place, w.Disk.Absolute(file.Path)) })
		if l, err := languages.Named(set.Language); err == nil && (set.Family == "" || inside) {
			list = append(list, call{l, cmp.Or(set.Type, accessor.Type)})
		}
	}
	return list
}

// referrers lists the layouts and the code that may refer to a family: those of
// the project, or of the folder that the family's folder stands in.
func referrers(w *project.Workspace, f *project.Family) ([]*source, error) {
	dir := filepath.FromSlash(f.Dir)
	top := filepath.Dir(dir)
	if project.FindConfig(w.Disk, dir) != "" {
		top = w.Config.Dir()
	} else if dir == "." || !w.Disk.Inside(".", top) {
		top = dir
	}
	return walk(w.Disk, []string{top}, all.Referring)
}
