// Package android knows Android's layouts, menus, preferences and manifests.
package android

import (
	"path"
	"strings"

	"zelvik/culture"
	"zelvik/language"
	"zelvik/toolkit"
)

// Toolkit is Android's.
var Toolkit = &toolkit.Toolkit{
	Name:     "Android",
	Layout:   func(p string) bool { return path.Ext(p) == ".xml" && inLayouts(p) },
	Manifest: toolkit.Called("AndroidManifest.xml"),
	Source: &language.Kind{
		Name: "Android layout", Layout: true, Formats: []string{"android"},
		Matches: matches,
		Texts: texts.Texts("android:id", func(v string) bool { return strings.HasPrefix(v, "@") || strings.HasPrefix(v, "?") },
			func(key string) string { return "@string/" + key }),
		Refers:  refers,
		LookUps: []language.LookUp{{Formats: []string{"android"}, Pattern: `@(?:string|plurals|array)/(KEY)`}},
	},
	Lists: []*toolkit.List{
		// "Per-app language preferences"
		{File: "*.xml", All: `(?s)<locale-config[^>]*>(.*?)</locale-config>`, Item: `<locale\s+android:name="([\w-]+)"\s*/>`, Gap: "\n    "},
		// The build's resource configurations and locale filters
		{File: "build.gradle*", All: `(?:resConfigs|resourceConfigurations|localeFilters)\b[^"'\n]*((?:["'][\w-]+["'][,\s]*)+)`, Item: `["']([\w-]+)["']`, Gap: ", ", Spell: qualifier},
	},
}

var texts = &toolkit.Attributes{
	Prefixes: []string{"android:", "app:"},
	Names:    "text hint contentDescription title subtitle summary label tooltipText prompt textOn textOff dialogTitle dialogMessage description helperText placeholderText prefixText suffixText queryHint titleCondensed",
}

func inLayouts(p string) bool {
	dir := path.Base(path.Dir(p))
	return dir == "layout" || strings.HasPrefix(dir, "layout-")
}

// matches knows the folders whose files have texts.
func matches(p string) bool {
	dir := path.Base(path.Dir(p))
	return path.Ext(p) == ".xml" && (inLayouts(p) || dir == "menu" || dir == "xml" || dir == "navigation") || path.Base(p) == "AndroidManifest.xml"
}

// refers knows the files that may ask for a key: all resources but the catalogs.
func refers(p string) bool {
	return path.Ext(p) == ".xml" && !strings.HasPrefix(path.Base(path.Dir(p)), "values") && (matches(p) || strings.Contains(p, "/res/"))
}

// qualifier spells a culture as the qualifier of a resource folder.
func qualifier(tag culture.Tag) string {
	if base, region, ok := strings.Cut(string(tag), "-"); ok && len(region) == 2 {
		return base + "-r" + region
	}
	return string(tag)
}
