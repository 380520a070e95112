package cli

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/format/sheet"
	"zelvik/internal/terminal"
	"zelvik/internal/webpage"
	"zelvik/work/table"
)

func (e *env) tableCommand() *cli.Command {
	var states []string
	for _, s := range table.CellStates {
		states = append(states, string(s.State))
	}
	return &cli.Command{
		Name:      "table",
		Usage:     "keys down, cultures across, side by side",
		ArgsUsage: "[PATH...]",
		Description: "zelvik table res --cultures de,fr --keys 'booking_*'\n" +
			"zelvik table --state missing,waiting,moved\n" +
			"zelvik table --output html --out texts.html",
		Flags: []cli.Flag{
			projectFlag(), fromFlag(), culturesFlag(), replaceFlag(), outputFlag("text, json, html, csv, xlsx"),
			&cli.StringFlag{Name: "out", Usage: "the `PATH` to write to; - is standard output"},
			&cli.StringFlag{Name: "keys", Usage: "only keys that contain this `TEXT`, or fit a pattern such as booking_*"},
			&cli.StringFlag{Name: "text", Usage: "only rows in which a text contains this `TEXT`"},
			&cli.StringFlag{Name: "state", Usage: "only rows with one of these `STATES`: " + strings.Join(states, ", ")},
		},
		Action: e.table,
	}
}

// filter reads the options that pick rows.
func filter(c *cli.Command) (table.Filter, error) {
	asked, err := cultures(c)
	f := table.Filter{Keys: c.String("keys"), Text: c.String("text"), Cultures: asked}
	if err != nil || c.String("state") == "" {
		return f, err
	}
	for word := range strings.SplitSeq(c.String("state"), ",") {
		state := table.CellState(strings.TrimSpace(word))
		if state.Mark() == "" {
			return f, fmt.Errorf("--state takes missing, parent, empty, waiting, copied, moved or draft, separated by commas, not %q", word)
		}
		f.States = append(f.States, state)
	}
	return f, nil
}

func (e *env) table(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json", "html", "csv", "xlsx")
	if err != nil {
		return err
	}
	picked, err := filter(c)
	if err != nil {
		return err
	}
	w, _, err := e.workspace(c)
	if err != nil {
		return err
	}
	tables, err := table.Of(w, picked)
	if err != nil {
		return err
	}
	switch shape {
	case "json":
		return e.json(tables)
	case "html":
		page, err := webpage.Table(tables)
		if err != nil {
			return err
		}
		return e.file(c, page, nil, webpage.Made)
	case "csv", "xlsx":
		if len(tables) > 1 {
			_, err := w.One()
			return err
		}
		if shape == "xlsx" && (c.String("out") == "" || c.String("out") == "-") {
			return fmt.Errorf("a workbook is no text; name a file with --out texts.xlsx")
		}
		data, losses := tables[0].Sheet(sheet.Format.Named("table." + shape))
		return e.file(c, data, losses, nil)
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	marks := map[table.CellState]bool{}
	full := slices.DeleteFunc(slices.Clone(tables), func(t table.Table) bool { return len(t.Rows) == 0 })
	if len(full) == 0 {
		full = tables[:1]
	}
	for i, t := range full {
		if i > 0 {
			p.Printf("\n")
		}
		p.Printf("%s  %s, %s, %s\n", p.Strong(t.Family), t.Format, plural(len(t.Rows), "key"), plural(len(t.Cultures), "culture"))
		printRows(p, t.Rows, t.Cultures, marks)
	}
	var legend []string
	for _, s := range table.CellStates {
		if marks[s.State] {
			legend = append(legend, s.Mark+" "+s.Says)
		}
	}
	if legend != nil {
		e.notes(c).Printf("\n%s\n", strings.Join(legend, "   "))
	}
	return nil
}

// file writes a file that was made for people, to --out or standard output. Ours
// knows one that was made so before.
func (e *env) file(c *cli.Command, data []byte, losses []catalog.Loss, ours func([]byte) bool) error {
	out := c.String("out")
	if out == "" || out == "-" {
		_, err := e.stdout.Write(data)
		return err
	}
	plan := &files.Plan{Out: out, Replace: c.Bool("replace")}
	if err := plan.Make(e.disk, out, data, ours); err != nil {
		return err
	}
	if err := e.place(plan); err != nil {
		return err
	}
	p := e.notes(c)
	p.Printf("%s written\n", out)
	e.reportLosses(p, losses, c.Bool("verbose"))
	return nil
}

// printRows prints a table whose columns share the terminal's width. Cells that
// want a look begin with their state's mark.
func printRows(p printer, list []table.TableRow, tags []culture.Tag, marks map[table.CellState]bool) {
	width := 32
	if p.Width > 0 {
		keys := 0
		for _, r := range list {
			keys = max(keys, terminal.Width(r.Key))
		}
		width = max((p.Width-keys-2)/max(len(tags), 1)-2, 12)
	}
	header := []string{"key"}
	for _, tag := range tags {
		header = append(header, string(tag))
	}
	var cells [][]string
	for _, r := range list {
		line := []string{r.Key}
		for _, tag := range tags {
			state := r.States[tag]
			marks[state] = true
			shown := string(state)
			if text := r.Texts[tag]; text != nil && *text != "" {
				shown = terminal.Visible(*text)
			}
			if state != "" {
				shown = state.Mark() + " " + shown
			}
			line = append(line, colored(p, state, terminal.Cut(shown, width)))
		}
		cells = append(cells, line)
	}
	if len(cells) == 0 {
		p.Printf("%s\n", p.Faint("no key fits the filters"))
		return
	}
	p.Table(header, cells)
}

// colored gives a cell the colour of its state.
func colored(p printer, state table.CellState, text string) string {
	switch {
	case state == table.CellMissing:
		return p.Bad(text)
	case slices.Contains([]table.CellState{table.CellEmpty, table.CellWaiting, table.CellCopied, table.CellMoved}, state):
		return p.Warn(text)
	case state != "":
		return p.Faint(text)
	}
	return text
}
