package cli

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"maps"
	"path/filepath"
	"slices"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/accessor"
	languages "zelvik/accessor/all"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/project"
	"zelvik/work/generate"
)

func (e *env) accessorsCommand() *cli.Command {
	return &cli.Command{
		Name:        "accessors",
		Usage:       "typed accessors, with live switching, in the application's language",
		ArgsUsage:   "[PATH...]",
		Description: "zelvik accessors res --language java --package app.text --out gen",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "language", Usage: "the `LANGUAGE` to generate: " + strings.Join(languages.Names(), ", ")},
			&cli.StringFlag{Name: "package", Usage: "the package, namespace or module `NAME`, such as app.text"},
			&cli.StringFlag{Name: "type", Usage: "the `NAME` of the type with the members, Wording by default; of several families their names, separated by commas"},
			&cli.StringFlag{Name: "visibility", Value: "public", Usage: "public, or internal to its package"},
			&cli.StringFlag{Name: "texts", Value: "compiled", Usage: "compiled into the code, or bundles: files that the application loads"},
			&cli.StringFlag{Name: "annotations", Value: "nullable", Usage: "in C#, what can be null is marked: nullable; none for compilers before C# 8"},
			&cli.BoolFlag{Name: "binding", Usage: "add the file that ties the culture to what the platform's interfaces observe"},
			&cli.BoolFlag{Name: "cases", Usage: "add a file of tests for the application's own toolchain"},
			&cli.StringFlag{Name: "cases-out", Usage: "write that file to the `FOLDER` of the tests"},
			&cli.StringFlag{Name: "out", Usage: "the `FOLDER` to write to"},
			&cli.BoolFlag{Name: "check", Usage: "write nothing; end with status 1 when files differ from what would be written"},
			projectFlag(), fromFlag(), culturesFlag(), dryRunFlag(), replaceFlag(), outputFlag("text, json"),
		},
		Action: e.accessors,
	}
}

func (e *env) accessors(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	w, _, err := e.workspace(c)
	if err != nil {
		return err
	}
	sets, err := accessorSets(c, w)
	if err != nil {
		return err
	}
	plan := &files.Plan{Remade: true, Out: c.String("out"), Replace: c.Bool("replace"), Why: "there already, and not made of this family by this command"}
	for _, set := range sets {
		if err := e.generate(c, w, set, plan); err != nil {
			return err
		}
	}
	if c.Bool("check") {
		return e.checkAccessors(c, plan)
	}
	if err := e.commit(c, plan); err != nil {
		return err
	}
	written := []string{}
	for _, file := range plan.Writes {
		written = append(written, file.Path)
	}
	if shape == "json" {
		return e.json(map[string]any{"written": written})
	}
	if c.Bool("dry-run") {
		return nil
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	if len(written) == 0 {
		p.Printf("%s\n", p.Good("the accessors are up to date"))
		return nil
	}
	p.Printf("%s\n", p.Strong(plural(len(written), "file")+" written"))
	for _, path := range written {
		p.Printf("  %s\n", path)
	}
	e.notes(c).Printf("\nNext: make one CultureSwitch, give it to the type %s, and call its methods.\n", cmp.Or(sets[0].Type, "Wording"))
	return nil
}

// accessorSets takes what to generate from the options, else from the
// configuration.
func accessorSets(c *cli.Command, w *project.Workspace) ([]project.AccessorConfig, error) {
	if c.String("language") == "" {
		if sets := generate.Sets(w); len(sets) > 0 {
			return sets, nil
		}
		return nil, fmt.Errorf("accessors needs --language (%s), or accessors in zelvik.yaml", strings.Join(languages.Names(), ", "))
	}
	return []project.AccessorConfig{{
		Language: c.String("language"), Package: c.String("package"), Type: c.String("type"), Out: c.String("out"),
		Visibility: c.String("visibility"), Texts: c.String("texts"), Annotations: c.String("annotations"), Families: c.Args().Slice(), Named: c.Args().Len() > 0, Binding: c.Bool("binding"), Cases: c.Bool("cases"), CasesOut: c.String("cases-out"),
	}}, nil
}

// asGiven is the command that generates the same again, with the options that were given.
func asGiven(c *cli.Command) string {
	words := []string{"zelvik", "accessors"}
	for _, path := range c.Args().Slice() {
		words = append(words, finding.Quoted(filepath.ToSlash(path)))
	}
	for _, name := range []string{"language", "package", "type", "visibility", "texts", "annotations", "cases-out", "out", "project", "from", "cultures"} {
		if c.IsSet(name) {
			words = append(words, "--"+name, finding.Quoted(filepath.ToSlash(c.String(name))))
		}
	}
	for _, name := range []string{"binding", "cases"} {
		if c.Bool(name) {
			words = append(words, "--"+name)
		}
	}
	return strings.Join(words, " ")
}

// generate adds the files of a set to the plan.
func (e *env) generate(c *cli.Command, w *project.Workspace, set project.AccessorConfig, plan *files.Plan) error {
	command := generate.Configured
	if c.String("language") != "" {
		command = asGiven(c)
	}
	made, err := generate.For(w, set, command)
	if err != nil {
		return err
	}
	for _, f := range made.Clashes {
		e.notes(c).Printf("%s: %s; %s\n", f.Place(), f.Message, f.Fix)
	}
	own := func(old []byte) bool {
		return accessor.Generated(old) && (accessor.MadeOf(old) == "" || accessor.MadeOf(old) == filepath.ToSlash(made.Dir))
	}
	for _, at := range slices.Sorted(maps.Keys(made.Files)) {
		for _, other := range plan.Writes {
			if other.Path == at && !bytes.Equal(other.New, made.Files[at]) {
				return project.Usage("%s would be written for %s and for %s; give one of them a package or a folder of its own", at, accessor.MadeOf(other.New), made.Dir)
			}
		}
		if err := plan.Make(e.disk, at, made.Files[at], own); err != nil {
			return err
		}
	}
	return nil
}

// checkAccessors tells which files on disk differ from what would be written.
func (e *env) checkAccessors(c *cli.Command, plan *files.Plan) error {
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	if len(plan.Writes) == 0 {
		p.Printf("%s\n", p.Good("the accessors are up to date"))
		return nil
	}
	p.Printf("%s\n", p.Bad(plural(len(plan.Writes), "file")+" out of date"))
	for _, w := range plan.Writes {
		state := "differs"
		if w.Old == nil {
			state = "is missing"
		} else if bytes.Equal(w.Old, w.New) {
			continue
		}
		p.Printf("  %s %s\n", w.Path, state)
	}
	e.notes(c).Printf("\nNext: run the same command without --check.\n")
	return statusError(failed)
}
