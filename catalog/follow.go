package catalog

// Follower finds one after another the entries that another catalog has, in a catalog
// that has them in nearly the same order, but for some that are missing or more: the
// next is probably the one after the last.
type Follower struct {
	catalog *Catalog
	next    int
}

// Follow returns a follower at the beginning of the catalog.
func (c *Catalog) Follow() *Follower { return &Follower{catalog: c} }

// Find returns the entry with the ID, or nil, as Catalog.Find does.
func (f *Follower) Find(id string) *Entry {
	for i := f.next; i < min(f.next+2, len(f.catalog.Entries)); i++ {
		if e := &f.catalog.Entries[i]; e.Key == id && e.Product == "" {
			f.next = i + 1
			return e
		}
	}
	i := f.catalog.At(id)
	if i < 0 {
		return nil
	}
	f.next = i + 1
	return &f.catalog.Entries[i]
}
