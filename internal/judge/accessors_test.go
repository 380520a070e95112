package judge

import (
	"cmp"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/accessor"
)

// modelsOf writes the accessors of three families, each in a package of its own.
func modelsOf(t *testing.T, language, pkg, dir string) {
	t.Helper()
	for name, family := range map[string]string{"app": "../../demo/project/android/res", "nasty": "testdata/nasty", "choices": "testdata/choices"} {
		modelOf(t, language, name+pkg, family, dir)
	}
}

func TestJavaAccessors(t *testing.T) {
	javac, java := need(t, "javac"), need(t, "java")
	dir := t.TempDir()
	modelsOf(t, "java", ".text", dir)
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
	modelsOf(t, "kotlin", ".text", dir)
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

// csharpRules turn all of the platform's analysers on but those that ask for what
// older runtimes do not have, or are about speed where there is none to gain.
const csharpRules = "root = true\n[*.cs]\ndotnet_analyzer_diagnostic.severity = warning\n" +
	"dotnet_diagnostic.CA1861.severity = none\ndotnet_diagnostic.CA1845.severity = none\ndotnet_diagnostic.CA1846.severity = none\ndotnet_diagnostic.CA2249.severity = none\n"

func TestCSharpAccessors(t *testing.T) {
	program, err := os.ReadFile("testdata/Desk.cs")
	require.NoError(t, err)
	for _, c := range []struct {
		name    string
		options accessor.Options
		compile func(t *testing.T, dir string)
		run     []string
	}{
		{"Mono", accessor.Options{Plain: true}, func(t *testing.T, dir string) {
			tool(t, dir, need(t, "mcs"), "-langversion:6", "-warn:4", "-warnaserror", "-doc:desk.xml", "-nowarn:1591", "-out:desk.exe", "Desk.cs", "-recurse:app/*.cs", "-recurse:nasty/*.cs", "-recurse:choices/*.cs")
		}, []string{"mono", "desk.exe"}},
		{"Roslyn", accessor.Options{}, func(t *testing.T, dir string) {
			t.Setenv("CSHARP_ANALYZERS", "1")
			write(t, filepath.Join(dir, ".editorconfig"), csharpRules)
			tool(t, dir, need(t, toolchain("dotnet/bin/csharp")), append([]string{"text.dll", "-target:library", "-analyzerconfig:.editorconfig"}, sources(t, dir, "app", "nasty", "choices")...)...)
			t.Setenv("CSHARP_ANALYZERS", "")
			tool(t, dir, need(t, toolchain("dotnet/bin/csharp")), append([]string{"desk.dll", "-nowarn:CS8600,CS8603,CS8602", "-nullable:annotations", "Desk.cs"}, sources(t, dir, "app", "nasty", "choices")...)...)
		}, []string{toolchain("dotnet/bin/dotnet"), "desk.dll"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			need(t, c.run[0])
			dir := t.TempDir()
			for folder, family := range map[string]string{"App": "../../demo/project/android/res", "Nasty": "testdata/nasty", "Choices": "testdata/choices"} {
				c.options.Package = folder + ".Text"
				modelWith(t, "csharp", filepath.Join(dir, strings.ToLower(folder)), c.options, family)
			}
			write(t, filepath.Join(dir, "Desk.cs"), string(program))
			c.compile(t, dir)
			assert.Equal(t, expected(t), tool(t, dir, c.run[0], c.run[1:]...))
			assert.Equal(t, "again ja\n", tool(t, dir, c.run[0], append(c.run[1:], "again")...))
		})
	}
}

// sources are the files in some folders, without the mark that keeps analysers from
// them: what is generated has to be as good as what is written.
func sources(t *testing.T, dir string, folders ...string) []string {
	t.Helper()
	var files []string
	for _, folder := range folders {
		found, err := filepath.Glob(filepath.Join(dir, folder, "*.cs"))
		require.NoError(t, err)
		for _, file := range found {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			write(t, file, strings.Replace(string(data), "// <auto-generated/>\n", "", 1))
		}
		files = append(files, found...)
	}
	return files
}

func TestGoAccessors(t *testing.T) {
	tools := need(t, "go")
	dir := t.TempDir()
	modelsOf(t, "go", "/text", dir)
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
		"-o", "desk", "desk.cpp", "app/wording.cpp", "nasty/wording.cpp", "choices/wording.cpp", "app/culture_switch.cpp", "nasty/culture_switch.cpp", "choices/culture_switch.cpp")
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
	tool(t, dir, node, tsc, "--strict", "--erasableSyntaxOnly", "--noUnusedLocals", "--noUnusedParameters", "--noImplicitReturns", "--noUncheckedIndexedAccess",
		"--exactOptionalPropertyTypes", "--target", "es2022", "--lib", "es2022", "--module", "nodenext", "desk.ts")
	assert.Equal(t, expected(t), tool(t, dir, node, "--expose-gc", "desk.js"))
	assert.Equal(t, "again ja\n", tool(t, dir, node, "desk.js", "again"))
}

func TestClashesAreFindings(t *testing.T) {
	m := modelOf(t, "java", "nasty.text", "testdata/nasty", t.TempDir())
	require.Len(t, m.Catalogs[0].Findings, 1)
	assert.Equal(t, "name-clash", m.Catalogs[0].Findings[0].Rule)
	assert.Contains(t, m.Catalogs[0].Findings[0].Message, "two.words")
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

// TestSwiftAccessors compiles what is generated in Swift's language mode 6, warnings as
// errors, each family a module, and runs the program and the generated tests.
func TestSwiftAccessors(t *testing.T) {
	swiftc := need(t, toolchain("swift/usr/bin/swiftc"))
	dir := t.TempDir()
	write(t, filepath.Join(dir, "Combine.swift"), `public protocol ObservableObject: AnyObject {}
@propertyWrapper public struct Published<Value> { public init(wrappedValue: Value) { self.wrappedValue = wrappedValue }; public var wrappedValue: Value }
`)
	module := func(name string, files ...string) {
		tool(t, dir, swiftc, append([]string{"-swift-version", "6", "-warnings-as-errors", "-enable-testing", "-parse-as-library", "-I", ".", "-emit-library", "-emit-module", "-L", ".",
			"-module-name", name, "-o", "lib" + name + ".so"}, files...)...)
	}
	module("Combine", "Combine.swift")
	tests := ""
	imports := "import XCTest\n"
	cases, all := []string{}, []string{"App", "Nasty", "Choices"}
	for i, family := range []string{"../../demo/project/android/res", "testdata/nasty", "testdata/choices"} {
		out := filepath.Join(dir, all[i])
		modelOf(t, "swift", all[i], family, out)
		data, err := os.ReadFile(filepath.Join(out, "WordingCases.swift"))
		require.NoError(t, err)
		own := strings.ReplaceAll(string(data), "WordingCases", all[i]+"Cases")
		var names []string
		for _, found := range regexp.MustCompile(`func (test\w+)`).FindAllStringSubmatch(own, -1) {
			names = append(names, fmt.Sprintf("(%q, %sCases.%s)", found[1], all[i], found[1]))
		}
		tests += fmt.Sprintf("testCase([%s]),\n", strings.Join(names, ", "))
		write(t, filepath.Join(dir, all[i]+"Cases.swift"), strings.ReplaceAll(own, "Wording", all[i]+".Wording"))
		cases = append(cases, all[i]+"Cases.swift")
		require.NoError(t, os.Remove(filepath.Join(out, "WordingCases.swift")))
		files, err := filepath.Glob(filepath.Join(out, "*.swift"))
		require.NoError(t, err)
		module(all[i], files...)
	}
	program, err := os.ReadFile("testdata/Desk.swift")
	require.NoError(t, err)
	write(t, filepath.Join(dir, "Desk.swift"), string(program))
	write(t, filepath.Join(dir, "main.swift"), imports+"XCTMain([\n"+tests+"])\n")
	libraries := []string{"-I", ".", "-L", ".", "-lApp", "-lNasty", "-lChoices", "-lCombine", "-Xlinker", "-rpath=$ORIGIN"}
	tool(t, dir, swiftc, append([]string{"-swift-version", "6", "-warnings-as-errors", "-parse-as-library", "-o", "desk", "Desk.swift"}, libraries...)...)
	tool(t, dir, swiftc, append(append([]string{"-o", "cases", "main.swift"}, cases...), libraries...)...)
	var want []string // listeners and stores cannot throw in Swift
	for line := range strings.Lines(expected(t)) {
		if !strings.HasPrefix(line, "still ") && !strings.HasPrefix(line, "caught ") {
			want = append(want, line)
		}
	}
	assert.Equal(t, strings.Join(want, ""), tool(t, dir, filepath.Join(dir, "desk")))
	assert.Equal(t, "again ja\n", tool(t, dir, filepath.Join(dir, "desk"), "again"))
	assert.Regexp(t, fmt.Sprintf(`Executed %d tests, with 0 failures`, strings.Count(tests, "(\"")), tool(t, dir, filepath.Join(dir, "cases")))
}
