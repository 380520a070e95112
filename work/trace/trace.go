// Package trace tells, step by step, which file answers for a key on a
// platform, as that platform really looks it up.
package trace

import (
	"fmt"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/project"
)

// Trace is how one platform answers for a key.
type Trace struct {
	Platform string `json:"platform"`
	// Rule says in a sentence how the platform looks.
	Rule string `json:"rule"`
	// Steps are the places that are looked at, in order.
	Steps []Step `json:"steps"`
	// Shows is the text that the reader sees, and Answer where it stands; the
	// latter is nil where no file answers.
	Shows  string `json:"shows"`
	Answer *Step  `json:"answer,omitempty"`
	// Surprise says what people do not expect of the platform here, or "".
	Surprise string `json:"surprise,omitempty"`
}

// Step is one place.
type Step struct {
	Culture culture.Tag `json:"culture"`
	Path    string      `json:"path,omitempty"`
	Line    int         `json:"line,omitempty"`
	// Outcome is answers, lacks (the file does not have the key), absent (there
	// is no such file) or passed over (the platform does not look at it).
	Outcome string `json:"outcome"`
	Text    string `json:"text,omitempty"`
	Why     string `json:"why,omitempty"`
}

// The outcomes of steps.
const (
	Answers = "answers"
	Lacks   = "lacks"
	Absent  = "absent"
	Passed  = "passed over"
)

// Question is what is asked.
type Question struct {
	Key string
	// Preferred are the cultures that the person prefers, best first.
	Preferred []culture.Tag
	// Device is the default culture of the process, for platforms that fall back
	// to it; "" for the source culture.
	Device culture.Tag
}

// Platform is one way to look up.
type Platform struct {
	Name string
	// Formats are the formats whose files it reads; none for all.
	Formats []string
	Rule    string
	find    func(*search)
}

// Platforms lists them.
var Platforms = []*Platform{android, apple, dotnet, java, qt, arb, gettext, accessors}

// Of returns the platforms that read a family.
func Of(f *project.Family) []*Platform {
	var list []*Platform
	for _, p := range Platforms {
		if p.Formats == nil || slices.Contains(p.Formats, f.Format.Name) {
			list = append(list, p)
		}
	}
	return list
}

// Find answers a question for one platform.
func (p *Platform) Find(f *project.Family, q Question) Trace {
	s := &search{family: f, question: q}
	s.Platform, s.Rule, s.Steps = p.Name, p.Rule, []Step{}
	p.find(s)
	s.misnamed()
	return s.Trace
}

// misnamed reports a file for a preferred culture that the platform does not
// find by its name.
func (s *search) misnamed() {
	for _, file := range s.family.Misnamed {
		slip := s.family.Slip(file)
		if s.Surprise != "" || slip.Culture == "" || slip.Meant == "" || slip.Why == "" {
			continue
		}
		for _, want := range s.question.Preferred {
			if slices.Contains(chain(want.Modern()), slip.Culture) {
				s.Surprise = fmt.Sprintf("%s is not found: %s; name it %s", slip.Path, slip.Why, slip.Meant)
			}
		}
	}
}

// search is a trace that is being made.
type search struct {
	Trace
	family   *project.Family
	question Question
}

// member returns the family's file for a culture, or nil.
func (s *search) member(tag culture.Tag) *catalog.Member { return s.family.Member(tag) }

// written returns the file whose name spells a tag so, with the old code of a
// language where it has one; or nil.
func (s *search) written(tag culture.Tag) *catalog.Member {
	for _, m := range s.family.All() {
		if !m.Neutral && written(m) == tag {
			return m
		}
	}
	return nil
}

// written returns a file's culture with the code that its name has.
func written(m *catalog.Member) culture.Tag {
	old := m.Culture.Withdrawn()
	if old == m.Culture {
		return old
	}
	parts := strings.FieldsFunc(path.Base(path.Dir(m.Path))+"/"+path.Base(m.Path), func(r rune) bool { return !unicode.IsLetter(r) })
	if slices.Contains(parts, old.Base()) {
		return old
	}
	return m.Culture
}

// Asked reads a preferred culture. An old code of a language stays: some loaders
// tell it from today's. The error is a *culture.UnknownError.
func Asked(text string) (culture.Tag, error) {
	tag, err := culture.Parse(text)
	if old := tag.Withdrawn(); old != tag && strings.HasPrefix(strings.ToLower(text), old.Base()) {
		return old, nil
	}
	return tag, err
}

// neutral returns the file without a culture in its name, or nil.
func (s *search) neutral() *catalog.Member {
	for _, m := range s.family.Members {
		if m.Neutral {
			return m
		}
	}
	return nil
}

// own returns one of a culture's files where it is that culture's own: a source that
// is read out of other cultures' files has none to load.
func (s *search) own(tag culture.Tag, m *catalog.Member) *catalog.Member {
	if m != nil && tag == s.family.Source && s.family.File(m).Location.Culture != tag {
		return nil
	}
	return m
}

// look looks into the file of a culture, and reports whether it answers.
func (s *search) look(tag culture.Tag, why string) bool { return s.into(tag, s.member(tag), why) }

func (s *search) into(tag culture.Tag, m *catalog.Member, why string) bool {
	step := Step{Culture: tag, Why: why, Outcome: Absent}
	if m != nil {
		file := s.family.File(m)
		step.Path, step.Outcome = file.Path, Lacks
		e := m.Catalog.Find(s.question.Key)
		if e != nil && s.family.Format.Holds.Bilingual && m.Culture != s.family.Source && e.Message.Empty() {
			e = nil
		}
		if e != nil {
			holder := file.Holder(e.ID())
			step.Path = holder.Path
			step.Line, _ = holder.At(e.Offset)
			step.Outcome, step.Text = Answers, e.Message.String()
		}
	}
	s.Steps = append(s.Steps, step)
	if step.Outcome != Answers {
		return false
	}
	s.Answer, s.Shows = &step, step.Text
	return true
}

// pass notes a file that the platform does not look at, where it would have
// answered.
func (s *search) pass(tag culture.Tag, why string) {
	if m := s.member(tag); m != nil && m.Catalog.Find(s.question.Key) != nil {
		s.Steps = append(s.Steps, Step{Culture: tag, Path: m.Path, Outcome: Passed, Why: why})
	}
}

// source returns the source's text of the key, or the key.
func (s *search) source() string {
	if m := s.family.SourceMember(); m != nil {
		if e := m.Catalog.Find(s.question.Key); e != nil {
			return e.Message.String()
		}
	}
	return s.question.Key
}

// chain returns a tag and its parents.
func chain(tag culture.Tag) []culture.Tag { return append([]culture.Tag{tag}, tag.Parents()...) }

// Accept reads an Accept-Language header (RFC 9110, 12.5.4): the tags by their
// weight, * left out. The error says which part is wrong.
func Accept(header string) ([]culture.Tag, error) {
	type weighted struct {
		tag    culture.Tag
		weight float64
	}
	var list []weighted
	for part := range strings.SplitSeq(header, ",") {
		text, parameters, _ := strings.Cut(strings.TrimSpace(part), ";")
		if text = strings.TrimSpace(text); text == "" || text == "*" {
			continue
		}
		tag, err := Asked(text)
		if err != nil {
			return nil, err
		}
		weight := 1.0
		if name, value, ok := strings.Cut(parameters, "="); ok && strings.TrimSpace(name) == "q" {
			if weight, err = strconv.ParseFloat(strings.TrimSpace(value), 64); err != nil || weight < 0 || weight > 1 {
				return nil, fmt.Errorf("the weight %q of %s is no number from 0 to 1", value, text)
			}
		}
		if weight > 0 {
			list = append(list, weighted{tag, weight})
		}
	}
	slices.SortStableFunc(list, func(a, b weighted) int {
		switch {
		case a.weight > b.weight:
			return -1
		case a.weight < b.weight:
			return 1
		}
		return 0
	})
	tags := make([]culture.Tag, len(list))
	for i, w := range list {
		tags[i] = w.tag
	}
	return tags, nil
}
