package cli

import (
	"context"
	"slices"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/finding"
	"zelvik/verify"
)

func (e *env) rulesCommand() *cli.Command {
	return &cli.Command{
		Name:      "rules",
		Usage:     "what each rule means, with an example and its fix",
		ArgsUsage: "[RULE]",
		Flags:     []cli.Flag{outputFlag("text, json")},
		Action:    e.rules,
	}
}

// ruleReport is a rule as JSON.
type ruleReport struct {
	Name     string           `json:"name"`
	Severity finding.Severity `json:"severity"`
	Doc      string           `json:"doc"`
	Why      string           `json:"why"`
	Example  string           `json:"example"`
	Fix      string           `json:"fix"`
}

func (e *env) rules(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	if c.Args().Len() > 0 {
		r, err := verify.Find(c.Args().First())
		if err != nil {
			return err
		}
		if shape == "json" {
			return e.json(ruleReport{r.Name, r.Severity, r.Doc, r.Why, r.Example, r.Fix})
		}
		p.Printf("%s  %s\n\n%s\n%s\n\nexample  %s\nfix      %s\n", p.Strong(r.Name), p.Severity(r.Severity), r.Doc, r.Why, r.Example, r.Fix)
		return nil
	}
	sorted := slices.SortedFunc(slices.Values(verify.Rules), func(a, b *verify.Rule) int { return strings.Compare(a.Name, b.Name) })
	if shape == "json" {
		list := []ruleReport{}
		for _, r := range sorted {
			list = append(list, ruleReport{r.Name, r.Severity, r.Doc, r.Why, r.Example, r.Fix})
		}
		return e.json(list)
	}
	var rows [][]string
	for _, r := range sorted {
		rows = append(rows, []string{r.Name, p.Severity(r.Severity), r.Doc})
	}
	p.Table([]string{"rule", "severity", "the mistake"}, rows)
	e.notes(c).Printf("\nNext: zelvik rules %s shows why, an example and the fix.\n", sorted[0].Name)
	return nil
}
