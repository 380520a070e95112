// Command zelvik makes an application speak more than one language: see
// README.md, or run zelvik demo.
package main

import (
	"context"
	"os"
	"os/signal"

	"zelvik/internal/cli"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	status := cli.Run(ctx, os.Args, os.Stdout, os.Stderr)
	stop()
	os.Exit(status)
}
