// Package described knows screens that are described in our own language.
package described

import (
	"zelvik/language"
	"zelvik/toolkit"
)

// Toolkit is our own.
var Toolkit = &toolkit.Toolkit{
	Name: "Zelvik",
	Source: &language.Kind{
		Name: "screen", Refers: language.Ending(".yaml", ".yml"), Mark: "body:",
		LookUps: []language.LookUp{{Pattern: `\b(?:key|hint):\s*["']?(KEY)`}},
	},
}
