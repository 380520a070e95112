package catalog

// Once leaves out losses that were reported already: a placeholder may stand in
// every form of a plural.
func Once(losses []Loss) []Loss {
	kept := losses[:0]
	seen := NewNumbers(len(losses))
	for i := range losses {
		l := &losses[i]
		same := func(n int) bool {
			k := &kept[n]
			return k.Lost == l.Lost && k.Key == l.Key && k.Kind == l.Kind && k.Culture == l.Culture
		}
		if seen.Add(len(kept), Hash(l.Key, string(l.Culture)), same) < 0 {
			kept = append(kept, *l)
		}
	}
	return kept
}
