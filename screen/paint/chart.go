package paint

import (
	"fmt"
	"math"

	"zelvik/screen/growth"
	"zelvik/screen/text"
)

// Growth draws how translations grow: a row for each culture, a bar from the
// median to the 90th percentile, a tick at the worst.
func Growth(stats growth.Measured, o Options, setter *text.Setter) *Canvas {
	const left, right, top, row, bottom, width = 240, 90, 84, 34, 56, 960
	height := top + row*len(stats) + bottom
	c := o.canvas(width, height, setter)
	most := 1.5
	for _, s := range stats {
		most = math.Max(most, s.Worst)
	}
	most = math.Ceil(most*2) / 2
	least := 1.0
	for _, s := range stats {
		least = math.Min(least, math.Floor(s.Median*2)/2)
	}
	at := func(factor float64) float64 { return left + (factor-least)/(most-least)*(width-left-right) }
	c.Text("How much longer translations are than their source", 24, 18, 20, true, c.Theme.Ink)
	c.Text("characters, in percent of the source: bar from the median to nine of ten texts, tick at the longest", 24, 48, 13, false, c.Theme.Faint)
	step := 0.5
	for n := 1; (most-least)/step > 8; n++ {
		step = 0.5 * float64(n)
	}
	for factor := least; factor <= most+0.001; factor += step {
		x := math.Round(at(factor))
		line := c.Theme.Table
		if factor == 1 {
			line = c.Theme.Faint
		}
		c.Fill(x, top-6, 1, float64(row*len(stats)+12), line)
		label := fmt.Sprintf("%.0f %%", factor*100)
		used := c.Setter.Set(label, text.Style{Size: 13}, 0).Width
		c.Text(label, x-used/2, float64(top+row*len(stats)+12), 13, false, c.Theme.Faint)
	}
	for i, s := range stats {
		y := float64(top + row*i)
		used := c.Text(string(s.Culture), 24, y+5, 15, true, c.Theme.Ink)
		name := c.Setter.Cut(s.Culture.Name(), text.Style{Size: 13}, left-24-used-18, 1)
		c.Line(name.Lines[0], 24+used+8, y+7+13*text.Ascent, 13, c.Theme.Faint)
		c.Fill(at(s.Median), y+8, math.Max(at(s.Ninth)-at(s.Median), 3), row-16, c.Theme.Accent)
		c.Fill(at(s.Ninth), y+row/2-1, math.Max(at(s.Worst)-at(s.Ninth), 0), 2, c.Theme.Faint)
		c.Fill(at(s.Worst)-1, y+9, 3, row-18, c.Theme.Ink)
		c.Text(fmt.Sprintf("%.0f %%", s.Worst*100), at(s.Worst)+8, y+7, 13, false, c.Theme.Ink)
	}
	return c
}
