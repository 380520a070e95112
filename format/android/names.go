package android

import (
	"fmt"
	"hash/fnv"
	"strings"

	"zelvik/catalog"
)

// name returns the key as the name of a resource, which takes letters, digits,
// _ and . only.
func (w *composer) name(key string) string {
	name := spelled(key)
	if w.clashing[key] {
		hash := fnv.New32a()
		_, _ = hash.Write([]byte(key))
		name += fmt.Sprintf("_%08x", hash.Sum32())
	}
	if name != key {
		w.Lose("key", fmt.Sprintf("the key %q, which Android cannot spell", key), "it is "+name)
	}
	return name
}

// clashing lists the keys that Android cannot spell and whose names would be
// those of others, too. The source decides, so that all cultures have one name.
func clashing(catalogs ...*catalog.Catalog) map[string]bool {
	var names map[string]string
	var list map[string]bool
	for _, c := range catalogs {
		if c == nil {
			continue
		}
		for i := range c.Entries {
			key := c.Entries[i].Key
			if name, _, ok := catalog.SplitArrayKey(key); ok {
				key = name
			}
			name := spelled(key)
			if name == key {
				continue
			}
			if names == nil {
				names, list = map[string]string{}, map[string]bool{}
			}
			if other, taken := names[name]; taken && other != key {
				list[other], list[key] = true, true
			}
			names[name] = key
			list[key] = list[key] || c.Find(name) != nil
		}
	}
	return list
}

// legal are the bytes of names.
var legal = func() (list [256]bool) {
	for _, c := range "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_." {
		list[c] = true
	}
	return list
}()

// spelled is a key as a name: what is no letter, digit, line or dot is a line.
func spelled(key string) string {
	plain := key != "" && key[0] > '9'
	for i := 0; plain && i < len(key); i++ {
		plain = legal[key[i]]
	}
	if plain {
		return key + unreserved(key)
	}
	name := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '_' || r == '.' {
			return r
		}
		return '_'
	}, key)
	if name == "" || name[0] >= '0' && name[0] <= '9' || name[0] == '.' {
		name = "_" + name
	}
	return name + unreserved(name)
}

// reserved are Java's keywords and literals (Java Language Specification, 3.9 and
// 3.10), which no field of R can be called.
var reserved = func() map[string]bool {
	set := map[string]bool{}
	for word := range strings.FieldsSeq(`abstract assert boolean break byte case catch char class const continue default do
		double else enum extends final finally float for goto if implements import instanceof int interface long native new
		package private protected public return short static strictfp super switch synchronized this throw throws transient
		try void volatile while true false null`) {
		set[word] = true
	}
	return set
}()

// unreserved returns what is put after a name that is reserved.
func unreserved(name string) string {
	if reserved[name] {
		return "_"
	}
	return ""
}
