package stringsdict_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/stringsdict"
)

func TestFormat(t *testing.T) { formattest.Try(t, stringsdict.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, stringsdict.Format) }
