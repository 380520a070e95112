package sheet

import (
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/internal/fast"
	"zelvik/message"
	"zelvik/message/loose"
	"zelvik/message/native"
)

// writer writes texts and tells what it could not say.
type writer struct {
	format.Teller
	spelling loose.Spelling
	// workbook says that cells are those of a workbook, which are no formulas
	// and hold what XML does.
	workbook bool
	// guess gathers the texts of a new table; nil where its spelling is known.
	guess *format.Guessed
}

func join(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss)     { return separated(catalogs, ',') }
func joinTabs(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) { return separated(catalogs, '\t') }

func separated(catalogs []*catalog.Catalog, sep byte) ([]byte, []catalog.Loss) {
	w := &writer{guess: &format.Guessed{Carried: true}, spelling: format.SpellingOf(catalogs...)}
	rows := w.table(catalogs)
	out, _ := format.Append(fast.Make[byte](64+len(rows)*len(rows[0])*48), len(rows), format.Options{}, sep, sep, func(sep byte, out []byte, from, to int) ([]byte, bool) {
		for i := from; i < to; i++ {
			for j, text := range rows[i] {
				if j > 0 {
					out = append(out, sep)
				}
				if i > 0 {
					text = guard(text)
				}
				out = appendCell(out, text, sep)
			}
			out = append(out, "\r\n"...)
		}
		return out, true
	})
	return out, w.Losses
}

func joinWorkbook(catalogs []*catalog.Catalog) ([]byte, []catalog.Loss) {
	w := &writer{workbook: true, guess: &format.Guessed{Carried: true}, spelling: format.SpellingOf(catalogs...)}
	rows := w.table(catalogs)
	out, err := pack(rows)
	if err != nil { // such as one with texts above 32,767 characters
		w.Entry = nil
		w.Lose("character", "the workbook: "+err.Error(), "nothing is written")
	}
	return out, w.Losses
}

// table makes the rows: a first one with names, then one for each key, or one
// for each form of a plural.
func (w *writer) table(catalogs []*catalog.Catalog) [][]string {
	keys := w.Keys(catalogs)
	forms := make([][]string, len(keys))
	second := &writer{spelling: w.spelling, workbook: w.workbook, guess: &format.Guessed{Carried: true}}
	var has, also contents
	fast.Halves(len(keys), func(from, to int) {
		has = w.look(catalogs, keys, forms, from, to)
	}, func(from, to int) {
		also = second.look(catalogs, keys, forms, from, to)
	})
	head := []string{"key"}
	add := func(name string, yes bool) int {
		if !yes {
			return -1
		}
		head = append(head, name)
		return len(head) - 1
	}
	at := columnPlaces{form: add("plural", has.forms || also.forms), note: add("note", has.notes || also.notes), limit: add("limit", has.limits || also.limits), fixed: add("translate", has.fixed || also.fixed)}
	for _, c := range catalogs {
		at.texts = append(at.texts, add(heading(c.Culture), true))
		at.marks = append(at.marks, add(string(c.Culture)+" state", has.states || also.states))
	}
	at.all = len(head)
	rows := make([][]string, 1, 1+len(keys)*5/4)
	rows[0] = head
	var rest [][]string
	fast.Halves(len(keys), func(from, to int) {
		rows = w.lines(rows, catalogs, keys, forms, at, from, to)
	}, func(from, to int) {
		rest = second.lines(make([][]string, 0, (to-from)*5/4), catalogs, keys, forms, at, from, to)
	})
	w.Losses = append(w.Losses, second.Losses...)
	w.guess.Join(second.guess)
	w.guess.Tell(&w.Teller, w.spelling)
	return append(rows, rest...)
}

// contents say which columns a table needs.
type contents struct{ forms, notes, limits, fixed, states bool }

// look finds the forms of keys and what else their entries have, and tells what
// spreadsheets do not hold.
func (w *writer) look(catalogs []*catalog.Catalog, keys []string, forms [][]string, from, to int) (has contents) {
	for i := from; i < to; i++ {
		forms[i] = w.categories(catalogs, i, keys[i])
		has.forms = has.forms || forms[i][0] != ""
		for _, c := range catalogs {
			e := c.Near(i, keys[i])
			if w.Catalog, w.Source = c, c == catalogs[0]; e == nil || !w.Unheld(e, "spreadsheets", holds) {
				continue
			}
			has.notes, has.limits, has.fixed = has.notes || e.Note != "", has.limits || e.Limit > 0, has.fixed || e.Fixed
			has.states = has.states || e.State != catalog.Unstated
		}
	}
	return has
}

// columnPlaces are the columns of a table, -1 for those that it has not; texts
// and marks are those of the cultures.
type columnPlaces struct {
	form, note, limit, fixed, all int
	texts, marks                  []int
}

// lines makes the rows of keys.
func (w *writer) lines(rows [][]string, catalogs []*catalog.Catalog, keys []string, forms [][]string, at columnPlaces, from, to int) [][]string {
	var cells []string
	for n := from; n < to; n++ {
		key, list := keys[n], forms[n]
		begin := len(rows)
		for _, category := range list {
			if len(cells) == 0 {
				cells = make([]string, 256*at.all)
			}
			r := cells[:at.all:at.all]
			cells = cells[at.all:]
			r[0] = w.legal(key)
			if category != "" {
				r[at.form] = category
			}
			rows = append(rows, r)
		}
		for i, c := range catalogs {
			e := c.Near(n, key)
			if e == nil {
				continue
			}
			w.Catalog, w.Entry = c, e
			first := rows[begin]
			if at.note >= 0 && e.Note != "" && first[at.note] == "" {
				first[at.note] = w.legal(e.Note)
			}
			if at.limit >= 0 && e.Limit > 0 {
				first[at.limit] = fmt.Sprint(e.Limit)
			}
			if at.fixed >= 0 && e.Fixed {
				first[at.fixed] = "no"
			}
			if at.marks[i] >= 0 && e.State != catalog.Unstated {
				first[at.marks[i]] = e.State.String()
			}
			w.fill(rows[begin:], list, at.texts[i], w.Resolved(c, e).Message)
		}
	}
	return rows
}

// heading returns what stands over a culture's column: its tag, or where that
// would be read as something else its name with the tag.
func heading(tag culture.Tag) string {
	if c := columnsOf([]string{string(tag)}); len(c.cultures) == 1 && c.cultures[0].tag == tag {
		return string(tag)
	}
	return tag.Name() + " (" + string(tag) + ")"
}

// rows returns the forms of a message that stands in rows: a plural over one
// number that its texts name. Other choices stand in one row as ICU messages.
func (w *writer) rows(m message.Message) []string {
	if m.Choice == nil || len(m.Choice.Selectors) != 1 || m.Choice.Selectors[0].Kind != message.Plural || m.Choice.Selectors[0].Offset != 0 {
		return nil
	}
	list := make([]string, 0, len(m.Choice.Variants))
	for _, v := range m.Choice.Variants {
		if !slices.Contains(culture.Categories, v.Keys[0]) && !exact(v.Keys[0]) || len(v.Pattern) == 0 {
			return nil
		}
		list = append(list, v.Keys[0])
	}
	if showsCount(m) {
		return list
	}
	again := message.Message{Choice: &message.Choice{}}
	for _, v := range m.Choice.Variants {
		text, _ := w.spelling.Carry(message.Message{Pattern: bare(m, v.Pattern)}, m)
		inner, _ := w.spelling.Carried(text)
		again.Choice.Variants = append(again.Choice.Variants, message.Variant{Keys: v.Keys, Pattern: inner.Pattern})
	}
	again.CountFirst()
	own, read := m.Choice.Selectors[0].Argument, again.Choice.Selectors[0].Argument
	if read.Position > 0 && own.Position > 0 && read.Position != own.Position {
		return nil
	}
	if read.Name != own.Name && own.Name != "" {
		return w.typed(m, list)
	}
	if read.Name != own.Name && !(own.MadeName() && read.Position == own.Position) {
		return nil
	}
	return list
}

// showsCount reports whether the texts of a plural show its count by a plain name, and
// nothing else: then they will be read so without a trial.
func showsCount(m message.Message) bool {
	counted := &m.Choice.Selectors[0].Argument
	for i := range len(counted.Name) {
		if c := counted.Name[i] | 0x20; c < 'a' || c > 'z' {
			return false
		}
	}
	shown := false
	for _, v := range m.Choice.Variants {
		for _, part := range v.Pattern {
			switch part := part.(type) {
			case message.Text:
				if strings.ContainsAny(string(part), "{}%$#<'@:") {
					return false
				}
			case *message.Placeholder:
				if part.Name != counted.Name || part.Type != message.Integer || part.Style != "" || !part.Same(counted) {
					return false
				}
				shown = true
			default:
				return false
			}
		}
	}
	return shown && counted.Name != ""
}

// typed is rows for a plural whose count is not known by its name or by being
// alone: it has to say that it is a number.
func (w *writer) typed(m message.Message, list []string) []string {
	for p := range m.Placeholders() {
		if p.Same(&m.Choice.Selectors[0].Argument) && p.Type == message.Integer && p.Style != "" {
			return list
		}
	}
	return nil
}

// bare returns a form with its plain count as {count}, without the type that
// standing in a plural says already.
func bare(m message.Message, p message.Pattern) message.Pattern {
	if m.Choice == nil {
		return p
	}
	counted := &m.Choice.Selectors[0].Argument
	out := make(message.Pattern, len(p))
	for i, part := range p {
		if count, ok := part.(*message.Placeholder); ok && count.Same(counted) && count.Type == message.Integer && count.Style == "" && native.Derived(count) {
			plain := *count
			plain.Type, plain.Syntax, plain.Spelling = message.String, message.Nowhere, ""
			part = &plain
		}
		out[i] = part
	}
	return out
}

// whole are the forms of a key that stands in one row: one without a name.
var whole = []string{""}

// categories returns the forms of a key in all cultures.
func (w *writer) categories(catalogs []*catalog.Catalog, number int, key string) []string {
	var list []string
	for _, c := range catalogs {
		e := c.Near(number, key)
		if e == nil {
			continue
		}
		forms := w.rows(e.Message)
		if forms == nil {
			return whole
		}
		for _, form := range forms {
			if !slices.Contains(list, form) {
				list = append(list, form)
			}
		}
	}
	slices.SortStableFunc(list, func(a, b string) int {
		return slices.Index(culture.Categories, a) - slices.Index(culture.Categories, b)
	})
	return list
}

// fill writes a culture's texts into a key's rows.
func (w *writer) fill(rows [][]string, forms []string, column int, m message.Message) {
	if forms[0] == "" {
		rows[0][column] = w.text(m, m)
		return
	}
	for _, v := range m.Choice.Variants {
		rows[slices.Index(forms, v.Keys[0])][column] = w.text(message.Message{Pattern: bare(m, v.Pattern)}, m)
	}
}

// text spells a message for a cell; it is one form of the whole message.
func (w *writer) text(m, whole message.Message) string {
	text, losses := w.spelling.Carry(m, whole)
	if w.guess != nil {
		w.guess.Add(&w.Teller, text, m)
	} else if m.Choice == nil && !m.HasPlaceholders() && len(losses) == 0 && w.spelling != loose.Braces && w.spelling.Misread(text) {
		w.Lose("escape", "that the signs in the text are no placeholder", "they read as one")
	}
	if text == "" {
		w.Lose("empty", "that there is a text, and that it is empty", "an empty cell, which reads as no text")
	}
	return w.legal(w.Told(text, losses))
}

// legal leaves out what a cell cannot hold: carriage returns and zeros.
func (w *writer) legal(text string) string {
	clean := text
	if strings.IndexByte(text, '\r') >= 0 || strings.IndexByte(text, 0) >= 0 {
		clean = strings.NewReplacer("\r\n", "\n", "\r", "\n", "\x00", "").Replace(text)
	}
	if clean != text {
		w.Lose("character", "control characters that a cell cannot hold", "they are left out")
	}
	return clean
}
