package cli_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/internal/clitest"
)

// Every command counts the same missing texts, in formats that hold states and
// in those whose ledger does, before and after reconcile fills them in.
func TestOneStatus(t *testing.T) {
	t.Parallel()
	archive, err := txtar.ParseFile("testdata/status.txtar")
	require.NoError(t, err)
	for _, format := range []string{"android", "strings", "xcstrings", "resx", "arb", "properties", "json", "po", "qt", "xliff", "sheet"} {
		t.Run(format, func(t *testing.T) {
			dir := t.TempDir()
			for _, file := range archive.Files {
				at := filepath.Join(dir, "android", file.Name)
				require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
				require.NoError(t, os.WriteFile(at, file.Data, 0o644))
			}
			r := clitest.Run(t, dir, "convert", "android/res", "--to", format, "--out", "texts")
			require.Zero(t, r.Status, r.Stderr)
			require.NoError(t, os.RemoveAll(filepath.Join(dir, "android")))
			require.NoError(t, os.WriteFile(filepath.Join(dir, "zelvik.yaml"), []byte("source: en\n"), 0o644))
			before := counted(t, dir)
			assert.Equal(t, 4, before.lacking)
			r = clitest.Run(t, dir, "reconcile")
			require.Zero(t, r.Status, r.Stderr)
			assert.Equal(t, before, counted(t, dir), "after reconcile")
		})
	}
}

// counts are how many texts lack in German, and how many of those and of copies
// are to be made.
type counts struct{ lacking, wanting int }

// counted asks every command.
func counted(t *testing.T, dir string) counts {
	read := func(into any, args ...string) {
		r := clitest.Run(t, dir, append(args, "--output", "json")...)
		require.NoError(t, json.Unmarshal([]byte(r.Stdout), into), r.Stderr)
	}
	var survey struct {
		Families []struct {
			Cultures []struct {
				Culture      string
				Answered, Of int
			}
		}
	}
	read(&survey, "survey")
	c := counts{lacking: -1}
	for _, one := range survey.Families[0].Cultures {
		if one.Culture == "de" {
			c.lacking = one.Of - one.Answered
		} else if one.Culture == "en-GB" {
			assert.Equal(t, one.Of, one.Answered, "the source answers for en-GB")
		}
	}
	var verdict struct {
		Coverage []struct {
			Culture           string
			Answered, Entries int
		}
		Findings []struct{ Rule, Culture string }
	}
	read(&verdict, "verify", "--fail-on", "never")
	for _, one := range verdict.Coverage {
		if one.Culture == "de" {
			assert.Equal(t, c.lacking, one.Entries-one.Answered, "verify's coverage")
		}
	}
	told := map[string]int{}
	for _, f := range verdict.Findings {
		if f.Culture == "de" {
			told[f.Rule]++
		}
	}
	assert.Equal(t, c.lacking, told["text-missing"]+told["text-empty"], "verify's findings")
	c.wanting = c.lacking + told["text-copied"]
	var tables []struct {
		Rows []struct{ States map[string]string }
	}
	read(&tables, "table")
	states := map[string]int{}
	for _, row := range tables[0].Rows {
		states[row.States["de"]]++
	}
	assert.Equal(t, c.lacking, states["missing"]+states["waiting"]+states["empty"], "table")
	assert.Equal(t, c.wanting, c.lacking+states["copied"], "table")
	var draft struct{ Drafted, Left []struct{ Culture string } }
	read(&draft, "draft", "--dry-run")
	n := 0
	for _, one := range append(draft.Drafted, draft.Left...) {
		if one.Culture == "de" {
			n++
		}
	}
	assert.Equal(t, c.wanting, n, "draft")
	var handoff struct {
		Written []struct {
			Culture string
			Entries int
		}
	}
	read(&handoff, "handoff", "--to", "xliff", "--out", filepath.Join(t.TempDir(), "ex"), "--dry-run")
	for _, one := range handoff.Written {
		if one.Culture == "de" {
			assert.Equal(t, c.wanting, one.Entries, "handoff")
		}
	}
	return c
}
