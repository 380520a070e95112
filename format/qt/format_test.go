package qt_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/qt"
)

func TestFormat(t *testing.T) { formattest.Try(t, qt.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, qt.Format) }
