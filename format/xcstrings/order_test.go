package xcstrings

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestOrder holds the order by the beginnings of keys to that of whole keys.
func TestOrder(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	pieces := []string{"a", "A", "b", "B", "Z", "[", "@", "`", "", "é", "É", "K", "ſ", "\xff", "the same twenty four bytes", "0", "\x00", "{"}
	for _, n := range []int{1, 2, 30, 5000} {
		keys := make([]string, n)
		for i := range keys {
			for range random.IntN(7) {
				keys[i] += pieces[random.IntN(len(pieces))]
			}
			keys[i] += fmt.Sprint(i % (n/2 + 1))
		}
		numbers, _ := order(keys)
		got := make([]string, n)
		for i, number := range numbers {
			got[i] = keys[number]
		}
		want := slices.SortedFunc(slices.Values(keys), compare)
		assert.Equal(t, want, got, n)
		numbers, sorted := order(want)
		assert.True(t, sorted, n)
		assert.Len(t, numbers, n)
	}
}
