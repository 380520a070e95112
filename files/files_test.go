package files

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// folder makes a folder for a test, which is the root of a project. It is
// cleaned by hand, since the tests run under wine as well.
func folder(t *testing.T) string {
	dir, err := os.MkdirTemp("", "zelvik-files-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	dir, err = filepath.EvalSymlinks(dir)
	require.NoError(t, err)
	write(t, filepath.Join(dir, "zelvik.yaml"), "")
	return dir
}

func write(t *testing.T, path, text string) {
	t.Helper()
	require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o777))
	require.NoError(t, os.WriteFile(path, []byte(text), 0o666))
}

// here is the disk without a folder of its own.
var here *Disk

func textOf(t *testing.T, path string) string {
	t.Helper()
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	return string(data)
}

// leftovers lists the files of ours that lie in a folder and below it.
func leftovers(t *testing.T, dir string) (list []string) {
	require.NoError(t, filepath.WalkDir(dir, func(at string, d os.DirEntry, err error) error {
		if strings.HasPrefix(d.Name(), ".zelvik") {
			list = append(list, at)
		}
		return err
	}))
	return list
}

func TestCommitIsAllOrNothing(t *testing.T) {
	dir := folder(t)
	first, second, fresh := filepath.Join(dir, "a.txt"), filepath.Join(dir, "b.txt"), filepath.Join(dir, "new", "c.txt")
	write(t, first, "old")
	write(t, second, "changed meanwhile")
	if runtime.GOOS != "windows" {
		require.NoError(t, os.Chmod(first, 0o600))
	}
	s := &Session{}
	defer s.Close()
	plan := &Plan{}
	plan.Add(first, []byte("old"), []byte("new"))
	plan.Add(second, []byte("as it was read"), []byte("new"))
	plan.Add(fresh, nil, []byte("new"))
	plan.Add(filepath.Join(dir, "same.txt"), []byte("x"), []byte("x"))
	require.Len(t, plan.Writes, 3)
	require.ErrorContains(t, s.Commit(plan), "b.txt: it changed while Zelvik was working on it")
	assert.Equal(t, "old", textOf(t, first), "no file is written when one cannot be")
	assert.NoFileExists(t, fresh)
	plan.Writes[1].Old = []byte("changed meanwhile")
	require.NoError(t, s.Commit(plan))
	for _, at := range []string{first, second, fresh} {
		assert.Equal(t, "new", textOf(t, at))
	}
	if info, err := os.Stat(first); assert.NoError(t, err) && runtime.GOOS != "windows" {
		assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "the mode is kept")
	}
	s.Close()
	assert.Empty(t, leftovers(t, dir))
	require.ErrorContains(t, (&Session{}).Commit(&Plan{Writes: []Write{{Path: first, New: []byte("x")}}}), "it changed while", "who did not read it does not replace it")
}

func TestMakeReplacesOnlyItsOwn(t *testing.T) {
	dir := folder(t)
	at := filepath.Join(dir, "x.txt")
	ours := func(old []byte) bool { return strings.HasPrefix(string(old), "ours") }
	commit := func(text string, replace bool) error {
		plan := &Plan{Replace: replace}
		require.NoError(t, plan.Make(nil, at, []byte(text), ours))
		return (&Session{}).Commit(plan)
	}
	require.NoError(t, commit("ours 1", false))
	require.NoError(t, commit("ours 2", false))
	write(t, at, "by hand")
	require.NoError(t, commit("by hand", false), "the same bytes are no change")
	var foreign *ForeignError
	require.ErrorAs(t, commit("ours 3", false), &foreign)
	assert.Equal(t, "by hand", textOf(t, at))
	require.NoError(t, commit("ours 3", true))
	assert.Equal(t, "ours 3", textOf(t, at))
}

// A file that cannot be put into its place takes back those that were.
func TestPutBack(t *testing.T) {
	dir := folder(t)
	a, b, z := filepath.Join(dir, "a"), filepath.Join(dir, "b"), filepath.Join(dir, "z")
	write(t, a, "old")
	plan := &Plan{}
	plan.Add(a, []byte("old"), []byte("new"))
	plan.Add(b, nil, []byte("new"))
	plan.Add(filepath.Join(z, "c"), nil, []byte("new"))
	write(t, z, "a file where a folder is to be")
	s := &Session{}
	defer s.Close()
	require.Error(t, s.Commit(plan))
	assert.Equal(t, "old", textOf(t, a))
	assert.NoFileExists(t, b)
	s.Close()
	assert.Empty(t, leftovers(t, dir))
}

func TestLocksKeepRunsApart(t *testing.T) {
	dir := folder(t)
	at := filepath.Join(dir, "count")
	write(t, at, "")
	var wait sync.WaitGroup
	for i := range 6 {
		wait.Go(func() {
			for range 10 {
				s := &Session{Command: fmt.Sprint("run ", i)}
				if !assert.NoError(t, s.Hold(dir)) {
					return
				}
				old, err := here.Existing(at)
				assert.NoError(t, err)
				plan := &Plan{}
				plan.Add(at, old, append(append([]byte(nil), old...), 'x'))
				assert.NoError(t, s.Commit(plan))
				s.Close()
			}
		})
	}
	wait.Wait()
	assert.Equal(t, strings.Repeat("x", 60), textOf(t, at), "nothing that was said to be done is lost")
	assert.Empty(t, leftovers(t, dir))
}

func TestWhoHoldsIt(t *testing.T) {
	dir := folder(t)
	first := &Session{Command: "zelvik draft"}
	require.NoError(t, first.Hold(filepath.Join(dir, "res")))
	var said []string
	second := &Session{Command: "zelvik set", Patience: 1200 * time.Millisecond, Say: func(text string) { said = append(said, text) }}
	err := second.Hold(dir)
	require.ErrorContains(t, err, fmt.Sprintf("zelvik draft (process %d on ", os.Getpid()))
	require.ErrorContains(t, err, "run the command again when it is done")
	require.Len(t, said, 1)
	assert.Contains(t, said[0], "waiting for zelvik draft")
	assert.Empty(t, here.Unfinished(dir), "a run that is at work was not stopped")
	first.Close()
	require.NoError(t, second.Hold(dir))
	second.Close()
}

// stopped leaves what a run leaves that was killed after it wrote its journal
// and put some of its files into their places.
func stopped(t *testing.T, dir string, placed int, paths ...string) {
	s := &Session{}
	plan := &Plan{}
	for _, at := range paths {
		plan.Add(filepath.Join(dir, at), []byte("old"), []byte("new"))
	}
	b := &batch{session: s, plan: plan}
	for i := range plan.Writes {
		require.NoError(t, b.resolve(&plan.Writes[i]))
	}
	require.NoError(t, b.lock())
	require.NoError(t, b.stage())
	require.NoError(t, b.journal())
	for _, h := range b.homes {
		for _, f := range h.files {
			if placed--; placed >= 0 {
				require.NoError(t, f.place(h.root))
			}
		}
		require.NoError(t, h.root.Close())
	}
	for _, l := range s.locks { // as the system does with a process that is gone
		require.NoError(t, l.file.Close())
	}
}

func TestJournalIsFinishedByTheNext(t *testing.T) {
	for name, c := range map[string]struct {
		placed          int
		between         func(dir string)
		say, unfinished string
	}{
		"half":   {1, nil, "after 1 of its 2 files; the others were replaced now: b/strings.xml", ""},
		"none":   {0, nil, "after 0 of its 2 files; the others were replaced now: a.xml, b/strings.xml", ""},
		"all":    {2, nil, "after 2 of its 2 files; nothing was left to do", ""},
		"edited": {1, func(dir string) { write(t, filepath.Join(dir, "b/strings.xml"), "by hand") }, "changed since by somebody, and left as they are: b/strings.xml", ""},
		"moved":  {1, func(dir string) { require.NoError(t, os.Rename(dir, dir+"-moved")) }, "after 1 of its 2 files", ""},
	} {
		t.Run(name, func(t *testing.T) {
			top := folder(t)
			dir := filepath.Join(top, "p")
			write(t, filepath.Join(dir, "zelvik.yaml"), "")
			write(t, filepath.Join(dir, "a.xml"), "old")
			write(t, filepath.Join(dir, "b/strings.xml"), "old")
			stopped(t, dir, c.placed, "a.xml", "b/strings.xml")
			if c.between != nil {
				c.between(dir)
			}
			if name == "moved" {
				dir += "-moved"
			}
			assert.Contains(t, here.Unfinished(filepath.Join(dir, "b")), "an earlier run was stopped")
			var said []string
			s := &Session{Say: func(text string) { said = append(said, text) }}
			require.NoError(t, s.Hold(dir))
			s.Close()
			require.Len(t, said, 1)
			assert.Contains(t, said[0], c.say)
			assert.Equal(t, "new", textOf(t, filepath.Join(dir, "a.xml")))
			if name == "edited" {
				assert.Equal(t, "by hand", textOf(t, filepath.Join(dir, "b/strings.xml")))
			} else {
				assert.Equal(t, "new", textOf(t, filepath.Join(dir, "b/strings.xml")))
			}
			assert.Empty(t, leftovers(t, dir))
			assert.Empty(t, here.Unfinished(dir))
		})
	}
}

// One plan in two projects: both are finished, or where the second journal was
// not written yet, none.
func TestJournalsOfTwoFolders(t *testing.T) {
	for placed, want := range map[int]string{0: "new", 1: "new", -1: "old"} {
		top := folder(t)
		for _, at := range []string{"p", "q"} {
			write(t, filepath.Join(top, at, "zelvik.yaml"), "")
			write(t, filepath.Join(top, at, "x"), "old")
		}
		stopped(t, top, max(placed, 0), "p/x", "q/x")
		if placed < 0 {
			require.NoError(t, os.Remove(filepath.Join(top, "q", journalName)))
		}
		s := &Session{}
		require.NoError(t, s.Hold(filepath.Join(top, "p")))
		s.Close()
		assert.Equal(t, want, textOf(t, filepath.Join(top, "p/x")))
		assert.Equal(t, want, textOf(t, filepath.Join(top, "q/x")))
		require.NoError(t, s.Hold(filepath.Join(top, "q")))
		s.Close()
		assert.Empty(t, leftovers(t, top))
	}
}

func TestSeveralFinishOneJournal(t *testing.T) {
	dir := folder(t)
	write(t, filepath.Join(dir, "a"), "old")
	write(t, filepath.Join(dir, "b"), "old")
	stopped(t, dir, 1, "a", "b")
	var wait sync.WaitGroup
	var mu sync.Mutex
	said := 0
	for range 8 {
		wait.Go(func() {
			s := &Session{Say: func(string) { mu.Lock(); said++; mu.Unlock() }}
			assert.NoError(t, s.Hold(dir))
			s.Close()
		})
	}
	wait.Wait()
	assert.Equal(t, 1, said)
	assert.Equal(t, "new", textOf(t, filepath.Join(dir, "b")))
}

func TestJournalsThatAreRefused(t *testing.T) {
	outside := folder(t)
	victim := filepath.Join(outside, "victim")
	write(t, victim, "precious")
	link := func(dir string) { // a folder on the way that leads out
		if err := os.Symlink(outside, filepath.Join(dir, "sub")); err != nil || !linked(filepath.Join(dir, "sub")) {
			write(t, filepath.Join(dir, journalName), "no links here (wine)")
		}
	}
	step := func(staged, path string) string {
		return fmt.Sprintf(`{"files":[{"staged":%q,"path":%q,"old":%q,"new":%q}]}`, staged, path, fingerprint([]byte("precious")), fingerprint([]byte("evil")))
	}
	for name, c := range map[string]struct {
		journal string
		before  func(dir string)
	}{
		"absolute":      {step(".zelvik-stage-1/0", victim), nil},
		"absolute from": {step(victim, "x"), nil},
		"up":            {step(".zelvik-stage-1/0", "../"+filepath.Base(outside)+"/victim"), nil},
		"link":          {step(".zelvik-stage-1/0", "sub/victim"), link},
		"link from":     {step(".zelvik-stage-1/../sub/victim", "x"), link},
		"other folder":  {step("sub/0", "x"), nil},
		"garbage":       {"{\"files\"", nil},
		"empty":         {"", nil},
		"gone":          {step(".zelvik-stage-2/0", "y"), nil},
		"zero":          {step(".zelvik-stage-1/0", "x\x00y"), nil},
	} {
		t.Run(name, func(t *testing.T) {
			dir := folder(t)
			write(t, filepath.Join(dir, ".zelvik-stage-1/0"), "evil")
			write(t, filepath.Join(dir, "y"), "precious")
			write(t, filepath.Join(dir, journalName), c.journal)
			if c.before != nil {
				c.before(dir)
			}
			s := &Session{}
			var file *Error
			require.ErrorAs(t, s.Hold(dir), &file)
			s.Close()
			assert.Equal(t, "precious", textOf(t, victim))
			assert.FileExists(t, filepath.Join(dir, journalName), "it is left to be looked at")
			assert.NoFileExists(t, filepath.Join(dir, lockName))
		})
	}
}

func linked(path string) bool {
	info, err := os.Lstat(path)
	return err == nil && info.Mode()&os.ModeSymlink != 0
}

func TestLinks(t *testing.T) {
	outside, dir := folder(t), folder(t)
	write(t, filepath.Join(outside, "x"), "x")
	for at, to := range map[string]string{"x": filepath.Join(outside, "x"), "sub": outside, "in": "y", "dangling": "nothing"} {
		if err := os.Symlink(to, filepath.Join(dir, at)); err != nil {
			t.Skip("no links here")
		}
	}
	if !linked(filepath.Join(dir, "x")) {
		t.Skip("links are no links here (wine)")
	}
	write(t, filepath.Join(dir, "y"), "x")
	commit := func(path, out string) (*Plan, error) {
		plan := &Plan{Out: out, Replace: true}
		require.NoError(t, plan.Make(nil, filepath.Join(dir, path), []byte("new"), nil))
		return plan, (&Session{}).Commit(plan)
	}
	for _, path := range []string{"x", "sub/x", "sub/new/y", "dangling"} {
		_, err := commit(path, "")
		require.ErrorContains(t, err, "link", path)
	}
	assert.Equal(t, "x", textOf(t, filepath.Join(outside, "x")))
	_, err := commit("in", "")
	require.NoError(t, err, "a link that stays in the project is followed")
	assert.Equal(t, "new", textOf(t, filepath.Join(dir, "y")))
	info, err := os.Lstat(filepath.Join(dir, "in"))
	require.NoError(t, err)
	assert.NotZero(t, info.Mode()&os.ModeSymlink)
	plan, err := commit("sub/z", filepath.Join(dir, "sub")) // a person named the folder
	require.NoError(t, err)
	assert.Equal(t, "new", textOf(t, filepath.Join(outside, "z")))
	require.Len(t, plan.Notes, 1)
	assert.Contains(t, plan.Notes[0], "written to "+filepath.Join(outside, "z"))
	for _, at := range []string{dir, outside} {
		assert.Empty(t, leftovers(t, at))
	}
}

func TestAbort(t *testing.T) {
	dir := folder(t)
	s := &Session{}
	require.NoError(t, s.Hold(dir))
	plan := &Plan{}
	plan.Add(filepath.Join(dir, "a"), nil, []byte("a"))
	plan.Add(filepath.Join(dir, "b"), nil, []byte("b"))
	b := &batch{session: s, plan: plan}
	for i := range plan.Writes {
		require.NoError(t, b.resolve(&plan.Writes[i]))
	}
	require.NoError(t, b.lock())
	require.NoError(t, b.stage())
	assert.False(t, s.Abort(time.Second))
	assert.Empty(t, leftovers(t, dir))
	assert.ErrorIs(t, b.place(), ErrStopped)
	assert.ErrorIs(t, s.Hold(dir), ErrStopped)
	assert.NoFileExists(t, filepath.Join(dir, "a"))
	for _, h := range b.homes {
		require.NoError(t, h.root.Close())
	}
}

func TestNames(t *testing.T) {
	for text, want := range map[string]string{
		"booking": "booking", "../../../evil": "__.._.._evil", "/../../evil": "_.._.._evil", "": "_", "..": "_", "a/b\\c:d": "a_b_c_d",
		"con": "_con", "Nul.png": "_Nul.png", ".hidden": "_hidden", "ends.": "ends", "a\x00b\x1bc\u202ed": "a_b_c_d", "حجز": "حجز",
		strings.Repeat("x", 300): strings.Repeat("x", 120),
	} {
		assert.Equal(t, want, Name(text), text)
		assert.True(t, filepath.IsLocal(Name(text)), text)
	}
}

func TestReadRefusesWhatIsNoFile(t *testing.T) {
	_, err := here.Read(os.DevNull)
	var file *Error
	require.ErrorAs(t, err, &file)
	dir := folder(t)
	_, err = here.Read(dir)
	require.ErrorContains(t, err, "it is a folder")
	_, err = here.Read(filepath.Join(dir, "x"))
	require.ErrorContains(t, err, "there is no such file")
	assert.Nil(t, here.Head(os.DevNull, 10))
	if runtime.GOOS == "linux" {
		data, err := here.Read("/proc/self/status") // says that it is empty
		require.NoError(t, err)
		assert.NotEmpty(t, data)
	}
}

func TestGlobIsBounded(t *testing.T) {
	dir := folder(t)
	write(t, filepath.Join(dir, "a/b/c/x.yaml"), "")
	list, err := here.Glob(filepath.Join(dir, "**/**/**/**/*.yaml"))
	require.NoError(t, err)
	assert.Len(t, list, 2)
	for _, pattern := range []string{"**/a/**/b/**/c/**/d", strings.Repeat("{a,b}", 24), strings.Repeat("{a,", 300) + "b" + strings.Repeat("}", 300), "{a", "[a"} {
		_, err := here.Glob(filepath.Join(dir, pattern))
		assert.Error(t, err, pattern)
	}
	assert.Equal(t, 6, alternatives("{a,b}{c,d,e}"))
	assert.Equal(t, 3, alternatives("{a,{b,c}}x"))
}

func TestWriteErrorsHaveOneSentence(t *testing.T) {
	assert.EqualError(t, writeError("x", &os.PathError{Op: "open", Path: "x", Err: errors.New("odd")}), "x: it cannot be written: odd; check the path")
	assert.NoError(t, writeError("x", nil))
}
