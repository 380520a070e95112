package cli

import (
	"context"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/finding"
	"zelvik/internal/terminal"
	"zelvik/project"
	"zelvik/project/screens"
	"zelvik/verify"
	"zelvik/work/check"
)

func (e *env) verifyCommand() *cli.Command {
	return &cli.Command{
		Name:      "verify",
		Usage:     "every finding about catalogs and screens",
		ArgsUsage: "[PATH...]",
		Flags: []cli.Flag{
			projectFlag(), fromFlag(), culturesFlag(), outputFlag("text, json"),
			&cli.StringFlag{Name: "fail-on", Usage: "end with status 1 from this `SEVERITY` on: error, warning, advice, never (default: error)"},
		},
		Action: e.verify,
	}
}

func (e *env) verify(_ context.Context, c *cli.Command) error {
	relaxMemory()
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	w, drawn, err := e.workspace(c)
	if err != nil {
		return err
	}
	threshold, err := failOn(c, w.Config)
	if err != nil {
		return err
	}
	o := check.Options{Screens: drawn, Code: e.folders(c.Args().Slice(), w.Config.Dir())}
	if o.Cultures, err = cultures(c); err != nil {
		return err
	}
	if c.Args().Len() == 0 {
		if o.Screens, err = screens.Files(e.disk, w.Config); err != nil {
			return err
		}
		o.Found = len(w.Config.Screens) == 0
	}
	o.Alone = len(drawn) > 0 && len(drawn) == c.Args().Len()
	o.Accessors = slices.ContainsFunc(o.Code, func(folder string) bool { return filepath.Clean(folder) == filepath.Clean(w.Config.Dir()) }) // the whole project
	result, err := check.Verify(w, o)
	if err != nil {
		return err
	}
	if shape == "json" {
		if err := e.json(result); err != nil {
			return err
		}
	} else if err := e.printFindings(c, result); err != nil {
		return err
	}
	if result.Worst(threshold) {
		return statusError(failed)
	}
	return nil
}

// folders returns those of the arguments that are folders; without arguments the
// project's.
func (e *env) folders(args []string, project string) []string {
	if len(args) == 0 {
		return []string{project}
	}
	return slices.DeleteFunc(slices.Clone(args), func(arg string) bool {
		info, err := e.disk.Stat(arg)
		return err != nil || !info.IsDir()
	})
}

// workspace loads what verify and table work on. Screen files among the
// arguments are set apart.
func (e *env) workspace(c *cli.Command) (*project.Workspace, []string, error) {
	tags, err := cultures(c)
	if err != nil {
		return nil, nil, err
	}
	var paths, screens []string
	for _, arg := range c.Args().Slice() {
		if strings.HasSuffix(arg, ".yaml") || strings.HasSuffix(arg, ".yml") {
			screens = append(screens, arg)
		} else {
			paths = append(paths, arg)
		}
	}
	w, err := project.Load(paths, c.String("project"), project.Options{Disk: e.disk, From: c.String("from"), Cultures: tags})
	if err != nil {
		return nil, nil, err
	}
	return w, screens, w.Expect(tags)
}

func failOn(c *cli.Command, config *project.Config) (finding.Severity, error) {
	text := c.String("fail-on")
	if text == "" {
		text = config.Verify.FailOn
	}
	if text == "" {
		return finding.Error, nil
	}
	s, err := finding.ParseSeverity(text)
	if err != nil {
		return 0, fmt.Errorf("--fail-on: %w", err)
	}
	return s, nil
}

// printFindings prints findings file by file, the verdict first.
func (e *env) printFindings(c *cli.Command, r *verify.Result) error {
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	s := r.Summary
	verdict := fmt.Sprintf("%s, %s, %s", plural(s.Errors, "error"), plural(s.Warnings, "warning"), fmt.Sprint(s.Advice, " advice"))
	about := fmt.Sprintf("in %s with %s", plural(s.Files, "file"), plural(s.Entries, "entry"))
	if s.Files == 0 && len(r.Findings) > 0 && r.Findings[0].Screen != "" {
		about = "on " + plural(c.Args().Len(), "screen")
	}
	switch {
	case s.Errors > 0:
		verdict = p.Bad(verdict)
	case s.Warnings > 0:
		verdict = p.Warn(verdict)
	default:
		verdict = p.Good(verdict)
	}
	p.Printf("%s %s\n", verdict, about)
	path := ""
	for _, f := range r.Findings {
		if f.Path != path {
			path = f.Path
			p.Printf("\n%s\n", p.Strong(path))
		}
		place := ""
		if f.Line > 0 {
			place = fmt.Sprintf("%d:%d", f.Line, f.Column)
		}
		pad := strings.Repeat(" ", max(0, 8-len(f.Severity.String())))
		p.Printf("  %-8s %s%s %s\n", place, p.Severity(f.Severity), pad, p.Strong(f.Rule))
		text := f.Message
		if f.Key != "" && !names(text, f.Key) {
			text = f.Key + ": " + text
		}
		p.Printf("%s\n", p.Wrapped(11, terminal.Visible(text)))
		if f.Fix != "" {
			p.Printf("%s\n", p.Faint(p.Wrapped(11, "-> "+f.Fix)))
		}
	}
	e.printCoverage(p, r.Coverage)
	if len(r.Findings) > 0 {
		e.notes(c).Printf("\nNext: zelvik rules %s explains a rule.\n", r.Findings[0].Rule)
	}
	return nil
}

// printCoverage prints the cultures that are not complete.
func (e *env) printCoverage(p printer, coverage []verify.Coverage) {
	var rows [][]string
	for _, c := range coverage {
		if c.Answered < c.Entries {
			rows = append(rows, []string{"  " + c.Family, string(c.Culture), fmt.Sprintf("%d of %d", c.Answered, c.Entries), fmt.Sprintf("%d %%", c.Answered*100/max(c.Entries, 1))})
		}
	}
	if len(rows) > 0 {
		p.Printf("\n%s\n", p.Strong("not complete"))
		p.Table(nil, rows, 2, 3)
	}
}

// names reports whether a message says a key, and not a longer word or a text
// with it.
func names(message, key string) bool {
	said, _, _ := strings.Cut(message, "\"") // what it quotes are texts
	for word := range strings.FieldsSeq(said) {
		if strings.Trim(word, ".,;:()") == key {
			return true
		}
	}
	return strings.ContainsAny(key, " \t") && strings.Contains(said, key)
}
