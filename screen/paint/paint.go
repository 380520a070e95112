// Package paint draws layouts as pictures: plain boxes, real type, the same
// pixels on every machine.
package paint

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"io"
	"math"

	"github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"golang.org/x/image/vector"

	"zelvik/screen/layout"
	"zelvik/screen/text"
)

// Theme is a set of colours.
type Theme struct {
	Paper, Ink, Soft, Accent, OnAccent, Faint, Fault, Table color.RGBA
}

// The themes.
var (
	Light = Theme{rgb(0xFCFBF8), rgb(0x24303A), rgb(0xEAEEF0), rgb(0x1F6F78), rgb(0xFFFFFF), rgb(0x7C8894), rgb(0xC2372E), rgb(0xD9E0E4)}
	Dark  = Theme{rgb(0x171D22), rgb(0xE4E8EA), rgb(0x252E36), rgb(0x4FA8B0), rgb(0x0C1418), rgb(0x8B97A2), rgb(0xFF7468), rgb(0x0C1013)}
)

func rgb(n uint32) color.RGBA {
	return color.RGBA{uint8(n >> 16), uint8(n >> 8), uint8(n), 255}
}

// Canvas is a picture that is being drawn. Scale is pixels per device unit.
type Canvas struct {
	Image  *image.RGBA
	Theme  Theme
	Scale  float64
	Setter *text.Setter
	raster vector.Rasterizer
	// clip bounds what is drawn.
	clip image.Rectangle
	// svg is what a drawing is written to in place of the picture.
	svg *drawing
}

// NewCanvas makes a picture of a size in device units.
func NewCanvas(width, height int, scale float64, theme Theme, setter *text.Setter) *Canvas {
	bounds := image.Rect(0, 0, int(math.Ceil(float64(width)*scale)), int(math.Ceil(float64(height)*scale)))
	c := &Canvas{Image: image.NewRGBA(bounds), Theme: theme, Scale: scale, Setter: setter, clip: bounds}
	draw.Draw(c.Image, bounds, image.NewUniform(theme.Paper), image.Point{}, draw.Src)
	return c
}

// Write writes the picture: PNG, or SVG where it is a drawing.
func (c *Canvas) Write(w io.Writer) error {
	if c.svg != nil {
		return c.svg.write(w)
	}
	encoder := png.Encoder{CompressionLevel: png.BestSpeed}
	var out bytes.Buffer
	if err := encoder.Encode(&out, c.Image); err != nil {
		return err
	}
	data := out.Bytes()
	for _, part := range [][]byte{data[:headEnd], software, data[headEnd:]} {
		if _, err := w.Write(part); err != nil {
			return err
		}
	}
	return nil
}

// headEnd is where the signature and the header of a PNG file end; the chunk
// that names the software goes after them (PNG 1.2, 11.3.4.3).
const headEnd = 8 + 25

var software = func() []byte {
	text := []byte("tEXtSoftware\x00Zelvik")
	chunk := binary.BigEndian.AppendUint32(nil, uint32(len(text)-4))
	return binary.BigEndian.AppendUint32(append(chunk, text...), crc32.ChecksumIEEE(text))
}()

// drawnBy is the line of an SVG file that says who drew it.
const drawnBy = "<!-- Drawn by Zelvik -->\n"

// Drawn reports whether a file is a picture that this package wrote.
func Drawn(data []byte) bool {
	return len(data) > headEnd && bytes.HasPrefix(data[headEnd:], software) || bytes.HasPrefix(data, []byte("<svg ")) && bytes.Contains(data[:min(len(data), 400)], []byte(drawnBy))
}

func (c *Canvas) rect(x, y, w, h float64) image.Rectangle {
	s := c.Scale
	return image.Rect(int(math.Round(x*s)), int(math.Round(y*s)), int(math.Round((x+w)*s)), int(math.Round((y+h)*s)))
}

// Fill fills a rectangle.
func (c *Canvas) Fill(x, y, w, h float64, fill color.Color) {
	if c.svg != nil {
		c.svg.rect(x, y, w, h, fill)
		return
	}
	draw.Draw(c.Image, c.rect(x, y, w, h).Intersect(c.clip), image.NewUniform(fill), image.Point{}, draw.Over)
}

// Outline draws the edge of a rectangle, two units wide.
func (c *Canvas) Outline(x, y, w, h float64, stroke color.Color) { c.frame(x, y, w, h, 2, stroke) }

// path fills a shape given by a function that draws it, in pixels.
func (c *Canvas) path(shape func(*vector.Rasterizer, image.Point), bounds image.Rectangle, fill color.Color) {
	bounds = bounds.Intersect(c.clip)
	if bounds.Empty() {
		return
	}
	c.raster.Reset(bounds.Dx(), bounds.Dy())
	c.raster.DrawOp = draw.Over
	shape(&c.raster, bounds.Min)
	c.raster.Draw(c.Image, bounds, image.NewUniform(fill), image.Point{})
}

// Polygon fills a shape with corners in device units.
func (c *Canvas) Polygon(points [][2]float64, fill color.Color) {
	if c.svg != nil {
		c.svg.polygon(points, fill)
		return
	}
	minX, minY, maxX, maxY := points[0][0], points[0][1], points[0][0], points[0][1]
	for _, p := range points {
		minX, maxX = min(minX, p[0]), max(maxX, p[0])
		minY, maxY = min(minY, p[1]), max(maxY, p[1])
	}
	s := c.Scale
	bounds := image.Rect(int(minX*s)-1, int(minY*s)-1, int(maxX*s)+2, int(maxY*s)+2)
	c.path(func(r *vector.Rasterizer, origin image.Point) {
		for i, p := range points {
			x, y := float32(p[0]*s)-float32(origin.X), float32(p[1]*s)-float32(origin.Y)
			if i == 0 {
				r.MoveTo(x, y)
			} else {
				r.LineTo(x, y)
			}
		}
		r.ClosePath()
	}, bounds, fill)
}

// Line draws the glyphs of a line, its left end at x, its baseline at y.
func (c *Canvas) Line(line text.Line, x, y, size float64, fill color.Color) {
	for _, g := range line.Glyphs {
		if g.Font == nil { // a box stands for a character that no font has
			if g.Width > 0 {
				c.Outline(x+g.X+1, y-size*0.78, g.Width-2, size*0.86, c.Theme.Faint)
			}
			continue
		}
		c.glyph(g, x, y, size, fill)
	}
}

func (c *Canvas) glyph(g text.Glyph, x, y, size float64, fill color.Color) {
	face := c.Setter.Face(g.Font)
	outline, ok := face.GlyphData(font.GID(g.ID)).(font.GlyphOutline)
	if !ok || len(outline.Segments) == 0 {
		return
	}
	if c.svg != nil {
		c.svg.glyph(g, outline, x+g.X, y-g.Y, size/float64(face.Upem()), fill)
		return
	}
	scale := size * c.Scale / float64(face.Upem())
	ox, oy := (x+g.X)*c.Scale, (y-g.Y)*c.Scale
	at := func(p ot.SegmentPoint) (float32, float32) {
		return float32(ox + float64(p.X)*scale), float32(oy - float64(p.Y)*scale)
	}
	minX, minY, maxX, maxY := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, s := range outline.Segments {
		for _, p := range s.ArgsSlice() {
			px, py := at(p)
			minX, maxX = min(minX, float64(px)), max(maxX, float64(px))
			minY, maxY = min(minY, float64(py)), max(maxY, float64(py))
		}
	}
	bounds := image.Rect(int(math.Floor(minX))-1, int(math.Floor(minY))-1, int(math.Ceil(maxX))+1, int(math.Ceil(maxY))+1)
	c.path(func(r *vector.Rasterizer, origin image.Point) {
		from := func(p ot.SegmentPoint) (float32, float32) {
			px, py := at(p)
			return px - float32(origin.X), py - float32(origin.Y)
		}
		for _, s := range outline.Segments {
			ax, ay := from(s.Args[0])
			switch s.Op {
			case ot.SegmentOpMoveTo:
				r.ClosePath()
				r.MoveTo(ax, ay)
			case ot.SegmentOpLineTo:
				r.LineTo(ax, ay)
			case ot.SegmentOpQuadTo:
				bx, by := from(s.Args[1])
				r.QuadTo(ax, ay, bx, by)
			case ot.SegmentOpCubeTo:
				bx, by := from(s.Args[1])
				cx, cy := from(s.Args[2])
				r.CubeTo(ax, ay, bx, by, cx, cy)
			}
		}
		r.ClosePath()
	}, bounds, fill)
}

// Clip bounds what is drawn from now on to a rectangle in device units; the
// function it gives takes the bound away again.
func (c *Canvas) Clip(x, y, w, h float64) (restore func()) {
	if c.svg != nil {
		return c.svg.clip(x, y, w, h)
	}
	before := c.clip
	c.clip = c.rect(x, y, w, h).Intersect(before)
	return func() { c.clip = before }
}

// Layout draws a placed screen with its top left corner at x, y.
func (c *Canvas) Layout(l *layout.Layout, x, y float64) {
	defer c.Clip(x, y, float64(l.Device.Width), float64(l.Device.Height))()
	for _, b := range l.Boxes {
		c.box(l, b, x, y)
	}
}

func (c *Canvas) box(l *layout.Layout, b *layout.Box, x, y float64) {
	fx, fy := x+float64(b.Frame.X), y+float64(b.Frame.Y)
	w, h := float64(b.Frame.Width), float64(b.Frame.Height)
	if scroll := scrolled(b); scroll != nil {
		defer c.Clip(x+float64(scroll.Frame.X), y+float64(scroll.Frame.Y), float64(scroll.Frame.Width), float64(scroll.Frame.Height))()
	}
	n := b.Node
	ink := c.Theme.Ink
	fill := n.Fill
	if n.Kind == "button" && fill == "" {
		fill = "accent"
	}
	switch fill {
	case "accent":
		c.Fill(fx, fy, w, h, c.Theme.Accent)
		ink = c.Theme.OnAccent
	case "soft":
		c.Fill(fx, fy, w, h, c.Theme.Soft)
	case "plain":
		c.Fill(fx, fy, w, h, c.Theme.Paper)
	}
	if b.Hint {
		ink = c.Theme.Faint
	}
	switch n.Kind {
	case "icon":
		size := min(w, h)
		c.icon(n.Picture, fx+(w-size)/2, fy+(h-size)/2, size, n.Directional && l.Culture.RightToLeft(), ink)
	case "image":
		c.image(n.Picture, fx, fy, w, h, n.Directional && l.Culture.RightToLeft())
	case "line":
		c.Fill(fx, fy, w, h, c.Theme.Table)
	case "field", "menu":
		c.frame(fx, fy, w, h, 1, c.Theme.Faint)
	case "tab":
		if c.Fill(fx, fy+h-1, w, 1, c.Theme.Table); b.Chosen {
			c.Fill(fx, fy+h-3, w, 3, c.Theme.Accent)
		}
	}
	c.mark(b, x, y)
	if b.Paragraph == nil {
		return
	}
	slack := 0.0
	if b.Paragraph.Height <= float64(b.Content.Height) {
		slack = b.Style.Size / 2 // the tails of letters may hang below their line
	}
	defer c.Clip(fx, fy-slack, w, h+2*slack)()
	c.paragraph(b, x, y, ink)
}

// scrolled returns the scroll that shows a box, or nil.
func scrolled(b *layout.Box) *layout.Box {
	for parent := b.Parent; parent != nil; parent = parent.Parent {
		if parent.Node.Kind == "scroll" {
			return parent
		}
	}
	return nil
}

// frame draws the edge of a rectangle, so many units wide.
func (c *Canvas) frame(x, y, w, h, line float64, stroke color.Color) {
	c.Fill(x, y, w, line, stroke)
	c.Fill(x, y+h-line, w, line, stroke)
	c.Fill(x, y, line, h, stroke)
	c.Fill(x+w-line, y, line, h, stroke)
}

// mark draws what a kind has beside its text: before it in check boxes and
// radio buttons, after it in switches and menus.
func (c *Canvas) mark(b *layout.Box, x, y float64) {
	const size, wide, high = 20.0, 40.0, 22.0
	rtl := b.Style.RightToLeft
	start := x + float64(b.Content.X) - 30
	end := x + float64(b.Content.X+b.Content.Width) + 10
	if rtl {
		start, end = x+float64(b.Content.X+b.Content.Width)+10, x+float64(b.Content.X)-50
	}
	middle := y + float64(b.Frame.Y) + float64(b.Frame.Height)/2
	top := middle - size/2
	switch b.Node.Kind {
	case "check":
		if !b.Node.On {
			c.frame(start, top, size, size, 2, c.Theme.Faint)
			return
		}
		c.Fill(start, top, size, size, c.Theme.Accent)
		c.Polygon([][2]float64{{start + 4, top + 10}, {start + 6, top + 8}, {start + 9, top + 11}, {start + 15, top + 5}, {start + 17, top + 7}, {start + 9, top + 15}}, c.Theme.OnAccent)
	case "option":
		edge := c.Theme.Faint
		if b.Chosen {
			edge = c.Theme.Accent
		}
		c.disc(start+size/2, middle, size/2, edge)
		c.disc(start+size/2, middle, size/2-2, c.Theme.Paper)
		if b.Chosen {
			c.disc(start+size/2, middle, size/2-5, c.Theme.Accent)
		}
	case "switch":
		track, knob := c.Theme.Faint, end+high/2
		if b.Node.On {
			track = c.Theme.Accent
		}
		if b.Node.On != rtl { // on is at the end of the track
			knob = end + wide - high/2
		}
		c.disc(end+high/2, middle, high/2, track)
		c.disc(end+wide-high/2, middle, high/2, track)
		c.Fill(end+high/2, middle-high/2, wide-high, high, track)
		c.disc(knob, middle, high/2-3, c.Theme.Paper)
	case "menu":
		tip := x + float64(b.Content.X+b.Content.Width) + 12
		if rtl {
			tip = x + float64(b.Content.X) - 12
		}
		c.Polygon([][2]float64{{tip - 5, middle - 3}, {tip + 5, middle - 3}, {tip, middle + 4}}, c.Theme.Ink)
	}
}

func (c *Canvas) disc(x, y, radius float64, fill color.Color) {
	points := ring(x, y, radius)
	c.Polygon(points, fill)
}

// image draws a picture that fills its box: a harbour map, or a frame.
func (c *Canvas) image(name string, x, y, w, h float64, mirrored bool) {
	c.Fill(x, y, w, h, c.Theme.Soft)
	if name != "map" {
		c.frame(x, y, w, h, 1, c.Theme.Faint)
		return
	}
	at := func(points ...[2]float64) [][2]float64 {
		out := make([][2]float64, len(points))
		for i, p := range points {
			if mirrored {
				p[0] = 1 - p[0]
			}
			out[i] = [2]float64{x + p[0]*w, y + p[1]*h}
		}
		return out
	}
	c.Polygon(at([2]float64{0, 0.55}, [2]float64{0.3, 0.48}, [2]float64{0.55, 0.62}, [2]float64{1, 0.5}, [2]float64{1, 1}, [2]float64{0, 1}), c.Theme.Table)
	for i := range 3 {
		left := 0.16 + 0.26*float64(i)
		c.Polygon(at([2]float64{left, 0.2}, [2]float64{left + 0.06, 0.2}, [2]float64{left + 0.06, 0.6}, [2]float64{left, 0.6}), c.Theme.Faint)
	}
	c.Polygon(at([2]float64{0.51, 0.36}, [2]float64{0.65, 0.36}, [2]float64{0.63, 0.46}, [2]float64{0.53, 0.46}), c.Theme.Accent)
}

// paragraph draws a text: from the side its culture begins at, in buttons and
// tabs in the middle; check boxes and their like stand in the middle of their
// height.
func (c *Canvas) paragraph(b *layout.Box, x, y float64, ink color.Color) {
	cx, cy := x+float64(b.Content.X), y+float64(b.Content.Y)
	height := math.Round(b.Style.Size * text.LineHeight)
	if n := b.Node.Kind; n != "label" {
		cy += max(float64(b.Content.Height)-height*float64(len(b.Paragraph.Lines)), 0) / 2
	}
	for i, line := range b.Paragraph.Lines {
		left := cx
		free := float64(b.Content.Width) - line.Width
		switch {
		case b.Node.Kind == "button" || b.Node.Kind == "tab":
			left += free / 2
		case b.Style.RightToLeft:
			left += free
		}
		c.Line(line, left, cy+float64(i)*height+math.Round(b.Style.Size*text.Ascent), b.Style.Size, ink)
	}
}

// Text draws one line of text at a place and gives its width.
func (c *Canvas) Text(s string, x, y, size float64, bold bool, fill color.Color) float64 {
	p := c.Setter.Set(s, text.Style{Size: size, Bold: bold}, 0)
	for _, line := range p.Lines {
		c.Line(line, x, y+size*text.Ascent, size, fill)
	}
	return p.Width
}
