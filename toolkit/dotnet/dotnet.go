// Package dotnet knows .NET's project files and the layouts in XAML.
package dotnet

import (
	"path/filepath"
	"strings"

	"zelvik/files"
	"zelvik/toolkit"
)

// Project is that of project files and package manifests.
var Project = &toolkit.Toolkit{
	Name:     ".NET",
	Manifest: toolkit.Called("*.csproj", "Package.appxmanifest"),
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
