package xcstrings_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/xcstrings"
)

func TestFormat(t *testing.T) { formattest.Try(t, xcstrings.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, xcstrings.Format) }
