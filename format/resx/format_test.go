package resx_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/resx"
)

func TestFormat(t *testing.T) { formattest.Try(t, resx.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, resx.Format) }
