package zelvik_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// floors are the packages from the ground up (ARCHITECTURE.md). A package
// imports from floors below its own; packages on one floor do not know one
// another. A trailing /* stands for the packages below a folder.
var floors = [][]string{
	{"finding", "internal/fast", "internal/diff"},
	{"files"},
	{"culture"},
	{"message"},
	{"message/*"},
	{"message/native"},
	{"message/icu"},
	{"message/loose"},
	{"catalog"},
	{"catalog/status", "catalog/glossary"},
	{"message/pseudo"}, // works on catalogs
	{"format"},
	{"format/charset", "format/xmlscan", "format/numbered"},
	{"format/doc"},
	{"format/jsonscan", "format/inline"},
	{"format/plist"},
	{"format/stringsdict"}, // the companion of format/strings
	{"format/*"},
	{"format/all"},
	{"language", "screen/growth"},
	{"toolkit"},
	{"toolkit/*"},
	{"toolkit/all"},
	{"screen", "screen/text"},
	{"screen/layout"},
	{"screen/paint"},
	{"verify"},
	{"accessor"},
	{"accessor/*"},
	{"accessor/all"},
	{"project", "demo"},
	{"project/screens", "work/level/memory", "work/level/service"},
	{"work/*"},
	{"work/check", "work/begin"}, // runs what other jobs find; makes what they make
	{"live"},
	{"internal/terminal", "internal/webpage"},
	{"internal/cli"},
	{"cmd/zelvik", "internal/clitest"},
	{"internal/judge", "internal/safety", "internal/hostile", "internal/projects"},
}

// floor returns the number of a package's floor: an exact name counts before a
// pattern; -1 when it has none.
func floor(pkg string) int {
	found := -1
	for i, names := range floors {
		for _, name := range names {
			if name == pkg {
				return i
			}
			if dir, ok := strings.CutSuffix(name, "/*"); ok && path.Dir(pkg) == dir {
				found = i
			}
		}
	}
	return found
}

// surroundings are what the core does not ask or touch: it takes a files.Disk and
// returns values.
var surroundings = []string{"os.Getwd", "filepath.Abs", "os.Chdir", "os.Stdin", "os.Stdout", "os.Stderr", "os.Args", "os.Exit", "os.Getenv", "os.LookupEnv", "os.Environ",
	"fmt.Print", "fmt.Println", "fmt.Printf"}

// byDisk are what the core leaves to package files, so that editors' buffers count.
var byDisk = []string{"filepath.Glob", "os.ReadFile", "os.ReadDir", "os.Open", "os.Stat"}

func TestImportsRunDownward(t *testing.T) {
	packages := 0
	err := filepath.WalkDir(".", func(at string, d fs.DirEntry, err error) error {
		require.NoError(t, err)
		if d.IsDir() && (d.Name() == "testdata" || at == filepath.Join("demo", "project") || strings.HasPrefix(d.Name(), ".") && at != ".") {
			return filepath.SkipDir
		}
		if !strings.HasSuffix(at, ".go") || strings.HasSuffix(at, "_test.go") || strings.Contains(at, "internal/generate") {
			return nil
		}
		pkg := filepath.ToSlash(filepath.Dir(at))
		file, err := parser.ParseFile(token.NewFileSet(), at, nil, 0)
		require.NoError(t, err)
		own := floor(pkg)
		assert.GreaterOrEqual(t, own, 0, "%s stands on no floor; add it to floors", pkg)
		packages++
		for _, spec := range file.Imports {
			name, err := strconv.Unquote(spec.Path.Value)
			require.NoError(t, err)
			other, inside := strings.CutPrefix(name, "zelvik/")
			if inside {
				assert.Less(t, floor(other), own, "%s imports %s, which is not below it", at, other)
			}
			if own < floor("internal/terminal") {
				assert.NotContains(t, []string{"flag", "log", "github.com/urfave/cli/v3"}, name, "%s is core: it does not print, exit or read flags", at)
			}
		}
		if own < floor("internal/terminal") {
			ast.Inspect(file, func(n ast.Node) bool {
				if s, ok := n.(*ast.SelectorExpr); ok {
					if x, ok := s.X.(*ast.Ident); ok {
						assert.NotContains(t, surroundings, x.Name+"."+s.Sel.Name, "%s is core", at)
						if pkg != "files" {
							assert.NotContains(t, byDisk, x.Name+"."+s.Sel.Name, "%s reads past files.Disk", at)
						}
					}
				}
				return true
			})
		}
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, packages, 30)
}
