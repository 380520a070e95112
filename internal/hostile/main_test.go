package hostile

import (
	"flag"
	"testing"

	"zelvik/internal/clitest"
)

// CI runs all of what takes long; without it a part is run that shows most faults.
var runAll = flag.Bool("all", false, "run every hostile file, and every command on closed streams")

func TestMain(m *testing.M) { clitest.Main(m) }
