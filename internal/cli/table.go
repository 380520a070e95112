package cli

import (
	"context"
	"slices"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/culture"
	"zelvik/internal/terminal"
	"zelvik/project"
)

func (e *env) tableCommand() *cli.Command {
	return &cli.Command{
		Name:      "table",
		Usage:     "keys down, cultures across, side by side",
		ArgsUsage: "[PATH...]",
		Flags: []cli.Flag{
			projectFlag(), fromFlag(), culturesFlag(), outputFlag("text, json"),
			&cli.StringFlag{Name: "keys", Usage: "only keys that contain this `TEXT`"},
			&cli.StringFlag{Name: "text", Usage: "only rows in which a text contains this `TEXT`"},
			&cli.BoolFlag{Name: "missing", Usage: "only rows in which a culture has no text"},
		},
		Action: e.table,
	}
}

// row is one key with a text per culture; nil where there is none.
type row struct {
	Key   string                  `json:"key"`
	Note  string                  `json:"note,omitempty"`
	Texts map[culture.Tag]*string `json:"texts"`
}

func (e *env) table(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	w, _, err := e.workspace(c)
	if err != nil {
		return err
	}
	asked, err := cultures(c)
	if err != nil {
		return err
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	type familyTable struct {
		Family   string        `json:"family"`
		Format   string        `json:"format"`
		Cultures []culture.Tag `json:"cultures"`
		Rows     []row         `json:"rows"`
	}
	tables := []familyTable{}
	for _, f := range w.Families {
		t := familyTable{Family: f.Name, Format: f.Format.Name, Rows: rows(c, f)}
		for _, m := range f.Members {
			if asked == nil || m.Culture == f.Source || slices.Contains(asked, m.Culture) {
				t.Cultures = append(t.Cultures, m.Culture)
			}
		}
		tables = append(tables, t)
	}
	if shape == "json" {
		return e.json(tables)
	}
	for i, t := range tables {
		if i > 0 {
			p.Printf("\n")
		}
		p.Printf("%s  %s, %s, %s\n", p.Strong(t.Family), t.Format, plural(len(t.Rows), "key"), plural(len(t.Cultures), "culture"))
		e.printRows(p, w.Families[i], t.Rows, t.Cultures)
	}
	return nil
}

// rows gathers the family's texts and applies the filters.
func rows(c *cli.Command, f *project.Family) []row {
	list := []row{}
	seen := map[string]bool{}
	for _, m := range f.Members {
		for i := range m.Catalog.Entries {
			entry := &m.Catalog.Entries[i]
			if seen[entry.ID()] || !strings.Contains(entry.Key, c.String("keys")) {
				continue
			}
			seen[entry.ID()] = true
			r := row{Key: strings.ReplaceAll(entry.ID(), "\x00", " "), Note: entry.Note, Texts: map[culture.Tag]*string{}}
			found, missing := false, false
			for _, other := range f.Members {
				r.Texts[other.Culture] = nil
				if e := other.Catalog.Find(entry.ID()); e != nil {
					text := e.Message.String()
					r.Texts[other.Culture] = &text
					found = found || strings.Contains(strings.ToLower(text), strings.ToLower(c.String("text")))
				} else if parentless(f, other.Culture, entry.ID()) {
					missing = true
				}
			}
			if !found || c.Bool("missing") && !missing {
				continue
			}
			list = append(list, r)
		}
	}
	return list
}

// parentless reports whether no parent of the culture answers for the key.
func parentless(f *project.Family, tag culture.Tag, id string) bool {
	return !slices.ContainsFunc(tag.Parents(), func(parent culture.Tag) bool {
		m := f.Member(parent)
		return m != nil && m.Catalog.Find(id) != nil
	})
}

// printRows prints a table whose columns share the terminal's width. A text
// that a parent lends is marked with ^, a missing one with a dash and a word.
func (e *env) printRows(p printer, f *project.Family, list []row, tags []culture.Tag) {
	width := 0
	if p.Width > 0 {
		keys := 0
		for _, r := range list {
			keys = max(keys, terminal.Width(r.Key))
		}
		width = max((p.Width-keys-2)/max(len(tags), 1)-2, 12)
	} else {
		width = 32
	}
	header := []string{"key"}
	for _, tag := range tags {
		header = append(header, string(tag))
	}
	var cells [][]string
	for _, r := range list {
		line := []string{r.Key}
		for _, tag := range tags {
			switch text := r.Texts[tag]; {
			case text == nil && !parentless(f, tag, r.Key):
				line = append(line, p.Faint("^ parent"))
			case text == nil:
				line = append(line, p.Bad("- missing"))
			case *text == "":
				line = append(line, p.Warn("(empty)"))
			default:
				line = append(line, terminal.Cut(terminal.Visible(*text), width))
			}
		}
		cells = append(cells, line)
	}
	if len(cells) == 0 {
		p.Printf("%s\n", p.Faint("no key fits the filters"))
		return
	}
	p.Table(header, cells)
}
