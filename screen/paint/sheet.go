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
func Single(l *layout.Layout, scale float64, theme Theme, setter *text.Setter) *Canvas {
	c := NewCanvas(l.Device.Width, l.Device.Height, scale, theme, setter)
	c.Layout(l, 0, 0)
	return c
}

// margin is the space around and between the pictures of a sheet, in units.
const margin = 24

// Sheet draws layouts side by side, columns in a row, each with its culture
// above it; boxes with faults are outlined and numbered, and a legend says
// what is wrong with them.
func Sheet(title string, v *layout.Verdict, columns int, scale float64, theme Theme, setter *text.Setter) *Canvas {
	n := len(v.Layouts)
	columns = max(1, min(columns, n))
	rows := (n + columns - 1) / columns
	cellWidth, cellHeight := 0, 0
	for _, l := range v.Layouts {
		cellWidth, cellHeight = max(cellWidth, l.Device.Width), max(cellHeight, l.Device.Height)
	}
	width := margin + columns*(cellWidth+margin)
	legend := legendLines(v, width-2*margin, setter)
	const caption, heading, entry = 34, 40, 24
	height := margin + heading + rows*(cellHeight+caption+margin)
	if len(legend) > 0 {
		height += entry*len(legend) + margin
	}
	c := NewCanvas(width, height, scale, theme, setter)
	c.Fill(0, 0, float64(width), float64(height), theme.Table)
	c.Text(title, margin, 14, 22, true, theme.Ink)
	for i, l := range v.Layouts {
		x := float64(margin + i%columns*(cellWidth+margin))
		y := float64(margin + heading + i/columns*(cellHeight+caption+margin))
		used := c.Text(string(l.Culture), x, y-4, 16, true, theme.Ink)
		note := l.Culture.Name()
		if own := l.Culture.OwnName(); own != note && !missing(own, setter) {
			note += ", " + own
		}
		if len(l.Screen.Devices) > 1 {
			note += ", " + l.Device.Name
		}
		c.Text(note, x+used+10, y-2, 14, false, theme.Faint)
		y += caption - 8
		c.Fill(x, y, float64(l.Device.Width), float64(l.Device.Height), theme.Paper)
		c.Layout(l, x, y)
		for _, f := range v.Faults[i] {
			c.mark(v, l, f, x, y)
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

// mark outlines a faulty box and puts its finding's number beside it.
func (c *Canvas) mark(v *layout.Verdict, l *layout.Layout, f layout.Fault, x, y float64) {
	defer c.Clip(x-margin/2, y-margin/2, float64(l.Device.Width+margin), float64(l.Device.Height+margin))()
	bx, by := x+float64(f.Box.Frame.X), y+float64(f.Box.Frame.Y)
	w, h := float64(f.Box.Frame.Width), float64(f.Box.Frame.Height)
	c.Outline(bx-2, by-2, w+4, h+4, c.Theme.Fault)
	number := 0
	for i, found := range v.Findings {
		if found.Rule == f.Rule && found.Line == f.Box.Node.Line {
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

// Columns gives how many pictures of a width stand side by side well.
func Columns(cultures []culture.Tag) int {
	switch n := len(cultures); {
	case n <= 4:
		return n
	case n <= 8:
		return 4
	}
	return 6
}
