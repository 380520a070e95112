package cli

import (
	"context"
	"strconv"

	"github.com/urfave/cli/v3"

	"zelvik/culture"
)

func (e *env) culturesCommand() *cli.Command {
	return &cli.Command{
		Name:      "cultures",
		Usage:     "what is known of a culture",
		ArgsUsage: "[TAG]",
		Flags:     []cli.Flag{outputFlag("text, json")},
		Action:    e.cultures,
	}
}

// cultureReport is a culture as JSON.
type cultureReport struct {
	Culture   culture.Tag   `json:"culture"`
	Name      string        `json:"name"`
	OwnName   string        `json:"ownName"`
	Script    string        `json:"script"`
	Direction string        `json:"direction"`
	Parents   []culture.Tag `json:"parents"`
	Plurals   pluralReport  `json:"plurals"`
}

type pluralReport struct {
	Cardinal []string `json:"cardinal"`
	Ordinal  []string `json:"ordinal"`
}

func describeCulture(tag culture.Tag) cultureReport {
	return cultureReport{tag, tag.Name(), tag.OwnName(), tag.Script(), tag.Direction(), tag.Parents(),
		pluralReport{tag.Cardinal().Categories(), tag.Ordinal().Categories()}}
}

func (e *env) cultures(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	if c.Args().Len() == 0 {
		list := []cultureReport{}
		var table [][]string
		for _, language := range culture.Languages() {
			r := describeCulture(culture.Tag(language))
			list = append(list, r)
			table = append(table, []string{language, r.Name, r.OwnName, r.Direction, join(r.Plurals.Cardinal), join(r.Plurals.Ordinal)})
		}
		if shape == "json" {
			return e.json(list)
		}
		p.Table([]string{"tag", "name", "own name", "runs", "plural forms", "ordinal forms"}, table)
		return nil
	}
	tag, err := culture.Parse(c.Args().First())
	if err != nil {
		return err
	}
	r := describeCulture(tag)
	if shape == "json" {
		return e.json(r)
	}
	parents := "none"
	if len(r.Parents) > 0 {
		parents = ""
		for i, t := range r.Parents {
			if i > 0 {
				parents += ", "
			}
			parents += string(t)
		}
	}
	p.Printf("%s  %s, %s\n", p.Strong(string(tag)), r.Name, r.OwnName)
	p.Table(nil, [][]string{
		{"  runs", map[string]string{"ltr": "left to right", "rtl": "right to left"}[r.Direction] + " in " + r.Script},
		{"  falls back to", parents},
		{"  plural forms", examples(tag.Cardinal())},
		{"  ordinal forms", examples(tag.Ordinal())},
		{"  writes 1234567.89", tag.Symbols().Format("1234567.89", true)},
	})
	return nil
}

func join(list []string) string {
	out := ""
	for i, s := range list {
		if i > 0 {
			out += " "
		}
		out += s
	}
	return out
}

// examples lists the forms with the first numbers of each.
func examples(rules culture.Rules) string {
	out := ""
	for _, category := range rules.Categories() {
		if out != "" {
			out += ", "
		}
		out += category
		numbers := ""
		for n, shown := 0, 0; n <= 200 && shown < 3; n++ {
			if rules.CategoryOf(n) == category {
				numbers += " " + strconv.Itoa(n)
				shown++
			}
		}
		if numbers != "" {
			out += " (" + numbers[1:] + " …)"
		} else {
			out += " (fractions or millions)"
		}
	}
	return out
}
