package cli

import (
	"context"
	"errors"
	"fmt"

	"github.com/urfave/cli/v3"

	"zelvik/culture"
	"zelvik/project"
	"zelvik/work/begin"
	"zelvik/work/level"
)

func (e *env) beginCommand() *cli.Command {
	return &cli.Command{
		Name:      "begin",
		Usage:     "the files of a new culture, in the family's own shape, and its name where cultures are listed",
		ArgsUsage: "TAG [PATH...]",
		Description: "zelvik begin fr               every family of the project\n" +
			"zelvik begin pt-BR res --fill draft --dry-run",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "fill", Value: "copy", Usage: "what texts begin as: copy (of the source, known as waiting), empty, none, draft (from the translation memory)"},
			projectFlag(), fromFlag(), dryRunFlag(), replaceFlag(), outputFlag("text, json"),
		},
		Action: e.begin,
	}
}

func (e *env) begin(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	args := c.Args().Slice()
	if len(args) == 0 {
		return errors.New("begin needs the culture; for example: zelvik begin fr")
	}
	tag, err := culture.Parse(args[0])
	if err != nil {
		return err
	}
	if tag.Pseudo() {
		return fmt.Errorf("%s is a pseudo-culture; zelvik pseudo --as %s makes it", tag, tag)
	}
	o := begin.Options{Fill: level.Fill(c.String("fill"))}
	if err := fills(o.Fill); err != nil {
		return err
	}
	w, err := project.Load(args[1:], c.String("project"), project.Options{Disk: e.disk, From: c.String("from"), Files: e.writing(c)})
	if err != nil {
		return err
	}
	if o.Fill == level.FillDraft {
		if o.Memory, err = level.Remember(w); err != nil {
			return err
		}
	}
	b, err := begin.Culture(w, tag, o)
	if err != nil {
		return err
	}
	if len(b.Files) == 0 && len(b.Declared) == 0 && len(b.Left) == 0 {
		return fmt.Errorf("every family here has %s", tag.Name())
	}
	if err := b.Settle(e.disk, c.Bool("replace")); err != nil {
		return err
	}
	if err := e.commit(c, &b.Plan); err != nil {
		return err
	}
	if shape == "json" {
		return e.json(map[string]any{"written": orEmpty(b.Files), "declared": orEmpty(b.Declared), "left": orEmpty(b.Left)})
	}
	p := e.notes(c)
	var rows [][]string
	for _, f := range b.Files {
		rows = append(rows, []string{"  " + f.Path, f.Format, plural(f.Entries, "entry")})
	}
	p.Printf("%s\n", p.Strong(fmt.Sprintf("%s begun in %s", tag.Name(), plural(len(b.Files), "file"))))
	p.Table(nil, rows)
	for _, at := range b.Declared {
		p.Printf("  %s names it\n", at)
	}
	for _, left := range b.Left {
		p.Printf("%s %s\n", p.Warn("left out:"), left)
	}
	p.Printf("\nNext: zelvik handoff --culture %s --to xliff --out exchange gives what waits to a translator.\n", tag)
	return nil
}

// orEmpty returns a list that JSON writes as [] where it is empty.
func orEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}
