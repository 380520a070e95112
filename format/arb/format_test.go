package arb_test

import (
	"testing"

	"zelvik/format/arb"
	"zelvik/format/formattest"
)

func TestFormat(t *testing.T) { formattest.Try(t, arb.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, arb.Format) }
