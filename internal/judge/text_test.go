package judge

import (
	"encoding/json"
	"fmt"
	"html"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
	"zelvik/project"
	"zelvik/screen/text"
)

// asked is a text to measure.
type asked struct {
	Lang  string  `json:"lang"`
	Dir   string  `json:"dir"`
	Text  string  `json:"text"`
	Size  float64 `json:"size"`
	Width float64 `json:"width"`
}

// measured returns the table of strings, and all texts of the demo's Android
// family, with the sizes they are measured at.
func measured(t *testing.T) []asked {
	t.Helper()
	data, err := os.ReadFile("testdata/text/strings.txt")
	require.NoError(t, err)
	var list []asked
	add := func(lang, text string) {
		size := []float64{12, 14, 16, 20, 22.5}[len(list)%5]
		list = append(list, asked{Lang: lang, Dir: culture.Tag(lang).Direction(), Text: text, Size: size})
	}
	for line := range strings.Lines(string(data)) {
		lang, text, _ := strings.Cut(strings.TrimSuffix(line, "\n"), "\t")
		add(lang, text)
	}
	families, err := project.Families([]string{"../../demo/project/android/res"}, project.Options{})
	require.NoError(t, err)
	for _, m := range families[0].Members {
		for i := range m.Catalog.Entries {
			text := m.Catalog.Entries[i].Message.Render(m.Culture, nil)
			if !strings.ContainsAny(text, "\u2068\n\t") {
				add(string(m.Culture), text)
			}
		}
	}
	return list
}

// paragraphs are texts of several lines, at several widths.
func paragraphs(list []asked) []asked {
	byLang := map[string]string{}
	var order []string
	for _, a := range list {
		if !slices.Contains(order, a.Lang) {
			order = append(order, a.Lang)
		}
		byLang[a.Lang] += a.Text + " "
	}
	var out []asked
	for _, lang := range order {
		text := strings.TrimSpace(byLang[lang])
		if lang == "mixed" || utf8.RuneCountInString(text) < 25 {
			continue
		}
		words := strings.Fields(text)
		for _, width := range []float64{110, 140, 173, 210, 260, 333} {
			for from := 0; from < len(words); from += 14 {
				part := strings.Join(words[from:min(from+18, len(words))], " ")
				out = append(out, asked{Lang: lang, Dir: culture.Tag(lang).Direction(), Text: part, Width: width})
			}
		}
	}
	return out
}

// TestBrowser holds widths and line breaks against headless Chromium's, with
// the same font files.
func TestBrowser(t *testing.T) {
	chromium := need(t, "chromium")
	dir := t.TempDir()
	fonts := &text.Fonts{}
	japanese, err := filepath.Abs("../../demo/project/fonts/NotoSansJP-Regular.ttf")
	require.NoError(t, err)
	data, err := os.ReadFile(japanese)
	require.NoError(t, err)
	face, err := text.ParseFont(japanese, data)
	require.NoError(t, err)
	fonts.Project = append(fonts.Project, face)
	files := []string{japanese}
	for _, name := range []string{"NotoSans", "NotoSansArabic", "NotoSansHebrew", "NotoSansThai"} {
		file, err := filepath.Abs("../../screen/text/fonts/" + name + "_400Regular.ttf")
		require.NoError(t, err)
		files = append(files, file)
	}
	var page strings.Builder
	page.WriteString("<!DOCTYPE html><meta charset=utf-8><style>\n")
	var family []string
	for i, file := range files {
		name := fmt.Sprint("own", i)
		family = append(family, name)
		fmt.Fprintf(&page, "@font-face { font-family: %q; src: url(%q); }\n", name, "file://"+file)
	}
	list := measured(t)
	require.Greater(t, len(list), 200)
	lines := paragraphs(list)
	script, err := os.ReadFile("testdata/text/measure.js")
	require.NoError(t, err)
	literal := func(value any) string {
		data, err := json.Marshal(value)
		require.NoError(t, err)
		return string(data)
	}
	fmt.Fprintf(&page, "</style><body><script>const FAMILY = %s, STRINGS = %s, PARAGRAPHS = %s;\n%s</script>", literal(family), literal(list), literal(lines), script)
	write(t, filepath.Join(dir, "page.html"), page.String())
	dom := tool(t, dir, chromium, "--headless", "--no-sandbox", "--disable-gpu", "--allow-file-access-from-files", "--virtual-time-budget=60000", "--user-data-dir="+filepath.Join(dir, "profile"), "--dump-dom", "file://"+filepath.Join(dir, "page.html"))
	found := regexp.MustCompile(`(?s)<pre id="out">(.*)</pre>`).FindStringSubmatch(dom)
	require.Len(t, found, 2, "the page gave no answer")
	var answer struct {
		Widths     []float64
		Paragraphs [][]string
	}
	require.NoError(t, json.Unmarshal([]byte(html.UnescapeString(found[1])), &answer))
	setter := text.NewSetter(fonts)
	worst := 0.0
	for i, a := range list {
		have := setter.Set(a.Text, text.Style{Size: a.Size, Language: a.Lang, RightToLeft: a.Dir == "rtl"}, 0).Width
		off := math.Abs(have-answer.Widths[i]) / answer.Widths[i]
		worst = max(worst, off)
		assert.LessOrEqual(t, off, 0.01, "%s %q at %g: %.2f, and the browser has %.2f", a.Lang, a.Text, a.Size, have, answer.Widths[i])
	}
	t.Logf("%d strings, off by %.3f %% at most", len(list), worst*100)
	same := 0
	for i, a := range lines {
		var have []string
		for _, line := range setter.Set(a.Text, text.Style{Size: 16, Language: a.Lang, RightToLeft: a.Dir == "rtl"}, a.Width).Lines {
			have = append(have, strings.TrimSpace(line.Text))
		}
		if slices.Equal(have, answer.Paragraphs[i]) {
			same++
		} else {
			t.Logf("%s at %g: %q, and the browser has %q", a.Lang, a.Width, have, answer.Paragraphs[i])
		}
	}
	share := float64(same) / float64(len(lines))
	t.Logf("%d of %d paragraphs are broken alike, %.1f %%", same, len(lines), share*100)
	assert.GreaterOrEqual(t, share, 0.98)
}

// TestShaping holds glyphs and their advances against HarfBuzz's own, so that a
// new version of the shaping library cannot shape worse unseen.
func TestShaping(t *testing.T) {
	shape := need(t, "hb-shape")
	fonts := map[string]string{"ar": "NotoSansArabic", "fa": "NotoSansArabic", "ur": "NotoSansArabic", "he": "NotoSansHebrew", "th": "NotoSansThai"}
	setter := text.NewSetter(nil)
	words := 0
	for _, a := range measured(t) {
		if a.Lang == "ja" || a.Lang == "mixed" {
			continue
		}
		font := fonts[a.Lang]
		if font == "" {
			font = "NotoSans"
		}
		for word := range strings.FieldsSeq(a.Text) {
			p := setter.Set(word, text.Style{Size: 1000, Language: a.Lang, RightToLeft: a.Dir == "rtl"}, 0)
			single := len(p.Missing) == 0
			for _, g := range p.Lines[0].Glyphs {
				single = single && g.Font.Name == font
			}
			if !single || strings.ContainsAny(word, "()[]{}0123456789٠١٢٣٤٥٦٧٨٩-:,.،؟?!\u200c") && a.Dir == "rtl" {
				continue // several runs, which hb-shape does not part
			}
			words++
			direction := "--direction=" + a.Dir
			said := tool(t, ".", shape, "--font-file=../../screen/text/fonts/"+font+"_400Regular.ttf", "--no-glyph-names", "--no-clusters", "--no-positions", direction, "--language="+a.Lang, word)
			var have []string
			for _, g := range p.Lines[0].Glyphs {
				have = append(have, fmt.Sprint(g.ID))
			}
			assert.Equal(t, strings.TrimSpace(said), "["+strings.Join(have, "|")+"]", "%s %s", a.Lang, word)
		}
	}
	t.Logf("%d words", words)
	assert.Greater(t, words, 500)
}
