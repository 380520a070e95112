package language

// Swift is that of SwiftUI, UIKit and AppKit.
var Swift = made(&Language{
	Kind:  Kind{Name: "Swift", Accessor: "swift", Formats: []string{"xcstrings", "strings"}, LookUps: []LookUp{foundation}},
	table: "swift",
	sinks: []sink{
		at(`\b(Text|Label|Button|Toggle|TextField|SecureField|NavigationLink|Section|Picker|Menu|Link|Stepper|DisclosureGroup)\(|\.(navigationTitle|navigationBarTitle|alert|help|accessibilityLabel|accessibilityHint|confirmationDialog)\(|\.setTitle\(|\.(text|title|placeholder|message|prompt|subtitle|accessibilityLabel|accessibilityHint)\s*=|\b(title|message|subtitle|placeholder|prompt|label)\s*:`, `NSLocalizedString("%s", comment: "")`, "", ""),
	},
	asks:  appleAsks,
	marks: appleMarks,
}, ".swift")

// ObjectiveC asks Foundation as Swift does; texts are not looked for in it.
var ObjectiveC = made(&Language{
	Kind:  Kind{Name: "Objective-C", LookUps: []LookUp{foundation}},
	asks:  appleAsks,
	marks: appleMarks,
}, ".m")

var (
	foundation = LookUp{[]string{"strings", "stringsdict", "xcstrings"}, `(?:NSLocalizedString\(\s*@?|String\(localized:\s*|LocalizedStringKey\(\s*|LocalizedStringResource\(\s*)"(KEY)`}

	appleAsks  = lazy(`\bNSLocalizedString\(|\bString\(localized:`)
	appleMarks = []string{"NSLocalizedString(", "String(localized:"}
)
