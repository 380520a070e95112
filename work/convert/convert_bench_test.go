package convert

import (
	"fmt"
	"testing"

	"zelvik/format/android"
	"zelvik/format/arb"
	"zelvik/project"
)

// BenchmarkConvert converts entries of every common kind, Android to ARB.
func BenchmarkConvert(b *testing.B) {
	data := []byte("<resources>\n")
	for i := range 10000 {
		switch i % 10 {
		case 3:
			data = fmt.Appendf(data, "    <plurals name=\"k%d\">\n        <item quantity=\"one\">%%d crate</item>\n        <item quantity=\"other\">%%d crates</item>\n    </plurals>\n", i)
		case 1, 5:
			data = fmt.Appendf(data, "    <string name=\"k%d\">From %%1$s to %%2$d islands</string>\n", i)
		default:
			data = fmt.Appendf(data, "    <string name=\"k%d\">The last ferry of the day leaves</string>\n", i)
		}
	}
	data = append(data, "</resources>\n"...)
	b.SetBytes(int64(len(data)))
	for b.Loop() {
		if _, err := File(project.ParseFile("strings.xml", android.Format, data), arb.Format, "app_en.arb", project.Options{}); err != nil {
			b.Fatal(err)
		}
	}
}
