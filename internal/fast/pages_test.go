package fast

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestMake(t *testing.T) {
	check[byte](t)
	check[[5]byte](t) // no part of a huge page
	check[struct {
		text string
		odd  [3]int
	}](t)
}

func check[T comparable](t *testing.T) {
	var zero T
	for _, n := range []int{0, 1, 1000, huge - 1, huge, huge + 1, 3*huge + 5} {
		made := Make[T](n)
		assert.Empty(t, made)
		assert.Equal(t, n, cap(made))
		made = made[:n]
		for i := range made { // the pages are there and empty
			if made[i] != zero {
				t.Fatalf("element %d of %d is %v", i, n, made[i])
			}
		}
	}
}

func TestAppend(t *testing.T) {
	var list []int
	for i := range 400000 { // beyond a huge page
		list = Append(list, i)
	}
	for i, n := range list {
		if n != i {
			t.Fatalf("element %d is %d", i, n)
		}
	}
	assert.Len(t, list, 400000)
}
