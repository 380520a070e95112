package projects

import (
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/demo"
	"zelvik/files"
	"zelvik/format"
	"zelvik/message"
	"zelvik/project"
	"zelvik/work/level"

	"zelvik/internal/clitest"
)

// TestWeek is a week of work on the demo's texts in every family format: a
// source text is added, changed, renamed and removed, the cultures follow, a
// translator's file goes out and comes back, and two branches merge.
func TestWeek(t *testing.T) {
	t.Parallel()
	needGit(t)
	for _, to := range []string{"android", "strings", "xcstrings", "resx", "arb", "properties", "json", "po", "qt", "xliff", "sheet", "winrc"} {
		if !*runAll && !slices.Contains([]string{"android", "xcstrings", "po"}, to) {
			continue
		}
		t.Run(to, func(t *testing.T) {
			w := &week{T: t, dir: t.TempDir(), format: to}
			all := t.TempDir()
			require.NoError(t, os.CopyFS(all, demo.Project()))
			if to == "android" {
				require.NoError(t, os.CopyFS(filepath.Join(w.dir, "texts"), os.DirFS(filepath.Join(all, "android/res"))))
			} else {
				out := "texts"
				if one := map[string]string{"xcstrings": "texts/Localizable.xcstrings", "sheet": "texts/texts.csv", "winrc": "texts/app.rc"}[to]; one != "" {
					out = one
				}
				w.must(clitest.Run(t, w.dir, "convert", filepath.Join(all, "android/res"), "--to", to, "--out", out, "--quiet"))
			}
			require.NoError(t, os.WriteFile(filepath.Join(w.dir, "zelvik.yaml"), []byte("source: en\nfamilies:\n  - path: texts\n    format: "+to+"\n"), 0o644))
			w.begin()
			w.git("checkout", "-qb", "theirs")
			w.zelvik("set", "map_title", "Satamien kartta", "--culture", "fi")
			w.zelvik("set", "delay_title", "Votre traversée a du retard !", "--culture", "fr")
			w.git("commit", "-qam", "Finnish and French")
			w.git("checkout", "-q", "main")
			w.changes()
			w.looks()
			w.translator()
			w.git("add", "-A")
			w.git("commit", "-qm", "The week")
			w.merge()
		})
	}
}

type week struct {
	*testing.T
	dir, format string
}

func (w *week) must(r clitest.Result) clitest.Result {
	w.Helper()
	require.Zero(w, r.Status, r.Stdout+r.Stderr)
	return r
}

func (w *week) zelvik(args ...string) clitest.Result {
	w.Helper()
	return w.must(clitest.Run(w.T, w.dir, args...))
}

func (w *week) git(args ...string) string {
	w.Helper()
	command := exec.Command("git", args...)
	command.Dir = w.dir
	command.Env = append(os.Environ(), "GIT_CONFIG_GLOBAL=/dev/null", "GIT_AUTHOR_NAME=A", "GIT_AUTHOR_EMAIL=a@skerryline.example", "GIT_COMMITTER_NAME=A", "GIT_COMMITTER_EMAIL=a@skerryline.example")
	out, err := command.CombinedOutput()
	require.NoError(w, err, string(out))
	return string(out)
}

// begin puts the project under version control, with its ledger.
func (w *week) begin() {
	w.zelvik("reconcile")
	require.NotEmpty(w, w.ledger())
	w.git("init", "-q", "-b", "main")
	w.git("config", "merge.zelvik.driver", clitest.Program+" merge %O %A %B --path %P")
	require.NoError(w, os.WriteFile(filepath.Join(w.dir, ".gitattributes"), []byte("texts/** merge=zelvik\nzelvik.ledger.json merge=zelvik\n"), 0o644))
	w.git("add", "-A")
	w.git("commit", "-qm", "base")
}

// family reads the family as it is.
func (w *week) family() *project.Family {
	workspace, err := project.Load([]string{"."}, "", project.Options{Disk: &files.Disk{Dir: w.dir}})
	require.NoError(w, err)
	require.NoError(w, workspace.Recall())
	f, err := workspace.One()
	require.NoError(w, err)
	for _, file := range f.Files {
		require.Empty(w, file.Findings, file.Path)
	}
	return f
}

// ledger reads the ledger, where it is.
func (w *week) ledger() string {
	for _, at := range []string{"zelvik.ledger.json", "texts/zelvik.ledger.json"} {
		if data, err := os.ReadFile(filepath.Join(w.dir, at)); err == nil {
			return string(data)
		}
	}
	return ""
}

// text returns the text of a key in a culture, "" for none.
func (w *week) text(key string, tag culture.Tag) string {
	if e := w.family().Member(tag).Catalog.Find(key); e != nil {
		return e.Message.String()
	}
	return ""
}

// changes adds, changes, renames and removes a source text; the cultures
// follow.
func (w *week) changes() {
	w.zelvik("set", "booking_title", "Book your crossing")
	polish := w.text("boarding_title", "pl")
	w.zelvik("rename", "boarding_title", "boarding_heading")
	f := w.family()
	source := f.SourceMember()
	file := f.File(source)
	fresh := message.Plain("Seats left")
	list := []format.Change{{Culture: "en", Key: "seats_left", Message: &fresh, After: "booking_confirm"}}
	if !f.Format.Holds.Many { // where every file has the key by itself
		list = append(list, format.Change{Op: format.Remove, Culture: "en", Key: "booking_cars"})
	}
	data, _, err := file.Edit(list)
	require.NoError(w, err)
	require.NoError(w, os.WriteFile(filepath.Join(w.dir, file.Path), data, 0o644))

	before := w.text("booking_cars", "de")
	require.NotEmpty(w, before)
	var level struct{ Steps []level.Step }
	require.NoError(w, json.Unmarshal([]byte(w.zelvik("reconcile", "--output", "json").Stdout), &level))
	steps := func(what, key string) (tags []culture.Tag) {
		for _, s := range level.Steps {
			if s.What == what && s.Key == key {
				tags = append(tags, s.Culture)
			}
		}
		return tags
	}
	assert.GreaterOrEqual(w, len(steps("added", "seats_left")), 8, "in every culture but the one that has a parent, and the one whose file holds the source")
	assert.Len(w, steps("moved", "booking_title"), 9)
	assert.Empty(w, steps("renamed", "boarding_title"))
	assert.Equal(w, polish, w.text("boarding_heading", "pl"))
	assert.Contains(w, []catalog.State{catalog.Moved, catalog.Draft}, w.family().Member("de").Catalog.Find("booking_title").State, "most formats have one word for both")
	if !f.Format.Holds.Many {
		assert.GreaterOrEqual(w, len(steps("aside", "booking_cars")), 8, "in one bilingual file the translation went with its source")
		assert.Empty(w, w.text("booking_cars", "de"))
		assert.Contains(w, w.ledger(), `"de":"`+before+`"`)
	}
	assert.Contains(w, w.zelvik("reconcile").Stderr, "every culture is level with its source")
}

// looks looks at the project in between, and drafts what is missing in Polish.
func (w *week) looks() {
	assert.Contains(w, w.zelvik("survey", "--output", "json").Stdout, `"format": "`+w.format+`"`)
	assert.Contains(w, w.zelvik("table", "--state", "moved", "--cultures", "de").Stdout+w.zelvik("table", "--state", "draft", "--cultures", "de").Stdout, "booking_title")
	page := w.zelvik("table", "--output", "html").Stdout
	assert.Contains(w, page, "<th scope=\"row\">boarding_heading")
	traced := w.zelvik("trace", "boarding_heading", "--culture", "pl,de", "--output", "json").Stdout
	assert.Contains(w, traced, `"shows": "`+w.text("boarding_heading", "pl")+`"`)
	w.zelvik("draft", "--cultures", "pl", "--service", "simulated")
	assert.Equal(w, "[pl] Seats left", w.text("seats_left", "pl"))
	assert.Equal(w, catalog.Draft, w.family().Member("pl").Catalog.Find("seats_left").State)
	w.zelvik("set", "seats_left", "Wolne miejsca", "--culture", "pl")
	if !w.family().Format.Holds.States {
		assert.Equal(w, catalog.Unstated, w.family().Member("pl").Catalog.Find("seats_left").State)
	}
}

// translator hands German texts out and takes them back.
func (w *week) translator() {
	w.zelvik("handoff", "--to", "xliff", "--out", "out", "--cultures", "de")
	files, err := filepath.Glob(filepath.Join(w.dir, "out/*.xlf"))
	require.NoError(w, err)
	require.Len(w, files, 1)
	exchange, err := project.Open(nil, files[0], "")
	require.NoError(w, err)
	require.Len(w, exchange.Document.Catalogs(), 2)
	var keys []string
	for _, e := range exchange.Document.Catalogs()[0].Entries {
		keys = append(keys, e.Key)
	}
	assert.True(w, slices.Contains(keys, "booking_title"), keys)
	seats, title := message.Plain("Freie Plätze"), message.Plain("Ihre Überfahrt buchen")
	done := catalog.Done
	list := []format.Change{{Culture: "de", Key: "booking_title", Message: &title, State: &done}}
	if slices.Contains(keys, "seats_left") {
		list = append(list, format.Change{Culture: "de", Key: "seats_left", Message: &seats, State: &done})
	}
	data, _, err := exchange.Edit(list)
	require.NoError(w, err)
	require.NoError(w, os.WriteFile(files[0], data, 0o644))
	back := w.zelvik("takeback", files[0])
	assert.Contains(w, back.Stderr+back.Stdout, "merged")
	assert.Equal(w, "Ihre Überfahrt buchen", w.text("booking_title", "de"))
	assert.NotEqual(w, catalog.Moved, w.family().Member("de").Catalog.Find("booking_title").State)
	if slices.Contains(keys, "seats_left") {
		assert.Equal(w, "Freie Plätze", w.text("seats_left", "de"))
	}
	require.NoError(w, os.RemoveAll(filepath.Join(w.dir, "out")))
}

// merge brings the other branch in.
func (w *week) merge() {
	w.git("merge", "-q", "theirs", "-m", "Both")
	assert.Equal(w, "Satamien kartta", w.text("map_title", "fi"))
	assert.Equal(w, "Votre traversée a du retard !", w.text("delay_title", "fr"))
	assert.Equal(w, "Ihre Überfahrt buchen", w.text("booking_title", "de"))
	assert.NotEmpty(w, w.text("boarding_heading", "ja"))
	found := clitest.Run(w.T, w.dir, "verify", "--output", "json", "--fail-on", "never").Stdout
	for _, rule := range []string{"file-damaged", "merge-conflict", "key-duplicate", "key-orphan"} {
		assert.False(w, strings.Contains(found, `"`+rule+`"`), rule)
	}
}

// What is handed out names the pictures of its screens.
func TestHandoffPictures(t *testing.T) {
	dir := clitest.Demo(t)
	r := clitest.Run(t, dir, "handoff", "android/res", "--all", "--cultures", "fi", "--to", "sheet", "--out", "out")
	require.Zero(t, r.Status, r.Stderr)
	assert.Contains(t, r.Stderr, "6 pictures of screens in out/pictures; the notes name them")
	assert.FileExists(t, filepath.Join(dir, "out/pictures/boarding-fi.png"))
	table := clitest.Run(t, dir, "table", "out/strings.fi.xlsx", "--keys", "boarding_title", "--output", "json").Stdout
	assert.Contains(t, table, `Title of the boarding pass\nPicture: pictures/boarding-fi.png`)
	plain := clitest.Run(t, dir, "handoff", "android/res", "--all", "--cultures", "pl", "--out", "plain", "--pictures=false")
	require.Zero(t, plain.Status, plain.Stderr)
	assert.NoDirExists(t, filepath.Join(dir, "plain/pictures"))
}
