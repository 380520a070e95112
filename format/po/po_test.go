package po

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/internal/fast"
	"zelvik/message"
)

const head = "msgid \"\"\nmsgstr \"\"\n\"Language: de\\n\"\n\"Content-Type: text/plain; charset=UTF-8\\n\"\n\"POT-Creation-Date: 2026-03-01 10:15+0000\\n\"\n\n"

// A large file is read in two halves; comments, flags and obsolete entries in either
// are read as in a small one.
func TestLargeFiles(t *testing.T) {
	var b strings.Builder
	b.WriteString(head)
	n := 0
	for ; b.Len() < 2*fast.Large; n++ {
		fmt.Fprintf(&b, "#. Pier %d\n#, fuzzy\nmsgid \"Quay %d\"\nmsgstr \"Kai %d\"\n\n#~ msgid \"Old quay %d\"\n#~ msgstr \"Alter Kai %d\"\n\n", n, n, n, n, n)
	}
	document, findings := Format.Parse([]byte(b.String()))
	require.Empty(t, findings)
	source, target := document.Catalogs()[0], document.Catalogs()[1]
	require.Len(t, source.Entries, n)
	assert.Equal(t, n, target.Obsolete)
	assert.Equal(t, "2026-03-01 10:15+0000", source.Extracted)
	assert.Equal(t, fmt.Sprintf("Pier %d", n-1), source.Entries[n-1].Note)
	assert.Equal(t, fmt.Sprintf("Kai %d", n-1), target.Entries[n-1].Message.String())
	same, _, err := document.Edit(nil)
	require.NoError(t, err)
	assert.Equal(t, b.String(), string(same))
}

// TestPlaceholders reads what a translator may write for the placeholders of a source.
func TestPlaceholders(t *testing.T) {
	for _, c := range []struct{ flags, id, text, source, target string }{
		{"", "Copied (%d files)", "Kopiert (% d Dateien)", "{arg1}", "{arg1}"},
		{"", "50 %s off", "% sicher", "{arg1}", ""},
		{"python-format", "%(time)0.9f seconds", "%(time)0.9f Sekunden", "{time}", "{time}"},
		{"python-brace-format", "{name} is at { or }", "{name} ist bei { oder }", "{name}", "{name}"},
		{"python-brace-format", "{0} of {1}", "{1} von {0}", "{arg1} {arg2}", "{arg2} {arg1}"},
		{"c-format", "100%% of %2$s", "100%% von %2$s", "{arg2}", "{arg2}"},
		{"no-c-format", "100% done", "100% da", "", ""},
	} {
		document, findings := Format.Parse(fmt.Appendf(nil, "%s#, %s\nmsgid \"%s\"\nmsgstr \"%s\"\n", head, c.flags, c.id, c.text))
		if c.text != "% sicher" {
			require.Empty(t, findings, c.id)
		}
		for i, want := range []string{c.source, c.target} {
			assert.Equal(t, want, arguments(document.Catalogs()[i].Entries[0].Message), c.id)
		}
	}
}

// arguments lists the arguments of a message: those without a name by their number.
func arguments(m message.Message) string {
	m.Complete(nil)
	var list []string
	for p := range m.Placeholders() {
		list = append(list, "{"+p.Name+"}")
	}
	return strings.Join(list, " ")
}
