package cli

import (
	"context"
	"fmt"
	"path/filepath"

	"github.com/urfave/cli/v3"

	"zelvik/project"
	"zelvik/work/level"
)

func (e *env) reconcileCommand() *cli.Command {
	return &cli.Command{
		Name:      "reconcile",
		Usage:     "every culture brought level with the source: new keys added, gone keys set aside, changed sources marked",
		ArgsUsage: "[PATH...]",
		Description: "zelvik reconcile res --dry-run\n" +
			"zelvik reconcile --fill empty\n" +
			"zelvik reconcile --drop --renames",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "fill", Value: "copy", Usage: "what a new text begins as: copy (the source's text), empty, draft (from the project's own translations; where it has none it is told), none (it is told, not added)"},
			&cli.BoolFlag{Name: "drop", Usage: "delete what the source does not have, instead of setting it aside in the ledger"},
			&cli.BoolFlag{Name: "renames", Usage: "carry texts over to the keys that they were probably renamed to"},
			projectFlag(), fromFlag(), culturesFlag(), dryRunFlag(), outputFlag("text, json"),
		},
		Action: e.reconcile,
	}
}

func (e *env) reconcile(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	fill := level.Fill(c.String("fill"))
	if err := fills(fill); err != nil {
		return err
	}
	tags, err := cultures(c)
	if err != nil {
		return err
	}
	w, err := project.Load(c.Args().Slice(), c.String("project"), project.Options{Disk: e.disk, From: c.String("from"), Files: e.writing(c)})
	if err != nil {
		return err
	}
	if err := w.Expect(tags); err != nil {
		return err
	}
	options := level.ReconcileOptions{Fill: fill, Cultures: tags, Drop: c.Bool("drop"), Renames: c.Bool("renames")}
	if fill == level.FillDraft {
		if options.Memory, err = level.Remember(w); err != nil {
			return err
		}
	}
	plan, err := level.Reconcile(w, options)
	if err != nil {
		return err
	}
	if err := e.commit(c, &plan.Plan); err != nil {
		return err
	}
	if shape == "json" {
		steps := plan.Steps
		if steps == nil {
			steps = []level.Step{}
		}
		left := plan.Left
		if left == nil {
			left = []string{}
		}
		return e.json(map[string]any{"steps": steps, "left": left})
	}
	return e.printLevel(c, plan)
}

// printLevel tells what was done, by kind and culture.
func (e *env) printLevel(c *cli.Command, plan *level.Level) error {
	p := e.notes(c)
	for _, left := range plan.Left {
		p.Printf("%s %s\n", p.Warn("left as it is:"), left)
	}
	for _, w := range plan.Writes {
		if w.Old == nil && filepath.Base(w.Path) == project.LedgerName && !c.Bool("dry-run") {
			p.Printf("%s begun: from now on a changed source shows\n", w.Path)
		}
	}
	if len(plan.Steps) == 0 {
		p.Printf("every culture is level with its source\n")
		return nil
	}
	words := map[string]string{
		"added": "added", "missing": "missing", "drafted": "drafted", "dropped": "dropped, the source does not have it",
		"aside": "set aside in " + project.LedgerName + ", the source does not have it", "renamed": "probably renamed",
		"moved": "its source changed", "restored": "back from " + project.LedgerName,
		"levelled": "as in the family that leads", "differs": "not as in the family that leads; left as it is",
		"alone": "not in the family that leads",
	}
	verb := ""
	if c.Bool("dry-run") {
		verb = ", nothing written (--dry-run)"
	}
	p.Printf("%s%s\n", p.Strong(plural(len(plan.Writes), "file")+" changed"), verb)
	const most = 40
	shown := 0
	for _, group := range grouped(plan.Steps) {
		if shown += len(group); shown > most && shown > len(group) {
			p.Printf("  and more; --output json lists all\n")
			break
		}
		p.Printf("%s\n", p.Strong(group[0].Family))
		var rows [][]string
		for _, s := range group[:min(len(group), most)] {
			what := words[s.What]
			if s.To != "" {
				what += " to " + s.To
				if !c.Bool("renames") {
					what += "; --renames carries it over"
				}
			}
			rows = append(rows, []string{"  " + s.Key, what, p.Faint(s.cultures)})
		}
		p.Table(nil, rows)
		if len(group) > most {
			p.Printf("  and %d more; --output json lists all\n", len(group)-most)
		}
	}
	e.reportLosses(p, plan.Losses, c.Bool("verbose"))
	p.Printf("\nNext: zelvik table --state missing,waiting,moved shows what is to be translated.\n")
	return nil
}

// told is a step, with all cultures in which it is taken.
type told struct {
	level.Step
	cultures string
}

// grouped puts steps together by family, and those of one key by what is done.
func grouped(steps []level.Step) [][]told {
	var groups [][]told
	families := map[string]int{}
	type id struct{ family, key, what, to string }
	at := map[id]int{}
	for _, s := range steps {
		n, known := families[s.Family]
		if !known {
			n = len(groups)
			families[s.Family] = n
			groups = append(groups, nil)
		}
		key := id{s.Family, s.Key, s.What, s.To}
		if i, known := at[key]; known {
			groups[n][i].cultures += " " + string(s.Culture)
			continue
		}
		at[key] = len(groups[n])
		groups[n] = append(groups[n], told{s, string(s.Culture)})
	}
	return groups
}

// fills checks --fill.
func fills(fill level.Fill) error {
	if fill != level.FillCopy && fill != level.FillEmpty && fill != level.FillNone && fill != level.FillDraft {
		return fmt.Errorf("--fill takes copy, empty, draft or none, not %q", fill)
	}
	return nil
}
