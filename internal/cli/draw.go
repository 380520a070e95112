package cli

import (
	"bytes"
	"context"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/project"
	"zelvik/project/screens"
	"zelvik/screen"
	"zelvik/screen/layout"
	"zelvik/screen/paint"
	"zelvik/screen/text"
)

func (e *env) drawCommand() *cli.Command {
	return &cli.Command{
		Name:      "draw",
		Usage:     "each screen in each culture as PNG or SVG, alone or side by side",
		ArgsUsage: "[SCREEN...]",
		Description: "zelvik draw screens/booking.yaml --cultures en,ar --out pictures\n" +
			"zelvik draw --sheet --out pictures     one sheet per screen, findings outlined",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "out", Value: "pictures", Usage: "the `FOLDER` to write to"},
			&cli.BoolFlag{Name: "sheet", Usage: "one sheet per screen with all cultures side by side, findings outlined"},
			&cli.StringFlag{Name: "format", Value: "png", Usage: "png, or svg"},
			&cli.StringFlag{Name: "keys", Usage: "only screens that show one of these `KEYS`, separated by commas"},
			&cli.StringFlag{Name: "devices", Usage: "only these `DEVICES` of the screens, separated by commas"},
			&cli.IntFlag{Name: "type", Value: 100, Usage: "the text scale in `PERCENT`, as a person sets it on the device"},
			&cli.BoolFlag{Name: "dark", Usage: "dark colours"},
			&cli.FloatFlag{Name: "scale", Value: 1, Usage: "pixels per unit, from 0.25 to 4"},
			culturesFlag(), projectFlag(), replaceFlag(), outputFlag("text, json"),
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
	// Scale is the text scale in percent.
	Scale   int         `json:"scale"`
	Picture string      `json:"picture"`
	Boxes   []boxReport `json:"boxes"`
}

func (e *env) draw(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	o, err := drawOptions(c)
	if err != nil {
		return err
	}
	tags, err := cultures(c)
	if err != nil {
		return err
	}
	config, paths, err := e.screenFiles(c, c.Args().Slice())
	if err != nil {
		return err
	}
	if len(paths) == 0 {
		return errNoScreens
	}
	s, err := screens.New(e.disk, config)
	if err != nil {
		return err
	}
	jobs, err := drawJobs(c, s, paths, tags)
	if err != nil {
		return err
	}
	ending := "." + c.String("format")
	if err := s.Each(len(jobs), func(i int, setter *text.Setter) error { return jobs[i].draw(o, setter) }); err != nil {
		return err
	}
	plan := &files.Plan{Remade: true, Out: c.String("out"), Replace: c.Bool("replace")}
	reports := []screenReport{}
	findings := 0
	for i := range jobs {
		j := &jobs[i]
		picture := filepath.Join(c.String("out"), j.name+ending)
		if err := plan.Make(e.disk, picture, j.picture, paint.Drawn); err != nil {
			return err
		}
		findings += j.findings
		for _, l := range j.layouts {
			reports = append(reports, reportScreen(l, picture))
		}
	}
	if err := e.place(plan); err != nil {
		return err
	}
	if shape == "json" {
		return e.json(reports)
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	p.Printf("%s\n", p.Strong(plural(len(jobs), "picture")+" written"))
	for i := range jobs {
		p.Printf("  %s\n", filepath.Join(c.String("out"), jobs[i].name+ending))
	}
	switch {
	case findings > 0:
		e.notes(c).Printf("\n%s on these screens. Next: zelvik verify %s\n", plural(findings, "finding"), strings.Join(quoted(paths), " "))
	case !c.Bool("sheet"):
		e.notes(c).Printf("\nNext: zelvik draw --sheet puts the cultures side by side and outlines what is wrong.\n")
	}
	return nil
}

// drawJobs lists the pictures to draw, as the options limit them.
func drawJobs(c *cli.Command, s *screens.Screens, paths []string, tags []culture.Tag) ([]job, error) {
	var jobs []job
	var devices []string
	var have []culture.Tag
	names := pictureNames{}
	for _, path := range paths {
		shown, texts, err := s.Open(path)
		if err != nil {
			return nil, err
		}
		if keys := c.String("keys"); keys != "" && !slices.ContainsFunc(shown.Keys(), func(key string) bool { return slices.Contains(strings.Split(keys, ","), key) }) {
			continue
		}
		shown.Scales = []int{int(c.Int("type"))}
		have = append(have, texts.Cultures()...)
		if wanted := c.String("devices"); wanted != "" {
			shown.Devices = slices.DeleteFunc(shown.Devices, func(d screen.Device) bool {
				devices = append(devices, d.Name)
				return !slices.Contains(strings.Split(wanted, ","), d.Name)
			})
			if len(shown.Devices) == 0 {
				continue
			}
		}
		list := tags
		if list == nil {
			list = texts.Cultures()
		}
		if c.Bool("sheet") {
			jobs = append(jobs, job{screen: shown, texts: texts, cultures: list, name: names.of(shown.Name)})
			continue
		}
		for i, device := range shown.Devices {
			for _, tag := range list {
				name := shown.Name + "-" + string(tag)
				if i > 0 { // the first device is the usual one
					name += "-" + device.Name
				}
				jobs = append(jobs, job{screen: shown, texts: texts, cultures: []culture.Tag{tag}, device: device, name: names.of(name)})
			}
		}
	}
	if len(devices) > 0 {
		slices.Sort(devices)
		for name := range strings.SplitSeq(c.String("devices"), ",") {
			if !slices.Contains(devices, name) {
				return nil, project.Usage("no screen is for the device %s; there are %s", name, strings.Join(slices.Compact(devices), ", "))
			}
		}
	}
	if len(jobs) == 0 {
		return nil, project.Usage("no screen shows the key %s; zelvik table --keys %[1]s finds it in the catalogs", c.String("keys"))
	}
	return jobs, project.Expect(tags, have)
}

// pictureNames are the names of pictures that were given, by what asked for
// them: two screens may be called so that their file names would be one.
type pictureNames map[string]string

// of returns a file name, without its ending, that nothing else has.
func (n pictureNames) of(name string) string {
	safe := files.Name(name)
	for i := 2; ; i++ {
		if asked, taken := n[safe]; !taken || asked == name {
			n[safe] = name
			return safe
		}
		safe = fmt.Sprintf("%s-%d", files.Name(name), i)
	}
}

// drawOptions reads how pictures are drawn.
func drawOptions(c *cli.Command) (paint.Options, error) {
	o := paint.Options{Theme: paint.Light, Scale: c.Float("scale"), SVG: c.String("format") == "svg"}
	if c.Bool("dark") {
		o.Theme = paint.Dark
	}
	switch {
	case o.Scale < 0.25 || o.Scale > 4:
		return o, fmt.Errorf("--scale is from 0.25 to 4, not %g", o.Scale)
	case c.String("format") != "png" && !o.SVG:
		return o, fmt.Errorf("--format is png or svg, not %q", c.String("format"))
	case c.Int("type") < 50 || c.Int("type") > 400:
		return o, fmt.Errorf("--type is from 50 to 400 percent, not %d", c.Int("type"))
	}
	return o, nil
}

// job is one picture to draw: a screen in one culture on one device, or a sheet.
type job struct {
	screen   *screen.Screen
	texts    *screens.Texts
	cultures []culture.Tag
	device   screen.Device
	name     string

	layouts  []*layout.Layout
	picture  []byte
	findings int
}

func (j *job) draw(o paint.Options, setter *text.Setter) error {
	var canvas *paint.Canvas
	if j.device.Width > 0 {
		l := layout.Place(j.screen, j.device, j.cultures[0], j.texts.Source(), setter, layout.Options{Scale: j.screen.Scales[0]})
		j.layouts = []*layout.Layout{l}
		canvas = paint.Single(l, o, setter)
	} else {
		verdict := layout.Verify(j.screen, j.cultures, j.texts.Source(), setter, nil)
		j.layouts, j.findings = verdict.Layouts, len(verdict.Findings)
		canvas = paint.Sheet(j.screen.Name, verdict, o, setter)
	}
	var out bytes.Buffer
	err := canvas.Write(&out)
	j.picture = out.Bytes()
	return err
}

func reportScreen(l *layout.Layout, picture string) screenReport {
	r := screenReport{l.Screen.Name, l.Culture, l.Device, l.Scale, picture, nil}
	for _, b := range l.Boxes {
		box := boxReport{Name: b.Node.Title(), Kind: b.Node.Kind, Line: b.Node.Line, Frame: b.Frame, Text: b.Text}
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
