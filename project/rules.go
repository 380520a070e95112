package project

import (
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/finding"
	"zelvik/message"
	"zelvik/verify"
)

// Verifiable returns a family as the rules see it.
func (w *Workspace) Verifiable(f *Family) *verify.Family {
	v := &verify.Family{Family: &f.Family, Format: f.Format.Name, Names: w.Config.Verify.Names, Cultures: w.Config.Cultures, Partial: w.Partial, OwnForms: f.Format.Holds.Forms, Notes: f.Format.Holds.Notes}
	v.HasNeutral = !f.Format.Holds.Bilingual && f.Format.Path("", "t", "xx", true) != f.Format.Path("", "t", "xx", false) &&
		!slices.ContainsFunc(f.Files, func(file *File) bool { return strings.EqualFold(filepath.Ext(file.Path), ".resw") }) // every language has a folder
	for _, file := range f.Misnamed {
		v.Misnamed = append(v.Misnamed, f.Slip(file))
	}
	v.Place = func(m *catalog.Member, e *catalog.Entry) (path string, line, column int) {
		file := f.File(m)
		if file == nil {
			return m.Path, 0, 0
		}
		holder := file.Holder(e.ID())
		line, column = holder.At(e.Offset)
		return holder.Path, line, column
	}
	return v
}

// Slip says what is wrong with the name of one of the family's misnamed files.
func (f *Family) Slip(file *File) verify.Misnamed {
	at := file.Location
	m := verify.Misnamed{Path: file.Path, Why: at.Misnamed, Meant: at.Meant, Culture: at.Culture, Unknown: at.Unknown}
	if near, ext := NearExtension(file.Path); near != nil && m.Why == "" {
		m.Why = "the platform does not read a file with this ending"
		if m.Meant = near.Path(f.Dir, f.Table, at.Culture, at.Neutral); at.Culture == "" { // it stands in its folder
			m.Meant = filepath.Join(filepath.Dir(file.Path), f.Table+ext)
		}
	}
	return m
}

// Broken returns the errors that the rules find in texts that came back, by key.
func (w *Workspace) Broken(f *Family, source *catalog.Member, back *catalog.Catalog) map[string]*finding.Finding {
	from, to := &catalog.Catalog{Culture: f.Source}, &catalog.Catalog{Culture: back.Culture}
	for i := range back.Entries {
		if s := source.Catalog.Find(back.Entries[i].ID()); s != nil {
			from.Add(*s)
			e := back.Entries[i]
			e.State = catalog.Unstated // what it says counts, reviewed or not
			e.Message = SpelledAs(e.Message, s.Message, false)
			to.Add(e)
		}
	}
	v := &verify.Family{Format: f.Format.Name, Partial: true, Names: w.Config.Verify.Names, Family: &catalog.Family{
		Name: f.Name, Format: f.Format.Name, Source: f.Source,
		Members: []*catalog.Member{{Culture: f.Source, Neutral: true, Catalog: from}, {Culture: back.Culture, Catalog: to}},
	}}
	v.Place = func(*catalog.Member, *catalog.Entry) (string, int, int) { return "", 0, 0 }
	found := map[string]*finding.Finding{}
	result := verify.Run([]*verify.Family{v}, nil, nil)
	for i := range result.Findings {
		if one := &result.Findings[i]; one.Severity == finding.Error && one.Key != "" && one.Culture == string(back.Culture) && found[one.Key] == nil {
			found[one.Key] = one
		}
	}
	return found
}

// SpelledAs returns a copy of a message whose placeholders say that they are in
// the syntax of the source, so that they compare with those. Exactly gives them
// the source's own spelling, too.
func SpelledAs(m, source message.Message, exactly bool) message.Message {
	var arguments []*message.Placeholder
	for p := range source.Placeholders() {
		if p.Spelling != "" { // shown, not only counted
			arguments = append(arguments, p)
		}
	}
	respell := func(p *message.Placeholder) *message.Placeholder {
		copied := *p
		for i := range arguments {
			if arguments[i].Same(p) {
				copied.Syntax, copied.Spelling = arguments[i].Syntax, ""
				copied.Position, copied.Name = arguments[i].Position, arguments[i].Name
				if exactly {
					copied.Spelling, copied.Wrapped = arguments[i].Spelling, arguments[i].Wrapped
				}
				break
			}
		}
		return &copied
	}
	pattern := func(p message.Pattern) message.Pattern {
		out := slices.Clone(p)
		for i, part := range out {
			if placeholder, ok := part.(*message.Placeholder); ok {
				out[i] = respell(placeholder)
			}
		}
		return out
	}
	if m.Choice == nil {
		return message.Message{Pattern: pattern(m.Pattern)}
	}
	choice := &message.Choice{}
	for _, s := range m.Choice.Selectors {
		s.Argument = *respell(&s.Argument)
		choice.Selectors = append(choice.Selectors, s)
	}
	for _, v := range m.Choice.Variants {
		choice.Variants = append(choice.Variants, message.Variant{Keys: v.Keys, Pattern: pattern(v.Pattern)})
	}
	return message.Message{Choice: choice}
}

func Sourceless(f *Family) string {
	return fmt.Sprintf("%s has no file in the source culture %s", f.Name, f.Source)
}
