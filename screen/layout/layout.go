// Package layout places the boxes of a screen for one culture on one device,
// in whole device units, and reports what does not fit.
package layout

import (
	"maps"
	"math"

	"zelvik/culture"
	"zelvik/screen"
	"zelvik/screen/text"
)

// Shown is what a key says to a reader: with its arguments isolated, as our
// accessors show it, and bare, as a platform does by itself.
type Shown struct {
	Text, Bare string
	// Own says that the culture has a text of its own, and no parent answered.
	Own bool
}

// Source returns the text of a key in a culture with sample arguments; false
// where there is none.
type Source func(key string, tag culture.Tag, arguments map[string]string) (Shown, bool)

// Options say how a screen is placed.
type Options struct {
	// LeftToRight places it so whatever the culture, which is what the check for
	// mirroring compares with.
	LeftToRight bool
	// Scale is that of the texts in percent; 0 is 100.
	Scale int
	// Stretch says how much longer to take a text, 1 for as it is; nil for all as
	// they are.
	Stretch func(n *screen.Node, text Shown) float64
}

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
	// Content is the frame without its padding and the marks of its kind.
	Content Frame
	// Text is what it shows, set into lines; Paragraph is nil for others. Hint
	// says that it is one, which is shown faintly; Chosen that the item is the
	// chosen one.
	Text, Bare   string
	Paragraph    *text.Paragraph
	Style        text.Style
	Hint, Chosen bool
	// Natural is the width of the text in one line, Stretched how much longer it
	// was taken, 1 for not.
	Natural, Stretched float64
	// Ellipsed says that the text was cut with an ellipsis.
	Ellipsed bool
	Children []*Box

	// Those of a grid: the widths of its columns and the heights of its rows.
	columns, rows []int

	// asked is the room that the box was last given, settled that for which its
	// children were sized, and known what came of each.
	asked, settled room
	known          []sized
}

// room is the greatest width and height that a box may have.
type room struct{ width, height int }

// sized is what a box takes of a room.
type sized struct {
	room
	w, h int
}

// Layout is a screen placed for one culture on one device at one text scale.
type Layout struct {
	Screen  *screen.Screen
	Device  screen.Device
	Culture culture.Tag
	Scale   int
	Root    *Box
	// Boxes are all boxes, parents before children.
	Boxes []*Box
}

// maxBoxes bounds what rows of lists can make of a screen.
const maxBoxes = 20000

// engine places one screen.
type engine struct {
	Options
	setter  *text.Setter
	source  Source
	culture culture.Tag
	rtl     bool
	made    int
}

// Place lays a screen out.
func Place(s *screen.Screen, device screen.Device, tag culture.Tag, source Source, setter *text.Setter, o Options) *Layout {
	if o.Scale == 0 {
		o.Scale = 100
	}
	e := &engine{Options: o, setter: setter, source: source, culture: tag, rtl: tag.RightToLeft() && !o.LeftToRight}
	root := e.box(s.Body, nil)
	e.size(root, device.Width, device.Height)
	root.Frame.Width, root.Frame.Height = device.Width, device.Height
	e.arrange(root, 0, 0)
	l := &Layout{Screen: s, Device: device, Culture: tag, Scale: o.Scale, Root: root}
	l.gather(root)
	return l
}

func (l *Layout) gather(b *Box) {
	l.Boxes = append(l.Boxes, b)
	for _, c := range b.Children {
		l.gather(c)
	}
}

// box makes a box and those inside it, which the culture shows.
func (e *engine) box(n *screen.Node, parent *Box) *Box {
	e.made++
	b := &Box{Node: n, Parent: parent, Stretched: 1}
	switch n.Kind {
	case "list":
		for i := range max(len(n.Rows), 1) {
			row := n.Children[0]
			if i < len(n.Rows) {
				row = withArgs(row, n.Rows[i])
			}
			e.child(b, row)
		}
	case "radio", "tabs":
		for i, item := range n.Items {
			part := *n
			part.Kind = map[string]string{"radio": "option", "tabs": "tab"}[n.Kind]
			part.Key, part.Text, part.Args, part.Items = item.Key, item.Text, item.Args, nil
			part.Name, part.Width, part.Height, part.Padding, part.Margin, part.Align = "", screen.Size{}, screen.Size{}, screen.Edges{}, screen.Edges{}, ""
			part.Fill, part.Only, part.Except = "", nil, nil
			if n.Kind == "tabs" {
				part.Width.Fill = true
			}
			if c := e.child(b, &part); c != nil {
				c.Chosen = i+1 == n.Chosen
			}
		}
	default:
		for _, child := range n.Children {
			e.child(b, child)
		}
	}
	return b
}

func (e *engine) child(b *Box, n *screen.Node) *Box {
	if !n.Shown(string(e.culture)) || e.made >= maxBoxes {
		return nil
	}
	c := e.box(n, b)
	b.Children = append(b.Children, c)
	return c
}

// withArgs is a row of a list: the node with more arguments.
func withArgs(n *screen.Node, args map[string]string) *screen.Node {
	out := *n
	out.Args = map[string]string{}
	maps.Copy(out.Args, n.Args)
	maps.Copy(out.Args, args)
	out.Children = nil
	for _, child := range n.Children {
		out.Children = append(out.Children, withArgs(child, args))
	}
	return &out
}

// oneLine reports whether a kind never breaks its text.
func oneLine(n *screen.Node) bool {
	switch n.Kind {
	case "button", "tab", "menu", "field":
		return true
	}
	return n.Lines == 1 && n.Overflow != "wrap"
}

// insets are the padding of a node by physical side, and the room for the mark
// of its kind.
func (e *engine) insets(n *screen.Node) (left, top, right, bottom int) {
	p := n.Padding
	left, right = p.Sides(e.rtl)
	top, bottom = p.Top, p.Bottom
	if p == (screen.Edges{}) {
		switch n.Kind {
		case "button":
			left, top, right, bottom = 16, 10, 16, 10
		case "field", "menu":
			left, top, right, bottom = 12, 10, 12, 10
		case "tab":
			left, top, right, bottom = 8, 13, 8, 15
		case "check", "option", "switch":
			top, bottom = 9, 9
		}
	}
	before, after := 0, 0
	switch n.Kind {
	case "check", "option":
		before = markSize + markGap
	case "switch":
		after = switchWidth + markGap
	case "menu":
		after = 18
	}
	if e.rtl {
		before, after = after, before
	}
	return left + before, top, right + after, bottom
}

// The sizes of the marks of check boxes, radio buttons and switches.
const (
	markSize    = 20
	markGap     = 10
	switchWidth = 40
)

func (e *engine) margin(n *screen.Node) (left, top, right, bottom int) {
	left, right = n.Margin.Sides(e.rtl)
	return left, n.Margin.Top, right, n.Margin.Bottom
}

// at is the place of a child of a stack or a fixed box, from its content.
func (e *engine) at(b *Box, parent Frame) (x, y int) {
	p := b.Node.At
	left, right := p.Sides(e.rtl)
	x, y = left, p.Top
	if right != 0 && left == 0 || e.rtl && right == 0 && left == 0 && !b.Node.At.Absolute() {
		x = parent.Width - right - b.Frame.Width
	}
	if p.Bottom != 0 && p.Top == 0 {
		y = parent.Height - p.Bottom - b.Frame.Height
	}
	return parent.X + x, parent.Y + y
}

// size sets Frame.Width and Frame.Height of a box that may be so wide and high
// at most. A box that was asked before answers without asking its children
// again, as boxes in boxes would otherwise be asked twice as often with each
// level; arrange sizes them for the room that counts.
func (e *engine) size(b *Box, width, height int) {
	b.asked = room{width, height}
	for _, k := range b.known {
		if k.room == b.asked {
			b.Frame.Width, b.Frame.Height = k.w, k.h
			return
		}
	}
	e.settle(b)
	b.known = append(b.known, sized{b.asked, b.Frame.Width, b.Frame.Height})
}

// settle sizes a box and its children for the room that it was last given.
func (e *engine) settle(b *Box) {
	b.settled = b.asked
	n, width, height := b.Node, b.asked.width, b.asked.height
	left, top, right, bottom := e.insets(n)
	width, height = limit(n.Width, width), limit(n.Height, height)
	innerWidth, innerHeight := max(width-left-right, 0), max(height-top-bottom, 0)
	var w, h int
	switch n.Kind {
	case "label", "button", "field", "check", "switch", "menu", "option", "tab":
		w, h = e.setText(b, innerWidth, innerHeight)
	case "icon":
		w = orDefault(n.Size, 24)
		h = w
	case "image":
		w, h = 120, 80
	case "row", "tabs":
		w, h = e.row(b, innerWidth, innerHeight)
	case "column", "list", "radio":
		w, h = e.column(b, innerWidth, innerHeight)
	case "grid":
		w, h = e.grid(b, innerWidth, innerHeight)
	case "stack", "fixed":
		for _, c := range b.Children {
			l, r := c.Node.At.Sides(e.rtl)
			e.size(c, max(innerWidth-l-r, 0), max(innerHeight-c.Node.At.Top-c.Node.At.Bottom, 0))
			w = max(w, l+r+c.Frame.Width)
			h = max(h, c.Node.At.Top+c.Node.At.Bottom+c.Frame.Height)
		}
	case "scroll":
		for _, c := range b.Children {
			e.size(c, innerWidth, 1<<20)
			w, h = max(w, c.Frame.Width), max(h, min(c.Frame.Height, innerHeight))
		}
	case "line":
		w, h = innerWidth, 1
	}
	b.Frame.Width, b.Frame.Height = n.Width.Bound(w+left+right), n.Height.Bound(h+top+bottom)
	if n.Width.Units > 0 || n.Width.Fill {
		b.Frame.Width = width
	}
	if n.Height.Units > 0 || n.Height.Fill {
		b.Frame.Height = height
	}
}

// limit is what a box may take of a length.
func limit(s screen.Size, length int) int {
	if s.Units > 0 {
		length = s.Units
	}
	if s.Most > 0 {
		length = min(length, s.Most)
	}
	return length
}

func orDefault(n, otherwise int) int {
	if n > 0 {
		return n
	}
	return otherwise
}

// words is what a box shows, and whether it is a hint.
func (e *engine) words(n *screen.Node) (Shown, bool) {
	item, hint := screen.Item{Key: n.Key, Text: n.Text, Args: n.Args}, false
	switch {
	case n.Kind == "menu" && len(n.Items) > 0:
		item = n.Items[max(n.Chosen, 1)-1]
	case n.Key == "" && n.Text == "" && n.Hint != "":
		item, hint = screen.Item{Key: n.Hint}, true
	}
	return e.said(item), hint
}

func (e *engine) said(item screen.Item) Shown {
	if item.Key == "" {
		return Shown{item.Text, item.Text, true}
	}
	shown, ok := e.source(item.Key, e.culture, item.Args)
	if !ok {
		return Shown{Text: item.Key, Bare: item.Key}
	}
	return shown
}

// setText breaks a text into the lines that fit, and shrinks or cuts it where
// its box says so.
func (e *engine) setText(b *Box, width, height int) (w, h int) {
	n := b.Node
	shown, hint := e.words(n)
	b.Text, b.Bare, b.Hint, b.Stretched = shown.Text, shown.Bare, hint, 1
	if e.Stretch != nil {
		b.Stretched = max(e.Stretch(n, shown), 1)
	}
	size := float64(orDefault(n.Size, 16)) * float64(e.Scale) / 100
	b.Style = text.Style{Size: size, Bold: n.Weight == "bold", Font: n.Font, RightToLeft: e.rtl || e.culture.RightToLeft(), Language: string(e.culture)}
	b.Natural = e.setter.Set(b.Text, b.Style, 0).Width * b.Stretched
	bound := float64(width) / b.Stretched
	if oneLine(n) {
		bound = 0
	}
	b.Ellipsed = false
	b.Paragraph = e.setter.Set(b.Text, b.Style, bound)
	switch n.Overflow {
	case "shrink":
		smallest := float64(orDefault(n.Smallest, 10)) * float64(e.Scale) / 100
		for b.Style.Size > smallest && !e.fits(b, width, height) {
			b.Style.Size = max(b.Style.Size-1, smallest)
			b.Paragraph = e.setter.Set(b.Text, b.Style, bound)
		}
	case "ellipsis":
		if lines := e.allowed(b, height); !e.fits(b, width, height) {
			b.Paragraph = e.setter.Cut(b.Text, b.Style, float64(width)/b.Stretched, lines)
			b.Ellipsed = true
		}
	}
	lines := len(b.Paragraph.Lines)
	if n.Lines > 0 {
		lines = min(lines, n.Lines)
	}
	widest := b.Paragraph.Width
	if n.Kind == "menu" {
		for _, item := range n.Items {
			widest = max(widest, e.setter.Set(e.said(item).Text, b.Style, 0).Width)
		}
	}
	w, h = int(math.Ceil(widest*b.Stretched)), lines*lineHeight(b.Style)
	if n.Kind == "check" || n.Kind == "option" || n.Kind == "switch" {
		h = max(h, markSize+2)
	}
	if n.Kind == "field" {
		w = max(w, 96)
	}
	return w, h
}

// lineHeight is that of a style, in whole units.
func lineHeight(s text.Style) int { return int(math.Round(s.Size * text.LineHeight)) }

// allowed is how many lines a box has room for.
func (e *engine) allowed(b *Box, height int) int {
	n := b.Node
	switch {
	case oneLine(n):
		return 1
	case n.Lines > 0:
		return n.Lines
	case n.Height.Units > 0 || n.Height.Most > 0:
		return max(height/lineHeight(b.Style), 1)
	}
	return max(len(b.Paragraph.Lines), 1)
}

// fits reports whether a text has room.
func (e *engine) fits(b *Box, width, height int) bool {
	return len(b.Paragraph.Lines) <= e.allowed(b, height) && b.Paragraph.Width*b.Stretched <= float64(width)+0.01
}
