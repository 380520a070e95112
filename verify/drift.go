package verify

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"zelvik/finding"
	"zelvik/message"
)

var spaceDrift = &Rule{
	Name: "space-drift", Severity: finding.Warning,
	Doc:     "A translation begins or ends with other space than its source.",
	Why:     "Programs join such a text with what stands before or after it: two words run together, or a line is broken in the wrong place.",
	Example: `source "Departs at ", translation "Abfahrt um"`,
	Fix:     "Begin and end it as the source does.",
	Pair: func(p *Pair, report Report) {
		if !comparable(p) || p.Family.Format == "po" && lineEnds(p) != "" { // which msgfmt refuses
			return
		}
		begins, ends := outer(p.Source.Message.Main())
		for _, pattern := range p.Entry.Message.Patterns() {
			b, e := outer(pattern)
			if len(pattern) == 0 || formed(p.Source.Message, b, e) {
				continue
			}
			if p.Member.Culture.Pseudo() { // stands in brackets
				return
			}
			if slices.Contains(spaceless, p.Member.Culture.Script()) && !strings.Contains(begins+ends+b+e, "line") {
				continue
			}
			at, has, wants := "begins", b, begins
			if b == begins {
				at, has, wants = "ends", e, ends
			}
			report(p.Entry, fmt.Sprintf("it %s with %s, its source with %s: %q", at, has, wants, short(p.Entry.Message)), "")
			return
		}
	},
}

// formed reports whether a form of a message begins and ends so.
func formed(m message.Message, begins, ends string) bool {
	for _, pattern := range m.Patterns() {
		if b, e := outer(pattern); b == begins && e == ends {
			return true
		}
	}
	return false
}

// spaceless are scripts that put no space between words.
var spaceless = []string{"Jpan", "Hans", "Hant", "Hani", "Thai", "Laoo", "Khmr", "Mymr", "Tibt"}

// outer says what a pattern begins and ends with, as far as that is space.
func outer(p message.Pattern) (begins, ends string) {
	begins, ends = "no space", "no space"
	if len(p) == 0 {
		return begins, ends
	}
	if text, ok := p[0].(message.Text); ok {
		s := string(text)
		begins = spaced(s[:len(s)-len(strings.TrimLeftFunc(s, unicode.IsSpace))])
	}
	if text, ok := p[len(p)-1].(message.Text); ok {
		s := string(text)
		ends = spaced(s[len(strings.TrimRightFunc(s, unicode.IsSpace)):])
	}
	return begins, ends
}

func spaced(s string) string {
	switch {
	case s == "":
		return "no space"
	case strings.ContainsAny(s, "\n\r"):
		return "a line end"
	}
	return "a space"
}

var urlLost = &Rule{
	Name: "url-lost", Severity: finding.Warning,
	Doc:     "A web address of the source is not in the translation.",
	Why:     "The reader is told to look somewhere, and not where.",
	Example: `source "See https://skerry.example/fares", translation "Siehe Preisliste"`,
	Fix:     "Put in the address, or that of the page in this language.",
	Pair: func(p *Pair, report Report) {
		if !comparable(p) {
			return
		}
		of := p.Source.Message.Main().Literal()
		if !strings.Contains(of, "://") { // as nearly always
			return
		}
		want := address.FindAllString(of, -1)
		for _, pattern := range p.Entry.Message.Patterns() {
			if len(pattern) > 0 && !number.MatchString(pattern.Literal()) && len(address.FindAllString(pattern.Literal(), -1)) < len(want) {
				report(p.Entry, fmt.Sprintf("the address %s of the source is missing: %q", strings.TrimRight(want[0], ".,;:!?)'\""), short(p.Entry.Message)), "")
				return
			}
		}
	},
}

// number is what stands for texts where people translate in the running program: no
// words, and the number of a text.
var number = regexp.MustCompile(`^[!-~]*\d\d[!-~]*$`)

// address is a web address in a text, as far as it is spelled out.
var address = regexp.MustCompile(`(?i)\b(?:https?|ftp)://[\w\[][^\s<>"]*`)

var acceleratorLost = &Rule{
	Name: "accelerator-lost", Severity: finding.Warning,
	Doc:     "The source marks the letter that a key press chooses, and the translation marks none, or two.",
	Why:     "People who work with the keyboard cannot reach the menu or button any more.",
	Example: `source "&Timetable", translation "Fahrplan"`,
	Fix:     "Put & before a letter of the translation, or (&T) after it where the script has no such letter.",
	Pair: func(p *Pair, report Report) {
		if !comparable(p) || p.Source.Message.Choice != nil || p.Entry.Message.Choice != nil || accelerators(p.Source.Message.Main()) != 1 {
			return
		}
		if n := accelerators(p.Entry.Message.Main()); n != 1 {
			marks := map[bool]string{true: "no letter", false: "more than one letter"}[n == 0]
			report(p.Entry, fmt.Sprintf("%q marks %s with &; the source has %q", short(p.Entry.Message), marks, short(p.Source.Message)), "")
		}
	},
}

// accelerators counts the letters that a single & marks. That of "R&D", of an entity
// and of an address marks none.
func accelerators(p message.Pattern) (n int) {
	text := p.Literal()
	if !strings.Contains(text, "&") || p.Markup() != nil || address.MatchString(text) {
		return 0
	}
	for i := 0; i < len(text); i++ {
		if text[i] != '&' {
			continue
		}
		if strings.HasPrefix(text[i+1:], "&") { // stands for the sign
			i++
			continue
		}
		before, _ := utf8.DecodeLastRuneInString(text[:i])
		after, _ := utf8.DecodeRuneInString(text[i+1:])
		switch {
		case !unicode.IsLetter(after) && !unicode.IsDigit(after),
			unicode.IsUpper(before) && unicode.IsUpper(after), unicode.IsDigit(before),
			entity.MatchString(text[i:]):
		default:
			n++
		}
	}
	return n
}

var entity = regexp.MustCompile(`^&#?\w+;`)
