package screen

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"

	"zelvik/finding"
)

// reader reads one file by its syntax tree, so that every mistake has its
// place.
type reader struct {
	screen *Screen
	nodes  int
}

func (r *reader) fail(at ast.Node, format string, args ...any) error {
	line, column := 1, 1
	if at != nil && at.GetToken() != nil && at.GetToken().Position != nil {
		line, column = at.GetToken().Position.Line, at.GetToken().Position.Column
	}
	return &Error{r.screen.Path, line, column, fmt.Sprintf(format, args...)}
}

var place = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`^\[(\d+):(\d+)\] (.*)`)
})

func (r *reader) read(data []byte) error {
	if slices.ContainsFunc(strings.Split(string(data), "\n"), func(line string) bool { return len(line) > 1<<16 }) {
		return &Error{r.screen.Path, 1, 1, "a line is longer than 64 KiB; break it"}
	}
	file, err := parser.ParseBytes(data, 0)
	if err != nil {
		first, _, _ := strings.Cut(yaml.FormatError(err, false, false), "\n")
		if m := place().FindStringSubmatch(first); m != nil {
			line, _ := strconv.Atoi(m[1])
			column, _ := strconv.Atoi(m[2])
			return &Error{r.screen.Path, line, column, m[3]}
		}
		return &Error{r.screen.Path, 1, 1, first}
	}
	if len(file.Docs) == 0 || file.Docs[0].Body == nil {
		return nil
	}
	return r.pairs(file.Docs[0].Body, "the screen", func(name string, pair *ast.MappingValueNode) error {
		s := r.screen
		switch name {
		case "screen":
			return r.text(pair.Value, &s.Name)
		case "texts":
			return r.text(pair.Value, &s.Texts)
		case "scales":
			return r.list(pair.Value, 10, func(v ast.Node) error {
				var scale int
				if err := r.number(v, 50, 400, &scale); err != nil {
					return err
				}
				s.Scales = append(s.Scales, scale)
				return nil
			})
		case "devices":
			return r.list(pair.Value, 10, func(v ast.Node) error {
				var d Device
				err := r.pairs(v, "a device", func(name string, pair *ast.MappingValueNode) error {
					switch name {
					case "name":
						return r.text(pair.Value, &d.Name)
					case "width":
						return r.number(pair.Value, 1, 4000, &d.Width)
					case "height":
						return r.number(pair.Value, 1, 4000, &d.Height)
					}
					return r.unknown(pair, name, "a device", words("name width height"))
				})
				if err == nil && (d.Width == 0 || d.Height == 0) {
					err = r.fail(v, "a device has a name, a width and a height")
				}
				s.Devices = append(s.Devices, d)
				return err
			})
		case "body":
			var err error
			s.Body, err = r.node(pair.Value, 0)
			return err
		}
		return r.unknown(pair, name, "a screen", words("screen texts devices scales body"))
	})
}

func (r *reader) unknown(at *ast.MappingValueNode, name, owner string, known []string) error {
	if nearest := finding.Nearest(name, known); nearest != "" {
		return r.fail(at.Key, "%q is nothing %s has; %s was probably meant", name, owner, nearest)
	}
	return r.fail(at.Key, "%q is nothing %s has; there are %s", name, owner, strings.Join(known, ", "))
}

// pairs calls a function for each pair of a mapping.
func (r *reader) pairs(n ast.Node, what string, each func(name string, pair *ast.MappingValueNode) error) error {
	n = plain(n)
	var list []*ast.MappingValueNode
	switch n := n.(type) {
	case *ast.MappingNode:
		list = n.Values
	case *ast.MappingValueNode:
		list = []*ast.MappingValueNode{n}
	case *ast.NullNode, nil:
		return nil
	default:
		return r.fail(n, "%s is made of names and values, such as name: value", what)
	}
	seen := map[string]bool{}
	for _, pair := range list {
		name := pair.Key.GetToken().Value
		if seen[name] {
			return r.fail(pair.Key, "%s stands twice here; keep one", name)
		}
		seen[name] = true
		if err := each(name, pair); err != nil {
			return err
		}
	}
	return nil
}

// plain takes tags and anchors off a node. Aliases stay: they are refused, so
// that nothing can be repeated without end.
func plain(n ast.Node) ast.Node {
	for {
		switch inner := n.(type) {
		case *ast.TagNode:
			n = inner.Value
		case *ast.AnchorNode:
			n = inner.Value
		default:
			return n
		}
	}
}

func (r *reader) list(n ast.Node, most int, each func(ast.Node) error) error {
	sequence, ok := plain(n).(*ast.SequenceNode)
	if !ok {
		return r.fail(n, "a list is meant here, such as [a, b]")
	}
	if len(sequence.Values) > most {
		return r.fail(n, "there are %d of them; at most %d go", len(sequence.Values), most)
	}
	for _, value := range sequence.Values {
		if err := each(value); err != nil {
			return err
		}
	}
	return nil
}

// scalar returns the text of a value that is no list and no mapping.
func (r *reader) scalar(n ast.Node) (string, error) {
	switch v := plain(n).(type) {
	case *ast.StringNode:
		return v.Value, nil
	case *ast.LiteralNode:
		return v.Value.Value, nil
	case *ast.IntegerNode, *ast.FloatNode, *ast.BoolNode:
		return v.GetToken().Value, nil
	}
	return "", r.fail(n, "a text or a number is meant here")
}

func (r *reader) text(n ast.Node, into *string) (err error) {
	*into, err = r.scalar(n)
	return err
}

func (r *reader) word(n ast.Node, what string, into *string, known ...string) error {
	text, err := r.scalar(n)
	if err != nil {
		return err
	}
	if !slices.Contains(known, text) {
		return r.fail(n, "%q is no %s; use %s", text, what, orList(known))
	}
	*into = text
	return nil
}

func orList(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " or " + words[len(words)-1]
}

func (r *reader) number(n ast.Node, least, most int, into *int) error {
	text, err := r.scalar(n)
	if err != nil {
		return err
	}
	*into, err = strconv.Atoi(text)
	if err != nil || *into < least || *into > most {
		return r.fail(n, "%q is not what goes here; use a whole number from %d to %d", text, least, most)
	}
	return nil
}

func (r *reader) truth(n ast.Node, into *bool) error {
	v, ok := plain(n).(*ast.BoolNode)
	if !ok {
		return r.fail(n, "true or false is meant here")
	}
	*into = v.Value
	return nil
}

func (r *reader) strings(n ast.Node, into *[]string) error {
	return r.list(n, maxItems, func(v ast.Node) error {
		text, err := r.scalar(v)
		*into = append(*into, text)
		return err
	})
}

func (r *reader) args(n ast.Node, into *map[string]string) error {
	*into = map[string]string{}
	return r.pairs(n, "the list of arguments", func(name string, pair *ast.MappingValueNode) error {
		text, err := r.scalar(pair.Value)
		(*into)[name] = text
		return err
	})
}

func (r *reader) size(n ast.Node, into *Size) error {
	switch plain(n).(type) {
	case *ast.MappingNode, *ast.MappingValueNode:
		return r.pairs(n, "a size", func(name string, pair *ast.MappingValueNode) error {
			switch name {
			case "want":
				bounds := *into
				err := r.size(pair.Value, into)
				into.Least, into.Most = bounds.Least, bounds.Most
				return err
			case "least":
				return r.number(pair.Value, 0, maxUnits, &into.Least)
			case "most":
				return r.number(pair.Value, 0, maxUnits, &into.Most)
			}
			return r.unknown(pair, name, "a size", words("want least most"))
		})
	}
	text, err := r.scalar(n)
	if err != nil {
		return err
	}
	switch text {
	case "fit":
		*into = Size{}
	case "fill":
		*into = Size{Fill: true}
	default:
		units, err := strconv.Atoi(text)
		if err != nil || units < 0 || units > maxUnits {
			return r.fail(n, "%q is no size; use a number of units, fit or fill", text)
		}
		*into = Size{Units: units}
	}
	return nil
}

func (r *reader) edges(n ast.Node, into *Edges) error {
	if _, err := r.scalar(n); err == nil {
		var all int
		if err := r.number(n, 0, maxUnits, &all); err != nil {
			return err
		}
		*into = Edges{Start: all, End: all, Top: all, Bottom: all}
		return nil
	}
	return r.pairs(n, "the list of sides", func(name string, pair *ast.MappingValueNode) error {
		field := map[string]*int{"start": &into.Start, "end": &into.End, "left": &into.Left, "right": &into.Right, "top": &into.Top, "bottom": &into.Bottom}[name]
		if field == nil {
			return r.fail(pair.Key, "%q is no side; use start, end, top, bottom, or left and right", name)
		}
		return r.number(pair.Value, 0, maxUnits, field)
	})
}

// node reads a box.
func (r *reader) node(at ast.Node, depth int) (*Node, error) {
	if r.nodes++; r.nodes > maxNodes || depth > maxDepth {
		return nil, r.fail(at, "the screen has more than %d boxes or is nested more than %d deep; split it", maxNodes, maxDepth)
	}
	if null, ok := plain(at).(*ast.NullNode); ok || at == nil {
		return nil, r.fail(null, "an empty box; remove it or write space: {}")
	}
	var n *Node
	err := r.pairs(at, "a box", func(name string, pair *ast.MappingValueNode) error {
		if n != nil {
			return r.fail(pair.Key, "a box is exactly one of %s; this one is a %s already", kindNames(), n.Kind)
		}
		k := kind(name)
		if k == nil {
			if nearest := finding.Nearest(name, strings.Split(kindNames(), ", ")); nearest != "" {
				return r.fail(pair.Key, "%q is no box; %s was probably meant", name, nearest)
			}
			return r.fail(pair.Key, "%q is no box; use exactly one of %s", name, kindNames())
		}
		position := pair.Key.GetToken().Position
		n = &Node{Kind: name, Line: position.Line, Column: position.Column, Places: map[string]Place{}}
		return r.properties(n, k, pair.Value, depth)
	})
	if err == nil && n == nil {
		err = r.fail(at, "a box is exactly one of %s", kindNames())
	}
	return n, err
}

func kindNames() string {
	var names []string
	for _, k := range Kinds {
		names = append(names, k.Name)
	}
	return strings.Join(names, ", ")
}

func (r *reader) properties(n *Node, k *Kind, at ast.Node, depth int) error {
	n.Target = -1
	err := r.pairs(at, "a "+k.Name, func(name string, pair *ast.MappingValueNode) error {
		position := pair.Key.GetToken().Position
		n.Places[name] = Place{position.Line, position.Column}
		if !k.May(name) {
			return r.unknown(pair, name, "a "+k.Name, append(slices.Clone(Common), k.Properties...))
		}
		return r.property(n, name, pair.Value, depth)
	})
	if err != nil {
		return err
	}
	interactive := k.May("target") && k.Name != "icon"
	if n.Target < 0 && interactive {
		n.Target = 40
	}
	n.Target = max(n.Target, 0)
	switch {
	case n.Key != "" && n.Text != "":
		return r.fail(at, "the box %s has a key and a text; keep one of them", n.Key)
	case k.Name == "list" && len(n.Children) != 1, k.Name == "scroll" && len(n.Children) != 1:
		return r.fail(at, "a %s has exactly one child", k.Name)
	case k.Name == "grid" && len(n.Columns) == 0:
		return r.fail(at, "a grid says how wide its columns are, such as columns: [fit, fill]")
	case n.Chosen > len(n.Items):
		return r.fail(at, "there is no item %d; there are %d", n.Chosen, len(n.Items))
	case k.May("items") && len(n.Items) == 0:
		return r.fail(at, "a %s has items, such as items: [{key: a}, {key: b}]", k.Name)
	}
	return nil
}

// item reads one of a box's items.
func (r *reader) item(v ast.Node, n *Node) error {
	var item Item
	err := r.pairs(v, "an item", func(name string, pair *ast.MappingValueNode) error {
		switch name {
		case "key":
			return r.text(pair.Value, &item.Key)
		case "text":
			return r.text(pair.Value, &item.Text)
		case "args":
			return r.args(pair.Value, &item.Args)
		}
		return r.unknown(pair, name, "an item", words("key text args"))
	})
	n.Items = append(n.Items, item)
	return err
}

// property reads one property of a box.
func (r *reader) property(n *Node, name string, v ast.Node, depth int) error {
	switch name {
	case "name":
		return r.text(v, &n.Name)
	case "width":
		return r.size(v, &n.Width)
	case "height":
		return r.size(v, &n.Height)
	case "padding":
		return r.edges(v, &n.Padding)
	case "margin":
		return r.edges(v, &n.Margin)
	case "at":
		return r.edges(v, &n.At)
	case "align":
		return r.word(v, "align", &n.Align, "start", "center", "end", "left", "right")
	case "fill":
		return r.word(v, "fill", &n.Fill, "none", "plain", "soft", "accent")
	case "only":
		return r.strings(v, &n.Only)
	case "except":
		return r.strings(v, &n.Except)
	case "target":
		return r.number(v, 0, 400, &n.Target)
	case "gap":
		return r.number(v, 0, maxUnits, &n.Gap)
	case "columns":
		return r.list(v, 40, func(v ast.Node) error {
			var size Size
			err := r.size(v, &size)
			n.Columns = append(n.Columns, size)
			return err
		})
	case "children":
		return r.list(v, maxNodes, func(v ast.Node) error {
			child, err := r.node(v, depth+1)
			n.Children = append(n.Children, child)
			return err
		})
	case "rows":
		return r.list(v, maxItems, func(v ast.Node) error {
			var args map[string]string
			err := r.args(v, &args)
			n.Rows = append(n.Rows, args)
			return err
		})
	case "key":
		return r.text(v, &n.Key)
	case "text":
		return r.text(v, &n.Text)
	case "hint":
		return r.text(v, &n.Hint)
	case "args":
		return r.args(v, &n.Args)
	case "items":
		return r.list(v, 40, func(v ast.Node) error { return r.item(v, n) })
	case "chosen":
		return r.number(v, 0, 40, &n.Chosen)
	case "on":
		return r.truth(v, &n.On)
	case "size":
		return r.number(v, 1, 400, &n.Size)
	case "weight":
		return r.word(v, "weight", &n.Weight, "regular", "bold")
	case "font":
		return r.text(v, &n.Font)
	case "lines":
		return r.number(v, 0, 1000, &n.Lines)
	case "overflow":
		return r.word(v, "overflow", &n.Overflow, "wrap", "ellipsis", "clip", "shrink")
	case "smallest":
		return r.number(v, 1, 400, &n.Smallest)
	case "picture":
		return r.text(v, &n.Picture)
	case "directional":
		return r.truth(v, &n.Directional)
	}
	return errors.New(name) // every property of Properties has its case: a test holds that
}
