package cli

import (
	"context"
	"fmt"
	"strings"

	"github.com/urfave/cli/v3"

	"zelvik/culture"
	"zelvik/finding"
	"zelvik/internal/terminal"
	"zelvik/project"
	"zelvik/work/trace"
)

func (e *env) traceCommand() *cli.Command {
	var names []string
	for _, p := range trace.Platforms {
		names = append(names, p.Name)
	}
	return &cli.Command{
		Name:      "trace",
		Usage:     "which file answers for a key, step by step, and why",
		ArgsUsage: "KEY [PATH...]",
		Description: "zelvik trace boarding_title --culture de-CH res\n" +
			"zelvik trace boarding_title --culture fr-CA,de       (a device's list of preferences)\n" +
			"zelvik trace boarding_title --accept 'fr-CA, de;q=0.8'",
		Flags: []cli.Flag{
			culturesFlag(),
			&cli.StringFlag{Name: "accept", Usage: "an Accept-Language `HEADER` instead of --culture"},
			&cli.StringFlag{Name: "device", Usage: "the machine's default `TAG`, for platforms that fall back to it (default: the source culture)"},
			&cli.StringFlag{Name: "platform", Usage: "only this `PLATFORM`: " + strings.Join(names, ", ")},
			projectFlag(), fromFlag(), outputFlag("text, json"),
		},
		Action: e.trace,
	}
}

// question reads what is asked.
func question(c *cli.Command) (trace.Question, error) {
	q := trace.Question{Key: c.Args().First()}
	var err error
	if q.Preferred, err = tags(c, trace.Asked); err != nil {
		return q, err
	}
	if header := c.String("accept"); header != "" {
		if q.Preferred != nil {
			return q, fmt.Errorf("give --culture or --accept, not both")
		}
		if q.Preferred, err = trace.Accept(header); err != nil {
			return q, err
		}
	}
	if q.Preferred == nil {
		return q, fmt.Errorf("trace needs a culture; for example: zelvik trace %s --culture de-CH", finding.Quoted(q.Key))
	}
	if device := c.String("device"); device != "" {
		q.Device, err = trace.Asked(device)
	}
	return q, err
}

func (e *env) trace(_ context.Context, c *cli.Command) error {
	shape, err := form(c, "text", "json")
	if err != nil {
		return err
	}
	if c.Args().Len() == 0 {
		return fmt.Errorf("trace needs a key; for example: zelvik trace boarding_title --culture de-CH")
	}
	q, err := question(c)
	if err != nil {
		return err
	}
	w, err := project.Load(c.Args().Slice()[1:], c.String("project"), project.Options{Disk: e.disk, From: c.String("from")})
	if err != nil {
		return err
	}
	if err := w.Recall(); err != nil {
		return err
	}
	type answer struct {
		Key    string        `json:"key"`
		Asked  []culture.Tag `json:"asked"`
		Family string        `json:"family"`
		Format string        `json:"format"`
		Traces []trace.Trace `json:"traces"`
	}
	answers := []answer{}
	known := false
	for _, f := range w.Families {
		a := answer{q.Key, q.Preferred, f.Name, f.Format.Name, nil}
		has := false
		for _, m := range f.Members {
			has = has || m.Catalog.Find(q.Key) != nil
		}
		if !has {
			continue
		}
		known = true
		for _, p := range trace.Of(f) {
			if asked := c.String("platform"); asked == "" || strings.EqualFold(asked, p.Name) {
				a.Traces = append(a.Traces, p.Find(f, q))
			}
		}
		if a.Traces != nil {
			answers = append(answers, a)
		}
	}
	if !known {
		return unknownKey(w, q.Key)
	}
	if len(answers) == 0 {
		return fmt.Errorf("no platform %q reads the files that have %s; leave out --platform", c.String("platform"), q.Key)
	}
	if shape == "json" {
		return e.json(answers)
	}
	p, err := e.printer(c)
	if err != nil {
		return err
	}
	for i, a := range answers {
		if i > 0 {
			p.Printf("\n")
		}
		p.Printf("%s  %s\n", p.Strong(a.Family), a.Format)
		for _, t := range a.Traces {
			printTrace(p, t)
		}
	}
	return nil
}

func unknownKey(w *project.Workspace, key string) error {
	var keys []string
	for _, f := range w.Families {
		for _, m := range f.Members {
			for i := range m.Catalog.Entries {
				keys = append(keys, m.Catalog.Entries[i].Key)
			}
		}
	}
	if nearest := finding.Nearest(key, keys); nearest != "" {
		return fmt.Errorf("no file has the key %s; %s was probably meant", key, nearest)
	}
	return fmt.Errorf("no file has the key %s; zelvik table lists the keys", key)
}

func printTrace(p printer, t trace.Trace) {
	shown := p.Bad("nothing")
	if t.Shows != "" {
		shown = terminal.Visible(t.Shows)
	}
	p.Printf("\n%s shows  %s\n", p.Strong(t.Platform), shown)
	var rows [][]string
	for i, s := range t.Steps {
		tag := string(s.Culture)
		if tag == "" {
			tag = "default"
		}
		place, outcome := s.Path, s.Outcome
		switch s.Outcome {
		case trace.Answers:
			outcome = p.Good(s.Outcome)
			place = fmt.Sprintf("%s:%d", s.Path, s.Line)
		case trace.Absent:
			outcome, place = p.Faint("no file"), ""
		case trace.Lacks:
			outcome = p.Warn("lacks it")
		case trace.Passed:
			outcome = p.Faint(s.Outcome)
		}
		rows = append(rows, []string{fmt.Sprintf("  %d", i+1), tag, outcome, place, p.Faint(s.Why)})
	}
	p.Table(nil, rows)
	p.Printf("%s\n", p.Faint(p.Wrapped(2, "how: "+t.Rule)))
	if t.Surprise != "" {
		p.Printf("%s\n", p.Wrapped(2, p.Warn("mind:")+" "+t.Surprise))
	}
}
