package android

import "strings"

// trail is a comment that stands after an element on its line. First is the
// first entry of the element.
type trail struct{ from, to, first int }

// comment keeps a comment as the note of the element that follows it, or of the
// one on whose line it stands.
func (p *parser) comment() {
	text := tidyComment(p.src[p.InnerFrom:p.InnerTo])
	if p.trailing() {
		entries := p.Catalog.Entries
		for i := p.first; i < len(entries); i++ {
			if entries[i].Note != "" {
				text = entries[i].Note + "\n" + text
			}
			entries[i].Note = text
		}
		if len(entries) > p.first {
			p.trail(len(entries)-1, trail{p.From, p.To, p.first})
		}
		return
	}
	if p.noteFrom < 0 {
		p.noteFrom = p.From
	} else {
		p.note.WriteByte('\n')
	}
	p.note.WriteString(text)
}

// trailing reports whether the comment stands after an element, on its line
// and at the end of it.
func (p *parser) trailing() bool {
	if p.ended < 0 || p.noteFrom >= 0 || strings.IndexByte(p.src[p.ended:p.To], '\n') >= 0 {
		return false
	}
	rest := strings.TrimLeft(p.src[p.To:], " \t\r")
	return rest == "" || rest[0] == '\n'
}

func (p *parser) trail(entry int, t trail) {
	if p.trails == nil {
		p.trails = map[int]trail{}
	}
	p.trails[entry] = t
}

// tidyComment takes the indentation off the lines of a comment.
func tidyComment(text string) string {
	text = strings.TrimSpace(text)
	if strings.IndexByte(text, '\n') < 0 {
		return text
	}
	lines := strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n")
	for i := range lines {
		lines[i] = strings.TrimSpace(lines[i])
	}
	return strings.Join(lines, "\n")
}

func (p *parser) clearNote() {
	if p.noteFrom >= 0 {
		p.note.Reset()
		p.noteFrom = -1
	}
}

// between looks at the text between elements: a blank line parts a comment
// from what follows it.
func (p *parser) between() {
	text := p.src[p.From:p.To]
	breaks := 0
	for i := 0; i < len(text); i++ {
		switch text[i] {
		case '\n':
			breaks++
		case ' ', '\t', '\r':
		default:
			if len(p.Open) > 0 {
				p.Damaged(p.From+i, "", "text between the elements", "put it into a <string> or a comment")
			}
			return
		}
	}
	if breaks > 1 {
		p.clearNote()
	}
}
