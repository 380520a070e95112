package judge

import (
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/catalog"
	"zelvik/format"
	"zelvik/format/all"
	"zelvik/message"
)

// reader is a platform's own reader of a format, which says what texts are in a
// file that was made of pieces at random.
type reader struct {
	format, file string
	pieces       []string
	// entry writes the entry with a number, head and foot what stands around all.
	entry      func(n int, text string) string
	head, foot string
	// texts reads a file: texts by the number of their entry.
	texts func(t *testing.T, dir, file string) map[string]string
}

var (
	letters = []string{"a", "word", "é", "😀", "\u00a0", "\u3000", "\u200f", "\u2028", "#", "!", "=", ":", ";", " ", "  "}
	inLines = []string{"\t", "\n", "\n    ", "\r\n"}
	inXML   = []string{"&amp;", "&lt;", "&gt;", "&#10;", "&#xe9;", "&#x301;", "&#160;", "\t", "\n", "\n    "}
)

var readers = []reader{
	{
		format: "android", file: "res/values/strings.xml",
		pieces: append([]string{`\'`, `\"`, `\n`, `\t`, `\@`, `\?`, `\\`, `\u00e9`, `\u0020`, `"it's  two  "`, "<![CDATA[ x  y ]]>", "<![CDATA[a<q>]]>", "<!-- c -->",
			`<xliff:g id="n">v</xliff:g>`, "<xliff:g> v</xliff:g>", `\#`, `\ x`, "\\\n", "x@", "x?", "\r\n"}, inXML...),
		entry: func(n int, text string) string {
			return fmt.Sprintf("<string name=\"k%d\" formatted=\"false\">%s</string>\n", n, text)
		},
		head: "<resources xmlns:xliff=\"urn:oasis:names:tc:xliff:document:1.2\">\n", foot: "</resources>",
		texts: resourceTexts,
	},
	{
		format: "properties", file: "a.properties",
		pieces: []string{`\u0041`, `\ud83d\ude00`, `\ `, `\=`, `\:`, `\#`, `\t`, `\n`, `\r`, `\f`, `\q`, `\\`, "\\\n", "\\\n   ", "\\\r\n\t", "\f", `"`, "'"},
		entry: func(n int, text string) string {
			return fmt.Sprintf("%sk%d%s%s\n", []string{"", " \t", "#x\n", "\\\n  "}[n%4], n, []string{"=", " = ", ":", " ", "\t:\t"}[n%5], text)
		},
		texts: func(t *testing.T, dir, file string) map[string]string {
			javac, java := need(t, "javac"), need(t, "java")
			write(t, filepath.Join(dir, "Read.java"), `
import java.io.*; import java.nio.charset.StandardCharsets; import java.util.Properties;
public class Read { public static void main(String[] a) throws Exception {
  Properties p = new Properties(); p.load(new InputStreamReader(new FileInputStream(a[0]), StandardCharsets.UTF_8));
  for (String k : p.stringPropertyNames()) if (k.matches("k[0-9]+")) { StringBuilder b = new StringBuilder(k + " "); for (char c : p.getProperty(k).toCharArray()) b.append(String.format("%04x", (int) c)); System.out.println(b); } } }`)
			tool(t, dir, javac, "Read.java")
			return hexTexts(t, tool(t, dir, java, "Read", file))
		},
	},
	{
		format: "resx", file: "a.resx", pieces: append([]string{"&quot;", "&#13;&#10;", `\n`}, inXML...),
		entry: func(n int, text string) string {
			return fmt.Sprintf("<data name=\"k%d\" xml:space=\"preserve\">\n<value>%s</value></data>\n", n, text)
		},
		head: `<?xml version="1.0" encoding="utf-8"?><root><resheader name="resmimetype"><value>text/microsoft-resx</value></resheader><resheader name="version"><value>2.0</value></resheader>` +
			`<resheader name="reader"><value>System.Resources.ResXResourceReader, System.Windows.Forms, Version=4.0.0.0</value></resheader>` +
			`<resheader name="writer"><value>System.Resources.ResXResourceWriter, System.Windows.Forms, Version=4.0.0.0</value></resheader>`, foot: "</root>",
		texts: func(t *testing.T, dir, file string) map[string]string {
			mcs, mono := need(t, "mcs"), need(t, "mono")
			write(t, filepath.Join(dir, "Read.cs"), `
using System; using System.Collections; using System.Resources;
class Read { static void Main(string[] a) { foreach (DictionaryEntry d in new ResXResourceReader(a[0])) {
  Console.Write(d.Key + " "); foreach (char c in (string)d.Value) Console.Write("{0:x4}", (int)c); Console.WriteLine(); } } }`)
			tool(t, dir, mcs, "-r:System.Windows.Forms", "Read.cs")
			return hexTexts(t, tool(t, dir, mono, "Read.exe", file))
		},
	},
	{
		format: "qt", file: "a.ts", pieces: append([]string{`<byte value="x7"/>`, `<byte value="x9f"/>`, "&apos;", "&#13;", "\r\n"}, inXML...),
		entry: func(n int, text string) string {
			return fmt.Sprintf("<message id=\"k%d\"><source>k%d</source><translation>x%s</translation></message>\n", n, n, text)
		},
		head: "<!DOCTYPE TS><TS version=\"2.1\" language=\"de\"><context><name></name>\n", foot: "</context></TS>",
		texts: compiledQt,
	},
	{
		format: "po", file: "a.po",
		pieces: []string{`\n`, `\t`, `\"`, `\\`, `\x41 `, `\101 `, `\a`, "\"\n\"", "\" \"", "\"\n  \"", "'", "%", "|"},
		entry: func(n int, text string) string {
			return fmt.Sprintf("%smsgid \"k%d\"\nmsgstr \"x%sx\"\n%s", []string{"", "#. note\n", "#, c-format\n#: a.c:1\n"}[n%3], n, text, []string{"\n", "", "\n\n"}[n%3])
		},
		head: "msgid \"\"\nmsgstr \"Content-Type: text/plain; charset=UTF-8\\n\"\n\n",
		texts: func(t *testing.T, dir, file string) map[string]string {
			msgfmt, python := need(t, "msgfmt"), need(t, "python3")
			tool(t, dir, msgfmt, "-o", "a.mo", file)
			return jsonTexts(t, tool(t, dir, python, "-c", `import gettext, json; print(json.dumps({k: v for k, v in gettext.GNUTranslations(open("a.mo", "rb"))._catalog.items() if k}))`))
		},
	},
	{
		format: "json", file: "en.json", pieces: []string{`\n`, `\t`, `\"`, `\\`, `\/`, `\u00e9`, `\ud83d\ude00`, `\b`, `\f`, "'", "<", "&"},
		entry: func(n int, text string) string {
			return fmt.Sprintf("%s\"k%d\"%s\"%s\"%s", []string{"", "\n  ", "\t"}[n%3], n, []string{":", " : "}[n%2], text, ",")
		},
		head: "{", foot: "\"end\": \"\"}",
		texts: func(t *testing.T, dir, file string) map[string]string {
			return jsonTexts(t, tool(t, dir, need(t, "python3"), "-c", `import json, sys; print(json.dumps(json.load(open(sys.argv[1], encoding="utf-8"))))`, file))
		},
	},
	{
		format: "sheet", file: "a.csv", pieces: append([]string{`""`, "'", ",", "x,y", `\`}, inLines[:3]...),
		entry: func(n int, text string) string { return fmt.Sprintf("k%d,\"x%s\"\r\n", n, text) },
		head:  "key,en\r\n",
		texts: func(t *testing.T, dir, file string) map[string]string {
			return jsonTexts(t, tool(t, dir, need(t, "python3"), "-c", `import csv, json, sys; print(json.dumps(dict(r for r in csv.reader(open(sys.argv[1], encoding="utf-8", newline="")) if r)))`, file))
		},
	},
	{
		format: "stringsdict", file: "a.stringsdict", pieces: append([]string{"<![CDATA[a<q>\r\n]]>", "<!-- c -->", "&#13;", "\r\n"}, inXML...),
		entry: func(n int, text string) string {
			return fmt.Sprintf("<key>k%d</key>\n\t<string>%s</string>\n", n, text)
		},
		head: "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<plist version=\"1.0\"><dict>\n", foot: "</dict></plist>",
		texts: func(t *testing.T, dir, file string) map[string]string {
			return jsonTexts(t, tool(t, dir, need(t, "python3"), "-c", `import plistlib, json, sys; print(json.dumps(plistlib.load(open(sys.argv[1], "rb"))))`, file))
		},
	},
}

// Files made of odd pieces say to us what they say to their platform's reader.
func TestReadersAgree(t *testing.T) {
	for _, r := range readers {
		t.Run(r.format, func(t *testing.T) {
			dir := t.TempDir()
			random := rand.New(rand.NewPCG(4, uint64(len(r.format))))
			pieces := append(append([]string{}, r.pieces...), letters...)
			var file strings.Builder
			file.WriteString(r.head)
			raw := map[string]string{}
			for n := range 400 {
				text := ""
				for range random.IntN(8) {
					text += pieces[random.IntN(len(pieces))]
				}
				entry := r.entry(n, text)
				raw[fmt.Sprintf("k%d", n)] = entry
				file.WriteString(entry)
			}
			file.WriteString(r.foot)
			write(t, filepath.Join(dir, r.file), file.String())
			theirs := r.texts(t, dir, r.file)
			require.Greater(t, len(theirs), 300)
			f, err := all.Named(r.format)
			require.NoError(t, err)
			document, _ := f.Parse([]byte(file.String()))
			catalogs := document.Catalogs()
			ours := catalogs[len(catalogs)-1]
			for key, text := range theirs {
				if raw[key] == "" || text == "" {
					continue
				}
				if e := ours.Find(key); assert.NotNil(t, e, raw[key]) {
					assert.Equal(t, text, marks.ReplaceAllString(e.Message.String(), ""), raw[key])
				}
			}
		})
	}
}

// What we write of texts full of signs is to the platform's reader what it was.
func TestWritersAgree(t *testing.T) {
	signs := append([]string{"'", `"`, `\`, `\n`, `\u0041`, "<", ">", "&", "&amp;", "&lt;b>", "<b>", "</b>", "<b", "]]>", "<!--", "-->", "{", "}", "{0}", "{{x}}", "%", "%%", "100%",
		"%1", "%d", "@", "@string/a", "?", "$", "|", "//", "/*", "*/", "''", `""`, ",", "=1+1", "-", "+", "0", "\n", "\t", "\n\n", "   "}, letters...)
	for _, r := range readers {
		if r.format == "stringsdict" { // holds plurals alone
			continue
		}
		t.Run(r.format, func(t *testing.T) {
			dir := t.TempDir()
			f, err := all.Named(r.format)
			require.NoError(t, err)
			random := rand.New(rand.NewPCG(7, uint64(len(r.format))))
			c := &catalog.Catalog{Culture: "en"}
			for n := range 400 {
				text := ""
				for range 1 + random.IntN(7) {
					text += signs[random.IntN(len(signs))]
				}
				c.Add(catalog.Entry{Key: fmt.Sprintf("k%d", n), Message: message.Message{Pattern: message.Pattern{message.Text(text)}}})
			}
			data, losses := f.Compose(c, format.Options{})
			if f.Holds.Bilingual {
				data, losses = f.Join([]*catalog.Catalog{c, {Culture: "de", Entries: c.Entries}})
			}
			told := map[string]bool{}
			for _, l := range losses {
				told[l.Key] = true
			}
			require.Less(t, len(told), 200, "%v", losses[:min(5, len(losses))])
			write(t, filepath.Join(dir, r.file), string(data))
			theirs := r.texts(t, dir, r.file)
			require.Greater(t, len(theirs), 300)
			for _, e := range c.Entries {
				text, read := theirs[e.Key]
				if r.format == "sheet" && text != e.Message.String() { // after it no spreadsheet takes a text for a formula
					text = strings.TrimPrefix(text, "'")
				}
				quoted := r.format == "sheet" && strings.Contains(e.Message.String(), "'}") // in ICU's quotes
				if read && !told[e.Key] && !quoted {
					assert.Equal(t, e.Message.String(), text, e.Key)
				}
			}
		})
	}
}

// marks are those around what translations keep, which the platform takes out.
var marks = regexp.MustCompile(`</?xliff:g[^>]*>`)

func jsonTexts(t *testing.T, printed string) map[string]string {
	t.Helper()
	var texts map[string]string
	require.NoError(t, json.Unmarshal([]byte(printed), &texts))
	return texts
}

// hexTexts reads lines of a key and the UTF-16 units of a text.
func hexTexts(t *testing.T, printed string) map[string]string {
	t.Helper()
	texts := map[string]string{}
	for line := range strings.Lines(printed) {
		key, digits, _ := strings.Cut(strings.TrimRight(line, "\r\n"), " ")
		var units []uint16
		for i := 0; i+4 <= len(digits); i += 4 {
			var unit uint16
			_, err := fmt.Sscanf(digits[i:i+4], "%04x", &unit)
			require.NoError(t, err)
			units = append(units, unit)
		}
		texts[key] = string(utf16.Decode(units))
	}
	return texts
}

// resourceTexts has Android's resource compiler read a file. Its dump indents
// the lines of a text.
func resourceTexts(t *testing.T, dir, _ string) map[string]string {
	aapt2 := need(t, "aapt2")
	write(t, filepath.Join(dir, "AndroidManifest.xml"), `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="line.skerry"/>`)
	tool(t, dir, aapt2, "compile", "--dir", "res", "-o", "c.zip")
	tool(t, dir, aapt2, "link", "-o", "a.apk", "--manifest", "AndroidManifest.xml", "c.zip")
	texts := map[string]string{}
	for _, m := range regexp.MustCompile(`(?s)string/(k\d+)\n\s*\(\) "(.*?)"\n    resource `).FindAllStringSubmatch(tool(t, dir, aapt2, "dump", "resources", "a.apk")+"\n    resource ", -1) {
		texts[m[1]] = strings.ReplaceAll(m[2], "\n      ", "\n")
	}
	return texts
}

// compiledQt has Qt's compiler read a file, and reads what it made: sections of
// tagged messages, whose texts are UTF-16 and whose IDs stand as source texts.
func compiledQt(t *testing.T, dir, file string) map[string]string {
	tool(t, dir, need(t, "lrelease"), "-silent", file, "-qm", "a.qm")
	data, err := os.ReadFile(filepath.Join(dir, "a.qm"))
	require.NoError(t, err)
	texts := map[string]string{}
	for at := 16; at < len(data); {
		section, size := data[at], int(binary.BigEndian.Uint32(data[at+1:]))
		messages := data[at+5 : at+5+size]
		at += 5 + size
		key, text := "", ""
		for section == 0x69 && len(messages) > 0 {
			tag := messages[0]
			messages = messages[1:]
			if tag == 1 { // the end of a message
				texts[key] = text
				continue
			}
			n := int(int32(binary.BigEndian.Uint32(messages)))
			content := messages[4:]
			switch messages = content[max(n, 0):]; tag {
			case 3:
				var units []uint16
				for i := 0; i < n; i += 2 {
					units = append(units, binary.BigEndian.Uint16(content[i:]))
				}
				text = string(utf16.Decode(units))
			case 6:
				key = strings.TrimRight(string(content[:n]), "\x00")
			}
		}
	}
	return texts
}
