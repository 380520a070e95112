// Package text measures and sets text as a screen shows it: fonts and their
// fallback, shaping, line breaking (UAX #14) and ordering (UAX #9).
package text

import (
	"bytes"
	"cmp"
	"embed"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"github.com/go-text/typesetting/font"

	"zelvik/files"
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

// Fonts are the fonts that text is set in: those of the project in their
// order, then the embedded ones, then, where System says so, those that the
// system has. They may be shared by setters.
type Fonts struct {
	Project []*Font
	System  bool

	mutex sync.Mutex
	// found are the fonts of the system by character; nil where none has it.
	found map[rune]*Font
	// files are the system's fonts that were not looked into yet.
	files  []string
	loaded []*Font
	listed bool
}

// system is the disk on which the fonts of the system are.
var system *files.Disk

// ParseFont reads a font in the data of a TrueType or OpenType file; its name is
// the file's without "-Bold" and the ending. Errors say what is wrong with it.
func ParseFont(path string, data []byte) (*Font, error) {
	face, err := font.ParseTTF(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("it is no font that can be read (%w)", err)
	}
	name := strings.TrimSuffix(filepath.Base(path), filepath.Ext(path))
	plain, bold := strings.CutSuffix(name, "-Bold")
	return &Font{Name: strings.TrimSuffix(plain, "-Regular"), Bold: bold, font: face.Font}, nil
}

// ordered lists the fonts in the order in which they are asked for a style:
// those of its weight first, and the named one before all.
func (f *Fonts) ordered(style Style) []*Font {
	var list []*Font
	for _, group := range [][]*Font{f.Project, embedded()} {
		for _, weight := range []bool{style.Bold, !style.Bold} {
			for _, one := range group {
				if one.Bold == weight {
					list = append(list, one)
				}
			}
		}
	}
	if style.Font != "" {
		slices.SortStableFunc(list, func(a, b *Font) int {
			return btoi(b.Name == style.Font) - btoi(a.Name == style.Font)
		})
	}
	return list
}

func btoi(b bool) int {
	if b {
		return 1
	}
	return 0
}

// folders are where systems keep their fonts.
var folders = []string{
	"/usr/share/fonts", "/usr/local/share/fonts", "~/.fonts", "~/.local/share/fonts",
	"/System/Library/Fonts", "/Library/Fonts", "~/Library/Fonts", "C:/Windows/Fonts",
}

// system returns a font of the system that has a character; nil where none has,
// or they are not wanted.
func (f *Fonts) system(r rune) *Font {
	if !f.System {
		return nil
	}
	f.mutex.Lock()
	defer f.mutex.Unlock()
	if known, ok := f.found[r]; ok {
		return known
	}
	if !f.listed {
		f.listed, f.found = true, map[rune]*Font{}
		home, _ := os.UserHomeDir()
		for _, folder := range folders {
			_ = filepath.WalkDir(strings.Replace(folder, "~", home, 1), func(at string, d fs.DirEntry, err error) error {
				if ext := strings.ToLower(filepath.Ext(at)); err == nil && (ext == ".ttf" || ext == ".otf" || ext == ".ttc") {
					f.files = append(f.files, at)
				}
				return nil // a folder that cannot be read has no fonts
			})
		}
		// sans serif and regular before all others; by name, so that every run is alike
		slices.SortStableFunc(f.files, func(a, b string) int {
			return cmp.Or(rank(a)-rank(b), strings.Compare(filepath.Base(a), filepath.Base(b)))
		})
	}
	for _, font := range f.loaded {
		if _, ok := font.font.NominalGlyph(r); ok {
			f.found[r] = font
			return font
		}
	}
	for len(f.files) > 0 {
		at := f.files[0]
		f.files = f.files[1:]
		data, err := system.Read(at)
		if err != nil {
			continue
		}
		faces, err := font.ParseTTC(bytes.NewReader(data))
		if err != nil || len(faces) == 0 {
			continue
		}
		one := &Font{Name: filepath.Base(at), font: faces[0].Font}
		f.loaded = append(f.loaded, one)
		if _, ok := one.font.NominalGlyph(r); ok {
			f.found[r] = one
			return one
		}
	}
	f.found[r] = nil
	return nil
}

// rank puts the fonts first that look like text.
func rank(path string) int {
	name := strings.ToLower(filepath.Base(path))
	n := 4
	for _, word := range []string{"sans", "regular"} {
		if strings.Contains(name, word) {
			n--
		}
	}
	for _, word := range []string{"bold", "black", "light", "thin", "italic", "mono", "emoji"} {
		if strings.Contains(name, word) {
			n += 2
		}
	}
	return n
}
