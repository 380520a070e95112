package language

import (
	"embed"
	"strings"
	"sync"

	"github.com/alecthomas/chroma/v2"

	"zelvik/format"
)

// Languages lists all languages. Adding one is adding its file and its line here.
var Languages = []*Language{Kotlin, Java, Swift, ObjectiveC, CSharp, Dart, TypeScript, JavaScript, CPP, header, Go}

// Language is a programming language.
type Language struct {
	Kind
	// table names the lexer's, "" where no texts are looked for.
	table string
	// sinks are the places that show a text, best first.
	sinks []sink
	// asks finds the beginnings of look-ups that give a text; marks are what a line
	// has then, as an expression is slow and few lines have one.
	asks  *pattern
	marks []string

	once  sync.Once
	lexer chroma.Lexer
}

// The lexers' tables are those of the library, beside this file so that only
// the languages here are loaded, and only when they are asked for.
//
//go:embed tokens/*.xml
var tables embed.FS

// sink is a place that shows texts: what stands on the line before one.
type sink struct {
	before *pattern
	// reference is how the language asks for a key there; %s is the key, %i the
	// key as a name in code.
	reference string
	// needs is what a file has to have so that the change is certain: "" for
	// nothing, never for that it never is.
	needs string
	doubt string
}

const (
	never = "-"
	// properties are the names of what holds texts, in any language.
	properties = `(?i:text|title|hint|message|label|contentDescription|subtitle|summary|placeholder|description|tooltip|caption|header|prompt)`
)

func at(pattern, reference, needs, doubt string) sink {
	return sink{lazy(`(?:` + pattern + `)\s*$`), reference, needs, doubt}
}

// ask spells how a key is asked for.
func (s sink) ask(key string) string {
	quoted := strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`).Replace(key)
	return strings.NewReplacer("%s", quoted, "%i", Identifier(key)).Replace(s.reference)
}

// made fills in what follows from the fields of a language whose files have these
// endings.
func made(l *Language, endings ...string) *Language {
	l.Matches, l.Quoted = Ending(endings...), true
	if l.sinks != nil {
		l.Texts = l.texts
	}
	if l.asks != nil {
		l.Glued = l.glued
	}
	return l
}

// texts finds the texts that are shown, and those that may be.
func (l *Language) texts(p, text string, _ Options) []Text {
	if len(text) > largest {
		return nil
	}
	last := l.lastCandidate(text)
	if last == 0 {
		return nil
	}
	var list []Text
	for _, lit := range l.literals(text[:last]) {
		if one, ok := l.shown(text, lit); ok {
			one.Screen = Screen(p)
			list = append(list, one)
		}
	}
	return list
}

// shown makes a Text of a literal; it is false where nobody reads it.
func (l *Language) shown(text string, lit literal) (Text, bool) {
	before := text[strings.LastIndexByte(text[:lit.from], '\n')+1 : lit.from]
	if asked.re().MatchString(before) {
		return Text{}, false
	}
	rest, _, _ := strings.Cut(text[lit.to:], "\n")
	glued := glue.re().MatchString(before) || strings.HasPrefix(strings.TrimSpace(rest), "+")
	found := Text{From: lit.from, To: lit.to, Text: lit.text, Where: "in code", Doubt: "it may not be shown to people", Reference: l.sinks[0].ask}
	shown := false
	for _, s := range l.sinks {
		m := s.before.re().FindString(before)
		if m == "" {
			continue
		}
		shown = true
		found.Where, found.Doubt = strings.TrimSpace(m), s.doubt
		found.Certain = s.needs == "" || s.needs != never && strings.Contains(text, s.needs)
		found.Reference = s.ask
		break
	}
	if !shown && (quiet.re().MatchString(before) || glued && !Human(lit.text, false)) || !Human(lit.text, shown) {
		return Text{}, false
	}
	switch {
	case lit.pieces:
		found.Certain, found.Doubt = false, "it has values in it: give them as arguments"
	case glued:
		found.Certain, found.Doubt = false, "it is joined with other pieces: make one text with placeholders of them"
	}
	if found.Certain {
		found.Doubt = ""
	}
	reference := found.Reference
	found.With = func(key string) []format.Replacement {
		return []format.Replacement{{Start: lit.from, End: lit.to, Text: reference(key)}}
	}
	return found, true
}
