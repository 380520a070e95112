package convert

import (
	"zelvik/catalog"
	"zelvik/files"
	"zelvik/format"
	"zelvik/project"
)

// whole is up to how many entries a file that was made is read back whole. Of
// larger ones those entries are that are not plain, one of each shape.
const whole = 2000

// sample is what of a large file is composed by itself and read back: the
// entries that are not plain, one of each shape. It is nil for a small file.
type sample struct {
	catalogs []*catalog.Catalog
	made     []format.Made
}

// sampled makes the sample of what is to be composed. It may run beside the
// composing.
func (w *writer) sampled(holdings []project.Holding, source *catalog.Catalog, companion bool) *sample {
	size := 0
	for _, h := range holdings {
		size += len(h.Catalog.Entries)
	}
	if size <= whole || w.target.Name == "mo" {
		return nil
	}
	s := &sample{catalogs: make([]*catalog.Catalog, len(holdings))}
	odd, shapes := map[string]bool{}, format.NewShapes()
	for i, h := range holdings {
		c := &catalog.Catalog{Culture: h.Catalog.Culture}
		for j := range h.Catalog.Entries {
			if e := &h.Catalog.Entries[j]; len(holdings) > 1 && odd[e.Key] || shapes.New(e) {
				if c.Entries = append(c.Entries, *e); len(holdings) > 1 {
					odd[e.Key] = true
				}
			}
		}
		s.catalogs[i] = c
	}
	first := format.Made{Format: w.target}
	if len(holdings) > 1 {
		first.Data, _ = w.target.Join(s.catalogs)
	} else {
		first.Data, _ = w.target.Compose(s.catalogs[0], format.Options{Source: source, Beside: companion})
	}
	s.made = []format.Made{first}
	if companion {
		data, _ := w.target.Companion.Compose(s.catalogs[len(s.catalogs)-1], format.Options{Source: source, Beside: true})
		s.add(w.target.Companion, data)
	}
	return s
}

func (s *sample) add(f *format.Format, data []byte) {
	if len(data) > 0 {
		s.made = append(s.made, format.Made{Format: f, Data: data})
	}
}

// readBack reads what was composed, or its sample, before it is placed.
func (w *writer) readBack(holdings []project.Holding, s *sample, r *result, losses []catalog.Loss) error {
	if w.target.Name == "mo" {
		return nil // written only; its writer reads it as a .po file
	}
	if s == nil {
		s = &sample{made: []format.Made{{Format: w.target, Data: r.data}}}
		for _, h := range holdings {
			s.catalogs = append(s.catalogs, h.Catalog)
		}
		s.add(w.target.Companion, r.companion)
	}
	if err := format.ReadBackNew(s.made, s.catalogs, losses); err != nil {
		return &files.Error{Path: r.path, Text: err.Error(), Fix: "change the text in " + r.file.Path}
	}
	return nil
}
