package judge

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/all"
	"zelvik/format/formattest"
	"zelvik/message"
)

// randomFamilies are how many families are handed to each reader.
const randomFamilies = 100

// TestRandomFamilies hands random families of nasty texts, keys, notes, styles and forms,
// as they are written, to the platforms' own readers: each takes every file.
func TestRandomFamilies(t *testing.T) {
	styles, err := formattest.Styles("../../format/all/testdata/styles.txtar")
	require.NoError(t, err)
	read := func(name, text string) message.Message {
		f, err := all.Named(name)
		require.NoError(t, err)
		m, _ := f.Message(text)
		return m
	}
	for name, take := range map[string]func(t *testing.T, dir string, files []string){
		"android": func(t *testing.T, dir string, _ []string) {
			aapt2 := need(t, "aapt2")
			write(t, filepath.Join(dir, "AndroidManifest.xml"), `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="line.skerry"/>`)
			for n := range randomFamilies {
				tool(t, dir, aapt2, "compile", "--dir", fmt.Sprint(n), "-o", "c.zip")
				tool(t, dir, aapt2, "link", "-o", "a.apk", "--manifest", "AndroidManifest.xml", "c.zip")
			}
		},
		"strings":     each("sfparse"),
		"stringsdict": once("python3", "-c", "import plistlib, sys\nfor file in sys.argv[1:]: plistlib.load(open(file, 'rb'))"),
		"resx": func(t *testing.T, dir string, files []string) {
			mcs, mono := need(t, "mcs"), need(t, "mono")
			write(t, filepath.Join(dir, "Read.cs"), `using System.Resources; class Read { static void Main(string[] args) { foreach (var file in args) using (var reader = new ResXResourceReader(file)) foreach (var e in reader) {} } }`)
			tool(t, dir, mcs, "-r:System.Windows.Forms.dll", "-out:read.exe", "Read.cs")
			tool(t, dir, mono, append([]string{"read.exe"}, files...)...)
		},
		"properties": func(t *testing.T, dir string, files []string) {
			java := need(t, "java")
			write(t, filepath.Join(dir, "Read.java"), `class Read { public static void main(String[] args) throws Exception { for (String file : args) new java.util.Properties().load(java.nio.file.Files.newBufferedReader(java.nio.file.Path.of(file))); } }`)
			tool(t, dir, java, append([]string{"Read.java"}, files...)...)
		},
		"po": each("msgfmt", "-o", "/dev/null"),
		"qt": func(t *testing.T, dir string, files []string) {
			lrelease := need(t, "lrelease")
			for _, file := range files {
				require.NotContains(t, tool(t, dir, lrelease, file, "-qm", "/dev/null"), "arning", file)
			}
		},
		"winrc": func(t *testing.T, dir string, files []string) {
			windres := need(t, "x86_64-w64-mingw32-windres")
			for _, file := range files {
				script, err := os.ReadFile(filepath.Join(dir, file))
				require.NoError(t, err)
				write(t, filepath.Join(dir, "numbered.rc"), numberedScript(string(script)))
				tool(t, dir, windres, "-c", "65001", "--preprocessor=cat", "numbered.rc", "a.res")
			}
		},
		"xliff": once("xmllint", "--noout", "--relaxng", here(t, "testdata/xliff12.rng")),
		"tmx":   once("xmllint", "--noout", "--dtdvalid", here(t, "testdata/tmx14.dtd")),
		"json":  once("jq", "empty"), "arb": once("jq", "empty"), "xcstrings": once("jq", "empty"),
		"sheet": once("python3", "-c", "import csv, sys\nfor file in sys.argv[1:]: assert len({len(r) for r in csv.reader(open(file, encoding='utf-8', newline=''))}) == 1, file"),
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			f, err := all.Named(name)
			require.NoError(t, err)
			dir := t.TempDir()
			var files []string
			for n := range randomFamilies {
				for at, data := range written(f, formattest.Family(n, slices.Index(all.Formats, f), 40, styles, read)) {
					file := filepath.Join(fmt.Sprint(n), at)
					write(t, filepath.Join(dir, file), string(data))
					files = append(files, file)
				}
			}
			take(t, dir, files)
		})
	}
}

// each hands every file to a tool by itself.
func each(name string, args ...string) func(t *testing.T, dir string, files []string) {
	return func(t *testing.T, dir string, files []string) {
		at := need(t, name)
		for _, file := range files {
			tool(t, dir, at, append(slices.Clone(args), file)...)
		}
	}
}

// once hands all files to one run of a tool.
func once(name string, args ...string) func(t *testing.T, dir string, files []string) {
	return func(t *testing.T, dir string, files []string) {
		tool(t, dir, need(t, name), append(slices.Clone(args), files...)...)
	}
}

// here makes a path absolute.
func here(t *testing.T, path string) string {
	at, err := filepath.Abs(path)
	require.NoError(t, err)
	return at
}

// written writes a family in a format: its files by their paths.
func written(f *format.Format, list []*catalog.Catalog) map[string][]byte {
	files := map[string][]byte{}
	if f.Join != nil {
		files[f.Path("", f.Table, list[1].Culture, false)], _ = f.Join(list)
		return files
	}
	for i, c := range list {
		o := format.Options{}
		if i > 0 {
			o.Source = list[0]
		}
		files[strings.TrimPrefix(f.Path("", f.Table, c.Culture, i == 0), "/")], _ = f.Compose(c, o)
	}
	return files
}
