// Package cli is the command line: one file per command, which reads options,
// calls the core and prints.
package cli

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"runtime"
	"strings"

	"github.com/urfave/cli/v3"
	"golang.org/x/sync/errgroup"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/internal/terminal"
	"zelvik/project"
)

// Version is the program's version.
const Version = "0.1.0"

// The exit statuses.
const (
	done     = 0
	failed   = 1 // findings, losses that are refused, conflicts
	misused  = 2 // wrong usage or configuration
	unopened = 3 // a file could not be read or written
	// interrupted and terminated are those of programs that a signal stopped.
	interrupted, terminated = 130, 143
)

// statusError ends the program with a status; what there was to say was said.
type statusError int

// Error names the status.
func (s statusError) Error() string { return fmt.Sprintf("exit status %d", int(s)) }

// env is what commands print to, and how they change files.
type env struct {
	stdout, stderr *stream
	session        *files.Session
	// disk is what is read: the disk from the current folder on, and the standard
	// input.
	disk *files.Disk
}

// Run runs the program and gives its exit status.
func Run(ctx context.Context, args []string, stdout, stderr io.Writer) int {
	return newEnv(args, stdout, stderr).run(ctx, args)
}

func newEnv(args []string, stdout, stderr io.Writer) *env {
	e := &env{stdout: &stream{w: stdout}, stderr: &stream{w: stderr}}
	dir, _ := os.Getwd() // without one, paths are the system's own
	e.disk = &files.Disk{Dir: dir, Input: os.Stdin}
	e.session = &files.Session{Command: "zelvik", Disk: e.disk, Say: func(text string) { e.say(errors.New(text)) }}
	if len(args) > 1 {
		e.session.Command += " " + terminal.Visible(args[1])
	}
	return e
}

func (e *env) run(ctx context.Context, args []string) int {
	if len(args) == 2 && args[1] == "--version" { // nothing else is made for it
		_, _ = fmt.Fprintln(e.stdout, "zelvik "+Version)
		args = args[:1]
		return e.finish(nil, args)
	}
	return e.finish(e.app(args).Run(ctx, args), args)
}

// finish gives back what the run held, says what is left to say, and gives the
// exit status.
func (e *env) finish(err error, args []string) int {
	e.session.Close()
	status := e.end(err)
	e.unfinished(args)
	if fault := e.stdout.fault(); fault != nil {
		e.say(fmt.Errorf("standard output: %w; give it room, or write elsewhere", fault))
		return unopened
	}
	return status
}

// end says what an error has to say, and gives the exit status.
func (e *env) end(err error) int {
	var status statusError
	var file *files.Error
	switch {
	case err == nil:
		return done
	case errors.As(err, &status):
		return int(status)
	case errors.Is(err, files.ErrStopped):
		return interrupted
	case errors.As(err, &file):
		e.say(err)
		return unopened
	}
	e.say(err)
	return misused
}

// unfinished reports a run that was stopped while it replaced files in the
// current folder, or where the arguments lead. Commands that change files there
// have finished it by then.
func (e *env) unfinished(args []string) {
	told := map[string]bool{"": true}
	for i, arg := range args {
		if i == 0 {
			arg = "."
		} else if strings.HasPrefix(arg, "-") || !e.disk.There(arg) {
			continue
		}
		if text := e.disk.Unfinished(project.HomeOf(e.disk, arg)); !told[text] {
			told[text] = true
			e.say(errors.New(text))
		}
	}
}

// say prints an error as one sentence.
func (e *env) say(err error) {
	text := terminal.Visible(strings.TrimSpace(err.Error()))
	if !strings.HasSuffix(text, ".") {
		text += "."
	}
	_, _ = fmt.Fprintln(e.stderr, "zelvik: "+text)
}

func (e *env) app(args []string) *cli.Command {
	cli.VersionPrinter = func(c *cli.Command) { _, _ = fmt.Fprintln(e.stdout, "zelvik "+Version) }
	app := &cli.Command{
		Name:                  "zelvik",
		Usage:                 "make an application speak more than one language",
		Version:               Version,
		Writer:                e.stdout,
		ErrWriter:             e.stderr,
		EnableShellCompletion: true,
		Suggest:               false,
		HideHelpCommand:       true,
		OnUsageError:          usageError,
		ExitErrHandler:        func(context.Context, *cli.Command, error) {},
		Description: "Works on the string files that the platforms themselves read. Every command takes files\n" +
			"or folders, and uses zelvik.yaml where there is one. Try: zelvik demo",
		Action: func(ctx context.Context, c *cli.Command) error {
			if c.Args().Len() == 0 {
				return cli.ShowAppHelp(c)
			}
			return unknownCommand(c, c.Args().First())
		},
		Commands: e.commands(args),
	}
	for _, command := range app.Commands {
		command.OnUsageError = usageError
		command.HideHelpCommand = true
		command.Flags = append(command.Flags, commonFlags()...)
	}
	return app
}

// commands is the list of commands, in the order of the job. Where the first
// argument names one, it is made alone, as making all of them takes as long as
// starting the program.
func (e *env) commands(args []string) []*cli.Command {
	var list []*cli.Command
	for _, one := range []struct {
		name string
		make func() *cli.Command
	}{
		{"survey", e.surveyCommand},
		{"lift", e.liftCommand},
		{"convert", e.convertCommand},
		{"table", e.tableCommand},
		{"reconcile", e.reconcileCommand},
		{"begin", e.beginCommand},
		{"set", e.setCommand},
		{"rename", e.renameCommand},
		{"draft", e.draftCommand},
		{"handoff", e.handoffCommand},
		{"takeback", e.takebackCommand},
		{"trace", e.traceCommand},
		{"merge", e.mergeCommand},
		{"pseudo", e.pseudoCommand},
		{"verify", e.verifyCommand},
		{"accessors", e.accessorsCommand},
		{"draw", e.drawCommand},
		{"formats", e.formatsCommand},
		{"demo", e.demoCommand},
		{"rules", e.rulesCommand},
		{"cultures", e.culturesCommand},
	} {
		if len(args) > 1 && args[1] == one.name {
			return []*cli.Command{one.make()}
		}
		list = append(list, one.make())
	}
	return list
}

func unknownCommand(c *cli.Command, name string) error {
	var names []string
	for _, command := range c.Root().Commands {
		names = append(names, command.Name)
	}
	if nearest := finding.Nearest(name, names); nearest != "" {
		return fmt.Errorf("%q is no command; %s was probably meant", name, nearest)
	}
	return fmt.Errorf("%q is no command; zelvik --help lists them", name)
}

// usageError makes one sentence of a mistake in the options.
func usageError(_ context.Context, c *cli.Command, err error, _ bool) error {
	text := err.Error()
	if name, ok := strings.CutPrefix(text, "flag provided but not defined: "); ok {
		name = strings.TrimLeft(name, "-")
		var names []string
		for _, flag := range c.Flags {
			names = append(names, flag.Names()...)
		}
		if nearest := finding.Nearest(name, names); nearest != "" {
			return fmt.Errorf("%s has no option --%s; --%s was probably meant", c.Name, name, nearest)
		}
		return fmt.Errorf("%s has no option --%s; zelvik %s --help lists them", c.Name, name, c.Name)
	}
	if name, ok := strings.CutPrefix(text, "flag needs an argument: "); ok {
		return fmt.Errorf("the option --%s needs a value", strings.TrimLeft(name, "-"))
	}
	return fmt.Errorf("%s; zelvik %s --help explains the options", text, c.Name)
}

// commonFlags are the options that every command has.
func commonFlags() []cli.Flag {
	return []cli.Flag{
		&cli.StringFlag{Name: "color", Value: "auto", Usage: "`WHEN` to use colour: auto, always, never"},
		&cli.BoolFlag{Name: "quiet", Usage: "print only what was asked for"},
		&cli.BoolFlag{Name: "verbose", Usage: "print what is done on the way"},
	}
}

func outputFlag(forms string) cli.Flag {
	return &cli.StringFlag{Name: "output", Value: "text", Usage: "`FORM` of the report: " + forms}
}

func projectFlag() cli.Flag {
	return &cli.StringFlag{Name: "project", Usage: "the configuration `FILE` (default: the nearest zelvik.yaml going up)"}
}

func fromFlag() cli.Flag {
	return &cli.StringFlag{Name: "from", Usage: "the `FORMAT` of the input, instead of detecting it"}
}

func replaceFlag() cli.Flag {
	return &cli.BoolFlag{Name: "replace", Usage: "replace files that are there and that this command did not make"}
}

func dryRunFlag() cli.Flag {
	return &cli.BoolFlag{Name: "dry-run", Usage: "show the difference, write nothing"}
}

func culturesFlag() cli.Flag {
	return &cli.StringFlag{Name: "cultures", Aliases: []string{"culture"}, Usage: "limit to these `TAGS`, separated by commas"}
}

// printer makes the printer of a command's results, and checks --color.
func (e *env) printer(c *cli.Command) (*terminal.Printer, error) {
	mode := c.String("color")
	if mode != "auto" && mode != "always" && mode != "never" {
		return nil, fmt.Errorf("--color takes auto, always or never, not %q", mode)
	}
	return terminal.New(e.stdout, mode), nil
}

// notes makes the printer of everything that is no result.
func (e *env) notes(c *cli.Command) *terminal.Printer {
	if c.Bool("quiet") {
		return terminal.New(io.Discard, "never")
	}
	return terminal.New(e.stderr, c.String("color"))
}

// form checks --output.
func form(c *cli.Command, forms ...string) (string, error) {
	value := c.String("output")
	for _, f := range forms {
		if f == value {
			return value, nil
		}
	}
	return "", fmt.Errorf("--output takes %s, not %q", strings.Join(forms, ", "), value)
}

// json prints a value for other programs.
func (e *env) json(value any) error {
	var out bytes.Buffer
	encoder := json.NewEncoder(&out)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", "  ")
	if err := encoder.Encode(value); err != nil {
		return err
	}
	_, err := e.stdout.Write(terminal.EscapeJSON(out.Bytes()))
	return err
}

// cultures reads --cultures.
func cultures(c *cli.Command) ([]culture.Tag, error) { return tags(c, culture.Parse) }

// tags returns the cultures that --cultures names, each read so.
func tags(c *cli.Command, parse func(string) (culture.Tag, error)) ([]culture.Tag, error) {
	text := c.String("cultures")
	if text == "" {
		return nil, nil
	}
	var list []culture.Tag
	for part := range strings.SplitSeq(text, ",") {
		tag, err := parse(strings.TrimSpace(part))
		if err != nil {
			return nil, err
		}
		list = append(list, tag)
	}
	return list, nil
}

// writing returns the session with which a command reads what it is going to
// change; nil where it only shows what it would do.
func (e *env) writing(c *cli.Command) *files.Session {
	if c.Bool("dry-run") {
		return nil
	}
	return e.session
}

// place makes a plan's changes.
func (e *env) place(plan *files.Plan) error {
	if err := e.session.Commit(plan); err != nil {
		return err
	}
	for _, note := range plan.Notes {
		e.say(errors.New(note))
	}
	return nil
}

// commit makes a plan's changes, or shows them.
func (e *env) commit(c *cli.Command, plan *files.Plan) error {
	if !c.Bool("dry-run") {
		return e.place(plan)
	}
	if err := errors.Join(plan.Refused(), plan.Check()); err != nil || c.String("output") == "json" { // a program reads the report
		return err
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	shown := make([]string, len(plan.Writes))
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, w := range plan.Writes {
		group.Go(func() error {
			shown[i] = e.difference(p, w)
			return nil
		})
	}
	_ = group.Wait() // no job fails
	for _, text := range shown {
		p.Printf("%s", text)
	}
	return nil
}

// difference shows one change.
func (e *env) difference(p printer, w files.Write) string {
	old := w.Old
	if old == nil {
		if data, err := e.disk.Read(w.Path); err == nil {
			old = data
		}
	}
	switch {
	case bytes.Equal(old, w.New) && old != nil:
		return ""
	case old == nil && filepath.Base(w.Path) == project.LedgerName:
		return fmt.Sprintf("%s would begin with %s\n", w.Path, plural(bytes.Count(w.New, []byte("\n"))-2, "line"))
	}
	return p.Difference(w.Path, old, w.New)
}
