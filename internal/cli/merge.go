package cli

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"path/filepath"

	"github.com/urfave/cli/v3"

	"zelvik/files"
	"zelvik/format"
	"zelvik/project"
	"zelvik/work/merge"
)

func (e *env) mergeCommand() *cli.Command {
	return &cli.Command{
		Name:      "merge",
		Usage:     "a three-way merge by key, usable as a Git merge driver",
		ArgsUsage: "BASE OURS THEIRS",
		Description: "zelvik merge base.xml ours.xml theirs.xml --out merged.xml\n" +
			"As Git's merge driver (docs/merge.md): zelvik merge %O %A %B --path %P",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "out", Usage: "the `PATH` to write to (default: OURS); - is standard output"},
			&cli.StringFlag{Name: "path", Usage: "the file's `PATH` in the project, which says its format"},
			projectFlag(), fromFlag(), dryRunFlag(), replaceFlag(), outputFlag("text, json"),
		},
		Action: e.merge,
	}
}

func (e *env) merge(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	args := c.Args().Slice()
	if len(args) != 3 {
		return fmt.Errorf("merge needs three files: what both began with, ours and theirs; for example: zelvik merge base.xml ours.xml theirs.xml")
	}
	if out := cmp.Or(c.String("out"), args[1]); out != "-" && e.writing(c) != nil {
		if err := e.session.Hold(project.HomeOf(e.disk, out)); err != nil {
			return err
		}
	}
	var versions [3][]byte
	for i, path := range args {
		if versions[i], err = e.disk.Read(path); err != nil {
			return err
		}
	}
	path := args[1]
	if c.String("path") != "" {
		path = c.String("path")
	}
	result, err := e.merged(c, path, versions)
	var damaged *merge.DamagedError
	switch {
	case errors.As(err, &damaged):
		e.say(fmt.Errorf("%s: %w", path, err))
		return statusError(failed)
	case err != nil:
		return err
	}
	out := c.String("out")
	if out == "" {
		out = args[1]
	}
	if out == "-" && !c.Bool("dry-run") {
		if _, err := e.stdout.Write(result.Data); err != nil {
			return err
		}
	} else {
		plan := &files.Plan{Out: out, Replace: c.Bool("replace")}
		if out == args[1] {
			plan.Add(out, versions[1], result.Data)
		} else if err := plan.Make(e.disk, out, result.Data, nil); err != nil {
			return err
		}
		if err := e.commit(c, plan); err != nil {
			return err
		}
	}
	if shape == "json" && out != "-" {
		conflicts := result.Conflicts
		if conflicts == nil {
			conflicts = []merge.Conflict{}
		}
		if err := e.json(map[string]any{"path": path, "conflicts": conflicts, "untaken": result.Untaken}); err != nil {
			return err
		}
	} else {
		e.printMerge(c, path, result)
	}
	if len(result.Conflicts) > 0 {
		return statusError(failed)
	}
	return nil
}

// merged merges the versions of a string file, or of the ledger.
func (e *env) merged(c *cli.Command, path string, versions [3][]byte) (*merge.Result, error) {
	if filepath.Base(path) == project.LedgerName {
		data, err := project.MergeLedgers(versions[0], versions[1], versions[2])
		return &merge.Result{Data: data}, err
	}
	f, err := e.mergeFormat(c, path, versions)
	if err != nil {
		return nil, err
	}
	result, err := merge.Merge(f, versions[0], versions[1], versions[2])
	var damaged *merge.DamagedError
	if err != nil && !errors.As(err, &damaged) {
		return nil, &files.Error{Path: path, Text: err.Error(), Fix: "merge it by hand"}
	}
	return result, err
}

// mergeFormat finds the format of a file of which Git gives three versions
// under names of its own.
func (e *env) mergeFormat(c *cli.Command, path string, versions [3][]byte) (*format.Format, error) {
	from, err := project.FormatOf(e.disk, path, c.String("from"), c.String("project"))
	if err != nil {
		return nil, err
	}
	for _, data := range [][]byte{versions[1], versions[2], versions[0]} {
		if f, err := project.Detect(path, from, data); err == nil || len(data) > 0 {
			return f, err
		}
	}
	return project.Detect(path, from, nil)
}

// printMerge tells what stands against one another.
func (e *env) printMerge(c *cli.Command, path string, r *merge.Result) {
	p := e.notes(c)
	name := filepath.ToSlash(path)
	if len(r.Conflicts) == 0 {
		p.Printf("%s: merged\n", name)
	} else {
		p.Printf("%s: %s, marked in the file\n", name, p.Bad(plural(len(r.Conflicts), "conflict")))
	}
	for _, one := range r.Conflicts {
		p.Printf("  %s  %s\n", p.Strong(one.Key), one.What)
		for _, side := range [][2]string{{"base  ", one.Base}, {"ours  ", one.Ours}, {"theirs", one.Theirs}} {
			if side[1] != "" {
				p.Printf("    %s  %s\n", p.Faint(side[0]), side[1])
			}
		}
	}
	if r.Untaken != "" {
		p.Printf("  %s %s\n", p.Warn("look:"), r.Untaken)
	}
	e.reportLosses(p, r.Losses, c.Bool("verbose"))
	if len(r.Conflicts) > 0 {
		p.Printf("\nNext: settle each, take out its mark; zelvik verify finds those that are left.\n")
	}
}
