package judge

import (
	"cmp"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/accessor"
)

// styled are the cultures whose numbers and dates are written: several scripts,
// digits, groups of two, signs before and after.
var styled = strings.Fields("en de de-AT de-CH fr pl pt-BR sv fi ar he hi ja zh-Hant fa bn en-IN es")

// styles are the ways in which messages write numbers and moments: the message,
// and the same asked of the Intl of ECMA-402, whose data is Unicode CLDR 48.
var styles = []struct{ name, message, intl string }{
	{"plain", "{n, number}", `number(n, {})`},
	{"share", "{n, number, percent}", `number(n, {style: "percent"})`},
	{"euro", "{n, number, ::currency/EUR}", `number(n, {style: "currency", currency: "EUR"})`},
	{"yen", "{n, number, ::currency/JPY}", `number(n, {style: "currency", currency: "JPY"})`},
	{"franc", "{n, number, ::currency/CHF}", `number(n, {style: "currency", currency: "CHF"})`},
	{"two", "{n, number, ::.00}", `number(n, {minimumFractionDigits: 2, maximumFractionDigits: 2})`},
	{"ungrouped", "{n, number, ::group-off}", `number(n, {useGrouping: false})`},
	{"day", "{d, date}", `date({dateStyle: "medium"})`},
	{"dayShort", "{d, date, short}", `date({dateStyle: "short"})`},
	{"dayLong", "{d, date, long}", `date({dateStyle: "long"})`},
	{"dayFull", "{d, date, full}", `date({dateStyle: "full"})`},
	{"time", "{d, time, short}", `date({timeStyle: "short"})`},
	{"timeUsual", "{d, time}", `date({timeStyle: "medium"})`},
	{"timeMedium", "{d, time, medium}", `date({timeStyle: "medium"})`},
	{"yearMonthDay", "{d, date, ::yMMMd}", `date({year: "numeric", month: "short", day: "numeric"})`},
	{"monthDay", "{d, date, ::MMMMd}", `date({month: "long", day: "numeric"})`},
	{"weekday", "{d, date, ::EEEE}", `date({weekday: "long"})`},
}

// amounts and moments are what is written.
var (
	amounts = []string{"0", "1", "-7", "12.25", "999", "1234", "12345.678", "1234567.8", "0.05"}
	moments = []string{"2026-05-03T07:08:09Z", "2026-11-23T00:05:00Z", "2025-12-31T12:59:59Z", "2026-08-15T23:00:30Z"}
)

// writers print, for each culture and style, every amount or moment.
var writers = []struct {
	language, pkg, file, program string
	amount, moment               string
	// calendar is the Gregorian one where the tables know no other.
	calendar string
	run      func(t *testing.T, dir string) string
}{
	{"go", "text", "main.go", `package main
import ("fmt"; "time"; "main/text")
func at(s string) time.Time { t, _ := time.Parse(time.RFC3339, s); return t }
func main() { c := text.NewCultureSwitch(); w := text.NewWording(c); for _, t := range []string{CULTURES} { c.Choose(t)
CALLS
} }`, "fmt.Println(w.Pascal(%s))", `fmt.Println(w.Pascal(at("%s")))`, "-u-ca-gregory",
		func(t *testing.T, dir string) string {
			write(t, filepath.Join(dir, "go.mod"), "module main\n\ngo 1.24\n")
			return tool(t, dir, need(t, "go"), "run", ".")
		}},
	{"cpp", "app", "main.cpp", `#include <iostream>
#include "wording.h"
std::chrono::system_clock::time_point at(const char* s) { std::tm t{}; int y, mo, d, h, mi, se; std::sscanf(s, "%d-%d-%dT%d:%d:%dZ", &y, &mo, &d, &h, &mi, &se);
t.tm_year = y - 1900; t.tm_mon = mo - 1; t.tm_mday = d; t.tm_hour = h; t.tm_min = mi; t.tm_sec = se; return std::chrono::system_clock::from_time_t(timegm(&t)); }
int main() { app::CultureSwitch c; app::Wording w(c); for (const char* t : {CULTURES}) { c.choose(t);
CALLS
} }`, `std::cout << w.camel(%s) << "\n";`, `std::cout << w.camel(at("%s")) << "\n";`, "-u-ca-gregory",
		func(t *testing.T, dir string) string {
			tool(t, dir, need(t, "g++"), "-std=c++17", "-o", "main", "main.cpp", "wording.cpp", "culture_switch.cpp")
			return tool(t, dir, need(t, "env"), "TZ=UTC", filepath.Join(dir, "main"))
		}},
	{"typescript", "", "main.ts", `import { CultureSwitch } from "./cultureSwitch.js"; import { Wording } from "./wording.js";
const c = new CultureSwitch(); const w = new Wording(c); const out: string[] = []; const say = (text: string) => out.push(text);
for (const t of [CULTURES]) { c.choose(t);
CALLS
} console.log(out.join("\n"));`, "say(w.camel(%s));", `say(w.camel(new Date("%s")));`, "",
		func(t *testing.T, dir string) string {
			write(t, filepath.Join(dir, "package.json"), `{"type": "module"}`)
			tool(t, dir, need(t, "node"), need(t, filepath.Join(cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere"), "typescript/bin/tsc")), "--target", "es2022", "--lib", "es2022,dom", "--module", "nodenext", "main.ts")
			return tool(t, dir, need(t, "env"), "TZ=UTC", need(t, "node"), "main.js")
		}},
}

// styledFamily is a family with a message for each style.
func styledFamily(t *testing.T) string {
	t.Helper()
	family := t.TempDir()
	for _, tag := range styled {
		bundle := map[string]any{"@@locale": tag}
		for _, style := range styles {
			bundle[style.name] = style.message
			placeholder, kind := "n", "double"
			if strings.Contains(style.message, "{d,") {
				placeholder, kind = "d", "DateTime"
			}
			bundle["@"+style.name] = map[string]any{"placeholders": map[string]any{placeholder: map[string]string{"type": kind}}}
		}
		data, err := json.Marshal(bundle)
		require.NoError(t, err)
		write(t, filepath.Join(family, "app_"+strings.ReplaceAll(tag, "-", "_")+".arb"), string(data))
	}
	return family
}

// TestStyles holds what the tables of Go and C++ and the formatters of
// JavaScript give against the same asked of the platform's formatter directly.
func TestStyles(t *testing.T) {
	node := need(t, "node")
	family := styledFamily(t)
	calls := func(amount, moment string) string {
		var out strings.Builder
		for _, style := range styles {
			of, values := amount, amounts
			if strings.Contains(style.message, "{d,") {
				of, values = moment, moments
			}
			for _, value := range values {
				call := strings.NewReplacer("Pascal", strings.ToUpper(style.name[:1])+style.name[1:], "camel", style.name).Replace(of)
				fmt.Fprintf(&out, call+"\n", value)
			}
		}
		return out.String()
	}
	quoted := `"` + strings.Join(styled, `", "`) + `"`
	var asked strings.Builder
	for _, style := range styles {
		if strings.Contains(style.message, "{d,") {
			for _, moment := range moments {
				fmt.Fprintf(&asked, "d = new Date(%q); out.push(%s);\n", moment, style.intl)
			}
			continue
		}
		for _, amount := range amounts {
			fmt.Fprintf(&asked, "n = %s; out.push(%s);\n", amount, style.intl)
		}
	}
	asks := t.TempDir()
	write(t, filepath.Join(asks, "want.mjs"), `const out = []; let n, d, t;
const number = (n, o) => new Intl.NumberFormat(t, o).format(n);
const date = (o) => new Intl.DateTimeFormat(t + process.argv[2], { timeZone: "UTC", ...o }).format(d);
for (t of [`+quoted+`]) {
`+asked.String()+`}
console.log(out.join("\n"));`)
	for _, w := range writers {
		t.Run(w.language, func(t *testing.T) {
			dir := t.TempDir()
			modelWith(t, w.language, dir, accessor.Options{Package: w.pkg, Plain: true}, family)
			write(t, filepath.Join(dir, w.file), strings.NewReplacer("CULTURES", quoted, "CALLS", calls(w.amount, w.moment)).Replace(w.program))
			have := strings.Split(strings.TrimSpace(w.run(t, dir)), "\n")
			want := strings.Split(strings.TrimSpace(tool(t, asks, node, "want.mjs", w.calendar)), "\n")
			require.Len(t, have, len(want))
			wrong := map[string]int{}
			each := len(want) / len(styled)
			for i := range want {
				if plainSpaces(have[i]) != plainSpaces(want[i]) {
					if wrong[styled[i/each]]++; wrong[styled[i/each]] < 8 {
						assert.Fail(t, fmt.Sprintf("%s: %q, and it is %q", styled[i/each], have[i], want[i]))
					}
				}
			}
			if len(wrong) > 0 {
				t.Log(wrong)
			}
		})
	}
}

// plainSpaces makes all spaces alike: versions of the locale data differ in
// which one they take.
func plainSpaces(text string) string {
	return strings.NewReplacer("\u202f", " ", "\u00a0", " ").Replace(text)
}

// javaStyles, kotlinStyles and csharpStyles ask a language's accessors and its platform's own formatter
// for the same, in one program that prints what differs.
const javaStyles = `import app.text.*; import java.text.*; import java.time.*; import java.time.format.*; import java.util.*;
public class Main {
  static int asked;
  static void same(String have, String want) { asked++; if (!have.equals(want)) { System.out.println(have + ", and it is " + want); } }
  public static void main(String[] a) {
    CultureSwitch c = new CultureSwitch(); Wording w = new Wording(c);
    for (String t : new String[] {CULTURES}) {
      c.choose(t); Locale l = Locale.forLanguageTag(t);
      for (double n : new double[] {AMOUNTS}) {
        same(w.plain(n), NumberFormat.getInstance(l).format(n));
        same(w.share(n), NumberFormat.getPercentInstance(l).format(n));
        NumberFormat euro = NumberFormat.getCurrencyInstance(l); euro.setCurrency(Currency.getInstance("EUR")); same(w.euro(n), euro.format(n));
        NumberFormat yen = NumberFormat.getCurrencyInstance(l); yen.setCurrency(Currency.getInstance("JPY")); yen.setMinimumFractionDigits(0); yen.setMaximumFractionDigits(0); same(w.yen(n), yen.format(n));
        NumberFormat two = NumberFormat.getInstance(l); two.setMinimumFractionDigits(2); two.setMaximumFractionDigits(2); same(w.two(n), two.format(n));
        NumberFormat plain = NumberFormat.getInstance(l); plain.setGroupingUsed(false); same(w.ungrouped(n), plain.format(n));
      }
      for (String m : new String[] {MOMENTS}) {
        LocalDateTime d = LocalDateTime.ofInstant(Instant.parse(m), ZoneOffset.UTC);
        same(w.day(d), DateTimeFormatter.ofLocalizedDate(FormatStyle.MEDIUM).withLocale(l).format(d));
        same(w.dayShort(d), DateTimeFormatter.ofLocalizedDate(FormatStyle.SHORT).withLocale(l).format(d));
        same(w.dayLong(d), DateTimeFormatter.ofLocalizedDate(FormatStyle.LONG).withLocale(l).format(d));
        same(w.dayFull(d), DateTimeFormatter.ofLocalizedDate(FormatStyle.FULL).withLocale(l).format(d));
        same(w.time(d), DateTimeFormatter.ofLocalizedTime(FormatStyle.SHORT).withLocale(l).format(d));
        same(w.timeMedium(d), DateTimeFormatter.ofLocalizedTime(FormatStyle.MEDIUM).withLocale(l).format(d));
      }
    }
    c.choose("de"); LocalDateTime d = LocalDateTime.of(2026, 5, 3, 7, 8);
    same(w.yearMonthDay(d), "3. Mai 2026"); same(w.monthDay(d), "3. Mai"); same(w.weekday(d), "Sonntag");
    c.choose("ja"); same(w.yearMonthDay(d), "2026年5月3日");
    System.out.println("asked " + asked);
  }
}`

const kotlinStyles = `import app.text.*
import java.io.PrintStream
import java.text.NumberFormat
import java.time.*
import java.time.format.*
import java.util.*

var asked = 0

fun PrintStream.same(have: String, want: String) {
    asked++
    if (have != want) println("$have, and it is $want")
}

fun money(l: Locale, code: String, digits: Int): NumberFormat = NumberFormat.getCurrencyInstance(l).apply {
    currency = Currency.getInstance(code); minimumFractionDigits = digits; maximumFractionDigits = digits
}

fun main() {
    val out = PrintStream(System.out, true, "UTF-8")
    val c = CultureSwitch()
    val w = Wording(c)
    for (t in listOf(CULTURES)) {
        c.choose(t)
        val l = Locale.forLanguageTag(t)
        for (n in listOf<Number>(AMOUNTS).map { it.toDouble() }) {
            out.same(w.plain(n), NumberFormat.getInstance(l).format(n))
            out.same(w.share(n), NumberFormat.getPercentInstance(l).format(n))
            out.same(w.euro(n), money(l, "EUR", 2).format(n))
            out.same(w.yen(n), money(l, "JPY", 0).format(n))
            out.same(w.two(n), NumberFormat.getInstance(l).apply { minimumFractionDigits = 2; maximumFractionDigits = 2 }.format(n))
            out.same(w.ungrouped(n), NumberFormat.getInstance(l).apply { isGroupingUsed = false }.format(n))
        }
        for (m in listOf(MOMENTS)) {
            val d = LocalDateTime.ofInstant(Instant.parse(m), ZoneOffset.UTC)
            for ((have, style) in listOf(w.day(d) to FormatStyle.MEDIUM, w.dayShort(d) to FormatStyle.SHORT, w.dayLong(d) to FormatStyle.LONG, w.dayFull(d) to FormatStyle.FULL)) {
                out.same(have, DateTimeFormatter.ofLocalizedDate(style).withLocale(l).format(d))
            }
            out.same(w.time(d), DateTimeFormatter.ofLocalizedTime(FormatStyle.SHORT).withLocale(l).format(d))
            out.same(w.timeMedium(d), DateTimeFormatter.ofLocalizedTime(FormatStyle.MEDIUM).withLocale(l).format(d))
        }
    }
    c.choose("de")
    val d = LocalDateTime.of(2026, 5, 3, 7, 8)
    out.same(w.yearMonthDay(d), "3. Mai 2026")
    out.same(w.monthDay(d), "3. Mai")
    out.same(w.weekday(d), "Sonntag")
    out.println("asked $asked")
}`

const csharpStyles = `using System; using System.Globalization; using App;
public static class Program {
  static int asked;
  static void Same(string have, string want) { asked++; if (have != want) { Console.WriteLine(have + ", and it is " + want); } }
  public static void Main() {
    Console.OutputEncoding = new System.Text.UTF8Encoding(false);
    var c = new CultureSwitch(); var w = new Wording(c);
    foreach (var t in new[] {CULTURES}) {
      if (t == "zh-Hant") { continue; } // not known to this runtime
      c.Choose(t); var l = CultureInfo.GetCultureInfo(t);
      foreach (var n in new decimal[] {AMOUNTS}) {
        Same(w.Plain(n), n.ToString("#,##0.###", l));
        Same(w.Share(n), n.ToString("P0", l));
        Same(w.Two(n), n.ToString("#,##0.00", l));
        Same(w.Ungrouped(n), n.ToString("0.###", l));
        var money = (NumberFormatInfo)l.NumberFormat.Clone();
        money.CurrencySymbol = "€"; money.CurrencyDecimalDigits = 2; if (!t.StartsWith("de-CH")) { Same(w.Euro(n), n.ToString("C", money)); }
        money.CurrencySymbol = "¥"; money.CurrencyDecimalDigits = 0; if (t == "en" || t == "de") { Same(w.Yen(n), n.ToString("C", money)); }
      }
      foreach (var m in new[] {MOMENTS}) {
        var d = DateTimeOffset.Parse(m, CultureInfo.InvariantCulture);
        Same(w.DayShort(d), d.ToString("d", l));
        Same(w.DayLong(d), d.ToString("D", l));
        Same(w.Time(d), d.ToString("t", l));
        Same(w.TimeMedium(d), d.ToString("T", l));
      }
    }
    c.Choose("de"); var moment = new DateTimeOffset(2026, 5, 3, 7, 8, 0, TimeSpan.Zero);
    Same(w.YearMonthDay(moment), "3. Mai 2026"); Same(w.MonthDay(moment), "3. Mai"); Same(w.Weekday(moment), "Sonntag");
    Console.WriteLine("asked " + asked);
  }
}`

func TestPlatformStyles(t *testing.T) {
	family := styledFamily(t)
	quote := func(list []string) string { return `"` + strings.Join(list, `", "`) + `"` }
	program := func(text, suffix string) string {
		return strings.NewReplacer("CULTURES", quote(styled), "MOMENTS", quote(moments), "AMOUNTS", strings.Join(amounts, suffix+", ")+suffix).Replace(text)
	}
	t.Run("java", func(t *testing.T) {
		dir := t.TempDir()
		modelOf(t, "java", "app.text", family, dir)
		write(t, filepath.Join(dir, "Main.java"), program(javaStyles, ""))
		tool(t, dir, need(t, "javac"), "-encoding", "UTF-8", "-sourcepath", ".", "-d", "out", "Main.java")
		assert.Regexp(t, `^asked \d{4}\n$`, tool(t, dir, need(t, "java"), "-Dfile.encoding=UTF-8", "-cp", "out", "Main"))
	})
	t.Run("kotlin", func(t *testing.T) {
		lib := filepath.Join(cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere"), "kotlin-compiler")
		compiler := need(t, filepath.Join(lib, "bin/kotlinc"))
		dir := t.TempDir()
		modelOf(t, "kotlin", "app.text", family, dir)
		write(t, filepath.Join(dir, "Main.kt"), program(kotlinStyles, ""))
		tool(t, dir, need(t, "bash"), compiler, "Main.kt", "app", "-cp", filepath.Join(lib, "lib/kotlinx-coroutines-core-jvm.jar"), "-d", "out")
		assert.Regexp(t, `^asked \d{4}\n$`, tool(t, dir, need(t, "java"), "-cp", "out:"+filepath.Join(lib, "lib/kotlin-stdlib.jar"), "MainKt"))
	})
	t.Run("csharp", func(t *testing.T) {
		dir := t.TempDir()
		modelWith(t, "csharp", dir, accessor.Options{Package: "App", Plain: true}, family)
		write(t, filepath.Join(dir, "Main.cs"), program(csharpStyles, "m"))
		tool(t, dir, need(t, "mcs"), "-langversion:6", "-out:main.exe", "-recurse:*.cs")
		assert.Regexp(t, `^asked \d{3,4}\n$`, tool(t, dir, need(t, "mono"), "main.exe"))
	})
}
