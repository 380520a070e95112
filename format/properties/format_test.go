package properties_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/properties"
)

func TestFormat(t *testing.T) { formattest.Try(t, properties.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, properties.Format) }
