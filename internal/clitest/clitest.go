// Package clitest drives the built program in tests, on files in a temporary folder.
package clitest

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"zelvik/demo"
)

// Program is the path of the built program, once Main has begun.
var Program string

// Main builds the program and runs the tests of a package.
func Main(m *testing.M) {
	dir, err := os.MkdirTemp("", "zelvik-test-")
	if err != nil {
		panic(err)
	}
	if err := os.Chmod(dir, 0o755); err != nil { // a test runs the program as nobody
		panic(err)
	}
	Program = filepath.Join(dir, "zelvik")
	build := exec.Command("go", "build", "-o", Program, "zelvik/cmd/zelvik")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := build.CombinedOutput(); err != nil {
		panic(string(out))
	}
	status := m.Run()
	_ = os.RemoveAll(dir)
	os.Exit(status)
}

// Result is what a run of the program gave.
type Result struct {
	Stdout, Stderr string
	Status         int
}

// depend makes the results of the tests depend on the program's sources: the go command
// keeps results while no file changes that a test looked at, and does not know what the
// build of the program looked at.
var depend = sync.OnceFunc(func() {
	_ = filepath.WalkDir(filepath.Join("..", ".."), func(at string, d os.DirEntry, err error) error {
		switch name := filepath.Base(at); {
		case err != nil:
			return nil
		case d.IsDir() && (name == ".git" || name == "testdata" || name == "docs" || name == "bench"):
			return filepath.SkipDir
		case !d.IsDir() && !strings.HasSuffix(name, "_test.go"):
			_, _ = os.Stat(at)
		}
		return nil
	})
})

// Run runs the program in a folder.
func Run(t *testing.T, dir string, args ...string) Result {
	t.Helper()
	depend()
	command := exec.Command(Program, args...)
	command.Dir = dir
	var out, problems bytes.Buffer
	command.Stdout, command.Stderr = &out, &problems
	err := command.Run()
	if _, failed := err.(*exec.ExitError); err != nil && !failed {
		t.Fatal(err)
	}
	return Result{out.String(), problems.String(), command.ProcessState.ExitCode()}
}

// Demo lays the demo project out and returns its folder.
func Demo(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, os.CopyFS(dir, demo.Project()))
	return dir
}

// LayOut writes files into a new folder, by their paths.
func LayOut(t *testing.T, files map[string]string) string {
	dir := t.TempDir()
	for at, text := range files {
		at = filepath.Join(dir, at)
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
	return dir
}

// Small lays out a family of two cultures, with a screen and a layout.
func Small(t *testing.T) string {
	return LayOut(t, map[string]string{
		"zelvik.yaml":                  "source: en\n",
		"res/values/strings.xml":       "<resources>\n    <string name=\"a\">Hello</string>\n    <string name=\"b\">Bye</string>\n</resources>\n",
		"res/values-de/strings.xml":    "<resources>\n    <string name=\"a\">Hallo</string>\n</resources>\n",
		"screens/one.yaml":             "screen: one\ndevices: [{name: phone, width: 200, height: 200}]\ntexts: ../res\nbody: {label: {key: a}}\n",
		"res/layout/activity_main.xml": "<TextView xmlns:android=\"http://schemas.android.com/apk/res/android\" android:text=\"Press it\"/>\n",
	})
}

// Content returns a file.
func Content(t *testing.T, path string) string {
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	return string(data)
}
