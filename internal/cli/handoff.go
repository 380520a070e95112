package cli

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"slices"

	"github.com/urfave/cli/v3"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/format/all"
	"zelvik/project"
	"zelvik/project/screens"
	"zelvik/screen"
	"zelvik/screen/layout"
	"zelvik/screen/paint"
	"zelvik/work/exchange"
)

func (e *env) handoffCommand() *cli.Command {
	return &cli.Command{
		Name:      "handoff",
		Usage:     "an exchange file for each translator, with the texts that wait",
		ArgsUsage: "[PATH...]",
		Description: "zelvik handoff res --to xliff --out exchange\n" +
			"zelvik handoff --to xlsx --cultures pl --out exchange       a workbook",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "to", Value: "xliff", Usage: "the `FORMAT` to write: xliff, xliff2, po, qt, xlsx, csv, tsv or tmx"},
			&cli.StringFlag{Name: "out", Usage: "the `FOLDER` to write to"},
			&cli.BoolFlag{Name: "all", Usage: "every text, not only those that are missing, drafts or moved"},
			&cli.BoolFlag{Name: "pictures", Value: true, Usage: "draw the screens on which the texts stand, and name them in the notes"},
			projectFlag(), fromFlag(), culturesFlag(), dryRunFlag(), replaceFlag(), outputFlag("text, json"),
		},
		Action: e.handoff,
	}
}

func (e *env) handoff(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	if c.String("out") == "" {
		return errors.New("handoff needs --out FOLDER; for example: zelvik handoff res --to xliff --out exchange")
	}
	name, extension := c.String("to"), ""
	if name == "csv" || name == "tsv" || name == "xlsx" {
		name, extension = "sheet", "."+name
	}
	target, err := all.Named(name)
	if err != nil {
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
	o := exchange.HandoffOptions{Out: c.String("out"), Cultures: tags, All: c.Bool("all"), Extension: extension, Replace: c.Bool("replace")}
	pictures := &files.Plan{Remade: true, Out: o.Out, Replace: o.Replace}
	if c.Bool("pictures") {
		if o.Pictures, err = e.pictures(c, pictures); err != nil {
			return err
		}
	}
	h, err := exchange.Out(w, target, o)
	if err != nil {
		return err
	}
	if err := h.Refused(); err != nil {
		return err
	}
	if !c.Bool("dry-run") { // nobody reads the difference of pictures
		if err := e.place(pictures); err != nil {
			return err
		}
	}
	if err := e.commit(c, &h.Plan); err != nil {
		return err
	}
	if err := e.reportConversion(c, shape, &conversionReport{Written: h.Files, Losses: h.Losses}, false); err != nil {
		return err
	}
	for _, left := range h.Skipped {
		e.notes(c).Printf("%s %s\n", e.notes(c).Warn("left out:"), left)
	}
	switch {
	case len(h.Files) == 0:
		e.notes(c).Printf("no text waits; --all hands off every text\n")
	case shape == "text":
		if n := len(pictures.Writes); n > 0 {
			e.notes(c).Printf("%s of screens in %s; the notes name them\n", plural(n, "picture"), filepath.Join(o.Out, "pictures"))
		}
		e.notes(c).Printf("\nNext: zelvik takeback FILE merges what comes back.\n")
	}
	return nil
}

// pictures returns what draws the project's screens into the folder of the
// handoff, each once in each culture; nil where there are none.
func (e *env) pictures(c *cli.Command, plan *files.Plan) (func(tag culture.Tag, keys []string) (map[string][]string, error), error) {
	config, paths, err := e.screenFiles(c, nil)
	if err != nil || len(paths) == 0 {
		return nil, err
	}
	type opened struct {
		*screen.Screen
		source layout.Source
	}
	show, err := screens.New(e.disk, config)
	if err != nil {
		return nil, err
	}
	var list []opened
	for _, path := range paths {
		s, texts, err := show.Open(path)
		if err != nil {
			return nil, err
		}
		list = append(list, opened{s, texts.Source()})
	}
	setter := show.Setter()
	drawn, names := map[string]bool{}, pictureNames{}
	return func(tag culture.Tag, keys []string) (map[string][]string, error) {
		shown := map[string][]string{}
		for _, s := range list {
			on := slices.DeleteFunc(s.Keys(), func(key string) bool { return !slices.Contains(keys, key) })
			if len(on) == 0 {
				continue
			}
			name := "pictures/" + names.of(s.Name+"-"+string(tag)) + ".png"
			for _, key := range on {
				shown[key] = append(shown[key], name)
			}
			if drawn[name] {
				continue
			}
			drawn[name] = true
			placed := layout.Place(s.Screen, s.Devices[0], tag, s.source, setter, layout.Options{})
			var picture bytes.Buffer
			if err := paint.Single(placed, paint.Options{Theme: paint.Light, Scale: 1}, setter).Write(&picture); err != nil {
				return nil, err
			}
			if err := plan.Make(e.disk, filepath.Join(c.String("out"), name), picture.Bytes(), paint.Drawn); err != nil {
				return nil, err
			}
		}
		return shown, nil
	}, nil
}

func (e *env) takebackCommand() *cli.Command {
	return &cli.Command{
		Name:        "takeback",
		Usage:       "the return of an exchange file merged, with conflicts shown",
		ArgsUsage:   "FILE [PATH...]",
		Description: "zelvik takeback exchange/strings.pl.xlf res --dry-run\nzelvik takeback exchange res                            (all files of a folder)",
		Flags:       []cli.Flag{projectFlag(), fromFlag(), dryRunFlag(), outputFlag("text, json")},
		Action:      e.takeback,
	}
}

func (e *env) takeback(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	args := c.Args().Slice()
	if len(args) == 0 {
		return errors.New("takeback needs the file that came back; for example: zelvik takeback exchange/strings.pl.xlf res")
	}
	paths := args[:1]
	if e.disk.IsDir(args[0]) {
		if paths, err = exchange.FilesIn(e.disk, args[0]); err != nil {
			return err
		}
	}
	returned := []exchange.Returned{}
	stopped := false
	var failure error
	for _, path := range paths {
		t, err := e.takeOne(c, path, args[1:])
		switch {
		case errors.Is(err, files.ErrStopped):
			return err
		case err != nil: // the others are taken all the same
			if failure != nil {
				e.say(failure)
			}
			failure = err
			continue
		}
		returned = append(returned, t.Returned...)
		stopped = stopped || slices.ContainsFunc(t.Returned, func(r exchange.Returned) bool { return r.What == "conflict" || r.What == "refused" })
		if shape == "text" {
			e.reportTaken(c, t, path, len(paths) > 1)
		}
	}
	if shape == "json" {
		if err := e.json(map[string]any{"returned": returned}); err != nil {
			return err
		}
	}
	if failure == nil && stopped {
		return statusError(failed)
	}
	return failure
}

// takeOne merges one file.
func (e *env) takeOne(c *cli.Command, path string, into []string) (*exchange.Takeback, error) {
	file, err := project.Open(e.disk, path, "")
	if err != nil {
		return nil, err
	}
	w, err := project.Load(into, c.String("project"), project.Options{Disk: e.disk, From: c.String("from"), Files: e.writing(c)})
	if err != nil {
		return nil, err
	}
	t, err := exchange.Back(w, file)
	if err != nil {
		return nil, err
	}
	return t, e.commit(c, &t.Plan)
}

// reportTaken tells what became of the texts of a file; several says that there are
// more, so that it is named.
func (e *env) reportTaken(c *cli.Command, t *exchange.Takeback, path string, several bool) {
	counts := map[string]int{}
	var rows [][]string
	var open []string
	for _, r := range t.Returned {
		if counts[r.What]++; r.What == "open" {
			open = append(open, r.Key)
		} else if r.Why != "" {
			rows = append(rows, []string{"  " + r.What, string(r.Culture), r.Key, r.Why})
		}
	}
	p := e.notes(c)
	line := fmt.Sprintf("%d merged, %d as they were, %s, %d refused", counts["merged"], counts["same"], plural(counts["conflict"], "conflict"), counts["refused"])
	if several {
		line = path + ": " + line
	}
	p.Printf("%s\n", p.Strong(line))
	p.Table(nil, rows)
	if len(open) > 0 {
		p.Printf("%s: %s\n", p.Warn(fmt.Sprintf("%d handed off have no translation yet", len(open))), project.Listed(open))
	}
	e.reportLosses(p, t.Losses, c.Bool("verbose"))
	if counts["conflict"]+counts["refused"] > 0 {
		p.Printf("\nWhat was not merged is as it was, here and in %s. Fix it in one of the two and take the file back again.\n", path)
	}
}
