package qt

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/internal/fast"
	"zelvik/message"
)

// A large file is read as a small one: texts that the program has no more are counted
// and kept.
func TestLargeFiles(t *testing.T) {
	var b strings.Builder
	b.WriteString("<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<!DOCTYPE TS>\n<TS version=\"2.1\" language=\"de\">\n<context>\n<name>Quay</name>\n")
	n := 0
	for ; b.Len() < 2*fast.Large; n++ {
		fmt.Fprintf(&b, "<message>\n<source>Quay %d</source>\n<translation>Kai %d</translation>\n</message>\n<message>\n<source>Old %d</source>\n<translation type=\"vanished\">Alt</translation>\n</message>\n", n, n, n)
	}
	b.WriteString("</context>\n</TS>\n")
	document, findings := Format.Parse([]byte(b.String()))
	require.Empty(t, findings)
	source, target := document.Catalogs()[0], document.Catalogs()[1]
	require.Len(t, source.Entries, n)
	assert.Equal(t, n, target.Obsolete)
	assert.Equal(t, fmt.Sprintf("Kai %d", n-1), target.Entries[n-1].Message.String())
	same, _, err := document.Edit(nil)
	require.NoError(t, err)
	assert.Equal(t, b.String(), string(same))
}

// The count of a plural is %n, whatever else the text shows.
func TestPluralsCountWithN(t *testing.T) {
	document, findings := Format.Parse([]byte(`<TS language="de"><context><name>W</name><message numerus="yes"><source>Used %1 time(s)</source>
<translation><numerusform>%1 Mal</numerusform><numerusform>%1 Male</numerusform></translation></message></context></TS>`))
	require.Empty(t, findings)
	for _, c := range document.Catalogs() {
		m := c.Entries[0].Message
		assert.Equal(t, "count", m.Choice.Selectors[0].Argument.Name)
		for _, p := range m.Main() {
			if p, ok := p.(*message.Placeholder); ok {
				assert.Equal(t, message.String, p.Type, "%s", c.Culture)
			}
		}
	}
}
