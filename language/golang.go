package language

// Go calls accessors; texts are not looked for in it.
var Go = made(&Language{Kind: Kind{Name: "Go", Accessor: "go"}}, ".go")
