package arb

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/jsonscan"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/message/native"
)

// composer writes entries and notes what it could not say.
type composer struct {
	out  []byte
	text []byte // one text before it is quoted
	format.Teller
	// arguments are one entry's.
	arguments []message.Placeholder
}

func (w *composer) put(text string) { w.out = append(w.out, text...) }

func (w *composer) quote(text string) { w.out = jsonscan.AppendQuote(w.out, text) }

// compose writes a bundle. Metadata goes into the source's file; into a
// translation's only what its keys need.
func compose(c *catalog.Catalog, o format.Options) ([]byte, []catalog.Loss) {
	w := &composer{out: fast.Make[byte](o.Room(64 + len(c.Entries)*160))}
	w.Catalog = c
	w.put("{")
	if c.Culture != "" {
		w.put("\n  \"@@locale\": ")
		w.quote(strings.ReplaceAll(string(c.Culture), "-", "_"))
		w.put(",")
	}
	// Keys can only clash where one of them is spelled otherwise.
	var taken map[string]string
	for i := range c.Entries {
		if !clean(c.Entries[i].Key) {
			taken = make(map[string]string, len(c.Entries))
			break
		}
	}
	const many = 20000
	if half := len(c.Entries) / 2; half > many && taken == nil && o.Against == nil {
		// Both halves write into one buffer, so that joining them moves bytes
		// and makes none.
		room, middle := w.out, cap(w.out)/2
		second := &composer{out: room[middle:middle]}
		second.Catalog = c
		w.out = room[:len(room):middle]
		fast.Both(func() { w.entries(c, c.Entries[:half], nil, o) }, func() { second.entries(c, c.Entries[half:], nil, o) })
		if cap(w.out) == middle { // it did not outgrow its half
			w.out = room[:len(w.out)]
		}
		w.out = append(w.out, second.out...)
		w.Losses = append(w.Losses, second.Losses...)
	} else if !w.entries(c, c.Entries, taken, o) {
		return nil, nil
	}
	if w.out[len(w.out)-1] == ',' {
		w.out = append(w.out[:len(w.out)-1], '\n')
	}
	w.put("}\n")
	return w.out, w.Losses
}

// flush hands over all but the last comma, which the end may take back.
func flush(o format.Options, out []byte) ([]byte, bool) {
	if o.Against == nil || len(out) == 0 {
		return out, true
	}
	last := out[len(out)-1]
	rest, on := o.Flush(out[:len(out)-1])
	return append(rest, last), on
}

// entries writes entries, each with a comma after it; false when there is no
// need to go on.
func (w *composer) entries(c *catalog.Catalog, entries []catalog.Entry, taken map[string]string, o format.Options) bool {
	for i := range entries {
		var on bool
		if w.out, on = flush(o, w.out); !on {
			return false
		}
		e := &entries[i]
		if !w.Unheld(e, ".arb files", holds) {
			continue
		}
		key := w.key(e.Key, taken)
		w.put("\n  \"")
		w.put(key) // a key that is clean needs no escapes
		w.put("\": ")
		if text, ok := untouched(e); ok {
			w.put("\"")
			w.put(text)
			w.put("\",")
		} else {
			w.out = append(jsonscan.AppendQuote(w.out, w.spell(c, e)), ',')
		}
		w.metadata(key, e, o.Source != nil)
		if o.Source != nil {
			w.undeclared(e, o.Source.Near(i, e.ID()))
		}
		if o.Source == nil && e.Message.HasPlaceholders() && !ordered(w.arguments) { // as they were just described
			w.Lose("position", "which argument is the first and which the second", "the order of their descriptions")
		}
	}
	return true
}

// ordered reports whether the positions of arguments are one to their number,
// as the order of their descriptions says.
func ordered(arguments []message.Placeholder) bool {
	for i := range arguments {
		if arguments[i].Position != i+1 {
			return false
		}
	}
	return true
}

// clean reports whether a key is the name of a Dart method, as Flutter asks.
func clean(key string) bool {
	for i := 0; i < len(key); i++ {
		c := key[i]
		if !(c >= 'a' && c <= 'z' || i > 0 && (c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '_')) {
			return false
		}
	}
	return key != ""
}

// key returns the key as Flutter takes it. The key as it was is kept in the
// metadata. Taken holds the keys spelled so far; nil where none can clash.
func (w *composer) key(key string, taken map[string]string) string {
	spelled := key
	if !clean(key) {
		spelled = strings.Trim(strings.Map(func(r rune) rune {
			if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '_' {
				return r
			}
			return '_'
		}, strings.ReplaceAll(key, "]", "")), "_")
		if spelled == "" || !(spelled[0] >= 'a' && spelled[0] <= 'z' || spelled[0] >= 'A' && spelled[0] <= 'Z') {
			spelled = "key_" + spelled
		}
		spelled = strings.ToLower(spelled[:1]) + spelled[1:]
	}
	if taken != nil {
		for n := 2; taken[spelled] != "" && taken[spelled] != key; n++ {
			spelled = strings.TrimRight(spelled, "0123456789") + strconv.Itoa(n)
		}
		taken[spelled] = key
	}
	if spelled != key {
		w.Lose("key", fmt.Sprintf("the key %q, which is no name in Dart", key), fmt.Sprintf("it is %s; %s in the metadata keeps it", spelled, originalKey))
	}
	return spelled
}

// touched marks the bytes that have a meaning to ICU, markup or JSON.
var touched = func() (table [256]bool) {
	for c := range ' ' {
		table[c] = true
	}
	for _, c := range `{}'"\` {
		table[c] = true
	}
	return table
}()

// untouched returns the text of the commonest of entries, which is written as it
// stands.
func untouched(e *catalog.Entry) (string, bool) {
	if e.Message.Choice != nil || len(e.Message.Pattern) != 1 || e.Reference != "" {
		return "", false
	}
	text, ok := e.Message.Pattern[0].(message.Text)
	if !ok {
		return "", false
	}
	for i := 0; i < len(text); i++ {
		if touched[text[i]] {
			return "", false
		}
	}
	return string(text), true
}

// value spells the message.
func (w *composer) value(c *catalog.Catalog, e *catalog.Entry) string { return string(w.spell(c, e)) }

// spell is value in a buffer that the next text takes.
func (w *composer) spell(c *catalog.Catalog, e *catalog.Entry) []byte {
	text, losses := icu.Writer{Bare: true}.Append(w.text[:0], w.Resolved(c, e).Message)
	w.Told("", losses)
	w.shownTwice(e.Message)
	w.text = text
	return text
}

// shownTwice reports an argument that is shown in two ways: a declaration has one.
func (w *composer) shownTwice(m message.Message) {
	if !m.HasPlaceholders() {
		return
	}
	var room [4]*message.Placeholder
	first := room[:0]
	for _, pattern := range m.Patterns() {
		for _, part := range pattern {
			p, ok := part.(*message.Placeholder)
			if !ok {
				continue
			}
			at := slices.IndexFunc(first, func(f *message.Placeholder) bool { return f.Same(p) })
			switch {
			case at < 0:
				first = append(first, p)
			case first[at].Type != p.Type || first[at].Style != p.Style:
				w.Lose("type", fmt.Sprintf("that {%s} is shown in two ways, as %s and as %s", p.Name, first[at].Says(), p.Says()), "one of them, for a declaration has one")
				return
			}
		}
	}
}

// metadata writes the @key object.
func (w *composer) metadata(key string, e *catalog.Entry, translation bool) {
	placeholders := !translation && e.Message.HasPlaceholders()
	note := !translation && e.Note != ""
	if key == e.Key && !note && !placeholders {
		return
	}
	w.put("\n  \"@")
	w.put(key)
	w.put("\": {")
	comma := ""
	if key != e.Key {
		w.put("\n    \"" + originalKey + "\": ")
		w.quote(e.Key)
		comma = ","
	}
	if note {
		w.put(comma + "\n    \"description\": ")
		w.quote(e.Note)
		comma = ","
	}
	if placeholders {
		w.put(comma)
		w.placeholders(e)
	}
	w.put("\n  },")
}

// placeholders describes the arguments, in order of position.
func (w *composer) placeholders(e *catalog.Entry) {
	w.put("\n    \"placeholders\": {")
	w.arguments = e.Message.AppendArguments(w.arguments[:0])
	for i := range w.arguments {
		p := &w.arguments[i]
		if i > 0 {
			w.put(",")
		}
		w.put("\n      ")
		w.quote(p.Name)
		w.put(": {")
		d := w.declared(p)
		w.put("\n        \"type\": \"")
		w.put(d.Type)
		w.put("\"")
		if d.Format != "" {
			w.put(",\n        \"format\": ")
			w.quote(d.Format)
		}
		if d.Custom != nil {
			w.put(",\n        \"isCustomDateFormat\": \"true\"")
		}
		if o := d.Optional; o != nil {
			w.put(",\n        \"optionalParameters\": ")
			w.put(parameters(o))
		}
		if p.Sample != "" {
			w.put(",\n        \"example\": ")
			w.quote(p.Sample)
		}
		w.put("\n      }")
	}
	w.put("\n    }")
}

// undeclared reports types that the source's metadata does not state, as a
// translation has none.
func (w *composer) undeclared(e, source *catalog.Entry) {
	if _, plain := e.Message.Plain(""); plain {
		return
	}
	var known []message.Placeholder
	if source != nil {
		known = source.Message.Arguments()
	}
	w.arguments = e.Message.AppendArguments(w.arguments[:0])
	for i := range w.arguments {
		p := &w.arguments[i]
		if p.Type == message.String && p.Style == "" || slices.ContainsFunc(known, func(k message.Placeholder) bool { return k.Name == p.Name && k.Type == p.Type && k.Style == p.Style }) {
			continue
		}
		if e.Message.Choice != nil && slices.ContainsFunc(e.Message.Choice.Selectors, func(s message.Selector) bool { return s.Argument.Name == p.Name && s.Kind != message.Select }) && p.Style == "" {
			continue // counted, and so an integer
		}
		w.Lose("type", "that {"+p.Name+"} is a "+p.Type.String()+", which the source does not say", "a text")
	}
}

// declared returns the declaration of a placeholder, and tells what it does not say.
func (w *composer) declared(p *message.Placeholder) native.Declaration {
	d := native.Declare(p)
	if p.Style != "" || p.Type >= message.Date {
		var read message.Placeholder
		d.Describe(&read)
		for _, l := range p.Lost(&read) {
			w.Lose(l.Kind, l.Lost, l.Instead)
		}
	}
	return d
}

// parameters writes the optional parameters on one line.
func parameters(o *native.Parameter) string {
	var list []string
	add := func(name, text string) {
		if text != "" {
			list = append(list, jsonscan.Quote(name)+": "+jsonscan.Quote(text))
		}
	}
	if o.Digits != nil {
		list = append(list, fmt.Sprintf(`"decimalDigits": %d`, *o.Digits))
	}
	add("name", o.Name)
	add("symbol", o.Symbol)
	add("customPattern", o.Pattern)
	add("locale", o.Locale)
	return "{" + strings.Join(list, ", ") + "}"
}
