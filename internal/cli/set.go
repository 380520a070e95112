package cli

import (
	"context"
	"fmt"

	"github.com/urfave/cli/v3"

	"zelvik/catalog"
	"zelvik/project"
	"zelvik/work/set"
)

func (e *env) setCommand() *cli.Command {
	return &cli.Command{
		Name:      "set",
		Usage:     "one text or note changed in the native file, and nothing else in it",
		ArgsUsage: "KEY [TEXT] [PATH...]",
		Flags: []cli.Flag{
			culturesFlag(), projectFlag(), fromFlag(), dryRunFlag(),
			&cli.StringFlag{Name: "form", Usage: "the plural `FORM` that the text is for"},
			&cli.StringFlag{Name: "note", Usage: "the note for translators"},
			&cli.StringFlag{Name: "state", Usage: "how far the translation has come: missing, draft, moved or done, in formats that say so"},
		},
		Action: e.set,
	}
}

func (e *env) set(_ context.Context, c *cli.Command) error {
	args := c.Args().Slice()
	if len(args) == 0 {
		return fmt.Errorf("set needs a key and a text; for example: zelvik set boarding_title \"An Bord\" --culture de res")
	}
	s := set.Setting{Key: args[0], Form: c.String("form")}
	rest := args[1:]
	if c.IsSet("note") {
		note := c.String("note")
		s.Note = &note
	}
	if c.IsSet("state") {
		state, err := catalog.ParseState(c.String("state"))
		if err != nil {
			return err
		}
		s.State = &state
	}
	if len(rest) > 0 && (s.Note == nil && s.State == nil || len(rest) > 1 || !e.disk.There(rest[0])) {
		s.Text = &rest[0]
		rest = rest[1:]
	}
	tags, err := cultures(c)
	if err != nil {
		return err
	}
	if len(tags) > 1 {
		return fmt.Errorf("set changes one culture at a time; give one --culture")
	}
	if len(tags) == 1 {
		s.Culture = tags[0]
	}
	w, err := project.Load(rest, c.String("project"), project.Options{Disk: e.disk, Exact: true, From: c.String("from"), Files: e.writing(c)})
	if err != nil {
		return err
	}
	plan, file, losses, err := set.Text(w, s)
	if err != nil {
		return err
	}
	if err := e.commit(c, plan); err != nil {
		return err
	}
	notes := e.notes(c)
	switch {
	case len(plan.Writes) == 0:
		notes.Printf("%s says that already; nothing changed\n", file.Path)
	case !c.Bool("dry-run"):
		notes.Printf("%s: %s set\n", file.Path, s.Key)
	}
	e.reportLosses(notes, losses, c.Bool("verbose"))
	return nil
}
