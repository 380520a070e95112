package judge

import (
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var fenced = regexp.MustCompile("(?ms)^```(\\w+)\n(.*?)^```$")

// blocks are the pieces of code in a language that the pages on accessors show.
func blocks(t *testing.T, language string, pages ...string) []string {
	t.Helper()
	var list []string
	for _, page := range append([]string{"accessors.md"}, pages...) {
		data, err := os.ReadFile(filepath.Join("../../docs", page))
		require.NoError(t, err)
		for _, found := range fenced.FindAllStringSubmatch(string(data), -1) {
			if found[1] == language {
				list = append(list, found[2])
			}
		}
	}
	require.NotEmpty(t, list)
	return list
}

// surrounded reads what stands around a piece of code that is compiled: lines with names of
// their own, which are left out where the piece declares the name.
func surrounded(t *testing.T, name, block string) string {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata/documents", name))
	require.NoError(t, err)
	var out strings.Builder
	for line := range strings.Lines(string(data)) {
		line, condition, conditional := strings.Cut(strings.TrimSuffix(line, "\n"), "//?")
		if conditional { // "x": where the piece speaks of x; "~x": where not; "!x": where it does not declare x
			for word := range strings.FieldsSeq(condition) {
				if unwanted, not := strings.CutPrefix(word, "!"); not {
					conditional = conditional && !regexp.MustCompile(`\b(var|val|let|const|final|[A-Z]\w+(<\w+>)?) `+unwanted+`\b *(:[^=]*)?=|\b`+unwanted+`( :=|, \w+ :=)`).MatchString(block)
				} else if absent, not := strings.CutPrefix(word, "~"); not {
					conditional = conditional && !strings.Contains(block, absent)
				} else {
					conditional = conditional && strings.Contains(block, word)
				}
			}
			if !conditional {
				continue
			}
		}
		out.WriteString(strings.ReplaceAll(line, "BLOCK", strings.TrimSuffix(block, "\n")) + "\n")
	}
	return out.String()
}

// TestDocuments compiles what the pages on accessors show.
func TestDocuments(t *testing.T) {
	demo := "../../demo/project/android/res"
	t.Run("typescript", func(t *testing.T) {
		node, tsc := need(t, "node"), need(t, filepath.Join(modules(), "typescript/bin/tsc"))
		need(t, filepath.Join(modules(), "@preact/signals-core"))
		dir := t.TempDir()
		modelOf(t, "typescript", "", demo, dir)
		require.NoError(t, os.Symlink(modules(), filepath.Join(dir, "node_modules")))
		write(t, filepath.Join(dir, "package.json"), `{"type": "module"}`)
		command := []string{tsc, "--strict", "--skipLibCheck", "--noEmit", "--target", "es2022", "--lib", "es2022,dom", "--module", "nodenext"}
		for i, block := range blocks(t, "ts", "accessors/typescript.md") {
			file := fmt.Sprintf("block%d.ts", i)
			write(t, filepath.Join(dir, file), surrounded(t, "block.ts", block))
			command = append(command, file)
		}
		tool(t, dir, node, command...)
	})
	t.Run("go", func(t *testing.T) {
		dir := t.TempDir()
		modelOf(t, "go", "text", demo, dir)
		write(t, filepath.Join(dir, "go.mod"), "module desk\n\ngo 1.24\n")
		for i, block := range blocks(t, "go", "accessors/go.md") {
			write(t, filepath.Join(dir, fmt.Sprint("block", i), "block.go"), goBlock(t, block))
		}
		tool(t, dir, need(t, "go"), "vet", "-unreachable=false", "./...")
	})
	t.Run("java", func(t *testing.T) {
		javafxc := need(t, toolchain("javafx/bin/javafxc"))
		dir := t.TempDir()
		modelOf(t, "java", "app.text", demo, dir)
		command := []string{"-d", "out"}
		for i, block := range blocks(t, "java", "accessors/java.md") {
			file := fmt.Sprintf("Block%d.java", i)
			write(t, filepath.Join(dir, file), strings.ReplaceAll(surrounded(t, "Block.java", block), "NUMBER", fmt.Sprint(i)))
			command = append(command, file)
		}
		files, err := filepath.Glob(filepath.Join(dir, "app/text/*.java"))
		require.NoError(t, err)
		tool(t, dir, javafxc, append(command, files...)...)
	})
	t.Run("csharp", func(t *testing.T) {
		compile := need(t, toolchain("dotnet/bin/windows-csharp"))
		dir := t.TempDir()
		modelOf(t, "csharp", "App.Text", demo, filepath.Join(dir, "app"))
		command := []string{"blocks.exe", "-target:library", "-nowarn:CS0612,CS0618,CS8632", "-warnaserror"}
		for i, block := range blocks(t, "csharp", "accessors/csharp.md") {
			file := fmt.Sprintf("Block%d.cs", i)
			block = strings.ReplaceAll(block, "{ ... }", "{ }")
			write(t, filepath.Join(dir, file), strings.ReplaceAll(surrounded(t, "Block.cs", block), "NUMBER", fmt.Sprint(i)))
			command = append(command, file)
		}
		tool(t, dir, compile, append(command, sources(t, dir, "app")...)...)
	})
	t.Run("kotlin", func(t *testing.T) {
		composec := need(t, toolchain("kotlin/bin/composec"))
		dir := t.TempDir()
		modelOf(t, "kotlin", "app.text", demo, dir)
		require.NoError(t, os.Remove(filepath.Join(dir, "app/text/CultureFlow.kt")))
		command := []string{"-d", "out"}
		for i, block := range blocks(t, "kotlin", "accessors/kotlin.md") {
			file := fmt.Sprintf("Block%d.kt", i)
			write(t, filepath.Join(dir, file), strings.ReplaceAll(surrounded(t, "Block.kt", block), "NUMBER", fmt.Sprint(i)))
			command = append(command, file)
		}
		program, err := os.ReadFile("testdata/documents/Android.kt")
		require.NoError(t, err)
		write(t, filepath.Join(dir, "Android.kt"), string(program))
		files, err := filepath.Glob(filepath.Join(dir, "app/text/*.kt"))
		require.NoError(t, err)
		tool(t, dir, composec, append(append(command, "Android.kt"), files...)...)
	})
	t.Run("cpp", func(t *testing.T) {
		dir := t.TempDir()
		modelOf(t, "cpp", "app::text", demo, dir)
		modelOf(t, "cpp", "skerry::text", "../../demo/project/qt/app_en.ts", filepath.Join(dir, "qt"))
		for _, block := range blocks(t, "cpp", "accessors/cpp.md") {
			text, flags := surrounded(t, "block.cpp", block), []string{"-I", "."}
			if strings.Contains(block, "QApplication") || strings.Contains(block, "QMainWindow") {
				text = surrounded(t, "qt.cpp", block)
				flags = append([]string{"-I", "qt", "-fPIC"}, strings.Fields(tool(t, dir, need(t, "pkg-config"), "--cflags", "Qt6Widgets"))...)
			}
			write(t, filepath.Join(dir, "block.cpp"), text)
			tool(t, dir, need(t, "g++"), append([]string{"-std=c++17", "-fsyntax-only", "block.cpp"}, flags...)...)
		}
	})
	t.Run("grammars", func(t *testing.T) {
		node := need(t, "node")
		need(t, filepath.Join(modules(), "tree-sitter-wasms/out/tree-sitter-swift.wasm"))
		script, err := filepath.Abs("testdata/grammar.mjs")
		require.NoError(t, err)
		dir := t.TempDir()
		command := []string{"--liftoff-only", script, modules()}
		for _, language := range []string{"swift", "dart"} {
			for i, block := range blocks(t, language, "accessors/"+language+".md") {
				file := fmt.Sprintf("block%d.%s", i, language)
				write(t, filepath.Join(dir, file), block)
				command = append(command, file)
			}
		}
		tool(t, dir, node, command...)
	})
}

// goBlock makes a file of a piece of Go: of functions as it stands, of statements in a
// function, where every name is used.
func goBlock(t *testing.T, block string) string {
	t.Helper()
	name := "block.go.txt"
	if strings.HasPrefix(block, "func ") {
		name = "functions.go.txt"
	}
	text := surrounded(t, name, block)
	for _, found := range regexp.MustCompile(`(?m)^\t?(\w+) :=`).FindAllStringSubmatch(block, -1) {
		text = strings.Replace(text, "// USED", "_ = "+found[1]+"\n\t// USED", 1)
	}
	assert.NotContains(t, text, "BLOCK")
	return text
}
