// Package javafx knows JavaFX's layouts (FXML).
package javafx

import (
	"strings"

	"zelvik/language"
	"zelvik/toolkit"
)

// Toolkit is JavaFX.
var Toolkit = &toolkit.Toolkit{
	Name:   "JavaFX",
	Layout: language.Ending(".fxml"),
	Source: &language.Kind{
		Name: "FXML", Layout: true, Formats: []string{"properties"},
		Matches: language.Ending(".fxml"),
		Texts: texts.Texts("fx:id", func(v string) bool {
			return strings.HasPrefix(v, "%") || strings.HasPrefix(v, "$") || strings.HasPrefix(v, `\`)
		}, func(key string) string { return "%" + key }),
		LookUps: []language.LookUp{{Formats: []string{"properties"}, Pattern: `="%(KEY)`}},
		Quoted:  true,
	},
}

var texts = &toolkit.Attributes{Names: "text promptText title headerText contentText accessibleText accessibleHelp"}
