// Command zelvik makes an application speak more than one language: see
// README.md, or run zelvik demo.
package main

import (
	"os"

	"zelvik/internal/cli"
)

func main() { os.Exit(cli.Main(os.Args, os.Stdout, os.Stderr)) }
