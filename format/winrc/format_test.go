package winrc_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/winrc"
)

func TestFormat(t *testing.T) { formattest.Try(t, winrc.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, winrc.Format) }
