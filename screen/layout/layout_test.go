package layout

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
	"zelvik/finding"
	"zelvik/screen"
	"zelvik/screen/text"
)

// words returns texts by key and culture.
var words = map[string]string{
	"title en": "Boarding", "title de": "Einschiffungsbereich", "title ar": "الصعود",
	"short en": "Go", "short de": "Los", "short ar": "هيا",
	"long en": "Please wait at the pier", "long de": "Bitte warten Sie so lange am Anleger", "long ar": "انتظر",
	"call en": "Call {phone}", "call de": "Ruf {phone} an", "call ar": "اتصل {phone}",
	"hello en": "Hello {name}", "hello de": "Hallo {name}", "hello ar": "مرحبا {name}",
	"new en": "Delay", "japanese en": "Sea 海 and 島",
}

func source(key string, tag culture.Tag, arguments map[string]string) (Shown, bool) {
	s, own := words[key+" "+string(tag)]
	if !own {
		s = words[key+" en"]
	}
	shown, bare := s, s
	for name, value := range arguments {
		bare = strings.ReplaceAll(bare, "{"+name+"}", value)
		if tag.RightToLeft() {
			value = "\u2068" + value + "\u2069"
		}
		shown = strings.ReplaceAll(shown, "{"+name+"}", value)
	}
	return Shown{shown, bare, own}, s != ""
}

// Each case is a body on a screen of 200 x 260 units, and what is found in en,
// de and ar: rule, box and cultures.
func TestVerify(t *testing.T) {
	for _, c := range []struct {
		name, body string
		want       []string
	}{
		{"fitting labels", "column: {padding: 8, children: [{label: {key: title}}, {label: {key: short}}]}", nil},
		{"a fixed width", "column: {children: [{label: {key: title, width: 70, lines: 1}}]}", []string{"clipped-text title de"}},
		{"a fixed width that is wide enough", "column: {children: [{label: {key: short, width: 70, lines: 1}}]}", []string{"fixed-width-text short"}},
		{"a fixed width that wraps", "column: {children: [{label: {key: short, width: 70}}]}", nil},
		{"a fixed height", "column: {children: [{label: {key: title, width: 200, height: 10}}]}", []string{"lost-lines title en de ar"}},
		{"a word too long to wrap", "column: {children: [{label: {key: title, width: 70}}]}", []string{"clipped-text title de"}},
		{"a button of a greatest width", "column: {children: [{button: {key: title, width: {most: 120}}}]}", []string{"clipped-text title de"}},
		{"lines that wrap", "column: {children: [{label: {text: one two three four five, width: 70}}]}", nil},
		{"more lines than allowed", "column: {children: [{label: {text: one two three four five, width: 70, lines: 2}}]}", []string{"lost-lines label in line 3 en de ar"}},
		{"an ellipsis", "column: {children: [{label: {key: title, width: 80, lines: 1, overflow: ellipsis}}]}", []string{"ellipsed-text title de"}},
		{"an ellipsis in the second line", "column: {children: [{label: {key: long, width: 90, lines: 2, overflow: ellipsis}}]}", []string{"ellipsed-text long de"}},
		{"shrinking", "column: {children: [{label: {key: title, width: 100, lines: 1, overflow: shrink}}]}", nil},
		{"shrinking is not enough", "column: {children: [{label: {key: title, width: 60, lines: 1, overflow: shrink}}]}", []string{"clipped-text title de"}},
		{"a row too wide", "column: {children: [{row: {name: buttons, children: [{button: {key: title}}, {space: {width: 90}}]}}]}", []string{"off-screen buttons de"}},
		{"sharing the width", "column: {children: [{row: {width: fill, children: [{label: {key: title, width: fill}}, {space: {width: 20}}]}}]}", nil},
		{"higher than a scroll", "scroll: {height: 50, width: fill, children: [{column: {children: [{space: {height: 90, width: 10}}, {label: {key: short}}]}}]}", nil},
		{"places that a text reaches over", "fixed: {width: 200, height: 60, children: [{label: {key: title}}, {label: {key: short, at: {start: 90}}}]}", []string{"covered title de"}},
		{"places far apart", "fixed: {width: 200, height: 60, children: [{label: {key: title}}, {label: {key: short, at: {start: 10, top: 30}}}]}", nil},
		{"covered in the source, too", "stack: {children: [{label: {key: title}}, {label: {key: title}}]}", nil},
		{"start and end mirror", "column: {padding: {start: 20}, children: [{label: {key: short, align: end, margin: {end: 10}}}]}", nil},
		{"left padding", "column: {name: form, padding: {left: 20}, children: [{label: {key: short}}]}", []string{"not-mirrored form ar"}},
		{"left align", "column: {children: [{label: {key: short, align: left}}]}", []string{"not-mirrored short ar"}},
		{"right margin", "column: {children: [{label: {key: short, margin: {right: 12}, align: end}}]}", []string{"not-mirrored short ar"}},
		{"a left place", "fixed: {width: fill, height: 50, children: [{label: {key: short, at: {left: 30}}}]}", []string{"not-mirrored short ar"}},
		{"a start place", "fixed: {width: fill, height: 50, children: [{label: {key: short, at: {start: 30}}}]}", nil},
		{"both sides the same", "column: {padding: {left: 20, right: 20}, children: [{label: {key: short}}]}", nil},
		{"an arrow that stays", "row: {children: [{icon: {picture: back}}]}", []string{"pointing-wrong back ar"}},
		{"an arrow that turns", "row: {children: [{icon: {picture: back, directional: true}}]}", nil},
		{"a clock that turns", "row: {children: [{icon: {picture: clock, directional: true}}]}", []string{"pointing-wrong clock ar"}},
		{"a picture nobody knows", "row: {children: [{icon: {picture: anchor}}]}", nil},
		{"a phone number", "column: {children: [{label: {key: call, args: {phone: +99 555 0142}}}]}", []string{"scrambled-text call ar"}},
		{"a name", "column: {children: [{label: {key: hello, args: {name: Runa}}}]}", nil},
		{"no font", "column: {children: [{label: {key: japanese}}, {label: {key: japanese}}]}", []string{"glyph-missing japanese en de ar"}},
		{"a small target", "column: {children: [{button: {key: short, padding: {top: 2}}}]}", []string{"target-small short en de ar"}},
		{"a target with a least size", "column: {children: [{button: {key: short, padding: {top: 2}, width: {least: 40}, height: {least: 40}}}]}", nil},
		{"an icon to press", "column: {children: [{icon: {picture: menu, target: 40}}]}", []string{"target-small menu en de ar"}},
		{"not translated, and tight", "column: {children: [{label: {key: new, width: {most: 60}, lines: 1}}]}", []string{"tight-fit new de ar"}},
		{"not translated, with room", "column: {children: [{label: {key: new, width: fill, lines: 1}}]}", nil},
		{"not shown where it is too long", "column: {children: [{label: {key: title, width: 70, except: [de]}}]}", nil},
		{"shown in one culture alone", "column: {children: [{label: {key: title, width: 70, only: [ar]}}]}", nil},
		{"rows of a list", "list: {rows: [{name: Runa}, {name: Somebody with a very long name}], children: [{label: {key: hello, lines: 1}}]}", []string{"off-screen hello en de ar"}},
		{"a grid", "grid: {width: fill, columns: [fit, fill], gap: 4, children: [{label: {key: short}}, {label: {key: title}}, {label: {key: title}}, {label: {key: short}}]}", []string{"off-screen title de"}},
		{"a grid that wraps", "grid: {width: fill, columns: [40, fill], gap: 4, children: [{label: {key: short}}, {label: {key: long, width: fill}}]}", nil},
		{"tabs", "tabs: {width: fill, items: [{key: short}, {key: short}, {key: title}], chosen: 1}", []string{"clipped-text title en de"}},
		{"check boxes and their like", "column: {children: [{check: {key: short}}, {switch: {key: short, width: fill}}, {radio: {items: [{key: short}, {key: title}], chosen: 2}}, {menu: {items: [{key: short}]}}, {field: {hint: short}}]}", nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			s, err := screen.Parse("x.yaml", []byte("devices: [{name: d, width: 200, height: 260}]\nbody:\n  "+c.body+"\n"))
			require.NoError(t, err)
			v := Verify(s, []culture.Tag{"en", "de", "ar"}, source, text.NewSetter(nil), func(culture.Tag, string) float64 { return 2 })
			var have []string
			for _, f := range v.Findings {
				have = append(have, strings.Join(append([]string{f.Rule, f.Box}, f.Cultures...), " "))
				assert.NotEmpty(t, f.Fix)
				assert.NotContains(t, f.Message, "%!")
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
	ltr := Place(s, s.Devices[0], "en", source, text.NewSetter(nil), Options{})
	rtl := Place(s, s.Devices[0], "ar", source, text.NewSetter(nil), Options{})
	var left, right []string
	for i := range ltr.Boxes {
		left = append(left, fmt.Sprint(ltr.Boxes[i].Frame.X, " ", ltr.Boxes[i].Frame.Width))
		right = append(right, fmt.Sprint(300-rtl.Boxes[i].Frame.X-rtl.Boxes[i].Frame.Width, " ", rtl.Boxes[i].Frame.Width))
	}
	assert.Equal(t, []string{"0 300", "10 20", "230 40", "35 190"}, []string{left[0], left[1], left[2+1], left[2]})
	assert.Equal(t, left, right)
}

// The text scale makes type larger, and nothing else.
func TestScales(t *testing.T) {
	s, err := screen.Parse("x.yaml", []byte("scales: [100, 200]\ndevices: [{name: d, width: 200, height: 100}]\nbody:\n  row: {children: [{icon: {picture: clock}}, {label: {key: long, width: fill, height: 50}}]}\n"))
	require.NoError(t, err)
	v := Verify(s, []culture.Tag{"en"}, source, text.NewSetter(nil), nil)
	require.Len(t, v.Layouts, 2)
	assert.Equal(t, v.Layouts[0].Boxes[1].Frame.Width, v.Layouts[1].Boxes[1].Frame.Width)
	assert.Equal(t, 2*v.Layouts[0].Boxes[2].Style.Size, v.Layouts[1].Boxes[2].Style.Size)
	require.Len(t, v.Findings, 1)
	assert.Contains(t, v.Findings[0].Message, "long on d at 200 %: the text is ")
	assert.Equal(t, finding.Warning, v.Findings[0].Severity, "only in larger type")
}

// Whatever a file says, placing it ends, and boxes of rows are bounded.
func FuzzScreen(f *testing.F) {
	for _, k := range screen.Kinds {
		f.Add("body:\n  " + k.Example + "\n")
	}
	f.Add("screen: x\nscales: [200]\ndevices: [{name: d, width: 9, height: 9}]\nbody: {grid: {columns: [fit, fill, {want: 3, least: 9, most: 2}], children: [{label: {text: a}}]}}")
	f.Fuzz(func(t *testing.T, file string) {
		s, err := screen.Parse("x.yaml", []byte(file))
		if err != nil {
			assert.True(t, strings.HasPrefix(err.Error(), "x.yaml:"), err.Error())
			return
		}
		v := Verify(s, []culture.Tag{"en", "ar"}, source, text.NewSetter(nil), nil)
		for _, l := range v.Layouts {
			assert.LessOrEqual(t, len(l.Boxes), maxBoxes+1)
		}
	})
}
