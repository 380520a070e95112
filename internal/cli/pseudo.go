package cli

import (
	"context"
	"errors"
	"os"
	"strconv"

	"github.com/urfave/cli/v3"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/project"
	"zelvik/pseudo"
)

func exists(path string) bool {
	_, err := os.Stat(path)
	return err == nil
}

func (e *env) pseudoCommand() *cli.Command {
	return &cli.Command{
		Name:      "pseudo",
		Usage:     "pseudo-cultures: accented, grown, mirrored, bracketed",
		ArgsUsage: "[PATH...]",
		Description: "zelvik pseudo res --as en-XA   accented, grown and bracketed\n" +
			"zelvik pseudo res --as ar-XB   mirrored\n" +
			"zelvik pseudo res --as en-x-grown, en-x-accented, en-x-mirrored, en-x-brackets",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "as", Value: "en-XA", Usage: "the `TAG` of the pseudo-culture"},
			&cli.StringFlag{Name: "out", Usage: "the folder to write to instead of beside the family"},
			projectFlag(), fromFlag(), dryRunFlag(), outputFlag("text, json"),
		},
		Action: e.pseudo,
	}
}

func (e *env) pseudo(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	tag, err := culture.Parse(c.String("as"))
	if err != nil {
		return err
	}
	style, err := pseudo.StyleOf(tag)
	if err != nil {
		return err
	}
	w, err := project.Load(c.Args().Slice(), c.String("project"), project.Options{From: c.String("from")})
	if err != nil {
		return err
	}
	for _, f := range w.Families {
		if m := f.Member(tag); m != nil && c.String("out") == "" && f.File(m) != nil && m.Culture == f.Source {
			return errors.New("the source itself is a pseudo-culture")
		}
	}
	conversion, err := w.AddPseudo(tag, func(source *catalog.Catalog) *catalog.Catalog {
		return pseudo.Catalog(source, tag, style)
	}, c.String("out"))
	if err != nil {
		return err
	}
	if err := e.commit(c, &conversion.Plan); err != nil {
		return err
	}
	r := &conversionReport{Written: conversion.Files, Losses: conversion.Losses}
	if err := e.reportConversion(c, shape, r, false); err != nil {
		return err
	}
	if shape == "text" {
		e.notes(c).Printf("\nNext: zelvik draw shows the screens in %s.\n", tag)
	}
	return nil
}

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
