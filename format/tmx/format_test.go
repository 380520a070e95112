package tmx_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/tmx"
)

func TestFormat(t *testing.T) { formattest.Try(t, tmx.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, tmx.Format) }
