package accessor

import (
	"regexp"
	"strings"
	"sync"

	"zelvik/message"
	"zelvik/message/native"
)

// JavaFormat gives String.format or MessageFormat a placeholder of theirs as the first
// argument.
func JavaFormat(p *message.Placeholder) string {
	spelling := native.Spelling(p)
	switch {
	case p.Syntax == message.Java && strings.HasPrefix(spelling, "%") && (p.Style != "" || p.Type != message.String):
		return "%" + javaPosition().ReplaceAllString(spelling[1:], "")
	case p.Syntax == message.ICU && javaArgument().MatchString(p.Spelling) && !strings.Contains(p.Spelling, "::"):
		return "{0" + strings.TrimLeft(p.Spelling[1:], "0123456789 ")
	}
	return ""
}

var (
	javaPosition = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`^\d+\$`) })
	javaArgument = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`^\{ *\d+ *, *(number|date|time|choice) *[,}]`) })
)

// OfMessageFormat returns the type of a parameter in Java and Kotlin: MessageFormat
// writes whole numbers, too, of all numbers, and chooses by them.
func (t Types) OfMessageFormat(p Parameter) string {
	if strings.HasPrefix(p.Spelling, "{") && (p.Type == message.Integer || p.Type == message.String) {
		return t.Decimal
	}
	return t.Of(p.Type)
}
