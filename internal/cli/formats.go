package cli

import (
	"context"

	"github.com/urfave/cli/v3"

	"zelvik/format"
	"zelvik/format/all"
	"zelvik/internal/terminal"
)

// printer is what reports are printed with.
type printer = *terminal.Printer

func (e *env) formatsCommand() *cli.Command {
	return &cli.Command{
		Name:   "formats",
		Usage:  "what is read and written, and what each format can hold",
		Flags:  []cli.Flag{outputFlag("text, json")},
		Action: e.formats,
	}
}

// formatReport is one format as JSON.
type formatReport struct {
	Name  string          `json:"name"`
	Title string          `json:"title"`
	Files string          `json:"files"`
	Holds map[string]bool `json:"holds"`
}

// abilities lists what a format can hold, in the order of the table.
func abilities(a format.Abilities) (names []string, has []bool) {
	for _, row := range []struct {
		name string
		has  bool
	}{
		{"plurals", a.Plurals}, {"exact", a.Exact}, {"ordinals", a.Ordinals}, {"selects", a.Selects}, {"several", a.Several},
		{"names", a.Names}, {"types", a.Types}, {"markup", a.Markup}, {"arrays", a.Arrays}, {"notes", a.Notes},
		{"states", a.States}, {"fixed", a.Fixed}, {"limits", a.Limits},
	} {
		names, has = append(names, row.name), append(has, row.has)
	}
	return names, has
}

func (e *env) formats(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	if shape == "json" {
		var list []formatReport
		for _, f := range all.Formats {
			names, has := abilities(f.Holds)
			holds := map[string]bool{}
			for i := range names {
				holds[names[i]] = has[i]
			}
			list = append(list, formatReport{f.Name, f.Title, f.Files, holds})
		}
		return e.json(list)
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	var rows [][]string
	for _, f := range all.Formats {
		rows = append(rows, []string{f.Name, f.Title, f.Files})
	}
	p.Table([]string{"format", "what it is", "files"}, rows)
	p.Printf("\nWhat each can hold by itself; what it cannot is carried otherwise or told as a loss.\n\n")
	header := []string{"format"}
	rows = nil
	for _, f := range all.Formats {
		names, has := abilities(f.Holds)
		if len(header) == 1 {
			header = append(header, names...)
		}
		row := []string{f.Name}
		for _, yes := range has {
			row = append(row, map[bool]string{true: "yes", false: "-"}[yes])
		}
		rows = append(rows, row)
	}
	p.Table(header, rows)
	return nil
}
