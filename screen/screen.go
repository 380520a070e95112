// Package screen is the model of a view of an interface: boxes with the texts
// they show. Screens are read from our own small YAML language; the packages
// below lay them out and draw them.
package screen

import (
	"fmt"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"

	"zelvik/finding"
)

// Screen is one view.
type Screen struct {
	// Name identifies the screen; the file's name where it is not given.
	Name string `yaml:"screen"`
	// Texts are the files or folder that the texts come from, relative to the
	// screen's file; the project's families where it is not given.
	Texts string `yaml:"texts"`
	// Devices are the sizes the screen is shown at.
	Devices []Device `yaml:"devices"`
	// Body is the outermost box.
	Body *Node `yaml:"body"`
	// Path is the file.
	Path string `yaml:"-"`
}

// Device is a size in device units.
type Device struct {
	Name   string `yaml:"name"`
	Width  int    `yaml:"width"`
	Height int    `yaml:"height"`
}

// Node is one box: exactly one of its fields is set.
type Node struct {
	Row    *Box    `yaml:"row"`
	Column *Box    `yaml:"column"`
	Label  *Label  `yaml:"label"`
	Button *Label  `yaml:"button"`
	Icon   *Icon   `yaml:"icon"`
	Space  *Common `yaml:"space"`
	// Line is where the node stands in the file.
	Line int `yaml:"-"`
}

// Common is what every box has.
type Common struct {
	// Name is how findings call the box; its key or kind where it is not given.
	Name          string `yaml:"name"`
	Width, Height Size
	// Padding is inside the box, Margin outside.
	Padding Edges `yaml:"padding"`
	Margin  Edges `yaml:"margin"`
	// Align places the box across its parent: start, center, end; or left and
	// right, which do not mirror.
	Align string `yaml:"align"`
	// Fill is the background: none, plain, accent, soft.
	Fill string `yaml:"fill"`
}

// Box holds other boxes.
type Box struct {
	Common `yaml:",inline"`
	// Gap is the space between children.
	Gap      int     `yaml:"gap"`
	Children []*Node `yaml:"children"`
}

// Label shows a text.
type Label struct {
	Common `yaml:",inline"`
	// Key is the text's key, Args its sample arguments; Text is shown as it
	// stands.
	Key  string            `yaml:"key"`
	Args map[string]string `yaml:"args"`
	Text string            `yaml:"text"`
	// Size is that of the type, 16 by default; Weight is regular or bold.
	Size   int    `yaml:"size"`
	Weight string `yaml:"weight"`
	// Lines bounds the lines, 0 for no bound. Overflow says what happens to
	// more: wrap (the default) or clip.
	Lines    int    `yaml:"lines"`
	Overflow string `yaml:"overflow"`
}

// Icon is a picture of the product's own small set. A directional one is
// mirrored in right-to-left cultures.
type Icon struct {
	Common      `yaml:",inline"`
	Picture     string `yaml:"picture"`
	Directional bool   `yaml:"directional"`
	Size        int    `yaml:"size"`
}

// Size is a width or height: a number of device units, as much as the content
// needs (Fit), or as much as is left (Fill).
type Size struct {
	Units     int
	Fit, Fill bool
	Set       bool
}

// UnmarshalYAML reads a number, fit or fill.
func (s *Size) UnmarshalYAML(data []byte) error {
	text := strings.TrimSpace(string(data))
	s.Set = true
	switch text {
	case "fit":
		s.Fit = true
	case "fill":
		s.Fill = true
	default:
		n, err := strconv.Atoi(text)
		if err != nil || n < 0 || n > maxUnits {
			return fmt.Errorf("%q is no size; use a number of units, fit or fill", text)
		}
		s.Units = n
	}
	return nil
}

// Edges are lengths at the sides. Start and End follow the direction of the
// text; Left and Right do not.
type Edges struct {
	Start, End, Left, Right, Top, Bottom int
}

// UnmarshalYAML reads one number for all sides, or numbers by side.
func (e *Edges) UnmarshalYAML(data []byte) error {
	var all int
	if err := yaml.Unmarshal(data, &all); err == nil {
		*e = Edges{Start: all, End: all, Top: all, Bottom: all}
		return nil
	}
	var sides map[string]int
	if err := yaml.Unmarshal(data, &sides); err != nil {
		return fmt.Errorf("use a number, or numbers for start, end, top and bottom")
	}
	for side, n := range sides {
		field := map[string]*int{"start": &e.Start, "end": &e.End, "left": &e.Left, "right": &e.Right, "top": &e.Top, "bottom": &e.Bottom}[side]
		if field == nil {
			return fmt.Errorf("%q is no side; use start, end, top, bottom, or left and right", side)
		}
		if n < 0 || n > maxUnits {
			return fmt.Errorf("%d is no length", n)
		}
		*field = n
	}
	return nil
}

// Sides gives left and right for a direction.
func (e Edges) Sides(rightToLeft bool) (left, right int) {
	if rightToLeft {
		return e.Left + e.End, e.Right + e.Start
	}
	return e.Left + e.Start, e.Right + e.End
}

// The bounds that keep a screen of a stranger from eating memory.
const (
	maxUnits = 20000
	maxNodes = 5000
	maxDepth = 60
	maxBytes = 1 << 20
)

// Error is a mistake in a screen's file.
type Error struct {
	Path         string
	Line, Column int
	Text         string
}

// Error gives one sentence with its place.
func (e *Error) Error() string { return fmt.Sprintf("%s:%d:%d: %s", e.Path, e.Line, e.Column, e.Text) }

var place = regexp.MustCompile(`^\[(\d+):(\d+)\] (.*)`)

// Parse reads a screen. Errors are *Error.
func Parse(path string, data []byte) (*Screen, error) {
	if len(data) > maxBytes {
		return nil, &Error{path, 1, 1, "the file is larger than a mebibyte; split the screen"}
	}
	s := &Screen{Path: path}
	if err := yaml.UnmarshalWithOptions(data, s, yaml.DisallowUnknownField()); err != nil {
		return nil, yamlError(path, err)
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
	for _, d := range s.Devices {
		if d.Width < 1 || d.Height < 1 || d.Width > 4000 || d.Height > 4000 {
			return nil, &Error{path, 1, 1, fmt.Sprintf("the device %s is %d x %d units; use sizes from 1 to 4000", d.Name, d.Width, d.Height)}
		}
	}
	nodes := 0
	if err := s.check(s.Body, 0, &nodes); err != nil {
		return nil, err
	}
	s.lines(data)
	return s, nil
}

// yamlError makes one sentence of a YAML error, with the nearest key for an
// unknown one.
func yamlError(path string, err error) error {
	first, _, _ := strings.Cut(yaml.FormatError(err, false, false), "\n")
	m := place.FindStringSubmatch(first)
	if m == nil {
		return &Error{path, 1, 1, first}
	}
	line, _ := strconv.Atoi(m[1])
	column, _ := strconv.Atoi(m[2])
	text := m[3]
	if _, name, ok := strings.Cut(text, "unknown field "); ok {
		name = strings.Trim(name, `"`)
		text = fmt.Sprintf("%q is nothing a screen has", name)
		if nearest := finding.Nearest(name, fields()); nearest != "" {
			text += "; " + nearest + " was probably meant"
		} else {
			text += "; docs/screens.md lists what there is"
		}
	}
	return &Error{path, line, column, text}
}

// fields lists all keys of the screen language.
func fields() []string {
	var list []string
	for _, t := range []any{Screen{}, Device{}, Node{}, Common{}, Box{}, Label{}, Icon{}} {
		kind := reflect.TypeOf(t)
		for i := range kind.NumField() {
			name, _, _ := strings.Cut(kind.Field(i).Tag.Get("yaml"), ",")
			if name == "" {
				name = strings.ToLower(kind.Field(i).Name)
			}
			if name != "-" {
				list = append(list, name)
			}
		}
	}
	return list
}

// check bounds the tree and checks words.
func (s *Screen) check(n *Node, depth int, count *int) error {
	fail := func(format string, args ...any) error {
		return &Error{s.Path, max(n.Line, 1), 1, fmt.Sprintf(format, args...)}
	}
	if *count++; *count > maxNodes || depth > maxDepth {
		return fail("the screen has more than %d boxes or is nested more than %d deep; split it", maxNodes, maxDepth)
	}
	kinds := 0
	for _, set := range []bool{n.Row != nil, n.Column != nil, n.Label != nil, n.Button != nil, n.Icon != nil, n.Space != nil} {
		if set {
			kinds++
		}
	}
	if kinds != 1 {
		return fail("a box is exactly one of row, column, label, button, icon, space")
	}
	common := n.Common()
	if !slices.Contains([]string{"", "start", "center", "end", "left", "right"}, common.Align) {
		return fail("%q is no align; use start, center, end, left or right", common.Align)
	}
	if label := n.Text(); label != nil {
		if label.Key != "" && label.Text != "" {
			return fail("the box %s has a key and a text; keep one of them", label.Key)
		}
		if !slices.Contains([]string{"", "wrap", "clip"}, label.Overflow) {
			return fail("%q is no overflow; use wrap or clip", label.Overflow)
		}
		if !slices.Contains([]string{"", "regular", "bold"}, label.Weight) {
			return fail("%q is no weight; use regular or bold", label.Weight)
		}
		if label.Size < 0 || label.Size > 400 || label.Lines < 0 {
			return fail("the size of a text is from 1 to 400")
		}
	}
	for _, child := range n.Children() {
		if child == nil {
			return fail("an empty box; remove it or write space: {}")
		}
		if err := s.check(child, depth+1, count); err != nil {
			return err
		}
	}
	return nil
}

// lines notes where the nodes stand, in the order of the file.
func (s *Screen) lines(data []byte) {
	file, err := parser.ParseBytes(data, 0)
	if err != nil || len(file.Docs) == 0 {
		return
	}
	var starts []int
	ast.Walk(visitor(func(n ast.Node) {
		if pair, ok := n.(*ast.MappingValueNode); ok {
			switch pair.Key.GetToken().Value {
			case "row", "column", "label", "button", "icon", "space":
				starts = append(starts, pair.Key.GetToken().Position.Line)
			}
		}
	}), file.Docs[0].Body)
	var number func(n *Node)
	number = func(n *Node) {
		if len(starts) == 0 {
			return
		}
		n.Line, starts = starts[0], starts[1:]
		for _, child := range n.Children() {
			number(child)
		}
	}
	number(s.Body)
}

type visitor func(ast.Node)

// Visit calls the function for every node.
func (v visitor) Visit(n ast.Node) ast.Visitor {
	v(n)
	return v
}

// Children gives the boxes inside.
func (n *Node) Children() []*Node {
	switch {
	case n.Row != nil:
		return n.Row.Children
	case n.Column != nil:
		return n.Column.Children
	}
	return nil
}

// Common gives what every box has.
func (n *Node) Common() *Common {
	switch {
	case n.Row != nil:
		return &n.Row.Common
	case n.Column != nil:
		return &n.Column.Common
	case n.Label != nil:
		return &n.Label.Common
	case n.Button != nil:
		return &n.Button.Common
	case n.Icon != nil:
		return &n.Icon.Common
	}
	return n.Space
}

// Text gives the label or button, or nil.
func (n *Node) Text() *Label {
	if n.Button != nil {
		return n.Button
	}
	return n.Label
}

// Kind names the kind of box.
func (n *Node) Kind() string {
	switch {
	case n.Row != nil:
		return "row"
	case n.Column != nil:
		return "column"
	case n.Label != nil:
		return "label"
	case n.Button != nil:
		return "button"
	case n.Icon != nil:
		return "icon"
	}
	return "space"
}

// Title is how findings call the box.
func (n *Node) Title() string {
	common := n.Common()
	switch {
	case common.Name != "":
		return common.Name
	case n.Text() != nil && n.Text().Key != "":
		return n.Text().Key
	case n.Icon != nil && n.Icon.Picture != "":
		return n.Icon.Picture
	}
	return fmt.Sprintf("%s in line %d", n.Kind(), n.Line)
}

// Keys lists the keys that the screen shows.
func (s *Screen) Keys() []string {
	var list []string
	var walk func(*Node)
	walk = func(n *Node) {
		if label := n.Text(); label != nil && label.Key != "" && !slices.Contains(list, label.Key) {
			list = append(list, label.Key)
		}
		for _, child := range n.Children() {
			walk(child)
		}
	}
	walk(s.Body)
	return list
}
