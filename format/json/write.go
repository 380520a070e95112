package json

import (
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/jsonscan"
	"zelvik/internal/fast"
	"zelvik/message/loose"
)

// writer writes texts and tells what it could not say.
type writer struct {
	format.Teller
	spelling loose.Spelling
	// guess gathers the texts of a new file; nil where its spelling is known.
	guess *format.Guessed
}

// compose writes one culture: nested where all keys are names separated by dots,
// with arrays for keys that are numbered, else flat.
func compose(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) {
	return composeAs(c, o, format.SpellingOf(c))
}

func composeAs(c *catalog.Catalog, o format.Options, s loose.Spelling) ([]byte, []catalog.Loss) {
	w := &writer{spelling: s, guess: &format.Guessed{}}
	w.Catalog, w.Source = c, o.Source == nil
	out := fast.Make[byte](o.Room(len(c.Entries) * 96))
	if nests(c) {
		root := &node{}
		for i := range c.Entries {
			if text, ok := w.entry(c, i); ok {
				path := segments(c.Entries[i].Key)
				at := root
				for _, segment := range path[:len(path)-1] {
					at = at.child(segment)
				}
				at.add(path[len(path)-1], jsonscan.Quote(text))
			}
		}
		w.guess.Tell(&w.Teller, s)
		return append(root.append(out, ""), '\n'), w.Losses
	}
	second := *w
	second.guess = &format.Guessed{}
	out, _ = format.Append(append(out, '{'), len(c.Entries), format.Options{}, w, &second, func(w *writer, out []byte, from, to int) ([]byte, bool) {
		for i := from; i < to; i++ {
			if text, ok := w.entry(c, i); ok {
				out = append(jsonscan.AppendQuote(append(out, "\n  "...), c.Entries[i].Key), ": "...)
				out = append(jsonscan.AppendQuote(out, text), ',')
			}
		}
		return out, true
	})
	if last := len(out) - 1; out[last] == ',' {
		out[last] = '\n'
	}
	w.Losses = append(w.Losses, second.Losses...)
	w.guess.Join(second.guess)
	w.guess.Tell(&w.Teller, s)
	return append(out, "}\n"...), w.Losses
}

// entry spells the entry with a number; it is false where there is none in the
// file.
func (w *writer) entry(c *catalog.Catalog, i int) (string, bool) {
	e := &c.Entries[i]
	if !w.Unheld(e, "JSON catalogs", holds) || c.At(e.Key) != i { // the first of several answers
		return "", false
	}
	if formLike(c, e.Key) {
		w.Lose("key", "that the key "+e.Key+" is no form of a plural", "it reads as one")
	}
	return w.text(w.Resolved(c, e)), true
}

// formLike reports whether a key and its neighbours read as forms of a plural.
func formLike(c *catalog.Catalog, key string) bool {
	base, category, ok := cutLast(key)
	switch {
	case !ok || base == "":
		return false
	case category == "plural":
		return c.Find(base) != nil
	case !slices.Contains(culture.Categories, category) || c.Find(base+"_other") == nil:
		return false
	}
	return slices.ContainsFunc(culture.Categories[:5], func(other string) bool { return c.Find(base+"_"+other) != nil })
}

// text spells a message.
func (w *writer) text(e *catalog.Entry) string {
	text, losses := w.spelling.Write(e.Message)
	if w.guess != nil {
		w.Entry = e
		w.guess.Add(&w.Teller, text, e.Message)
	} else if e.Message.Choice == nil && !e.Message.HasPlaceholders() && len(losses) == 0 && w.spelling.Misread(text) {
		w.Lose("escape", "that the signs in the text are no placeholder", "they read as one")
	}
	return w.Told(text, losses)
}

// node is an object or array that is being written.
type node struct {
	// keys are names, so that [0] is an item of an array.
	keys     []string
	text     map[string]string
	children map[string]*node
}

func (n *node) child(key string) *node {
	if n.children == nil {
		n.children = map[string]*node{}
	}
	if n.children[key] == nil {
		n.children[key] = &node{}
		n.keys = append(n.keys, key)
	}
	return n.children[key]
}

func (n *node) add(key, text string) {
	if n.text == nil {
		n.text = map[string]string{}
	}
	n.keys = append(n.keys, key)
	n.text[key] = text
}

// append writes the node; one whose keys are [0], [1] ... is an array.
func (n *node) append(out []byte, indent string) []byte {
	if len(n.keys) == 0 {
		return append(out, "{}"...)
	}
	open, end := byte('{'), byte('}')
	array := strings.HasPrefix(n.keys[0], "[")
	if array {
		open, end = '[', ']'
	}
	out = append(out, open)
	inner := indent + "  "
	for i, key := range n.keys {
		if i > 0 {
			out = append(out, ',')
		}
		out = append(out, "\n"+inner...)
		if !array {
			out = append(jsonscan.AppendQuote(out, key), ": "...)
		}
		if child := n.children[key]; child != nil {
			out = child.append(out, inner)
		} else {
			out = append(out, n.text[key]...)
		}
	}
	return append(append(out, "\n"+indent...), end)
}

// segments parts a key into the names of the levels it stands on; numbers of
// array items are names of their own: "days[0]" is days, [0].
func segments(key string) []string {
	var list []string
	for part := range strings.SplitSeq(key, ".") {
		if at := strings.IndexByte(part, '['); at > 0 {
			list = append(list, part[:at])
			part = part[at:]
			for strings.Count(part, "[") > 1 {
				next := strings.IndexByte(part[1:], '[') + 1
				list = append(list, part[:next])
				part = part[next:]
			}
		}
		list = append(list, part)
	}
	return list
}

// mostLevels bounds how deep objects are made of a key's parts; deeper ones are
// not read either.
const mostLevels = 100

// nests reports whether the keys can be nested so that they read the same: all
// are names separated by dots, none is another's level, arrays are numbered
// without gaps, and no object would be taken for something else.
func nests(c *catalog.Catalog) bool {
	if !slices.ContainsFunc(c.Entries, func(e catalog.Entry) bool { return strings.ContainsAny(e.Key, ".[") }) {
		return false
	}
	dotted, tags := false, true
	leaves, levels, next := map[string]bool{}, map[string]string{}, map[string]int{}
	for i := range c.Entries {
		key := c.Entries[i].Key
		path := segments(key)
		if len(path) > mostLevels {
			return false
		}
		dotted = dotted || len(path) > 1
		_, isTag := tagOf(path[len(path)-1])
		tags = tags && isTag
		at := ""
		for j, segment := range path {
			if segment == "" || strings.ContainsFunc(segment, func(r rune) bool {
				return !(r == '_' || r == '-' || r == '[' || r == ']' || r >= '0' && r <= '9' || r|0x20 >= 'a' && r|0x20 <= 'z')
			}) || strings.ContainsAny(segment, "[]") && !item(segment) {
				return false
			}
			if j < len(path)-1 || len(path) == 1 {
				if _, isTag := tagOf(segment); isTag && j == 0 || reserved[segment] {
					return false
				}
			} else if reserved[segment] {
				return false
			}
			kind := "object"
			if item(segment) {
				kind = "array"
				n := int(0)
				for _, c := range segment[1 : len(segment)-1] {
					n = n*10 + int(c-'0')
				}
				if known := next[at]; n > known || n == known-1 && j == len(path)-1 || n < known-1 {
					return false
				}
				next[at] = max(next[at], n+1)
			}
			if known, ok := levels[at]; ok && known != kind {
				return false
			}
			if leaves[at] && at != "" {
				return false
			}
			levels[at] = kind
			at += "\x00" + segment
		}
		if _, level := levels[at]; level {
			return false
		}
		leaves[at] = true
	}
	return dotted && !tags && levels[""] != "array"
}

// item reports whether a segment is the number of an array item.
func item(segment string) bool {
	return len(segment) > 2 && len(segment) < 8 && segment[0] == '[' && segment[len(segment)-1] == ']' &&
		strings.Trim(segment[1:len(segment)-1], "0123456789") == "" && (segment[1] != '0' || len(segment) == 3)
}

// reserved are names that make an object something else than a level.
var reserved = map[string]bool{"zero": true, "one": true, "two": true, "few": true, "many": true, "other": true, "message": true}
