package cli

import (
	"bytes"
	"context"
	"fmt"
	"path/filepath"
	"slices"

	"github.com/urfave/cli/v3"

	"zelvik/files"
	"zelvik/project"
	"zelvik/work/survey"
)

func (e *env) surveyCommand() *cli.Command {
	return &cli.Command{
		Name:      "survey",
		Usage:     "which families, cultures, layouts and manifests are here, and how complete each is",
		ArgsUsage: "[PATH...]",
		Description: "zelvik survey\n" +
			"zelvik survey app --save      writes app/zelvik.yaml with what was found\n" +
			"zelvik survey app --growth --chart growth.png",
		Flags: []cli.Flag{
			&cli.BoolFlag{Name: "save", Usage: "write zelvik.yaml into the folder"},
			&cli.BoolFlag{Name: "growth", Usage: "how much longer the translations are than their sources"},
			&cli.StringFlag{Name: "chart", Usage: "draw the growth into this `FILE` (.png or .svg)"},
			projectFlag(), fromFlag(), dryRunFlag(), replaceFlag(), outputFlag("text, json"),
		},
		Action: e.survey,
	}
}

func (e *env) survey(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	paths := c.Args().Slice()
	if len(paths) == 0 {
		paths = []string{"."}
	}
	dir := paths[0]
	if c.Bool("save") && (len(paths) > 1 || !e.disk.IsDir(dir)) {
		return fmt.Errorf("--save writes %s into one folder; name the project's", project.ConfigName)
	}
	w, err := project.Load(paths, c.String("project"), project.Options{Disk: e.disk, From: c.String("from")})
	if err != nil {
		return err
	}
	if c.Bool("growth") || c.String("chart") != "" {
		return e.growth(c, w, shape)
	}
	s, err := survey.Of(w, slices.DeleteFunc(paths, func(p string) bool { return !e.disk.IsDir(p) }))
	if err != nil {
		return err
	}
	if c.Bool("save") {
		if err := e.saveSurvey(c, s, dir); err != nil {
			return err
		}
	}
	if shape == "json" {
		return e.json(s)
	}
	return e.printSurvey(c, s)
}

// saveSurvey writes the configuration; one that is there is not touched.
func (e *env) saveSurvey(c *cli.Command, s *survey.Survey, dir string) error {
	at := filepath.Join(dir, project.ConfigName)
	if _, err := e.disk.Stat(at); err == nil {
		return fmt.Errorf("%s is there already; edit it, or remove it first", at)
	}
	text, err := s.Config(dir)
	if err != nil {
		return err
	}
	plan := &files.Plan{Replace: c.Bool("replace")}
	plan.Add(at, nil, []byte(text))
	ours := func(old []byte) bool { return bytes.Contains(old, []byte(`"title": "zelvik.yaml"`)) }
	if err := plan.Make(e.disk, filepath.Join(dir, project.SchemaName), project.Schema, ours); err != nil {
		return err
	}
	if err := e.commit(c, plan); err != nil {
		return err
	}
	if !c.Bool("dry-run") {
		e.notes(c).Printf("%s written\n\n", at)
	}
	return nil
}

func (e *env) printSurvey(c *cli.Command, s *survey.Survey) error {
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	var cultures []string
	for _, f := range s.Families {
		for _, covered := range f.Cultures {
			if !slices.Contains(cultures, string(covered.Culture)) {
				cultures = append(cultures, string(covered.Culture))
			}
		}
	}
	families := "families"
	if len(s.Families) == 1 {
		families = "family"
	}
	p.Printf("%s\n", p.Strong(fmt.Sprintf("%d %s in %s", len(s.Families), families, plural(len(cultures), "culture"))))
	misnamed := 0
	for _, f := range s.Families {
		p.Printf("\n%s  %s, source %s, %s in %s\n", p.Strong(f.Name), f.Format, f.Source, plural(f.Keys, "key"), plural(f.Files, "file"))
		if !slices.ContainsFunc(f.Cultures, func(c survey.Covered) bool { return c.Culture == f.Source }) {
			p.Printf("  %s no file in the source culture %s\n", p.Warn("sourceless"), f.Source)
		} else if f.Keys == 0 {
			p.Printf("  %s no text is read in the source's file; zelvik verify says why where it is damaged\n", p.Warn("empty"))
		}
		var rows [][]string
		for _, covered := range f.Cultures {
			if covered.Culture == f.Source {
				continue
			}
			share := 100
			if covered.Of > 0 {
				share = covered.Answered * 100 / covered.Of
			}
			word := fmt.Sprintf("%d %%", share)
			switch none := covered.Path == ""; {
			case none && covered.Of == 0:
				word = p.Warn("no file")
			case covered.Of == 0:
				word = "nothing to translate"
			case covered.Answered == covered.Of:
				word = p.Good("complete")
			case none:
				word += ", " + p.Warn("no file")
			}
			rows = append(rows, []string{"  " + string(covered.Culture), covered.Culture.Name(), fmt.Sprintf("%d of %d", covered.Answered, covered.Of), word})
		}
		p.Table(nil, rows, 2)
		for _, m := range f.Misnamed {
			misnamed++
			p.Printf("  %s %s: %s", p.Bad("misnamed"), m.Path, m.Why)
			if m.Meant != "" {
				p.Printf("; probably %s", m.Meant)
			}
			p.Printf("\n")
		}
	}
	if len(s.Others) > 0 {
		p.Printf("\n%s\n", p.Strong("Beside them"))
		var rows [][]string
		for _, o := range s.Others {
			rows = append(rows, []string{"  " + o.Kind, o.Of, o.Path})
		}
		p.Table(nil, rows)
	}
	next := "zelvik verify tells what is wrong in them"
	if project.FindConfig(e.disk, ".") == "" && !c.Bool("save") {
		next = "zelvik survey --save keeps this as zelvik.yaml; " + next
	}
	p.Printf("\nNext: %s.\n", next)
	return nil
}
