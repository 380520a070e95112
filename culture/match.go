package culture

import (
	"slices"
	"strings"
)

// Match picks, from the supported cultures, the one that serves a reader who
// prefers these, best first. Per preference: the same tag, then its parents,
// then a supported culture in the same language and script, the nearest region
// first (same region, none, world region, any). A preference in another script
// does not match: who asks for zh-TW is not given zh-Hans. Without a match the
// answer is false.
func Match(supported, preferred []Tag) (Tag, bool) {
	for _, want := range preferred {
		for tag := want; tag != ""; tag = tag.Parent() {
			for _, have := range supported {
				if have == tag && have.Script() == want.Script() {
					return have, true
				}
			}
		}
		best, nearest := 0, Tag("")
		for _, have := range supported {
			if score := closeness(want, have); score > best {
				best, nearest = score, have
			}
		}
		if best > 0 {
			return nearest, true
		}
	}
	return "", false
}

// closeness is 0 for cultures that cannot stand in for one another.
func closeness(want, have Tag) int {
	if want.Base() != have.Base() || want.Script() != have.Script() || have.Pseudo() && !want.Pseudo() {
		return 0
	}
	region := have.Region()
	switch {
	case want.Maximal() == have.Maximal():
		return 4
	case region == "":
		return 3
	case len(region) == 3:
		return 2
	}
	return 1
}

// Aliases are codes of languages that stand for others, and those, sorted: withdrawn
// ones, and the second of two that mean one language (see Language).
func Aliases() [][2]string {
	var list [][2]string
	for _, codes := range []map[string]string{replaced, second} {
		for old, now := range codes {
			list = append(list, [2]string{old, now})
		}
	}
	slices.SortFunc(list, func(a, b [2]string) int { return strings.Compare(a[0], b[0]) })
	return list
}
