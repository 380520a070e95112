package layout

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"zelvik/culture"
	"zelvik/finding"
	"zelvik/screen"
	"zelvik/screen/text"
)

// Growth says how much longer than the source a culture's text of a source
// text is likely to be, as a factor.
type Growth func(tag culture.Tag, source string) float64

// Verdict is what Verify found on one screen: the findings, and the layouts
// they were found in.
type Verdict struct {
	Findings []finding.Finding
	Layouts  []*Layout
	// Faults are the faults of each layout.
	Faults [][]Fault
}

// group is one fault in several cultures and conditions: those at the usual
// text scale, and those in larger type alone.
type group struct {
	usual, larger seen
}

// seen is the worst fault of a group, and where it was.
type seen struct {
	fault                Fault
	cultures, conditions []string
}

func (s *seen) add(f Fault, tag, condition string) {
	if s.cultures == nil || f.Pixels > s.fault.Pixels {
		s.fault = f
	}
	if !slices.Contains(s.cultures, tag) {
		s.cultures = append(s.cultures, tag)
	}
	if !slices.Contains(s.conditions, condition) {
		s.conditions = append(s.conditions, condition)
	}
}

// without returns the cultures that the other does not have.
func (s *seen) without(other *seen) []string {
	return slices.DeleteFunc(slices.Clone(s.cultures), func(tag string) bool { return slices.Contains(other.cultures, tag) })
}

// Verify lays a screen out in all cultures on all its devices at all its text
// scales, and joins the same fault in several of them to one finding. The first
// culture is the source. Growth may be nil: then nothing is tested for texts
// that are not translated yet.
func Verify(s *screen.Screen, cultures []culture.Tag, source Source, setter *text.Setter, growth Growth) *Verdict {
	v := &Verdict{}
	var groups []*group
	index := map[string]*group{}
	for _, device := range s.Devices {
		for _, scale := range s.Scales {
			keep := func(faults []Fault, tag culture.Tag) {
				for _, f := range faults {
					id := fmt.Sprintf("%s %d %s", f.Rule, f.Box.Node.Line, f.Box.Node.Title())
					g := index[id]
					if g == nil {
						g = &group{}
						index[id] = g
						groups = append(groups, g)
					}
					if scale <= 100 {
						g.usual.add(f, string(tag), device.Name)
					} else {
						g.larger.add(f, string(tag), fmt.Sprintf("%s at %d %%", device.Name, scale))
					}
				}
			}
			var first *Layout
			for _, tag := range cultures {
				if tag.Pseudo() && scale != 100 && len(s.Scales) > 1 {
					continue // longer texts than anybody's in larger type than most people's
				}
				l := Place(s, device, tag, source, setter, Options{Scale: scale})
				if first == nil {
					first = l
				}
				var mirror *Layout
				if tag.RightToLeft() {
					mirror = Place(s, device, tag, source, setter, Options{Scale: scale, LeftToRight: true})
				}
				faults := l.Check(mirror, first)
				v.Layouts, v.Faults = append(v.Layouts, l), append(v.Faults, faults)
				keep(faults, tag)
				if growth != nil && scale == 100 && !tag.Pseudo() {
					keep(tight(s, device, tag, source, setter, growth, faults), tag)
				}
			}
		}
	}
	for _, g := range groups {
		v.Findings = append(v.Findings, g.finding(s, cultures))
	}
	for _, f := range Fixed(s) {
		if !slices.ContainsFunc(v.Findings, func(known finding.Finding) bool {
			return known.Box == f.Box && (known.Rule == "clipped-text" || known.Rule == "lost-lines")
		}) {
			v.Findings = append(v.Findings, f)
			v.point(f)
		}
	}
	slices.SortStableFunc(v.Findings, func(a, b finding.Finding) int { return cmp.Compare(a.Line, b.Line) })
	return v
}

// point adds a finding that no layout was asked for to the faults of the first,
// where it can be shown.
func (v *Verdict) point(f finding.Finding) {
	if len(v.Layouts) == 0 {
		return
	}
	for _, b := range v.Layouts[0].Boxes {
		if b.Node.Title() == f.Box {
			v.Faults[0] = append(v.Faults[0], Fault{Rule: f.Rule, Box: b, Text: f.Message, Fix: f.Fix})
			return
		}
	}
}

// tight lays the texts that a culture has not translated out as long as
// translations of their length usually are, and gives what does not fit then.
func tight(s *screen.Screen, device screen.Device, tag culture.Tag, source Source, setter *text.Setter, growth Growth, already []Fault) []Fault {
	borrowed := false
	grown := Place(s, device, tag, source, setter, Options{Stretch: func(n *screen.Node, shown Shown) float64 {
		if shown.Own || n.Key == "" {
			return 1
		}
		borrowed = true
		return growth(tag, shown.Text)
	}})
	if !borrowed {
		return nil
	}
	var faults []Fault
	for _, f := range append(tooLarge(&view{Layout: grown}), outside(&view{Layout: grown})...) {
		if slices.ContainsFunc(already, func(known Fault) bool { return known.Box.Node.Line == f.Box.Node.Line }) {
			continue
		}
		what := "its text"
		if f.Rule == "off-screen" {
			what = "what is in it"
		}
		f.Rule, f.Text = "tight-fit", fmt.Sprintf("%s fits as it is; a translation of the usual length is %%d px too long", what)
		faults = append(faults, f)
	}
	return faults
}

// severities are those that are not errors.
var severities = map[string]finding.Severity{
	"ellipsed-text": finding.Warning, "tight-fit": finding.Advice, "target-small": finding.Warning, "glyph-missing": finding.Warning,
}

func (g *group) finding(s *screen.Screen, cultures []culture.Tag) finding.Finding {
	order := func(a, b string) int {
		return slices.Index(cultures, culture.Tag(a)) - slices.Index(cultures, culture.Tag(b))
	}
	slices.SortFunc(g.usual.cultures, order)
	slices.SortFunc(g.larger.cultures, order)
	most := &g.usual
	if len(most.cultures) == 0 {
		most = &g.larger
	}
	fault := most.fault
	n := fault.Box.Node
	at := n.Place(fault.Property)
	f := finding.Finding{
		Rule: fault.Rule, Severity: finding.Error, Path: s.Path, Line: at.Line, Column: at.Column,
		Screen: s.Name, Box: n.Title(), Pixels: fault.Pixels, Fix: fault.Fix, Key: n.Key,
	}
	if severity, ok := severities[f.Rule]; ok {
		f.Severity = severity
	}
	if f.Severity == finding.Error && !slices.ContainsFunc(g.usual.cultures, func(tag string) bool { return !culture.Tag(tag).Pseudo() }) {
		f.Severity = finding.Warning // only in larger type, or no translation has it yet
	}
	wrong := fault.Text
	if strings.Contains(wrong, "%d") {
		wrong = strings.Replace(strings.ReplaceAll(wrong, "%%", "%"), "%d", fmt.Sprint(fault.Pixels), 1)
	}
	f.Message = n.Title()
	if most == &g.larger || len(most.conditions) < len(s.Devices) {
		f.Message += " on " + strings.Join(most.conditions[:min(len(most.conditions), 3)], ", ")
	}
	f.Message += ": " + wrong + " in " + strings.Join(most.cultures, ", ")
	also := g.larger.without(&g.usual)
	if most == &g.usual && len(also) > 0 {
		f.Message += "; in larger type in " + strings.Join(also, ", ") + ", too"
	}
	f.Cultures = slices.Concat(g.usual.cultures, also)
	slices.SortFunc(f.Cultures, order)
	if fine := fine(cultures, f.Cultures); len(fine) > 0 {
		f.Message += " (fine in " + strings.Join(fine, ", ") + ")"
	}
	return f
}

// fine lists up to four cultures without the fault.
func fine(all []culture.Tag, bad []string) []string {
	var list []string
	for _, tag := range all {
		if !slices.Contains(bad, string(tag)) {
			list = append(list, string(tag))
		}
	}
	if len(list) > 4 {
		list = append(list[:4], fmt.Sprintf("%d more", len(list)-4))
	}
	return list
}
