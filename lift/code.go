package lift

import (
	"embed"
	"path"
	"strconv"
	"strings"
	"sync"

	"github.com/alecthomas/chroma/v2"

	"zelvik/format"
)

// The lexers' tables are those of the library, beside this file so that only
// the languages here are loaded, and only when they are asked for.
//
//go:embed tokens/*.xml
var tables embed.FS

// language is how texts are found in code.
type language struct {
	table string
	// sinks are places that show a text: what stands on the line before it.
	sinks []sink
	once  sync.Once
	lexer chroma.Lexer
}

// sink is a place that shows texts.
type sink struct {
	before *pattern
	// reference is how the language asks for a key there; %s is the key, %i the
	// key as a name in code.
	reference string
	// needs is what a file has to have so that the change is certain: "" for
	// nothing, "-" for that it never is.
	needs string
	doubt string
}

// ask spells how a key is asked for.
func (s sink) ask(key string) string {
	quoted := strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`).Replace(key)
	return strings.NewReplacer("%s", quoted, "%i", Identifier(key)).Replace(s.reference)
}

func code(name, table string, formats []string, endings []string, sinks ...sink) *Kind {
	l := &language{table: table, sinks: sinks}
	return &Kind{Name: name, Formats: formats, matches: ending(endings...), find: l.find}
}

func at(pattern, reference, needs, doubt string) sink {
	return sink{lazy(`(?:` + pattern + `)\s*$`), reference, needs, doubt}
}

const (
	properties = `(?i:text|title|hint|message|label|contentDescription|subtitle|summary|placeholder|description|tooltip|caption|header|prompt)`
	never      = "-"
)

var kotlin = code("Kotlin", "kotlin", []string{"android", "properties"}, []string{".kt"},
	at(`\.(setText|setHint|setTitle|setSubtitle|setMessage|setSummary|setPositiveButton|setNegativeButton|setNeutralButton)\(|(Toast\.makeText|Snackbar\.make)\([^,()]*,`, "R.string.%i", "", ""),
	at(`\b(Text|OutlinedTextField|TextField)\((\s*text\s*=)?|\bcontentDescription\s*=`, "stringResource(R.string.%i)", never, "stringResource is for composable functions"),
	at(`\b`+properties+`\s*=`, "getString(R.string.%i)", never, "getString needs a context"))

var java = code("Java", "java", []string{"android", "properties"}, []string{".java"},
	at(`\.(setText|setHint|setTitle|setSubtitle|setMessage|setSummary|setPositiveButton|setNegativeButton|setNeutralButton)\(|(Toast\.makeText|Snackbar\.make)\([^,()]*,`, "R.string.%i", "import android", "the file does not look like one of Android"),
	at(`\bnew (J?(Label|Button|MenuItem|Menu|CheckBox|RadioButton)|Text|Tab|Tooltip|TitledPane|CheckMenuItem)\(|\.set(Text|Title|HeaderText|ContentText|PromptText|ToolTipText)\(`, `ResourceBundle.getBundle("texts").getString("%s")`, never, "the bundle may be at hand under another name"))

var swift = code("Swift", "swift", []string{"xcstrings", "strings"}, []string{".swift"},
	at(`\b(Text|Label|Button|Toggle|TextField|SecureField|NavigationLink|Section|Picker|Menu|Link|Stepper|DisclosureGroup)\(|\.(navigationTitle|navigationBarTitle|alert|help|accessibilityLabel|accessibilityHint|confirmationDialog)\(|\.setTitle\(|\.(text|title|placeholder|message|prompt|subtitle|accessibilityLabel|accessibilityHint)\s*=|\b(title|message|subtitle|placeholder|prompt|label)\s*:`, `NSLocalizedString("%s", comment: "")`, "", ""))

var csharp = code("C#", "csharp", []string{"resx"}, []string{".cs"},
	at(`\b(Text|Content|Header|Title|ToolTip|Caption|PlaceholderText|Placeholder|Label|Description|HeaderText|ToolTipText|Watermark)\s*=|\b(MessageBox\.Show|DisplayAlert(Async)?|DisplayActionSheet)\((?:[^()]*,)?|\bnew (Label|Button|MenuItem|GroupBox|ToolTip)\(`, "Resources.%i", "Resources.", "the class Resources may have another name or namespace here"))

var dart = code("Dart", "dart", []string{"arb"}, []string{".dart"},
	at(`\b(Text|SelectableText)\(|\b(title|label|labelText|hintText|helperText|tooltip|message|semanticLabel|semanticsLabel|errorText|text|subtitle)\s*:(\s*const)?(\s*Text\()?`, "AppLocalizations.of(context)!.%i", never, "it needs a context, and no const around it"))

var typescript = code("TypeScript", "typescript", []string{"json"}, []string{".ts", ".tsx"},
	at(`\.(textContent|innerText|title|placeholder|alt|ariaLabel)\s*=|\b(alert|confirm|prompt)\(|\b(label|title|message|placeholder|text|description|tooltip|heading|caption|ariaLabel)["']?\s*:|\b(label|title|placeholder|alt|aria-label)=\{?`, "wording.%i", never, "the accessors may be at hand under another name"))

var cpp = code("C++", "cpp", []string{"qt"}, []string{".cpp", ".cc", ".cxx"},
	at(`(->|\.|\b)(setText|setWindowTitle|setTitle|setToolTip|setStatusTip|setPlaceholderText|addItem|setWhatsThis|setInformativeText|setLabelText|addAction|addMenu|setHeaderLabel)\(|addTab\([^,()]*,|\bnew Q(Label|PushButton|CheckBox|RadioButton|GroupBox|Action|Menu|ToolButton)\(|QMessageBox::\w+\((?:[^()"]*,)?`, `qtTrId("%s")`, "qtTrId(", "the file does not use qtTrId yet"))

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

func (l *language) find(p, text string, _ Options) []Found {
	if len(text) > largest {
		return nil
	}
	last := l.lastCandidate(text)
	if last == 0 {
		return nil
	}
	var list []Found
	for _, lit := range l.literals(text[:last]) {
		start := strings.LastIndexByte(text[:lit.from], '\n') + 1
		before := text[start:lit.from]
		if asked.re().MatchString(before) {
			continue
		}
		rest := text[lit.to:]
		if end := strings.IndexByte(rest, '\n'); end >= 0 {
			rest = rest[:end]
		}
		glued := glue.re().MatchString(before) || strings.HasPrefix(strings.TrimSpace(rest), "+")
		found := Found{From: lit.from, To: lit.to, Text: lit.text, Screen: screen(p), Doubt: "it may not be shown to people"}
		found.Reference = l.sinks[0].ask
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
			continue
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
		if found.Where == "" {
			found.Where = "in code"
		}
		list = append(list, found)
	}
	return list
}

// quoted is what may be a literal, within a line.
var quoted = lazy("\"\"\"|'''|\"(?:[^\"\\\\\n]|\\\\.)*\"|'(?:[^'\\\\\n]|\\\\.)*'|`[^`]*`")

// lastCandidate gives the end of the line, or of the file where literals of
// several lines begin, with the last literal that could be found; 0 where there
// is none. The lexers take their time, and most code has no texts.
func (l *language) lastCandidate(text string) int {
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
func (l *language) literals(text string) []literal {
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
		case named && !inString: // the name behind a dollar
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

// unquote gives the text of a literal. One character between single quotes is
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
