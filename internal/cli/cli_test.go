package cli_test

import (
	"bytes"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/demo"
	"zelvik/finding"
	_ "zelvik/internal/cli" // so that results are not kept when the program changes
	"zelvik/verify"

	"zelvik/internal/clitest"
)

func TestMain(m *testing.M) { clitest.Main(m) }

// TestScripts runs the archives in testdata: the files of an archive are laid
// out in a folder, then its comment is carried out line by line:
//
//	zelvik ARGS...   runs the program; it must end with status 0
//	fails N ARGS...  runs it; it must end with status N
//	stdout TEXT      the last run printed this
//	stderr TEXT      and this to standard error
//	silent           the last run printed nothing to standard output
//	same A B         two files are the same to the byte
//	has FILE TEXT    a file contains this
//	lacks FILE TEXT  a file does not contain this
//	absent FILE      there is no such file
//	kept             all files of the archive are as they were
func TestScripts(t *testing.T) {
	t.Parallel()
	scripts, err := filepath.Glob("testdata/*.txtar")
	require.NoError(t, err)
	require.NotEmpty(t, scripts)
	for _, path := range scripts {
		t.Run(strings.TrimSuffix(filepath.Base(path), ".txtar"), func(t *testing.T) {
			t.Parallel()
			archive, err := txtar.ParseFile(path)
			require.NoError(t, err)
			dir := t.TempDir()
			for _, file := range archive.Files {
				at := filepath.Join(dir, file.Name)
				require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
				require.NoError(t, os.WriteFile(at, file.Data, 0o644))
			}
			s := script{t, dir, archive, clitest.Result{}}
			for line := range strings.Lines(string(archive.Comment)) {
				if line = strings.TrimSpace(line); line != "" && !strings.HasPrefix(line, "#") {
					s.line(line)
				}
			}
		})
	}
}

type script struct {
	t       *testing.T
	dir     string
	archive *txtar.Archive
	last    clitest.Result
}

func (s *script) read(name string) string {
	data, err := os.ReadFile(filepath.Join(s.dir, name))
	require.NoError(s.t, err)
	return string(data)
}

func (s *script) line(line string) {
	word, rest, _ := strings.Cut(line, " ")
	name, text, _ := strings.Cut(rest, " ")
	switch word {
	case "zelvik":
		s.last = clitest.Run(s.t, s.dir, arguments(rest)...)
		require.Zero(s.t, s.last.Status, "%s\n%s%s", line, s.last.Stdout, s.last.Stderr)
	case "fails":
		s.last = clitest.Run(s.t, s.dir, arguments(text)...)
		require.Equal(s.t, name, string(rune('0'+s.last.Status)), "%s\n%s%s", line, s.last.Stdout, s.last.Stderr)
	case "stdout":
		require.Contains(s.t, s.last.Stdout, unescape(rest), line)
	case "stderr":
		require.Contains(s.t, s.last.Stderr, unescape(rest), line)
	case "silent":
		require.Empty(s.t, s.last.Stdout, line)
	case "same":
		require.Equal(s.t, s.read(name), s.read(text), line)
	case "has":
		require.Contains(s.t, s.read(name), unescape(text), line)
	case "lacks":
		require.NotContains(s.t, s.read(name), unescape(text), line)
	case "absent":
		require.NoFileExists(s.t, filepath.Join(s.dir, rest))
	case "kept":
		for _, file := range s.archive.Files {
			require.Equal(s.t, string(file.Data), s.read(file.Name), "%s: %s", line, file.Name)
		}
	default:
		s.t.Fatalf("%q is nothing a script can do", word)
	}
}

// unescape reads \n in an expected text.
func unescape(text string) string { return strings.ReplaceAll(text, `\n`, "\n") }

// arguments parts a line at spaces, quotes holding words together.
func arguments(line string) []string {
	var list []string
	var word strings.Builder
	quoted, begun := false, false
	for _, r := range line {
		switch {
		case r == '"':
			quoted, begun = !quoted, true
		case r == ' ' && !quoted:
			if begun {
				list = append(list, word.String())
			}
			word.Reset()
			begun = false
		default:
			word.WriteRune(r)
			begun = true
		}
	}
	if begun {
		list = append(list, word.String())
	}
	return list
}

// Every planted mistake is found, and nothing else.
func TestPlantedMistakes(t *testing.T) {
	dir := clitest.Demo(t)
	r := clitest.Run(t, dir, "verify", "--output", "json")
	assert.Equal(t, 1, r.Status)
	var report struct{ Findings []finding.Finding }
	require.NoError(t, json.Unmarshal([]byte(r.Stdout), &report))
	var found, planted []string
	for _, f := range report.Findings {
		key := f.Key
		if key == "" {
			key = f.Box
		}
		found = append(found, f.Rule+" "+f.Path+" "+key)
		assert.NotEmpty(t, f.Fix, f.Rule)
	}
	for line := range strings.Lines(demo.Mistakes()) {
		cells := strings.Split(strings.ReplaceAll(line, "`", ""), "|")
		if len(cells) > 4 && verify.Named(strings.TrimSpace(cells[1])) != nil {
			planted = append(planted, strings.TrimSpace(cells[1])+" "+strings.TrimSpace(cells[2])+" "+strings.TrimSpace(cells[3]))
		}
	}
	assert.ElementsMatch(t, planted, found)
	assert.Greater(t, len(planted), 18)
}

// The demo's Android tree goes through all formats and comes back; what is
// different was reported as a loss on the way.
func TestRoundTrip(t *testing.T) {
	dir := clitest.Demo(t)
	at := filepath.Join(dir, "android/res")
	told := ""
	for _, hop := range []string{"arb", "strings", "resx", "android"} {
		to := filepath.Join(dir, "trip", hop)
		r := clitest.Run(t, dir, "convert", at, "--to", hop, "--out", to, "--output", "json")
		require.Zero(t, r.Status, r.Stderr)
		told += r.Stdout
		at = to
	}
	same, different := 0, 0
	err := filepath.WalkDir(filepath.Join(dir, "android/res"), func(path string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || d.Name() != "strings.xml" {
			return err
		}
		rel, _ := filepath.Rel(filepath.Join(dir, "android/res"), path)
		first, _ := os.ReadFile(path)
		last, err := os.ReadFile(filepath.Join(at, rel))
		require.NoError(t, err)
		if bytes.Equal(first, last) {
			same++
			return nil
		}
		different++
		// The same lines in another order, but for the two texts that are not
		// to be translated.
		rest := map[string]int{}
		for line := range strings.Lines(string(last)) {
			rest[line]++
		}
		for line := range strings.Lines(string(first)) {
			if rest[line]--; rest[line] < 0 {
				assert.Contains(t, line, `translatable="false"`)
			}
		}
		return nil
	})
	require.NoError(t, err)
	assert.Equal(t, 11, same+different)
	assert.Contains(t, told, `"kind": "fixed"`)
	assert.Contains(t, told, "the order of the entries")
	assert.NotContains(t, told, `"kind": "name"`)
	// Alone between two formats that keep the order, it is the same to the byte.
	for _, hop := range []string{"arb", "resx"} {
		to, back := filepath.Join(dir, hop), filepath.Join(dir, hop+"-back")
		require.Zero(t, clitest.Run(t, dir, "convert", "android/res", "--to", hop, "--out", to).Status)
		require.Zero(t, clitest.Run(t, dir, "convert", to, "--to", "android", "--out", back).Status)
		german, err := os.ReadFile(filepath.Join(back, "values-de/strings.xml"))
		require.NoError(t, err)
		original, err := os.ReadFile(filepath.Join(dir, "android/res/values-de/strings.xml"))
		require.NoError(t, err)
		assert.Equal(t, string(original), string(german), hop)
	}
}

// Every catalog of the demo is the same after being read and written.
func TestDemoFilesKeepTheirBytes(t *testing.T) {
	dir := clitest.Demo(t)
	count := 0
	err := filepath.WalkDir(dir, func(path string, d os.DirEntry, err error) error {
		kind := map[string]string{".xml": "android", ".strings": "strings", ".stringsdict": "stringsdict", ".resx": "resx", ".arb": "arb"}[filepath.Ext(path)]
		if err != nil || kind == "" {
			return err
		}
		copied := filepath.Join(dir, "copy"+filepath.Ext(path))
		r := clitest.Run(t, dir, "convert", path, "--from", kind, "--to", kind, "--out", copied)
		require.Zero(t, r.Status, "%s: %s", path, r.Stderr)
		before, _ := os.ReadFile(path)
		after, _ := os.ReadFile(copied)
		require.Equal(t, string(before), string(after), path)
		count++
		return os.Remove(copied)
	})
	require.NoError(t, err)
	assert.Greater(t, count, 50)
}

func TestDemoTour(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "tour")
	r := clitest.Run(t, t.TempDir(), "demo", dir)
	require.Zero(t, r.Status, r.Stderr)
	assert.Contains(t, r.Stdout, "That was the tour.")
	assert.FileExists(t, filepath.Join(dir, "out/pictures/booking.png"))
	assert.FileExists(t, filepath.Join(dir, "MISTAKES.md"))
	again := clitest.Run(t, t.TempDir(), "demo", dir)
	assert.Equal(t, 2, again.Status)
	assert.Contains(t, again.Stderr, "is not empty")
}

// The same screen gives the same pixels, and boxes are mirrored.
func TestDraw(t *testing.T) {
	dir := clitest.Demo(t)
	first := clitest.Run(t, dir, "draw", "screens/boarding.yaml", "--cultures", "en,ar", "--out", "one", "--output", "json")
	require.Zero(t, first.Status, first.Stderr)
	require.Zero(t, clitest.Run(t, dir, "draw", "screens/boarding.yaml", "--cultures", "en,ar", "--out", "two").Status)
	for _, name := range []string{"boarding-en.png", "boarding-ar.png"} {
		a, err := os.ReadFile(filepath.Join(dir, "one", name))
		require.NoError(t, err)
		b, err := os.ReadFile(filepath.Join(dir, "two", name))
		require.NoError(t, err)
		assert.True(t, bytes.Equal(a, b), name)
	}
	var screens []struct {
		Culture string
		Boxes   []struct {
			Name  string
			Text  string
			Frame struct{ X, Width int }
		}
	}
	require.NoError(t, json.Unmarshal([]byte(first.Stdout), &screens))
	require.Len(t, screens, 4, "two cultures on two devices")
	assert.FileExists(t, filepath.Join(dir, "one/boarding-ar-tablet.png"))
	for i, box := range screens[0].Boxes {
		if box.Name == "back" || box.Name == "menu" {
			assert.Equal(t, 360-box.Frame.X-box.Frame.Width, screens[1].Boxes[i].Frame.X, box.Name)
		}
		if box.Name == "boarding_closes" {
			assert.Equal(t, "Boarding closes in 5 minutes", box.Text)
			assert.Equal(t, "ينتهي الصعود خلال 5 دقائق", screens[1].Boxes[i].Text)
		}
	}
}

// What cannot be read or written leaves every file as it was. Root may do
// everything, so there the program runs as nobody.
func TestNoPermission(t *testing.T) {
	dir := clitest.Demo(t)
	require.NoError(t, os.Chmod(filepath.Dir(dir), 0o755))
	as := func(args ...string) clitest.Result {
		command := exec.Command(clitest.Program, args...)
		command.Dir = dir
		if os.Getuid() == 0 {
			command.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: 65534, Gid: 65534}}
		}
		var out, problems bytes.Buffer
		command.Stdout, command.Stderr = &out, &problems
		if err := command.Run(); command.ProcessState == nil {
			t.Fatal(err)
		}
		return clitest.Result{Stdout: out.String(), Stderr: problems.String(), Status: command.ProcessState.ExitCode()}
	}
	closed := filepath.Join(dir, "android/res/values/strings.xml")
	before, err := os.ReadFile(closed)
	require.NoError(t, err)
	require.NoError(t, os.Chmod(filepath.Dir(closed), 0o555))
	t.Cleanup(func() { _ = os.Chmod(filepath.Dir(closed), 0o755) })
	r := as("set", "boarding_title", "New", "android/res")
	assert.Equal(t, 3, r.Status, r.Stdout+r.Stderr)
	assert.Contains(t, r.Stderr, "permission to write it is denied; change its permissions")
	require.NoError(t, os.Chmod(closed, 0))
	r = as("convert", "android/res/values/strings.xml", "--to", "arb", "--out", "-")
	assert.Equal(t, 3, r.Status, r.Stdout+r.Stderr)
	assert.Contains(t, r.Stderr, "android/res/values/strings.xml: permission to read it is denied; change its permissions.")
	require.NoError(t, os.Chmod(closed, 0o644))
	after, err := os.ReadFile(closed)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(after))
}
