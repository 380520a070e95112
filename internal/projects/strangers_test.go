package projects

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/internal/clitest"
)

var (
	update = flag.Bool("update", false, "write testdata/strangers.golden anew")
	// CI runs all of what takes long; without it a part is run that shows most faults.
	runAll = flag.Bool("all", false, "try the week in every format")
)

// target finds what a translator fills in.
var target = regexp.MustCompile(`<target[^>/]*>([^<]*)</target>|</source>(\s*)</trans-unit>`)

// TestStrangers goes through the first week of each project of strangers: what is
// there, a new culture, what is missing, to a translator and back, who answers.
func TestStrangers(t *testing.T) {
	t.Parallel()
	archive, err := txtar.ParseFile("testdata/strangers.txt")
	require.NoError(t, err)
	projects := map[string][]txtar.File{}
	var names []string
	for _, file := range archive.Files {
		name, _, _ := strings.Cut(file.Name, "/")
		if projects[name] == nil {
			names = append(names, name)
		}
		projects[name] = append(projects[name], file)
	}
	golden, err := txtar.ParseFile("testdata/strangers.golden")
	require.NoError(t, err)
	var fresh txtar.Archive
	for _, name := range names {
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			before := map[string]string{}
			for _, file := range projects[name] {
				at := filepath.Join(dir, strings.TrimPrefix(file.Name, name+"/"))
				require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
				require.NoError(t, os.WriteFile(at, file.Data, 0o644))
				before[at] = string(file.Data)
			}
			var out strings.Builder
			say := func(args ...string) {
				r := clitest.Run(t, dir, args...)
				fmt.Fprintf(&out, "$ zelvik %s\n", strings.Join(args, " "))
				for line := range strings.Lines(r.Stdout + r.Stderr) {
					if line = strings.TrimRight(line, " \n"); line != "" && !strings.HasPrefix(line, "Next: ") {
						out.WriteString(line + "\n")
					}
				}
			}
			say("survey")
			say("verify")
			say("begin", "it")
			changed(t, &out, dir, before)
			say("reconcile")
			changed(t, &out, dir, before)
			say("reconcile") // changes nothing more
			changed(t, &out, dir, before)
			say("handoff", "--cultures", "it", "--to", "xliff", "--out", "exchange")
			files, _ := filepath.Glob(filepath.Join(dir, "exchange", "*.xlf"))
			for _, file := range files {
				data, err := os.ReadFile(file)
				require.NoError(t, err)
				data = target.ReplaceAllFunc(data, func(unit []byte) []byte {
					m := target.FindSubmatch(unit)
					if m[2] != nil {
						return fmt.Appendf(nil, "</source>%s<target>in italiano</target></trans-unit>", m[2])
					}
					return fmt.Appendf(nil, `<target state="translated">%s (it)</target>`, m[1])
				})
				require.NoError(t, os.WriteFile(file, data, 0o644))
			}
			say("takeback", "exchange")
			changed(t, &out, dir, before)
			say("verify")
			say("trace", keyOf(name), "--culture", "it-CH,de-AT")
			text := out.String()
			fresh.Files = append(fresh.Files, txtar.File{Name: name, Data: []byte(text)})
			i := slices.IndexFunc(golden.Files, func(f txtar.File) bool { return f.Name == name })
			if !*update && assert.GreaterOrEqual(t, i, 0) {
				assert.Equal(t, string(golden.Files[i].Data), text)
			}
		})
	}
	if *update {
		require.NoError(t, os.WriteFile("testdata/strangers.golden", txtar.Format(&fresh), 0o644))
	}
}

// keyOf is a key of a project.
func keyOf(project string) string {
	key := map[string]string{"wpf": "Title", "maui": "Title", "uwp": "Title.Text", "qt": "MainWindow::Sailings", "swiftui": "Sailings", "rc": "IDS_TITLE", "vue": "nav.title", "react": "app.title"}[project]
	if key == "" {
		return "title"
	}
	return key
}

// changed writes the lines that came and went since the last time in files that
// people see, each with a sign.
func changed(t *testing.T, out *strings.Builder, dir string, before map[string]string) {
	require.NoError(t, filepath.WalkDir(dir, func(at string, d os.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case d.IsDir() && d.Name() == "exchange":
			return filepath.SkipDir
		case d.IsDir() || d.Name() == "zelvik.ledger.json":
			return nil
		}
		data, err := os.ReadFile(at)
		if err != nil {
			return err
		}
		old, fresh := strings.Split(before[at], "\n"), strings.Split(string(data), "\n")
		name, _ := filepath.Rel(dir, at)
		if before[at] != string(data) {
			fmt.Fprintf(out, "+++ %s\n", filepath.ToSlash(name))
		}
		for _, line := range old {
			if !slices.Contains(fresh, line) {
				fmt.Fprintf(out, "- %s\n", strings.TrimSpace(line))
			}
		}
		for _, line := range fresh {
			if !slices.Contains(old, line) && strings.TrimSpace(line) != "" {
				fmt.Fprintf(out, "+ %s\n", strings.TrimSpace(line))
			}
		}
		before[at] = string(data)
		return nil
	}))
}
