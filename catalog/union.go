package catalog

import "slices"

// Union returns a catalog with the entries of another that it lacks. It is itself
// where it lacks none.
func (c *Catalog) Union(other *Catalog) *Catalog {
	joined := c
	for i := range other.Entries {
		e := other.Entries[i]
		if c.Find(e.ID()) != nil {
			continue
		}
		if joined == c {
			joined = &Catalog{Culture: c.Culture, Entries: slices.Clone(c.Entries)}
		}
		e.Offset = -1 // it stands in another file
		joined.Add(e)
	}
	return joined
}
