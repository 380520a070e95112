package cli

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/demo"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/internal/terminal"
	"zelvik/project"
)

func (e *env) demoCommand() *cli.Command {
	return &cli.Command{
		Name:      "demo",
		Usage:     "the demo project copied out and the whole tour run on it",
		ArgsUsage: "[DIR]",
		Action:    e.demo,
	}
}

// step is one stop of the tour: what the person wants, the command, and how
// many lines of its output to show.
type step struct {
	wish  string
	args  []string
	lines int
	next  string
}

// tour goes through the job in its order. Paths are below the demo's folder.
var tour = []step{
	{"What is here, and how far it has come", []string{"survey", "."}, 7, "zelvik survey --save would keep it as zelvik.yaml"},
	{"Look at a few texts, source beside translation", []string{"table", "android/res", "--keys", "boarding_*", "--cultures", "de,fi"}, 9, "drop --keys for all of them; --state missing shows what is not translated"},
	{"Text that was forgotten in layouts and code", []string{"lift", "android"}, 9, "--apply moves what can be moved without a look"},
	{"The same texts on another platform", []string{"convert", "android/res", "--to", "arb", "--out", "out/flutter"}, 5, "out/flutter/app_de.arb, one ICU message per text"},
	{"Change one text, and nothing else in its file", []string{"set", "boarding_title", "Bordkarte (neu)", "--culture", "de", "android/res", "--dry-run"}, 12, "leave out --dry-run to write it"},
	{"Fill what is missing from what was translated elsewhere", []string{"draft", "dotnet", "--cultures", "fi", "--memory", "android/res", "--dry-run"}, 14, "marked as a draft until somebody looks at it"},
	{"What no memory has, from a service (here a stand-in that knows no language)", []string{"set", "delay_thanks", "Thank you for waiting", "android/res"}, 3, "a new text in the source; now its translations"},
	{"", []string{"draft", "android/res", "--service", "simulated"}, 8, "docs/draft-service.md is the protocol of your own"},
	{"Which file answers on a phone that prefers Swiss German", []string{"trace", "booking_bicycles", "--culture", "de-CH,fr", "android/res"}, 5, "try it on apple, where only one file is asked"},
	{"Call texts from code without spelling keys, switch while it runs", []string{"accessors", "android/res", "--language", "java", "--package", "line.skerry.text", "--out", "out/java"}, 5, "desk/README.md runs a boarding desk in eight languages"},
	{"See what breaks before anyone has translated", []string{"pseudo", "android/res", "--as", "en-XA", "--out", "out/pseudo"}, 4, "out/pseudo/values-en-rXA/strings.xml"},
	{"Find what is wrong, in catalogs and on screens", []string{"verify"}, 22, "MISTAKES.md lists what was planted"},
	{"How much longer translations are, which is how much room screens need", []string{"survey", ".", "--growth", "--chart", "out/growth.png"}, 8, "out/growth.png draws it"},
	{"Look at a screen in every culture, side by side", []string{"draw", "screens/booking.yaml", "--sheet", "--devices", "phone", "--cultures", "en,de,ar,he,en-XA", "--out", "out/pictures"}, 4, "open out/pictures/booking.png"},
}

func (e *env) demo(ctx context.Context, c *cli.Command) error {
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	dir := c.Args().First()
	if dir == "" {
		if dir, err = os.MkdirTemp("", "skerry-line-"); err != nil {
			return files.ReadError(os.TempDir(), err)
		}
	} else if entries, err := os.ReadDir(dir); err == nil && len(entries) > 0 {
		return fmt.Errorf("%s is not empty; name a folder that does not exist yet", dir)
	}
	if err := e.copyOut(dir); err != nil {
		return err
	}
	p.Printf("%s\n", p.Strong("Skerry Line, a made-up ferry company, in "+dir))
	p.Printf("Android, Apple, .NET, Flutter, Qt, JavaFX, web and Windows trees with the same texts,\na watch and display boards, six screens, a boarding desk in eight languages, and planted mistakes.\n")
	number := 0
	for _, s := range tour {
		if s.wish != "" {
			number++
		}
		if err := e.stop(ctx, p, number, s, dir); err != nil {
			return err
		}
	}
	p.Printf("\n%s\n", p.Strong("That was the tour."))
	p.Printf("Go on in %s, or try a command on your own files: zelvik verify FOLDER\n", dir)
	return nil
}

// copyOut writes the demo's files and the list of its mistakes.
func (e *env) copyOut(dir string) error {
	plan := &files.Plan{Remade: true, Out: dir}
	plan.Add(filepath.Join(dir, "MISTAKES.md"), nil, []byte(demo.Mistakes()))
	err := fs.WalkDir(demo.Project(), ".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := fs.ReadFile(demo.Project(), path)
		plan.Add(filepath.Join(dir, filepath.FromSlash(path)), nil, data)
		return err
	})
	if err != nil {
		return err
	}
	return e.place(plan)
}

// stop runs one command for real and shows the beginning of what it prints.
func (e *env) stop(ctx context.Context, p printer, number int, s step, dir string) error {
	p.Printf("\n")
	if s.wish != "" {
		p.Printf("%s\n", p.Strong(fmt.Sprintf("%d  %s", number, s.wish)))
	}
	p.Printf("   $ zelvik %s\n\n", strings.Join(quoted(s.args), " "))
	args := []string{"zelvik", s.args[0]}
	for _, arg := range s.args[1:] {
		if at := filepath.Join(dir, arg); e.disk.There(at) || strings.HasPrefix(arg, "out/") {
			arg = at
		}
		args = append(args, arg)
	}
	if s.args[0] == "verify" {
		args = append(args, "--project", filepath.Join(dir, project.ConfigName))
	}
	if p.Color {
		args = append(args, "--color", "always")
	}
	var out, problems bytes.Buffer
	status := Run(ctx, args, &out, &problems)
	if status > failed {
		return errors.New(strings.TrimSpace(problems.String()))
	}
	if out.Len() == 0 { // what was done is reported beside the results
		out = problems
	}
	text := strings.ReplaceAll(terminal.Passed(strings.TrimRight(out.String(), "\n")), dir+string(filepath.Separator), "")
	lines := strings.Split(text, "\n")
	for i, line := range lines {
		if i == s.lines && len(lines) > i+1 {
			p.Printf("   %s\n", p.Faint(fmt.Sprintf("... and %s", plural(len(lines)-i, "more line"))))
			break
		}
		p.Printf("   %s\n", line)
	}
	p.Printf("   %s\n", p.Faint("-> "+s.next))
	return nil
}

// quoted writes arguments as a shell takes them.
func quoted(args []string) []string {
	list := make([]string, len(args))
	for i, arg := range args {
		list[i] = finding.Quoted(arg)
		if strings.HasPrefix(arg, "-") { // an option
			list[i] = arg
		}
	}
	return list
}
