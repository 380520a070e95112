package catalog

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"zelvik/culture"
	"zelvik/message"
)

func TestFind(t *testing.T) {
	c := &Catalog{}
	assert.Nil(t, c.Find("a"))
	assert.Equal(t, -1, c.Add(Entry{Key: "a", Message: message.Plain("first")}))
	assert.Equal(t, -1, c.Add(Entry{Key: "a", Product: "tablet", Message: message.Plain("tablet")}))
	assert.Equal(t, 0, c.Add(Entry{Key: "a", Message: message.Plain("second")}))
	assert.Equal(t, "first", c.Find("a").Message.String())
	assert.Equal(t, "tablet", c.Find("a\x00tablet").Message.String())
	for i := range 5000 {
		c.Add(Entry{Key: fmt.Sprint("key", i)})
	}
	for i := range 5000 {
		assert.Equal(t, i+3, c.At(fmt.Sprint("key", i)))
	}
	assert.Equal(t, -1, c.At("key5000"))
	var none *Catalog
	assert.Nil(t, none.Find("a"))
}

func TestIndex(t *testing.T) {
	for _, size := range []int{3, 20000} {
		c := &Catalog{}
		for i := range size {
			c.Entries = append(c.Entries, Entry{Key: fmt.Sprint("key", i)})
		}
		c.Entries = append(c.Entries, Entry{Key: "key1"}, Entry{Key: "key0"}, Entry{Key: "key1"})
		var doubles []string
		tell := func(first int, e *Entry) { doubles = append(doubles, fmt.Sprint(first, e.Key)) }
		hashes := make([]uint64, len(c.Entries))
		for i := range hashes {
			hashes[i] = Hash(c.Entries[i].Key, "")
		}
		c.Doubles(hashes, tell)
		assert.Equal(t, []string{"1key1", "0key0", "1key1"}, doubles)
		if doubles = nil; size < 100 {
			c.Doubles(make([]uint64, len(hashes)), tell) // hashes that are all the same
			assert.Equal(t, []string{"1key1", "0key0", "1key1"}, doubles)
		}
		for i := range size {
			assert.Equal(t, i, c.At(fmt.Sprint("key", i)))
		}
		assert.Equal(t, -1, c.At("other"))
	}
}

func TestLookupFallsBack(t *testing.T) {
	f := &Family{Source: "en"}
	for tag, keys := range map[string][]string{"en": {"a", "b", "c"}, "de": {"a", "b"}, "de-CH": {"a"}} {
		c := &Catalog{}
		for _, key := range keys {
			c.Add(Entry{Key: key, Message: message.Plain(tag)})
		}
		f.Members = append(f.Members, &Member{Culture: culture.Tag(tag), Catalog: c})
	}
	for key, want := range map[string]string{"a": "de-CH", "b": "de", "c": "en"} {
		e, m := f.Lookup(key, "de-CH")
		assert.Equal(t, want, e.Message.String(), key)
		assert.Equal(t, want, string(m.Culture), key)
	}
	e, _ := f.Lookup("d", "de-CH")
	assert.Nil(t, e)
}

func TestResolve(t *testing.T) {
	c := &Catalog{}
	c.Add(Entry{Key: "a", Reference: "b"})
	c.Add(Entry{Key: "b", Message: message.Plain("B")})
	c.Add(Entry{Key: "round", Reference: "round"})
	c.Add(Entry{Key: "lost", Reference: "nowhere"})
	m, ok := c.Resolve(c.Find("a"))
	assert.True(t, ok)
	assert.Equal(t, "B", m.String())
	for _, key := range []string{"round", "lost"} {
		_, ok := c.Resolve(c.Find(key))
		assert.False(t, ok, key)
	}
}

func TestArrayKeys(t *testing.T) {
	for key, want := range map[string]string{"a[0]": "a 0 true", "a[12]": "a 12 true", "[0]": " 0 false", "a[]": " 0 false", "a[x]": " 0 false", "a": " 0 false", "a[0]b": " 0 false"} {
		name, index, ok := SplitArrayKey(key)
		assert.Equal(t, want, fmt.Sprint(name, " ", index, " ", ok), key)
		if ok {
			assert.Equal(t, key, ArrayKey(name, index))
		}
	}
}

// BenchmarkIndex looks every one of 100,000 keys up.
func BenchmarkIndex(b *testing.B) {
	c := &Catalog{}
	keys := make([]string, 100000)
	for i := range keys {
		keys[i] = fmt.Sprint("screen_label_", i)
		c.Add(Entry{Key: keys[i]})
	}
	for b.Loop() {
		for _, key := range keys {
			if c.At(key) < 0 {
				b.Fatal(key)
			}
		}
	}
}

func TestKeys(t *testing.T) {
	en, de := &Catalog{}, &Catalog{}
	en.Entries = []Entry{{Key: "a"}, {Key: "b", Product: "tablet"}, {Key: "b"}, {Key: "a"}}
	de.Entries = []Entry{{Key: "c"}, {Key: "b"}, {Key: "a", Product: "tv"}}
	var aside []string
	keys := Keys([]*Catalog{en, de}, func(_ *Catalog, e *Entry) { aside = append(aside, e.Key+e.Product) })
	assert.Equal(t, []string{"a", "b", "c"}, keys)
	assert.Equal(t, []string{"btablet", "atv"}, aside)
	assert.Same(t, &en.Entries[2], en.Near(2, "b"))
	assert.Same(t, &en.Entries[2], en.Near(1, "b"), "not the one for a product")
	assert.Same(t, &en.Entries[0], en.Near(7, "a"))
	assert.Nil(t, en.Near(0, "c"))
}

// A follower finds what Find does, whatever is missing, more or elsewhere.
func TestFollow(t *testing.T) {
	c := &Catalog{}
	for _, key := range []string{"a", "b", "c", "d", "e", "f"} {
		c.Add(Entry{Key: key})
	}
	f := c.Follow()
	for _, key := range []string{"a", "x", "b", "d", "e", "c", "f", "a", "y"} {
		assert.Same(t, c.Find(key), f.Find(key), key)
	}
}
