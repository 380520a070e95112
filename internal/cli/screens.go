package cli

import (
	"errors"
	"fmt"
	"maps"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"

	"github.com/urfave/cli/v3"
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

// stage is what screens are shown with: the configuration, its fonts, and the
// families, each read once.
type stage struct {
	config   *project.Config
	fonts    *text.Fonts
	families map[string]*texts
}

// texts are the families that a screen takes its texts from.
type texts struct {
	families []*project.Family
	keys     map[string]bool
	growth   growth.Measured
}

func newStage(config *project.Config) (*stage, error) {
	s := &stage{config: config, fonts: &text.Fonts{}, families: map[string]*texts{}}
	for _, pattern := range config.Fonts {
		if pattern == "system" {
			s.fonts.System = true
			continue
		}
		list, err := files.Glob(filepath.Join(config.Dir(), pattern))
		if err != nil {
			return nil, fmt.Errorf("fonts: %s: %w", pattern, err)
		}
		if len(list) == 0 {
			return nil, fmt.Errorf("fonts: there is no file %s; name .ttf or .otf files of the project, or system", pattern)
		}
		for _, file := range list {
			font, err := text.ReadFont(file)
			if err != nil {
				return nil, files.ReadError(file, err)
			}
			s.fonts.Project = append(s.fonts.Project, font)
		}
	}
	return s, nil
}

// setter makes a setter with the fonts of the stage.
func (s *stage) setter() *text.Setter { return text.NewSetter(s.fonts) }

// screenFiles gives the screen files named, else those of the configuration.
func screenFiles(c *cli.Command, args []string) (*project.Config, []string, error) {
	at := c.String("project")
	if at == "" {
		start := "."
		if len(args) > 0 {
			start = filepath.Dir(args[0])
		}
		at = project.FindConfig(start)
	}
	config := &project.Config{}
	if at != "" {
		read, err := project.ReadConfig(at)
		if err != nil {
			return nil, nil, err
		}
		config = read
	}
	if len(args) > 0 {
		return config, args, nil
	}
	var list []string
	for _, pattern := range config.Screens {
		matches, err := files.Glob(filepath.Join(config.Dir(), pattern))
		if err != nil {
			return nil, nil, fmt.Errorf("screens: %s: %w", pattern, err)
		}
		list = append(list, matches...)
	}
	slices.Sort(list)
	return config, list, nil
}

// open reads a screen and the families its texts come from.
func (s *stage) open(path string) (*screen.Screen, *texts, error) {
	data, err := project.Read(path)
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

func (s *stage) load(places []string) (*texts, error) {
	families, err := project.Families(places, project.Options{Source: s.config.Source})
	if err != nil {
		return nil, err
	}
	t := &texts{families: families, keys: map[string]bool{}}
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
func (t *texts) has(s *screen.Screen) (err error) {
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
			mend := "add it to the catalogs, or name them with texts: in the screen"
			if nearest := finding.Nearest(item.Key, slices.Sorted(maps.Keys(t.keys))); nearest != "" {
				mend = nearest + " was probably meant"
			}
			err = fmt.Errorf("%s:%d:%d: no catalog has the key %s; %s", s.Path, at.Line, at.Column, item.Key, mend)
		}
	})
	return err
}

// cultures gives the cultures of the families, the source first, and the two
// pseudo-cultures.
func (t *texts) cultures() []culture.Tag {
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

// source gives the texts of the families; those of a pseudo-culture that has
// no file are made from the source. It remembers them, and is for one goroutine.
func (t *texts) source() layout.Source {
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

func (t *texts) shown(key string, tag culture.Tag, arguments map[string]string) (layout.Shown, bool) {
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

// each does something for numbers from 0 on both cores, with a setter for each
// worker.
func (s *stage) each(n int, do func(i int, setter *text.Setter) error) error {
	var group errgroup.Group
	var mutex sync.Mutex
	next := 0
	for range min(runtime.GOMAXPROCS(0), n) {
		group.Go(func() error {
			setter := s.setter()
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

// screenFindings lays the screens out and gives what is wrong with them: those
// named, else those of the configuration when nothing was named.
func (e *env) screenFindings(c *cli.Command, w *project.Workspace, named []string) ([]finding.Finding, error) {
	paths := named
	if len(paths) == 0 && c.Args().Len() == 0 {
		_, found, err := screenFiles(c, nil)
		if err != nil {
			return nil, err
		}
		paths = found
	}
	if len(paths) == 0 {
		return nil, nil
	}
	tags, err := cultures(c)
	if err != nil {
		return nil, err
	}
	s, err := newStage(w.Config)
	if err != nil {
		return nil, err
	}
	screens, shown := make([]*screen.Screen, len(paths)), make([]*texts, len(paths))
	for i, path := range paths {
		if screens[i], shown[i], err = s.open(path); err != nil {
			return nil, err
		}
	}
	found := make([][]finding.Finding, len(paths))
	err = s.each(len(paths), func(i int, setter *text.Setter) error {
		found[i] = layout.Verify(screens[i], withSource(tags, shown[i]), shown[i].source(), setter, shown[i].growth.Of).Findings
		return nil
	})
	return slices.Concat(found...), err
}

// withSource gives the cultures that were asked for, the source before them as
// what they are compared with; all where none were.
func withSource(asked []culture.Tag, t *texts) []culture.Tag {
	all := t.cultures()
	if asked == nil {
		return all
	}
	if slices.Contains(asked, all[0]) {
		asked = slices.DeleteFunc(slices.Clone(asked), func(tag culture.Tag) bool { return tag == all[0] })
	}
	return append([]culture.Tag{all[0]}, asked...)
}

var errNoScreens = errors.New("draw needs a screen; for example: zelvik draw screens/booking.yaml --out pictures")
