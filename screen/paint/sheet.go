package paint

import (
	"fmt"
	"math"
	"strings"

	"zelvik/culture"
	"zelvik/screen/layout"
	"zelvik/screen/text"
)

// Single draws one layout alone.
func Single(l *layout.Layout, o Options, setter *text.Setter) *Canvas {
	c := o.canvas(l.Device.Width, l.Device.Height, setter)
	c.Layout(l, 0, 0)
	return c
}

// Options say how pictures are drawn.
type Options struct {
	Theme Theme
	// Scale is pixels per device unit.
	Scale float64
	// SVG draws shapes in place of pixels.
	SVG bool
}

func (o Options) canvas(width, height int, setter *text.Setter) *Canvas {
	if o.SVG {
		return NewDrawing(width, height, o.Theme, setter)
	}
	return NewCanvas(width, height, o.Scale, o.Theme, setter)
}

// margin is the space around and between the pictures of a sheet, in units.
const margin = 24

// sheetWidth is how wide a sheet is at most, in units, where its pictures are
// narrower: four phones side by side, or six where there are many cultures.
func sheetWidth(layouts []*layout.Layout) int {
	cultures := map[culture.Tag]bool{}
	for _, l := range layouts {
		cultures[l.Culture] = true
	}
	if len(cultures) <= 8 {
		return 1600
	}
	return 2400
}

// cell is the place of a layout on a sheet.
type cell struct{ x, y int }

// The heights of a sheet's captions, title and lines of the legend, in units.
const caption, heading, entry = 34, 40, 24

// arrange gives each layout its place, the devices in rows of their own, and
// the size of what they take up.
func arrange(layouts []*layout.Layout) (cells []cell, width, height int) {
	wide := sheetWidth(layouts)
	x, y, row := margin, margin+heading, 0
	for i, l := range layouts {
		if i > 0 && (l.Device != layouts[i-1].Device || x+l.Device.Width+margin > wide) {
			x, y, row = margin, y+row+caption+margin, 0
		}
		cells = append(cells, cell{x, y})
		x += l.Device.Width + margin
		row = max(row, l.Device.Height)
		width = max(width, x)
	}
	return cells, width, y + row + caption + margin
}

// Sheet draws layouts side by side, each with its culture above it; boxes with
// faults are outlined and numbered, and a legend says what is wrong with them.
func Sheet(title string, v *layout.Verdict, o Options, setter *text.Setter) *Canvas {
	theme := o.Theme
	cells, width, height := arrange(v.Layouts)
	legend := legendLines(v, width-2*margin, setter)
	if len(legend) > 0 {
		height += entry*len(legend) + margin
	}
	c := o.canvas(width, height, setter)
	c.Fill(0, 0, float64(width), float64(height), theme.Table)
	c.Text(title, margin, 14, 22, true, theme.Ink)
	for i, l := range v.Layouts {
		x, y := float64(cells[i].x), float64(cells[i].y)
		used := c.Text(string(l.Culture), x, y-4, 16, true, theme.Ink)
		note := l.Culture.Name()
		if own := l.Culture.OwnName(); own != note && !missing(own, setter) {
			note += ", " + own
		}
		if len(l.Screen.Devices) > 1 {
			note += ", " + l.Device.Name
		}
		if l.Scale != 100 {
			note += fmt.Sprintf(", %d %%", l.Scale)
		}
		short := setter.Cut(note, text.Style{Size: 14}, float64(l.Device.Width)-used-10, 1)
		c.Line(short.Lines[0], x+used+10, y-2+14*text.Ascent, 14, theme.Faint)
		y += caption - 8
		c.Fill(x, y, float64(l.Device.Width), float64(l.Device.Height), theme.Paper)
		c.Layout(l, x, y)
		for _, f := range v.Faults[i] {
			c.point(v, l, f, x, y)
		}
	}
	y := float64(height - entry*len(legend) - margin/2)
	for _, line := range legend {
		c.Text(line, margin, y, 14, false, theme.Ink)
		y += entry
	}
	return c
}

func missing(s string, setter *text.Setter) bool {
	return len(setter.Set(s, text.Style{Size: 14}, 0).Missing) > 0
}

// point outlines a faulty box and puts its finding's number beside it.
func (c *Canvas) point(v *layout.Verdict, l *layout.Layout, f layout.Fault, x, y float64) {
	defer c.Clip(x-margin/2, y-margin/2, float64(l.Device.Width+margin), float64(l.Device.Height+margin))()
	bx, by := x+float64(f.Box.Frame.X), y+float64(f.Box.Frame.Y)
	w, h := float64(f.Box.Frame.Width), float64(f.Box.Frame.Height)
	c.Outline(bx-2, by-2, w+4, h+4, c.Theme.Fault)
	number := 0
	for i, found := range v.Findings {
		if found.Rule == f.Rule && found.Box == f.Box.Node.Title() {
			number = i + 1
			break
		}
	}
	label := fmt.Sprint(number)
	size := 13.0
	used := c.Setter.Set(label, text.Style{Size: size, Bold: true}, 0).Width
	wide := math.Max(18, used+8)
	c.Fill(bx-2, by-18, wide, 18, c.Theme.Fault)
	c.Text(label, bx-2+(wide-used)/2, by-18, size, true, c.Theme.Paper)
}

// legendLines says what the numbers mean, a line each, broken to the width.
func legendLines(v *layout.Verdict, width int, setter *text.Setter) []string {
	var lines []string
	for i, f := range v.Findings {
		p := setter.Set(fmt.Sprintf("%d  %s: %s", i+1, f.Rule, strings.TrimSpace(f.Message)), text.Style{Size: 14}, float64(width))
		for _, line := range p.Lines {
			lines = append(lines, line.Text)
		}
	}
	return lines
}
