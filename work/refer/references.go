package refer

import (
	"bytes"
	"maps"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/lift"
	"zelvik/project"
)

// reference is a way in which layouts or code refer to a key of a format's
// catalogs.
type reference struct {
	formats string
	endings string
	// pattern holds KEY for the key as it is, NAME for the key as a name in code
	// and TABLE for the base name of the catalog's files.
	pattern string
	// certain says that nothing else is spelled so.
	certain bool
}

// references lists them, by the platforms' documentation; adding one is adding
// its line.
var references = []reference{
	{"android", ".xml", `@(?:string|plurals|array)/(KEY)`, true},
	{"android", ".kt .java", `\bR\.(?:string|plurals|array)\.(NAME)`, true},
	{"resx", ".xaml .axaml", `\{x:Static\s+\w+:TABLE\.(NAME)`, true},
	{"resx", ".cs", `\bTABLE\.(NAME)`, true},
	{"properties", ".fxml", `="%(KEY)`, true},
	{"properties", ".java .kt", `\bgetString\(\s*"(KEY)`, true},
	{"strings stringsdict xcstrings", ".swift .m", `(?:NSLocalizedString\(\s*@?|String\(localized:\s*|LocalizedStringKey\(\s*|LocalizedStringResource\(\s*)"(KEY)`, true},
	{"qt", ".ui", `<string\b[^>]*\bid="(KEY)`, true},
	{"qt", ".cpp .cc .cxx .h", `\bqtTrId\(\s*"(KEY)`, true},
	{"arb", ".dart", `\bAppLocalizations\.of\([^)]*\)[!?]?\.(NAME)`, true},
	{"winrc", ".h .rc", `#define\s+(KEY)`, true},
	{"winrc", ".cpp .cc .cxx", `\bLoadString[AW]?\([^,;]*,\s*(KEY)`, true},
	{"", ".yaml .yml", `\b(?:key|hint):\s*["']?(KEY)`, true}, // our own screens
	{"", ".kt .java .cs .swift .m .dart .ts .tsx .js .cpp .cc .cxx .h .fxml .xaml", `["'](KEY)["']`, false},
}

// Mention is a place that may refer to a key, and is left to a person.
type Mention struct {
	Path   string `json:"path"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
	// Text is the line.
	Text string `json:"text"`
}

// referring finds the places in a file that refer to a key: those that are
// certain as replacements, the others as mentions.
func referring(f *project.Family, file *source, old, fresh string) (changes []format.Replacement, mentions []Mention) {
	text := string(file.data)
	if !strings.Contains(text, old) && !strings.Contains(text, lift.Identifier(old)) {
		return nil, nil
	}
	if ext := path.Ext(file.path); (ext == ".yaml" || ext == ".yml") && !strings.Contains(text, "body:") {
		return nil, nil
	}
	var lines *finding.Lines
	for _, r := range references {
		if r.formats != "" && !slices.Contains(strings.Fields(r.formats), f.Format.Name) || !slices.Contains(strings.Fields(r.endings), path.Ext(file.path)) {
			continue
		}
		named := strings.Contains(r.pattern, "NAME")
		pattern := strings.NewReplacer("KEY", regexp.QuoteMeta(old), "NAME", regexp.QuoteMeta(lift.Identifier(old)), "TABLE", regexp.QuoteMeta(path.Base(f.Table))).Replace(r.pattern)
		for _, m := range regexp.MustCompile(pattern).FindAllStringSubmatchIndex(text, -1) {
			from, to := m[2], m[3]
			if to < len(text) && (wordByte(text[to]) || !named && text[to] == '.') || slices.ContainsFunc(changes, func(c format.Replacement) bool { return c.Start <= from && to <= c.End }) {
				continue // a longer key, or told already
			}
			if r.certain {
				now := fresh
				if named {
					now = lift.Identifier(fresh)
				}
				changes = append(changes, format.Replacement{Start: from, End: to, Text: now})
				continue
			}
			if lines == nil {
				lines = finding.NewLines(text)
			}
			line, column := lines.At(from)
			start := strings.LastIndexByte(text[:from], '\n') + 1
			end, _, _ := bytes.Cut(file.data[start:], []byte("\n"))
			mentions = append(mentions, Mention{file.path, line, column, strings.TrimSpace(string(end))})
		}
	}
	return changes, mentions
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
		for _, file := range found {
			list, mentions := referring(f, file, old, fresh)
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
	var endings []string
	for _, r := range references {
		endings = append(endings, strings.Fields(r.endings)...)
	}
	return walk(w.Disk, []string{top}, func(at string) *lift.Kind {
		name := filepath.ToSlash(at)
		if !slices.Contains(endings, path.Ext(name)) || path.Ext(name) == ".xml" && (strings.HasPrefix(path.Base(path.Dir(name)), "values") || lift.Of(name) == nil && !strings.Contains(name, "/res/")) {
			return nil
		}
		return &lift.Kind{}
	})
}
