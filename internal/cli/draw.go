package cli

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"github.com/bmatcuk/doublestar/v4"
	"github.com/urfave/cli/v3"

	"zelvik/culture"
	"zelvik/finding"
	"zelvik/project"
	"zelvik/pseudo"
	"zelvik/screen"
	"zelvik/screen/layout"
	"zelvik/screen/paint"
	"zelvik/screen/text"
)

func (e *env) drawCommand() *cli.Command {
	return &cli.Command{
		Name:      "draw",
		Usage:     "each screen in each culture as PNG, alone or side by side",
		ArgsUsage: "[SCREEN...]",
		Description: "zelvik draw screens/booking.yaml --cultures en,ar --out pictures\n" +
			"zelvik draw --sheet --out pictures     one sheet per screen, findings outlined",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "out", Value: "pictures", Usage: "the `FOLDER` to write to"},
			&cli.BoolFlag{Name: "sheet", Usage: "one sheet per screen with all cultures side by side"},
			&cli.BoolFlag{Name: "dark", Usage: "dark colours"},
			&cli.FloatFlag{Name: "scale", Value: 1, Usage: "pixels per unit, from 0.25 to 4"},
			culturesFlag(), projectFlag(), outputFlag("text, json"),
		},
		Action: e.draw,
	}
}

// boxReport is one box as JSON.
type boxReport struct {
	Name  string       `json:"name"`
	Kind  string       `json:"kind"`
	Line  int          `json:"line"`
	Frame layout.Frame `json:"frame"`
	Text  string       `json:"text,omitempty"`
	// TextWidth is that of the widest line, in units.
	TextWidth float64  `json:"textWidth,omitempty"`
	Lines     []string `json:"lines,omitempty"`
}

// screenReport is one screen in one culture on one device as JSON.
type screenReport struct {
	Screen  string        `json:"screen"`
	Culture culture.Tag   `json:"culture"`
	Device  screen.Device `json:"device"`
	Picture string        `json:"picture"`
	Boxes   []boxReport   `json:"boxes"`
}

func (e *env) draw(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	scale := c.Float("scale")
	if scale < 0.25 || scale > 4 {
		return fmt.Errorf("--scale is from 0.25 to 4, not %g", scale)
	}
	theme := paint.Light
	if c.Bool("dark") {
		theme = paint.Dark
	}
	tags, err := cultures(c)
	if err != nil {
		return err
	}
	config, paths, err := screenFiles(c, c.Args().Slice())
	if err != nil {
		return err
	}
	if len(paths) == 0 {
		return errors.New("draw needs a screen; for example: zelvik draw screens/booking.yaml --out pictures")
	}
	plan := &project.Plan{Remade: true}
	setter := text.NewSetter()
	reports := []screenReport{}
	findings := 0
	for _, path := range paths {
		s, families, err := e.openScreen(path, config)
		if err != nil {
			return err
		}
		shown := tags
		if shown == nil {
			shown = cultureList(families)
		}
		verdict := layout.Verify(s, shown, source(families), setter)
		findings += len(verdict.Findings)
		for i, l := range verdict.Layouts {
			name := s.Name + "-" + string(l.Culture)
			if len(s.Devices) > 1 {
				name += "-" + l.Device.Name
			}
			picture := filepath.Join(c.String("out"), name+".png")
			if c.Bool("sheet") {
				picture = filepath.Join(c.String("out"), s.Name+".png")
			} else if err := addPicture(plan, picture, paint.Single(verdict.Layouts[i], scale, theme, setter)); err != nil {
				return err
			}
			reports = append(reports, reportScreen(l, picture))
		}
		if c.Bool("sheet") {
			sheet := paint.Sheet(s.Name, verdict, paint.Columns(shown), scale, theme, setter)
			if err := addPicture(plan, filepath.Join(c.String("out"), s.Name+".png"), sheet); err != nil {
				return err
			}
		}
	}
	if err := plan.Commit(); err != nil {
		return err
	}
	if shape == "json" {
		return e.json(reports)
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	p.Printf("%s\n", p.Strong(plural(len(plan.Writes), "picture")+" written"))
	for _, w := range plan.Writes {
		p.Printf("  %s\n", w.Path)
	}
	if findings > 0 {
		e.notes(c).Printf("\n%s on these screens. Next: zelvik verify %s\n", plural(findings, "finding"), strings.Join(paths, " "))
	}
	return nil
}

func addPicture(plan *project.Plan, path string, c *paint.Canvas) error {
	var out bytes.Buffer
	if err := c.PNG(&out); err != nil {
		return err
	}
	plan.Writes = append(plan.Writes, project.Write{Path: path, New: out.Bytes()})
	return nil
}

func reportScreen(l *layout.Layout, picture string) screenReport {
	r := screenReport{l.Screen.Name, l.Culture, l.Device, picture, nil}
	for _, b := range l.Boxes {
		box := boxReport{Name: b.Node.Title(), Kind: b.Node.Kind(), Line: b.Node.Line, Frame: b.Frame, Text: b.Text}
		if b.Paragraph != nil {
			box.TextWidth = float64(int(b.Paragraph.Width*100+0.5)) / 100
			for _, line := range b.Paragraph.Lines {
				box.Lines = append(box.Lines, line.Text)
			}
		}
		r.Boxes = append(r.Boxes, box)
	}
	return r
}

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
		matches, err := doublestar.FilepathGlob(filepath.Join(config.Dir(), pattern))
		if err != nil {
			return nil, nil, fmt.Errorf("%q is no pattern for screens", pattern)
		}
		list = append(list, matches...)
	}
	slices.Sort(list)
	return config, list, nil
}

// openScreen reads a screen and the families its texts come from.
func (e *env) openScreen(path string, config *project.Config) (*screen.Screen, []*project.Family, error) {
	data, err := project.Read(path)
	if err != nil {
		return nil, nil, err
	}
	s, err := screen.Parse(path, data)
	if err != nil {
		return nil, nil, err
	}
	places := []string{filepath.Dir(filepath.Dir(path))}
	switch {
	case s.Texts != "":
		places = []string{filepath.Join(filepath.Dir(path), filepath.FromSlash(s.Texts))}
	case config.Dir() != "" && len(config.Families) > 0:
		places = config.Paths()
	}
	families, err := project.Families(places, project.Options{Source: config.Source})
	if err != nil {
		return nil, nil, err
	}
	for _, f := range families {
		f.CompleteAll()
	}
	return s, families, e.knownKeys(s, families)
}

// knownKeys refuses a screen that shows a key no family has.
func (e *env) knownKeys(s *screen.Screen, families []*project.Family) error {
	var keys []string
	for _, f := range families {
		for _, m := range f.Members {
			for i := range m.Catalog.Entries {
				keys = append(keys, m.Catalog.Entries[i].Key)
			}
		}
	}
	for _, key := range s.Keys() {
		if slices.Contains(keys, key) {
			continue
		}
		mend := "add it to the catalogs, or name them with texts: in the screen"
		if nearest := finding.Nearest(key, keys); nearest != "" {
			mend = nearest + " was probably meant"
		}
		return fmt.Errorf("%s: no catalog has the key %s; %s", s.Path, key, mend)
	}
	return nil
}

// cultureList gives the cultures of the families and the two pseudo-cultures.
func cultureList(families []*project.Family) []culture.Tag {
	var list []culture.Tag
	for _, f := range families {
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

// source gives the texts of families; those of a pseudo-culture that has no
// file are made from the source.
func source(families []*project.Family) layout.Source {
	return func(key string, tag culture.Tag, arguments map[string]string) (string, bool) {
		for _, f := range families {
			if tag.Pseudo() && f.Member(tag) == nil {
				if style, err := pseudo.StyleOf(tag); err == nil {
					if entry, _ := f.Lookup(key, f.Source); entry != nil {
						return style.Message(entry.Message).Render(f.Source, arguments), true
					}
				}
			}
			if entry, m := f.Lookup(key, tag); entry != nil {
				if resolved, ok := m.Catalog.Resolve(entry); ok {
					return resolved.Render(tag, arguments), true
				}
			}
		}
		return "", false
	}
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
	setter := text.NewSetter()
	var list []finding.Finding
	for _, path := range paths {
		s, families, err := e.openScreen(path, w.Config)
		if err != nil {
			return nil, err
		}
		shown := tags
		if shown == nil {
			shown = cultureList(families)
		}
		list = append(list, layout.Verify(s, shown, source(families), setter).Findings...)
	}
	return list, nil
}
