// Package windows knows resource scripts, whose dialogs and menus are catalogs themselves:
// what is asked for in them are the numbers of string tables.
package windows

import (
	"zelvik/language"
	"zelvik/toolkit"
)

// Toolkit is that of resource scripts.
var Toolkit = &toolkit.Toolkit{
	Name:   "Windows resources",
	Source: &language.Kind{Name: "Windows resources", Refers: language.Ending(".rc"), LookUps: []language.LookUp{language.Defined}},
}
