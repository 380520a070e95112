package begin

import (
	"bytes"
	"io/fs"
	"path"
	"path/filepath"
	"regexp"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/project"
)

// manifest is a file of a platform that lists the cultures of an application.
type manifest struct {
	// name is a pattern of path.Match for the file's name.
	name string
	// list finds the list, its first group what stands in it; item one entry of it,
	// its first group the culture.
	list, item string
	// gap parts two entries where the list has one alone.
	gap string
	// spell gives the culture as the list has it.
	spell func(culture.Tag) string
}

func plain(tag culture.Tag) string { return string(tag) }

// platforms are the manifests that are known. A list that is not there is not
// made: then the platform takes the cultures of which it finds files.
var platforms = []manifest{
	// Apple, "CFBundleLocalizations"
	{"Info.plist", `(?s)<key>CFBundleLocalizations</key>\s*<array>(.*?)</array>`, `<string>([\w-]+)</string>`, "\n\t\t", plain},
	// Xcode's project, in which a name with a hyphen is quoted
	{"project.pbxproj", `(?s)knownRegions = \(([^)]*)\)`, `"?([\w-]+)"?,`, "\n\t\t\t\t", plain},
	// Android, "Per-app language preferences"
	{"*.xml", `(?s)<locale-config[^>]*>(.*?)</locale-config>`, `<locale\s+android:name="([\w-]+)"\s*/>`, "\n    ", plain},
	// Android's build: resource configurations and locale filters
	{"build.gradle*", `(?:resConfigs|resourceConfigurations|localeFilters)\b[^"'\n]*((?:["'][\w-]+["'][,\s]*)+)`, `["']([\w-]+)["']`, ", ", androidFolder},
	// .NET, "SatelliteResourceLanguages"
	{"*.csproj", `<SatelliteResourceLanguages>([^<]*)</SatelliteResourceLanguages>`, `([\w-]+)`, ";", plain},
	// Windows, the resources of a package manifest
	{"*.appxmanifest", `(?s)<Resources>(.*?)</Resources>`, `<Resource\s+Language="([\w-]+)"\s*/>`, "\n    ", plain},
	// Qt's build: the translations of a program
	{"CMakeLists.txt", `(?s)(.*)`, translation, " ", underscored},
	{"*.pr[oi]", `(?s)(.*)`, translation, " ", underscored},
}

// translation is the name of one of Qt's files.
const translation = `[\w./${}\\-]*?[\w}]_([a-z]{2,3}(?:_[A-Za-z0-9]+)*)\.ts\b`

// underscored spells a culture as the names of Qt's files do.
func underscored(tag culture.Tag) string { return strings.ReplaceAll(string(tag), "-", "_") }

// androidFolder spells a culture as the qualifier of a resource folder.
func androidFolder(tag culture.Tag) string {
	if base, region, ok := strings.Cut(string(tag), "-"); ok && len(region) == 2 {
		return base + "-r" + region
	}
	return string(tag)
}

// changed is a manifest with a culture more.
type changed struct {
	path       string
	old, fresh []byte
}

// manifests gives the manifests of a project that list cultures, with one more.
func manifests(w *project.Workspace, tag culture.Tag) (list []changed, err error) {
	dir := w.Config.Dir()
	err = w.Disk.Walk(dir, func(at string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return files.ReadError(at, err)
		case d.IsDir() && at != dir && (project.Skipped[d.Name()] || strings.HasPrefix(d.Name(), ".")):
			return filepath.SkipDir
		case !d.Type().IsRegular():
			return nil
		}
		for _, m := range platforms {
			if ok, err := path.Match(m.name, d.Name()); !ok || err != nil {
				continue
			}
			old, err := w.Disk.Read(at)
			if err != nil {
				return err
			}
			if fresh, ok := m.add(string(old), tag); ok {
				list = append(list, changed{at, old, []byte(fresh)})
				break
			}
		}
		return nil
	})
	return list, err
}

// patterns are those of the manifests, made when one is asked for.
var patterns = sync.OnceValue(func() map[string]*regexp.Regexp {
	made := map[string]*regexp.Regexp{}
	for _, m := range platforms {
		made[m.list], made[m.item] = regexp.MustCompile(m.list), regexp.MustCompile(m.item)
	}
	return made
})

// add puts a culture behind the last of a manifest's list, as that one stands. It is
// false where there is no list, or it has the culture.
func (m manifest) add(text string, tag culture.Tag) (string, bool) {
	place := patterns()[m.list].FindStringSubmatchIndex(text)
	if place == nil {
		return "", false
	}
	inner := text[place[2]:place[3]]
	items := patterns()[m.item].FindAllStringSubmatchIndex(inner, -1)
	last := -1
	for i, item := range items {
		known, err := culture.Parse(strings.Replace(inner[item[2]:item[3]], "-r", "-", 1)) // underscores are read as hyphens
		if err == nil && known == tag {
			return "", false
		}
		if err == nil && known.Known() {
			last = i
		}
	}
	if last < 0 {
		return "", false
	}
	item := items[last]
	gap := m.gap
	if last > 0 {
		if between := inner[items[last-1][1]:item[0]]; m.item != translation || strings.Trim(between, " \t\r\n\\") == "" {
			gap = between
		}
	}
	spelled := m.spell(tag)
	if m.name == "project.pbxproj" && strings.Contains(spelled, "-") {
		spelled = `"` + spelled + `"`
	}
	entry := inner[item[0]:item[2]] + spelled + inner[item[3]:item[1]]
	if m.name == "project.pbxproj" {
		entry = spelled + ","
	}
	at := place[2] + item[1]
	return text[:at] + gap + entry + text[at:], true
}

var (
	flow  = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`(?m)^cultures:[ \t]*\[([^\]]*)\]`) })
	block = sync.OnceValue(func() *regexp.Regexp {
		return regexp.MustCompile(`(?m)^cultures:[ \t]*(?:#.*)?\r?\n((?:[ \t]*-[ \t]*[^\s#]+.*\r?\n?)+)`)
	})
)

// configured adds a culture to the list of zelvik.yaml. It is false where there is
// none, or it has the culture.
func configured(text string, tag culture.Tag) (string, bool) {
	if place := flow().FindStringSubmatchIndex(text); place != nil {
		inner := strings.TrimRight(text[place[2]:place[3]], " ,")
		for one := range strings.SplitSeq(inner, ",") {
			if strings.Trim(strings.TrimSpace(one), `"'`) == string(tag) {
				return "", false
			}
		}
		if inner != "" {
			inner += ", "
		}
		return text[:place[2]] + inner + string(tag) + text[place[3]:], true
	}
	place := block().FindStringSubmatchIndex(text)
	if place == nil {
		return "", false
	}
	lines := strings.SplitAfter(strings.TrimRight(text[place[2]:place[3]], "\r\n"), "\n")
	for _, line := range lines {
		if value, _, _ := strings.Cut(strings.TrimLeft(line, " \t-"), "#"); strings.Trim(strings.TrimSpace(value), `"'`) == string(tag) {
			return "", false
		}
	}
	last := lines[len(lines)-1]
	head := last[:len(last)-len(strings.TrimLeft(last, " \t-"))]
	end := "\n"
	if bytes.Contains([]byte(text), []byte("\r\n")) {
		end = "\r\n"
	}
	at := place[2] + len(strings.TrimRight(text[place[2]:place[3]], "\r\n"))
	return text[:at] + end + head + string(tag) + text[at:], true
}
