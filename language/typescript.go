package language

// TypeScript is that of pages and of React.
var TypeScript = made(&Language{
	Kind:  Kind{Name: "TypeScript", Accessor: "typescript", Formats: []string{"json"}},
	table: "typescript",
	sinks: []sink{
		at(`\.(textContent|innerText|title|placeholder|alt|ariaLabel)\s*=|\b(alert|confirm|prompt)\(|\b(label|title|message|placeholder|text|description|tooltip|heading|caption|ariaLabel)["']?\s*:|\b(label|title|placeholder|alt|aria-label)=\{?`, "wording.%i", never, "the accessors may be at hand under another name"),
	},
	asks:  webAsks,
	marks: []string{"t("},
}, ".ts", ".tsx")

// JavaScript asks as TypeScript does; texts are not looked for in it.
var JavaScript = made(&Language{Kind: Kind{Name: "JavaScript", Accessor: "typescript"}}, ".js")

var webAsks = lazy(`(?:\bi18n\.|\$|\bthis\.\$)t\(\s*['"]|\bt\(\s*['"]`)
