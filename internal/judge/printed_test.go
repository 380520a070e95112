package judge

import (
	"cmp"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/accessor"
)

// printed are the cultures in which platforms are asked for what they print: several
// digits, signs, groups and orders.
var printed = []string{"en", "de", "fr", "ar", "hi", "ja"}

// fractions, wholes and days are what is printed.
var (
	fractions = []string{"0", "-7.25", "1234.5", "1234567.891", "0.05"}
	wholes    = []string{"0", "-7", "42", "1234", "1234567"}
	days      = []string{"2026-05-03T07:08:09", "2026-11-23T00:05:00", "2025-12-31T12:59:59", "2026-08-15T23:00:30", "2026-01-01T00:00:00"}
)

// style is a placeholder as a platform spells it, and what it takes: number, whole or
// day.
type style struct{ spelling, takes string }

// spelled lists the placeholders of one kind.
func spelled(takes string, spellings ...string) []style {
	var list []style
	for _, s := range spellings {
		list = append(list, style{s, takes})
	}
	return list
}

// values are those that a style is asked with.
func (s style) values() []string {
	return map[string][]string{"number": fractions, "whole": wholes, "day": days}[s.takes]
}

// differences runs a program that prints each text that an accessor writes otherwise
// than the platform does, and at last how many it compared.
func differences(t *testing.T, said string, styles []style) {
	t.Helper()
	lines := strings.Split(strings.TrimSpace(said), "\n")
	want := 0
	for _, s := range styles {
		want += len(s.values()) * len(printed)
	}
	assert.Equal(t, fmt.Sprint("compared ", want), lines[len(lines)-1])
	assert.Empty(t, lines[:len(lines)-1])
}

// String.Format of .NET prints the texts of a .resx file, each with its own culture's
// CultureInfo.
func TestPrintedCSharp(t *testing.T) {
	csharp, run := need(t, toolchain("dotnet/bin/csharp")), need(t, toolchain("dotnet/bin/dotnet"))
	styles := append(spelled("number", "{0:C}", "{0:C0}", "{0:C2}", "{0:N}", "{0:N0}", "{0:N1}", "{0:F}", "{0:F3}", "{0:P}", "{0:P1}", "{0:E}", "{0:e2}", "{0:G3}", "{0,12:N2}", "{0,-12:F1}|",
		"{0:0.0;(0.0);-}", "{0:#,##0,}", "{0:000.0}", "{0:#.##}", "{0:0.00%}", "{0:0.###E+0}"), spelled("whole", "{0:X}", "{0:X4}", "{0:x8}", "{0:D6}", "{0:B8}", "{0,8:X}", "{0:D}")...)
	styles = append(styles, spelled("day", "{0:d}", "{0:D}", "{0:f}", "{0:F}", "{0:g}", "{0:G}", "{0:M}", "{0:O}", "{0:s}", "{0:t}", "{0:T}", "{0:u}", "{0:Y}", "{0:R}",
		"{0:yyyy-MM-dd}", "{0:dddd, d MMMM yyyy}", "{0:dd.MM.yyyy HH:mm}", "{0:h:mm tt}", "{0,30:D}")...)
	family, dir := t.TempDir(), t.TempDir()
	var calls strings.Builder
	for _, culture := range printed {
		var file strings.Builder
		for i, s := range styles {
			fmt.Fprintf(&file, "<data name=\"s%d\" xml:space=\"preserve\"><value>[%s]</value></data>\n", i, s.spelling)
		}
		name := "Printed." + culture + ".resx"
		if culture == "en" {
			name = "Printed.resx"
		}
		write(t, filepath.Join(family, name), "<root>\n"+file.String()+"</root>\n")
	}
	for i, s := range styles {
		for _, value := range s.values() {
			value = map[string]string{"number": value + "m", "whole": value + "L", "day": "At(\"" + value + "\")"}[s.takes]
			fmt.Fprintf(&calls, "Check(w.S%d(%s), \"[%s]\", %s);\n", i, value, s.spelling, value)
		}
	}
	modelWith(t, "csharp", dir, accessor.Options{Package: "Text"}, family)
	write(t, filepath.Join(dir, "Main.cs"), `using System; using System.Globalization; using Text;
static class Program { static int n; static CultureInfo info = CultureInfo.InvariantCulture;
static DateTimeOffset At(string s) => DateTimeOffset.Parse(s + "Z", CultureInfo.InvariantCulture);
static void Check(string have, string format, object value) { n++; string want = string.Format(info, format, value); if (have != want) Console.WriteLine(info.Name + " " + format + " " + value + ": " + have + ", wanted " + want); }
static void Main() { Console.OutputEncoding = new System.Text.UTF8Encoding(false); var c = new CultureSwitch(); var w = new Wording(c); foreach (string tag in new[] {"`+strings.Join(printed, `", "`)+`"}) { c.Choose(tag); info = CultureInfo.GetCultureInfo(tag);
`+calls.String()+`} Console.WriteLine("compared " + n); } }`)
	tool(t, dir, csharp, append([]string{"main.dll", "-nowarn:CS0612,CS0618"}, sources(t, dir, ".")...)...)
	differences(t, tool(t, dir, run, "main.dll"), styles)
}

// printfStyles are those of String.format in Java.
var printfStyles = append(append(spelled("whole", "%d", "%,d", "%08d", "%+d", "%8d|", "%-8d|", "%(d", "%x", "%X", "%o", "%,(12d"),
	spelled("number", "%f", "%.2f", "%,.2f", "%e", "%.3e", "%g", "%.0f", "%+.1f", "%10.2f|", "%-10.2f|", "%E", "%a", "%010.1f")...),
	spelled("day", "%tY", "%tm", "%td", "%tB", "%tb", "%tA", "%ta", "%tH", "%tI", "%tM", "%tS", "%tp", "%tF", "%tD", "%tR", "%tT", "%tr", "%tj", "%te", "%tc")...)

// messageStyles are those of MessageFormat in Java.
var messageStyles = append(append(spelled("number", "{0,number}", "{0,number,integer}", "{0,number,percent}", "{0,number,currency}", "{0,number,#.##}", "{0,number,#,##0.00}",
	"{0,number,0.###E0}", "{0,number,00.0}", "{0,number,#,##0.0;(#,##0.0)}", "{0,number,0%}", "{0,number,\u00a4#,##0.00}", "{0,number,+0.0;-0.0}"),
	spelled("whole", "{0,choice,0#none|1#one|2#many}", "{0,choice,-10#few|1<{0} crates}", "{0,number,000000}")...),
	spelled("day", "{0,date}", "{0,date,short}", "{0,date,medium}", "{0,date,long}", "{0,date,full}", "{0,time}", "{0,time,short}", "{0,time,medium}", "{0,date,yyyy-MM-dd}",
		"{0,date,EEEE d MMMM yyyy}", "{0,time,HH:mm}", "{0,time,h:mm a}", "{0,date,d.M.yy}", "{0,date,MMM}", "{0,date,E}")...)

// printedFamily is a family with a text for each style, in a format of Java's.
func printedFamily(t *testing.T, format string, styles []style) string {
	t.Helper()
	family := t.TempDir()
	for _, culture := range printed {
		var file strings.Builder
		at := "values-" + culture + "/strings.xml"
		for i, s := range styles {
			if format == "properties" {
				fmt.Fprintf(&file, "s%d=[%s]\n", i, s.spelling)
			} else {
				fmt.Fprintf(&file, "<string name=\"s%d\">[%%1$%s]</string>\n", i, s.spelling[1:])
			}
		}
		text := file.String()
		if format == "properties" {
			at = "messages_" + culture + ".properties"
		} else {
			text = "<resources>\n" + text + "</resources>\n"
		}
		if culture == "en" {
			at = strings.NewReplacer("-en", "", "_en", "").Replace(at)
		}
		write(t, filepath.Join(family, at), text)
	}
	return family
}

// TestPrintedJava asks String.format for the texts of Android, and MessageFormat for
// those of .properties files, in Java and in Kotlin.
func TestPrintedJava(t *testing.T) {
	javac, java := need(t, "javac"), need(t, "java")
	for _, c := range []struct {
		format, want string
		styles       []style
	}{
		{"android", `String.format(locale, format, value)`, printfStyles},
		{"properties", `message(format, value)`, messageStyles},
	} {
		t.Run(c.format, func(t *testing.T) {
			dir, family := t.TempDir(), printedFamily(t, c.format, c.styles)
			var calls strings.Builder
			for i, s := range c.styles {
				for _, value := range s.values() {
					value = map[string]string{"number": value + "d", "whole": value + "L", "day": "at(\"" + value + "\")"}[s.takes]
					fmt.Fprintf(&calls, "check(w.s%d(%s), \"[%s]\", %s);\n", i, value, s.spelling, value)
				}
			}
			modelWith(t, "java", dir, accessor.Options{Package: "text"}, family)
			write(t, filepath.Join(dir, "Main.java"), `import java.text.*; import java.time.*; import java.util.*; import text.*;
public class Main { static int n; static Locale locale; static ZonedDateTime at(String s) { return LocalDateTime.parse(s).atZone(ZoneOffset.UTC); }
static String message(String format, Object value) { MessageFormat m = new MessageFormat(format, locale); for (Format f : m.getFormats()) { if (f instanceof DateFormat) { ((DateFormat) f).setTimeZone(TimeZone.getTimeZone("UTC")); } }
return m.format(new Object[] {value instanceof ZonedDateTime ? Date.from(((ZonedDateTime) value).toInstant()) : value}); }
static void check(String have, String format, Object value) { n++; String want = `+c.want+`; if (!have.equals(want)) { System.out.println(locale + " " + format + " " + value + ": " + have + ", wanted " + want); } }
public static void main(String[] a) { CultureSwitch c = new CultureSwitch(); Wording w = new Wording(c); for (String tag : new String[] {"`+strings.Join(printed, `", "`)+`"}) { c.choose(tag); locale = Locale.forLanguageTag(tag);
`+calls.String()+`} System.out.println("compared " + n); } }`)
			tool(t, dir, javac, "-encoding", "UTF-8", "-sourcepath", ".", "-d", "out", "Main.java")
			differences(t, tool(t, dir, java, "-Dfile.encoding=UTF-8", "-cp", "out", "Main"), c.styles)
		})
	}
}

// Kotlin prints what Java prints: both families are compiled in one call.
func TestPrintedKotlin(t *testing.T) {
	bash, java := need(t, "bash"), need(t, "java")
	compiler := need(t, filepath.Join(modules(), "kotlin-compiler/bin/kotlinc"))
	dir := t.TempDir()
	var functions, all strings.Builder
	for _, c := range []struct {
		format, want string
		styles       []style
	}{{"android", "String.format(locale, format, value)", printfStyles}, {"properties", "message(format, value)", messageStyles}} {
		modelWith(t, "kotlin", dir, accessor.Options{Package: c.format + ".text"}, printedFamily(t, c.format, c.styles))
		fmt.Fprintf(&functions, "fun %[1]s(tag: String) { val w = %[1]s.text.Wording(%[1]s.text.CultureSwitch().apply { choose(tag) }); val check = { have: String, format: String, value: Any -> compare(have, format, value, %[2]s) }\n", c.format, c.want)
		for i, s := range c.styles {
			for _, value := range s.values() {
				value = map[string]string{"number": real(value), "whole": value + "L", "day": "at(\"" + value + "\")"}[s.takes]
				given := value
				if s.takes == "whole" && c.format == "properties" && strings.Contains(s.spelling, "number") || strings.Contains(s.spelling, "-10#") {
					given += ".toDouble()"
				}
				fmt.Fprintf(&functions, "check(w.s%d(%s), \"[%s]\", %s)\n", i, given, strings.ReplaceAll(s.spelling, "$", "\\$"), value)
			}
		}
		functions.WriteString("}\n")
		all.WriteString(c.format + "(tag); ")
	}
	text := strings.ReplaceAll(functions.String(), "compare(have, format, value, String.format", "compare(have, format, value, java.lang.String.format")
	write(t, filepath.Join(dir, "Main.kt"), `import java.text.*
import java.time.*
import java.util.*
var n = 0
var locale: Locale = Locale.ROOT
fun at(s: String): ZonedDateTime = LocalDateTime.parse(s).atZone(ZoneOffset.UTC)
fun message(format: String, value: Any): String { val m = MessageFormat(format, locale); m.formats.filterIsInstance<DateFormat>().forEach { it.timeZone = TimeZone.getTimeZone("UTC") }
return m.format(arrayOf<Any>(if (value is ZonedDateTime) Date.from(value.toInstant()) else value)) }
fun compare(have: String, format: String, value: Any, want: String) { n++; if (have != want) println("$locale $format $value: $have, wanted $want") }
`+text+`fun main() { for (tag in listOf("`+strings.Join(printed, `", "`)+`")) { locale = Locale.forLanguageTag(tag); `+all.String()+`}
println("compared $n") }
`)
	library := filepath.Join(modules(), "kotlin-compiler/lib/kotlinx-coroutines-core-jvm.jar")
	tool(t, dir, bash, compiler, "Main.kt", "android", "properties", "-cp", library, "-nowarn", "-d", "out")
	differences(t, tool(t, dir, java, "-Dfile.encoding=UTF-8", "-cp", "out:"+library+":"+filepath.Join(modules(), "kotlin-compiler/lib/kotlin-stdlib.jar"), "MainKt"), append(slices.Clone(printfStyles), messageStyles...))
}

// real is a number with a fraction.
func real(value string) string {
	if strings.Contains(value, ".") {
		return value
	}
	return value + ".0"
}

// modules is the folder of what npm installed.
func modules() string { return cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere") }

// TestPrintedSwift asks String(format:locale:arguments:) of Foundation for the texts of a
// .strings file.
func TestPrintedSwift(t *testing.T) {
	swiftc := need(t, toolchain("swift/usr/bin/swiftc"))
	styles := append(spelled("whole", "%d", "%ld", "%lld", "%i", "%li", "%u", "%lu", "%x", "%X", "%o", "%lx", "%llX", "%05d", "%+d", "%8d|", "%-8d|", "%qd", "%08lld", "%+ld", "%#x", "%#o", "%.5d"),
		spelled("number", "%f", "%.2f", "%.0f", "%.1f", "%e", "%E", "%.3e", "%g", "%G", "%.3g", "%a", "%10.2f|", "%-10.2f|", "%+.1f", "%08.2f", "%12.4f|", "%#.0f", "%.6f", "%012.3e", "%+g")...)
	family, dir := t.TempDir(), t.TempDir()
	var calls strings.Builder
	for _, culture := range printed {
		var file strings.Builder
		for i, s := range styles {
			fmt.Fprintf(&file, "\"s%d\" = \"[%s]\";\n", i, s.spelling)
		}
		write(t, filepath.Join(family, culture+".lproj/Localizable.strings"), file.String())
	}
	for i, s := range styles {
		for _, value := range s.values() {
			if s.takes == "number" {
				value = real(value)
			}
			fmt.Fprintf(&calls, "check(w.s%d(arg1: %s), \"[%s]\", %s)\n", i, value, s.spelling, value)
		}
	}
	modelWith(t, "swift", dir, accessor.Options{}, family)
	for _, name := range []string{"WordingCases.swift", "CultureObject.swift"} {
		require.NoError(t, os.Remove(filepath.Join(dir, name)))
	}
	write(t, filepath.Join(dir, "main.swift"), `import Foundation
var n = 0
var locale = Locale(identifier: "en")
func check(_ have: String, _ format: String, _ value: any CVarArg) { n += 1; let want = String(format: format, locale: locale, arguments: [value])
if have != want { print("\(locale.identifier) \(format) \(value): \(have), wanted \(want)") } }
let c = CultureSwitch()
let w = Wording(c)
for tag in ["`+strings.Join(printed, `", "`)+`"] { c.choose(tag); locale = Locale(identifier: tag); all() }
func all() {
`+calls.String()+`}
print("compared \(n)")
`)
	files, err := filepath.Glob(filepath.Join(dir, "*.swift"))
	require.NoError(t, err)
	tool(t, dir, swiftc, append([]string{"-swift-version", "5", "-o", "main"}, files...)...)
	differences(t, tool(t, dir, filepath.Join(dir, "main")), styles)
}

// icuStyles are those of ICU messages.
var icuStyles = append(spelled("number", "{n, number}", "{n, number, integer}", "{n, number, percent}", "{n, number, ::percent}", "{n, number, ::percent scale/100}", "{n, number, ::%x100 .0}",
	"{n, number, ::currency/EUR}", "{n, number, ::currency/JPY}", "{n, number, ::currency/EUR .0}", "{n, number, ::currency/USD unit-width-iso-code}", "{n, number, ::currency/USD unit-width-full-name}",
	"{n, number, ::currency/CAD unit-width-narrow}", "{n, number, ::.00}", "{n, number, ::.0#}", "{n, number, ::.###}", "{n, number, ::.}", "{n, number, ::precision-integer}", "{n, number, ::@@@}",
	"{n, number, ::@@#}", "{n, number, ::compact-short}", "{n, number, ::compact-long}", "{n, number, ::K @@#}", "{n, number, ::scientific}", "{n, number, ::scientific .00}", "{n, number, ::engineering}",
	"{n, number, ::sign-always}", "{n, number, ::+! .0}", "{n, number, ::sign-never}", "{n, number, ::sign-except-zero}", "{n, number, ::currency/EUR sign-accounting}", "{n, number, ::group-off}",
	"{n, number, ::group-off .00}", "{n, number, ::group-min2}", "{n, number, ::0000}", "{n, number, ::integer-width/+000}", "{n, number, ::unit/kilometer}", "{n, number, ::unit/kilometer unit-width-full-name}",
	"{n, number, ::measure-unit/mass-kilogram}", "{n, number, ::unit/celsius unit-width-narrow}", "{n, number, ::scale/100}", "{n, number, ::rounding-mode-ceiling .}", "{n,number,#,##0.00}",
	"{n,number,0.00}", "{n,number,0000}", "{n,number,#,##0.00;(#,##0.00)}", "{n,number,0%}", "{n,number,0.0%}", "{n,number,+0.0;-0.0}", "{n,number,#.##}"),
	spelled("day", "{n, date}", "{n, date, short}", "{n, date, medium}", "{n, date, long}", "{n, date, full}", "{n, time}", "{n, time, short}", "{n, time, medium}", "{n, date, ::yMMMd}", "{n, date, ::yMMMMd}",
		"{n, date, ::yMMMEd}", "{n, date, ::MMMMd}", "{n, date, ::EEEE}", "{n, date, ::yMd}", "{n, date, ::yMMM}", "{n, time, ::Hm}", "{n, time, ::Hms}", "{n, time, ::jm}", "{n, time, ::jms}", "{n, time, ::hm}",
		"{n, date, ::yyMMdd}", "{n, date, ::MMMM}", "{n, date, ::d}")...)

// icuFamily is a family of JSON files with ICU messages.
func icuFamily(t *testing.T, styles []style) string {
	t.Helper()
	family := t.TempDir()
	for _, culture := range printed {
		texts := map[string]string{"counted": "{n, plural, one {# crate} other {# crates}}"} // it says that the texts are ICU's
		for i, s := range styles {
			texts[fmt.Sprint("s", i)] = "[" + s.spelling + "]"
		}
		data, err := json.Marshal(texts)
		require.NoError(t, err)
		write(t, filepath.Join(family, culture+".json"), string(data))
	}
	return family
}

// askICU returns what ICU itself prints, a line for each culture, style and value.
func askICU(t *testing.T, styles []style) []string {
	t.Helper()
	jar := need(t, toolchain("icu/icu4j-78.2.jar"))
	dir := t.TempDir()
	var calls strings.Builder
	for _, s := range styles {
		for _, value := range s.values() {
			if s.takes == "day" {
				value = "Date.from(Instant.parse(\"" + value + "Z\"))"
			}
			fmt.Fprintf(&calls, "show(%q, %s);\n", "["+s.spelling+"]", value)
		}
	}
	write(t, filepath.Join(dir, "Ask.java"), `import com.ibm.icu.text.*; import com.ibm.icu.util.*; import java.time.Instant; import java.util.Date; import java.util.Map;
public class Ask { static ULocale locale; static java.io.PrintStream out = new java.io.PrintStream(System.out, true, java.nio.charset.StandardCharsets.UTF_8);
static void show(String pattern, Object value) { out.println(new MessageFormat(pattern, locale).format(Map.of("n", value))); }
public static void main(String[] a) { TimeZone.setDefault(TimeZone.getTimeZone("UTC")); for (String tag : new String[] {"`+strings.Join(printed, `", "`)+`"}) { locale = ULocale.forLanguageTag(tag);
`+calls.String()+`} } }`)
	tool(t, dir, need(t, "javac"), "-cp", jar, "Ask.java")
	return strings.Split(strings.TrimSpace(tool(t, dir, need(t, "java"), "-cp", jar+":.", "Ask")), "\n")
}

// TestPrintedTypeScript asks ICU for the texts of ICU messages.
func TestPrintedTypeScript(t *testing.T) {
	node, tsc := need(t, "node"), need(t, filepath.Join(modules(), "typescript/bin/tsc"))
	want := askICU(t, icuStyles)
	dir := t.TempDir()
	m := modelOf(t, "typescript", "", icuFamily(t, icuStyles), dir)
	assert.Empty(t, m.Catalogs[0].Findings)
	var calls strings.Builder
	for i, s := range icuStyles {
		for _, value := range s.values() {
			if s.takes == "day" {
				value = fmt.Sprintf("new Date(%q)", value+"Z")
			}
			fmt.Fprintf(&calls, "out.push(w.s%d(%s));\n", i, value)
		}
	}
	write(t, filepath.Join(dir, "main.ts"), `import { CultureSwitch } from "./cultureSwitch.js"; import { Wording } from "./wording.js";
const c = new CultureSwitch(); const w = new Wording(c); const out: string[] = [];
for (const tag of ["`+strings.Join(printed, `", "`)+`"]) { c.choose(tag);
`+calls.String()+`} console.log(out.join("\n"));`)
	write(t, filepath.Join(dir, "package.json"), `{"type": "module"}`)
	tool(t, dir, node, tsc, "--target", "es2022", "--lib", "es2022,dom", "--module", "nodenext", "main.ts")
	have := strings.Split(strings.TrimSpace(tool(t, dir, need(t, "env"), "TZ=UTC", node, "main.js")), "\n")
	same(t, icuStyles, have, want)
}

// same holds that all lines are the same, but for one of a hundred and never for a
// whole style.
func same(t *testing.T, styles []style, have, want []string) {
	t.Helper()
	require.Len(t, have, len(want))
	n, differ, wrong := 0, 0, map[string]int{}
	for _, culture := range printed {
		for _, s := range styles {
			for _, value := range s.values() {
				if plainSpaces(have[n]) != plainSpaces(want[n]) { // Intl writes plain ones before AM and PM
					differ++
					if wrong[s.spelling]++; wrong[s.spelling] < 3 {
						t.Logf("%s %s %s: %q, and it is %q", culture, s.spelling, value, have[n], want[n])
					}
				}
				n++
			}
		}
	}
	assert.LessOrEqual(t, differ*100, n, "%d of %d: %v", differ, n, wrong)
}

// tabledStyles are those that the tables of Go and C++ write.
var tabledStyles = append(spelled("number", "{n, number}", "{n, number, percent}", "{n, number, ::percent scale/100}", "{n, number, ::%x100 .0}", "{n, number, ::%x100 .00}",
	"{n, number, ::currency/EUR}", "{n, number, ::currency/JPY}", "{n, number, ::currency/CHF}", "{n, number, ::currency/USD .0}", "{n, number, ::currency/EUR .000}", "{n, number, ::.00}", "{n, number, ::.0#}",
	"{n, number, ::.###}", "{n, number, ::.0 group-off}", "{n, number, ::sign-always}", "{n, number, ::+! .0}",
	"{n, number, ::0000}", "{n,number,#,##0.00}", "{n,number,0.00}", "{n,number,#,##0.##}"),
	append(spelled("whole", "{n, number, integer}", "{n, number, ::.}", "{n, number, ::precision-integer}", "{n, number, ::group-off}", "{n,number,0000}", "{n,number,#,##0}"), spelled("day", "{n, date}", "{n, date, short}", "{n, date, medium}", "{n, date, long}", "{n, date, full}", "{n, time}", "{n, time, short}", "{n, time, medium}", "{n, date, ::yMMMd}", "{n, date, ::yMMMMd}",
		"{n, date, ::yMMMEd}", "{n, date, ::MMMMd}", "{n, date, ::EEEE}", "{n, date, ::yMd}", "{n, date, ::yMMM}", "{n, time, ::Hm}", "{n, time, ::Hms}", "{n, time, ::jm}", "{n, time, ::jms}", "{n, date, ::MMMM}")...)...)

// TestPrintedTables asks ICU for what the tables of Go and C++ write.
func TestPrintedTables(t *testing.T) {
	want := askICU(t, tabledStyles)
	family := icuFamily(t, tabledStyles)
	for _, w := range writers[:2] {
		t.Run(w.language, func(t *testing.T) {
			dir := t.TempDir()
			m := modelOf(t, w.language, w.pkg, family, dir)
			assert.Empty(t, m.Catalogs[0].Findings)
			var calls strings.Builder
			for i, s := range tabledStyles {
				call := w.amount
				if s.takes == "day" {
					call = w.moment
				}
				for _, value := range s.values() {
					if s.takes == "day" {
						value += "Z"
					}
					fmt.Fprintf(&calls, strings.NewReplacer("Pascal", fmt.Sprint("S", i), "camel", fmt.Sprint("s", i)).Replace(call)+"\n", value)
				}
			}
			write(t, filepath.Join(dir, w.file), strings.NewReplacer("CULTURES", `"`+strings.Join(printed, `", "`)+`"`, "CALLS", calls.String()).Replace(w.program))
			same(t, tabledStyles, strings.Split(strings.TrimSpace(w.run(t, dir)), "\n"), want)
		})
	}
}
