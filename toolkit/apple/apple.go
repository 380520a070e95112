// Package apple knows the manifests and projects of Apple's platforms. Layouts are reported,
// and not read.
package apple

import (
	"strings"

	"zelvik/culture"
	"zelvik/language"
	"zelvik/toolkit"
)

// Toolkit is that of Apple's platforms.
var Toolkit = &toolkit.Toolkit{
	Name:     "Apple",
	Layout:   language.Ending(".storyboard", ".xib"),
	Manifest: toolkit.Called("Info.plist"),
	Lists: []*toolkit.List{
		// "CFBundleLocalizations"
		{File: "Info.plist", All: `(?s)<key>CFBundleLocalizations</key>\s*<array>(.*?)</array>`, Item: `<string>([\w-]+)</string>`, Gap: "\n\t\t"},
		// Xcode's project, in which a name with a hyphen is quoted
		{File: "project.pbxproj", All: `(?s)knownRegions = \(([^)]*)\)`, Item: `"?([\w-]+)"?,`, Gap: "\n\t\t\t\t", Entry: region},
	},
}

func region(tag culture.Tag) string {
	if strings.Contains(string(tag), "-") {
		return `"` + string(tag) + `",`
	}
	return string(tag) + ","
}
