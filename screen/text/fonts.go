// Package text measures and sets text as a screen shows it: fonts and their
// fallback, shaping, line breaking (UAX #14) and ordering (UAX #9).
package text

import (
	"bytes"
	"embed"
	"fmt"
	"sync"

	"github.com/go-text/typesetting/font"
)

// fontFiles are Noto Sans for Latin, Greek, Cyrillic and Devanagari, and its
// Arabic, Hebrew and Thai, under the SIL Open Font License 1.1 (LICENSE.txt).
//
//go:embed fonts/*.ttf
var fontFiles embed.FS

// names are the embedded fonts in the order they are asked; every one has a
// regular and a bold weight.
var names = []string{"NotoSans", "NotoSansArabic", "NotoSansHebrew", "NotoSansThai"}

// Font is one font in one weight.
type Font struct {
	Name string
	Bold bool
	font *font.Font
}

// embedded are the embedded fonts, parsed when text is first measured.
var embedded = sync.OnceValue(func() []*Font {
	var list []*Font
	for _, bold := range []bool{false, true} {
		weight := map[bool]string{false: "400Regular", true: "700Bold"}[bold]
		for _, name := range names {
			file := fmt.Sprintf("fonts/%s_%s.ttf", name, weight)
			data, err := fontFiles.ReadFile(file)
			if err != nil {
				panic(err) // the fonts are embedded
			}
			face, err := font.ParseTTF(bytes.NewReader(data))
			if err != nil {
				panic(fmt.Errorf("%s: %w", file, err))
			}
			list = append(list, &Font{Name: name, Bold: bold, font: face.Font})
		}
	}
	return list
})

// weight gives the fonts of a weight, in order.
func weight(fonts []*Font, bold bool) []*Font {
	var list []*Font
	for _, f := range fonts {
		if f.Bold == bold {
			list = append(list, f)
		}
	}
	return list
}
