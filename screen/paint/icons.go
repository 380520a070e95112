package paint

import (
	"image/color"
	"math"
	"sort"
)

// icons are the pictures there are, as polygons in a square of one unit.
var icons = map[string][][][2]float64{
	"back":   {{{0.62, 0.1}, {0.76, 0.24}, {0.5, 0.5}, {0.76, 0.76}, {0.62, 0.9}, {0.22, 0.5}}},
	"next":   {{{0.38, 0.1}, {0.24, 0.24}, {0.5, 0.5}, {0.24, 0.76}, {0.38, 0.9}, {0.78, 0.5}}},
	"menu":   {{{0.1, 0.2}, {0.9, 0.2}, {0.9, 0.3}, {0.1, 0.3}}, {{0.1, 0.45}, {0.9, 0.45}, {0.9, 0.55}, {0.1, 0.55}}, {{0.1, 0.7}, {0.9, 0.7}, {0.9, 0.8}, {0.1, 0.8}}},
	"ferry":  {{{0.06, 0.62}, {0.94, 0.62}, {0.78, 0.86}, {0.2, 0.86}}, {{0.24, 0.38}, {0.7, 0.38}, {0.8, 0.56}, {0.24, 0.56}}, {{0.34, 0.16}, {0.46, 0.16}, {0.46, 0.34}, {0.34, 0.34}}},
	"person": {ring(0.5, 0.3, 0.18), {{0.16, 0.9}, {0.24, 0.62}, {0.4, 0.54}, {0.6, 0.54}, {0.76, 0.62}, {0.84, 0.9}}},
	"clock":  {ring(0.5, 0.5, 0.42)},
	"send":   {{{0.08, 0.14}, {0.94, 0.5}, {0.08, 0.86}, {0.16, 0.56}, {0.6, 0.5}, {0.16, 0.44}}},
	"undo":   {{{0.34, 0.12}, {0.34, 0.3}, {0.62, 0.3}, {0.86, 0.48}, {0.86, 0.84}, {0.72, 0.84}, {0.72, 0.54}, {0.58, 0.44}, {0.34, 0.44}, {0.34, 0.62}, {0.08, 0.37}}},
	"check":  {{{0.12, 0.5}, {0.24, 0.38}, {0.42, 0.56}, {0.76, 0.2}, {0.88, 0.32}, {0.42, 0.8}}},
	"cross":  {{{0.2, 0.1}, {0.5, 0.4}, {0.8, 0.1}, {0.9, 0.2}, {0.6, 0.5}, {0.9, 0.8}, {0.8, 0.9}, {0.5, 0.6}, {0.2, 0.9}, {0.1, 0.8}, {0.4, 0.5}, {0.1, 0.2}}},
	"plus":   {{{0.44, 0.12}, {0.56, 0.12}, {0.56, 0.44}, {0.88, 0.44}, {0.88, 0.56}, {0.56, 0.56}, {0.56, 0.88}, {0.44, 0.88}, {0.44, 0.56}, {0.12, 0.56}, {0.12, 0.44}, {0.44, 0.44}}},
	"play":   {{{0.24, 0.12}, {0.84, 0.5}, {0.24, 0.88}}},
	"phone":  {{{0.28, 0.06}, {0.72, 0.06}, {0.72, 0.94}, {0.28, 0.94}}},
	"map":    {{{0.08, 0.2}, {0.36, 0.1}, {0.36, 0.8}, {0.08, 0.9}}, {{0.38, 0.1}, {0.62, 0.2}, {0.62, 0.9}, {0.38, 0.8}}, {{0.64, 0.2}, {0.92, 0.1}, {0.92, 0.8}, {0.64, 0.9}}},
	"wind":   {{{0.08, 0.3}, {0.74, 0.3}, {0.74, 0.38}, {0.08, 0.38}}, {{0.08, 0.47}, {0.92, 0.47}, {0.92, 0.55}, {0.08, 0.55}}, {{0.08, 0.64}, {0.56, 0.64}, {0.56, 0.72}, {0.08, 0.72}}},
}

// ring makes a disc of 24 corners.
func ring(x, y, radius float64) [][2]float64 {
	var points [][2]float64
	for i := range 24 {
		angle := float64(i) * math.Pi / 12
		points = append(points, [2]float64{x + radius*math.Cos(angle), y + radius*math.Sin(angle)})
	}
	return points
}

// Icons lists the names of the pictures.
func Icons() []string {
	var list []string
	for name := range icons {
		list = append(list, name)
	}
	sort.Strings(list)
	return list
}

// icon draws a picture; one that is not known is a frame.
func (c *Canvas) icon(name string, x, y, size float64, mirrored bool, fill color.Color) {
	shapes, ok := icons[name]
	if !ok {
		c.Outline(x, y, size, size, c.Theme.Faint)
		return
	}
	for _, shape := range shapes {
		points := make([][2]float64, len(shape))
		for i, p := range shape {
			px := p[0]
			if mirrored {
				px = 1 - px
			}
			points[i] = [2]float64{x + px*size, y + p[1]*size}
		}
		c.Polygon(points, fill)
	}
	if name == "clock" {
		hand := c.Theme.Paper
		c.Polygon([][2]float64{{x + 0.46*size, y + 0.2*size}, {x + 0.54*size, y + 0.2*size}, {x + 0.54*size, y + 0.54*size}, {x + 0.46*size, y + 0.54*size}}, hand)
		c.Polygon([][2]float64{{x + 0.46*size, y + 0.46*size}, {x + 0.74*size, y + 0.46*size}, {x + 0.74*size, y + 0.54*size}, {x + 0.46*size, y + 0.54*size}}, hand)
	}
}
