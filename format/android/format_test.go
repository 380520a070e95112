package android_test

import (
	"testing"

	"zelvik/format/android"
	"zelvik/format/formattest"
)

func TestFormat(t *testing.T) { formattest.Try(t, android.Format) }

func FuzzFormat(f *testing.F) { formattest.Fuzz(f, android.Format) }
