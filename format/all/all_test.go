package all

import (
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/tools/txtar"

	"zelvik/finding"
	"zelvik/format"
)

// damaged reports whether a finding keeps the file from being read whole.
func damaged(findings []finding.Finding) bool { return slices.ContainsFunc(findings, format.Damage) }

// The odd files of each format are recognised as its own.
func TestOddFilesAreRecognised(t *testing.T) {
	archives, err := filepath.Glob("../*/testdata/odd.txtar")
	require.NoError(t, err)
	require.Greater(t, len(archives), 10)
	for _, at := range archives {
		archive, err := txtar.ParseFile(at)
		require.NoError(t, err)
		for _, file := range archive.Files {
			f, fit := Detect(file.Name, file.Data)
			require.NotNil(t, f, file.Name)
			assert.Equal(t, format.Yes, fit, file.Name)
			assert.Equal(t, filepath.Base(filepath.Dir(filepath.Dir(at))), f.Name, file.Name)
		}
	}
}

func TestFormatsAreWhole(t *testing.T) {
	for _, f := range Formats {
		for _, missing := range []bool{f.Recognise == nil, f.Locate == nil, f.Path == nil, f.Parse == nil, f.Message == nil, f.Compose == nil} {
			assert.False(t, missing, f.Name)
		}
		for _, text := range []string{f.Name, f.Title, f.Files, f.Table} {
			assert.NotEmpty(t, text, f.Name)
		}
		m, faults := f.Message("plain text")
		assert.Empty(t, faults)
		assert.Equal(t, "plain text", m.String())
		path := f.Path("dir", "Table", "pt-BR", false)
		location := f.Locate(path)
		if !f.Holds.Many {
			assert.Equal(t, "pt-BR", string(location.Culture), path)
		}
		assert.Equal(t, "dir/Table", location.Family(), path)
		if f.Name == "mo" || f.Name == "xliff2" { // named only to be written
			continue
		}
		found, fit := Detect(path, []byte("<TS><resources><string key,en"))
		assert.Equal(t, f.Name, found.Name)
		assert.Equal(t, format.Yes, fit)
	}
}

func TestNamed(t *testing.T) {
	f, err := Named("arb")
	require.NoError(t, err)
	assert.Equal(t, "arb", f.Name)
	_, err = Named("andriod")
	assert.ErrorContains(t, err, "android was probably meant")
	_, err = Named("x")
	assert.ErrorContains(t, err, "there are android, strings")
}
