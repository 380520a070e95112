package judge

import (
	"cmp"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/accessor"
	languages "zelvik/accessor/all"
	"zelvik/culture"
	"zelvik/demo"
	"zelvik/files"
	"zelvik/format/all"
	"zelvik/message/icu"
	"zelvik/project"
	"zelvik/work/convert"
)

// noToolchains stands for the folder of whole platforms where none is laid out.
const noToolchains = "/no toolchains"

// toolchain is a program or file of a platform that is laid out in a folder of its own.
func toolchain(name string) string {
	return filepath.Join(cmp.Or(os.Getenv("ZELVIK_TOOLCHAINS"), noToolchains), name)
}

// need finds a tool, or skips the test by its name.
func need(t *testing.T, name string) string {
	t.Helper()
	if strings.Contains(name, "/") {
		if _, err := os.Stat(name); err == nil {
			return name
		}
	} else if path, err := exec.LookPath(name); err == nil {
		return path
	}
	if os.Getenv("ZELVIK_REQUIRE_TOOLS") != "" && !strings.HasPrefix(name, noToolchains) {
		t.Fatalf("%s is not installed", name)
	}
	t.Skipf("%s is not installed", name)
	return ""
}

// tool runs a tool in a folder and gives what it printed.
func tool(t *testing.T, dir, name string, args ...string) string {
	t.Helper()
	command := exec.Command(name, args...)
	command.Dir = dir
	out, err := command.CombinedOutput()
	require.NoError(t, err, "%s %s\n%s", name, strings.Join(args, " "), out)
	return string(out)
}

func write(t *testing.T, path, text string) {
	t.Helper()
	require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
	require.NoError(t, os.WriteFile(path, []byte(text), 0o644))
}

// converted converts the demo's Android family, with some texts that are hard
// to spell, and gives the folder.
func converted(t *testing.T, to string) string { return convertedTo(t, to, "") }

// convertedTo is converted into one file of the folder that it gives.
func convertedTo(t *testing.T, to, file string) string {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.CopyFS(dir, demo.Project()))
	source := filepath.Join(dir, "android/res/values/strings.xml")
	data, err := os.ReadFile(source)
	require.NoError(t, err)
	hard := `    <string name="hard_quotes">It\'s \"quoted\" \\ back, 100% &amp; &lt;3 {brace} \@at</string>
    <string name="hard_lines">first\nsecond\ttab \u0020 space </string>
    <string name="hard_two">%2$s before %1$d, %3$,.2f %%</string>
</resources>`
	write(t, source, strings.Replace(string(data), "</resources>", hard, 1))
	families, err := project.Families([]string{filepath.Join(dir, "android/res")}, project.Options{})
	require.NoError(t, err)
	target, err := all.Named(to)
	require.NoError(t, err)
	out := filepath.Join(dir, "out")
	conversion, err := convert.Families(families, target, filepath.Join(out, file))
	require.NoError(t, err)
	require.NoError(t, (&files.Session{}).Commit(&conversion.Plan))
	return out
}

func TestAndroidResourceCompiler(t *testing.T) {
	aapt2 := need(t, "aapt2")
	dir := t.TempDir()
	arb := converted(t, "arb")
	families, err := project.Families([]string{arb}, project.Options{})
	require.NoError(t, err)
	android, _ := all.Named("android")
	conversion, err := convert.Families(families, android, filepath.Join(dir, "res"))
	require.NoError(t, err)
	require.NoError(t, (&files.Session{}).Commit(&conversion.Plan))
	write(t, filepath.Join(dir, "AndroidManifest.xml"), `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="line.skerry"/>`)
	tool(t, dir, aapt2, "compile", "--dir", "res", "-o", "c.zip")
	tool(t, dir, aapt2, "link", "-o", "a.apk", "--manifest", "AndroidManifest.xml", "c.zip")
	dump := tool(t, dir, aapt2, "dump", "resources", "a.apk")
	for _, text := range []string{
		`It's "quoted" \ back, 100% & <3 {brace} @at`, "(de) \"Bordkarte\"", "(pt-rBR) \"Cartão de embarque\"", "few=\"%d minuty\"", "second\ttab   space\"",
	} {
		assert.Contains(t, dump, text)
	}
}

func TestAppleReaders(t *testing.T) {
	out := converted(t, "strings")
	t.Run("strings", func(t *testing.T) {
		sfparse := need(t, "sfparse")
		files, err := filepath.Glob(filepath.Join(out, "*/Localizable.strings"))
		require.NoError(t, err)
		require.Len(t, files, 11)
		for _, file := range files {
			tool(t, out, sfparse, file)
		}
	})
	t.Run("stringsdict", func(t *testing.T) {
		python := need(t, "python3")
		text := tool(t, out, python, "-c", `
import plistlib, json, sys
with open("pl.lproj/Localizable.stringsdict", "rb") as f:
    print(json.dumps(plistlib.load(f)["delay_minutes"]["count"]))`)
		var forms map[string]string
		require.NoError(t, json.Unmarshal([]byte(text), &forms))
		assert.Equal(t, "Rejs opóźniony o %lld minuty", forms["few"])
		assert.Equal(t, "NSStringPluralRuleType", forms["NSStringFormatSpecTypeKey"])
	})
}

func TestDotNetReader(t *testing.T) {
	mcs, mono := need(t, "mcs"), need(t, "mono")
	out := converted(t, "resx")
	write(t, filepath.Join(out, "Read.cs"), `
using System; using System.Collections; using System.Resources; using System.Text;
class Read {
  static void Main(string[] args) {
    Console.OutputEncoding = new UTF8Encoding(false);
    foreach (var file in args)
      using (var reader = new ResXResourceReader(file))
        foreach (DictionaryEntry e in reader) Console.WriteLine(file + "|" + e.Key + "|" + e.Value);
    Console.WriteLine(string.Format("{1} before {0:D}, {2:N2} %", 3, "x", 1234.5));
  }
}`)
	tool(t, out, mcs, "-r:System.Windows.Forms.dll", "-out:read.exe", "Read.cs")
	text := tool(t, out, mono, "read.exe", "Resources.resx", "Resources.de.resx", "Resources.ar.resx")
	for _, line := range []string{
		`Resources.resx|hard_quotes|It's "quoted" \ back, 100% & <3 {brace} @at`,
		"Resources.resx|hard_two|{1} before {0:D}, {2:N2} %",
		"Resources.de.resx|boarding_title|Bordkarte", "Resources.ar.resx|boarding_title|بطاقة الصعود",
	} {
		assert.Contains(t, text, line)
	}
}

// ICU itself formats the messages that are written.
func TestICUMessages(t *testing.T) {
	javac, java := need(t, "javac"), need(t, "java")
	jar := need(t, "/usr/share/java/icu4j.jar")
	dir := t.TempDir()
	rows := []struct{ message, arguments, want string }{
		{"{n, plural, one {# crate} other {# crates}}", "n=1", "1 crate"},
		{"{n, plural, =0 {none} one {#} other {# '{'crates'}' it''s}}", "n=5", "5 {crates} it's"},
		{"You {a, plural, one {x} other {y}} {b, plural, one {p} other {q}}", "a=1,b=2", "You x q"},
		{"{g, select, car {{n, plural, one {# car} other {# cars}}} other {#1}}", "g=car,n=3", "3 cars"},
		{"{d, selectordinal, one {#st} two {#nd} few {#rd} other {#th}}", "d=22", "22nd"},
		{"{n, plural, offset:1 =0 {no} one {you and #} other {you and # others}}", "n=3", "you and 2 others"},
		{"it's '{x}' {x}", "x=y", "it's {x} y"},
		{"{p, number, percent} {i, number, integer} {x}", "p=0.5,i=1234,x=z", "50% 1,234 z"},
	}
	var cases strings.Builder
	for _, row := range rows {
		m, faults := icu.Parse(row.message)
		require.Empty(t, faults)
		written, losses := icu.Writer{}.Write(m)
		require.Empty(t, losses)
		fmt.Fprintf(&cases, "    check(%q, %q);\n", written, row.arguments)
	}
	write(t, filepath.Join(dir, "Check.java"), `
import com.ibm.icu.text.MessageFormat; import com.ibm.icu.util.ULocale; import java.util.*;
public class Check {
  static void check(String message, String arguments) {
    Map<String, Object> map = new HashMap<>();
    for (String pair : arguments.split(",")) {
      String[] parts = pair.split("=");
      Object value = parts[1];
      try { value = Double.valueOf(parts[1]); } catch (NumberFormatException e) { }
      map.put(parts[0], value);
    }
    System.out.println(new MessageFormat(message, ULocale.ENGLISH).format(map));
  }
  public static void main(String[] args) {
`+cases.String()+`  }
}`)
	tool(t, dir, javac, "-cp", jar, "Check.java")
	lines := strings.Split(strings.TrimSpace(tool(t, dir, java, "-cp", jar+":.", "Check")), "\n")
	require.Len(t, lines, len(rows))
	for i, row := range rows {
		assert.Equal(t, row.want, lines[i], row.message)
	}
}

// modelOf writes the accessors of a family into a folder.
func modelOf(t *testing.T, language, pkg, family, out string) *accessor.Model {
	t.Helper()
	return modelWith(t, language, out, accessor.Options{Package: pkg}, family)
}

// modelWith writes those of families as options say, with bindings, cases, and a key
// of the first that is gone. After a colon a family's type is named.
func modelWith(t *testing.T, language, out string, options accessor.Options, families ...string) *accessor.Model {
	t.Helper()
	options.Binding, options.Cases = true, true
	var parts []accessor.Part
	for i, family := range families {
		folder, name, _ := strings.Cut(family, ":")
		found, err := project.Families([]string{folder}, project.Options{})
		require.NoError(t, err)
		require.Len(t, found, 1)
		found[0].CompleteAll()
		part := accessor.Part{Family: &found[0].Family, Type: name, From: "res"}
		if i == 0 {
			part.Gone = []accessor.Gone{{Key: "gone_greeting", Texts: map[culture.Tag]string{"de": "Alter Gruß, {name}", "ar": "x {name}"}}}
		}
		parts = append(parts, part)
	}
	l, err := languages.Named(language)
	require.NoError(t, err)
	m, err := accessor.New(l, parts, options)
	require.NoError(t, err)
	for name, data := range l.Files(m) {
		write(t, filepath.Join(out, name), string(data))
	}
	return m
}

// expected is what the programs in testdata print, in every language.
func expected(t *testing.T) string {
	t.Helper()
	data, err := os.ReadFile("testdata/expected.txt")
	require.NoError(t, err)
	return string(data)
}
