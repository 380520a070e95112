package refer

import (
	"cmp"
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/sync/errgroup"

	"zelvik/catalog"
	"zelvik/catalog/status"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/language"
	"zelvik/message"
	"zelvik/project"
	"zelvik/toolkit/all"
)

// Lift is the plan that moves texts out of layouts and code into catalogs.
type Lift struct {
	files.Plan
	Texts  []Lifted       `json:"texts"`
	Losses []catalog.Loss `json:"losses,omitempty"`
}

// Lifted is one text that stands in a layout or in code.
type Lifted struct {
	Path   string `json:"path"`
	Line   int    `json:"line"`
	Column int    `json:"column"`
	// Kind is the toolkit or language, Screen the view.
	Kind   string `json:"kind"`
	Screen string `json:"screen"`
	Text   string `json:"text"`
	Where  string `json:"where"`
	// Key is the one that is proposed, Known one that has the text already, and
	// Catalog the file that it goes into, "" where there is none for it.
	Key     string `json:"key,omitempty"`
	Known   bool   `json:"known,omitempty"`
	Catalog string `json:"catalog,omitempty"`
	// Reference is what stands in the text's place then.
	Reference string `json:"reference,omitempty"`
	// Certain says that it can be moved without a look; Doubt says why not.
	Certain bool   `json:"certain"`
	Doubt   string `json:"doubt,omitempty"`

	found language.Text
	file  *source
	home  *project.Family
}

// source is a layout or a file of code.
type source struct {
	path string
	kind *language.Kind
	data []byte
}

// LiftOptions say which texts are moved.
type LiftOptions struct {
	// Keys limits what is moved to these keys, nil for all that is certain.
	Keys []string
}

// outside are folders whose code nobody's reader sees.
var outside = map[string]bool{"test": true, "tests": true, "androidTest": true, "generated": true, "gen": true, "out": true, "dist": true, "target": true}

// LiftTexts finds the texts in layouts and code below the paths, and plans to move
// those that can be moved without a look: the source catalog gets them after
// the other texts of their screen, and the file refers to their keys.
func LiftTexts(w *project.Workspace, paths []string, o LiftOptions) (*Lift, error) {
	files, err := walk(w.Disk, paths, all.Of)
	if err != nil {
		return nil, err
	}
	for _, f := range w.Families {
		f.CompleteAll()
	}
	found := make([][]Lifted, len(files))
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, file := range files {
		if file.kind.Texts == nil {
			continue
		}
		group.Go(func() error {
			found[i] = texts(w, file)
			return nil
		})
	}
	_ = group.Wait() // no job fails
	l := &Lift{Texts: []Lifted{}}
	for _, list := range found {
		l.Texts = append(l.Texts, list...)
	}
	slices.SortStableFunc(l.Texts, func(a, b Lifted) int { // the layout and the code of a screen together
		return cmp.Or(strings.Compare(a.Screen, b.Screen), strings.Compare(a.Path, b.Path))
	})
	propose(w, l)
	return l, move(w, l, o)
}

// Hardcoded finds the texts that stand in layouts below the paths, as findings
// of the rule hardcoded-text. Code is left to Lift: reading all of it takes too
// long for every save.
func Hardcoded(w *project.Workspace, paths []string) ([]finding.Finding, error) {
	files, err := walk(w.Disk, paths, all.Of)
	if err != nil {
		return nil, err
	}
	var list []finding.Finding
	for _, file := range files {
		if file.kind.Glued != nil {
			list = append(list, glued(file)...)
		}
		if !file.kind.Layout {
			continue
		}
		for _, t := range texts(w, file) {
			if t.home == nil || t.Kind == "Qt form" && !byID(t.home) {
				continue
			}
			list = append(list, finding.Finding{
				Rule: "hardcoded-text", Severity: finding.Warning, Path: t.Path, Line: t.Line, Column: t.Column,
				Message: fmt.Sprintf("the text %q stands in the layout (%s)", t.Text, t.Where), Fix: "zelvik lift --apply moves it to the catalog",
			})
		}
	}
	return list, nil
}

// glued finds where code joins texts of catalogs with others.
func glued(file *source) []finding.Finding {
	text := string(file.data)
	var list []finding.Finding
	lines := finding.NewLines(text)
	for _, g := range file.kind.Glued(text) {
		line, column := lines.At(g.At)
		list = append(list, finding.Finding{
			Rule: "glued-text", Severity: finding.Warning, Path: file.path, Line: line, Column: column,
			Message: fmt.Sprintf("the code joins %s with %s", g.Look, g.With), Fix: "make one text of the whole sentence, with a placeholder for what is put in",
		})
	}
	return list
}

// walk reads the files below the paths that have a kind.
func walk(disk *files.Disk, paths []string, kindOf func(path string) *language.Kind) ([]*source, error) {
	var list []*source
	for _, p := range paths {
		err := disk.Walk(p, func(at string, d fs.DirEntry, err error) error {
			switch {
			case err != nil:
				return files.ReadError(at, err)
			case d.IsDir() && at != p && (project.Skipped[d.Name()] || outside[d.Name()] || strings.HasPrefix(d.Name(), ".")):
				return filepath.SkipDir
			case !d.Type().IsRegular():
				return nil
			}
			kind := kindOf(filepath.ToSlash(at))
			if kind == nil {
				return nil
			}
			data, err := disk.Read(at)
			if err != nil {
				return files.ReadError(at, err)
			}
			if head := string(data[:min(len(data), 400)]); strings.Contains(head, "<!DOCTYPE TS") || strings.Contains(head, "<TS ") || strings.Contains(head, "Generated by zelvik") {
				return nil // Qt's translations end as TypeScript does
			}
			list = append(list, &source{at, kind, data})
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	return list, nil
}

// texts finds the texts of one file, with the family that they belong to.
func texts(w *project.Workspace, file *source) []Lifted {
	home := catalogFor(w, file)
	o := language.Options{Table: "Resources"}
	if home != nil {
		o.Table, o.ByID = home.Table, byID(home)
		if file.kind.Namespace != nil {
			o.Namespace = file.kind.Namespace(w.Disk, filepath.FromSlash(home.Dir))
		}
	}
	var list []Lifted
	text := string(file.data)
	lines := finding.NewLines(text)
	for _, f := range file.kind.Texts(filepath.ToSlash(file.path), text, o) {
		if status.Stays(message.Plain(f.Text), w.Config.Verify.Names) {
			continue
		}
		one := Lifted{Path: file.path, Kind: file.kind.Name, Screen: f.Screen, Text: f.Text, Where: f.Where, Certain: f.Certain, Doubt: f.Doubt, found: f, file: file, home: home}
		one.Line, one.Column = lines.At(f.From)
		if home == nil {
			one.Certain, one.Doubt = false, "there is no "+strings.Join(file.kind.Formats, " or ")+" catalog for it"
		}
		list = append(list, one)
	}
	return list
}

// catalogFor returns the family that a file's texts go to: of its kind's formats,
// the one that is nearest.
func catalogFor(w *project.Workspace, file *source) *project.Family {
	var best *project.Family
	nearest := -1
	for _, name := range file.kind.Formats {
		for _, f := range w.Families {
			if f.Format.Name != name || f.SourceMember() == nil {
				continue
			}
			if n := shared(f.Dir, filepath.ToSlash(file.path)); n > nearest {
				best, nearest = f, n
			}
		}
		if best != nil {
			return best
		}
	}
	return best
}

// shared counts the folders that two paths begin with alike.
func shared(a, b string) int {
	x, y := strings.Split(path.Clean(a), "/"), strings.Split(path.Clean(b), "/")
	n := 0
	for n < len(x) && n < len(y) && x[n] == y[n] {
		n++
	}
	return n
}

// byID reports whether a family's keys are ids, not texts.
func byID(f *project.Family) bool {
	m := f.SourceMember()
	for i := range m.Catalog.Entries {
		if e := &m.Catalog.Entries[i]; strings.HasSuffix(e.Key, e.Message.String()) && strings.Contains(e.Message.String(), " ") {
			return false
		}
	}
	return true
}

// propose gives every text a key: the one that the catalog has for it already,
// or one made of its screen and its words. The same text twice has one key.
func propose(w *project.Workspace, l *Lift) {
	type place struct {
		home *project.Family
		text string
	}
	made := map[place]string{}
	known := map[*project.Family]map[string]string{}
	taken := map[*project.Family]map[string]bool{}
	for i := range l.Texts {
		t := &l.Texts[i]
		if t.home == nil {
			continue
		}
		source := t.home.SourceMember()
		if known[t.home] == nil {
			known[t.home], taken[t.home] = map[string]string{}, map[string]bool{}
			for j := range source.Catalog.Entries {
				e := &source.Catalog.Entries[j]
				taken[t.home][e.Key] = true
				if text := e.Message.String(); e.Message.Choice == nil && known[t.home][text] == "" && text != "" {
					known[t.home][text] = e.Key
				}
			}
		}
		t.Catalog = t.home.File(source).Path
		at := place{t.home, t.Text}
		switch key := known[t.home][t.Text]; {
		case key != "":
			t.Key, t.Known = key, true
		case made[at] != "":
			t.Key = made[at]
		case t.home.Format.Name == "qt" && !byID(t.home):
			t.Key = t.Text
		default:
			t.Key = freshKey(t, source.Catalog, taken[t.home])
			made[at] = t.Key
			taken[t.home][t.Key] = true
		}
		t.Reference = t.found.Reference(t.Key)
	}
}

// freshKey makes a key that the catalog does not have, in the catalog's style.
func freshKey(t *Lifted, c *catalog.Catalog, taken map[string]bool) string {
	words := language.Words(t.Text)
	words = slices.DeleteFunc(words, func(word string) bool {
		return strings.ContainsFunc(word, func(r rune) bool { return r > 0x7e })
	})
	if len(words) > 4 {
		words = words[:4]
	}
	if len(words) == 0 {
		words = language.Words(t.found.ID)
	}
	if len(words) == 0 {
		words = []string{"text"}
	}
	stem := language.Words(t.Screen)
	if len(stem) > 0 && words[0] == stem[0] {
		stem = stem[1:]
	}
	style := keyStyle(c)
	key := style.join(stem, words)
	for n := 2; taken[key]; n++ {
		key = style.join(stem, append(slices.Clone(words), strconv.Itoa(n)))
	}
	return key
}

// style is how a catalog's keys are spelled.
type style struct{ between, within string }

// keyStyle finds out how most keys are spelled: boarding.pass_title,
// boarding_pass_title or boardingPassTitle.
func keyStyle(c *catalog.Catalog) style {
	dots, lines, humps := 0, 0, 0
	for i := range c.Entries {
		key := c.Entries[i].Key
		switch {
		case strings.Contains(key, "."):
			dots++
			if strings.Contains(key, "_") {
				lines++
			}
		case strings.Contains(key, "_"):
			lines++
		case key != strings.ToLower(key):
			humps++
		}
	}
	switch {
	case dots > lines && dots >= humps:
		return style{".", "_"}
	case humps > lines && humps > dots:
		return style{"", ""}
	case dots > 0 && dots*2 > lines:
		return style{".", "_"}
	}
	return style{"_", "_"}
}

func (s style) join(stem, words []string) string {
	if s.between != "" {
		if len(stem) == 0 {
			return strings.Join(words, s.within)
		}
		return strings.Join(stem, s.within) + s.between + strings.Join(words, s.within)
	}
	var out strings.Builder
	for i, word := range append(slices.Clone(stem), words...) {
		if i > 0 {
			word = strings.ToUpper(word[:1]) + word[1:]
		}
		out.WriteString(word)
	}
	return out.String()
}

// move plans the changes of what is certain.
func move(w *project.Workspace, l *Lift, o LiftOptions) error {
	changes := map[*project.File][]format.Change{}
	replaced := map[*source][]format.Replacement{}
	added := map[*project.Family]map[string]bool{}
	var catalogs []*project.File
	var layouts []*source
	for i := range l.Texts {
		t := &l.Texts[i]
		if !t.Certain || o.Keys != nil && !slices.Contains(o.Keys, t.Key) {
			continue
		}
		if replaced[t.file] == nil {
			layouts = append(layouts, t.file)
		}
		replaced[t.file] = append(replaced[t.file], t.found.With(t.Key)...)
		if t.Known || added[t.home][t.Key] {
			continue
		}
		if added[t.home] == nil {
			added[t.home] = map[string]bool{}
		}
		added[t.home][t.Key] = true
		source := t.home.SourceMember()
		file := t.home.File(source)
		if damage := file.Damaged(); damage != nil {
			return project.Refuse(damage)
		}
		text := message.Plain(t.Text)
		if changes[file] == nil {
			catalogs = append(catalogs, file)
		}
		changes[file] = append(changes[file], format.Change{Culture: source.Culture, Key: t.Key, Message: &text, After: lastOf(source.Catalog, t.Key)})
	}
	for _, file := range catalogs {
		data, losses, err := file.Edit(changes[file])
		if err != nil {
			return err
		}
		l.Losses = append(l.Losses, losses...)
		l.Add(file.Path, file.Data, data)
	}
	for _, file := range layouts {
		list := replaced[file]
		slices.SortFunc(list, func(a, b format.Replacement) int {
			return cmp.Or(a.Start-b.Start, a.End-b.End, strings.Compare(a.Text, b.Text))
		})
		data, err := format.Patch(file.data, slices.Compact(list)) // what each declares is declared once
		if err != nil {
			return &files.Error{Path: file.path, Text: err.Error(), Fix: "move its texts by hand"}
		}
		l.Add(file.path, file.data, data)
	}
	return nil
}

// lastOf returns the last key that begins as a key does, or the last of all.
func lastOf(c *catalog.Catalog, key string) string {
	prefix := key
	if i := strings.IndexAny(key, "._"); i > 0 {
		prefix = key[:i+1]
	}
	last := ""
	for i := range c.Entries {
		if e := &c.Entries[i]; strings.HasPrefix(e.Key, prefix) {
			last = e.Key
		}
	}
	if last == "" && len(c.Entries) > 0 {
		last = c.Entries[len(c.Entries)-1].Key
	}
	return last
}
