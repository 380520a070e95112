package language

import (
	"path"
	"strconv"
	"strings"

	"github.com/alecthomas/chroma/v2"
)

var (
	// quiet are places whose texts nobody but a developer reads.
	quiet = lazy(`\b(Log\.\w+|println|print|printf|debugPrint|[lL]ogg?er(\.\w+)?|log|NSLog|os_log|console\.\w+|Debug\.\w+|Trace\.\w+|qDebug|qWarning|qCritical|fatalError|precondition\w*|assert\w*|require|check|error|TODO|Regex|compile|getElementById|querySelector\w*|SuppressWarnings|Deprecated|JsonProperty|SerializedName|Named|Test|DisplayName)\s*\([^)]*$|\bthrow\b.*$|\w*(Exception|Error)\(\s*$|^\s*(import|package|#include|#pragma|using|@\w+)\b.*$|(==|!=|case)\s*$|\[\s*$`)
	// asked are places that ask a catalog already.
	asked = lazy(`\b(NSLocalizedString|String\(localized:|LocalizedStringKey|LocalizedStringResource|getString|stringResource|getText|GetString|tr|qtTrId|translate|QT_TR_NOOP|QT_TRANSLATE_NOOP|QStringLiteral|QLatin1String|message|lookup|format)\(\s*[^"()]*$`)
	glue  = lazy(`\+\s*$`)
)

// literal is a text literal in code.
type literal struct {
	from, to int
	text     string
	// pieces says that it has values in it.
	pieces bool
}

// largest bounds the code that is looked at: nobody writes more in one file.
const largest = 1 << 20

// quoted is what may be a literal, within a line.
var quoted = lazy("\"\"\"|'''|\"(?:[^\"\\\\\n]|\\\\.)*\"|'(?:[^'\\\\\n]|\\\\.)*'|`[^`]*`")

// lastCandidate returns the end of the line, or of the file where literals of
// several lines begin, with the last literal that could be found; 0 where there
// is none. The lexers take their time, and most code has no texts.
func (l *Language) lastCandidate(text string) int {
	last := 0
	for _, span := range quoted.re().FindAllStringIndex(text, -1) {
		raw := text[span[0]:span[1]]
		if raw == `"""` || raw == "'''" {
			return len(text)
		}
		start := strings.LastIndexByte(text[:span[0]], '\n') + 1
		body := raw[1 : len(raw)-1]
		shown := Human(body, false)
		for i := 0; !shown && i < len(l.sinks); i++ {
			shown = Human(body, true) && l.sinks[i].before.re().MatchString(text[start:span[0]])
		}
		if shown {
			last = span[1]
		}
	}
	if last == 0 {
		return 0
	}
	if end := strings.IndexByte(text[last:], '\n'); end >= 0 {
		return last + end + 1
	}
	return len(text)
}

// literals lists the text literals of a source file.
func (l *Language) literals(text string) []literal {
	l.once.Do(func() {
		lexer, err := chroma.NewXMLLexer(tables, path.Join("tokens", l.table+".xml"))
		if err != nil {
			panic(err) // the tables are embedded
		}
		l.lexer = lexer
	})
	// The lexers look for the end of a comment's line.
	tokens, err := l.lexer.Tokenise(&chroma.TokeniseOptions{State: "root"}, text+"\n")
	if err != nil {
		return nil
	}
	var list []literal
	at, depth, named := 0, 0, false
	open := literal{from: -1}
	close := func() {
		if open.from >= 0 {
			if lit, ok := unquote(text[open.from:at], open); ok {
				lit.to = at
				list = append(list, lit)
			}
		}
		open = literal{from: -1}
	}
	for token := tokens(); token != chroma.EOF; token = tokens() {
		inString := token.Type.InSubCategory(chroma.LiteralString) && token.Type != chroma.LiteralStringChar && token.Type != chroma.LiteralStringDoc
		switch {
		case token.Type == chroma.LiteralStringInterpol:
			open.pieces = open.from >= 0
			named = token.Value == "$"
			switch token.Value {
			case "${", "\\(", "{":
				depth++
			case "}", ")":
				depth = max(depth-1, 0)
			}
		case depth > 0:
		case named && !inString: // the name after a dollar
			named = false
		case inString && open.from < 0:
			open = literal{from: at}
		case inString && closed(text[open.from:at]): // another literal follows at once
			close()
			open = literal{from: at}
		case !inString:
			close()
		}
		at = min(at+len(token.Value), len(text))
		if open.from >= 0 && depth == 0 && closed(text[open.from:at]) {
			close()
		}
	}
	close()
	return list
}

// prefixes are what may stand before a quote.
var prefixes = lazy(`^(?:[@$]{1,2}|[rRuUL]|u8|#+)?("""|'''|"|'|` + "`)")

// closed reports whether a literal has its end.
func closed(raw string) bool {
	m := prefixes.re().FindStringSubmatch(raw)
	if m == nil || len(raw) < len(m[0])+len(m[1]) || !strings.HasSuffix(raw, m[1]) {
		return false
	}
	body := raw[len(m[0]) : len(raw)-len(m[1])]
	slashes := len(body) - len(strings.TrimRight(body, `\`))
	return slashes%2 == 0 || strings.HasPrefix(raw, "@") || strings.HasPrefix(raw, "r")
}

// unquote returns the text of a literal. One character between single quotes is
// none in the languages that have characters, but the lexers tell those apart.
func unquote(raw string, lit literal) (literal, bool) {
	m := prefixes.re().FindStringSubmatch(raw)
	if m == nil || !closed(raw) {
		return lit, false
	}
	body := raw[len(m[0]) : len(raw)-len(m[1])]
	verbatim := strings.HasPrefix(raw, "@") || strings.HasPrefix(raw, "r") || strings.HasPrefix(raw, "R") || strings.HasPrefix(raw, "#")
	if strings.HasPrefix(raw, "$") || m[1] == "`" && strings.Contains(body, "${") {
		lit.pieces = true
	}
	if verbatim || m[1] == `"""` && !strings.Contains(body, `\`) {
		lit.text = strings.TrimSpace(body)
		return lit, true
	}
	var out strings.Builder
	for i := 0; i < len(body); i++ {
		if body[i] != '\\' || i+1 == len(body) {
			out.WriteByte(body[i])
			continue
		}
		i++
		switch body[i] {
		case 'n':
			out.WriteByte('\n')
		case 't':
			out.WriteByte('\t')
		case 'r', '\n':
		case 'u':
			digits := body[i+1:]
			if strings.HasPrefix(digits, "{") {
				end := strings.IndexByte(digits, '}')
				if n, err := strconv.ParseUint(digits[1:max(end, 1)], 16, 32); err == nil {
					out.WriteRune(rune(n))
					i += end + 1
				}
			} else if len(digits) >= 4 {
				if n, err := strconv.ParseUint(digits[:4], 16, 32); err == nil {
					out.WriteRune(rune(n))
					i += 4
				}
			}
		default:
			out.WriteByte(body[i])
		}
	}
	lit.text = out.String()
	return lit, true
}
