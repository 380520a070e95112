// Package dotnet knows .NET's project files and the layouts in XAML.
package dotnet

import (
	"path/filepath"
	"regexp"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/toolkit"
)

// Project is that of project files and package manifests.
var Project = &toolkit.Toolkit{
	Name:     ".NET",
	Manifest: toolkit.Called("*.csproj", "Package.appxmanifest"),
	Catalogs: []string{"resx"},
	Neutral:  neutral,
	Lists: []*toolkit.List{
		// "SatelliteResourceLanguages"
		{File: "*.csproj", All: `<SatelliteResourceLanguages>([^<]*)</SatelliteResourceLanguages>`, Item: `([\w-]+)`, Gap: ";"},
		// The resources of a package manifest
		{File: "*.appxmanifest", All: `(?s)<Resources>(.*?)</Resources>`, Item: `<Resource\s+Language="([\w-]+)"\s*/>`, Gap: "\n    "},
	},
}

// namespace guesses the namespace of the class made of the resources in a folder: that
// of the project file above them, and the folders between; "" where there is none.
func namespace(disk *files.Disk, dir string) string {
	for at, rest := dir, ""; ; at = filepath.Dir(at) {
		if projects, _ := disk.Glob(filepath.Join(at, "*.csproj")); len(projects) > 0 {
			return strings.TrimSuffix(filepath.Base(projects[0]), ".csproj") + rest
		}
		rest = "." + filepath.Base(at) + rest
		if up := filepath.Dir(at); up == at || at == "." {
			return ""
		}
	}
}

var neutralLanguage = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`<NeutralLanguage>\s*([\w-]+)\s*</NeutralLanguage>|NeutralResourcesLanguage(?:Attribute)?\("([\w-]+)"`)
})

// neutral returns the culture that the nearest project file at or above a folder states
// for resources without one (NeutralResourcesLanguageAttribute).
func neutral(disk *files.Disk, dir string) culture.Tag {
	for range 6 {
		for _, pattern := range []string{"*.csproj", "*.vbproj", "Properties/AssemblyInfo.cs"} {
			list, _ := disk.Glob(filepath.Join(dir, pattern))
			for _, at := range list {
				data, _ := disk.Read(at)
				if m := neutralLanguage().FindSubmatch(data); m != nil {
					if tag, err := culture.Parse(string(m[1]) + string(m[2])); err == nil {
						return tag
					}
				}
			}
			if list != nil && pattern != "Properties/AssemblyInfo.cs" {
				return ""
			}
		}
		dir = filepath.Dir(dir)
	}
	return ""
}
