package format

import (
	"fmt"
	"strings"
)

// AppendQuoted appends text in double quotes. Quotes, backslashes and control
// characters are spelled as short says, others as number does, which is a verb of
// fmt. Most texts have none, so that they are copied in long runs.
func AppendQuoted(out []byte, text string, short map[byte]string, number string) []byte {
	out = append(out, '"')
	for {
		n := Run(text, '"', '\\')
		if del := strings.IndexByte(text[:n], 0x7F); del >= 0 {
			n = del
		}
		if out = append(out, text[:n]...); n == len(text) {
			return append(out, '"')
		}
		if spelled, ok := short[text[n]]; ok {
			out = append(out, spelled...)
		} else {
			out = fmt.Appendf(out, number, text[n])
		}
		text = text[n+1:]
	}
}

// Put appends texts.
func Put(out []byte, texts ...string) []byte {
	for _, text := range texts {
		out = append(out, text...)
	}
	return out
}
