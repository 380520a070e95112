package service

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What the client makes of what a service may do.
func TestTranslate(t *testing.T) {
	var texts []Text
	for i := range 120 {
		texts = append(texts, Text{ID: fmt.Sprintf("key%d", i), Text: "Pier {n}"})
	}
	quick := Options{Patience: 100 * time.Millisecond, Pause: time.Millisecond}
	for name, c := range map[string]struct {
		service  *Simulated
		options  Options
		answers  int
		requests int
		told     int
		err      string
	}{
		"as it should be":          {&Simulated{}, quick, 120, 3, 0, ""},
		"busy at first":            {&Simulated{Busy: 2}, quick, 120, 5, 2, ""},
		"out of order for a while": {&Simulated{Broken: 3}, quick, 120, 6, 3, ""},
		"late once":                {&Simulated{Slow: 1, Delay: 300 * time.Millisecond}, quick, 120, 4, 1, ""},
		"leaves some out":          {&Simulated{Leaves: "key11"}, quick, 109, 5, 0, ""},
		"out of order for good":    {&Simulated{Broken: 100}, quick, 0, 4, 4, "the service answers 500 Internal Server Error: out of order"},
		"busy for good":            {&Simulated{Busy: 100}, Options{Tries: 2, Pause: time.Millisecond}, 0, 2, 2, "the service answers 429 Too Many Requests: too many requests"},
		"wants a key":              {&Simulated{Key: "open"}, quick, 0, 1, 0, "the service answers 401 Unauthorized; give its key in ZELVIK_SERVICE_KEY"},
		"has its key":              {&Simulated{Key: "open"}, Options{Key: "open"}, 120, 3, 0, ""},
		"says something else":      {&Simulated{Babbles: true}, quick, 0, 1, 0, "the service's answer is not in the protocol of docs/draft-service.md: <html>welcome</html>"},
	} {
		t.Run(name, func(t *testing.T) {
			address, stop, err := c.service.Start()
			require.NoError(t, err)
			defer stop()
			told := 0
			c.options.Told = func(string) { told++ }
			client, err := New(address, c.options)
			require.NoError(t, err)
			done := 0
			answers, err := client.Translate(context.Background(), Request{"en", "de", texts}, func(n int) { done += n })
			assert.Len(t, answers, c.answers)
			assert.Equal(t, c.requests, c.service.Asked(), "requests")
			assert.Equal(t, c.told, told, "told")
			if c.err != "" {
				assert.EqualError(t, err, c.err)
				return
			}
			require.NoError(t, err)
			assert.Equal(t, 120, done)
			assert.Equal(t, "[de] Pier {n}", answers["key7"])
		})
	}
}

func TestNobodyThere(t *testing.T) {
	address, stop, err := (&Simulated{}).Start()
	require.NoError(t, err)
	stop()
	client, err := New(address, Options{Tries: 2, Pause: time.Millisecond})
	require.NoError(t, err)
	_, err = client.Translate(context.Background(), Request{"en", "de", []Text{{ID: "a", Text: "b"}}}, nil)
	assert.ErrorContains(t, err, "the service cannot be reached")
	for _, address := range []string{"nowhere", "ftp://x", "http://", "file:///etc"} {
		_, err := New(address, Options{})
		assert.ErrorContains(t, err, "is no address of a service", address)
	}
}

// The stand-in speaks as services do: plural forms of the culture, terms,
// markup.
func TestSimulated(t *testing.T) {
	address, stop, err := (&Simulated{Forgets: "lost"}).Start()
	require.NoError(t, err)
	defer stop()
	client, err := New(address, Options{})
	require.NoError(t, err)
	answers, err := client.Translate(context.Background(), Request{"en", "pl", []Text{
		{ID: "plural", Text: "{n, plural, one {# crate} other {# crates}}"},
		{ID: "term", Text: "On the <b>deck</b>", Terms: []Term{{"deck", "pokład"}}},
		{ID: "lost", Text: "Pier {n}"},
		{ID: "damaged", Text: "Pier {n"},
	}}, nil)
	require.NoError(t, err)
	assert.Equal(t, map[string]string{
		"plural": "{n, plural, one {[pl] # crate} few {[pl] # crates} many {[pl] # crates} other {[pl] # crates}}",
		"term":   "[pl] On the <b>pokład</b>",
		"lost":   "[pl] Pier ",
	}, answers)
}
