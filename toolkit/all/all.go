// Package all lists the toolkits, and what they and the languages know of a file.
package all

import (
	"zelvik/language"
	"zelvik/toolkit"
	"zelvik/toolkit/android"
	"zelvik/toolkit/apple"
	"zelvik/toolkit/described"
	"zelvik/toolkit/dotnet"
	"zelvik/toolkit/javafx"
	"zelvik/toolkit/qt"
	"zelvik/toolkit/windows"
)

// Toolkits lists all toolkits. Adding one is adding its line here.
var Toolkits = []*toolkit.Toolkit{
	android.Toolkit,
	apple.Toolkit,
	dotnet.Project,
	dotnet.XAML,
	qt.Toolkit,
	javafx.Toolkit,
	windows.Toolkit,
	described.Toolkit,
}

// kinds are the layouts of all toolkits and the files of all languages.
var kinds = func() (list []*language.Kind) {
	for _, t := range Toolkits {
		if t.Source != nil {
			list = append(list, t.Source)
		}
	}
	for _, l := range language.Languages {
		list = append(list, &l.Kind)
	}
	return list
}()

// Of returns the kind of a file in which texts are looked for, by its slash-separated
// path, or nil.
func Of(path string) *language.Kind {
	for _, k := range kinds {
		if (k.Texts != nil || k.Glued != nil) && k.Matches(path) {
			return k
		}
	}
	return nil
}

// Referring returns the kind of a file that may ask for keys, or nil.
func Referring(path string) *language.Kind {
	for _, k := range kinds {
		if k.MayRefer(path) {
			return k
		}
	}
	return nil
}
