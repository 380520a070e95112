package diff

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func text(t *rapid.T, name string) string {
	lines := rapid.SliceOfN(rapid.SampledFrom([]string{"a\n", "b\n", "c\n", "unique\n", "d\n", "\n"}), 0, 30).Draw(t, name)
	return strings.Join(lines, "") + rapid.SampledFrom([]string{"", "end"}).Draw(t, name+" end")
}

// Carrying out the changes on one text gives the other.
func TestLines(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a, b := Split([]byte(text(t, "a"))), Split([]byte(text(t, "b")))
		var out []string
		at := 0
		for _, c := range Lines(a, b) {
			require.LessOrEqual(t, at, c.AFrom)
			require.True(t, c.AFrom < c.ATo || c.BFrom < c.BTo)
			out = append(append(out, a[at:c.AFrom]...), b[c.BFrom:c.BTo]...)
			at = c.ATo
		}
		require.Equal(t, strings.Join(b, ""), strings.Join(append(out, a[at:]...), ""))
	})
}

// patch makes of one text the other by what Unified says.
func TestUnified(t *testing.T) {
	patch, err := exec.LookPath("patch")
	if err != nil {
		require.Empty(t, os.Getenv("ZELVIK_REQUIRE_TOOLS"), "patch is not here")
		t.Skip("patch is not here")
	}
	dir := t.TempDir()
	rapid.Check(t, func(t *rapid.T) {
		a, b := text(t, "a"), text(t, "b")
		if a == "" || b == "" || a == b {
			return
		}
		at := filepath.Join(dir, "file")
		require.NoError(t, os.WriteFile(at, []byte(a), 0o644))
		command := exec.Command(patch, "-s", "--no-backup-if-mismatch", at)
		command.Stdin = strings.NewReader("--- file\n+++ file\n" + Unified([]byte(a), []byte(b)))
		said, err := command.CombinedOutput()
		require.NoError(t, err, "%s\n%s", said, Unified([]byte(a), []byte(b)))
		data, err := os.ReadFile(at)
		require.NoError(t, err)
		require.Equal(t, b, string(data))
	})
}

// What is inserted all over a large text is found, and quickly.
func TestLarge(t *testing.T) {
	var a, b strings.Builder
	n := 0
	for i := range 50000 {
		line := strings.Repeat("x", i%7) + string(rune('a'+i%26)) + strings.Repeat("y", i%11) + string(rune(0x4e00+i)) + "\n"
		a.WriteString(line)
		b.WriteString(line)
		if i%10 == 0 {
			b.WriteString("new\n")
			n++
		}
	}
	assert.Equal(t, n, strings.Count(Unified([]byte(a.String()), []byte(b.String())), "\n+new"))
}
