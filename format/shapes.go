package format

import (
	"hash/maphash"
	"strings"
	"unicode/utf8"

	"zelvik/catalog"
	"zelvik/message"
)

// plainKey are the bytes of keys that every format spells as they are, sign
// those of texts that mean something in one format or another.
var plainKey, sign = func() (key [256]bool, sign [256]uint8) {
	for _, c := range "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_" {
		key[c] = true
	}
	for c := range 0x20 {
		sign[c] = 1
	}
	for _, c := range "\\'\"{}%<>&@?#$|^~[]`:=+-_\x7f" {
		sign[c] = 1
	}
	return key, sign
}()

// Shapes tells the entries of a large file that are worth reading back: those
// that are not plain, and of those of one shape the first. What a writer has to
// think about are signs, placeholders, markup, choices and odd keys; two texts
// that differ in words alone are spelled alike.
type Shapes struct {
	seen  map[uint64]struct{}
	seed  maphash.Seed
	shape []byte
}

// NewShapes makes one that has seen no shape.
func NewShapes() *Shapes { return &Shapes{seen: map[uint64]struct{}{}, seed: maphash.MakeSeed()} }

// New reports whether an entry is not plain and has a shape that was not seen.
func (s *Shapes) New(e *catalog.Entry) bool {
	if e.Key == "" || e.Key[0] <= '9' {
		return true
	}
	for i := range len(e.Key) {
		if !plainKey[e.Key[i]] {
			return true
		}
	}
	plain := e.Message.Choice == nil && len(e.Message.Pattern) == 1 && e.Product == "" && e.Reference == ""
	if plain {
		text, ok := e.Message.Pattern[0].(message.Text)
		plain = ok && text != "" && text[0] != ' ' && text[len(text)-1] != ' ' && wordsOnly(string(text))
	}
	note := !wordsOnly(e.Note) // an odd one
	if plain && !note {
		return false
	}
	s.shape = append(append(append(s.shape[:0], e.Product...), 0), e.Reference...)
	if c := e.Message.Choice; c != nil {
		for i := range c.Selectors {
			s.shape = append(s.shape, 2, byte(c.Selectors[i].Kind), byte(c.Selectors[i].Offset))
			s.placeholder(&c.Selectors[i].Argument)
		}
		for i := range c.Variants {
			for _, key := range c.Variants[i].Keys {
				s.shape = append(append(s.shape, 3), key...)
			}
			s.pattern(c.Variants[i].Pattern)
		}
	} else {
		s.pattern(e.Message.Pattern)
	}
	if note {
		s.text(e.Note)
	}
	hash := maphash.Bytes(s.seed, s.shape)
	if _, known := s.seen[hash]; known {
		return false
	}
	s.seen[hash] = struct{}{}
	return true
}

func (s *Shapes) pattern(p message.Pattern) {
	for _, part := range p {
		switch part := part.(type) {
		case message.Text:
			s.text(string(part))
		case *message.Placeholder:
			s.placeholder(part)
		case *message.Markup:
			s.shape = append(append(s.shape, 4, byte(part.Role)), part.Spelling...)
			s.shape = append(append(s.shape, part.Tag...), part.Attributes...)
		}
	}
}

// near is how many characters after a sign may belong to it, up to a space, as
// in \u00e9 or &hellip;.
const near = 8

// text adds a text: words away from signs are one letter, and one without signs
// is known by its edges.
func (s *Shapes) text(text string) {
	if wordsOnly(text) {
		edges := byte(9)
		if text != "" && text[0] == ' ' {
			edges++
		}
		if text != "" && text[len(text)-1] == ' ' {
			edges += 2
		}
		s.shape = append(s.shape, 5, edges)
		return
	}
	shape := append(s.shape, 5)
	from, last := -near-1, byte(0)
	for i := range len(text) {
		c := text[i]
		switch {
		case sign[c] != 0 || c == ' ' && (i == 0 || i == len(text)-1 || text[i+1] == ' '):
			from = i
		case c == ' ':
			from = -near - 1
			continue
		case i-from <= near:
		case c >= utf8.RuneSelf:
			if c = 'b'; last == 'b' {
				continue
			}
		default:
			if c = 'a'; last == 'a' || last == 'b' {
				continue
			}
		}
		shape, last = append(shape, c), c
	}
	s.shape = shape
}

// wordsOnly reports whether a text has no sign, and no two spaces together.
func wordsOnly(text string) bool {
	i := 0
	for ; i+4 <= len(text); i += 4 { // four at once, as most texts of a large file are looked through here
		if sign[text[i]]|sign[text[i+1]]|sign[text[i+2]]|sign[text[i+3]] != 0 {
			return false
		}
	}
	for ; i < len(text); i++ {
		if sign[text[i]] != 0 {
			return false
		}
	}
	return !strings.Contains(text, "  ")
}

func (s *Shapes) placeholder(p *message.Placeholder) {
	s.shape = append(s.shape, 6, byte(p.Type), byte(p.Position), byte(p.Position>>8), byte(p.Syntax))
	s.shape = append(append(append(append(append(append(s.shape, p.Name...), 7), p.Style...), 7), p.Spelling...), 7)
	s.shape = append(s.shape, p.Sample...)
	if p.Wrapped {
		s.shape = append(s.shape, 8)
	}
}
