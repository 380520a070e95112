// Package demo is the Skerry Line project: a made-up ferry company's
// passenger application, embedded in the program. MISTAKES.md lists the
// mistakes planted in it.
package demo

import (
	"embed"
	"io/fs"
)

//go:embed all:project MISTAKES.md
var files embed.FS

// Project returns the files of the demo project.
func Project() fs.FS {
	project, err := fs.Sub(files, "project")
	if err != nil {
		panic(err) // the folder is embedded
	}
	return project
}

// Mistakes is the list of planted mistakes, as MISTAKES.md has it.
func Mistakes() string {
	text, err := files.ReadFile("MISTAKES.md")
	if err != nil {
		panic(err) // the file is embedded
	}
	return string(text)
}
