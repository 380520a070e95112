package format

import (
	"bytes"
	"math/rand"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestRun(t *testing.T) {
	stops := []byte("\"\\")
	for c := range byte(0x20) {
		stops = append(stops, c)
	}
	r := rand.New(rand.NewSource(1))
	for range 20000 {
		text := make([]byte, r.Intn(40))
		for i := range text {
			if text[i] = byte(0x20 + r.Intn(0xE0)); r.Intn(8) == 0 { // bytes of all kinds, and enough stops
				text[i] = stops[r.Intn(len(stops))]
			}
		}
		want := len(text)
		for i, c := range text {
			if bytes.IndexByte(stops, c) >= 0 {
				want = i
				break
			}
		}
		assert.Equal(t, want, Run(string(text), '"', '\\'), "%q", text)
		assert.Equal(t, want, Run(text, '"', '\\'), "%q", text)
	}
}
