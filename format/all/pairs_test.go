package all

import (
	"flag"
	"fmt"
	"maps"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/format"
	"zelvik/format/formattest"
	"zelvik/message"
	"zelvik/message/icu"
)

var update = flag.Bool("update", false, "write docs/conversions.md anew")

// everything reads testdata/everything.txtar: one catalog per culture with all
// that a message can hold. A line is "key | ICU message", and after further
// bars a note, limit=20, fixed, draft, moved or done.
func everything(t testing.TB) []*catalog.Catalog {
	archive, err := txtar.ParseFile("testdata/everything.txtar")
	require.NoError(t, err)
	var list []*catalog.Catalog
	states := map[string]catalog.State{"draft": catalog.Draft, "moved": catalog.Moved, "done": catalog.Done}
	for _, file := range archive.Files {
		c := &catalog.Catalog{Culture: culture.MustParse(file.Name)}
		for line := range strings.Lines(string(file.Data)) {
			fields := strings.Split(strings.TrimRight(line, "\n"), " | ")
			if len(fields) < 2 {
				continue
			}
			m, faults := icu.Parse(strings.NewReplacer(`\n`, "\n", `\t`, "\t").Replace(fields[1]))
			require.Empty(t, faults, line)
			if fields[0] == "markup" {
				m = m.Marked()
			}
			e := catalog.Entry{Key: fields[0], Message: m, Offset: -1}
			for _, field := range fields[2:] {
				limit := 0
				if _, err := fmt.Sscanf(field, "limit=%d", &limit); err == nil {
					e.Limit = limit
				} else if field == "fixed" {
					e.Fixed = true
				} else if state, ok := states[field]; ok {
					e.State = state
				} else {
					e.Note = field
				}
			}
			c.Add(e)
		}
		list = append(list, c)
	}
	formattest.Settle(list)
	return list
}

// through writes catalogs in a format and reads them again, as a family of it
// is written and read.
func through(t *testing.T, f *format.Format, list []*catalog.Catalog) ([]*catalog.Catalog, []catalog.Loss) {
	var losses []catalog.Loss
	read := func(data []byte) []*catalog.Catalog {
		document, findings := f.Parse(data)
		require.False(t, damaged(findings), "%s: %v\n%s", f.Name, findings, data)
		require.NoError(t, wellFormedOutside(f, data), "%s\n%s", f.Name, data)
		return document.Catalogs()
	}
	var out []*catalog.Catalog
	switch {
	case f.Holds.Many:
		data, more := f.Join(list)
		losses = more
		byTag := map[culture.Tag]*catalog.Catalog{}
		for _, c := range read(data) {
			byTag[c.Culture] = c
		}
		for _, c := range list {
			if byTag[c.Culture] == nil {
				byTag[c.Culture] = &catalog.Catalog{Culture: c.Culture}
			}
			out = append(out, byTag[c.Culture])
		}
	default:
		for i, c := range list {
			var data []byte
			var more []catalog.Loss
			switch {
			case i == 0:
				data, more = f.Compose(c, format.Options{Beside: f.Companion != nil})
			case f.Holds.Bilingual:
				data, more = f.Join([]*catalog.Catalog{list[0], c})
			default:
				data, more = f.Compose(c, format.Options{Source: list[0], Beside: f.Companion != nil})
			}
			all := read(data)
			own := all[len(all)-1]
			if f.Companion != nil {
				data, lost := f.Companion.Compose(c, format.Options{Beside: true})
				more = append(more, lost...)
				document, findings := f.Companion.Parse(data)
				if data != nil {
					require.False(t, damaged(findings), "%v\n%s", findings, data)
					for _, e := range document.Catalogs()[0].Entries {
						own.Add(e)
					}
				}
			}
			for j := range more {
				if more[j].Culture == "" {
					more[j].Culture = c.Culture
				}
				if more[j].Kind == "source-plural" && f.Template {
					more[j].Kind = ""
				}
			}
			losses = append(losses, more...)
			own.Culture = c.Culture
			out = append(out, own)
		}
	}
	formattest.Settle(out)
	return out, losses
}

// said describes all that an entry says, for comparing.
func said(e *catalog.Entry) string {
	if e == nil {
		return "(gone)"
	}
	formattest.WithoutIdle(e.Message.Choice)
	var out strings.Builder
	if c := e.Message.Choice; c != nil {
		for _, s := range c.Selectors {
			fmt.Fprintf(&out, "%s %s offset %d; ", s.Kind, s.Argument.Name, s.Offset)
		}
		var variants []string
		for _, v := range c.Variants {
			if len(v.Keys) == 1 && v.Keys[0] != message.Default && !strings.HasPrefix(v.Keys[0], "=") && v.Pattern.String() == e.Message.Main().String() {
				continue // it says what other says
			}
			variants = append(variants, strings.Join(v.Keys, "+")+": "+parts(v.Pattern))
		}
		slices.Sort(variants)
		out.WriteString(strings.Join(variants, " | "))
	} else {
		out.WriteString(parts(e.Message.Pattern))
	}
	for _, a := range e.Message.Arguments() {
		var shown []string // as what it is shown, which may differ from what is counted
		for _, p := range e.Message.Patterns() {
			for _, part := range p {
				if one, ok := part.(*message.Placeholder); ok && one.Same(&a) && !slices.Contains(shown, one.Type.String()+" "+string(one.Style)) {
					shown = append(shown, one.Type.String()+" "+string(one.Style))
				}
			}
		}
		if slices.Sort(shown); shown == nil {
			shown = []string{a.Type.String() + " " + string(a.Style)}
		}
		fmt.Fprintf(&out, " {%s %d %s}", a.Name, a.Position, strings.Join(shown, ", "))
	}
	state := e.State
	if state == catalog.Done { // most formats say nothing of what is done
		state = catalog.Unstated
	}
	fmt.Fprintf(&out, " limit %d fixed %t state %s", e.Limit, e.Fixed, state)
	return out.String()
}

// tidy is a note without the white space around its lines, which says nothing.
func tidy(note string) string {
	lines := strings.Split(strings.TrimSpace(note), "\n")
	for i := range lines {
		lines[i] = strings.TrimSpace(lines[i])
	}
	return strings.Join(lines, "\n")
}

// parts shows a pattern so that markup differs from characters that look like it.
func parts(p message.Pattern) string {
	var out strings.Builder
	for _, part := range p {
		switch part := part.(type) {
		case message.Text:
			out.WriteString(string(part))
		case *message.Placeholder:
			out.WriteString("⟦" + part.Name + "⟧")
		case *message.Markup:
			out.WriteString("⟦" + part.String() + "⟧")
		}
	}
	return out.String()
}

// differences compares two families key by key; notes are compared with the
// source alone.
func differences(before, after []*catalog.Catalog) map[string]string {
	found := map[string]string{}
	for i, c := range before {
		for j := range c.Entries {
			e := &c.Entries[j]
			other := after[i].Find(e.ID())
			a, b := said(e), said(other)
			if i == 0 && other != nil {
				a, b = a+" note "+tidy(e.Note), b+" note "+tidy(other.Note)
			}
			if a != b {
				found[string(c.Culture)+" "+e.Key] = a + "\n    " + b
			}
		}
	}
	return found
}

// told returns the losses by culture and key; those of the source count for
// every culture.
func told(losses []catalog.Loss) (byKey map[string]bool, kinds []string) {
	byKey = map[string]bool{}
	seen := map[string]bool{}
	for _, l := range losses {
		if l.Kind == "" {
			continue
		}
		byKey[string(l.Culture)+" "+l.Key] = true
		if l.Culture == "en" {
			byKey[" "+l.Key] = true
		}
		seen[l.Kind] = true
	}
	return byKey, slices.Sorted(maps.Keys(seen))
}

// Every format into every other and back: what is not as it was is reported as a
// loss, on the way there or back. The family has everything but styles, which
// are those that the format itself has.
func TestEveryPair(t *testing.T) {
	var doc strings.Builder
	doc.WriteString(conversionsHead)
	all := inventory(t)
	for _, a := range Formats {
		if a.Name == "mo" || a.Name == "stringsdict" || a.Name == "xliff2" {
			continue
		}
		families := [][]*catalog.Catalog{everything(t)}
		for _, own := range all {
			if own.format == a {
				families = append(families, []*catalog.Catalog{own.catalog(t, "Shown", "en"), own.catalog(t, "Da", "de")})
				formattest.Settle(families[len(families)-1])
			}
		}
		fmt.Fprintf(&doc, "\n## From %s\n\n| to | what is told as lost |\n| --- | --- |\n", a.Name)
		for _, b := range Formats {
			if b == a || b.Name == "stringsdict" {
				continue
			}
			t.Run(a.Name+" to "+b.Name, func(t *testing.T) {
				kinds := map[string]bool{}
				for _, family := range families {
					for _, kind := range thereAndBack(t, a, b, family) {
						kinds[kind] = true
					}
				}
				fmt.Fprintf(&doc, "| %s | %s |\n", b.Name, list(slices.Sorted(maps.Keys(kinds))))
			})
		}
	}
	if t.Failed() {
		return
	}
	const path = "../../docs/conversions.md"
	if *update {
		require.NoError(t, os.WriteFile(path, []byte(doc.String()), 0o644))
	}
	have, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, doc.String(), string(have), "go test ./format/all -run EveryPair -update writes it anew")
}

// thereAndBack takes a family from one format into another and back, and gives
// the kinds of losses that were reported on the way there.
func thereAndBack(t *testing.T, a, b *format.Format, family []*catalog.Catalog) []string {
	before, _ := through(t, a, family)
	if b.Name == "mo" { // written only
		_, losses := b.Join(before[:2])
		_, kinds := told(losses)
		return kinds
	}
	start, _ := through(t, a, family)
	there, losses := through(t, b, before)
	_, kinds := told(losses)
	back, more := through(t, a, there)
	known, _ := told(append(losses, more...))
	for place, difference := range differences(start, back) {
		tag, key, _ := strings.Cut(place, " ")
		if !known[place] && !known[" "+key] && !known[tag+" "] && !known[" "] {
			t.Errorf(t.Name()+" %s changed and nothing was told:\n    %s", place, difference)
		}
	}
	return kinds
}

func list(kinds []string) string {
	if len(kinds) == 0 {
		return "nothing"
	}
	return strings.Join(kinds, ", ")
}

const conversionsHead = `# What each pair of formats carries

Made by ` + "`go test ./format/all -run EveryPair -update`" + ` from a family that has everything: all plural
categories, exact cases, an offset, ordinals, select, two counts in one sentence, markup, arrays,
notes, states, limits, odd keys; and from the whole inventory of styles that the format itself has for
numbers, money, dates and times. The test converts both from every format into every other and back,
and fails where anything differs of which no loss was told. The kinds of losses are explained in
[losses.md](losses.md). In a family, the ledger keeps what is told here as lost of names, types and
examples of placeholders.
`
