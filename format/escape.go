package format

// AppendQuoted appends text in double quotes. Quotes, backslashes and control
// characters go through instead; most texts have none, so that they are copied
// in long runs.
func AppendQuoted(out []byte, text string, instead func(out []byte, c byte) []byte) []byte {
	out = append(out, '"')
	from := 0
	for i := range len(text) {
		if c := text[i]; c < ' ' || c == '"' || c == '\\' || c == 0x7F {
			out = instead(append(out, text[from:i]...), c)
			from = i + 1
		}
	}
	return append(append(out, text[from:]...), '"')
}

// Put appends texts.
func Put(out []byte, texts ...string) []byte {
	for _, text := range texts {
		out = append(out, text...)
	}
	return out
}
