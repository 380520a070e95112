package language

// Dart is that of Flutter.
var Dart = made(&Language{
	Kind:  Kind{Name: "Dart", Accessor: "dart", Formats: []string{"arb"}, LookUps: []LookUp{{[]string{"arb"}, `\bAppLocalizations\.of\([^)]*\)[!?]?\.(NAME)`}}},
	table: "dart",
	sinks: []sink{
		at(`\b(Text|SelectableText)\(|\b(title|label|labelText|hintText|helperText|tooltip|message|semanticLabel|semanticsLabel|errorText|text|subtitle)\s*:(\s*const)?(\s*Text\()?`, "AppLocalizations.of(context)!.%i", never, "it needs a context, and no const around it"),
	},
	asks:  lazy(`\bAppLocalizations\.of\(\w+\)!?\.\w+|\bl10n\.\w+`),
	marks: []string{"AppLocalizations.", "l10n."},
}, ".dart")
