package hostile

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/internal/clitest"
)

// hostileTexts are texts that make a careless reader look at them again and
// again.
func hostileTexts() map[string]string {
	r := strings.Repeat
	return map[string]string{
		"braces": r("{", 100_000), "closed at the end": r("{", 100_000) + "}", "opened": "{a" + r("}", 100_000), "nested": r("{a,", 50_000) + r("}", 50_000),
		"plurals": r("{n,plural,other{", 20_000) + r("}}", 20_000), "dollars": r("${", 50_000), "hashes": r("#{", 50_000), "percents": r("%", 100_000),
		"positions": r("%1$", 40_000), "widths": "%" + r("9", 100_000) + "d", "styles": r("%1$-+ 0,(#", 20_000), "composite": r("{0:N", 40_000), "quotes": r("'", 99_999), "quoted braces": r("'{", 50_000),
		"tags": r("<b>", 30_000), "half tags": r("<a ", 50_000), "tag with quote": r("<a \"", 30_000), "ends": r("</b>", 30_000), "ampersands": r("&", 100_000), "entities": r("&#x", 40_000), "long entity": "&" + r("a", 100_000) + ";",
		"backslashes": r("\\", 99_999), "escapes": r("\\u", 50_000), "surrogates": r("\\ud800", 20_000), "accelerators": r("&a", 50_000), "ats": r("@", 100_000), "names": r(":a ", 40_000),
		"controls": r("\x01\x02\x1b[31m", 10_000), "marks": r("\u202e\u2066", 20_000), "combining": "e" + r("\u0301", 60_000), "long word": r("x", 300_000), "spaces": r(" ", 200_000), "lines": r("\n", 100_000), "select": "{a, select, " + r("k {x} ", 5_000) + "other {x}}",
	}
}

// hostileFiles are the texts in every format, and files whose shape hurts.
func hostileFiles(t *testing.T) map[string][]byte {
	list := map[string][]byte{}
	xml := strings.NewReplacer("&", "&amp;", "<", "&lt;", "\x01", "", "\x02", "", "\x1b", "")
	line := strings.NewReplacer("\n", `\n`, `"`, `\"`)
	for name, text := range hostileTexts() {
		name = strings.ReplaceAll(name, " ", "_")
		quoted, err := json.Marshal(text)
		require.NoError(t, err)
		for ending, content := range map[string]string{
			".csv":         "key,en,de\na,\"" + strings.ReplaceAll(text, `"`, `""`) + "\",x\n",
			".properties":  "a=" + text + "\n",
			".json":        `{"a":` + string(quoted) + `}`,
			".arb":         `{"a":` + string(quoted) + `}`,
			".xml":         `<resources><string name="a">` + xml.Replace(text) + `</string></resources>`,
			".resx":        `<root><data name="a"><value>` + xml.Replace(text) + `</value></data></root>`,
			".strings":     `"a" = "` + line.Replace(text) + `";`,
			".po":          "msgid \"\"\nmsgstr \"\"\n\nmsgid \"a\"\nmsgstr \"" + line.Replace(text) + "\"\n",
			".ts":          `<!DOCTYPE TS><TS version="2.1" language="de"><context><name>c</name><message><source>a</source><translation>` + xml.Replace(text) + `</translation></message></context></TS>`,
			".xlf":         `<xliff version="1.2"><file source-language="en" target-language="de" original="x" datatype="x"><body><trans-unit id="a"><source>` + xml.Replace(text) + `</source><target>` + xml.Replace(text) + `</target></trans-unit></body></file></xliff>`,
			".tmx":         `<tmx version="1.4"><header srclang="en"/><body><tu tuid="a"><tuv xml:lang="en"><seg>` + xml.Replace(text) + `</seg></tuv><tuv xml:lang="de"><seg>x</seg></tuv></tu></body></tmx>`,
			".rc":          "STRINGTABLE\nBEGIN\n1 \"" + strings.ReplaceAll(text, "\n", " ") + "\"\nEND\n",
			".stringsdict": `<plist><dict><key>a</key><dict><key>NSStringLocalizedFormatKey</key><string>` + xml.Replace(text) + `</string></dict></dict></plist>`,
			".xcstrings":   `{"sourceLanguage":"en","version":"1.0","strings":{"a":{"localizations":{"de":{"stringUnit":{"state":"translated","value":` + string(quoted) + `}}}}}}`,
		} {
			list[name+ending] = []byte(content)
		}
	}
	r := strings.Repeat
	for name, content := range map[string]string{
		"raw.xml": `<resources><string name="a">` + r("<b>", 30_000) + `</string></resources>`, "deep.xml": r("<resources>", 50_000), "comments.xml": "<resources>" + r("<!-- ", 50_000), "cdata.xml": `<resources><string name="a">` + r("<![CDATA[", 40_000),
		"attributes.xml": `<resources><string name="a" ` + r(`x="1" `, 50_000) + `>a</string></resources>`, "bomb.xml": `<!DOCTYPE x [` + r(`<!ENTITY a "&b;&b;&b;">`, 2_000) + `]><resources><string name="a">&a;</string></resources>`,
		"same.xml": "<resources>" + r(`<string name="a">x</string>`, 20_000) + "</resources>", "plurals.xml": "<resources>" + r(`<plurals name="p"><item quantity="other">x</item>`, 10_000),
		"deep.json": r(`{"a":`, 50_000), "deep_list.json": `{"a":` + r("[", 50_000), "same.json": "{" + r(`"a":"x",`, 30_000) + `"b":"y"}`, "open.json": `{"a":"` + r("x", 100_000), "numbers.json": `{"a":` + r("9", 200_000) + `}`, "dots.json": `{"` + r("a.", 20_000) + `":"x"}`,
		"quotes.csv": "key,en,de\n" + r(`"`, 100_001), "columns.csv": "key,en," + r("de,", 50_000) + "\na,b\n", "cells.csv": "key,en,de\na," + r("x,", 100_000) + "\n", "cr.csv": "key,en,de\r" + r("a,b,c\r", 20_000),
		"wrapped.po": "msgid \"\"\nmsgstr \"\"\n\nmsgid \"a\"\nmsgstr \"\"\n" + r("\"x\"\n", 50_000), "forms.po": "msgid \"\"\nmsgstr \"Plural-Forms: nplurals=2; plural=" + r("(n>", 20_000) + "1;\\n\"\n", "power.po": "msgid \"\"\nmsgstr \"Plural-Forms: nplurals=999999999; plural=n*n*n*n*n*n;\\n\"\n\nmsgid \"a\"\nmsgid_plural \"b\"\nmsgstr[999999998] \"x\"\n",
		"continued.properties": "a=" + r("x\\\n", 50_000), "same.properties": r("a=x\n", 50_000), "open.strings": r(`"a`, 50_000), "comments.strings": r("/* ", 50_000), "nested.rc": r("MENU\nBEGIN\n", 20_000), "defines.rc": r("#define A \\\n", 30_000),
		"nested.xlf":   `<xliff version="1.2"><file source-language="en" target-language="de" original="x" datatype="x"><body><trans-unit id="a"><source>` + r(`<g id="1">`, 200) + r("</g>", 200) + `</source></trans-unit></body></file></xliff>`,
		"codes.xlf":    `<xliff version="1.2"><file source-language="en" target-language="de" original="x" datatype="x"><body><trans-unit id="a"><source>` + r(`<x id="1"/>`, 20_000) + `</source><target>` + r(`<x id="1"/>`, 20_000) + `</target></trans-unit></body></file></xliff>`,
		"conflict.xml": r("<<<<<<< a\n=======\n", 20_000), "nul.po": r("\x00", 100_000), "utf16.strings": "\xff\xfe" + r("\x00\xd8", 50_000),
	} {
		list[name] = []byte(content)
	}
	if *runAll {
		maps.Copy(list, hostileBooks(t))
	}
	return list
}

// hostileBooks are workbooks.
func hostileBooks(t *testing.T) map[string][]byte {
	const head = `<row r="1"><c t="str"><v>key</v></c><c t="str"><v>en</v></c><c t="str"><v>de</v></c></row>`
	many := func(n int, cells func(i int) string) string {
		var out strings.Builder
		for i := range n {
			fmt.Fprintf(&out, `<row r="%d">%s</row>`, i+2, cells(i+2))
		}
		return out.String()
	}
	r := strings.Repeat
	texts := map[string][2]string{
		"negative": {`<row r="2"><c t="s"><v>-1</v></c></row>`, ""}, "beyond": {`<row r="2"><c t="s"><v>99999999999999999999</v></c></row>`, ""},
		"xfd":     {many(20_000, func(i int) string { return fmt.Sprintf(`<c r="XFD%d" t="str"><v>x</v></c>`, i) }), ""},
		"wide":    {many(20_000, func(i int) string { return fmt.Sprintf(`<c r="ALK%d" t="str"><v>x</v></c>`, i) }), ""},
		"merged":  {`</sheetData><mergeCells>` + r(`<mergeCell ref="A1:XFD1048576"/>`, 1000) + `</mergeCells><sheetData>`, ""},
		"far row": {`<row r="999999999999"><c t="str"><v>a</v></c></row>`, ""}, "last row": {`<row r="1048576"><c t="str"><v>a</v></c><c t="str"><v>b</v></c></row>`, ""},
		"one for all": {many(50_000, func(int) string { return `<c t="s"><v>0</v></c><c t="s"><v>0</v></c>` }), "<si><t>" + r("x", 32_000) + "</t></si>"},
		"runs":        {`<row r="2"><c t="s"><v>0</v></c></row>`, "<si>" + r("<r><t>x</t></r>", 60_000) + "</si>"}, "bomb": {r(" ", 60<<20), ""}, "bomb of texts": {"", r("<si/>", 10<<20)},
		"escapes": {`<row r="2"><c t="str"><v>` + r("_x0001_", 4_000) + `</v></c><c t="str"><v>x</v></c></row>`, ""}, "deep": {r("<row>", 100_000), ""}, "formulas": {many(2_000, func(int) string { return `<c t="str"><v>a</v></c><c><f>` + r("(", 500) + `</f></c>` }), ""},
	}
	list := map[string][]byte{}
	for name, c := range texts {
		var out bytes.Buffer
		w := zip.NewWriter(&out)
		for part, text := range map[string]string{
			"_rels/.rels":                `<Relationships><Relationship Id="a" Type="x/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
			"xl/workbook.xml":            `<workbook><sheets><sheet name="x" r:id="a"/></sheets></workbook>`,
			"xl/_rels/workbook.xml.rels": `<Relationships><Relationship Id="a" Type="x/worksheet" Target="worksheets/a.xml"/><Relationship Id="b" Type="x/sharedStrings" Target="/xl/s.xml"/></Relationships>`,
			"xl/s.xml":                   "<sst>" + c[1] + "</sst>",
			"xl/worksheets/a.xml":        `<worksheet><sheetData>` + head + c[0] + `</sheetData></worksheet>`,
		} {
			in, err := w.Create(part)
			require.NoError(t, err)
			_, err = in.Write([]byte(text))
			require.NoError(t, err)
		}
		require.NoError(t, w.Close())
		list[strings.ReplaceAll(name, " ", "_")+".xlsx"] = out.Bytes()
	}
	return list
}

var formatOf = map[string]string{".csv": "sheet", ".xlsx": "sheet", ".properties": "properties", ".json": "json", ".arb": "arb", ".xml": "android", ".resx": "resx", ".strings": "strings", ".po": "po", ".ts": "qt", ".xlf": "xliff", ".tmx": "tmx", ".rc": "winrc", ".stringsdict": "stringsdict", ".xcstrings": "xcstrings"}

// TestHostileFiles runs the program on files made to hurt, more than 400 in every
// format (with -all, else every 200th, and no workbooks), four commands each: no panic, no more than 5 s of processor time, no
// more memory than 20 times the file or 300 MB. What a process has had in memory
// is counted for those that it starts, too, so that a small one makes the files
// and another one runs the program.
func TestHostileFiles(t *testing.T) {
	t.Parallel()
	if dir := os.Getenv("ZELVIK_HOSTILE_FILES"); dir != "" {
		files := hostileFiles(t)
		require.Greater(t, len(files), 400)
		for n, name := range slices.Sorted(maps.Keys(files)) {
			if *runAll || n%200 == 0 {
				require.NoError(t, os.WriteFile(filepath.Join(dir, name), files[name], 0o644))
			}
		}
		return
	}
	if dir := os.Getenv("ZELVIK_HOSTILE_RUNS"); dir != "" {
		runHostile(t, dir)
		return
	}
	dir := t.TempDir()
	for _, step := range []string{"FILES", "RUNS"} {
		command := exec.Command(os.Args[0], "-test.run", "^TestHostileFiles$", "-test.v", fmt.Sprintf("-all=%t", *runAll))
		command.Env = append(os.Environ(), "ZELVIK_HOSTILE_"+step+"="+dir)
		out, err := command.CombinedOutput()
		require.NoError(t, err, string(out))
		t.Log(string(out))
	}
}

func runHostile(t *testing.T, dir string) {
	type job struct {
		args []string
		size int64
	}
	jobs := make(chan job)
	done := make(chan struct{})
	for range 2 {
		go func() {
			defer func() { done <- struct{}{} }()
			for j := range jobs {
				command := exec.Command(clitest.Program, j.args...)
				var problems bytes.Buffer
				command.Stderr = &problems
				assert.NoError(t, command.Start())
				timer := time.AfterFunc(30*time.Second, func() { _ = command.Process.Kill() })
				_ = command.Wait()
				timer.Stop()
				usage := command.ProcessState.SysUsage().(*syscall.Rusage)
				took := command.ProcessState.UserTime() + command.ProcessState.SystemTime()
				assert.LessOrEqual(t, took, 5*time.Second, "%v", j.args)
				assert.LessOrEqual(t, usage.Maxrss, max(300<<10, 20*j.size>>10), "KB for %v", j.args)
				assert.Contains(t, []int{0, 1, 2, 3}, command.ProcessState.ExitCode(), "%v", j.args)
				assert.NotContains(t, problems.String(), "goroutine ", "%v", j.args)
			}
		}()
	}
	entries, err := os.ReadDir(dir)
	require.NoError(t, err)
	out := t.TempDir()
	for n, entry := range entries {
		info, err := entry.Info()
		require.NoError(t, err)
		at, format := filepath.Join(dir, entry.Name()), formatOf[filepath.Ext(entry.Name())]
		for _, args := range [][]string{
			{"verify", at, "--from", format}, {"convert", at, "--from", format, "--to", "json", "--cultures", "de", "--out", filepath.Join(out, fmt.Sprint(n, "o.json"))},
			{"convert", at, "--from", format, "--to", "android", "--cultures", "de", "--out", filepath.Join(out, fmt.Sprint(n, "o.xml"))}, {"set", "a", "new text", at, "--from", format},
		} {
			jobs <- job{args, info.Size()}
		}
	}
	close(jobs)
	<-done
	<-done
	t.Logf("%d files", len(entries))
}
