package cli_test

import (
	"bytes"
	"crypto/sha256"
	"flag"
	"fmt"
	"image/png"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/internal/clitest"
)

// TestPictures holds the pixels of every screen of the demo, in every culture
// on every device, and of its sheet, against those that were looked at. Write
// them anew with ZELVIK_WRITE=1, and look at them.
// CI draws all pictures; without it those of two cultures are drawn.
var runAll = flag.Bool("all", false, "draw all pictures")

func TestPictures(t *testing.T) {
	t.Parallel()
	dir := clitest.Demo(t)
	whole := *runAll || os.Getenv("ZELVIK_WRITE") != ""
	if !whole {
		require.Zero(t, clitest.Run(t, dir, "draw", "--out", "one", "--scale", "0.5", "--cultures", "en,ar").Status)
	} else {
		require.Zero(t, clitest.Run(t, dir, "draw", "--out", "one", "--scale", "0.5").Status)
		require.Zero(t, clitest.Run(t, dir, "draw", "--out", "large", "--type", "200", "--cultures", "en,ar,ja", "--dark").Status)
		require.Zero(t, clitest.Run(t, dir, "draw", "--out", "sheets", "--sheet", "--scale", "0.5").Status)
	}
	var have strings.Builder
	files, err := filepath.Glob(filepath.Join(dir, "*", "*.png"))
	require.NoError(t, err)
	require.Greater(t, len(files), 20)
	for _, file := range files {
		data, err := os.ReadFile(file)
		require.NoError(t, err)
		picture, err := png.Decode(bytes.NewReader(data))
		require.NoError(t, err)
		hash := sha256.New()
		bounds := picture.Bounds()
		for y := bounds.Min.Y; y < bounds.Max.Y; y++ {
			for x := bounds.Min.X; x < bounds.Max.X; x++ {
				r, g, b, _ := picture.At(x, y).RGBA()
				hash.Write([]byte{byte(r >> 8), byte(g >> 8), byte(b >> 8)})
			}
		}
		name, _ := filepath.Rel(dir, file)
		fmt.Fprintf(&have, "%s %dx%d %x\n", filepath.ToSlash(name), bounds.Dx(), bounds.Dy(), hash.Sum(nil)[:8])
	}
	const golden = "testdata/pictures.txt"
	if os.Getenv("ZELVIK_WRITE") != "" {
		require.NoError(t, os.WriteFile(golden, []byte(have.String()), 0o644))
	}
	want, err := os.ReadFile(golden)
	require.NoError(t, err)
	expected := strings.Split(string(want), "\n")
	drawn := strings.Split(have.String(), "\n")
	for _, line := range drawn {
		assert.True(t, slices.Contains(expected, line), "drawn otherwise: %s", line)
	}
	for _, line := range expected {
		assert.True(t, !whole || slices.Contains(drawn, line), "not drawn so: %s", line)
	}
}
