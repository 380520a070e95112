package cli

import (
	"context"
	"errors"

	"github.com/urfave/cli/v3"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message/pseudo"
	"zelvik/project"
	"zelvik/work/convert"
)

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
			projectFlag(), fromFlag(), dryRunFlag(), replaceFlag(), outputFlag("text, json"),
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
	w, err := project.Load(c.Args().Slice(), c.String("project"), project.Options{Disk: e.disk, From: c.String("from"), Files: e.writing(c)})
	if err != nil {
		return err
	}
	for _, f := range w.Families {
		if m := f.Member(tag); m != nil && c.String("out") == "" && f.File(m) != nil && m.Culture == f.Source {
			return errors.New("the source itself is a pseudo-culture")
		}
	}
	conversion, err := convert.Pseudo(w, tag, func(source *catalog.Catalog) *catalog.Catalog {
		return pseudo.Catalog(source, tag, style)
	}, c.String("out"))
	if err != nil {
		return err
	}
	conversion.Out = c.String("out")
	if err := conversion.Settle(e.disk, c.Bool("replace")); err != nil {
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
