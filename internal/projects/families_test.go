package projects

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/internal/clitest"
)

// TestFamilies lays out the files of an archive, of which each is a project of its
// own below a folder, and holds the families that survey sees there against the
// lines of the folder's file "families".
func TestFamilies(t *testing.T) {
	archive, err := txtar.ParseFile("testdata/families.txt")
	require.NoError(t, err)
	projects := map[string]map[string]string{}
	var order []string
	for _, file := range archive.Files {
		name, rest, _ := strings.Cut(file.Name, "/")
		if projects[name] == nil {
			projects[name], order = map[string]string{}, append(order, name)
		}
		projects[name][rest] = string(file.Data)
	}
	for _, name := range order {
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			want := projects[name]["families"]
			delete(projects[name], "families")
			for at, text := range projects[name] {
				at = filepath.Join(dir, filepath.FromSlash(at))
				require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
				require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
			}
			r := clitest.Run(t, dir, "survey", ".", "--output", "json")
			require.Zero(t, r.Status, r.Stderr)
			var survey struct {
				Families []struct {
					Name, Format, Source string
					Keys                 int
					Cultures             []struct {
						Culture      string
						Answered, Of int
					}
					Misnamed []struct{ Path, Meant string }
				}
			}
			require.NoError(t, json.Unmarshal([]byte(r.Stdout), &survey))
			var lines []string
			for _, f := range survey.Families {
				line := fmt.Sprintf("%s %s %s %d", f.Name, f.Format, f.Source, f.Keys)
				for _, c := range f.Cultures {
					if c.Culture != f.Source {
						line += fmt.Sprintf(" %s:%d/%d", c.Culture, c.Answered, c.Of)
					}
				}
				for _, m := range f.Misnamed {
					line += fmt.Sprintf(" !%s:%s", m.Path, m.Meant)
				}
				lines = append(lines, line)
			}
			slices.Sort(lines)
			assert.Equal(t, strings.TrimSpace(want), strings.Join(lines, "\n"))
		})
	}
}
