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
	if os.Getenv("ZELVIK_REQUIRE_TOOLS") != "" {
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

// generate writes the accessors of a family into a folder.
func modelOf(t *testing.T, language, pkg, family, out string) *accessor.Model {
	t.Helper()
	return modelWith(t, language, family, out, accessor.Options{Package: pkg})
}

// generateWith writes them as options say, with bindings, cases, and a key
// that is gone.
func modelWith(t *testing.T, language, family, out string, options accessor.Options) *accessor.Model {
	t.Helper()
	options.From, options.Binding, options.Cases = "res", true, true
	options.Gone = []accessor.Gone{{Key: "gone_greeting", Texts: map[culture.Tag]string{"de": "Alter Gruß, {name}", "ar": "x {name}"}}}
	families, err := project.Families([]string{family}, project.Options{})
	require.NoError(t, err)
	require.Len(t, families, 1)
	families[0].CompleteAll()
	m, err := accessor.New(&families[0].Family, options)
	require.NoError(t, err)
	l, err := languages.Named(language)
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

func TestJavaAccessors(t *testing.T) {
	javac, java := need(t, "javac"), need(t, "java")
	dir := t.TempDir()
	modelOf(t, "java", "app.text", "../../demo/project/android/res", dir)
	modelOf(t, "java", "nasty.text", "testdata/nasty", dir)
	modelOf(t, "java", "choices.text", "testdata/choices", dir)
	program, err := os.ReadFile("testdata/Desk.java")
	require.NoError(t, err)
	write(t, filepath.Join(dir, "Desk.java"), string(program))
	for _, pkg := range []string{"app", "nasty", "choices"} { // the cases are seen in their package alone
		write(t, filepath.Join(dir, pkg, "text/Cases.java"), `package `+pkg+`.text; public class Cases { public static int count() {
			for (String failure : WordingCases.failures()) { System.out.println(failure); } return WordingCases.failures().size(); } }`)
	}
	tool(t, dir, javac, "-Xlint:all", "-Werror", "-encoding", "US-ASCII", "-sourcepath", ".", "-d", "out", "Desk.java",
		"app/text/CultureProperty.java", "nasty/text/CultureProperty.java", "app/text/Cases.java", "nasty/text/Cases.java", "choices/text/CultureProperty.java", "choices/text/Cases.java")
	assert.Equal(t, expected(t), tool(t, dir, java, "-Dfile.encoding=UTF-8", "-cp", "out", "Desk"))
	assert.Equal(t, "again ja\n", tool(t, dir, java, "-cp", "out", "Desk", "again"))
}

func TestKotlinAccessors(t *testing.T) {
	bash, java := need(t, "bash"), need(t, "java")
	cache := cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere")
	compiler := need(t, filepath.Join(cache, "kotlin-compiler/bin/kotlinc"))
	dir := t.TempDir()
	modelOf(t, "kotlin", "app.text", "../../demo/project/android/res", dir)
	modelOf(t, "kotlin", "nasty.text", "testdata/nasty", dir)
	modelOf(t, "kotlin", "choices.text", "testdata/choices", dir)
	program, err := os.ReadFile("testdata/Desk.kt")
	require.NoError(t, err)
	write(t, filepath.Join(dir, "Desk.kt"), string(program))
	for _, pkg := range []string{"app", "nasty", "choices"} {
		write(t, filepath.Join(dir, pkg, "text/Failures.kt"), `package `+pkg+".text\n\nfun failures(): Int = WordingCases.failures().onEach { println(it) }.size\n")
	}
	coroutines := filepath.Join(cache, "kotlin-compiler/lib/kotlinx-coroutines-core-jvm.jar")
	tool(t, dir, bash, compiler, "Desk.kt", "app", "nasty", "choices", "-cp", coroutines, "-Werror", "-d", "out")
	assert.Equal(t, expected(t), tool(t, dir, java, "-cp", "out:"+coroutines+":"+filepath.Join(cache, "kotlin-compiler/lib/kotlin-stdlib.jar"), "DeskKt"))
	assert.Equal(t, "again ja\n", tool(t, dir, java, "-cp", "out:"+coroutines+":"+filepath.Join(cache, "kotlin-compiler/lib/kotlin-stdlib.jar"), "DeskKt", "again"))
}

func TestCSharpAccessors(t *testing.T) {
	mcs, mono := need(t, "mcs"), need(t, "mono")
	dir := t.TempDir()
	modelOf(t, "csharp", "App.Text", "../../demo/project/android/res", filepath.Join(dir, "app"))
	modelOf(t, "csharp", "Nasty.Text", "testdata/nasty", filepath.Join(dir, "nasty"))
	modelOf(t, "csharp", "Choices.Text", "testdata/choices", filepath.Join(dir, "choices"))
	program, err := os.ReadFile("testdata/Desk.cs")
	require.NoError(t, err)
	write(t, filepath.Join(dir, "Desk.cs"), string(program))
	tool(t, dir, mcs, "-langversion:6", "-warn:4", "-warnaserror", "-doc:desk.xml", "-nowarn:1591", "-out:desk.exe", "Desk.cs", "-recurse:app/*.cs", "-recurse:nasty/*.cs", "-recurse:choices/*.cs")
	assert.Equal(t, expected(t), tool(t, dir, mono, "desk.exe"))
	assert.Equal(t, "again ja\n", tool(t, dir, mono, "desk.exe", "again"))
}

func TestGoAccessors(t *testing.T) {
	tools := need(t, "go")
	dir := t.TempDir()
	modelOf(t, "go", "app/text", "../../demo/project/android/res", dir)
	modelOf(t, "go", "nasty/text", "testdata/nasty", dir)
	modelOf(t, "go", "choices/text", "testdata/choices", dir)
	program, err := os.ReadFile("testdata/desk.go.txt")
	require.NoError(t, err)
	write(t, filepath.Join(dir, "main.go"), string(program))
	write(t, filepath.Join(dir, "go.mod"), "module desk\n\ngo 1.24\n")
	tool(t, dir, tools, "vet", "./...")
	assert.Empty(t, tool(t, dir, need(t, "gofmt"), "-l", "app", "nasty", "choices"))
	tool(t, dir, tools, "test", "./...")
	build := []string{"build", "-o", "desk", "."}
	if _, err := exec.LookPath("gcc"); err == nil || os.Getenv("ZELVIK_REQUIRE_TOOLS") != "" { // the race detector is in C
		build = append([]string{"build", "-race"}, build[1:]...)
	}
	tool(t, dir, tools, build...)
	said := tool(t, dir, filepath.Join(dir, "desk"))
	assert.Equal(t, "again ja\n", tool(t, dir, filepath.Join(dir, "desk"), "again"))
	assert.Equal(t, expected(t), said[:min(len(expected(t)), len(said))])
	for line := range strings.Lines(said[min(len(expected(t)), len(said)):]) {
		assert.Regexp(t, "^(first|second) (de|fr)\n$", line)
	}
}

func TestCppAccessors(t *testing.T) {
	compiler := need(t, "g++")
	dir := t.TempDir()
	modelOf(t, "cpp", "app::text", "../../demo/project/android/res", filepath.Join(dir, "app"))
	modelOf(t, "cpp", "nasty::text", "testdata/nasty", filepath.Join(dir, "nasty"))
	modelOf(t, "cpp", "choices::text", "testdata/choices", filepath.Join(dir, "choices"))
	program, err := os.ReadFile("testdata/desk.cpp")
	require.NoError(t, err)
	write(t, filepath.Join(dir, "desk.cpp"), string(program))
	tool(t, dir, need(t, "cppcheck"), "--quiet", "--std=c++17", "--enable=warning,style,performance", "--suppress=useStlAlgorithm",
		"--suppress=knownConditionTrueFalse", // plural rules are written whole, as the data has them
		"--error-exitcode=1", "app", "nasty", "choices")
	tool(t, dir, compiler, "-std=c++17", "-Wall", "-Wextra", "-Wpedantic", "-Wshadow", "-Werror", "-g", "-fsanitize=thread", "-pthread",
		"-o", "desk", "desk.cpp", "app/wording.cpp", "nasty/wording.cpp", "choices/wording.cpp")
	assert.Equal(t, expected(t), tool(t, dir, filepath.Join(dir, "desk")))
	assert.Equal(t, "again ja\n", tool(t, dir, filepath.Join(dir, "desk"), "again"))
}

func TestTypeScriptAccessors(t *testing.T) {
	node := need(t, "node")
	cache := os.Getenv("ZELVIK_NODE_MODULES")
	if cache == "" {
		cache = "/nowhere"
	}
	tsc := need(t, filepath.Join(cache, "typescript/bin/tsc"))
	dir := t.TempDir()
	modelOf(t, "typescript", "", "../../demo/project/android/res", filepath.Join(dir, "app"))
	modelOf(t, "typescript", "", "testdata/nasty", filepath.Join(dir, "nasty"))
	modelOf(t, "typescript", "", "testdata/choices", filepath.Join(dir, "choices"))
	program, err := os.ReadFile("testdata/desk.ts")
	require.NoError(t, err)
	write(t, filepath.Join(dir, "desk.ts"), string(program))
	write(t, filepath.Join(dir, "package.json"), `{"type": "module"}`)
	tool(t, dir, node, tsc, "--strict", "--noUnusedLocals", "--noUnusedParameters", "--noImplicitReturns", "--noUncheckedIndexedAccess",
		"--exactOptionalPropertyTypes", "--target", "es2022", "--lib", "es2022", "--module", "nodenext", "desk.ts")
	assert.Equal(t, expected(t), tool(t, dir, node, "--expose-gc", "desk.js"))
	assert.Equal(t, "again ja\n", tool(t, dir, node, "desk.js", "again"))
}

func TestClashesAreFindings(t *testing.T) {
	m := modelOf(t, "java", "nasty.text", "testdata/nasty", t.TempDir())
	require.Len(t, m.Findings, 1)
	assert.Equal(t, "name-clash", m.Findings[0].Rule)
	assert.Contains(t, m.Findings[0].Message, "two.words")
}

// Swift and Dart have no compiler here: what is generated is parsed with their
// grammars, and so are programs that use it.
func TestGrammars(t *testing.T) {
	node := need(t, "node")
	modules := cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere")
	need(t, filepath.Join(modules, "tree-sitter-wasms/out/tree-sitter-swift.wasm"))
	script, err := filepath.Abs("testdata/grammar.mjs")
	require.NoError(t, err)
	for _, language := range []string{"swift", "dart"} {
		t.Run(language, func(t *testing.T) {
			dir := t.TempDir()
			modelOf(t, language, "", "../../demo/project/android/res", filepath.Join(dir, "app"))
			modelOf(t, language, "", "testdata/nasty", filepath.Join(dir, "nasty"))
			modelOf(t, language, "", "testdata/choices", filepath.Join(dir, "choices"))
			programs, err := filepath.Glob("testdata/desk." + language)
			require.NoError(t, err)
			for _, program := range programs {
				data, err := os.ReadFile(program)
				require.NoError(t, err)
				write(t, filepath.Join(dir, "app", filepath.Base(program)), string(data))
			}
			files, err := filepath.Glob(filepath.Join(dir, "*/*"))
			require.NoError(t, err)
			require.GreaterOrEqual(t, len(files), 15)
			tool(t, dir, node, append([]string{"--liftoff-only", script, modules}, files...)...)
		})
	}
	t.Run("sees faults", func(t *testing.T) {
		dir := t.TempDir()
		write(t, filepath.Join(dir, "a.swift"), "func x( { }\n")
		cmd := exec.Command(node, "--liftoff-only", script, modules, filepath.Join(dir, "a.swift"))
		assert.Error(t, cmd.Run())
	})
}
