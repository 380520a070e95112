package layout

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
	"zelvik/screen"
	"zelvik/screen/text"
)

// words gives texts by key and culture.
var words = map[string]string{
	"title en": "Boarding", "title de": "Einschiffungsbereich", "title ar": "الصعود",
	"short en": "Go", "short de": "Los", "short ar": "هيا",
}

func source(key string, tag culture.Tag, _ map[string]string) (string, bool) {
	s, ok := words[key+" "+string(tag)]
	return s, ok
}

// Each case is a body on a screen of 200 x 100 units, and what is found in en,
// de and ar: rule, box and cultures.
func TestVerify(t *testing.T) {
	for _, c := range []struct {
		name, body string
		want       []string
	}{
		{"fitting labels", "column: {padding: 8, children: [{label: {key: title}}, {label: {key: short}}]}", nil},
		{"a fixed width", "column: {children: [{label: {key: title, width: 70, lines: 1}}]}", []string{"clipped-text title de"}},
		{"a fixed height", "column: {children: [{label: {key: title, width: 200, height: 10}}]}", []string{"clipped-text title en de ar"}},
		{"a word too long to wrap", "column: {children: [{label: {key: title, width: 70}}]}", []string{"clipped-text title de"}},
		{"lines that wrap", "column: {children: [{label: {text: one two three four five, width: 70}}]}", nil},
		{"more lines than allowed", "column: {children: [{label: {text: one two three four five, width: 70, lines: 2}}]}", []string{"clipped-text label in line 3 en de ar"}},
		{"a row too wide", "column: {children: [{row: {name: buttons, children: [{button: {key: title}}, {space: {width: 90}}]}}]}", []string{"off-screen buttons de"}},
		{"sharing the width", "column: {children: [{row: {width: fill, children: [{label: {key: title, width: fill}}, {space: {width: 20}}]}}]}", nil},
		{"start and end mirror", "column: {padding: {start: 20}, children: [{label: {key: short, align: end, margin: {end: 10}}}]}", nil},
		{"left padding", "column: {name: form, padding: {left: 20}, children: [{label: {key: short}}]}", []string{"not-mirrored form ar"}},
		{"left align", "column: {children: [{label: {key: short, align: left}}]}", []string{"not-mirrored short ar"}},
		{"right margin", "column: {children: [{label: {key: short, margin: {right: 12}, align: end}}]}", []string{"not-mirrored short ar"}},
		{"both sides the same", "column: {padding: {left: 20, right: 20}, children: [{label: {key: short}}]}", nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			s, err := screen.Parse("x.yaml", []byte("devices: [{name: d, width: 200, height: 100}]\nbody:\n  "+c.body+"\n"))
			require.NoError(t, err)
			v := Verify(s, []culture.Tag{"en", "de", "ar"}, source, text.NewSetter())
			var have []string
			for _, f := range v.Findings {
				have = append(have, strings.Join(append([]string{f.Rule, f.Box}, f.Cultures...), " "))
				assert.Positive(t, f.Pixels)
				assert.NotEmpty(t, f.Mend)
			}
			assert.Equal(t, c.want, have)
		})
	}
}

func TestMirroredPlaces(t *testing.T) {
	s, err := screen.Parse("x.yaml", []byte(`devices: [{name: d, width: 300, height: 100}]
body:
  row:
    padding: {start: 10, end: 30}
    gap: 5
    children:
      - icon: {picture: back, size: 20}
      - label: {text: x, width: fill}
      - icon: {picture: menu, size: 40}
`))
	require.NoError(t, err)
	ltr := Place(s, s.Devices[0], "en", source, text.NewSetter(), false)
	rtl := Place(s, s.Devices[0], "ar", source, text.NewSetter(), false)
	var left, right []string
	for i := range ltr.Boxes {
		left = append(left, fmt.Sprint(ltr.Boxes[i].Frame.X, " ", ltr.Boxes[i].Frame.Width))
		right = append(right, fmt.Sprint(300-rtl.Boxes[i].Frame.X-rtl.Boxes[i].Frame.Width, " ", rtl.Boxes[i].Frame.Width))
	}
	assert.Equal(t, []string{"0 300", "10 20", "230 40", "35 190"}, []string{left[0], left[1], left[2+1], left[2]})
	assert.Equal(t, left, right)
}

func TestScreenErrors(t *testing.T) {
	for body, want := range map[string]string{
		"{}": "exactly one of", "colum: {}": "column was probably meant", "label: {width: wide}": `"wide" is no size`,
		"label: {align: middle}": `"middle" is no align`, "label: {padding: {strat: 1}}": `"strat" is no side`,
		"label: {key: a, text: b}": "a key and a text", "label: {weight: heavy}": `"heavy" is no weight`,
		"row: {children: [null]}": "an empty box",
	} {
		_, err := screen.Parse("x.yaml", []byte("body:\n  "+body+"\n"))
		require.Error(t, err, body)
		assert.Contains(t, err.Error(), want)
		assert.True(t, strings.HasPrefix(err.Error(), "x.yaml:"), err.Error())
	}
	_, err := screen.Parse("x.yaml", []byte("body:\n"+strings.Repeat("  ", 1)+"column: {children: ["+strings.Repeat("{column: {children: [", 200)+strings.Repeat("]}}", 200)+"]}\n"))
	assert.Error(t, err)
}
