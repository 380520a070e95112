package projects

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/work/level/service"

	"zelvik/internal/clitest"
)

// TestService drafts with a service that does not do as it should: what comes
// of it is reported, and what is good is kept.
func TestService(t *testing.T) {
	for name, c := range map[string]struct {
		service *service.Simulated
		says    []string
		has     string
		lacks   string
	}{
		"busy":          {&service.Simulated{Busy: 1}, []string{"the service asks to wait (429); trying again", "3 texts drafted, 0 still missing"}, "[de] Sailings", ""},
		"partly":        {&service.Simulated{Leaves: "title"}, []string{"2 texts drafted, 1 still missing", "title  nothing like it is known"}, "[de] Pier", "[de] Sailings"},
		"a placeholder": {&service.Simulated{Forgets: "pier"}, []string{"2 texts drafted, 1 still missing", "pier  what the service has is refused: placeholder-lost"}, "[de] Sailings", "Pier"},
		"nothing":       {&service.Simulated{Broken: 9}, []string{"0 texts drafted, 3 still missing", "the service failed: de: the service answers 500 Internal Server Error: out of order"}, "<resources>", "[de]"},
		"babble":        {&service.Simulated{Babbles: true}, []string{"the service's answer is not in the protocol"}, "<resources>", "[de]"},
		"a key":         {&service.Simulated{Key: "open"}, []string{"give its key in ZELVIK_SERVICE_KEY"}, "<resources>", "[de]"},
	} {
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			for at, text := range map[string]string{
				"res/values/strings.xml":    "<resources>\n    <string name=\"title\">Sailings</string>\n    <string name=\"pier\">Pier %s</string>\n    <plurals name=\"n\"><item quantity=\"one\">%d crate</item><item quantity=\"other\">%d crates</item></plurals>\n</resources>\n",
				"res/values-de/strings.xml": "<resources>\n</resources>\n",
			} {
				require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, at)), 0o755))
				require.NoError(t, os.WriteFile(filepath.Join(dir, at), []byte(text), 0o644))
			}
			address, stop, err := c.service.Start()
			require.NoError(t, err)
			defer stop()
			r := clitest.Run(t, dir, "draft", "res", "--service", address, "--tries", "2")
			assert.Equal(t, strings.Contains(r.Stderr, "the service failed"), r.Status == 1, r.Stderr)
			for _, text := range c.says {
				assert.Contains(t, r.Stderr, text)
			}
			data, err := os.ReadFile(filepath.Join(dir, "res/values-de/strings.xml"))
			require.NoError(t, err)
			assert.Contains(t, string(data), c.has)
			if c.lacks != "" {
				assert.NotContains(t, string(data), c.lacks)
			}
		})
	}
}
