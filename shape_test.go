package zelvik_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The bounds of what one has to hold in mind at once.
const (
	mostLines    = 500 // of a file
	mostRows     = 80  // of a function
	mostBranches = 25  // of a function
	mostImports  = 15  // of packages of ours
	mostFolders  = 19  // of the repository
)

// lists import what they list; the command line imports every job.
func lists(pkg string) bool {
	return path.Base(pkg) == "all" || pkg == "internal/cli" || pkg == "internal/judge"
}

func TestShape(t *testing.T) {
	entries, err := os.ReadDir(".")
	require.NoError(t, err)
	folders := 0
	architecture, err := os.ReadFile("ARCHITECTURE.md")
	require.NoError(t, err)
	for _, e := range entries {
		if e.IsDir() && !strings.HasPrefix(e.Name(), ".") {
			folders++
			assert.Contains(t, string(architecture), e.Name()+"/", "ARCHITECTURE.md has no word about %s", e.Name())
		}
	}
	assert.LessOrEqual(t, folders, mostFolders, "folders")
	imports := map[string]map[string]bool{}
	err = filepath.WalkDir(".", func(at string, d fs.DirEntry, err error) error {
		require.NoError(t, err)
		if d.IsDir() && (d.Name() == "testdata" || at == filepath.Join("demo", "project") || strings.HasPrefix(d.Name(), ".") && at != ".") {
			return filepath.SkipDir
		}
		if !strings.HasSuffix(at, ".go") {
			return nil
		}
		set := token.NewFileSet()
		file, err := parser.ParseFile(set, at, nil, 0)
		require.NoError(t, err)
		assert.LessOrEqual(t, set.Position(file.End()).Line, mostLines, "lines of %s", at)
		if strings.HasSuffix(at, "_test.go") {
			return nil
		}
		pkg := filepath.ToSlash(filepath.Dir(at))
		if imports[pkg] == nil {
			imports[pkg] = map[string]bool{}
		}
		for _, spec := range file.Imports {
			if strings.HasPrefix(spec.Path.Value, `"zelvik/`) {
				imports[pkg][spec.Path.Value] = true
			}
		}
		for _, decl := range file.Decls {
			f, ok := decl.(*ast.FuncDecl)
			if !ok {
				continue
			}
			rows := set.Position(f.End()).Line - set.Position(f.Pos()).Line + 1
			assert.LessOrEqual(t, rows, mostRows, "rows of %s in %s", f.Name.Name, at)
			if n, table := branches(f); !table {
				assert.LessOrEqual(t, n, mostBranches, "branches of %s in %s", f.Name.Name, at)
			}
		}
		return nil
	})
	require.NoError(t, err)
	for pkg, names := range imports {
		if !lists(pkg) {
			assert.LessOrEqual(t, len(names), mostImports, "packages of ours that %s imports", pkg)
		}
	}
}

// branches counts the ways that a function may take. A table is one whose branches are
// nearly all the cases of one switch, none of which has more than three statements.
func branches(f *ast.FuncDecl) (n int, table bool) {
	most := 0
	ast.Inspect(f, func(node ast.Node) bool {
		switch node := node.(type) {
		case *ast.IfStmt, *ast.ForStmt, *ast.RangeStmt:
			n++
		case *ast.SwitchStmt:
			short := 0
			for _, s := range node.Body.List {
				if len(s.(*ast.CaseClause).Body) <= 3 {
					short++
				}
			}
			most = max(most, short)
		case *ast.CaseClause, *ast.CommClause:
			n++
		}
		return true
	})
	return n, most*3 >= n*2
}
