package all

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/message"
)

// TestProductsAreTold writes texts for one product into every format that does
// not hold them: the text for all products is kept, and the others are reported.
func TestProductsAreTold(t *testing.T) {
	for _, f := range Formats {
		t.Run(f.Name, func(t *testing.T) {
			c := &catalog.Catalog{Culture: "en"}
			c.Add(catalog.Entry{Key: "press", Product: "tablet", Message: message.Plain("Tap")})
			c.Add(catalog.Entry{Key: "press", Message: message.Plain("Press")})
			c.Add(catalog.Entry{Key: "charge", Product: "tablet", Message: message.Plain("Charge the tablet")})
			data, losses := f.Compose(c, format.Options{})
			if f.Name != "mo" { // which holds translations alone
				assert.Contains(t, string(data), "Press")
			}
			if f.Name == "android" {
				assert.Contains(t, string(data), "Charge the tablet")
				assert.Empty(t, losses)
				return
			}
			assert.NotContains(t, string(data), "tablet")
			var told []string
			for _, l := range losses {
				if l.Kind == "product" {
					told = append(told, l.Key)
				} else {
					assert.Empty(t, l.Key, l)
				}
			}
			assert.Equal(t, []string{"press", "charge"}, told)
		})
	}
}
