package cli

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/accessor"
	languages "zelvik/accessor/all"
	"zelvik/project"
)

func (e *env) accessorsCommand() *cli.Command {
	return &cli.Command{
		Name:        "accessors",
		Usage:       "typed accessors, with live switching, in the application's language",
		ArgsUsage:   "[PATH...]",
		Description: "zelvik accessors res --language java --package app.text --out gen",
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "language", Usage: "the `LANGUAGE` to generate: kotlin, java, csharp, cpp, go, typescript"},
			&cli.StringFlag{Name: "package", Usage: "the package, namespace or module `NAME`"},
			&cli.StringFlag{Name: "type", Value: "Wording", Usage: "the `NAME` of the type with the members"},
			&cli.StringFlag{Name: "visibility", Value: "public", Usage: "public, or internal to its package"},
			&cli.StringFlag{Name: "out", Usage: "the `FOLDER` to write to"},
			&cli.BoolFlag{Name: "check", Usage: "write nothing; end with status 1 when files differ from what would be written"},
			projectFlag(), fromFlag(), culturesFlag(), dryRunFlag(), outputFlag("text, json"),
		},
		Action: e.accessors,
	}
}

var typeName = regexp.MustCompile(`^[A-Z][A-Za-z0-9]*$`)

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
	plan := &project.Plan{Remade: true}
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
	e.notes(c).Printf("\nNext: make one CultureSwitch, give it to the type %s, and call its methods.\n", sets[0].Type)
	return nil
}

// accessorSets takes what to generate from the options, else from the
// configuration.
func accessorSets(c *cli.Command, w *project.Workspace) ([]project.AccessorConfig, error) {
	if c.String("language") == "" {
		if len(w.Config.Accessors) == 0 {
			return nil, errors.New("accessors needs --language java or --language typescript, or accessors in zelvik.yaml")
		}
		sets := slices.Clone(w.Config.Accessors)
		for i := range sets {
			sets[i].Out = filepath.Join(w.Config.Dir(), sets[i].Out)
			if sets[i].Type == "" {
				sets[i].Type = "Wording"
			}
		}
		return sets, nil
	}
	if c.String("out") == "" {
		return nil, errors.New("accessors needs --out FOLDER to write to")
	}
	return []project.AccessorConfig{{Language: c.String("language"), Package: c.String("package"), Type: c.String("type"), Out: c.String("out")}}, nil
}

func (e *env) generate(c *cli.Command, w *project.Workspace, set project.AccessorConfig, plan *project.Plan) error {
	language, err := languages.Named(set.Language)
	if err != nil {
		return err
	}
	if set.Package == "" && set.Language == "java" {
		set.Package = "app.text"
	}
	if !language.ValidPackage(set.Package) {
		return fmt.Errorf("%q is no package of %s; use %s", set.Package, language.Name, language.PackagePattern)
	}
	if !typeName.MatchString(set.Type) {
		return fmt.Errorf("%q is no name for a type; use a capital letter and letters or digits, such as Wording", set.Type)
	}
	visibility := c.String("visibility")
	if visibility != "public" && visibility != "internal" {
		return fmt.Errorf("--visibility takes public or internal, not %q", visibility)
	}
	families := w
	if set.Family != "" {
		families = &project.Workspace{Config: w.Config}
		for _, f := range w.Families {
			if strings.HasPrefix(f.Name+"/", filepath.ToSlash(filepath.Join(w.Config.Dir(), set.Family))+"/") {
				families.Families = append(families.Families, f)
			}
		}
	}
	family, err := families.One()
	if err != nil {
		return err
	}
	for _, file := range family.Files {
		if damage := file.Damaged(); damage != nil {
			return project.Refuse(damage)
		}
	}
	ledger, err := project.ReadLedger(family.Dir)
	if err != nil {
		return err
	}
	for _, m := range family.Members {
		ledger.Restore(m.Catalog)
	}
	family.CompleteAll()
	model, err := accessor.New(&family.Family, accessor.Options{Package: set.Package, Type: set.Type, Hidden: visibility == "internal", From: filepath.ToSlash(family.Dir)})
	if err != nil {
		return err
	}
	files := language.Generate(model)
	for _, f := range model.Findings {
		e.notes(c).Printf("%s: %s; %s\n", family.Name, f.Message, f.Mend)
	}
	for _, name := range slices.Sorted(maps.Keys(files)) {
		at := filepath.Join(set.Out, name)
		old, err := os.ReadFile(at)
		if err != nil {
			old = nil
		}
		plan.Add(at, old, files[name])
	}
	return nil
}

// checkAccessors tells which files on disk differ from what would be written.
func (e *env) checkAccessors(c *cli.Command, plan *project.Plan) error {
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
