package json_test

import (
	"testing"

	"zelvik/format/formattest"
	"zelvik/format/json"
)

func TestFormat(t *testing.T) { formattest.Try(t, json.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, json.Format) }
