package language

// CSharp is C# with the classes made of .NET's resources.
var CSharp = made(&Language{
	Kind:  Kind{Name: "C#", Accessor: "csharp", Formats: []string{"resx"}, LookUps: []LookUp{{[]string{"resx"}, `\bTABLE\.(NAME)`}}},
	table: "csharp",
	sinks: []sink{
		at(`\b(Text|Content|Header|Title|ToolTip|Caption|PlaceholderText|Placeholder|Label|Description|HeaderText|ToolTipText|Watermark)\s*=|\b(MessageBox\.Show|DisplayAlert(Async)?|DisplayActionSheet)\((?:[^()]*,)?|\bnew (Label|Button|MenuItem|GroupBox|ToolTip)\(`, "Resources.%i", "Resources.", "the class Resources may have another name or namespace here"),
	},
	asks:  lazy(`\b(?:Resources|AppResources|Strings)\.[A-Z]\w*|\b_?[lL]ocalizer\[\s*"|\b\w*(?:[mM]essages|[rR]esources)\w*\.GetString\(\s*"`),
	marks: []string{"esources.", "Strings.", "ocalizer[", "GetString("},
}, ".cs")
