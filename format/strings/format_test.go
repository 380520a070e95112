package strings_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/strings"
)

func TestFormat(t *testing.T) { formattest.Try(t, strings.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, strings.Format) }
