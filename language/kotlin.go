package language

// Kotlin is that of Android, and of Java's bundles.
var Kotlin = made(&Language{
	Kind:  Kind{Name: "Kotlin", Accessor: "kotlin", Formats: []string{"android", "properties"}, LookUps: []LookUp{androidR, bundle}},
	table: "kotlin",
	sinks: []sink{
		at(androidSetters, "R.string.%i", "", ""),
		at(`\b(Text|OutlinedTextField|TextField)\((\s*text\s*=)?|\bcontentDescription\s*=`, "stringResource(R.string.%i)", never, "stringResource is for composable functions"),
		at(`\b`+properties+`\s*=`, "getString(R.string.%i)", never, "getString needs a context"),
	},
	asks:  javaAsks,
	marks: javaMarks,
}, ".kt")

const androidSetters = `\.(setText|setHint|setTitle|setSubtitle|setMessage|setSummary|setPositiveButton|setNegativeButton|setNeutralButton)\(|(Toast\.makeText|Snackbar\.make)\([^,()]*,`

var (
	androidR = LookUp{[]string{"android"}, `\bR\.(?:string|plurals|array)\.(NAME)`}
	bundle   = LookUp{[]string{"properties"}, `\bgetString\(\s*"(KEY)`}

	javaAsks  = lazy(`\b(?:getString|getText|stringResource)\(\s*R\.string\.|\b\w*(?:[bB]undle|[mM]essages|[rR]esources)\w*\.getString\(\s*"`)
	javaMarks = []string{"getString(", "getText(", "stringResource("}
)
