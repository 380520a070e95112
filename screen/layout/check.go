package layout

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"zelvik/culture"
	"zelvik/finding"
	"zelvik/screen"
	"zelvik/screen/text"
)

// Fault is one thing wrong with a box in one culture on one device.
type Fault struct {
	Rule   string
	Box    *Box
	Pixels int
	// Text says what is wrong, with %d for the pixels; Mend what to do.
	Text, Mend string
}

// Check looks for what does not fit: texts that are cut and boxes that leave
// their parent. Mirror is the same culture laid out from left to right, for a
// right-to-left culture; nil otherwise.
func (l *Layout) Check(mirror *Layout) []Fault {
	var faults []Fault
	for _, b := range l.Boxes {
		if f, ok := clipped(b); ok {
			faults = append(faults, f)
		}
		if f, ok := outside(b, l.Device); ok {
			faults = append(faults, f)
		}
	}
	if mirror != nil {
		for i, b := range l.Boxes {
			if f, ok := unmirrored(b, mirror.Boxes[i]); ok {
				faults = append(faults, f)
			}
		}
	}
	return faults
}

// clipped finds a text that is wider or higher than its box.
func clipped(b *Box) (Fault, bool) {
	if b.Paragraph == nil || b.Text == "" {
		return Fault{}, false
	}
	label := b.Node.Text()
	width := b.Paragraph.Width
	if over := int(math.Ceil(width)) - b.Content.Width; over > 0 {
		mend := "let the box fit its text (width: fit) or fill its row (width: fill)"
		if b.Node.Common().Width.Units == 0 {
			mend = "let the text wrap, or give the box more room"
		}
		return Fault{"clipped-text", b, over, "the text is %d px wider than its box", mend}, true
	}
	height := int(math.Round(b.Style.Size*text.LineHeight)) * len(b.Paragraph.Lines)
	if label.Lines > 0 && len(b.Paragraph.Lines) > label.Lines {
		return Fault{"clipped-text", b, height - b.Content.Height, fmt.Sprintf("the text needs %d lines and has %d, %%d px are cut", len(b.Paragraph.Lines), label.Lines), "allow more lines, or shorten the text"}, true
	}
	if over := height - b.Content.Height; over > 0 {
		return Fault{"clipped-text", b, over, "the text is %d px higher than its box", "let the box fit its text (height: fit)"}, true
	}
	return Fault{}, false
}

// outside finds a box that leaves its parent, or the device. Boxes inside one
// that is outside are not told again.
func outside(b *Box, device screen.Device) (Fault, bool) {
	within := Frame{0, 0, device.Width, device.Height}
	if b.Parent != nil {
		within = b.Parent.Frame
	}
	over := max(within.X-b.Frame.X, b.Frame.X+b.Frame.Width-within.X-within.Width, within.Y-b.Frame.Y, b.Frame.Y+b.Frame.Height-within.Y-within.Height)
	if over <= 0 {
		return Fault{}, false
	}
	return Fault{"off-screen", b, over, "the box leaves its parent by %d px", "let boxes share the width (width: fill), or make the row a column"}, true
}

// unmirrored compares a box's place in its parent with the mirror image of the
// left-to-right layout. A unit of rounding is allowed.
func unmirrored(b, ltr *Box) (Fault, bool) {
	if b.Parent == nil {
		return Fault{}, false
	}
	want := ltr.Parent.Frame.X + ltr.Parent.Frame.Width - ltr.Frame.X - ltr.Frame.Width
	have := b.Frame.X - b.Parent.Frame.X
	if off := max(want-have, have-want); off > 1 {
		if above := b.Parent.Node.Common().Padding; above.Left != above.Right {
			b = b.Parent // its padding moves all that is in it
			return Fault{"not-mirrored", b, off, "what is in the box is %d px from where the mirror image has it", "write start and end instead of left and right in padding"}, true
		}
		return Fault{"not-mirrored", b, off, "the box is %d px from where the mirror image has it", cause(b.Node)}, true
	}
	return Fault{}, false
}

// cause names the absolute side that keeps a box from being mirrored.
func cause(n *screen.Node) string {
	common := n.Common()
	switch {
	case common.Align == "left":
		return "write align: start instead of left"
	case common.Align == "right":
		return "write align: end instead of right"
	case common.Margin.Left != common.Margin.Right:
		return "write start and end instead of left and right in margin"
	}
	return "write start and end instead of left and right"
}

// Verdict is what Verify found on one screen: the findings, and the layouts
// they were found in.
type Verdict struct {
	Findings []finding.Finding
	Layouts  []*Layout
	// Faults are the faults of each layout.
	Faults [][]Fault
}

// Verify lays a screen out in all cultures on all its devices and joins the
// same fault in several cultures to one finding.
func Verify(s *screen.Screen, cultures []culture.Tag, source Source, setter *text.Setter) *Verdict {
	v := &Verdict{}
	type group struct {
		fault    Fault
		device   string
		cultures []string
	}
	var groups []*group
	index := map[string]*group{}
	for _, device := range s.Devices {
		for _, tag := range cultures {
			l := Place(s, device, tag, source, setter, false)
			var mirror *Layout
			if tag.RightToLeft() {
				mirror = Place(s, device, tag, source, setter, true)
			}
			faults := l.Check(mirror)
			v.Layouts, v.Faults = append(v.Layouts, l), append(v.Faults, faults)
			for _, f := range faults {
				id := fmt.Sprintf("%s %d %s %s", f.Rule, f.Box.Node.Line, f.Box.Node.Title(), device.Name)
				g := index[id]
				if g == nil {
					g = &group{f, device.Name, nil}
					index[id] = g
					groups = append(groups, g)
				}
				if f.Pixels > g.fault.Pixels {
					g.fault = f
				}
				if !slices.Contains(g.cultures, string(tag)) {
					g.cultures = append(g.cultures, string(tag))
				}
			}
		}
	}
	for _, g := range groups {
		n := g.fault.Box.Node
		f := finding.Finding{
			Rule: g.fault.Rule, Severity: finding.Error, Path: s.Path, Line: n.Line, Column: 1,
			Screen: s.Name, Box: n.Title(), Pixels: g.fault.Pixels, Cultures: g.cultures, Mend: g.fault.Mend,
		}
		if label := n.Text(); label != nil {
			f.Key = label.Key
		}
		f.Message = fmt.Sprintf("%s on %s: ", n.Title(), g.device) + fmt.Sprintf(g.fault.Text, g.fault.Pixels) + " in " + strings.Join(g.cultures, ", ")
		if !slices.ContainsFunc(g.cultures, func(tag string) bool { return !culture.Tag(tag).Pseudo() }) {
			f.Severity = finding.Warning // no translation has it yet
		}
		if fine := fine(cultures, g.cultures); len(fine) > 0 {
			f.Message += " (fine in " + strings.Join(fine, ", ") + ")"
		}
		v.Findings = append(v.Findings, f)
	}
	slices.SortStableFunc(v.Findings, func(a, b finding.Finding) int { return cmp.Compare(a.Line, b.Line) })
	return v
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
