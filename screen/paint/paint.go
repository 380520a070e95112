// Package paint draws layouts as pictures: plain boxes, real type, the same
// pixels on every machine.
package paint

import (
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
}

// NewCanvas makes a picture of a size in device units.
func NewCanvas(width, height int, scale float64, theme Theme, setter *text.Setter) *Canvas {
	bounds := image.Rect(0, 0, int(math.Ceil(float64(width)*scale)), int(math.Ceil(float64(height)*scale)))
	c := &Canvas{Image: image.NewRGBA(bounds), Theme: theme, Scale: scale, Setter: setter, clip: bounds}
	draw.Draw(c.Image, bounds, image.NewUniform(theme.Paper), image.Point{}, draw.Src)
	return c
}

// PNG writes the picture.
func (c *Canvas) PNG(w io.Writer) error {
	encoder := png.Encoder{CompressionLevel: png.BestSpeed}
	return encoder.Encode(w, c.Image)
}

func (c *Canvas) rect(x, y, w, h float64) image.Rectangle {
	s := c.Scale
	return image.Rect(int(math.Round(x*s)), int(math.Round(y*s)), int(math.Round((x+w)*s)), int(math.Round((y+h)*s)))
}

// Fill fills a rectangle.
func (c *Canvas) Fill(x, y, w, h float64, fill color.Color) {
	draw.Draw(c.Image, c.rect(x, y, w, h).Intersect(c.clip), image.NewUniform(fill), image.Point{}, draw.Over)
}

// Outline draws the edge of a rectangle, two units wide.
func (c *Canvas) Outline(x, y, w, h float64, stroke color.Color) {
	const line = 2
	c.Fill(x, y, w, line, stroke)
	c.Fill(x, y+h-line, w, line, stroke)
	c.Fill(x, y, line, h, stroke)
	c.Fill(x+w-line, y, line, h, stroke)
}

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
	ink := c.Theme.Ink
	fill := b.Node.Common().Fill
	if b.Node.Button != nil && fill == "" {
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
	switch {
	case b.Node.Icon != nil:
		c.icon(b.Node.Icon.Picture, fx, fy, min(w, h), b.Node.Icon.Directional && l.Culture.RightToLeft(), ink)
	case b.Paragraph != nil:
		slack := 0.0
		if b.Paragraph.Height <= float64(b.Content.Height) {
			slack = b.Style.Size / 2 // the tails of letters may hang below their line
		}
		restore := c.Clip(fx, fy-slack, w, h+2*slack)
		c.paragraph(l, b, x, y, ink)
		restore()
	}
}

// paragraph draws a text: from the side its culture begins at, in a button in
// the middle.
func (c *Canvas) paragraph(l *layout.Layout, b *layout.Box, x, y float64, ink color.Color) {
	cx, cy := x+float64(b.Content.X), y+float64(b.Content.Y)
	height := math.Round(b.Style.Size * text.LineHeight)
	for i, line := range b.Paragraph.Lines {
		left := cx
		free := float64(b.Content.Width) - line.Width
		switch {
		case b.Node.Button != nil:
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
