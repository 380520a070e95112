// Package screen is the model of a view of an interface: boxes with the texts
// they show. Screens are read from our own small YAML language; the packages
// below lay them out and draw them.
package screen

import (
	"fmt"
	"path/filepath"
	"slices"
	"strings"
)

// Screen is one view.
type Screen struct {
	// Name identifies the screen; the file's name where it is not given.
	Name string
	// Texts are the files or folder that the texts come from, relative to the
	// screen's file; the project's families where it is not given.
	Texts string
	// Devices are the sizes the screen is shown at.
	Devices []Device
	// Scales are the text scales in percent that people set; 100 where none are
	// given.
	Scales []int
	// Body is the outermost box.
	Body *Node
	// Path is the file.
	Path string
}

// Device is a size in device units.
type Device struct {
	Name   string `json:"name"`
	Width  int    `json:"width"`
	Height int    `json:"height"`
}

// Node is one box. Kind is one of Kinds; which of the other fields it may have
// stands there.
type Node struct {
	Kind string
	// Line and Column are where the node stands in the file; Places are those
	// of its properties.
	Line, Column int
	Places       map[string]Place

	// Name is how findings call the box; its key or kind where it is not given.
	Name          string
	Width, Height Size
	// Padding is inside the box, Margin outside.
	Padding, Margin Edges
	// At is the place of a child of a fixed or a stack.
	At Edges
	// Align places the box across its parent: start, center, end; or left and
	// right, which do not mirror.
	Align string
	// Fill is the background: plain, soft, accent; "" for none.
	Fill string
	// Only and Except are the cultures that the box is shown in, or not.
	Only, Except []string
	// Target is the least width and height for a finger, 0 for none.
	Target int

	// Gap is the space between children; Columns those of a grid.
	Gap      int
	Columns  []Size
	Children []*Node
	// Rows are the sample arguments of the rows of a list, which shows its only
	// child once for each.
	Rows []map[string]string

	// Key is the text's key, Args its sample arguments; Text is shown as it
	// stands. Hint is the key of what an empty field says.
	Key, Text, Hint string
	Args            map[string]string
	// Items are the texts of a menu, a set of tabs or of radio buttons; Chosen is
	// the number of the one that is chosen, from 1.
	Items  []Item
	Chosen int
	// On says that a check box or a switch is on.
	On bool
	// Size is that of the type or the icon, 16 and 24 where it is 0; Weight is
	// regular or bold; Font names a font of the project.
	Size   int
	Weight string
	Font   string
	// Lines bounds the lines, 0 for no bound. Overflow says what happens to a
	// text that does not fit: wrap (the default), ellipsis, clip, or shrink, down
	// to the size Smallest.
	Lines    int
	Overflow string
	Smallest int
	// Picture is an icon's or an image's name. A directional icon is mirrored in
	// right-to-left cultures.
	Picture     string
	Directional bool
}

// Item is one text of several.
type Item struct {
	Key  string            `yaml:"key"`
	Text string            `yaml:"text"`
	Args map[string]string `yaml:"args"`
}

// Place is a line and column of a file, both from 1.
type Place struct{ Line, Column int }

// Size is a width or height: a number of device units, as much as the content
// needs (the zero value), or as much as is left (Fill); between Least and Most
// where they are not 0.
type Size struct {
	Units       int
	Fill        bool
	Least, Most int
}

// Bound keeps a length between Least and Most.
func (s Size) Bound(length int) int {
	if s.Most > 0 {
		length = min(length, s.Most)
	}
	return max(length, s.Least)
}

// Edges are lengths at the sides. Start and End follow the direction of the
// text; Left and Right do not.
type Edges struct {
	Start, End, Left, Right, Top, Bottom int
}

// Sides returns left and right for a direction.
func (e Edges) Sides(rightToLeft bool) (left, right int) {
	if rightToLeft {
		return e.Left + e.End, e.Right + e.Start
	}
	return e.Left + e.Start, e.Right + e.End
}

// Absolute reports whether a side was written that does not mirror.
func (e Edges) Absolute() bool { return e.Left != e.Right }

// The bounds that keep a screen of a stranger from eating time and memory.
const (
	maxUnits = 20000
	maxNodes = 5000
	maxDepth = 60
	maxBytes = 1 << 20
	maxItems = 200
)

// Error is a mistake in a screen's file.
type Error struct {
	Path         string
	Line, Column int
	Text         string
}

// Error returns one sentence with its place.
func (e *Error) Error() string { return fmt.Sprintf("%s:%d:%d: %s", e.Path, e.Line, e.Column, e.Text) }

// Parse reads a screen. Errors are *Error.
func Parse(path string, data []byte) (*Screen, error) {
	if len(data) > maxBytes {
		return nil, &Error{path, 1, 1, "the file is larger than a mebibyte; split the screen"}
	}
	s := &Screen{Path: path}
	if err := (&reader{screen: s}).read(data); err != nil {
		return nil, err
	}
	if s.Body == nil {
		return nil, &Error{path, 1, 1, "the screen has no body; write body: with a row or column"}
	}
	if s.Name == "" {
		s.Name = strings.TrimSuffix(filepath.Base(path), filepath.Ext(path))
	}
	if len(s.Devices) == 0 {
		s.Devices = []Device{{"phone", 360, 640}}
	}
	if len(s.Scales) == 0 {
		s.Scales = []int{100}
	}
	return s, nil
}

// Shown reports whether the box is shown in a culture.
func (n *Node) Shown(culture string) bool {
	return (len(n.Only) == 0 || slices.Contains(n.Only, culture)) && !slices.Contains(n.Except, culture)
}

// Place is where a property of the node stands in the file; where the node
// stands for one that is not written.
func (n *Node) Place(property string) Place {
	if p, ok := n.Places[property]; ok {
		return p
	}
	return Place{n.Line, n.Column}
}

// Title is how findings call the box.
func (n *Node) Title() string {
	switch {
	case n.Name != "":
		return n.Name
	case n.Key != "":
		return n.Key
	case n.Hint != "":
		return n.Hint
	case n.Picture != "":
		return n.Picture
	}
	return fmt.Sprintf("%s in line %d", n.Kind, n.Line)
}

// Words are the texts that the box itself shows, without those of its
// children.
func (n *Node) Words() []Item {
	var list []Item
	if n.Key != "" || n.Text != "" {
		list = append(list, Item{n.Key, n.Text, n.Args})
	}
	if n.Hint != "" {
		list = append(list, Item{Key: n.Hint})
	}
	return append(list, n.Items...)
}

// Keys lists the keys that the screen shows.
func (s *Screen) Keys() []string {
	var list []string
	s.Walk(func(n *Node) {
		for _, item := range n.Words() {
			if item.Key != "" && !slices.Contains(list, item.Key) {
				list = append(list, item.Key)
			}
		}
	})
	return list
}

// Walk calls a function for every node, parents before children.
func (s *Screen) Walk(visit func(*Node)) {
	var walk func(*Node)
	walk = func(n *Node) {
		visit(n)
		for _, child := range n.Children {
			walk(child)
		}
	}
	walk(s.Body)
}
