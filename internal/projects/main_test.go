package projects

import (
	"testing"

	"zelvik/internal/clitest"
)

func TestMain(m *testing.M) { clitest.Main(m) }
