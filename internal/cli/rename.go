package cli

import (
	"context"
	"errors"
	"fmt"

	"github.com/urfave/cli/v3"

	"zelvik/internal/terminal"
	"zelvik/project"
	"zelvik/work/refer"
)

func (e *env) renameCommand() *cli.Command {
	return &cli.Command{
		Name:        "rename",
		Usage:       "a key renamed in every culture, and in the layouts and the code that refer to it",
		ArgsUsage:   "OLD NEW [PATH...]",
		Description: "zelvik rename boarding_title boarding_heading res --dry-run",
		Flags:       []cli.Flag{projectFlag(), fromFlag(), dryRunFlag()},
		Action:      e.rename,
	}
}

func (e *env) rename(_ context.Context, c *cli.Command) error {
	args := c.Args().Slice()
	if len(args) < 2 || args[0] == "" || args[1] == "" {
		return errors.New("rename needs the old key and the new one; for example: zelvik rename boarding_title boarding_heading res")
	}
	w, err := project.Load(args[2:], c.String("project"), project.Options{Disk: e.disk, From: c.String("from"), Files: e.writing(c)})
	if err != nil {
		return err
	}
	r, err := refer.Rename(w, args[0], args[1])
	if err != nil {
		return err
	}
	if err := e.commit(c, &r.Plan); err != nil {
		return err
	}
	notes := e.notes(c)
	if !c.Bool("dry-run") {
		notes.Printf("%s renamed to %s in %s\n", args[0], args[1], plural(len(r.Writes), "file"))
	}
	e.reportLosses(notes, r.Losses, c.Bool("verbose"))
	if len(r.Mentions) > 0 {
		notes.Printf("\n%s left to you:\n", plural(len(r.Mentions), "place"))
		var rows [][]string
		for _, m := range r.Mentions {
			rows = append(rows, []string{fmt.Sprintf("  %s:%d:%d", m.Path, m.Line, m.Column), terminal.Cut(m.Text, 80)})
		}
		notes.Table(nil, rows)
	}
	notes.Printf("\nNext: zelvik accessors brings the accessors up to date.\n")
	return nil
}
