package projects

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/internal/clitest"
)

// TestGit merges branches with Git itself, the program as its merge driver, as
// docs/merge.md sets it up. Each archive in testdata/git has the files of the
// first commit, then of two branches, in folders base, ours and theirs, and in
// merged what comes of it; its comment names the files in conflict.
func TestGit(t *testing.T) {
	needGit(t)
	archives, err := filepath.Glob("testdata/git/*.txtar")
	require.NoError(t, err)
	require.NotEmpty(t, archives)
	for _, path := range archives {
		t.Run(strings.TrimSuffix(filepath.Base(path), ".txtar"), func(t *testing.T) {
			archive, err := txtar.ParseFile(path)
			require.NoError(t, err)
			dir := t.TempDir()
			git := func(args ...string) (string, error) {
				command := exec.Command("git", args...)
				command.Dir = dir
				command.Env = append(os.Environ(), "GIT_CONFIG_GLOBAL=/dev/null", "GIT_AUTHOR_NAME=A", "GIT_AUTHOR_EMAIL=a@skerryline.example", "GIT_COMMITTER_NAME=A", "GIT_COMMITTER_EMAIL=a@skerryline.example")
				out, err := command.CombinedOutput()
				return string(out), err
			}
			must := func(args ...string) string {
				out, err := git(args...)
				require.NoError(t, err, out)
				return out
			}
			lay := func(side string) {
				must("rm", "-rqf", "--ignore-unmatch", ".")
				for _, file := range archive.Files {
					if name, ok := strings.CutPrefix(file.Name, side+"/"); ok {
						at := filepath.Join(dir, name)
						require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
						require.NoError(t, os.WriteFile(at, file.Data, 0o644))
					}
				}
				require.NoError(t, os.WriteFile(filepath.Join(dir, ".gitattributes"), []byte("*.xml merge=zelvik\n*.strings merge=zelvik\n*.json merge=zelvik\n*.resx merge=zelvik\n*.arb merge=zelvik\n"), 0o644))
				must("add", "-A")
				must("commit", "-qm", side)
			}
			must("init", "-q", "-b", "main")
			must("config", "merge.zelvik.name", "string files, by key")
			must("config", "merge.zelvik.driver", clitest.Program+" merge %O %A %B --path %P")
			lay("base")
			must("checkout", "-qb", "theirs")
			lay("theirs")
			must("checkout", "-q", "main")
			lay("ours")
			out, err := git("merge", "-q", "theirs")
			conflicts := strings.Fields(must("diff", "--name-only", "--diff-filter=U"))
			assert.Equal(t, strings.Fields(string(archive.Comment)), append([]string{}, conflicts...), out)
			assert.Equal(t, len(conflicts) > 0, err != nil, out)
			for _, file := range archive.Files {
				if name, ok := strings.CutPrefix(file.Name, "merged/"); ok {
					data, err := os.ReadFile(filepath.Join(dir, name))
					require.NoError(t, err)
					assert.Equal(t, string(file.Data), string(data), name+"\n"+out)
				}
			}
			found := clitest.Run(t, dir, "verify", "--output", "json", "--fail-on", "never")
			assert.Equal(t, len(conflicts) > 0, strings.Contains(found.Stdout, `"merge-conflict"`), found.Stdout)
			assert.NotContains(t, found.Stdout, "file-damaged")
		})
	}
}

// needGit skips a test on a machine without Git, unless it has to be there.
func needGit(t *testing.T) {
	if _, err := exec.LookPath("git"); err != nil {
		require.Empty(t, os.Getenv("ZELVIK_REQUIRE_TOOLS"), "git is not here")
		t.Skip("git is not here")
	}
}
