// Package screens shows screens with the texts of a project: its families, each read
// once, and its fonts.
package screens

import (
	"bytes"
	"fmt"
	"io/fs"
	"maps"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"

	"golang.org/x/sync/errgroup"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/message/pseudo"
	"zelvik/project"
	"zelvik/screen"
	"zelvik/screen/growth"
	"zelvik/screen/layout"
	"zelvik/screen/text"
)

// Screens is what screens are shown with: the configuration, its fonts, and the
// families, each read once.
type Screens struct {
	disk     *files.Disk
	config   *project.Config
	fonts    *text.Fonts
	families map[string]*Texts
}

// Texts are the families that a screen takes its texts from.
type Texts struct {
	families []*project.Family
	keys     map[string]bool
	growth   growth.Measured
}

// New prepares the screens of a project. Fonts that are not there are an error.
func New(disk *files.Disk, config *project.Config) (*Screens, error) {
	s := &Screens{disk: disk, config: config, fonts: &text.Fonts{}, families: map[string]*Texts{}}
	for _, pattern := range config.Fonts {
		if pattern == "system" {
			s.fonts.System = true
			continue
		}
		list, err := disk.Glob(filepath.Join(config.Dir(), pattern))
		if err != nil {
			return nil, fmt.Errorf("fonts: %s: %w", pattern, err)
		}
		if len(list) == 0 {
			return nil, fmt.Errorf("fonts: there is no file %s; name .ttf or .otf files of the project, or system", pattern)
		}
		for _, file := range list {
			data, err := disk.Read(file)
			if err != nil {
				return nil, err
			}
			font, err := text.ParseFont(file, data)
			if err != nil {
				return nil, &files.Error{Path: file, Text: err.Error(), Fix: "use a .ttf or .otf file"}
			}
			s.fonts.Project = append(s.fonts.Project, font)
		}
	}
	return s, nil
}

// Setter makes a setter with the fonts of the project.
func (s *Screens) Setter() *text.Setter { return text.NewSetter(s.fonts) }

// Files returns the screen files of a configuration; where it names none, those that
// are found below its folder.
func Files(disk *files.Disk, config *project.Config) ([]string, error) {
	if len(config.Screens) == 0 {
		return search(disk, config.Dir())
	}
	var list []string
	for _, pattern := range config.Screens {
		matches, err := disk.Glob(filepath.Join(config.Dir(), pattern))
		if err != nil {
			return nil, fmt.Errorf("screens: %s: %w", pattern, err)
		}
		list = append(list, matches...)
	}
	slices.Sort(list)
	return list, nil
}

// search finds the screens below a folder.
func search(disk *files.Disk, dir string) (list []string, err error) {
	if dir == "" {
		dir = "."
	}
	err = disk.Walk(dir, func(at string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return files.ReadError(at, err)
		case d.IsDir() && at != dir && (project.Skipped[d.Name()] || strings.HasPrefix(d.Name(), ".")):
			return filepath.SkipDir
		case d.Type().IsRegular() && Named(disk, at):
			list = append(list, at)
		}
		return nil
	})
	return list, err
}

// Named reports whether a file is a screen, by its name and its beginning.
func Named(disk *files.Disk, at string) bool {
	if ext := filepath.Ext(at); ext != ".yaml" && ext != ".yml" {
		return false
	}
	head := disk.Head(at, project.HeadSize)
	return bytes.HasPrefix(head, []byte("screen: ")) || bytes.Contains(head, []byte("\nscreen: "))
}

// Open reads a screen and the families its texts come from.
func (s *Screens) Open(path string) (*screen.Screen, *Texts, error) {
	data, err := s.disk.Read(path)
	if err != nil {
		return nil, nil, err
	}
	read, err := screen.Parse(path, data)
	if err != nil {
		return nil, nil, err
	}
	places := []string{filepath.Dir(filepath.Dir(path))}
	switch {
	case read.Texts != "":
		places = []string{filepath.Join(filepath.Dir(path), filepath.FromSlash(read.Texts))}
	case s.config.Dir() != "" && len(s.config.Families) > 0:
		places = s.config.Paths()
	}
	id := strings.Join(places, "\n")
	known := s.families[id]
	if known == nil {
		if known, err = s.load(places); err != nil {
			return nil, nil, err
		}
		s.families[id] = known
	}
	return read, known, known.has(read)
}

func (s *Screens) load(places []string) (*Texts, error) {
	families, err := project.Families(places, project.Options{Disk: s.disk, Source: s.config.Source})
	if err != nil {
		return nil, err
	}
	t := &Texts{families: families, keys: map[string]bool{}}
	var list []*catalog.Family
	for _, f := range families {
		f.CompleteAll()
		list = append(list, &f.Family)
		for _, m := range f.Members {
			for i := range m.Catalog.Entries {
				t.keys[m.Catalog.Entries[i].Key] = true
			}
			m.Catalog.Find("") // makes its index, which several goroutines read from now on
		}
	}
	t.growth = growth.Measure(list)
	return t, nil
}

// has refuses a screen that shows a key no family has.
func (t *Texts) has(s *screen.Screen) (err error) {
	s.Walk(func(n *screen.Node) {
		for _, item := range n.Words() {
			if item.Key == "" || t.keys[item.Key] || err != nil {
				continue
			}
			at := n.Place("items")
			switch item.Key {
			case n.Key:
				at = n.Place("key")
			case n.Hint:
				at = n.Place("hint")
			}
			fix := "add it to the catalogs, or name them with texts: in the screen"
			if nearest := finding.Nearest(item.Key, slices.Sorted(maps.Keys(t.keys))); nearest != "" {
				fix = nearest + " was probably meant"
			}
			err = fmt.Errorf("%s:%d:%d: no catalog has the key %s; %s", s.Path, at.Line, at.Column, item.Key, fix)
		}
	})
	return err
}

// Cultures returns the cultures of the families, the source first, and the two
// pseudo-cultures.
func (t *Texts) Cultures() []culture.Tag {
	var list []culture.Tag
	for _, f := range t.families {
		if f.SourceMember() != nil && !slices.Contains(list, f.Source) {
			list = append(list, f.Source)
		}
	}
	for _, f := range t.families {
		for _, m := range f.Members {
			if !slices.Contains(list, m.Culture) {
				list = append(list, m.Culture)
			}
		}
	}
	for _, tag := range []culture.Tag{"en-XA", "ar-XB"} {
		if !slices.Contains(list, tag) {
			list = append(list, tag)
		}
	}
	return list
}

// Source returns the texts of the families; those of a pseudo-culture that has
// no file are made from the source. It remembers them, and is for one goroutine.
func (t *Texts) Source() layout.Source {
	known := map[string]layout.Shown{}
	return func(key string, tag culture.Tag, arguments map[string]string) (layout.Shown, bool) {
		id := key + "\x00" + string(tag)
		for _, name := range slices.Sorted(maps.Keys(arguments)) {
			id += "\x00" + name + "\x00" + arguments[name]
		}
		if shown, ok := known[id]; ok {
			return shown, true
		}
		shown, ok := t.shown(key, tag, arguments)
		if ok {
			known[id] = shown
		}
		return shown, ok
	}
}

func (t *Texts) shown(key string, tag culture.Tag, arguments map[string]string) (layout.Shown, bool) {
	for _, f := range t.families {
		if tag.Pseudo() && f.Member(tag) == nil {
			if style, err := pseudo.StyleOf(tag); err == nil {
				if entry, _ := f.Lookup(key, f.Source); entry != nil {
					changed := style.Message(entry.Message)
					shown := layout.Shown{Text: changed.Render(f.Source, arguments), Bare: changed.RenderBare(f.Source, arguments), Own: true}
					if tag.RightToLeft() {
						shown.Text = changed.RenderIsolated(f.Source, arguments)
					}
					return shown, true
				}
			}
		}
		if entry, m := f.Lookup(key, tag); entry != nil {
			if resolved, ok := m.Catalog.Resolve(entry); ok {
				own := m.Culture != f.Source || tag == f.Source || entry.Fixed || slices.Contains(tag.Parents(), f.Source)
				return layout.Shown{Text: resolved.Render(tag, arguments), Bare: resolved.RenderBare(tag, arguments), Own: own}, true
			}
		}
	}
	return layout.Shown{}, false
}

// Each does something for numbers from 0 on both cores, with a setter for each
// worker.
func (s *Screens) Each(n int, do func(i int, setter *text.Setter) error) error {
	var group errgroup.Group
	var mutex sync.Mutex
	next := 0
	for range min(runtime.GOMAXPROCS(0), n) {
		group.Go(func() error {
			setter := s.Setter()
			for {
				mutex.Lock()
				i := next
				next++
				mutex.Unlock()
				if i >= n {
					return nil
				}
				if err := do(i, setter); err != nil {
					return err
				}
			}
		})
	}
	return group.Wait()
}

// Verify lays screens out in cultures, all where none are named, and gives what
// is wrong with them. A screen that cannot be shown is an error, or a finding if the
// screens were found rather than named.
func (s *Screens) Verify(paths []string, tags []culture.Tag, found bool) ([]finding.Finding, error) {
	var screens []*screen.Screen
	var shown []*Texts
	var left []finding.Finding
	for _, path := range paths {
		one, texts, err := s.Open(path)
		switch {
		case err == nil:
			screens, shown = append(screens, one), append(shown, texts)
		case !found:
			return nil, err
		default:
			left = append(left, finding.Finding{Rule: "file-damaged", Severity: finding.Warning, Path: path,
				Message: "the screen cannot be shown: " + err.Error(), Fix: "correct it, or name the screens of the project in zelvik.yaml"})
		}
	}
	each := make([][]finding.Finding, len(screens), len(screens)+1)
	err := s.Each(len(screens), func(i int, setter *text.Setter) error {
		each[i] = layout.Verify(screens[i], shown[i].withSource(tags), shown[i].Source(), setter, shown[i].growth.Of).Findings
		return nil
	})
	return slices.Concat(append(each, left)...), err
}

// withSource returns the cultures that were asked for, the source before them as
// what they are compared with; all where none were.
func (t *Texts) withSource(asked []culture.Tag) []culture.Tag {
	all := t.Cultures()
	if asked == nil {
		return all
	}
	if slices.Contains(asked, all[0]) {
		asked = slices.DeleteFunc(slices.Clone(asked), func(tag culture.Tag) bool { return tag == all[0] })
	}
	return append([]culture.Tag{all[0]}, asked...)
}
