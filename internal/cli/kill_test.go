package cli_test

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// tree reads all files below a folder, but for what a stopped run leaves.
func tree(t *testing.T, dir string) map[string]string {
	files := map[string]string{}
	require.NoError(t, filepath.WalkDir(dir, func(at string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.HasPrefix(d.Name(), ".zelvik-") {
			return err
		}
		data, err := os.ReadFile(at)
		files[strings.TrimPrefix(at, dir)] = string(data)
		return err
	}))
	return files
}

// fleet lays out a family in many cultures, with a layout that has texts of its
// own.
func fleet(t *testing.T, dir string) {
	write := func(at, text string) {
		at = filepath.Join(dir, at)
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
	var source, translation strings.Builder
	for i := range 400 {
		fmt.Fprintf(&source, "    <string name=\"key_%d\">Text number %d</string>\n", i, i)
		if i%2 == 0 {
			fmt.Fprintf(&translation, "    <string name=\"key_%d\">Wort %d</string>\n", i, i)
		}
	}
	for i := range 12 {
		write(fmt.Sprintf("res/layout/screen_%d.xml", i), fmt.Sprintf("<Button xmlns:android=\"http://schemas.android.com/apk/res/android\" android:text=\"Tap here %d\"/>\n", i))
	}
	write("res/values/strings.xml", "<resources>\n"+source.String()+"</resources>\n")
	for _, tag := range strings.Fields("de fr fi pl ar iw ja hi sv da nb nl") {
		write("res/values-"+tag+"/strings.xml", "<resources>\n"+translation.String()+"    <string name=\"gone\">Weg</string>\n</resources>\n")
	}
}

// TestKilled stops the program at random moments while it replaces files. What
// it leaves is the files as they were, or as they should be, or both with a
// journal; then the next start says so and finishes.
func TestKilled(t *testing.T) {
	for name, c := range map[string]struct {
		before [][]string
		args   []string
	}{
		"reconcile": {nil, []string{"reconcile", "res", "--quiet"}},
		"lift":      {nil, []string{"lift", "res", "--apply", "--quiet"}},
		"takeback":  {[][]string{{"draft", "res", "--cultures", "de", "--service", "simulated"}, {"handoff", "res", "--to", "xliff", "--out", ".", "--cultures", "de"}}, []string{"takeback", "strings.de.xlf", "res", "--quiet"}},
	} {
		t.Run(name, func(t *testing.T) {
			root := t.TempDir()
			start := filepath.Join(root, "start")
			fleet(t, start)
			for _, args := range c.before {
				r := run(t, start, args...)
				require.Zero(t, r.status, r.stderr)
			}
			if exchange, err := os.ReadFile(filepath.Join(start, "strings.de.xlf")); err == nil { // the translator's work
				require.NoError(t, os.WriteFile(filepath.Join(start, "strings.de.xlf"), bytes.ReplaceAll(exchange, []byte("[de] Text number"), []byte("Wort")), 0o644))
			}
			old := tree(t, start)
			whole := filepath.Join(root, "whole")
			require.NoError(t, os.CopyFS(whole, os.DirFS(start)))
			begun := time.Now()
			require.Zero(t, run(t, whole, c.args...).status)
			took := time.Since(begun)
			want := tree(t, whole)
			require.NotEqual(t, old, want)
			states := map[string]int{}
			for turn := range 12 {
				dir := filepath.Join(root, fmt.Sprintf("turn%d", turn))
				require.NoError(t, os.CopyFS(dir, os.DirFS(start)))
				command := exec.Command(program, c.args...)
				command.Dir = dir
				require.NoError(t, command.Start())
				time.Sleep(took/2 + time.Duration(rand.Int64N(int64(took))))
				_ = command.Process.Kill()
				_ = command.Wait()
				states[left(t, dir, old, want)]++
				require.NoError(t, os.RemoveAll(dir))
			}
			t.Log(states)
		})
	}
}

// left judges what a stopped run left, and gives a word for it.
func left(t *testing.T, dir string, old, want map[string]string) string {
	now := tree(t, dir)
	var fresh, stale int
	for at, text := range want {
		switch {
		case text == old[at]:
		case now[at] == text:
			fresh++
		case now[at] == old[at]:
			stale++
		default:
			t.Fatalf("%s is neither as it was nor as it should be", at)
		}
	}
	_, err := os.Stat(filepath.Join(dir, ".zelvik-journal"))
	journal := err == nil
	next := run(t, dir, "survey", "res")
	said := strings.Contains(next.stderr, "an earlier run was stopped")
	assert.Equal(t, journal, said, next.stderr)
	switch {
	case journal:
		assert.Equal(t, want, tree(t, dir), "it is finished at the next start")
		leftovers, err := filepath.Glob(filepath.Join(dir, "res/*/.zelvik-*"))
		require.NoError(t, err)
		assert.Empty(t, leftovers)
		if fresh > 0 && stale > 0 {
			return "half"
		}
		return "journal"
	case fresh > 0 && stale > 0:
		t.Fatalf("%d files are new and %d old, and nothing says so", fresh, stale)
	case fresh > 0:
		return "done"
	}
	return "nothing"
}

// A run that was stopped in the middle, exactly: the journal is there, some
// files are in their places and some are not.
func TestFinished(t *testing.T) {
	dir := t.TempDir()
	fleet(t, dir)
	place := func(name, text string) string {
		at := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
		return at
	}
	staged := place("res/values-de/.zelvik-1", "<resources></resources>\n")
	gone := filepath.Join(dir, "res/values-fr/.zelvik-2")
	journal := func(process int) {
		place(".zelvik-journal", fmt.Sprintf(`{"process":%d,"files":[{"staged":%q,"path":%q},{"staged":%q,"path":%q}]}`, process,
			staged, filepath.Join(dir, "res/values-de/strings.xml"), gone, filepath.Join(dir, "res/values-fr/strings.xml")))
	}
	journal(os.Getpid()) // somebody is at work
	assert.NotContains(t, run(t, dir, "survey", "res").stderr, "stopped")
	busy := run(t, dir, "reconcile", "res")
	assert.Equal(t, 3, busy.status)
	assert.Contains(t, busy.stderr, "another run is replacing files here")
	journal(1 << 30) // nobody is
	r := run(t, dir, "survey", "res")
	assert.Contains(t, r.stderr, "an earlier run was stopped after 1 of its 2 files; the others were replaced now: res/values-de/strings.xml")
	data, err := os.ReadFile(filepath.Join(dir, "res/values-de/strings.xml"))
	require.NoError(t, err)
	assert.True(t, bytes.Equal([]byte("<resources></resources>\n"), data))
	assert.NotContains(t, run(t, dir, "survey", "res").stderr, "stopped")
	place(".zelvik-journal", fmt.Sprintf(`{"process":%d,"files":[{"staged":"/etc/hostname","path":%q}]}`, 1<<30, filepath.Join(dir, "x")))
	outside := run(t, dir, "survey", "res")
	assert.Equal(t, 3, outside.status)
	assert.Contains(t, outside.stderr, "the journal names files outside of its folder")
}
