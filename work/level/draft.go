package level

import (
	"context"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/catalog/glossary"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/files"
	"zelvik/format"
	"zelvik/format/numbered"
	"zelvik/message"
	"zelvik/message/icu"
	"zelvik/project"
	"zelvik/work/level/memory"
	"zelvik/work/level/service"
)

// Draft is the plan that fills missing texts.
type Draft struct {
	files.Plan
	Drafted []Drafted   `json:"drafted"`
	Left    []Undrafted `json:"left"`
	// Skipped says which families were left as they are, and why.
	Skipped []string `json:"skipped,omitempty"`
	// Faults say what went wrong with the service.
	Faults []string       `json:"faults,omitempty"`
	Losses []catalog.Loss `json:"losses,omitempty"`
}

// Drafted is a text that is filled.
type Drafted struct {
	Path    string      `json:"path"`
	Culture culture.Tag `json:"culture"`
	Key     string      `json:"key"`
	Text    string      `json:"text"`
	// From is memory, glossary or service; Origin the file that a memory has it
	// from, and Percent how much of its source text is the same.
	From    string `json:"from"`
	Origin  string `json:"origin,omitempty"`
	Percent int    `json:"percent,omitempty"`
	// Terms are those of the glossary that the text does not have.
	Terms []service.Term `json:"terms,omitempty"`
}

// Undrafted is a text that is still missing.
type Undrafted struct {
	Path    string      `json:"path"`
	Culture culture.Tag `json:"culture"`
	Key     string      `json:"key"`
	Why     string      `json:"why"`
}

// DraftOptions say where texts come from.
type DraftOptions struct {
	Memory   *memory.Memory
	Glossary *glossary.Glossary
	// Least is the least percentage of a match.
	Least int
	// Service is asked for what the memory does not have; nil for none.
	Service *service.Client
	// Cultures limits the cultures, nil for all.
	Cultures []culture.Tag
	// Progress hears of texts that the service was asked for.
	Progress func(done, total int)
}

// Remember returns the memory of the workspace: the translations of all its
// families.
func Remember(w *project.Workspace) (*memory.Memory, error) {
	if err := w.Recall(); err != nil {
		return nil, err
	}
	m := &memory.Memory{}
	for _, f := range w.Families {
		source := f.SourceMember()
		if source == nil {
			continue
		}
		v := w.Verifiable(f)
		for _, one := range f.Members {
			if one == source || one.Culture.Pseudo() {
				continue
			}
			own := &catalog.Catalog{Culture: one.Culture}
			for i := range one.Catalog.Entries {
				e := &one.Catalog.Entries[i]
				if s := source.Catalog.Find(e.ID()); s != nil && !status.Of(&f.Family, one, s, e, v.Names).Wanting() {
					own.Add(*e)
				}
			}
			m.Add(source.Catalog, own, one.Culture, f.Name)
		}
	}
	return m, nil
}

// Pairs reads a file or folder with translations, such as a TMX file or a
// glossary as a spreadsheet, and hands each culture's to add.
func Pairs(disk *files.Disk, path string, source culture.Tag, add func(source, target *catalog.Catalog, tag culture.Tag)) error {
	families, err := project.Families([]string{path}, project.Options{Disk: disk})
	if err != nil {
		return err
	}
	n := 0
	for _, f := range families {
		from := f.Member(source)
		if from == nil {
			from = f.SourceMember()
		}
		if from == nil {
			continue
		}
		f.CompleteAll()
		for _, m := range f.Members {
			if damage := f.File(m).Damaged(); damage != nil {
				return project.Refuse(damage)
			}
			if m != from {
				add(from.Catalog, m.Catalog, m.Culture)
				n++
			}
		}
	}
	if n == 0 {
		return project.Usage("%s has no translations: it needs texts in %s beside those in other cultures", path, source)
	}
	return nil
}

// ReadGlossary reads what things are called: a table or a TBX file, or any file with
// texts beside their translations.
func ReadGlossary(disk *files.Disk, path string, source culture.Tag) (*glossary.Glossary, error) {
	g := &glossary.Glossary{Source: source}
	switch strings.ToLower(filepath.Ext(path)) {
	case ".csv", ".tbx":
		data, err := disk.Read(path)
		if err != nil {
			return nil, err
		}
		terms, err := glossary.Read(data)
		if err != nil {
			return nil, project.Usage("%s: %v", path, err)
		}
		g.Include(terms)
		return g, nil
	}
	return g, Pairs(disk, path, source, g.Add)
}

// wanting is a text that is to be drafted.
type wanting struct {
	source *catalog.Entry
	// now is what is there: nothing, an empty text or a copy.
	now *catalog.Entry
}

// FillIn plans to fill the texts that are missing, empty, or copies of the
// source's, from the memory, the glossary and the service. What a rule refuses
// is not taken, and told.
func FillIn(ctx context.Context, w *project.Workspace, o DraftOptions) (*Draft, error) {
	d := &Draft{Drafted: []Drafted{}, Left: []Undrafted{}}
	r := &reconciliation{Level: &Level{}, workspace: w, changes: map[*project.File][]format.Change{}}
	work, err := d.wanting(w, o)
	if err != nil {
		return nil, err
	}
	total, done := 0, 0
	for _, job := range work {
		total += len(job.texts)
	}
	for _, job := range work {
		found := d.recallTexts(o, job)
		if o.Service != nil && len(found.open) > 0 {
			err := found.ask(ctx, o, job, func(n int) {
				if done += n; o.Progress != nil {
					o.Progress(min(done, total), total)
				}
			})
			if err != nil {
				d.Faults = append(d.Faults, fmt.Sprintf("%s: %v", job.member.Culture, err))
			}
		}
		d.fill(w, r, o, job, found)
	}
	if err := r.edit(); err != nil {
		return nil, err
	}
	d.Plan, d.Losses = r.Plan, r.Losses
	w.SaveLedgers(&d.Plan)
	return d, nil
}

// drafting is what is to be drafted in one culture of one family.
type drafting struct {
	family *project.Family
	record *project.Record
	member *catalog.Member
	file   *project.File
	texts  []wanting
}

// wanting lists what is to be drafted.
func (d *Draft) wanting(w *project.Workspace, o DraftOptions) ([]drafting, error) {
	var work []drafting
	for _, f := range w.Families {
		source := f.SourceMember()
		if source == nil {
			d.Skipped = append(d.Skipped, project.Sourceless(f))
			continue
		}
		record, err := w.Record(f)
		if err != nil {
			return nil, err
		}
		v := w.Verifiable(f)
		for i, m := range f.Members {
			if m == source || m.Culture.Pseudo() || o.Cultures != nil && !slices.Contains(o.Cultures, m.Culture) {
				continue
			}
			if damage := f.Files[i].Damaged(); damage != nil {
				d.Skipped = append(d.Skipped, project.Refuse(damage).Error())
				continue
			}
			job := drafting{family: f, record: record, member: m, file: f.Files[i]}
			for j := range source.Catalog.Entries {
				s := &source.Catalog.Entries[j]
				e := m.Catalog.Find(s.ID())
				if s.Fixed || s.Product != "" || s.Reference != "" || s.Message.Empty() || e == nil && f.Regional(m) || !status.Of(&f.Family, m, s, e, v.Names).Wanting() || status.Stays(s.Message, v.Names) {
					continue
				}
				job.texts = append(job.texts, wanting{s, e})
			}
			if job.texts != nil {
				work = append(work, job)
			}
		}
	}
	return work, nil
}

// findings are the texts that were found for one job.
type findings struct {
	texts map[string]message.Message
	how   map[string]Drafted
	open  []wanting
}

// recallTexts looks into the memory and the glossary.
func (d *Draft) recallTexts(o DraftOptions, job drafting) *findings {
	found := &findings{texts: map[string]message.Message{}, how: map[string]Drafted{}}
	tag := job.member.Culture
	for _, want := range job.texts {
		s := want.source
		how := Drafted{Path: job.file.Path, Culture: tag, Key: s.Key}
		match := o.Memory.Find(s, tag, o.Least)
		term, whole := o.Glossary.Whole(s.Message.String(), tag)
		switch {
		case match != nil && match.Percent == 100, match != nil && !whole:
			how.From, how.Percent, how.Origin = "memory", match.Percent, match.Unit.Origin
			found.texts[s.Key], found.how[s.Key] = match.Text, how
		case whole:
			how.From = "glossary"
			found.texts[s.Key], found.how[s.Key] = message.Plain(term.Target()), how
		default:
			found.open = append(found.open, want)
		}
	}
	return found
}

// termsOf returns terms as a service is given them.
func termsOf(pairs []glossary.Pair) []service.Term {
	var list []service.Term
	for _, p := range pairs {
		list = append(list, service.Term{Source: p.Source, Target: p.Target()})
	}
	return list
}

// ask asks the service for what is open.
func (found *findings) ask(ctx context.Context, o DraftOptions, job drafting, progress func(n int)) error {
	tag := job.member.Culture
	request := service.Request{Source: job.family.Source, Target: tag}
	for _, want := range found.open {
		text, _ := icu.Writer{}.Write(want.source.Message)
		t := service.Text{ID: want.source.Key, Text: text, Note: want.source.Note, Limit: want.source.Limit}
		t.Terms = termsOf(o.Glossary.In(want.source.Message.String(), tag))
		request.Texts = append(request.Texts, t)
	}
	answers, err := o.Service.Translate(ctx, request, progress)
	for key, text := range answers {
		m, faults := icu.Parse(text)
		how := Drafted{Path: job.file.Path, Culture: tag, Key: key, From: "service"}
		if len(faults) > 0 { // kept as it came, for the rules to refuse
			m = message.Plain(text)
		}
		found.texts[key], found.how[key] = m, how
	}
	return err
}

// strange returns a control character of a text that its source does not have:
// marks of a direction, line ends and tabs aside.
func strange(text, source message.Message) (rune, bool) {
	own := source.String()
	for _, pattern := range text.Patterns() {
		for _, r := range pattern.String() {
			switch r {
			case '\n', '\t', '\u061c', '\u200e', '\u200f':
				continue
			}
			if message.Control(r) && !strings.ContainsRune(own, r) {
				return r, true
			}
		}
	}
	return 0, false
}

// fill plans what was found and stands the rules, and tells what did not.
func (d *Draft) fill(w *project.Workspace, r *reconciliation, o DraftOptions, job drafting, found *findings) {
	f, m := job.family, job.member
	source := f.SourceMember()
	back := &catalog.Catalog{Culture: m.Culture}
	for _, want := range job.texts {
		if text, ok := found.texts[want.source.Key]; ok {
			text = text.MarkedAs(want.source.Message)
			text.Complete(want.source.Message.Arguments())
			found.texts[want.source.Key] = text
			back.Add(catalog.Entry{Key: want.source.Key, Message: text, Limit: want.source.Limit})
		}
	}
	broken := w.Broken(f, source, back)
	last := ""
	for _, want := range job.texts {
		key := want.source.Key
		text, ok := found.texts[key]
		if !ok {
			d.Left = append(d.Left, Undrafted{job.file.Path, m.Culture, key, "nothing like it is known"})
			continue
		}
		if fault := broken[key]; fault != nil {
			d.Left = append(d.Left, Undrafted{job.file.Path, m.Culture, key, fmt.Sprintf("what the %s has is refused: %s: %s", found.how[key].From, fault.Rule, fault.Message)})
			continue
		}
		if r, ok := strange(text, want.source.Message); ok && found.how[key].From == "service" {
			d.Left = append(d.Left, Undrafted{job.file.Path, m.Culture, key, fmt.Sprintf("what the service has is refused: the control character U+%04X", r)})
			continue
		}
		if text.Choice != nil {
			text = numbered.Shape(text, m.Culture)
		}
		text = project.SpelledAs(text, want.source.Message, true)
		how := found.how[key]
		how.Text = text.String()
		how.Terms = termsOf(o.Glossary.Missing(want.source.Message.String(), how.Text, m.Culture))
		d.Drafted = append(d.Drafted, how)
		after := f.Neighbour(m, key)
		if after == "" || want.now == nil && last != "" && source.Catalog.At(last) > source.Catalog.At(after) {
			after = last
		}
		change := format.Change{Op: format.Set, Culture: m.Culture, Key: key, Message: &text, Source: &want.source.Message, After: after}
		if f.HoldsStates() {
			state := catalog.Draft
			change.State = &state
		} else {
			job.record.Turn(f, key)
			line := job.record.Of(key)
			line.Copies = line.Copies.With(m.Culture, "")
			line.Drafts = line.Drafts.With(m.Culture, project.Fingerprint(&catalog.Entry{Message: text}))
			job.record.Put(line)
		}
		holder := f.Home(m, want.source.ID(), text.Choice != nil)
		if want.now == nil {
			last = key
		}
		r.change(holder, change)
	}
}
