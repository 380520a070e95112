package pages

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestMake(t *testing.T) {
	for _, n := range []int{0, 1, 1000, 9 << 20} {
		made := Make[byte](n)
		assert.Empty(t, made)
		assert.GreaterOrEqual(t, cap(made), n)
		made = made[:n]
		for i := range made { // the pages are there and empty
			if made[i] != 0 {
				t.Fatalf("byte %d of %d is %d", i, n, made[i])
			}
			made[i] = byte(i)
		}
	}
}
