// Package layout places the boxes of a screen for one culture on one device,
// in whole device units, and reports what does not fit.
package layout

import (
	"math"

	"zelvik/culture"
	"zelvik/screen"
	"zelvik/screen/text"
)

// Source gives the text of a key in a culture with sample arguments; false
// where there is none.
type Source func(key string, tag culture.Tag, arguments map[string]string) (string, bool)

// Frame is a rectangle in device units, from the device's top left corner.
type Frame struct {
	X      int `json:"x"`
	Y      int `json:"y"`
	Width  int `json:"width"`
	Height int `json:"height"`
}

// Box is a placed box.
type Box struct {
	Node   *screen.Node
	Parent *Box
	Frame  Frame
	// Content is the frame without its padding.
	Content Frame
	// Text is what a label or button shows, set into lines; nil for others.
	Text      string
	Paragraph *text.Paragraph
	Style     text.Style
	Children  []*Box
}

// Layout is a screen placed for one culture on one device.
type Layout struct {
	Screen  *screen.Screen
	Device  screen.Device
	Culture culture.Tag
	Root    *Box
	// Boxes are all boxes, parents before children.
	Boxes []*Box
}

// engine places one screen.
type engine struct {
	setter  *text.Setter
	source  Source
	culture culture.Tag
	rtl     bool
	boxes   []*Box
}

// Place lays a screen out, in the direction of the culture; or from left to
// right, which is what the check for mirroring compares with.
func Place(s *screen.Screen, device screen.Device, tag culture.Tag, source Source, setter *text.Setter, leftToRight bool) *Layout {
	e := &engine{setter: setter, source: source, culture: tag, rtl: tag.RightToLeft() && !leftToRight}
	root := e.measure(s.Body, nil, device.Width, device.Height)
	root.Frame.Width, root.Frame.Height = device.Width, device.Height
	e.arrange(root, 0, 0)
	return &Layout{s, device, tag, root, e.boxes}
}

// padding gives the padding of a node by physical side. Buttons have some of
// their own.
func (e *engine) padding(n *screen.Node) (left, top, right, bottom int) {
	p := n.Common().Padding
	left, right = p.Sides(e.rtl)
	if n.Button != nil && p == (screen.Edges{}) {
		return 16, 10, 16, 10
	}
	return left, p.Top, right, p.Bottom
}

func (e *engine) margin(n *screen.Node) (left, top, right, bottom int) {
	m := n.Common().Margin
	left, right = m.Sides(e.rtl)
	return left, m.Top, right, m.Bottom
}

// measure finds a box's size when it may be so wide and high at most. Sizes of
// children that fill are found when their parent is arranged.
func (e *engine) measure(n *screen.Node, parent *Box, width, height int) *Box {
	b := &Box{Node: n, Parent: parent}
	e.boxes = append(e.boxes, b)
	e.size(b, width, height)
	return b
}

// size sets Frame.Width and Frame.Height, measuring children anew.
func (e *engine) size(b *Box, width, height int) {
	common := b.Node.Common()
	left, top, right, bottom := e.padding(b.Node)
	if common.Width.Units > 0 {
		width = common.Width.Units
	}
	if common.Height.Units > 0 {
		height = common.Height.Units
	}
	innerWidth, innerHeight := max(width-left-right, 0), max(height-top-bottom, 0)
	var w, h int
	switch n := b.Node; {
	case n.Text() != nil:
		w, h = e.setText(b, innerWidth)
	case n.Icon != nil:
		w = orDefault(n.Icon.Size, 24)
		h = w
	case n.Row != nil:
		w, h = e.row(b, n.Row, innerWidth, innerHeight)
	case n.Column != nil:
		w, h = e.column(b, n.Column, innerWidth, innerHeight)
	}
	b.Frame.Width, b.Frame.Height = w+left+right, h+top+bottom
	if common.Width.Units > 0 || common.Width.Fill {
		b.Frame.Width = width
	}
	if common.Height.Units > 0 || common.Height.Fill {
		b.Frame.Height = height
	}
}

func orDefault(n, otherwise int) int {
	if n > 0 {
		return n
	}
	return otherwise
}

// setText breaks a text into the lines that fit.
func (e *engine) setText(b *Box, width int) (w, h int) {
	label := b.Node.Text()
	b.Text = label.Text
	if label.Key != "" {
		text, ok := e.source(label.Key, e.culture, label.Args)
		if !ok {
			text = label.Key
		}
		b.Text = text
	}
	b.Style = text.Style{Size: float64(orDefault(label.Size, 16)), Bold: label.Weight == "bold", RightToLeft: e.rtl || e.culture.RightToLeft(), Language: string(e.culture)}
	bound := float64(width)
	if label.Lines == 1 || b.Node.Button != nil {
		bound = 0
	}
	b.Paragraph = e.setter.Set(b.Text, b.Style, bound)
	lines := len(b.Paragraph.Lines)
	if label.Lines > 0 {
		lines = min(lines, label.Lines)
	}
	return int(math.Ceil(b.Paragraph.Width)), lines * int(math.Round(b.Style.Size*text.LineHeight))
}

// row sizes children side by side: fixed and fitting ones first, those that
// fill share what is left.
func (e *engine) row(b *Box, row *screen.Box, width, height int) (w, h int) {
	left := width - row.Gap*max(len(row.Children)-1, 0)
	b.Children = b.Children[:0:0]
	var filling []*Box
	for _, child := range row.Children {
		ml, mt, mr, mb := e.margin(child)
		c := &Box{Node: child, Parent: b}
		e.boxes = append(e.boxes, c)
		b.Children = append(b.Children, c)
		if child.Common().Width.Fill {
			filling = append(filling, c)
			left -= ml + mr
			continue
		}
		e.size(c, max(left-ml-mr, 0), max(height-mt-mb, 0))
		left -= c.Frame.Width + ml + mr
	}
	for i, c := range filling {
		share := max(left, 0) / (len(filling) - i)
		_, mt, _, mb := e.margin(c.Node)
		e.size(c, share, max(height-mt-mb, 0))
		c.Frame.Width = share
		left -= share
	}
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		w += c.Frame.Width + ml + mr
		h = max(h, c.Frame.Height+mt+mb)
	}
	return w + row.Gap*max(len(row.Children)-1, 0), h
}

// column sizes children one below the other.
func (e *engine) column(b *Box, column *screen.Box, width, height int) (w, h int) {
	left := height - column.Gap*max(len(column.Children)-1, 0)
	b.Children = b.Children[:0:0]
	var filling []*Box
	for _, child := range column.Children {
		ml, mt, mr, mb := e.margin(child)
		c := &Box{Node: child, Parent: b}
		e.boxes = append(e.boxes, c)
		b.Children = append(b.Children, c)
		if child.Common().Height.Fill {
			filling = append(filling, c)
			left -= mt + mb
			continue
		}
		e.size(c, max(width-ml-mr, 0), max(left-mt-mb, 0))
		left -= c.Frame.Height + mt + mb
	}
	for i, c := range filling {
		share := max(left, 0) / (len(filling) - i)
		ml, _, mr, _ := e.margin(c.Node)
		e.size(c, max(width-ml-mr, 0), share)
		c.Frame.Height = share
		left -= share
	}
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		w = max(w, c.Frame.Width+ml+mr)
		h += c.Frame.Height + mt + mb
	}
	return w, h + column.Gap*max(len(column.Children)-1, 0)
}

// arrange sets the places of a box and what is in it.
func (e *engine) arrange(b *Box, x, y int) {
	b.Frame.X, b.Frame.Y = x, y
	left, top, right, bottom := e.padding(b.Node)
	b.Content = Frame{x + left, y + top, max(b.Frame.Width-left-right, 0), max(b.Frame.Height-top-bottom, 0)}
	switch n := b.Node; {
	case n.Row != nil:
		e.arrangeRow(b, n.Row)
	case n.Column != nil:
		e.arrangeColumn(b, n.Column)
	}
}

func (e *engine) arrangeRow(b *Box, row *screen.Box) {
	at := b.Content.X
	if e.rtl {
		at = b.Content.X + b.Content.Width
	}
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		y := b.Content.Y + mt + max(b.Content.Height-c.Frame.Height-mt-mb, 0)/2
		if e.rtl {
			at -= mr + c.Frame.Width
			e.arrange(c, at, y)
			at -= ml + row.Gap
		} else {
			at += ml
			e.arrange(c, at, y)
			at += c.Frame.Width + mr + row.Gap
		}
	}
}

func (e *engine) arrangeColumn(b *Box, column *screen.Box) {
	y := b.Content.Y
	for _, c := range b.Children {
		ml, mt, mr, mb := e.margin(c.Node)
		free := b.Content.Width - c.Frame.Width - ml - mr
		x := b.Content.X + ml
		switch align := c.Node.Common().Align; {
		case align == "center":
			x += free / 2
		case align == "right", align == "end" && !e.rtl, (align == "" || align == "start") && e.rtl:
			x += free
		}
		y += mt
		e.arrange(c, x, y)
		y += c.Frame.Height + mb + column.Gap
	}
}
