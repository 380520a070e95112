package safety

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/internal/clitest"
)

// tree reads all files below a folder, but for what a stopped run leaves.
func tree(t *testing.T, dir string) map[string]string {
	files := map[string]string{}
	require.NoError(t, filepath.WalkDir(dir, func(at string, d os.DirEntry, err error) error {
		switch {
		case err == nil && strings.HasPrefix(d.Name(), ".zelvik-") && d.IsDir():
			return filepath.SkipDir
		case err != nil || d.IsDir() || strings.HasPrefix(d.Name(), ".zelvik-"):
			return err
		}
		data, err := os.ReadFile(at)
		files[strings.TrimPrefix(at, dir)] = string(data)
		return err
	}))
	return files
}

// leftovers lists what runs left below a folder that is theirs alone.
func leftovers(t *testing.T, dir string) (list []string) {
	require.NoError(t, filepath.WalkDir(dir, func(at string, d os.DirEntry, err error) error {
		if strings.HasPrefix(d.Name(), ".zelvik-") {
			list = append(list, at)
		}
		return err
	}))
	return list
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

// aims are the moments at which a run is killed: at any, once there are staged
// files, once there is a journal, and while the next run finishes it.
var aims = map[string]string{"any": "", "staging": ".zelvik-stage-*", "renaming": ".zelvik-journal", "recovery": ".zelvik-journal"}

// TestKilled kills the program while it replaces files, 288 times (with -all, else 16
// times). Every file is then as it was or as it should be; where some are new and some
// old, the next run that reads says so; the next that writes finishes it, and nothing is
// left.
func TestKilled(t *testing.T) {
	for name, c := range map[string]struct {
		before [][]string
		args   []string
	}{
		"reconcile": {nil, []string{"reconcile", "res", "--quiet"}},
		"rename":    {nil, []string{"rename", "key_2", "other_2", "res", "--quiet"}},
		"lift":      {nil, []string{"lift", "res", "--apply", "--quiet"}},
		"takeback":  {[][]string{{"draft", "res", "--cultures", "de", "--service", "simulated"}, {"handoff", "res", "--to", "xliff", "--out", ".", "--cultures", "de"}}, []string{"takeback", "strings.de.xlf", "res", "--quiet"}},
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			root := t.TempDir()
			start := filepath.Join(root, "start")
			fleet(t, start)
			require.NoError(t, os.WriteFile(filepath.Join(start, "zelvik.yaml"), nil, 0o644))
			for _, args := range c.before {
				r := clitest.Run(t, start, args...)
				require.Zero(t, r.Status, r.Stderr)
			}
			if exchange, err := os.ReadFile(filepath.Join(start, "strings.de.xlf")); err == nil { // the translator's work
				require.NoError(t, os.WriteFile(filepath.Join(start, "strings.de.xlf"), bytes.ReplaceAll(exchange, []byte("needs-review-translation"), []byte("translated")), 0o644))
			}
			old := tree(t, start)
			whole := filepath.Join(root, "whole")
			require.NoError(t, os.CopyFS(whole, os.DirFS(start)))
			begun := time.Now()
			require.Zero(t, clitest.Run(t, whole, c.args...).Status)
			took := time.Since(begun)
			want := tree(t, whole)
			require.NotEqual(t, old, want)
			assert.Empty(t, leftovers(t, whole))
			states := map[string]int{}
			for aim := range aims {
				turns := 1
				if *runAll {
					turns = 18
				}
				for turn := range turns {
					dir := filepath.Join(root, fmt.Sprintf("%s%d", aim, turn))
					require.NoError(t, os.CopyFS(dir, os.DirFS(start)))
					killed(t, dir, aims[aim], took, c.args)
					if aim == "recovery" {
						killed(t, dir, aims[aim], took, c.args)
					}
					states[aim+" "+left(t, dir, old, want)]++
					require.NoError(t, os.RemoveAll(dir))
				}
			}
			t.Log(states)
		})
	}
}

// killed starts a run and kills it at a random moment, or soon after a file
// that fits the pattern is there.
func killed(t *testing.T, dir, pattern string, took time.Duration, args []string) {
	command := exec.Command(clitest.Program, args...)
	command.Dir = dir
	require.NoError(t, command.Start())
	wait := time.Duration(rand.Int64N(int64(took) * 5 / 4))
	if pattern != "" {
		wait = time.Duration(rand.Int64N(int64(time.Millisecond)))
		for begun := time.Now(); time.Since(begun) < 2*took; {
			if found, _ := filepath.Glob(filepath.Join(dir, pattern)); found != nil {
				break
			}
		}
	}
	for begun := time.Now(); time.Since(begun) < wait; { // sleeping takes longer
		runtime.Gosched()
	}
	_ = command.Process.Kill()
	_ = command.Wait()
}

// left judges what a killed run left, and gives a word for it.
func left(t *testing.T, dir string, old, want map[string]string) string {
	state := func() (fresh, stale int) {
		now := tree(t, dir)
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
		return fresh, stale
	}
	fresh, stale := state()
	_, err := os.Stat(filepath.Join(dir, ".zelvik-journal"))
	journal := err == nil
	reader := clitest.Run(t, dir, "survey", "res")
	assert.Zero(t, reader.Status, reader.Stderr)
	assert.Equal(t, journal, strings.Contains(reader.Stderr, "an earlier run was stopped"), reader.Stderr)
	if fresh > 0 && stale > 0 && !journal {
		t.Fatalf("%d files are new and %d old, and nothing says so", fresh, stale)
	}
	next := clitest.Run(t, dir, "set", "key_1", "Text number 1", "res") // changes nothing, but takes the lock
	assert.Zero(t, next.Status, next.Stderr)
	assert.Equal(t, journal, strings.Contains(next.Stderr, "an earlier run was stopped"), next.Stderr)
	assert.Empty(t, leftovers(t, dir))
	freshAfter, staleAfter := state()
	switch {
	case journal:
		assert.Zero(t, staleAfter, "it is finished by the next run")
		if fresh > 0 && stale > 0 {
			return "half"
		}
		return "journal"
	case freshAfter > 0:
		return "done"
	}
	return "nothing"
}

// Runs at the same time wait for one another: what was said to be done is
// there, also where some of them are killed.
func TestSeveralAtOnce(t *testing.T) {
	for _, kill := range []bool{false, true} {
		dir := t.TempDir()
		fleet(t, dir)
		rounds := 3
		if *runAll {
			rounds = 10
		}
		for round := range rounds {
			type one struct {
				command *exec.Cmd
				key     string
			}
			var all []one
			text := fmt.Sprintf("New in round %d", round)
			for i := range 6 {
				key := fmt.Sprintf("key_%d", 2*i+round)
				place := []string{"res", "res/values/strings.xml", "res"}[i%3]
				command := exec.Command(clitest.Program, "set", key, text, place, "--quiet")
				command.Dir = dir
				require.NoError(t, command.Start())
				all = append(all, one{command, key})
			}
			if kill {
				time.Sleep(time.Duration(rand.Int64N(int64(20 * time.Millisecond))))
				_ = all[round%6].command.Process.Kill()
			}
			for i, one := range all {
				err := one.command.Wait()
				if kill && i == round%6 && err != nil {
					continue
				}
				require.NoError(t, err)
				data, err := os.ReadFile(filepath.Join(dir, "res/values/strings.xml"))
				require.NoError(t, err)
				assert.Contains(t, string(data), fmt.Sprintf("<string name=%q>%s</string>", one.key, text))
			}
		}
		require.Zero(t, clitest.Run(t, dir, "set", "key_399", "last", "res").Status)
		assert.Empty(t, leftovers(t, dir))
	}
}

// A run that was process 1 of a container and died blocks nobody.
func TestContainer(t *testing.T) {
	inside := func(args ...string) *exec.Cmd {
		return exec.Command("unshare", append([]string{"--pid", "--fork", "--kill-child"}, args...)...)
	}
	if inside("true").Run() != nil {
		t.Log("no namespaces here; nothing was tried")
		return
	}
	for turn := range 8 {
		dir := t.TempDir()
		fleet(t, dir)
		require.NoError(t, os.WriteFile(filepath.Join(dir, "zelvik.yaml"), nil, 0o644))
		command := inside(clitest.Program, "reconcile", "res")
		command.Dir = dir
		require.NoError(t, command.Start())
		for begun := time.Now(); time.Since(begun) < 2*time.Second; time.Sleep(50 * time.Microsecond) {
			if found, _ := filepath.Glob(filepath.Join(dir, []string{".zelvik-journal", ".zelvik-lock"}[turn%2])); found != nil {
				break
			}
		}
		_ = command.Process.Kill()
		_ = command.Wait()
		for _, args := range [][]string{{"reconcile", "res", "--quiet"}, {"rename", "key_4", "other_4", "res", "--quiet"}} {
			r := clitest.Run(t, dir, args...)
			assert.Zero(t, r.Status, r.Stderr)
		}
		assert.Empty(t, leftovers(t, dir))
	}
}
