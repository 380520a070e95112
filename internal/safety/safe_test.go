//go:build unix

package safety

import (
	"bytes"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/internal/clitest"
)

// No write leaves through a link, but for one that a person named with --out.
func TestLinksAreNoWayOut(t *testing.T) {
	dir := clitest.Small(t)
	require.NoError(t, os.Mkdir(filepath.Join(dir, "elsewhere"), 0o755))
	outside := t.TempDir()
	for at, to := range map[string]string{"res/values-en-rXA": outside, "res/values-b+pl": outside, "out": outside, "reslink": "res", "res/values-fr": "../elsewhere"} {
		require.NoError(t, os.Symlink(to, filepath.Join(dir, at)))
	}
	for _, args := range [][]string{{"pseudo", "res"}, {"convert", "res/values/strings.xml", "--to", "arb", "--out", "res/values-en-rXA/x.arb", "--project", "zelvik.yaml"}} {
		r := clitest.Run(t, dir, args...)
		if args[0] == "pseudo" {
			assert.Equal(t, 3, r.Status, r.Stderr)
			assert.Contains(t, r.Stderr, "a link leads out of")
			assert.Empty(t, tree(t, outside))
		} else { // named by a person
			assert.Zero(t, r.Status, r.Stderr)
			assert.Contains(t, r.Stderr, outside)
			require.NoError(t, os.Remove(filepath.Join(outside, "x.arb")))
		}
	}
	r := clitest.Run(t, dir, "convert", "res", "--to", "arb", "--out", "out")
	require.Zero(t, r.Status, r.Stderr)
	assert.Contains(t, r.Stderr, "is a link: written to "+outside)
	assert.FileExists(t, filepath.Join(outside, "app_en.arb"))
	r = clitest.Run(t, dir, "survey", "reslink")
	assert.Zero(t, r.Status, r.Stderr)
	assert.Contains(t, r.Stdout, "reslink/strings")
	require.Zero(t, clitest.Run(t, dir, "set", "a", "Hello you", "reslink").Status)
	assert.Contains(t, clitest.Content(t, filepath.Join(dir, "res/values/strings.xml")), "Hello you")
	assert.Empty(t, leftovers(t, dir))
}

func TestOwnerModeAndHardLinks(t *testing.T) {
	dir := clitest.Small(t)
	at := filepath.Join(dir, "res/values/strings.xml")
	require.NoError(t, os.Chmod(at, 0o664))
	require.NoError(t, os.Link(at, filepath.Join(dir, "other.xml")))
	root := os.Getuid() == 0
	if root {
		require.NoError(t, os.Chown(at, 1234, 2345))
	}
	r := clitest.Run(t, dir, "set", "a", "Hello you", "res")
	require.Zero(t, r.Status, r.Stderr)
	assert.Contains(t, r.Stderr, "it was one file under 2 names (hard links); the others keep the old content")
	info, err := os.Stat(at)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o664), info.Mode())
	if stat := info.Sys().(*syscall.Stat_t); root {
		assert.Equal(t, []uint32{1234, 2345}, []uint32{stat.Uid, stat.Gid})
	}
	command := exec.Command("sh", "-c", "umask 027; "+clitest.Program+" convert res --to arb --out new/folder")
	command.Dir = dir
	out, err := command.CombinedOutput()
	require.NoError(t, err, string(out))
	for at, mode := range map[string]os.FileMode{"new": 0o750 | os.ModeDir, "new/folder/app_en.arb": 0o640} {
		info, err := os.Stat(filepath.Join(dir, at))
		require.NoError(t, err)
		assert.Equal(t, mode, info.Mode(), at)
	}
}

// Devices, pipes and files without an end are refused, in no time.
func TestDevicesAndPipes(t *testing.T) {
	dir := clitest.Small(t)
	for _, at := range []string{"pipe/zelvik.yaml", "res/values-fr/strings.xml", "a.arb"} {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(dir, at)), 0o755))
		require.NoError(t, syscall.Mkfifo(filepath.Join(dir, at), 0o644))
	}
	require.NoError(t, os.Symlink("/dev/zero", filepath.Join(dir, "zero.arb")))
	for _, args := range [][]string{
		{"survey", "pipe"}, {"verify", "a.arb"}, {"verify", "zero.arb"}, {"convert", "/dev/zero", "--from", "arb", "--to", "json"}, {"convert", "a.arb", "--to", "json"},
		{"set", "a", "x", "zero.arb"}, {"merge", "/dev/zero", "a.arb", "zero.arb"}, {"takeback", "zero.arb"}, {"draw", "a.arb"}, {"verify", "res", "--project", "/dev/zero"},
		{"draft", "res", "--memory", "/dev/zero"}, {"convert", "res/values/strings.xml", "--to", "arb", "--out", "a.arb"},
	} {
		begun := time.Now()
		r := clitest.Run(t, dir, args...)
		assert.Equal(t, 3, r.Status, "%v %s", args, r.Stderr)
		assert.Contains(t, r.Stderr, "it is a device or a pipe, no file", "%v", args)
		assert.Less(t, time.Since(begun), 3*time.Second)
	}
	assert.Zero(t, clitest.Run(t, dir, "survey", "res").Status, "those that are only there are no string files")
	assert.Empty(t, leftovers(t, dir))
}

// What would not be read back is not written. Where a writer knows how to spell
// it, it is.
func TestReadBack(t *testing.T) {
	dir := clitest.Small(t)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "odd.properties"), []byte("fine=x\n@@color=#bbb\n"), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "new.json"), []byte(`{"fine": "old"}`), 0o644))
	for _, args := range [][]string{{"--out", "odd.json"}, {"--out", "new.json"}, {"--out", "-"}, {"--out", "odd.json", "--dry-run"}} {
		r := clitest.Run(t, dir, append([]string{"convert", "odd.properties", "--to", "json"}, args...)...)
		assert.Equal(t, 3, r.Status, "%v", args)
		assert.Contains(t, r.Stderr, `the text of @@color ("#bbb") would not be read back: it would not be there; nothing was written; change the text in odd.properties`)
		assert.Empty(t, r.Stdout)
	}
	assert.NoFileExists(t, filepath.Join(dir, "odd.json"))
	assert.Equal(t, `{"fine": "old"}`, clitest.Content(t, filepath.Join(dir, "new.json")))
	assert.Empty(t, leftovers(t, dir))

	require.Zero(t, clitest.Run(t, dir, "set", "a", "x <b>", "res").Status)
	assert.Contains(t, clitest.Content(t, filepath.Join(dir, "res/values/strings.xml")), `<string name="a">x &lt;b></string>`)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "odd.json"), []byte(`{"a b": "x<br>y", "a-b": "<b>fine</b>", "a_b": "an <a href=x> here"}`), 0o644))
	require.Zero(t, clitest.Run(t, dir, "convert", "odd.json", "--from", "json:markup", "--to", "android", "--out", "odd.xml").Status)
	made := clitest.Content(t, filepath.Join(dir, "odd.xml"))
	for _, text := range []string{">x&lt;br>y<", "><b>fine</b><", `<string name="a_b">an &lt;a href=x> here<`} {
		assert.Contains(t, made, text)
	}
	names := regexp.MustCompile(`name="([^"]*)"`).FindAllString(made, -1)
	slices.Sort(names)
	assert.Len(t, slices.Compact(names), 3, made)
}

// What a command did not make is not replaced without a word.
func TestForeignFilesAreKept(t *testing.T) {
	dir := clitest.Small(t)
	ours := [][]string{
		{"accessors", "res", "--language", "go", "--package", "text", "--out", "gen"}, {"draw", "screens/one.yaml", "--cultures", "en", "--out", "pictures"},
		{"draw", "screens/one.yaml", "--cultures", "en", "--out", "pictures", "--format", "svg"}, {"table", "res", "--output", "html", "--out", "t.html"},
		{"survey", "res", "--growth", "--chart", "growth.png"}, {"survey", "res", "--growth", "--chart", "growth.svg"},
		{"accessors", "res", "--language", "typescript", "--texts", "bundles", "--out", "ts"}, {"handoff", "res", "--out", "ex", "--cultures", "de"},
	}
	for _, args := range ours { // made anew as often as one likes
		for range 2 {
			r := clitest.Run(t, dir, args...)
			require.Zero(t, r.Status, "%v %s", args, r.Stderr)
		}
		require.Zero(t, clitest.Run(t, dir, "set", "a", fmt.Sprint("Hello ", len(args), args[0]), "res").Status)
		r := clitest.Run(t, dir, args...)
		require.Zero(t, r.Status, "%v %s", args, r.Stderr)
	}
	made := tree(t, dir)
	for _, c := range []struct{ at, by, args string }{
		{"gen/text/wording.go", "package text // by hand\n", "accessors res --language go --package text --out gen"},
		{"ts/bundles/de.bundle.json", `{"mine": 1}`, "accessors res --language typescript --texts bundles --out ts"},
		{"pictures/one-en.png", "\x89PNG\r\n\x1a\n mine", "draw screens/one.yaml --cultures en --out pictures"},
		{"pictures/one-en.svg", "<svg>mine</svg>", "draw screens/one.yaml --cultures en --out pictures --format svg"},
		{"t.html", "<html>mine</html>", "table res --output html --out t.html"}, {"growth.png", "mine", "survey res --growth --chart growth.png"},
		{"ex/strings.de.xlf", strings.Replace(made["/ex/strings.de.xlf"], "<source>Bye</source>", "<source>Bye</source><target>Auf Wiedersehen</target>", 1), "handoff res --out ex --cultures de"},
		{"res/values-de/strings.xml", made["/res/values-de/strings.xml"], "table res --output csv --out res/values-de/strings.xml"},
		{"t.csv", "key,en\nmine,x\n", "table res --output csv --out t.csv"}, {"m.xml", "<resources/>", "merge res/values/strings.xml res/values/strings.xml res/values/strings.xml --out m.xml"},
		{"x.strings", "\"mine\" = \"x\";\n", "convert res/values/strings.xml --to strings --out x.strings"},
	} {
		at := filepath.Join(dir, c.at)
		require.NoError(t, os.WriteFile(at, []byte(c.by), 0o644))
		args := strings.Fields(c.args)
		r := clitest.Run(t, dir, args...)
		assert.Equal(t, 2, r.Status, "%s %s", c.args, r.Stderr)
		assert.Contains(t, r.Stderr, "--replace", c.args)
		assert.Contains(t, r.Stderr, c.at)
		assert.Equal(t, c.by, clitest.Content(t, at), c.args)
		if !strings.Contains(c.at, "values-de") {
			r = clitest.Run(t, dir, append(args, "--replace")...)
			assert.Zero(t, r.Status, "%s %s", c.args, r.Stderr)
			assert.NotEqual(t, c.by, clitest.Content(t, at), c.args)
		}
	}
	assert.Empty(t, leftovers(t, dir))
}

// A catalog that is there gets what is new and changed, and keeps the rest.
func TestConvertIntoWhatIsThere(t *testing.T) {
	dir := clitest.Small(t)
	at := filepath.Join(dir, "x.strings")
	require.NoError(t, os.WriteFile(at, []byte("/* by hand */\n\"a\"   =   \"old\";\n"), 0o644))
	r := clitest.Run(t, dir, "convert", "res/values/strings.xml", "--to", "strings", "--out", "x.strings")
	require.Zero(t, r.Status, r.Stderr)
	assert.Contains(t, r.Stdout, "x.strings was there: 1 new (b), 1 changed (a)")
	assert.Equal(t, "/* by hand */\n\"a\"   =   \"Hello\";\n\"b\" = \"Bye\";\n", clitest.Content(t, at))
	require.NoError(t, os.WriteFile(at, []byte("\"a\" = \"Hello\";\n\"mine\" = \"x\";\n"), 0o644))
	r = clitest.Run(t, dir, "convert", "res/values/strings.xml", "--to", "strings", "--out", "x.strings", "--dry-run")
	assert.Equal(t, 2, r.Status)
	assert.Contains(t, r.Stderr, "x.strings is there already, and a key of it would go: mine; nothing was written")
	r = clitest.Run(t, dir, "convert", "res/values/strings.xml", "--to", "strings", "--out", "x.strings", "--replace", "--output", "json")
	require.Zero(t, r.Status, r.Stderr)
	assert.Contains(t, r.Stdout, `"gone": [`)
	assert.NotContains(t, clitest.Content(t, at), "mine")
	ledger := filepath.Join(dir, "l10n/zelvik.ledger.json")
	require.NoError(t, os.MkdirAll(filepath.Dir(ledger), 0o755))
	require.NoError(t, os.WriteFile(ledger, []byte("[\n{\"key\":\"other\",\"family\":\"x\",\"aside\":{\"de\":\"Weg\"}}\n]\n"), 0o644))
	require.Zero(t, clitest.Run(t, dir, "set", "a", "Hello %1$s", "res").Status)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "in.arb"), []byte(`{"@@locale": "en", "k": "Hi {who}", "@k": {"placeholders": {"who": {"type": "String", "example": "Runa"}}}}`), 0o644))
	require.Zero(t, clitest.Run(t, dir, "convert", "in.arb", "--to", "android", "--out", "l10n/").Status)
	assert.Contains(t, clitest.Content(t, ledger), "Weg")
}

// Names in files are never paths.
func TestNamesAreNoPaths(t *testing.T) {
	dir := clitest.Small(t)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "screens/evil.yaml"), []byte("screen: \"../../../evil\"\ndevices: [{name: a, width: 200, height: 200}, {name: \"/../../evil\", width: 200, height: 300}]\ntexts: ../res\nbody: {label: {key: a}}\n"), 0o644))
	before := tree(t, dir)
	for _, args := range [][]string{{"draw", "screens/evil.yaml", "--out", "deep/er/pictures"}, {"draw", "screens/evil.yaml", "--sheet", "--out", "deep/er/pictures"}} {
		r := clitest.Run(t, dir, args...)
		require.Zero(t, r.Status, r.Stderr)
	}
	for at := range tree(t, dir) {
		if _, old := before[at]; !old {
			assert.True(t, strings.HasPrefix(at, "/deep/er/pictures/"), at)
		}
	}
	for _, args := range [][]string{
		{"accessors", "res", "--language", "java", "--package", "../../evil", "--out", "gen"}, {"accessors", "res", "--language", "go", "--package", "a/../../b", "--out", "gen"},
		{"accessors", "res", "--language", "java", "--type", "../Evil", "--out", "gen"}, {"handoff", "res", "--cultures", "../../x", "--out", "ex"}, {"pseudo", "res", "--as", "../../evil-XA"},
	} {
		assert.Equal(t, 2, clitest.Run(t, dir, args...).Status, "%v", args)
	}
	assert.NoDirExists(t, filepath.Join(dir, "gen"))
}

// A signal ends every command within half a second, and nothing is left.
func TestSignals(t *testing.T) {
	if testing.Short() {
		t.Skip("takes seconds")
	}
	dir := t.TempDir()
	var source, translation strings.Builder
	for i := range 30_000 {
		fmt.Fprintf(&source, "<string name=\"key_%d\">Text number %%1$s of %d</string>\n", i, i)
		fmt.Fprintf(&translation, "<string name=\"key_%d\">Wort %%1$s, %d</string>\n", i*2, i)
	}
	for at, text := range map[string]string{"values": source.String(), "values-de": translation.String(), "values-fr": translation.String(), "values-ar": translation.String()} {
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "res", at), 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(dir, "res", at, "strings.xml"), []byte("<resources>\n"+text+"</resources>\n"), 0o644))
	}
	require.NoError(t, os.WriteFile(filepath.Join(dir, "zelvik.yaml"), nil, 0o644))
	before := tree(t, dir)
	slow := httptest.NewServer(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
		select {
		case <-r.Context().Done():
		case <-time.After(20 * time.Second):
		}
	}))
	defer slow.Close()
	for i, args := range [][]string{
		{"verify", "res"}, {"survey", "res"}, {"reconcile", "res"}, {"table", "res", "--output", "html", "--out", "t.html"}, {"convert", "res", "--to", "xliff", "--out", "out"}, {"handoff", "res", "--out", "ex"},
		{"accessors", "res", "--language", "cpp", "--out", "gen"}, {"draft", "res", "--service", slow.URL}, {"rename", "key_2", "other", "res"}, {"pseudo", "res"}, {"lift", "res"}, {"convert", "res", "--to", "sheet", "--out", "all.xlsx"},
	} {
		signal, status := os.Interrupt, 130
		if i%2 == 1 {
			signal, status = os.Signal(syscall.SIGTERM), 143
		}
		command := exec.Command(clitest.Program, args...)
		command.Dir = dir
		var problems bytes.Buffer
		command.Stderr = &problems
		require.NoError(t, command.Start())
		time.Sleep(80 * time.Millisecond)
		require.NoError(t, command.Process.Signal(signal))
		begun := time.Now()
		err := command.Wait()
		if took := time.Since(begun); err == nil || command.ProcessState.ExitCode() == 1 {
			t.Logf("%v had ended", args)
			continue
		} else {
			assert.Less(t, took, 500*time.Millisecond, "%v", args)
		}
		assert.Equal(t, status, command.ProcessState.ExitCode(), "%v %s", args, problems.String())
		assert.Contains(t, problems.String(), "stopped", "%v", args)
		assert.Empty(t, leftovers(t, dir), "%v", args)
		assert.Equal(t, len(before), len(tree(t, dir)), "%v", args)
	}
	for at, text := range before {
		assert.True(t, text == clitest.Content(t, filepath.Join(dir, at)), at)
	}
}
