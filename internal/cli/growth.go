package cli

import (
	"bytes"
	"fmt"
	"path/filepath"

	"github.com/urfave/cli/v3"

	"zelvik/catalog"
	"zelvik/files"
	"zelvik/project"
	"zelvik/screen/growth"
	"zelvik/screen/paint"
	"zelvik/screen/text"
)

// growth tells how much longer translations are than their sources, by
// culture.
func (e *env) growth(c *cli.Command, w *project.Workspace, shape string) error {
	var families []*catalog.Family
	for _, f := range w.Families {
		families = append(families, &f.Family)
	}
	stats := growth.Measure(families)
	if at := c.String("chart"); at != "" {
		ending := filepath.Ext(at)
		if ending != ".png" && ending != ".svg" {
			return fmt.Errorf("--chart takes a file that ends in .png or .svg, not %q", at)
		}
		chart := paint.Growth(stats, paint.Options{Theme: paint.Light, Scale: 1, SVG: ending == ".svg"}, text.NewSetter(nil))
		var out bytes.Buffer
		if err := chart.Write(&out); err != nil {
			return err
		}
		plan := &files.Plan{Remade: true, Out: at, Replace: c.Bool("replace")}
		if err := plan.Make(e.disk, at, out.Bytes(), paint.Drawn); err != nil {
			return err
		}
		if err := e.commit(c, plan); err != nil {
			return err
		}
	}
	if shape == "json" {
		if stats == nil {
			stats = growth.Measured{}
		}
		return e.json(map[string]any{"growth": stats})
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	if len(stats) == 0 {
		p.Printf("no translations to compare with their sources\n")
		return nil
	}
	p.Printf("%s\n\n", p.Strong("How much longer translations are than their source, in characters"))
	var rows [][]string
	percent := func(factor float64) string { return fmt.Sprintf("%.0f %%", factor*100) }
	for _, s := range stats {
		rows = append(rows, []string{"  " + string(s.Culture), s.Culture.Name(), plural(s.Texts, "text"), percent(s.Median), percent(s.Ninth), percent(s.Worst), s.WorstKey})
	}
	p.Table([]string{"  culture", "", "compared", "median", "nine of ten", "longest", "its key"}, rows, 2, 3, 4, 5)
	if at := c.String("chart"); at != "" && !c.Bool("dry-run") {
		e.notes(c).Printf("\n%s written\n", at)
		return nil
	}
	e.notes(c).Printf("\nNext: verify takes this for texts that are not translated yet (rule tight-fit); --chart growth.png draws it.\n")
	return nil
}
