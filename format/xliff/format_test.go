package xliff_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/xliff"
)

func TestFormat(t *testing.T) { formattest.Try(t, xliff.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, xliff.Format) }
