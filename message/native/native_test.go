package native

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/message"
)

// What is carried is read as what it was, in whatever syntax it is spelled.
func TestCarry(t *testing.T) {
	for text, want := range map[string]message.Placeholder{
		"{0:C2}":            {Type: message.Currency, Style: ".00", Syntax: message.Composite},
		"{1,-8:X4}":         {Type: message.Integer, Style: "hex upper zero=4 width=8 left", Syntax: message.Composite},
		"%lld":              {Type: message.Integer, Syntax: message.C},
		"%2$.1f":            {Type: message.Decimal, Style: ".0", Syntax: message.C},
		"java %S":           {Style: "upper", Syntax: message.Java},
		"%@":                {Syntax: message.Foundation},
		"%1!-8s!":           {Style: "width=8 left", Syntax: message.Windows},
		"%n":                {Type: message.Integer, Syntax: message.Marker},
		`{"type":"num"}`:    {Type: message.Decimal, Syntax: message.Declared},
		`{"type":"Object"}`: {Syntax: message.Declared},
	} {
		p := Read(text)
		require.NotNil(t, p, text)
		assert.Equal(t, [3]any{want.Type, want.Style, want.Syntax}, [3]any{p.Type, p.Style, p.Syntax}, text)
		assert.Equal(t, text, Carry(p))
	}
	for _, text := range []string{"", "x", "{name}", "{0} x", "%", "100%", "{"} {
		assert.Nil(t, Read(text), text)
	}
}
