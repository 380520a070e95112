package judge

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
	"zelvik/format"
	"zelvik/message"
	"zelvik/project"
)

// Java's own readers: Properties, ResourceBundle with its fallback, and
// MessageFormat on what is a pattern; ICU's MessageFormat on plurals.
func TestResourceBundles(t *testing.T) {
	javac, java, jar := need(t, "javac"), need(t, "java"), need(t, "/usr/share/java/icu4j.jar")
	out := converted(t, "properties")
	write(t, filepath.Join(out, "Check.java"), `
import java.text.MessageFormat; import java.util.*;
public class Check {
  public static void main(String[] a) {
    ResourceBundle en = ResourceBundle.getBundle("messages", Locale.ROOT), ch = ResourceBundle.getBundle("messages", Locale.forLanguageTag("de-CH"));
    System.out.println(en.getString("hard_quotes"));
    System.out.println(en.getString("hard_lines").replace("\n", "|").replace("\t", ">"));
    System.out.println(new MessageFormat(en.getString("hard_two"), Locale.ENGLISH).format(new Object[]{7, "x", 1234.5}));
    System.out.println(ch.getString("boarding_title"));
    System.out.println(MessageFormat.format(ch.getString("sailing_route"), "A", "B"));
    for (int n : new int[]{1, 3, 12}) {
      ResourceBundle pl = ResourceBundle.getBundle("messages", Locale.forLanguageTag("pl"));
      System.out.println(new com.ibm.icu.text.MessageFormat(pl.getString("delay_minutes"), Locale.forLanguageTag("pl")).format(new Object[]{n}));
    }
    System.out.println(ResourceBundle.getBundle("messages", Locale.forLanguageTag("ar")).getString("boarding_title"));
  }
}`)
	tool(t, out, javac, "-encoding", "US-ASCII", "-cp", jar, "Check.java")
	printed := tool(t, out, java, "-Dfile.encoding=UTF-8", "-Dstdout.encoding=UTF-8", "-cp", ".:"+jar, "Check")
	assert.Equal(t, strings.Join([]string{
		`It's "quoted" \ back, 100% & <3 {brace} @at`, "first|second>tab   space", "x before 7, 1,234.50 %", "Bordkarte", "A nach B",
		"Rejs opóźniony o 1 minutę", "Rejs opóźniony o 3 minuty", "Rejs opóźniony o 12 minut", "بطاقة الصعود", "",
	}, "\n"), printed)
}

// Python's gettext on compiled catalogs: for each culture the form of every
// number up to 200 is the one that CLDR's category asks for.
func TestCompiledGettext(t *testing.T) {
	python := need(t, "python3")
	out := converted(t, "mo")
	printed := tool(t, out, python, "-c", `
import gettext, glob, json
print(json.dumps({f[:-3]: [gettext.GNUTranslations(open(f, "rb")).npgettext("delay_minutes", "Your sailing is %d minute late", "Your sailing is %d minutes late", n) for n in range(201)]
  for f in glob.glob("*.mo") if "de_CH" not in f}))`)
	var texts map[string][]string
	require.NoError(t, json.Unmarshal([]byte(printed), &texts))
	require.Len(t, texts, 9)
	for name, list := range texts {
		rules := culture.MustParse(name).Cardinal()
		byCategory := map[string]string{}
		for n, text := range list {
			category := rules.CategoryOf(n)
			if known, ok := byCategory[category]; ok {
				require.Equal(t, known, text, "%s: %d is %s", name, n, category)
			}
			byCategory[category] = text
			assert.NotContains(t, text, "Your sailing", name)
		}
	}
}

// gettext's own compiler reads the text form.
func TestGettextCompiler(t *testing.T) {
	msgfmt := need(t, "msgfmt")
	out := converted(t, "po")
	files, err := filepath.Glob(filepath.Join(out, "*.po"))
	require.NoError(t, err)
	require.Len(t, files, 10)
	for _, file := range files {
		tool(t, out, msgfmt, "--check-format", "--check-domain", "-o", "/dev/null", file)
	}
}

func TestExchangeSchemas(t *testing.T) {
	xmllint := need(t, "xmllint")
	here, err := os.Getwd()
	require.NoError(t, err)
	for format, schema := range map[string][]string{
		"xliff":  {"--relaxng", filepath.Join(here, "testdata/xliff12.rng")},
		"xliff2": {"--relaxng", filepath.Join(here, "testdata/xliff21.rng")},
		"tmx":    {"--dtdvalid", filepath.Join(here, "testdata/tmx14.dtd")},
	} {
		out := converted(t, format)
		files, err := filepath.Glob(filepath.Join(out, "*.[xt]*"))
		require.NoError(t, err)
		require.NotEmpty(t, files, format)
		for _, file := range files {
			if !strings.HasSuffix(file, ".json") {
				tool(t, out, xmllint, append([]string{"--noout"}, append(schema, file)...)...)
			}
		}
	}
}

// Qt's own compiler takes every file, with as many forms as it wants.
func TestQtCompiler(t *testing.T) {
	lrelease, xmllint := need(t, "lrelease"), need(t, "xmllint")
	out := converted(t, "qt")
	files, err := filepath.Glob(filepath.Join(out, "*.ts"))
	require.NoError(t, err)
	require.Len(t, files, 11)
	for _, file := range files {
		printed := tool(t, out, lrelease, file, "-qm", "/dev/null")
		assert.Regexp(t, `Generated \d+ translation\(s\) \(\d+ finished and 0 unfinished\)`, printed, file)
		assert.NotContains(t, printed, "arning", file)
	}
	text := tool(t, out, xmllint, "--xpath", `string(//message[@id="delay_minutes"]/translation/numerusform[2])`, "app_pl.ts")
	assert.Equal(t, "Rejs opóźniony o %n minuty", strings.TrimSpace(text))
}

// The resource compiler for Windows compiles the tables, and prints them back.
func TestWindowsResourceCompiler(t *testing.T) {
	windres := need(t, "x86_64-w64-mingw32-windres")
	out := converted(t, "winrc")
	script, err := os.ReadFile(filepath.Join(out, "app.rc"))
	require.NoError(t, err)
	write(t, filepath.Join(out, "numbered.rc"), numberedScript(string(script)))
	tool(t, out, windres, "-c", "65001", "--preprocessor=cat", "numbered.rc", "a.res")
	printed := tool(t, out, windres, "-J", "res", "-O", "rc", "-c", "65001", "a.res")
	assert.Contains(t, printed, "Bordkarte")
	assert.Contains(t, printed, `It's ""quoted"" \\ back, 100% & <3 {brace} @at`)
}

// numberedScript numbers the texts of a resource script in place, as the program's
// resource.h does.
func numberedScript(script string) string {
	numbers := map[string]string{}
	var out strings.Builder
	for line := range strings.Lines(script) {
		if strings.HasPrefix(line, "#") || strings.HasPrefix(strings.TrimSpace(line), "//") {
			continue
		}
		if name, rest, ok := strings.Cut(strings.TrimSpace(line), ` "`); ok && strings.HasPrefix(line, "    ") {
			if numbers[name] == "" {
				numbers[name] = fmt.Sprint(100 + len(numbers))
			}
			line = "    " + numbers[name] + ` "` + rest + "\n"
		}
		out.WriteString(line)
	}
	return out.String()
}

// A CSV reader and a spreadsheet library see what was written.
func TestSpreadsheets(t *testing.T) {
	python := need(t, "python3")
	out := converted(t, "sheet")
	printed := tool(t, out, python, "-c", `
import csv, json
rows = list(csv.DictReader(open("texts.csv", encoding="utf-8", newline="")))
print(json.dumps({r["key"] + r["plural"]: r["de"] or r["en"] for r in rows}))`)
	var texts map[string]string
	require.NoError(t, json.Unmarshal([]byte(printed), &texts))
	assert.Equal(t, "Bordkarte", texts["boarding_title"])
	assert.Equal(t, `It's "quoted" \ back, 100% & <3 '{'brace'}' @at`, texts["hard_quotes"])
	assert.Contains(t, texts["delay_minutesone"], "{count} Minute")
}

func TestWorkbook(t *testing.T) {
	python := need(t, "/usr/bin/python3") // the one that Debian's library is for
	need(t, "/usr/lib/python3/dist-packages/openpyxl/__init__.py")
	dir := convertedTo(t, "sheet", "all.xlsx")
	printed := tool(t, dir, python, "-c", `
import json, openpyxl
sheet = openpyxl.load_workbook("all.xlsx").worksheets[0]
rows = list(sheet.iter_rows(values_only=True))
print(json.dumps({r[0]: r[rows[0].index("de")] for r in rows}))`)
	var texts map[string]string
	require.NoError(t, json.Unmarshal([]byte(printed), &texts))
	assert.Equal(t, "Bordkarte", texts["boarding_title"])
}

// A spreadsheet program opens what was written, and what was edited in a
// workbook of its own.
func TestSpreadsheetProgram(t *testing.T) {
	office := need(t, "soffice")
	dir := convertedTo(t, "sheet", "all.xlsx")
	to := func(form, name string) {
		tool(t, dir, office, "-env:UserInstallation=file://"+dir+"/profile", "--headless", "--convert-to", form, "--outdir", dir, filepath.Join(dir, name))
	}
	cells := func(name string) map[string]map[string]string {
		data, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		rows, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
		require.NoError(t, err)
		table := map[string]map[string]string{}
		for _, row := range rows[1:] {
			table[row[0]] = map[string]string{}
			for i, text := range row {
				table[row[0]][rows[0][i]] = text
			}
		}
		return table
	}
	to("csv:Text - txt - csv (StarCalc):44,34,76", "all.xlsx")
	assert.Equal(t, "Bordkarte", cells("all.csv")["boarding_title"]["de"])
	assert.Equal(t, "It's \"quoted\" \\ back, 100% & <3 '{'brace'}' @at", cells("all.csv")["hard_quotes"]["en"])
	require.NoError(t, os.Remove(filepath.Join(dir, "all.xlsx")))
	to("xlsx", "all.csv") // the program's own workbook
	file, err := project.Open(nil, filepath.Join(dir, "all.xlsx"), "")
	require.NoError(t, err)
	require.Empty(t, file.Findings)
	text := message.Plain("Neu <&> _x0041_")
	data, _, err := file.Edit([]format.Change{{Culture: "de", Key: "boarding_title", Message: &text}, {Culture: "en", Key: "fresh", Message: &text}, {Op: format.Remove, Key: "hard_two"}})
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "edited.xlsx"), data, 0o644))
	to("csv:Text - txt - csv (StarCalc):44,34,76", "edited.xlsx")
	edited := cells("edited.csv")
	assert.Equal(t, "Neu <&> _x0041_", edited["boarding_title"]["de"])
	assert.Equal(t, "Neu <&> _x0041_", edited["fresh"]["en"])
	assert.NotContains(t, edited, "hard_two")
	python := need(t, "/usr/bin/python3")
	assert.Equal(t, "Neu <&> _x0041_", strings.TrimSpace(tool(t, dir, python, "-c", `
import openpyxl
from openpyxl.utils.escape import unescape
sheet = openpyxl.load_workbook("edited.xlsx").worksheets[0]
rows = {r[0]: r for r in sheet.iter_rows(values_only=True)}
print(unescape(rows["fresh"][rows["key"].index("en")]))`)))
}
