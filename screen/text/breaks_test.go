package text

import (
	"os"
	"strconv"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestBreaks(t *testing.T) {
	for text, want := range map[string]string{
		"one two":              "one |two",
		"code SK-4471.":        "code |SK-|4471.",
		"minus -5 and a-b":     "minus |-5 |and |a-|b",
		"at https://a.b/c now": "at |https://a.b/c |now",
		"and/or 1/2":           "and/or |1/2",
		"デッキの空き、今日":            "デ|ッ|キ|の|空|き、|今|日",
		"「港」です。":               "「港」|で|す。",
		"ยินดีต้อนรับขึ้นเรือ": "ยินดี|ต้อนรับ|ขึ้น|เรือ",
		"a\u00a0b": "a\u00a0b",
	} {
		may, must := breaks([]rune(text))
		assert.Empty(t, must)
		var out strings.Builder
		from := 0
		for _, end := range may {
			if from > 0 {
				out.WriteByte('|')
			}
			out.WriteString(string([]rune(text)[from:end]))
			from = end
		}
		assert.Equal(t, want, out.String())
	}
	_, must := breaks([]rune("a\nb"))
	assert.True(t, must[2])
}

// otherwise says why a case of Unicode's test is answered otherwise; "" where
// it is not.
func otherwise(text []rune, at int, may bool) string {
	switch {
	case may && text[at-1] == '-':
		return "after a hyphen between a letter and a digit"
	case !may && text[at-1] == '/':
		return "after a slash"
	case text[at-1] == '\U0001F02C': // the library takes no reserved characters of pictures for pictures
		return "before a modifier after a reserved character"
	case may && unicode.Is(unicode.Thai, text[at-1]):
		return "between Thai letters"
	case at < len(text) && (conditional(text[at]) || conditional(text[at-1])):
		return "at small kana"
	}
	for _, r := range text {
		if conditional(r) {
			return "at small kana"
		}
	}
	return ""
}

// Unicode's own test, where its data is installed (Debian: unicode-data).
func TestUnicodeLineBreaks(t *testing.T) {
	data, err := os.ReadFile("/usr/share/unicode/auxiliary/LineBreakTest.txt")
	if err != nil {
		if os.Getenv("ZELVIK_REQUIRE_TOOLS") != "" {
			t.Fatal(err)
		}
		t.Skip("LineBreakTest.txt is not installed")
	}
	cases, failed := 0, 0
	reasons := map[string]int{}
	for line := range strings.Lines(string(data)) {
		line, comment, _ := strings.Cut(line, "#")
		if strings.TrimSpace(line) == "" {
			continue
		}
		var text []rune
		want := map[int]bool{}
		for field := range strings.FieldsSeq(line) {
			switch field {
			case "÷":
				want[len(text)] = true
			case "×":
			default:
				n, err := strconv.ParseUint(field, 16, 32)
				require.NoError(t, err)
				text = append(text, rune(n))
			}
		}
		have := map[int]bool{}
		may, _ := breaks(text)
		for _, at := range may {
			have[at] = true
		}
		cases++
		for at := 1; at <= len(text); at++ {
			if have[at] == want[at] {
				continue
			}
			if reason := otherwise(text, at, have[at]); reason != "" {
				reasons[reason]++
			} else if failed++; failed < 20 {
				t.Errorf("%q at %d: %v%s", string(text), at, have[at], comment)
			}
		}
	}
	t.Logf("%d cases, answered otherwise: %v", cases, reasons)
	assert.Greater(t, cases, 7000)
}
