package text

import (
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Unicode's own test, where its data is installed (Debian: unicode-data).
func TestUnicodeBidiCharacters(t *testing.T) {
	data, err := os.ReadFile("/usr/share/unicode/BidiCharacterTest.txt")
	if err != nil {
		if os.Getenv("ZELVIK_REQUIRE_TOOLS") != "" {
			t.Fatal(err)
		}
		t.Skip("BidiCharacterTest.txt is not installed")
	}
	cases := 0
	for line := range strings.Lines(string(data)) {
		fields := strings.Split(strings.TrimSpace(line), ";")
		if strings.HasPrefix(line, "#") || len(fields) != 5 {
			continue
		}
		var text []rune
		for code := range strings.FieldsSeq(fields[0]) {
			n, err := strconv.ParseUint(code, 16, 32)
			require.NoError(t, err)
			text = append(text, rune(n))
		}
		base, _ := strconv.Atoi(fields[1])
		if base == 2 {
			base = -1
		}
		levels := Levels(text, base)
		var shown []uint8
		var places []string
		for i, want := range strings.Fields(fields[3]) {
			if want == "x" {
				continue
			}
			require.Equal(t, want, strconv.Itoa(int(levels[i])), "%s at %d", line, i)
			shown = append(shown, levels[i])
			places = append(places, strconv.Itoa(i))
		}
		var order []string
		for _, i := range Order(shown) {
			order = append(order, places[i])
		}
		require.Equal(t, strings.Join(strings.Fields(fields[4]), " "), strings.Join(order, " "), line)
		cases++
	}
	assert.Greater(t, cases, 90000)
}

func TestOrder(t *testing.T) {
	for _, row := range []struct {
		text string
		base int
		want string
	}{
		{"abc", 0, "abc"},
		{"אבג", 1, "גבא"},
		{"אב 12", 1, "12 בא"},
		{"a אב b", 0, "a בא b"},
		{"(אב)", 1, ")בא("},
		{"קוד \u2068AB-1\u2069.", 1, ".\u2069AB-1\u2068 דוק"},
	} {
		text := []rune(row.text)
		var out []rune
		for _, i := range Order(Levels(text, row.base)) {
			out = append(out, text[i])
		}
		assert.Equal(t, row.want, string(out))
	}
}
