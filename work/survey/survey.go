package survey

import (
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/project"
	"zelvik/project/screens"
	"zelvik/toolkit/all"
	"zelvik/verify"
)

// Survey is what is found in a folder: families, and the files that make an
// application speak them.
type Survey struct {
	Families []Surveyed `json:"families"`
	Others   []Other    `json:"others"`
}

// Surveyed is one family.
type Surveyed struct {
	Name   string      `json:"name"`
	Format string      `json:"format"`
	Source culture.Tag `json:"source"`
	// Keys are the source's entries.
	Keys     int              `json:"keys"`
	Files    int              `json:"files"`
	Cultures []Covered        `json:"cultures"`
	Misnamed []SurveyMisnamed `json:"misnamed,omitempty"`
}

// Covered is how far one culture has come. A parent that answers counts.
type Covered struct {
	Culture  culture.Tag `json:"culture"`
	Path     string      `json:"path"`
	Entries  int         `json:"entries"`
	Answered int         `json:"answered"`
	Of       int         `json:"of"`
}

// SurveyMisnamed is a file that the platform does not find.
type SurveyMisnamed struct {
	Path  string `json:"path"`
	Why   string `json:"why"`
	Meant string `json:"meant,omitempty"`
}

// Other is a file beside the families: a layout, or a manifest that declares
// cultures or the direction of text.
type Other struct {
	Path string `json:"path"`
	Kind string `json:"kind"` // layout, manifest or screen
	Of   string `json:"of"`   // the platform or toolkit
}

// Of looks at the workspace's families, and at the layouts and manifests below
// folders.
func Of(w *project.Workspace, folders []string) (*Survey, error) {
	s := &Survey{Families: []Surveyed{}, Others: []Other{}}
	for _, f := range w.Families {
		if r, err := w.Record(f); err == nil { // copies that wait are no texts
			r.Mark(f)
		}
		v := w.Verifiable(f)
		covered := make([]verify.Coverage, len(f.Members))
		for _, m := range f.Members {
			m.Catalog.At("") // make the indexes before they are shared
		}
		var wait sync.WaitGroup
		for i, m := range f.Members {
			wait.Go(func() { covered[i] = verify.Cover(v, m) })
		}
		wait.Wait()
		one := Surveyed{Name: f.Name, Format: f.Format.Name, Source: f.Source}
		files := map[string]bool{}
		for _, file := range f.Files {
			for _, part := range file.All() {
				files[part.Path] = true
			}
		}
		for i, m := range f.Members {
			c := Covered{Culture: m.Culture, Path: m.Path, Entries: len(m.Catalog.Entries)}
			if m.Culture == f.Source {
				one.Keys = c.Entries
			}
			c.Answered, c.Of = covered[i].Answered, covered[i].Entries
			one.Cultures = append(one.Cultures, c)
		}
		one.Files = len(files)
		for _, tag := range v.Absent() {
			c := verify.Cover(v, verify.NoFile(tag))
			one.Cultures = append(one.Cultures, Covered{Culture: tag, Answered: c.Answered, Of: c.Entries})
		}
		for _, file := range f.Misnamed {
			slip := f.Slip(file)
			if slip.Why == "" && slip.Unknown != nil {
				slip.Why = slip.Unknown.Error()
			}
			one.Misnamed = append(one.Misnamed, SurveyMisnamed{Path: slip.Path, Why: slip.Why, Meant: slip.Meant})
		}
		s.Families = append(s.Families, one)
	}
	for _, dir := range folders {
		if err := s.beside(w.Disk, dir); err != nil {
			return nil, err
		}
	}
	return s, nil
}

// beside adds the layouts, manifests and screens below a folder.
func (s *Survey) beside(disk *files.Disk, dir string) error {
	return disk.Walk(dir, func(at string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return files.ReadError(at, err)
		case d.IsDir() && at != dir && (project.Skipped[d.Name()] || strings.HasPrefix(d.Name(), ".")):
			return filepath.SkipDir
		case d.Type().IsRegular():
			if kind, of := other(filepath.ToSlash(at)); kind != "" {
				s.Others = append(s.Others, Other{at, kind, of})
			} else if screens.Named(disk, at) {
				s.Others = append(s.Others, Other{at, "screen", "Zelvik"})
			}
		}
		return nil
	})
}

// other tells layouts and manifests of the toolkits; "" for what is none.
func other(at string) (kind, of string) {
	for _, t := range all.Toolkits {
		switch {
		case t.Manifest != nil && t.Manifest(at):
			return "manifest", t.Name
		case t.Layout != nil && t.Layout(at):
			return "layout", t.Name
		}
	}
	return "", ""
}

// Config writes the configuration that a person would keep for what was found,
// with paths relative to a folder.
func (s *Survey) Config(dir string) (string, error) {
	var out strings.Builder
	tags := map[culture.Tag]bool{}
	sources := map[culture.Tag]int{}
	var list []culture.Tag
	for _, f := range s.Families {
		sources[f.Source]++
		for _, c := range f.Cultures {
			if !tags[c.Culture] && c.Culture != f.Source && !c.Culture.Pseudo() {
				tags[c.Culture] = true
				list = append(list, c.Culture)
			}
		}
	}
	var source culture.Tag
	for tag, n := range sources {
		if n > sources[source] || n == sources[source] && (source == "" || tag < source) {
			source = tag
		}
	}
	list = slices.DeleteFunc(list, func(t culture.Tag) bool { return t == source })
	slices.Sort(list)
	names := make([]string, len(list))
	for i, tag := range list {
		names[i] = string(tag)
	}
	out.WriteString(project.SchemaLine)
	fmt.Fprintf(&out, "source: %s\ncultures: [%s]\nfamilies:\n", source, strings.Join(names, ", "))
	seen := map[string]bool{}
	for _, f := range s.Families {
		at := path.Dir(f.Name)
		if rel, err := filepath.Rel(dir, filepath.FromSlash(at)); err == nil {
			at = filepath.ToSlash(rel)
		}
		if !filepath.IsLocal(filepath.FromSlash(at)) {
			return "", project.Usage("%s lies outside of the folder of the configuration; run survey in a folder above it", f.Name)
		}
		row := fmt.Sprintf("  - path: %s\n    format: %s\n", at, f.Format)
		if !seen[row] {
			seen[row] = true
			out.WriteString(row)
		}
	}
	var screens []string
	for _, o := range s.Others {
		if rel, err := filepath.Rel(dir, o.Path); o.Kind == "screen" && err == nil {
			if pattern := path.Join(path.Dir(filepath.ToSlash(rel)), "*"+path.Ext(rel)); !slices.Contains(screens, pattern) {
				screens = append(screens, pattern)
			}
		}
	}
	if screens != nil {
		fmt.Fprintf(&out, "screens: [%s]\n", strings.Join(screens, ", "))
	}
	return out.String(), nil
}
