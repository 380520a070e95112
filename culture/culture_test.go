package culture

import (
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every sample number of Unicode's locale data, cardinal and ordinal, in every
// culture it has rules for.
func TestPluralSamples(t *testing.T) {
	text, err := os.ReadFile("testdata/plural-samples.txt")
	require.NoError(t, err)
	checked := 0
	for line := range strings.Lines(string(text)) {
		if strings.HasPrefix(line, "#") {
			continue
		}
		row := strings.Split(strings.TrimSpace(line), "\t")
		rules := map[string]func(Tag) Rules{"cardinal": Tag.Cardinal, "ordinal": Tag.Ordinal}[row[0]](Tag(row[1]))
		assert.Contains(t, rules.Categories(), row[2])
		for _, sample := range samples(row[3]) {
			operands, err := ParseOperands(sample)
			require.NoError(t, err, line)
			require.Equal(t, row[2], rules.Category(operands), "%s %s %s", row[0], row[1], sample)
			checked++
		}
	}
	assert.Greater(t, checked, 15000)
}

// samples expands "@integer 0, 2~16, … @decimal 0.0~0.9".
func samples(text string) []string {
	var list []string
	for part := range strings.FieldsFuncSeq(text, func(r rune) bool { return r == ',' || r == ' ' || r == '…' }) {
		low, high, span := strings.Cut(part, "~")
		if strings.HasPrefix(part, "@") {
			continue
		}
		if !span {
			list = append(list, part)
			continue
		}
		_, fraction, _ := strings.Cut(low, ".")
		from, _ := strconv.ParseFloat(low, 64)
		to, _ := strconv.ParseFloat(high, 64)
		step := 1.0
		for range fraction {
			step /= 10
		}
		for x := from; x <= to+step/2; x += step {
			list = append(list, strconv.FormatFloat(x, 'f', len(fraction), 64))
		}
	}
	return list
}

func TestParse(t *testing.T) {
	for text, want := range map[string]Tag{
		"de": "de", "DE-ch": "de-CH", "zh_hant_tw": "zh-Hant-TW", "iw": "he", "in-ID": "id-ID",
		"sh": "sr-Latn", "sh-RS": "sr-Latn-RS", "en-XA": "en-XA", "en-x-grown": "en-x-grown", "es-419": "es-419", "nan_Latn_pehoeji": "nan-Latn-pehoeji",
	} {
		got, err := Parse(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got)
	}
}

func TestParseUnknown(t *testing.T) {
	for text, want := range map[string]Tag{
		"jp": "ja", "gb": "en-GB", "sh-CN": "zh-CN", "cz": "cs", "dk": "da", "dede": "de-DE", "": "", "qq9": "", "english": "", "de-alt": "de", "sr_sp": "sr", "zh-Hnas": "zh-Hans",
	} {
		_, err := Parse(text)
		var unknown *UnknownError
		require.ErrorAs(t, err, &unknown, text)
		assert.Equal(t, want, unknown.Meant, text)
	}
}

func TestParentsAndDirection(t *testing.T) {
	for tag, want := range map[Tag]struct {
		parents   []Tag
		direction string
		script    string
	}{
		"de-CH":      {[]Tag{"de"}, "ltr", "Latn"},
		"en-AU":      {[]Tag{"en-001", "en"}, "ltr", "Latn"},
		"es-MX":      {[]Tag{"es-419", "es"}, "ltr", "Latn"},
		"pt-AO":      {[]Tag{"pt-PT", "pt"}, "ltr", "Latn"},
		"zh-Hant-TW": {[]Tag{"zh-Hant"}, "ltr", "Hant"},
		"zh-TW":      {[]Tag{"zh"}, "ltr", "Hant"},
		"ar":         {[]Tag{}, "rtl", "Arab"},
		"uz-Arab":    {[]Tag{}, "rtl", "Arab"},
		"pa-PK":      {[]Tag{"pa"}, "rtl", "Arab"},
		"ar-XB":      {[]Tag{"ar"}, "rtl", "Arab"},
		"en-XB":      {[]Tag{"en"}, "rtl", "Latn"},
		"en-x-grown": {[]Tag{"en"}, "ltr", "Latn"},
	} {
		assert.Equal(t, want.parents, tag.Parents(), tag)
		assert.Equal(t, want.direction, tag.Direction(), tag)
		assert.Equal(t, want.script, tag.Script(), tag)
	}
}

func TestNames(t *testing.T) {
	for tag, want := range map[Tag][2]string{
		"de": {"German", "Deutsch"}, "de-LI": {"German (Liechtenstein)", "Deutsch (Liechtenstein)"},
		"ar": {"Arabic", "العربية"}, "sr-Latn-RS": {"Serbian (Latin, Serbia)", "српски (латиница, Србија)"},
		"en-XA": {"English (pseudo-accents)", "English (pseudo-accents)"},
	} {
		assert.Equal(t, want, [2]string{tag.Name(), tag.OwnName()}, tag)
	}
}

func TestMatch(t *testing.T) {
	supported := []Tag{"en", "fr", "de", "de-CH", "zh-Hans", "zh-Hant", "sr-Latn", "pt-BR"}
	for preferred, want := range map[string]Tag{
		"fr-CA": "fr", "zh-TW": "zh-Hant", "zh-CN": "zh-Hans", "sr-Latn-RS": "sr-Latn", "de-AT": "de", "de-CH": "de-CH",
		"pt-PT": "pt-BR", "sr": "", "ja": "", "ja fr": "fr",
	} {
		var tags []Tag
		for _, part := range strings.Fields(preferred) {
			tags = append(tags, Tag(part))
		}
		got, ok := Match(supported, tags)
		assert.Equal(t, want, got, preferred)
		assert.Equal(t, want != "", ok, preferred)
	}
}

// Languages have two codes where one was withdrawn, or stands for several.
func TestLanguageCodes(t *testing.T) {
	for tag, want := range map[Tag]string{"no": "nb", "nb-NO": "nb", "nn": "nn", "tl-PH": "fil", "fil": "fil", "de-CH": "de"} {
		assert.Equal(t, want, tag.Language(), tag)
	}
	for tag, old := range map[Tag]Tag{"he-IL": "iw-IL", "id": "in", "yi": "ji", "jv": "jv", "de": "de"} {
		assert.Equal(t, old, tag.Withdrawn(), tag)
		assert.Equal(t, tag, old.Modern(), old)
	}
}

func TestNumbers(t *testing.T) {
	for _, row := range []struct {
		tag    Tag
		number string
		want   string
	}{
		{"en", "1234567.5", "1,234,567.5"}, {"de", "1234.5", "1.234,5"}, {"hi", "1234567", "12,34,567"},
		{"pl", "1234", "1234"}, {"pl", "12345", "12\u00a0345"}, {"fa", "12", "۱۲"}, {"de-CH", "-1234", "-1'234"},
		{"fi", "-5", "−5"}, {"ar-EG", "3.5", "٣٫٥"},
	} {
		assert.Equal(t, row.want, row.tag.Symbols().Format(row.number, true), row.tag)
	}
	assert.Equal(t, "12,5\u00a0%", Tag("de").Symbols().Percent("12.5", true))
	assert.Equal(t, "1234", Tag("en").Symbols().Format("1234", false))
}

func TestConditionErrors(t *testing.T) {
	for _, text := range []string{"", "n", "q = 1", "n % 0 = 1", "n = a", "n = 1..b", "n % x = 1"} {
		_, err := ParseCondition(text)
		assert.Error(t, err, text)
	}
	for _, text := range []string{"", "a", "1.x", "1c", "1c99"} {
		_, err := ParseOperands(text)
		assert.Error(t, err, text)
	}
}

func TestScriptsAndNames(t *testing.T) {
	assert.Equal(t, []string{"Cyrl", "Latn"}, Tag("sr").Scripts())
	assert.Empty(t, Tag("sr-Latn").Scripts())
	assert.Equal(t, []string{"Latn"}, Tag("de").Scripts())
	for name, want := range map[string]Tag{"Hungarian": "hu", "Brazilian Portuguese": "pt-BR", "Simplified Chinese": "zh-Hans", "nynorsk": "nn"} {
		tag, ok := Called(name)
		assert.True(t, ok, name)
		assert.Equal(t, want, tag, name)
	}
	_, ok := Called("main")
	assert.False(t, ok)
	for name, want := range map[string]Tag{"sr_RS@latin": "sr-Latn-RS", "az@latin": "az-Latn", "ca@valencia": "ca-valencia", "zh_TW.Big5": "zh-TW", "de_DE.UTF-8@euro": "de-DE", "en@shaw": "en-Shaw", "de_Formal": "de-x-formal"} {
		tag, err := ParsePOSIX(name)
		require.NoError(t, err, name)
		assert.Equal(t, want, tag, name)
	}
}
