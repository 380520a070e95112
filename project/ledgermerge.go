package project

import "reflect"

// MergeLedgers merges two versions of a ledger, line by line and culture by
// culture. Where both say different things of one text, ours counts.
func MergeLedgers(base, ours, theirs []byte) ([]byte, error) {
	var three [3]*Ledger
	for i, data := range [][]byte{base, ours, theirs} {
		three[i] = &Ledger{entries: map[ledgerID]Line{}}
		if len(data) == 0 {
			continue
		}
		if err := three[i].parse(LedgerName, data); err != nil {
			return nil, err
		}
	}
	out := &Ledger{entries: map[ledgerID]Line{}}
	for _, l := range three[1:] {
		for id := range l.entries {
			b, o, t := three[0].entries[id], three[1].entries[id], three[2].entries[id]
			e := Line{Key: id.key, Family: id.family, Arguments: o.Arguments, Markup: o.Markup || t.Markup, Source: pick(b.Source, o.Source, t.Source)}
			if reflect.DeepEqual(b.Arguments, o.Arguments) {
				e.Arguments = t.Arguments
			}
			e.Copies = mergePrints(b.Copies, o.Copies, t.Copies)
			e.Moved, e.Drafts, e.Handed = mergePrints(b.Moved, o.Moved, t.Moved), mergePrints(b.Drafts, o.Drafts, t.Drafts), mergePrints(b.Handed, o.Handed, t.Handed)
			e.Aside = mergePrints(b.Aside, o.Aside, t.Aside)
			out.Put(e)
		}
	}
	return out.Bytes(), nil
}

func mergePrints(b, o, t Prints) Prints {
	out := Prints{}
	for _, side := range []Prints{o, t} {
		for tag := range side {
			if print := pick(b[tag], o[tag], t[tag]); print != "" {
				out[tag] = print
			}
		}
	}
	if len(out) == 0 {
		return nil
	}
	return out
}

// pick returns what a side changed, ours where both did.
func pick(b, o, t string) string {
	if o == b {
		return t
	}
	return o
}
