package all

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"zelvik/format"
	"zelvik/language"
)

// Any file: what is found lies in it, and putting in the references gives a
// file in which those texts are not found again.
func TestAnyFile(t *testing.T) {
	names := []string{"res/layout/a.xml", "a.xaml", "a.ui", "a.fxml", "a.kt", "a.java", "a.swift", "a.cs", "a.dart", "a.ts", "a.cpp"}
	pieces := rapid.SampledFrom([]string{"<a ", "text=", `"Book a crossing"`, "'x y'", `"""`, "`", "\n", "setText(", ")", "Text(", "<string>", "Tap here", "</string>", "</a>", ">", `\`, `"`, "$n", "{", "}", "é", "Content=", "android:text=", "/*", "//", "\\(", " + "})
	rapid.Check(t, func(t *rapid.T) {
		name := rapid.SampledFrom(names).Draw(t, "name")
		text := strings.Join(rapid.SliceOfN(pieces, 0, 30).Draw(t, "pieces"), "")
		for _, f := range Of(name).Texts(name, text, language.Options{Table: "Resources", Namespace: "N", ByID: true}) {
			require.True(t, 0 <= f.From && f.From < f.To && f.To <= len(text), "%d %d", f.From, f.To)
			require.NotEmpty(t, f.Reference("key"))
			_, err := format.Patch([]byte(text), f.With("key"))
			require.NoError(t, err)
		}
	})
}
