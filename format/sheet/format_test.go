package sheet_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/sheet"
)

func TestFormat(t *testing.T) { formattest.Try(t, sheet.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, sheet.Format) }
