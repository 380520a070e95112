package paint

import (
	"fmt"
	"image/color"
	"io"
	"math"
	"strconv"
	"strings"

	"github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"

	"zelvik/screen/text"
)

// drawing is a picture as SVG 1.1: rectangles, paths, and glyphs that are
// defined once.
type drawing struct {
	width, height int
	defs, body    strings.Builder
	glyphs        map[string]int
	clips         int
}

// NewDrawing makes a picture that is written as SVG, of a size in device units.
func NewDrawing(width, height int, theme Theme, setter *text.Setter) *Canvas {
	c := &Canvas{Theme: theme, Scale: 1, Setter: setter, svg: &drawing{width: width, height: height, glyphs: map[string]int{}}}
	c.Fill(0, 0, float64(width), float64(height), theme.Paper)
	return c
}

func (d *drawing) write(w io.Writer) error {
	_, err := fmt.Fprintf(w, `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d">
%s<defs>
%s</defs>
%s</svg>
`, d.width, d.height, drawnBy, d.defs.String(), d.body.String())
	return err
}

// short writes a length with at most two decimals.
func short(n float64) string { return strconv.FormatFloat(math.Round(n*100)/100, 'f', -1, 64) }

func hex(fill color.Color) string {
	r, g, b, _ := fill.RGBA()
	return fmt.Sprintf("#%02x%02x%02x", r>>8, g>>8, b>>8)
}

func (d *drawing) rect(x, y, w, h float64, fill color.Color) {
	fmt.Fprintf(&d.body, "<rect x=\"%s\" y=\"%s\" width=\"%s\" height=\"%s\" fill=\"%s\"/>\n", short(x), short(y), short(max(w, 0)), short(max(h, 0)), hex(fill))
}

func (d *drawing) polygon(points [][2]float64, fill color.Color) {
	d.body.WriteString("<polygon points=\"")
	for i, p := range points {
		if i > 0 {
			d.body.WriteByte(' ')
		}
		d.body.WriteString(short(p[0]) + "," + short(p[1]))
	}
	fmt.Fprintf(&d.body, "\" fill=\"%s\"/>\n", hex(fill))
}

// glyph uses the outline of a glyph, which is in the font's units and upside
// down.
func (d *drawing) glyph(g text.Glyph, outline font.GlyphOutline, x, y, scale float64, fill color.Color) {
	name := fmt.Sprintf("%s %v %d", g.Font.Name, g.Font.Bold, g.ID)
	id, ok := d.glyphs[name]
	if !ok {
		id = len(d.glyphs) + 1
		d.glyphs[name] = id
		fmt.Fprintf(&d.defs, "<path id=\"g%d\" d=\"", id)
		for _, s := range outline.Segments {
			d.defs.WriteString(map[ot.SegmentOp]string{ot.SegmentOpMoveTo: "M", ot.SegmentOpLineTo: "L", ot.SegmentOpQuadTo: "Q", ot.SegmentOpCubeTo: "C"}[s.Op])
			for i, p := range s.ArgsSlice() {
				if i > 0 {
					d.defs.WriteByte(' ')
				}
				fmt.Fprintf(&d.defs, "%g %g", p.X, p.Y)
			}
		}
		d.defs.WriteString("Z\"/>\n")
	}
	fmt.Fprintf(&d.body, "<use xlink:href=\"#g%d\" transform=\"matrix(%s 0 0 %s %s %s)\" fill=\"%s\"/>\n", id,
		strconv.FormatFloat(scale, 'g', 5, 64), strconv.FormatFloat(-scale, 'g', 5, 64), short(x), short(y), hex(fill))
}

func (d *drawing) clip(x, y, w, h float64) (restore func()) {
	d.clips++
	fmt.Fprintf(&d.defs, "<clipPath id=\"c%d\"><rect x=\"%s\" y=\"%s\" width=\"%s\" height=\"%s\"/></clipPath>\n", d.clips, short(x), short(y), short(max(w, 0)), short(max(h, 0)))
	fmt.Fprintf(&d.body, "<g clip-path=\"url(#c%d)\">\n", d.clips)
	return func() { d.body.WriteString("</g>\n") }
}
