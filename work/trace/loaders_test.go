package trace

import (
	"bufio"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/project"
)

// TestLoaders holds every answer against what the platform's own loader said
// about the same files: testdata has a file a platform.
func TestLoaders(t *testing.T) {
	for _, p := range []*Platform{android, dotnet, java, qt} {
		t.Run(p.Name, func(t *testing.T) {
			file, err := os.Open("testdata/" + strings.ToLower(strings.ReplaceAll(p.Name, ".", "dot")) + ".txt")
			require.NoError(t, err)
			defer file.Close()
			var family *project.Family
			asked, of := 0, ""
			for lines := bufio.NewScanner(file); lines.Scan(); {
				line := strings.TrimSpace(lines.Text())
				fields := strings.Fields(line)
				switch {
				case line == "" || line[0] == '#':
				case fields[0] == "family":
					family, of = familyOf(t, p, fields[1:]), line
				default:
					// A third column answers for a machine whose default is fr-FR.
					for i, device := range []culture.Tag{"xx", "fr-FR"}[:len(fields)-1] {
						q := Question{Key: "k", Device: device}
						for want := range strings.SplitSeq(fields[0], ",") {
							q.Preferred = append(q.Preferred, culture.Tag(want))
						}
						asked++
						trace := p.Find(family, q)
						if trace.Answer == nil {
							trace.Shows = "-"
						}
						assert.Equal(t, fields[i+1], trace.Shows, "%s on a machine in %s, of %s", fields[0], device, of)
					}
				}
			}
			assert.Greater(t, asked, 300)
		})
	}
}

// layouts are the name and the text of a file in a culture, in a format; the
// default resources have their own name.
var layouts = map[string]struct{ neutral, name, text string }{
	"android":    {"res/values/strings.xml", "res/%s/strings.xml", `<resources><string name="k">%s</string></resources>`},
	"resx":       {"Texts.resx", "Texts.%s.resx", `<?xml version="1.0" encoding="utf-8"?><root><data name="k" xml:space="preserve"><value>%s</value></data></root>`},
	"properties": {"texts.properties", "texts_%s.properties", "k=%s\n"},
	"qt":         {"app_en.ts", "app_%s.ts", `<?xml version="1.0" encoding="utf-8"?><!DOCTYPE TS><TS version="2.1"><context><name></name><message id="k"><source>-</source><translation>%s</translation></message></context></TS>`},
}

// familyOf reads a family of these cultures under an English source, whose
// texts are the names of their files.
func familyOf(t *testing.T, p *Platform, tags []string) *project.Family {
	layout, dir := layouts[p.Formats[0]], t.TempDir()
	write := func(name, text string) {
		name = filepath.Join(dir, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(name), 0o777))
		require.NoError(t, os.WriteFile(name, fmt.Appendf(nil, layout.text, text), 0o666))
	}
	count := len(tags)
	if p != qt { // whose source texts stand in the code
		write(layout.neutral, "-")
		count++
	}
	for _, tag := range tags {
		spelled := tag
		switch p.Formats[0] {
		case "android":
			spelled = androidFolder(tag)
		case "properties", "qt":
			spelled = strings.ReplaceAll(tag, "-", "_")
		}
		write(fmt.Sprintf(layout.name, spelled), tag)
	}
	families, err := project.Families([]string{dir}, project.Options{Source: "en", Disk: &files.Disk{Dir: dir}})
	require.NoError(t, err)
	require.Len(t, families, 1)
	require.GreaterOrEqual(t, len(families[0].All())+len(families[0].Misnamed), count)
	return families[0]
}

// androidFolder is the folder of a tag: values-de-rAT, values-b+es+419.
func androidFolder(tag string) string {
	language, rest, more := strings.Cut(tag, "-")
	switch {
	case !more:
		return "values-" + language
	case len(rest) == 2:
		return "values-" + language + "-r" + rest
	}
	return "values-b+" + strings.ReplaceAll(tag, "-", "+")
}
