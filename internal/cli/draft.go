package cli

import (
	"context"
	"errors"
	"fmt"
	"os"
	"time"

	"github.com/urfave/cli/v3"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/internal/terminal"
	"zelvik/project"
	"zelvik/work/level"
	"zelvik/work/level/service"
)

// simulated is the address that stands for the service that comes with the
// program.
const simulated = "simulated"

func (e *env) draftCommand() *cli.Command {
	return &cli.Command{
		Name:      "draft",
		Usage:     "missing texts filled from memory, a glossary or a translation service, marked as drafts",
		ArgsUsage: "[PATH...]",
		Description: "zelvik draft --cultures fi --dry-run\n" +
			"zelvik draft --memory older.tmx --glossary terms.csv\n" +
			"zelvik draft --service http://127.0.0.1:8080/translate   (docs/draft-service.md)\n" +
			"zelvik draft --service simulated                         (a stand-in that knows no language)",
		Flags: []cli.Flag{
			&cli.StringSliceFlag{Name: "memory", Usage: "a TMX `FILE`, or any file or folder with translations, beside the project's own"},
			&cli.StringFlag{Name: "glossary", Usage: "a `FILE` of terms: a row a term, a column a culture"},
			&cli.IntFlag{Name: "least", Value: 75, Usage: "the least `PERCENT` of a source text that has to be the same"},
			&cli.StringFlag{Name: "service", Usage: "the `ADDRESS` of a translation service; simulated is a stand-in. Its key is read from ZELVIK_SERVICE_KEY"},
			&cli.DurationFlag{Name: "patience", Value: 30 * time.Second, Usage: "the `TIME` that one request may take"},
			&cli.IntFlag{Name: "tries", Value: 4, Usage: "the `NUMBER` of times that a request is sent before it is given up"},
			projectFlag(), fromFlag(), culturesFlag(), dryRunFlag(), outputFlag("text, json"),
		},
		Action: e.draft,
	}
}

func (e *env) draft(ctx context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	if least := c.Int("least"); least < 50 || least > 100 {
		return fmt.Errorf("--least takes a percentage from 50 to 100, not %d", least)
	}
	if c.Int("tries") < 1 || c.Duration("patience") <= 0 {
		return errors.New("--tries is at least 1, and --patience more than no time")
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
	o := level.DraftOptions{Least: c.Int("least"), Cultures: tags}
	if err := e.remembered(c, w, &o); err != nil {
		return err
	}
	stop, err := e.asked(c, &o)
	if err != nil {
		return err
	}
	defer stop()
	progress := e.notes(c).Progress("asking the service")
	o.Progress = progress.Set
	d, err := level.FillIn(ctx, w, o)
	progress.End()
	if err != nil {
		return err
	}
	if err = e.commit(c, &d.Plan); err != nil {
		return err
	}
	if shape == "json" {
		err = e.json(d)
	} else {
		e.printDraft(c, d)
	}
	if err == nil && d.Faults != nil {
		return statusError(failed)
	}
	return err
}

// remembered gathers the memory and the glossary.
func (e *env) remembered(c *cli.Command, w *project.Workspace, o *level.DraftOptions) error {
	var err error
	if o.Memory, err = level.Remember(w); err != nil {
		return err
	}
	source := w.Families[0].Source
	for _, path := range c.StringSlice("memory") {
		if err := level.Pairs(e.disk, path, source, func(s, t *catalog.Catalog, tag culture.Tag) { o.Memory.Add(s, t, tag, path) }); err != nil {
			return err
		}
	}
	if path := c.String("glossary"); path != "" {
		o.Glossary, err = level.ReadGlossary(e.disk, path, source)
	}
	return err
}

// asked makes the client of the service that was named; stop ends what was
// begun for it.
func (e *env) asked(c *cli.Command, o *level.DraftOptions) (stop func(), err error) {
	address := c.String("service")
	stop = func() {}
	if address == "" {
		return stop, nil
	}
	p := e.notes(c)
	options := service.Options{Key: os.Getenv("ZELVIK_SERVICE_KEY"), Patience: c.Duration("patience"), Tries: c.Int("tries"), Told: func(text string) { p.Printf("%s; trying again\n", text) }}
	if address == simulated {
		if address, stop, err = (&service.Simulated{}).Start(); err != nil {
			return stop, err
		}
		p.Printf("%s the simulated service knows no language; its texts begin with their culture in brackets\n", p.Warn("mind:"))
		options.Key = ""
	}
	o.Service, err = service.New(address, options)
	return stop, err
}

func (e *env) printDraft(c *cli.Command, d *level.Draft) {
	p := e.notes(c)
	verb := "drafted"
	if c.Bool("dry-run") {
		verb = "would be drafted; nothing written (--dry-run)"
	}
	if len(d.Drafted) == 0 && len(d.Left) == 0 && d.Skipped == nil {
		p.Printf("no text is missing\n")
		return
	}
	for _, left := range d.Skipped {
		p.Printf("%s %s\n", p.Warn("left as it is:"), left)
	}
	for _, fault := range d.Faults {
		p.Printf("%s %s\n", p.Bad("the service failed:"), fault)
	}
	p.Printf("%s %s, %d still missing\n", p.Strong(plural(len(d.Drafted), "text")), verb, len(d.Left))
	const most = 40
	var rows [][]string
	for _, one := range d.Drafted {
		how := one.From
		if one.From == "memory" {
			how = fmt.Sprintf("memory %d %%", one.Percent)
		}
		text := terminal.Cut(terminal.Visible(one.Text), 48)
		for _, term := range one.Terms {
			text += p.Warn(fmt.Sprintf("  (%s is %s in the glossary)", term.Source, term.Target))
		}
		rows = append(rows, []string{"  " + string(one.Culture), one.Key, how, text})
	}
	p.Table(nil, rows[:min(len(rows), most)])
	if len(rows) > most {
		p.Printf("  and %d more; --output json lists all\n", len(rows)-most)
	}
	rows = nil
	for _, one := range d.Left {
		rows = append(rows, []string{"  " + string(one.Culture), one.Key, one.Why})
	}
	if rows != nil {
		p.Printf("%s\n", p.Strong("Still missing"))
		p.Table(nil, rows[:min(len(rows), most)])
		if len(rows) > most {
			p.Printf("  and %d more; --output json lists all\n", len(rows)-most)
		}
	}
	e.reportLosses(p, d.Losses, c.Bool("verbose"))
	if len(d.Drafted) > 0 {
		p.Printf("\nNext: zelvik table --state draft shows them; zelvik handoff gives them to a translator.\n")
	}
}
