package check

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/files"
	"zelvik/finding"
	"zelvik/project"
)

// An editor verifies what it shows: a buffer counts, not the file that it was
// read from, in catalogs, layouts and the configuration alike.
func TestVerifyOverBuffers(t *testing.T) {
	dir := t.TempDir()
	place(t, dir, map[string]string{
		"zelvik.yaml":                  "source: en\ncultures: [en, de]\n",
		"res/values/strings.xml":       `<resources><string name="quay">Quay {name}</string></resources>`,
		"res/values-de/strings.xml":    `<resources><string name="quay">Kai</string></resources>`,
		"res/layout/activity_quay.xml": `<TextView xmlns:android="http://schemas.android.com/apk/res/android" android:text="@string/quay"/>`,
	})
	rules := func(unsaved map[string]string) (list []string) {
		disk := &files.Disk{Dir: dir, Unsaved: map[string][]byte{}}
		for path, text := range unsaved {
			disk.Unsaved[filepath.Join(dir, filepath.FromSlash(path))] = []byte(text)
		}
		w, err := project.Load(nil, "", project.Options{Disk: disk})
		require.NoError(t, err)
		result, err := Verify(w, Options{Code: []string{"."}, Accessors: true})
		require.NoError(t, err)
		for _, f := range result.Findings {
			if f.Severity >= finding.Warning {
				list = append(list, f.Rule+" "+f.Path)
			}
		}
		return list
	}
	assert.Empty(t, rules(nil))
	assert.Equal(t, []string{"placeholder-lost res/values-de/strings.xml"}, rules(map[string]string{
		"res/values/strings.xml": `<resources><string name="quay">Quay %1$s</string></resources>`}))
	assert.Equal(t, []string{"hardcoded-text res/layout/activity_quay.xml"}, rules(map[string]string{
		"res/layout/activity_quay.xml": `<TextView xmlns:android="http://schemas.android.com/apk/res/android" android:text="Quay four"/>`}))
	assert.Empty(t, rules(map[string]string{
		"zelvik.yaml":                  "verify:\n  rules:\n    hardcoded-text: never\n",
		"res/layout/activity_quay.xml": `<TextView xmlns:android="http://schemas.android.com/apk/res/android" android:text="Quay four"/>`}))
}
