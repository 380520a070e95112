package cli

import (
	"context"
	"fmt"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/files"
	"zelvik/internal/terminal"
	"zelvik/project"
	"zelvik/work/refer"
)

func (e *env) liftCommand() *cli.Command {
	return &cli.Command{
		Name:      "lift",
		Usage:     "hard-coded text found in layouts and code, with a key for each; --apply moves it to the catalog",
		ArgsUsage: "[PATH...]",
		Description: "zelvik lift\n" +
			"zelvik lift app/src/main/res/layout --apply --dry-run\n" +
			"zelvik lift --apply --keys booking_confirm,booking_title",
		Flags: []cli.Flag{
			&cli.BoolFlag{Name: "apply", Usage: "move what can be moved without a look; the rest is shown"},
			&cli.StringFlag{Name: "keys", Usage: "move only the texts that would have these `KEYS`, separated by commas"},
			projectFlag(), fromFlag(), dryRunFlag(), outputFlag("text, json"),
		},
		Action: e.lift,
	}
}

func (e *env) lift(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	paths := c.Args().Slice()
	var session *files.Session
	if c.Bool("apply") {
		session = e.writing(c)
	}
	for _, path := range paths {
		if session == nil {
			break
		}
		if err := session.Hold(project.HomeOf(e.disk, path)); err != nil {
			return err
		}
	}
	w, err := project.Load(nil, c.String("project"), project.Options{Disk: e.disk, From: c.String("from"), Files: session})
	if err != nil && len(paths) > 0 {
		w, err = project.Load(paths, c.String("project"), project.Options{Disk: e.disk, From: c.String("from"), Files: session})
	}
	if err != nil {
		return err
	}
	if len(paths) == 0 {
		paths = []string{w.Config.Dir()}
	}
	o := refer.LiftOptions{}
	if c.String("keys") != "" {
		o.Keys = strings.Split(c.String("keys"), ",")
	}
	l, err := refer.LiftTexts(w, paths, o)
	if err != nil {
		return err
	}
	if c.Bool("apply") && (shape != "json" || !c.Bool("dry-run")) {
		if err := e.commit(c, &l.Plan); err != nil {
			return err
		}
	}
	if shape == "json" {
		return e.json(l)
	}
	return e.printLift(c, l)
}

func (e *env) printLift(c *cli.Command, l *refer.Lift) error {
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	if c.Bool("apply") {
		p = e.notes(c)
	}
	if len(l.Texts) == 0 {
		p.Printf("no text is left in layouts and code\n")
		return nil
	}
	certain, screens := 0, map[string]bool{}
	for _, t := range l.Texts {
		screens[t.Screen] = true
		if t.Certain {
			certain++
		}
	}
	p.Printf("%s in %s; %d can be moved without a look\n", p.Strong(plural(len(l.Texts), "text")), plural(len(screens), "screen"), certain)
	path, shown := "", ""
	var rows [][]string
	var doubts []string
	flush := func() {
		if rows != nil {
			p.Table(nil, rows)
		}
		for _, doubt := range doubts {
			p.Printf("%s\n", p.Faint(doubt))
		}
		rows, doubts = nil, nil
	}
	for _, t := range l.Texts {
		if t.Path != path {
			flush()
			if path = t.Path; t.Screen != shown {
				shown = t.Screen
				p.Printf("\n%s\n", p.Strong(t.Screen))
			}
			p.Printf("%s  %s\n", t.Path, p.Faint(t.Kind))
		}
		key := t.Key
		if t.Known {
			key += p.Faint(" (there already)")
		}
		mark := " "
		if !t.Certain {
			mark = p.Warn("?")
		}
		if t.Doubt != "" {
			doubt := fmt.Sprintf("   %d:%d -> %s", t.Line, t.Column, t.Doubt)
			if t.Reference != "" {
				doubt += "; then: " + t.Reference
			}
			doubts = append(doubts, doubt)
		}
		rows = append(rows, []string{fmt.Sprintf(" %s%d:%d", mark, t.Line, t.Column), terminal.Cut(terminal.Visible(t.Text), 40), key, terminal.Cut(t.Where, 36)})
	}
	flush()
	e.reportLosses(p, l.Losses, c.Bool("verbose"))
	switch {
	case c.Bool("apply") && !c.Bool("dry-run"):
		p.Printf("\n%s changed. Next: zelvik verify; texts marked ? are left to you.\n", plural(len(l.Writes), "file"))
	case certain > 0 && !c.Bool("apply"):
		p.Printf("\nNext: zelvik lift --apply moves %d of them; those marked ? are left to you.\n", certain)
	}
	return nil
}
