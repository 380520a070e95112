package cli

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/catalog"
	"zelvik/files"
	"zelvik/format"
	"zelvik/format/all"
	"zelvik/project"
	"zelvik/work/convert"
)

func (e *env) convertCommand() *cli.Command {
	return &cli.Command{
		Name:      "convert",
		Usage:     "the same texts in another format, a file or a whole family",
		ArgsUsage: "INPUT...",
		Description: "zelvik convert res/values/strings.xml --to arb --out app_en.arb\n" +
			"zelvik convert res --to strings --out Apple        a whole family, one culture after another\n" +
			"zelvik convert odd.resx --to resx --out copy.resx  its own format: the same bytes",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "to", Usage: "the `FORMAT` to write"},
			&cli.StringFlag{Name: "out", Usage: "the `PATH` to write to: a file, a folder for a family, - for standard output"},
			fromFlag(), culturesFlag(), projectFlag(), dryRunFlag(), replaceFlag(),
			&cli.BoolFlag{Name: "strict", Usage: "write nothing and end with status 1 when something would be lost"},
			outputFlag("text, json"),
		},
		Action: e.convert,
	}
}

// conversionReport is what convert prints as JSON.
type conversionReport struct {
	Written []project.Converted `json:"written"`
	Losses  []catalog.Loss      `json:"losses"`
}

func (e *env) convert(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	inputs := c.Args().Slice()
	out := c.String("out")
	switch {
	case len(inputs) == 0:
		return errors.New("convert needs a file or folder; for example: zelvik convert res --to arb --out l10n")
	case c.String("to") == "":
		return errors.New("convert needs --to FORMAT; zelvik formats lists them")
	}
	target, err := all.Named(c.String("to"))
	if err != nil {
		return err
	}
	conversion, err := e.conversion(c, inputs, target, out)
	if err != nil {
		return err
	}
	if out != "" && out != "-" && e.writing(c) != nil {
		if err := e.session.Hold(project.HomeOf(e.disk, out)); err != nil {
			return err
		}
	}
	if conversion.Out = out; out == "-" {
		conversion.Out = ""
	}
	if err := conversion.Settle(e.disk, c.Bool("replace")); err != nil {
		return err
	}
	notes := e.notes(c)
	for _, f := range conversion.Findings {
		notes.Printf("%s: %s; %s\n", f.Place(), f.Message, f.Fix)
	}
	refused := c.Bool("strict") && counted(conversion.Losses) > 0
	if !refused {
		if err := e.deliver(c, conversion); err != nil {
			return err
		}
	}
	report := conversionReport{Written: conversion.Files, Losses: conversion.Losses}
	if refused {
		report.Written = nil
	}
	if err := e.reportConversion(c, shape, &report, refused); err != nil {
		return err
	}
	if refused {
		return statusError(failed)
	}
	return nil
}

// counted is how many losses change a text.
func counted(losses []catalog.Loss) int {
	n := 0
	for _, l := range losses {
		if l.Kind != convert.LayoutLoss {
			n++
		}
	}
	return n
}

// conversion decides between a file and families and converts.
func (e *env) conversion(c *cli.Command, inputs []string, target *format.Format, out string) (*convert.Conversion, error) {
	single := false
	if len(inputs) == 1 {
		info, err := e.disk.Stat(inputs[0])
		single = inputs[0] == "-" || err == nil && !info.IsDir()
		if err != nil && inputs[0] != "-" && !strings.ContainsAny(inputs[0], "*?[{") {
			return nil, files.ReadError(inputs[0], err)
		}
	}
	intoFolder := strings.HasSuffix(out, "/")
	if info, err := e.disk.Stat(out); err == nil && info.IsDir() {
		intoFolder = true
	}
	if single && !intoFolder {
		if out == "" {
			out = "-"
		}
		from, err := project.FormatOf(e.disk, inputs[0], c.String("from"), c.String("project"))
		if err != nil {
			return nil, err
		}
		file, err := project.OpenWhole(e.disk, inputs[0], from)
		if err != nil {
			return nil, err
		}
		tags, err := cultures(c)
		if err != nil {
			return nil, err
		}
		if file.Doubt != "" && !c.Bool("quiet") {
			e.notes(c).Printf("%s was %s; --from names another\n", file.Path, file.Doubt)
		}
		return convert.File(file, target, out, project.Options{Disk: e.disk, Cultures: tags})
	}
	if out == "" || out == "-" {
		return nil, errors.New("a family needs --out FOLDER to be written to")
	}
	for _, extension := range target.Extensions {
		if !intoFolder && !target.Holds.Many && strings.HasSuffix(out, extension) {
			return nil, fmt.Errorf("%s is the name of a file, and a family needs a folder to be written to; name one with --out", out)
		}
	}
	tags, err := cultures(c)
	if err != nil {
		return nil, err
	}
	progress := e.notes(c).Progress("converting")
	defer progress.End()
	w, err := project.Load(inputs, c.String("project"), project.Options{Disk: e.disk, Exact: true, From: c.String("from"), Cultures: tags})
	if err != nil {
		return nil, err
	}
	if err := w.Expect(tags); err != nil {
		return nil, err
	}
	return convert.Families(w.Families, target, out, progress.Set)
}

// deliver writes the files, or the one file to standard output.
func (e *env) deliver(c *cli.Command, conversion *convert.Conversion) error {
	if len(conversion.Writes) == 1 && conversion.Writes[0].Path == "-" {
		if err := conversion.Check(); err != nil {
			return err
		}
		_, err := e.stdout.Write(conversion.Writes[0].New)
		return err
	}
	return e.commit(c, &conversion.Plan)
}

func (e *env) reportConversion(c *cli.Command, shape string, r *conversionReport, refused bool) error {
	toStdout := len(r.Written) == 1 && r.Written[0].Path == "-"
	if shape == "json" && !toStdout {
		if r.Written == nil {
			r.Written = []project.Converted{}
		}
		if r.Losses == nil {
			r.Losses = []catalog.Loss{}
		}
		return e.json(r)
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	notes := e.notes(c)
	if toStdout || c.Bool("dry-run") {
		p = notes
	}
	verb := "written"
	if c.Bool("dry-run") {
		verb = "not written (--dry-run)"
	}
	if !toStdout && len(r.Written) > 0 {
		p.Printf("%s\n", p.Strong(fmt.Sprintf("%s %s", plural(len(r.Written), "file"), verb)))
		var rows [][]string
		for _, f := range r.Written {
			from := f.From
			if f.More > 0 {
				from += fmt.Sprintf(" and %d more", f.More)
			}
			row := []string{"  " + from, "->", f.Path, string(f.Culture), plural(f.Entries, "entry")}
			if f.Words > 0 {
				row = append(row, plural(f.Words, "word"), plural(f.Characters, "character"))
			}
			rows = append(rows, row)
		}
		p.Table(nil, rows, 4, 5, 6)
		for _, f := range r.Written {
			if says := f.Merged.Says(); says != "" {
				p.Printf("  %s was there: %s\n", f.Path, says)
			}
		}
	}
	e.reportLosses(p, r.Losses, c.Bool("verbose"))
	if refused {
		notes.Printf("%s\n", "Nothing was written, because of --strict. Leave it out to accept the losses.")
	}
	return nil
}

// reportLosses prints losses, those of one kind and text gathered.
func (e *env) reportLosses(p printer, losses []catalog.Loss, verbose bool) {
	if len(losses) == 0 {
		return
	}
	type group struct {
		loss  *catalog.Loss
		count int
	}
	var groups []*group
	index := map[string]*group{}
	for i := range losses {
		l := &losses[i]
		id := l.Kind
		if verbose || l.Key == "" {
			id = l.Kind + "\x00" + l.Key + "\x00" + l.Lost
		}
		g := index[id]
		if g == nil {
			g = &group{loss: l}
			index[id] = g
			groups = append(groups, g)
		}
		g.count++
	}
	p.Printf("\n%s\n", p.Warn(plural(len(losses), "loss")))
	for _, g := range groups {
		place := g.loss.Path
		if g.loss.Line > 0 {
			place = fmt.Sprintf("%s:%d:%d", place, g.loss.Line, g.loss.Column)
		}
		p.Printf("  %s  %s\n", p.Warn(g.loss.Kind), p.Faint(place))
		lost := g.loss.Lost
		if g.loss.Key != "" {
			lost = g.loss.Key + ": " + lost
		}
		p.Printf("      lost     %s\n      instead  %s\n", lost, g.loss.Instead)
		if g.count > 1 {
			p.Printf("      %s\n", p.Faint(fmt.Sprintf("and %s like it (--verbose lists them)", plural(g.count-1, "more"))))
		}
	}
}

// plural writes a number with its noun.
func plural(n int, noun string) string {
	if n != 1 {
		switch {
		case noun == "more":
		case strings.HasSuffix(noun, "y") && !strings.HasSuffix(noun, "ey"):
			noun = noun[:len(noun)-1] + "ies"
		case strings.HasSuffix(noun, "s"):
			noun += "es"
		default:
			noun += "s"
		}
	}
	return fmt.Sprintf("%d %s", n, noun)
}
