package safety

import (
	"flag"
	"testing"

	"zelvik/internal/clitest"
)

// CI runs all of what takes long; without it a part is run that shows most faults.
var runAll = flag.Bool("all", false, "kill in every turn")

func TestMain(m *testing.M) { clitest.Main(m) }
