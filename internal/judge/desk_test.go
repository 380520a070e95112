package judge

import (
	"cmp"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/demo"
	"zelvik/project"
	"zelvik/work/generate"
)

// TestDesks builds and runs the boarding desks of the demo project as its
// README says, and looks for the same screen in every culture.
func TestDesks(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.CopyFS(dir, demo.Project()))
	w, err := project.Load(nil, filepath.Join(dir, "zelvik.yaml"), project.Options{})
	require.NoError(t, err)
	sets := generate.Sets(w)
	require.Len(t, sets, 8)
	for _, set := range sets {
		made, err := generate.For(w, set, generate.Configured)
		require.NoError(t, err)
		for at, data := range made.Files {
			write(t, at, string(data))
		}
	}
	write(t, filepath.Join(dir, "package.json"), `{"type": "module"}`)
	cache := cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere")
	first := ""
	for _, desk := range []struct {
		language string
		commands []string
	}{
		{"java", []string{"javac -sourcepath gen/java -d out desk/Desk.java", "java -Dfile.encoding=UTF-8 -cp out Desk 0"}},
		{"kotlin", []string{"bash " + cache + "/kotlin-compiler/bin/kotlinc desk/Desk.kt gen/kotlin -include-runtime -d desk.jar", "java -jar desk.jar 0"}},
		{"csharp", []string{"mcs -out:desk.exe desk/Desk.cs -recurse:gen/csharp/*.cs", "mono desk.exe 0"}},
		{"typescript", []string{"node " + cache + "/typescript/bin/tsc --target es2022 --lib es2022 --module nodenext --outDir out desk/desk.ts", "node out/desk/desk.js 0"}},
		{"cpp", []string{"g++ -std=c++17 -pthread desk/desk.cpp gen/cpp/culture_switch.cpp gen/cpp/wording.cpp gen/cpp/watchtext.cpp -o cppdesk", "env ./cppdesk 0"}},
		{"go", []string{"go mod init skerry", "go run desk/desk.go 0"}},
		{"swift", []string{toolchain("swift/usr/bin/swiftc") + " -swift-version 6 -warnings-as-errors -parse-as-library desk/desk.swift gen/swift/CultureMessage.swift gen/swift/CultureSwitch.swift " +
			"gen/swift/WatchText.swift gen/swift/WatchTextTexts.swift gen/swift/Wording.swift gen/swift/WordingTexts.swift -o swiftdesk", "env ./swiftdesk 0"}},
	} {
		t.Run(desk.language, func(t *testing.T) {
			said := ""
			for _, command := range desk.commands {
				words := strings.Fields(command)
				for _, word := range words {
					if strings.HasPrefix(word, cache) {
						need(t, word)
					}
				}
				said = tool(t, dir, need(t, words[0]), words[1:]...)
			}
			assert.Equal(t, 11, strings.Count(said, "["), said)
			for _, text := range []string{
				"[en ltr] English\n  Boarding pass\n  Welcome aboard, Runa!\n  2 passengers, 5 bicycles\n",
				"[pl ltr] polski\n", "Next sailing - Late?\n", "5 rowerów\n", "[he rtl] עברית\n", "\u2068Runa\u2069", "[ja ltr] 日本語\n  乗船券\n",
			} {
				assert.Contains(t, said, text)
			}
			if first == "" {
				first = said
			}
			assert.Equal(t, inASCII(first), inASCII(said), "the same screens in every language")
		})
	}
	t.Run("swift and dart", func(t *testing.T) {
		script, err := filepath.Abs("testdata/grammar.mjs")
		require.NoError(t, err)
		need(t, filepath.Join(cache, "tree-sitter-wasms"))
		files := []string{"--liftoff-only", script, cache, "desk/desk.swift", "desk/desk.dart"}
		require.NoError(t, fs.WalkDir(os.DirFS(dir), "gen", func(at string, d fs.DirEntry, err error) error {
			if strings.HasSuffix(at, ".swift") || strings.HasSuffix(at, ".dart") {
				files = append(files, at)
			}
			return err
		}))
		require.Len(t, files, 16)
		tool(t, dir, need(t, "node"), files...)
	})
}

// inASCII writes the digits of Arabic and Devanagari in ASCII: which ones a
// platform takes is its own affair.
func inASCII(text string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r >= '٠' && r <= '٩':
			return r - '٠' + '0'
		case r >= '०' && r <= '९':
			return r - '०' + '0'
		}
		return r
	}, text)
}
