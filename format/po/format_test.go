package po_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/po"
)

func TestFormat(t *testing.T) { formattest.Try(t, po.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, po.Format) }
