package format

import "strings"

// AppendQuoted appends text in double quotes. Quotes, backslashes and control
// characters go through instead; most texts have none, so that they are copied
// in long runs.
func AppendQuoted(out []byte, text string, instead func(out []byte, c byte) []byte) []byte {
	out = append(out, '"')
	for {
		n := Run(text, '"', '\\')
		if del := strings.IndexByte(text[:n], 0x7F); del >= 0 {
			n = del
		}
		if out = append(out, text[:n]...); n == len(text) {
			return append(out, '"')
		}
		out = instead(out, text[n])
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
