package text

import (
	"unicode"

	"github.com/go-text/typesetting/segmenter"
)

// breaks returns the places (characters) at which a line may end, the end of the
// text included, and those at which it must: UAX #14 with what browsers do
// beside it, so that lines end where a person has seen them end.
//
//   - Small kana and the prolonged sound mark may begin a line (CSS Text,
//     line-break: normal; UAX #14 leaves the class CJ to tailoring).
//   - A line may end after a hyphen between a letter and a digit: SK-4471.
//   - Thai lines end between words, which a dictionary knows.
//   - It does not end after a slash before a letter or another slash: an
//     address stays whole where it can.
func breaks(text []rune) (may []int, must map[int]bool) {
	must = map[int]bool{}
	tailored := make([]rune, len(text))
	for i, r := range text {
		if tailored[i] = r; conditional(r) {
			tailored[i] = 'あ'
		}
	}
	ends := map[int]bool{}
	var seg segmenter.Segmenter
	seg.Init(tailored)
	for lines := seg.LineIterator(); lines.Next(); {
		line := lines.Line()
		end := line.Offset + len(line.Text)
		ends[end] = true
		if line.IsMandatoryBreak && end < len(text) {
			must[end] = true
		}
	}
	for _, at := range thaiWords(text) {
		ends[at] = true
	}
	for i := 1; i <= len(text); i++ {
		if i < len(text) && !must[i] {
			before, next := text[i-1], text[i]
			switch {
			case before == '-' && i > 1 && unicode.IsLetter(text[i-2]) && unicode.IsDigit(next):
				ends[i] = true
			case before == '/' && (unicode.IsLetter(next) || unicode.IsDigit(next) || next == '/'):
				delete(ends, i)
			}
		}
		if ends[i] {
			may = append(may, i)
		}
	}
	return may, must
}

// conditional reports whether a character is of the line breaking class CJ:
// small kana, and the marks that prolong a sound (LineBreak.txt).
func conditional(r rune) bool {
	switch {
	case r < 0x3041 || r > 0x30FC && r < 0x31F0:
		return false
	case r >= 0x31F0 && r <= 0x31FF || r == 0x30FC || r >= 0xFF67 && r <= 0xFF70:
		return true
	}
	for _, small := range "ぁぃぅぇぉっゃゅょゎゕゖァィゥェォッャュョヮヵヶ" {
		if r == small {
			return true
		}
	}
	return false
}
