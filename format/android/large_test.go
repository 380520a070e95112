package android

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/format"
	"zelvik/internal/fast"
	"zelvik/message"
)

// large makes a file of more than fast.Large, with something in its
// middle.
func large(middle string) []byte {
	var out strings.Builder
	out.WriteString("<resources>\n")
	entry := func(i int) {
		if i%100 == 0 {
			fmt.Fprintf(&out, "    <!-- Note %d -->\n", i)
		}
		fmt.Fprintf(&out, "    <string name=\"key_%05d\">The text of number %d, which is long enough for a line</string>\n", i, i)
	}
	for i := range 6000 {
		entry(i)
	}
	out.WriteString(middle)
	for i := 6000; i < 12000; i++ {
		entry(i)
	}
	out.WriteString("</resources>\n")
	return []byte(out.String())
}

// A large file is read in two halves; nothing tells that from reading it in one.
func TestLargeFiles(t *testing.T) {
	hidden := "    <!--\n" + strings.Repeat("    <string name=\"hidden\">x</string>\n", 3000) + "    -->\n"
	cdata := "    <string name=\"cdata\"><![CDATA[" + strings.Repeat("</string>\n    <string name=\"no\">", 3000) + "]]></string>\n"
	open := "    <string name=\"open\">never closed\n"
	double := strings.Repeat("    <string name=\"key_00001\">again</string>\n", 2)
	for name, middle := range map[string]string{"plain": "", "comment": hidden, "cdata": cdata, "open": open, "double": double} {
		t.Run(name, func(t *testing.T) {
			data := large(middle)
			require.Greater(t, len(data), fast.Large)
			document, findings := parse(data)
			c := document.Catalogs()[0]
			want := 12000 + map[string]int{"cdata": 1, "open": 1, "double": 2}[name]
			require.Len(t, c.Entries, want)
			require.Len(t, findings, map[string]int{"open": 1, "double": 2}[name])
			for _, e := range c.Entries {
				require.True(t, strings.HasPrefix(document.Text()[e.Offset:], `<string name="`+e.Key+`"`), e.Key)
			}
			e := c.Find("key_07900")
			require.NotNil(t, e)
			assert.Equal(t, "Note 7900", e.Note)
			m, note := message.Plain("New"), "Changed"
			out, _, err := document.Edit([]format.Change{{Key: "key_07900", Message: &m, Note: &note}})
			require.NoError(t, err)
			assert.Contains(t, string(out), "    <!-- Changed -->\n    <string name=\"key_07900\">New</string>\n")
			assert.Equal(t, len(data)-len("Note 7900")-len("The text of number 7900, which is long enough for a line")+len("Changed")+len("New"), len(out))
		})
	}
}

// BenchmarkEdit sets one text of 12,000; reading is BenchmarkRead.
func BenchmarkEdit(b *testing.B) {
	data := large("")
	m := message.Plain("New")
	for b.Loop() {
		document, _ := parse(data)
		if _, _, err := document.Edit([]format.Change{{Key: "key_04000", Message: &m}}); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkRead reads 8,000 texts.
func BenchmarkRead(b *testing.B) {
	data := large("")
	b.SetBytes(int64(len(data)))
	for b.Loop() {
		parse(data)
	}
}
