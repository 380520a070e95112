package layout

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"zelvik/finding"
	"zelvik/screen"
	"zelvik/screen/text"
)

// Fault is one thing wrong with a box in one culture, on one device at one
// text scale.
type Fault struct {
	Rule   string
	Box    *Box
	Pixels int
	// Text says what is wrong, with %d for the pixels; Fix what to do, Property
	// where.
	Text, Fix, Property string
}

// view is a layout with what it is compared with.
type view struct {
	*Layout
	// mirror is the same laid out from left to right, nil in cultures that run
	// so; source the same in the source culture.
	mirror, source *Layout
}

// checks are the rules that look at one layout. Adding a rule is adding its
// function here, and its Rule in package verify.
var checks = []func(*view) []Fault{
	tooLarge, outside, covered, unmirrored, wrongWay, scrambled, noGlyph, smallTarget,
}

// Check looks for what is wrong with a layout. Mirror is the same culture laid
// out from left to right, nil in cultures that run so; source the same screen
// in the source culture, nil to compare with nothing.
func (l *Layout) Check(mirror, source *Layout) []Fault {
	v := &view{l, mirror, source}
	var faults []Fault
	for _, check := range checks {
		faults = append(faults, check(v)...)
	}
	return faults
}

// tooLarge finds texts that are wider or higher than their boxes
// (clipped-text, lost-lines), or were cut with an ellipsis (ellipsed-text).
func tooLarge(v *view) []Fault {
	var faults []Fault
	for _, b := range v.Boxes {
		if b.Paragraph == nil || b.Text == "" {
			continue
		}
		n := b.Node
		if b.Ellipsed {
			over := int(math.Ceil(b.Natural)) - b.Content.Width*max(len(b.Paragraph.Lines), 1)
			faults = append(faults, Fault{"ellipsed-text", b, max(over, 1), "%d px of the text are cut off with an ellipsis", "give it more room or lines, or shorten the text", "overflow"})
			continue
		}
		if over := int(math.Ceil(b.Paragraph.Width*b.Stretched)) - b.Content.Width; over > 0 {
			fix, property := "let the text wrap, or give the box more room", "overflow"
			switch {
			case n.Width.Units > 0:
				fix, property = "let the box fit its text (width: fit) or fill its row (width: fill)", "width"
			case n.Width.Most > 0:
				fix, property = fmt.Sprintf("raise most of its width by %d", over), "width"
			case n.Kind == "tab":
				fix, property = "fewer tabs, shorter texts, or overflow: shrink", "items"
			case n.Overflow == "shrink":
				fix, property = "lower smallest, or let the text wrap", "smallest"
			}
			faults = append(faults, Fault{"clipped-text", b, over, "the text is %d px wider than its box", fix, property})
			continue
		}
		height := lineHeight(b.Style) * len(b.Paragraph.Lines)
		if n.Lines > 0 && len(b.Paragraph.Lines) > n.Lines {
			faults = append(faults, Fault{"lost-lines", b, height - b.Content.Height, fmt.Sprintf("the text needs %d lines and has %d; %%d px are cut", len(b.Paragraph.Lines), n.Lines), "allow more lines, or shorten the text", "lines"})
		} else if over := height - b.Content.Height; over > 0 && b.Content.Height < n.Height.Bound(height) {
			faults = append(faults, Fault{"lost-lines", b, over, "the text is %d px higher than its box", "let the box fit its text (height: fit)", "height"})
		}
	}
	return faults
}

// outside finds boxes that leave their parent, or the device. What is inside a
// box that is outside is not told again, nor what a scroll shows.
func outside(v *view) []Fault {
	var faults []Fault
	for _, b := range v.Boxes {
		within := Frame{0, 0, v.Device.Width, v.Device.Height}
		if b.Parent != nil {
			within = b.Parent.Frame
			if b.Parent.Node.Kind == "scroll" {
				within.Y, within.Height = b.Frame.Y, b.Frame.Height
			}
		}
		over := max(within.X-b.Frame.X, b.Frame.X+b.Frame.Width-within.X-within.Width, within.Y-b.Frame.Y, b.Frame.Y+b.Frame.Height-within.Y-within.Height)
		if over <= 0 {
			continue
		}
		fix := "let boxes share the width (width: fill), or make the row a column"
		if b.Frame.Y < within.Y || b.Frame.Y+b.Frame.Height > within.Y+within.Height {
			fix = "let its parent fit it (height: fit), or put it into a scroll"
		}
		faults = append(faults, Fault{"off-screen", b, over, "the box leaves its parent by %d px", fix, "width"})
	}
	return faults
}

// ink is where a box has ink: its lines of text, or its picture.
func (b *Box) ink() (Frame, bool) {
	switch {
	case b.Node.Kind == "icon":
		return b.Frame, true
	case b.Paragraph == nil || b.Text == "":
		return Frame{}, false
	}
	width, height := int(math.Ceil(b.Paragraph.Width*b.Stretched)), lineHeight(b.Style)*len(b.Paragraph.Lines)
	width, height = min(width, b.Frame.Width), min(height, b.Frame.Height)
	f := Frame{b.Content.X, b.Content.Y, width, height}
	if b.Style.RightToLeft {
		f.X = b.Content.X + b.Content.Width - width
	}
	if centred(b.Node.Kind) {
		f.X = b.Content.X + (b.Content.Width-width)/2
	}
	return f, true
}

// centred reports whether a kind shows its text in its middle.
func centred(kind string) bool { return kind == "button" || kind == "tab" }

// covered finds pairs of boxes whose ink overlaps, which does not in the
// source.
func covered(v *view) []Fault {
	if v.source == nil || v.Culture == v.source.Culture && v.Scale == 100 {
		return nil
	}
	known := map[string]bool{}
	for _, pair := range overlaps(v.source) {
		known[pair.id] = true
	}
	var faults []Fault
	for _, pair := range overlaps(v.Layout) {
		if !known[pair.id] {
			faults = append(faults, Fault{"covered", pair.upper, pair.pixels, "%d px of it lie on " + pair.lower.Node.Title(), "place them in a row or a column, which make room for the text", "at"})
		}
	}
	return faults
}

type overlap struct {
	id           string
	upper, lower *Box
	pixels       int
}

// overlaps lists the boxes whose ink lies on that of another one.
func overlaps(l *Layout) []overlap {
	type drawn struct {
		*Box
		ink Frame
		id  string
	}
	var list []drawn
	count := map[string]int{}
	for _, b := range l.Boxes {
		if ink, ok := b.ink(); ok {
			id := fmt.Sprintf("%d %s", b.Node.Line, b.Node.Kind)
			count[id]++
			list = append(list, drawn{b, ink, fmt.Sprintf("%s %d", id, count[id])})
		}
	}
	slices.SortStableFunc(list, func(a, b drawn) int { return a.ink.Y - b.ink.Y })
	var found []overlap
	for i, a := range list {
		for _, b := range list[i+1:] {
			if b.ink.Y >= a.ink.Y+a.ink.Height-1 || len(found) > 100 {
				break
			}
			wide := min(a.ink.X+a.ink.Width, b.ink.X+b.ink.Width) - max(a.ink.X, b.ink.X)
			if wide > 1 {
				first, second := a, b
				if second.id < first.id {
					first, second = second, first
				}
				found = append(found, overlap{first.id + "/" + second.id, first.Box, second.Box, wide})
			}
		}
	}
	return found
}

// unmirrored finds boxes that are not where the mirror image of the
// left-to-right layout has them. A unit of rounding is allowed.
func unmirrored(v *view) []Fault {
	if v.mirror == nil {
		return nil
	}
	var faults []Fault
	for i, b := range v.Boxes {
		ltr := v.mirror.Boxes[i]
		if b.Parent == nil || b.Parent.Node.Kind == "scroll" {
			continue
		}
		want := ltr.Parent.Frame.X + ltr.Parent.Frame.Width - ltr.Frame.X - ltr.Frame.Width
		have := b.Frame.X - b.Parent.Frame.X
		off := max(want-have, have-want)
		if off <= 1 {
			continue
		}
		if b.Parent.Node.Padding.Absolute() { // it moves all that is in it
			faults = append(faults, Fault{"not-mirrored", b.Parent, off, "what is in the box is %d px from where the mirror image has it", "write start and end instead of left and right in padding", "padding"})
			continue
		}
		fix, property := cause(b.Node)
		faults = append(faults, Fault{"not-mirrored", b, off, "the box is %d px from where the mirror image has it", fix, property})
	}
	return faults
}

// cause names the absolute side that keeps a box from being mirrored.
func cause(n *screen.Node) (fix, property string) {
	switch {
	case n.Align == "left":
		return "write align: start instead of left", "align"
	case n.Align == "right":
		return "write align: end instead of right", "align"
	case n.Margin.Absolute():
		return "write start and end instead of left and right in margin", "margin"
	case n.At.Absolute():
		return "write start and end instead of left and right in at", "at"
	}
	return "write start and end instead of left and right", ""
}

// The pictures whose meaning is a direction of reading, and those whose is not.
var (
	pointing = strings.Fields("back next forward send undo redo reply share exit enter list speaker walk sailing indent outdent")
	standing = strings.Fields("clock logo play pause stop record rewind skip check cross plus minus search menu person wind map star heart bell lock phone camera download upload")
)

// wrongWay finds icons that point and are not mirrored, and icons that do not
// and are.
func wrongWay(v *view) []Fault {
	if !v.Culture.RightToLeft() {
		return nil
	}
	var faults []Fault
	for _, b := range v.Boxes {
		n := b.Node
		if n.Kind != "icon" && n.Kind != "image" {
			continue
		}
		switch {
		case slices.Contains(pointing, n.Picture) && !n.Directional:
			faults = append(faults, Fault{"pointing-wrong", b, 0, "the picture " + n.Picture + " points, and is not mirrored", "write directional: true", "picture"})
		case slices.Contains(standing, n.Picture) && n.Directional:
			faults = append(faults, Fault{"pointing-wrong", b, 0, "the picture " + n.Picture + " points nowhere, and is mirrored", "take directional: true away", "directional"})
		}
	}
	return faults
}

// scrambled finds texts that a platform shows in another order than they are
// meant to be read in, because an argument runs the other way.
func scrambled(v *view) []Fault {
	var faults []Fault
	for _, b := range v.Boxes {
		if b.Paragraph == nil || b.Bare == b.Text {
			continue
		}
		base := 0
		if v.Culture.RightToLeft() {
			base = 1
		}
		have, want := []rune(text.Visual(b.Bare, base)), []rune(text.Visual(b.Text, base))
		if slices.Equal(have, want) {
			continue
		}
		for len(have) > 1 && len(want) > 1 && have[0] == want[0] { // what both begin and end with is as it should be
			have, want = have[1:], want[1:]
		}
		for len(have) > 1 && len(want) > 1 && have[len(have)-1] == want[len(want)-1] {
			have, want = have[:len(have)-1], want[:len(want)-1]
		}
		faults = append(faults, Fault{"scrambled-text", b, 0, fmt.Sprintf("%q is shown as %q without an isolate", string(want), string(have)),
			"isolate the argument: U+2068 before it and U+2069 after it, or the generated accessors, which do so", "key"})
	}
	return faults
}

// noGlyph finds characters that no font has: one fault for the first box, and
// the characters of all.
func noGlyph(v *view) []Fault {
	var missing []rune
	var first *Box
	for _, b := range v.Boxes {
		if b.Paragraph == nil {
			continue
		}
		for _, r := range b.Paragraph.Missing {
			if !slices.Contains(missing, r) {
				missing = append(missing, r)
			}
		}
		if len(missing) > 0 && first == nil {
			first = b
		}
	}
	if first == nil {
		return nil
	}
	shown := string(missing[:min(len(missing), 6)])
	return []Fault{{"glyph-missing", first, 0, fmt.Sprintf("no font has %s (%s)", count(len(missing), "character"), shown), "name a font that has them under fonts in zelvik.yaml, or write system there", ""}}
}

func count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// smallTarget finds what is pressed and is smaller than a finger.
func smallTarget(v *view) []Fault {
	var faults []Fault
	for _, b := range v.Boxes {
		n := b.Node
		if n.Target == 0 || n.Kind == "radio" || n.Kind == "tabs" {
			continue
		}
		side, length := "wide", b.Frame.Width
		if b.Frame.Height < length {
			side, length = "high", b.Frame.Height
		}
		if under := n.Target - length; under > 0 {
			faults = append(faults, Fault{"target-small", b, under, fmt.Sprintf("it is %d units %s, %%d px less than a finger needs (%d)", length, side, n.Target), "give it padding, or a least width and height", "target"})
		}
	}
	return faults
}

// Fixed finds texts in boxes of a fixed width that keep to one line, where a
// box that fits would do. It asks no layout, as it is so in every culture.
func Fixed(s *screen.Screen) []finding.Finding {
	var list []finding.Finding
	s.Walk(func(n *screen.Node) {
		if n.Width.Units == 0 || n.Key == "" || n.Overflow == "shrink" || n.Overflow == "ellipsis" || !(oneLine(n) || n.Height.Units > 0) {
			return
		}
		at := n.Place("width")
		list = append(list, finding.Finding{
			Rule: "fixed-width-text", Severity: finding.Advice, Path: s.Path, Line: at.Line, Column: at.Column, Key: n.Key, Screen: s.Name, Box: n.Title(),
			Message: fmt.Sprintf("%s has a width of %d units, whatever its text says", n.Title(), n.Width.Units),
			Fix:     fmt.Sprintf("width: fit, or {least: %d}", n.Width.Units),
		})
	})
	return list
}
