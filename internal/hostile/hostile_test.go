//go:build unix

package hostile

import (
	"bytes"
	"fmt"
	"net/http"
	"net/http/httptest"
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

// Nothing that comes from files steers the terminal, in any command.
func TestTerminalsAreSafe(t *testing.T) {
	evil := "\x1b]0;owned\x07\u009b31m\u202egnp.exe\u2028"
	quoted := strings.NewReplacer("\x1b", `\u001b`, "\x07", `\u0007`).Replace(evil)
	service := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		w.WriteHeader(http.StatusBadRequest)
		_, _ = w.Write([]byte("no " + evil))
	}))
	defer service.Close()
	dir := clitest.LayOut(t, map[string]string{
		"app_en.arb": `{"@@locale": "en", "evil` + quoted + `": "text ` + quoted + ` {a", "plain": "Hello ` + quoted + `", "@plain": {"description": "note ` + quoted + `"}}`,
		"app_de.arb": `{"@@locale": "de", "plain": "Hallo` + quoted + `", "orphan` + quoted + `": "x"}`,
		"a" + strings.ReplaceAll(evil, "/", "") + "_zh_hanz.arb": `{"plain": "x"}`,
		"screens/x.yaml": "screen: \"x\"\ndevices: [{name: a, width: 50, height: 50}]\ntexts: ..\nbody: {label: {key: plain}}\n",
	})
	for _, args := range [][]string{
		{"table"}, {"table", "--color", "always"}, {"verify"}, {"survey"}, {"trace", "plain", "--culture", "de", "."}, {"trace", "evil" + evil, "--culture", "de", "."}, {"set", "plain", "x" + evil, "app_en.arb", "--dry-run"},
		{"set", "plain", evil, "app_en.arb", "--culture", "xx" + evil}, {"set", "nokey" + evil, "x", "app_en.arb"}, {"reconcile", "--dry-run"}, {"draft", "--dry-run", "--service", service.URL}, {"draft", "--dry-run", "--service", "http://x/" + evil},
		{"convert", "app_en.arb", "--to", "android", "--out", "x.xml", "--dry-run"}, {"convert", "nofile" + evil, "--to", "android"}, {"rename", "plain", "other", "--dry-run"}, {"lift"}, {"handoff", "--out", "ex", "--dry-run"}, {"no" + evil}, {"verify", "--no" + evil},
		{"verify", "screens/x.yaml"}, {"draw", "screens/x.yaml", "--out", "p" + evil}, {"pseudo", "--dry-run"}, {"accessors", "--language", "go", "--out", "g", "--dry-run"}, {"rules", "x" + evil}, {"cultures", "x" + evil}, {"merge", "app_en.arb", "app_de.arb", "app_en.arb", "--dry-run"},
		{"table", "--output", "json"}, {"verify", "--output", "json"}, {"survey", "--output", "json"}, {"trace", "plain", "--culture", "de", ".", "--output", "json"}, {"reconcile", "--dry-run", "--output", "json"},
	} {
		r := clitest.Run(t, dir, args...)
		for name, text := range map[string]string{"stdout": r.Stdout, "stderr": r.Stderr} {
			if strings.Contains(strings.Join(args, " "), "--color always") {
				for _, colour := range []string{"91", "93", "90", "92", "1", "0"} {
					text = strings.ReplaceAll(text, "\x1b["+colour+"m", "")
				}
			}
			for _, bad := range []string{"\x1b", "\x07", "\u009b", "\u202e", "\u2028"} {
				assert.NotContains(t, text, bad, "%s of %v", name, args)
			}
		}
	}
}

// A service cannot make the program wait, ask elsewhere, or believe it.
func TestHostileServices(t *testing.T) {
	dir := clitest.Small(t)
	var elsewhere []string
	other := httptest.NewServer(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
		elsewhere = append(elsewhere, r.Header.Get("Authorization"))
	}))
	defer other.Close()
	answer := `{"texts":[{"id":"b","text":"Tschüss"}]}`
	for name, c := range map[string]struct {
		serve  func(w http.ResponseWriter)
		status int
		says   string
	}{
		"retry after a day": {func(w http.ResponseWriter) { w.Header().Set("Retry-After", "86400"); w.WriteHeader(503) }, 1, "asks to come back in 24h"},
		"retry at a date": {func(w http.ResponseWriter) {
			w.Header().Set("Retry-After", "Fri, 01 Jan 2100 00:00:00 GMT")
			w.WriteHeader(429)
		}, 1, "asks to come back in"},
		"redirect":    {func(w http.ResponseWriter) { w.Header().Set("Location", other.URL); w.WriteHeader(307) }, 1, "points to"},
		"see other":   {func(w http.ResponseWriter) { w.Header().Set("Location", other.URL); w.WriteHeader(303) }, 1, "points to"},
		"bytes after": {func(w http.ResponseWriter) { _, _ = w.Write([]byte(answer + " and more")) }, 1, "not in the protocol"},
		"endless":     {func(w http.ResponseWriter) { _, _ = w.Write(bytes.Repeat([]byte(" "), 20<<20)) }, 1, "larger than 16 MiB"},
		"control": {func(w http.ResponseWriter) {
			_, _ = w.Write([]byte(`{"texts":[{"id":"b","text":"Tsch\u001b[31müss"}]}`))
		}, 0, "the control character U+001B"},
		"plain": {func(w http.ResponseWriter) { _, _ = w.Write([]byte(answer)) }, 0, "1 text drafted"},
	} {
		server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { c.serve(w) }))
		command := exec.Command(clitest.Program, "draft", "res", "--service", server.URL, "--patience", "3s", "--tries", "2")
		command.Dir, command.Env = dir, append(os.Environ(), "ZELVIK_SERVICE_KEY=secret")
		begun := time.Now()
		out, _ := command.CombinedOutput()
		server.Close()
		assert.Less(t, time.Since(begun), 6*time.Second, name)
		assert.Equal(t, c.status, command.ProcessState.ExitCode(), "%s %s", name, out)
		assert.Contains(t, string(out), c.says, name)
		if name != "plain" {
			assert.NotContains(t, clitest.Content(t, filepath.Join(dir, "res/values-de/strings.xml")), "Tsch", name)
		} else {
			require.NoError(t, os.WriteFile(filepath.Join(dir, "res/values-de/strings.xml"), []byte("<resources>\n    <string name=\"a\">Hallo</string>\n</resources>\n"), 0o644))
			_ = os.Remove(filepath.Join(dir, "zelvik.ledger.json"))
		}
	}
	assert.Empty(t, elsewhere)
	for _, args := range [][]string{{"--tries", "-1"}, {"--tries", "0"}, {"--tries", "1000"}, {"--patience", "-3s"}} {
		assert.Equal(t, 2, clitest.Run(t, dir, append([]string{"draft", "res", "--service", "http://127.0.0.1:9/x"}, args...)...).Status, "%v", args)
	}
}

// A full disk or a closed output is reported, a reader that had enough is not.
func TestStreams(t *testing.T) {
	t.Parallel()
	if runtime.GOOS != "linux" {
		t.Skip("needs /dev/full")
	}
	dir := clitest.Small(t)
	for i, args := range []string{
		"survey", "survey --output json", "verify", "verify --output json", "table", "table --output json", "table --output csv", "table --output html", "formats", "formats --output json", "rules", "rules text-missing", "cultures", "cultures de --output json",
		"trace a --culture de", "trace a --culture de --output json", "set a x --dry-run", "reconcile --dry-run", "reconcile --output json --dry-run", "convert res/values/strings.xml --to arb", "convert res --to arb --out o --output json --replace", "lift", "lift --output json",
		"pseudo --dry-run", "rename a c --dry-run", "draw screens/one.yaml --cultures en --output json", "draw screens/one.yaml --cultures en", "accessors res --language go --package text --out g --dry-run", "handoff --out ex --dry-run", "draft --output json --dry-run", "merge res/values/strings.xml res/values/strings.xml res/values/strings.xml --out -",
		"--help", "verify --help", "--version", "demo", "survey --growth", "survey --growth --output json",
	} {
		if !*runAll && i%5 != 0 {
			continue
		}
		for _, to := range []string{">/dev/full", ">&-"} {
			command := exec.Command("sh", "-c", clitest.Program+" "+args+" "+to)
			command.Dir = dir
			out, _ := command.CombinedOutput()
			assert.Equal(t, 3, command.ProcessState.ExitCode(), "%s %s %s", args, to, out)
			assert.Contains(t, string(out), "zelvik: standard output: ", "%s %s", args, to)
		}
		command := exec.Command("sh", "-c", "("+clitest.Program+" "+args+"; echo $? >status) | true; cat status")
		command.Dir = dir
		out, err := command.CombinedOutput()
		require.NoError(t, err)
		assert.NotContains(t, string(out), "standard output", args)
	}
}

// No input keeps it at work.
func TestNothingHangs(t *testing.T) {
	t.Parallel()
	deep := func(n int) string {
		return "screen: deep\ndevices: [{name: p, width: 400, height: 400}]\ntexts: ../res\nbody: " + strings.Repeat("{grid: {columns: [fit], children: [", n) + "{label: {key: a}}" + strings.Repeat("]}}", n) + "\n"
	}
	var layout, source strings.Builder
	for i := range 60 {
		fmt.Fprintf(&layout, "<TextView android:text=\"Press the button to go on with it, number %c%c now\"/>\n", 'a'+i/26, 'a'+i%26)
	}
	for i := range 1040 {
		fmt.Fprintf(&source, "<string name=\"screen_%d_title_of_the_thing_%d\">Text %d</string>\n", i, i*7919%1000, i)
	}
	files := map[string]string{
		"zelvik.yaml": "source: en\n", "res/values/strings.xml": "<resources>\n    <string name=\"a\">Hello</string>\n</resources>\n", "screens/deep.yaml": deep(57), "screens/sixty.yaml": deep(29),
		"res/layout/main.xml":     "<LinearLayout xmlns:android=\"http://schemas.android.com/apk/res/android\">\n" + layout.String() + "</LinearLayout>\n",
		"many/values/strings.xml": "<resources>\n" + source.String() + "</resources>\n", "braces.csv": "key,en,de\na,\"" + strings.Repeat("{", 100_000) + "\",x\n",
	}
	for _, tag := range strings.Fields("de fr fi pl ar ja hi sv da") {
		files["many/values-"+tag+"/strings.xml"] = "<resources>\n" + strings.NewReplacer("screen_", tag+"_other_", "title", "label").Replace(source.String()) + "</resources>\n"
	}
	dir := clitest.LayOut(t, files)
	for _, args := range [][]string{
		{"verify", strings.Repeat("**/", 12) + "*.xml"}, {"verify", "**/a/**/b/**/c/**/d/**/e/**/*.xml"}, {"verify", strings.Repeat("{a,b}", 24) + ".xml"}, {"verify", "{{{{{a,b},c},d},e},f}*.xml"},
		{"draw", "screens/deep.yaml", "--out", "p"}, {"verify", "screens/sixty.yaml"}, {"lift", "res", "--apply"}, {"verify", "many"}, {"reconcile", "many", "--renames"}, {"reconcile", "many"},
		{"verify", "braces.csv"}, {"convert", "braces.csv", "--to", "json", "--cultures", "en", "--out", "b.json"}, {"takeback", "braces.csv", "res"},
	} {
		command := exec.Command(clitest.Program, args...)
		command.Dir = dir
		require.NoError(t, command.Start())
		timer := time.AfterFunc(30*time.Second, func() { _ = command.Process.Kill() })
		_ = command.Wait()
		timer.Stop()
		took := command.ProcessState.UserTime() + command.ProcessState.SystemTime()
		assert.Less(t, took, 5*time.Second, "%v", args)
		assert.GreaterOrEqual(t, command.ProcessState.ExitCode(), 0, "%v", args)
	}
	assert.Contains(t, clitest.Content(t, filepath.Join(dir, "res/values/strings.xml")), "_59\">Press", "every text has a key of its own")
}
