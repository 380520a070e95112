package language

// Java is that of Android, Swing and JavaFX.
var Java = made(&Language{
	Kind:  Kind{Name: "Java", Accessor: "java", Formats: []string{"android", "properties"}, LookUps: []LookUp{androidR, bundle}},
	table: "java",
	sinks: []sink{
		at(androidSetters, "R.string.%i", "import android", "the file does not look like one of Android"),
		at(`\bnew (J?(Label|Button|MenuItem|Menu|CheckBox|RadioButton)|Text|Tab|Tooltip|TitledPane|CheckMenuItem)\(|\.set(Text|Title|HeaderText|ContentText|PromptText|ToolTipText)\(`, `ResourceBundle.getBundle("texts").getString("%s")`, never, "the bundle may be at hand under another name"),
	},
	asks:  javaAsks,
	marks: javaMarks,
}, ".java")
