package language

// CPP is C++ with Qt, or with Windows' string tables.
var CPP = made(&Language{
	Kind:  Kind{Name: "C++", Accessor: "cpp", Formats: []string{"qt"}, LookUps: []LookUp{qtID, {[]string{"winrc"}, `\bLoadString[AW]?\([^,;]*,\s*(KEY)`}}},
	table: "cpp",
	sinks: []sink{
		at(`(->|\.|\b)(setText|setWindowTitle|setTitle|setToolTip|setStatusTip|setPlaceholderText|addItem|setWhatsThis|setInformativeText|setLabelText|addAction|addMenu|setHeaderLabel)\(|addTab\([^,()]*,|\bnew Q(Label|PushButton|CheckBox|RadioButton|GroupBox|Action|Menu|ToolButton)\(|QMessageBox::\w+\((?:[^()"]*,)?`, `qtTrId("%s")`, "qtTrId(", "the file does not use qtTrId yet"),
	},
	asks:  lazy(`\b(?:QObject::)?tr\(\s*"|\bqtTrId\(\s*"`),
	marks: []string{"tr(", "qtTrId("},
}, ".cpp", ".cc", ".cxx")

// header is a header of C and C++, which gives the keys of string tables their numbers.
var header = made(&Language{Kind: Kind{Name: "C header", LookUps: []LookUp{qtID, Defined}}}, ".h")

var qtID = LookUp{[]string{"qt"}, `\bqtTrId\(\s*"(KEY)`}

// Defined is the definition of a key by the preprocessor.
var Defined = LookUp{[]string{"winrc"}, `#define\s+(KEY)`}
