package sheet

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/format"
	"zelvik/message"
)

// workbookOf packs a sheet's XML and shared texts as a stranger's program would,
// with parts that a table does not know.
func workbookOf(t testing.TB, sheet, shared string, more ...string) []byte {
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	put := func(name, text string) {
		part, err := w.Create(name)
		require.NoError(t, err)
		_, err = part.Write([]byte(text))
		require.NoError(t, err)
	}
	for _, one := range parts {
		text := one[1]
		if one[0] == "xl/_rels/workbook.xml.rels" {
			text = strings.Replace(text, "</Relationships>", `<Relationship Id="rId3" Type="http://purl.oclc.org/ooxml/officeDocument/relationships/sharedStrings" Target="/xl/sharedStrings.xml"/></Relationships>`, 1)
		}
		put(one[0], xmlHead+text)
	}
	put("xl/media/photo.bin", "\x00\x01 any bytes")
	put("xl/sharedStrings.xml", shared)
	put("xl/worksheets/sheet1.xml", sheet)
	for i := 0; i < len(more); i += 2 {
		put(more[i], more[i+1])
	}
	require.NoError(t, w.Close())
	return out.Bytes()
}

// partsOf unpacks all parts.
func partsOf(t testing.TB, data []byte) map[string]string {
	r, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	all := map[string]string{}
	for _, f := range r.File {
		in, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(in)
		require.NoError(t, err)
		all[f.Name] = string(text)
	}
	return all
}

const head = `<row r="1"><c r="A1" t="inlineStr"><is><t>key</t></is></c><c r="B1" t="inlineStr"><is><t>en</t></is></c><c r="C1" t="inlineStr"><is><t>de</t></is></c></row>`

func sheetOf(rows string) string {
	return `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><dimension ref="A1:C3"/><sheetData>` + head + rows + `</sheetData><mergeCells><mergeCell ref="A9:B9"/></mergeCells></worksheet>`
}

const shared = `<sst><si><t>Hello</t></si><si><r><t>Bold</t></r><r><t xml:space="preserve"> and plain</t></r><rPh sb="0" eb="1"><t>no</t></rPh></si><si><t>a_x000A_b &amp; _x005F_x0041_</t></si></sst>`

func TestWorkbookIsRead(t *testing.T) {
	for name, c := range map[string]struct {
		rows string
		want map[string]string
	}{
		"shared":       {`<row r="2"><c r="A2" t="str"><v>a</v></c><c r="B2" t="s"><v>0</v></c><c r="C2" t="s"><v>1</v></c></row>`, map[string]string{"en a": "Hello", "de a": "Bold and plain"}},
		"escapes":      {`<row r="2"><c r="A2" t="str"><v>a</v></c><c r="B2" t="s"><v>2</v></c></row>`, map[string]string{"en a": "a\nb & _x0041_"}},
		"without refs": {`<row><c t="str"><v>a</v></c><c><v>12</v></c></row><row><c t="str"><v>b</v></c><c t="b"><v>1</v></c></row>`, map[string]string{"en a": "12", "en b": "TRUE"}},
		"gaps":         {`<row r="900"><c r="A900" t="str"><v>a</v></c><c r="C900" t="inlineStr"><is><t>x</t></is></c></row><row r="901"/>`, map[string]string{"de a": "x"}},
		"far away":     {`<row r="2"><c r="A2" t="str"><v>a</v></c><c r="B2" t="str"><v>x</v></c><c r="XFD2" t="str"><v>no</v></c></row>`, map[string]string{"en a": "x"}},
		"error":        {`<row r="2"><c r="A2" t="str"><v>a</v></c><c r="B2" t="str"><f>1/0</f><v>x</v></c><c r="C2" t="e"><v>#DIV/0!</v></c></row>`, map[string]string{"en a": "x"}},
		"comments":     {`<!-- <row r="2"> --><row r='2' ><c r='A2' t='str'><v><![CDATA[a]]></v></c><c t="str"  r="B2"><v>x</v ></c></row >`, map[string]string{"en a": "x"}},
	} {
		document, faults := parse(workbookOf(t, sheetOf(c.rows), shared))
		require.Empty(t, faults, name)
		have := map[string]string{}
		for _, catalog := range document.Catalogs() {
			for _, e := range catalog.Entries {
				have[string(catalog.Culture)+" "+e.Key] = e.Message.String()
			}
		}
		assert.Equal(t, c.want, have, name)
	}
	prefixed := strings.NewReplacer("</", "</x:", "<", "<x:", "xmlns=", "xmlns:x=").Replace(sheetOf(`<row r="2"><c r="A2" t="str"><v>a</v></c><c r="B2" t="str"><v>x</v></c></row>`))
	document, faults := parse(workbookOf(t, prefixed, shared))
	require.Empty(t, faults)
	out, _, err := document.Edit([]format.Change{{Culture: "de", Key: "a", Message: &message.Message{Pattern: message.Pattern{message.Text("y")}}}})
	require.NoError(t, err)
	assert.Contains(t, partsOf(t, out)["xl/worksheets/sheet1.xml"], `<x:c r="C2" t="inlineStr"><x:is><x:t xml:space="preserve">y</x:t></x:is></x:c></x:row>`)
}

// An edit replaces bytes of its cell, and nothing else in the whole package.
func TestWorkbookEdits(t *testing.T) {
	rows := `<row r="2" spans="1:2" ht="30"><c r="A2" s="7" t="str"><v>a</v></c><c r="B2" s="8" t="s"><v>0</v></c></row>` + "\n" +
		`<row r="3"><c r="A3" t="str"><v>b</v></c><c r="B3" t="str"><v>x</v></c><c r="C3" s="9" t="str"><f>UPPER(B3)</f><v>X</v></c></row>`
	data := workbookOf(t, sheetOf(rows), shared)
	before := partsOf(t, data)
	text := message.Plain("<Neu> & _x0041_\a")
	for name, c := range map[string]struct {
		change   format.Change
		old, now string
		fails    string
	}{
		"cell":         {format.Change{Culture: "en", Key: "a", Message: &text}, `<c r="B2" s="8" t="s"><v>0</v></c>`, `<c r="B2" s="8" t="inlineStr"><is><t xml:space="preserve">&lt;Neu&gt; &amp; _x005F_x0041__x0007_</t></is></c>`, ""},
		"new cell":     {format.Change{Culture: "de", Key: "a", Message: &text}, ` spans="1:2" ht="30"><c r="A2" s="7" t="str"><v>a</v></c><c r="B2" s="8" t="s"><v>0</v></c></row>`, ` ht="30"><c r="A2" s="7" t="str"><v>a</v></c><c r="B2" s="8" t="s"><v>0</v></c><c r="C2" s="8" t="inlineStr"><is><t xml:space="preserve">&lt;Neu&gt; &amp; _x005F_x0041__x0007_</t></is></c></row>`, ""},
		"rename":       {format.Change{Op: format.Rename, Key: "b", NewKey: "c"}, `<c r="A3" t="str"><v>b</v></c>`, `<c r="A3" t="inlineStr"><is><t xml:space="preserve">c</t></is></c>`, ""},
		"new row":      {format.Change{Culture: "en", Key: "z", Message: &text, After: "a"}, `</row></sheetData>`, `</row><row r="4"><c r="A4" s="9" t="inlineStr"><is><t xml:space="preserve">z</t></is></c><c r="B4" s="9" t="inlineStr"><is><t xml:space="preserve">&lt;Neu&gt; &amp; _x005F_x0041__x0007_</t></is></c></row></sheetData>`, ""},
		"remove":       {format.Change{Op: format.Remove, Key: "a"}, rows[:strings.Index(rows, "\n")], "", ""},
		"formula":      {format.Change{Culture: "de", Key: "b", Message: &text}, "", "", "the cell C3 is calculated by a formula"},
		"formula gone": {format.Change{Op: format.Remove, Key: "b"}, "", "", "the cell C3 is calculated by a formula"},
	} {
		document, faults := parse(data)
		require.Empty(t, faults)
		out, _, err := document.Edit([]format.Change{c.change})
		if c.fails != "" {
			require.ErrorContains(t, err, c.fails, name)
			continue
		}
		require.NoError(t, err, name)
		after := partsOf(t, out)
		want := strings.Replace(before["xl/worksheets/sheet1.xml"], c.old, c.now, 1)
		if name == "new row" {
			want = strings.Replace(want, "A1:C3", "A1:C4", 1)
		}
		assert.Equal(t, want, after["xl/worksheets/sheet1.xml"], name)
		delete(after, "xl/worksheets/sheet1.xml")
		for part, text := range after {
			assert.Equal(t, before[part], text, part)
		}
		assert.Len(t, after, len(before)-1)
		assert.NoError(t, format.ReadBack(workbook, document, []format.Change{c.change}, out, nil), name)
	}
}

// Workbooks that strangers made to hurt are refused in time and memory.
func TestHostileWorkbooks(t *testing.T) {
	one := func(i int, cells string) string { return fmt.Sprintf(`<row r="%d">%s</row>`, i, cells) }
	many := func(n int, cells func(i int) string) string {
		var out strings.Builder
		for i := range n {
			out.WriteString(one(i+2, cells(i+2)))
		}
		return out.String()
	}
	long := strings.Repeat("x", 32_000)
	for name, data := range map[string][]byte{
		"shared text -1":       workbookOf(t, sheetOf(one(2, `<c r="A2" t="s"><v>-1</v></c>`)), shared),
		"shared text 99":       workbookOf(t, sheetOf(one(2, `<c r="A2" t="s"><v>99</v></c>`)), shared),
		"shared text none":     workbookOf(t, sheetOf(one(2, `<c r="A2" t="s"/>`)), shared),
		"wide rows":            workbookOf(t, sheetOf(many(20_000, func(i int) string { return fmt.Sprintf(`<c r="XFD%d" t="str"><v>x</v></c>`, i) })), shared),
		"wide rows within":     workbookOf(t, sheetOf(many(20_000, func(i int) string { return fmt.Sprintf(`<c r="ALK%d" t="str"><v>x</v></c>`, i) })), shared),
		"merged sheet":         workbookOf(t, strings.Replace(sheetOf(""), "A9:B9", "A1:XFD1048576", 1), shared),
		"row of twelve digits": workbookOf(t, sheetOf(`<row r="999999999999"><c t="str"><v>a</v></c></row>`), shared),
		"row 0":                workbookOf(t, sheetOf(`<row r="0"/>`), shared),
		"cell nowhere":         workbookOf(t, sheetOf(`<row r="2"><c r="12"/></row>`), shared),
		"one text for all":     workbookOf(t, sheetOf(many(50_000, func(i int) string { return `<c t="s"><v>0</v></c><c t="s"><v>0</v></c>` })), "<sst><si><t>"+long+"</t></si></sst>"),
		"a long text":          workbookOf(t, sheetOf(one(2, `<c t="str"><v>`+strings.Repeat("x", 200_000)+`</v></c>`)), shared),
		"a bomb":               workbookOf(t, sheetOf(strings.Repeat(" ", 100<<20)), shared),
		"a bomb elsewhere":     workbookOf(t, sheetOf(""), strings.Repeat(" ", 100<<20)),
		"depth":                workbookOf(t, sheetOf(strings.Repeat("<row>", 100_000)), shared),
		"entities":             workbookOf(t, `<!DOCTYPE x [<!ENTITY a "`+long+`"><!ENTITY b "&a;&a;&a;&a;">]>`+sheetOf(one(2, `<c t="str"><v>`+strings.Repeat("&b;", 1000)+`</v></c>`)), shared),
		"no sheet":             workbookOf(t, "", shared),
		"cut off":              workbookOf(t, sheetOf(one(2, ""))[:200], shared),
		"not a workbook":       []byte("PK\x03\x04 and no more"),
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		begun := time.Now()
		document, _ := parse(data)
		m := message.Plain("x")
		for _, c := range []format.Change{{Culture: "en", Key: "x", Message: &m}, {Op: format.Remove, Key: "x"}} {
			_, _, _ = document.Edit([]format.Change{c})
		}
		runtime.ReadMemStats(&after)
		assert.Less(t, time.Since(begun), 5*time.Second, name)
		assert.Less(t, (after.TotalAlloc-before.TotalAlloc)>>20, uint64(900), name) // all that was ever allocated
		_, faults := parse(data)
		if name != "entities" && name != "merged sheet" && name != "wide rows" { // harmless, once nobody follows them
			assert.NotEmpty(t, faults, name)
		}
	}
}

// FuzzWorkbook reads and edits sheets of any XML, packed as workbooks.
func FuzzWorkbook(f *testing.F) {
	f.Add(sheetOf(`<row r="2"><c r="A2" t="str"><v>a</v></c><c r="B2" t="s"><v>0</v></c></row>`), shared)
	f.Add(sheetOf(`<row><c t="inlineStr"><is><t>a</t></is></c></row><row r="7"/>`), "<sst/>")
	f.Fuzz(func(t *testing.T, sheet, shared string) {
		data := workbookOf(t, sheet, shared)
		document, faults := parse(data)
		same, _, err := document.Edit(nil)
		if err != nil || !bytes.Equal(same, data) {
			t.Fatal("unchanged bytes are not the same")
		}
		if len(faults) > 0 {
			return
		}
		m := message.Plain("new <text> _x0041_")
		for _, c := range []format.Change{{Culture: document.Catalogs()[0].Culture, Key: "a", Message: &m}, {Culture: document.Catalogs()[0].Culture, Key: "fresh", Message: &m}, {Op: format.Remove, Key: "a"}} {
			out, losses, err := document.Edit([]format.Change{c})
			if err != nil {
				continue
			}
			if err := format.ReadBack(workbook, document, []format.Change{c}, out, losses); err != nil {
				t.Fatalf("%v\n%s", err, partsOf(t, out)["xl/worksheets/sheet1.xml"])
			}
		}
	})
}
