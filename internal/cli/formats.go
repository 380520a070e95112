package cli

import (
	"context"
	"slices"
	"strings"

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
	Name  string `json:"name"`
	Title string `json:"title"`
	Files string `json:"files"`
	// Cultures says how many stand in one file: one, two or all.
	Cultures string          `json:"cultures"`
	Holds    map[string]bool `json:"holds"`
}

// abilities lists what a format can hold, in the order of the table.
func abilities(a format.Abilities) (names []string, has []bool) {
	for _, row := range []struct {
		name string
		has  bool
	}{
		{"plurals", a.Plurals}, {"exact", a.Exact}, {"ordinals", a.Ordinals}, {"selects", a.Selects}, {"several", a.Several},
		{"names", a.Names}, {"types", a.Types}, {"samples", a.Samples}, {"markup", a.Markup}, {"arrays", a.Arrays}, {"notes", a.Notes},
		{"states", a.States}, {"fixed", a.Fixed}, {"limits", a.Limits},
	} {
		names, has = append(names, row.name), append(has, row.has)
	}
	return names, has
}

// inOneFile says how many cultures stand in a file of the format.
func inOneFile(f *format.Format) string {
	switch {
	case f.Holds.Many:
		return "all"
	case f.Holds.Bilingual:
		return "two"
	}
	return "one"
}

// tableWidth is what the table of abilities needs; on a narrower terminal each
// format's are listed.
const tableWidth = 136

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
			list = append(list, formatReport{f.Name, f.Title, f.Files, inOneFile(f), holds})
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
	p.Printf("\nWhat each can hold by itself:\n\n")
	header := []string{"format"}
	narrow := p.Width > 0 && p.Width < tableWidth
	rows = nil
	for _, f := range all.Formats {
		names, has := abilities(f.Holds)
		if len(header) == 1 {
			header = append(append(header, "cultures"), names...)
		}
		row := []string{f.Name, inOneFile(f)}
		if narrow {
			held := slices.DeleteFunc(slices.Clone(names), func(name string) bool { return !has[slices.Index(names, name)] })
			rows = append(rows, append(row, strings.Join(held, " ")))
			header = []string{"format", "cultures", "holds"}
			continue
		}
		for _, yes := range has {
			row = append(row, map[bool]string{true: "yes", false: "-"}[yes])
		}
		rows = append(rows, row)
	}
	p.Table(header, rows)
	p.Printf("\ncultures: how many stand in one file. exact: cases such as =0 in a plural. several: two counts in one text.\n" +
		"names, types, samples: of placeholders. fixed: texts that stay as they are. limits: greatest lengths.\n" +
		"\nNext: zelvik convert INPUT --to FORMAT --out PATH tells what could not be carried.\n")
	return nil
}
