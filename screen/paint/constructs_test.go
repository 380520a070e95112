package paint

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
	"zelvik/screen"
	"zelvik/screen/layout"
	"zelvik/screen/text"
)

// texts are those of the demo that the examples show.
var texts = map[string]string{
	"sailing_route": "Hollow Isle to Outer Tern", "boarding_title": "Boarding pass", "boarding_deck": "Deck 2", "booking_cars": "Cars",
	"booking_bicycles": "Bicycles", "map_title": "Harbour map", "action_next": "Next", "action_back": "Back", "delay_title": "Weather delay",
	"delay_reason": "Strong wind on the outer skerries", "action_retry": "Try again", "booking_confirm": "Confirm booking",
	"booking_passengers": "Passengers", "settings_follow": "Follow the device", "sailings_title": "Sailings", "booking_title": "Book",
	"settings_title": "Settings",
}

func source(key string, _ culture.Tag, arguments map[string]string) (layout.Shown, bool) {
	shown, ok := texts[key]
	if key == "sailing_route" && arguments["from"] != "" {
		shown = arguments["from"] + " to " + arguments["to"]
	}
	return layout.Shown{Text: shown, Bare: shown, Own: true}, ok
}

// TestConstructs draws the example of every kind of box, and holds it against
// the picture in docs/screens.md. Write them anew with ZELVIK_WRITE=1.
func TestConstructs(t *testing.T) {
	setter := text.NewSetter(nil)
	for _, k := range screen.Kinds {
		t.Run(k.Name, func(t *testing.T) {
			s, err := screen.Parse("x.yaml", []byte("devices: [{name: d, width: 320, height: 200}]\nbody: {column: {padding: 14, children: [{"+k.Example+"}]}}\n"))
			require.NoError(t, err)
			for _, key := range s.Keys() {
				assert.Contains(t, texts, key)
			}
			l := layout.Place(s, s.Devices[0], "en", source, setter, layout.Options{})
			l.Device.Height = l.Boxes[1].Frame.Height + 28
			l.Root.Frame.Height = l.Device.Height
			canvas := Single(l, Options{Theme: Light, Scale: 1.5}, setter)
			var have bytes.Buffer
			require.NoError(t, canvas.Write(&have))
			golden := filepath.Join("../../docs/screens", k.Name+".png")
			if os.Getenv("ZELVIK_WRITE") != "" {
				require.NoError(t, os.MkdirAll(filepath.Dir(golden), 0o755))
				require.NoError(t, os.WriteFile(golden, have.Bytes(), 0o644))
			}
			want, err := os.ReadFile(golden)
			require.NoError(t, err)
			assert.True(t, bytes.Equal(want, have.Bytes()), "the picture of %s is another one now", k.Name)
			var shapes bytes.Buffer
			require.NoError(t, Single(l, Options{Theme: Dark, SVG: true}, setter).Write(&shapes))
			assert.Contains(t, shapes.String(), "</svg>")
			assert.Equal(t, bytes.Count(shapes.Bytes(), []byte("<g ")), bytes.Count(shapes.Bytes(), []byte("</g>")))
		})
	}
}
