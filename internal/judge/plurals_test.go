package judge

import (
	"cmp"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/accessor"
	"zelvik/culture"
)

// The cultures of the demo, and those with the most plural forms.
var counted = strings.Fields("en de fi fr pl pt-BR ar he ja hi ru lv cy ga sl lt mt br")

// numbers are whole numbers and decimals, as every language writes them.
var numbers = func() []string {
	var list []string
	for n := range 220 {
		list = append(list, fmt.Sprint(n))
	}
	list = append(list, "1000", "1001", "1011", "1021", "10000", "100000", "1000000", "2000000")
	for n := range 32 {
		list = append(list, fmt.Sprintf("%d.%d", n, 1+n%9), fmt.Sprintf("%d.2%d", n, 1+n%9))
	}
	return append(list, "0.1", "0.5", "1.5", "1.1", "10.1", "100.21", "2.25", "101.5")
}()

// categories are programs that print, for each culture and number, the cardinal
// and the ordinal category. CULTURES and NUMBERS stand for lists.
var categories = []struct {
	language, pkg, file, program string
	run                          func(t *testing.T, dir string) string
}{
	{"java", "app.text", "Main.java", `import app.text.*;
public class Main { public static void main(String[] a) { CultureSwitch c = new CultureSwitch(); Wording w = new Wording(c); StringBuilder o = new StringBuilder();
for (String t : new String[] {CULTURES}) { c.choose(t); for (double n : new double[] {NUMBERS}) { o.append(w.cardinal(n)).append(' ').append(w.ordinal(n)).append('\n'); } } System.out.print(o); } }`,
		func(t *testing.T, dir string) string {
			tool(t, dir, need(t, "javac"), "-d", "out", "Main.java", "app/text/Wording.java", "app/text/CultureSwitch.java", "app/text/WordingTexts.java")
			return tool(t, dir, need(t, "java"), "-cp", "out", "Main")
		}},
	{"kotlin", "app.text", "Main.kt", `import app.text.*
fun main() { val c = CultureSwitch(); val w = Wording(c); val o = StringBuilder()
for (t in listOf(CULTURES)) { c.choose(t); for (n in listOf<Number>(NUMBERS)) { o.append(w.cardinal(n.toDouble())).append(' ').append(w.ordinal(n.toDouble())).append('\n') } }; print(o) }`,
		func(t *testing.T, dir string) string {
			lib := filepath.Join(cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere"), "kotlin-compiler")
			tool(t, dir, need(t, "bash"), need(t, filepath.Join(lib, "bin/kotlinc")), "Main.kt", "app", "-cp", filepath.Join(lib, "lib/kotlinx-coroutines-core-jvm.jar"), "-d", "out")
			return tool(t, dir, need(t, "java"), "-cp", "out:"+filepath.Join(lib, "lib/kotlin-stdlib.jar"), "MainKt")
		}},
	{"csharp", "App", "Main.cs", `public static class Program { public static void Main() { var c = new App.CultureSwitch(); var w = new App.Wording(c); var o = new System.Text.StringBuilder();
foreach (var t in new[] {CULTURES}) { c.Choose(t); foreach (var n in new decimal[] {NUMBERSm}) { o.Append(w.Cardinal(n)).Append(' ').Append(w.Ordinal(n)).Append('\n'); } } System.Console.Write(o); } }`,
		func(t *testing.T, dir string) string {
			tool(t, dir, need(t, "mcs"), "-langversion:6", "-out:main.exe", "-recurse:*.cs")
			return tool(t, dir, need(t, "mono"), "main.exe")
		}},
	{"swift", "", "main.swift", `let c = CultureSwitch()
let w = Wording(c)
for t in [CULTURES] { c.choose(t); for n: Double in [NUMBERS] { print(w.cardinal(n: n), w.ordinal(n: n)) } }`,
		func(t *testing.T, dir string) string {
			tool(t, dir, need(t, toolchain("swift/usr/bin/swiftc")), "-o", "main", "main.swift", "CultureSwitch.swift", "CultureMessage.swift", "Wording.swift", "WordingTexts.swift")
			return tool(t, dir, filepath.Join(dir, "main"))
		}},
	{"cpp", "app", "main.cpp", `#include <iostream>
#include "wording.h"
int main() { app::CultureSwitch c; app::Wording w(c); for (const char* t : {CULTURES}) { c.choose(t); for (double n : {NUMBERSd}) { std::cout << w.cardinal(n) << ' ' << w.ordinal(n) << '\n'; } } }`,
		func(t *testing.T, dir string) string {
			tool(t, dir, need(t, "g++"), "-std=c++17", "-o", "main", "main.cpp", "wording.cpp", "culture_switch.cpp")
			return tool(t, dir, filepath.Join(dir, "main"))
		}},
	{"go", "text", "main.go", `package main
import ("fmt"; "main/text")
func main() { c := text.NewCultureSwitch(); w := text.NewWording(c); for _, t := range []string{CULTURES} { c.Choose(t); for _, n := range []float64{NUMBERS} { fmt.Println(w.Cardinal(n), w.Ordinal(n)) } } }`,
		func(t *testing.T, dir string) string {
			write(t, filepath.Join(dir, "go.mod"), "module main\n\ngo 1.24\n")
			return tool(t, dir, need(t, "go"), "run", ".")
		}},
	{"typescript", "", "main.ts", `import { CultureSwitch } from "./cultureSwitch.js"; import { Wording } from "./wording.js";
const c = new CultureSwitch(); const w = new Wording(c); let o = "";
for (const t of [CULTURES]) { c.choose(t); for (const n of [NUMBERS]) { o += w.cardinal(n) + " " + w.ordinal(n) + "\n"; } } console.log(o.trimEnd());`,
		func(t *testing.T, dir string) string {
			write(t, filepath.Join(dir, "package.json"), `{"type": "module"}`)
			tool(t, dir, need(t, "node"), need(t, filepath.Join(cmp.Or(os.Getenv("ZELVIK_NODE_MODULES"), "/nowhere"), "typescript/bin/tsc")), "--target", "es2022", "--lib", "es2022,dom", "--module", "nodenext", "main.ts")
			return tool(t, dir, need(t, "node"), "main.js")
		}},
}

// TestCategories asks the generated plural rules of every language about every
// number in every culture. What is right is what the rules of Unicode's locale
// data say, which package culture is tested against.
func TestCategories(t *testing.T) {
	family := t.TempDir()
	for _, tag := range counted {
		forms := ""
		for _, category := range culture.Categories {
			forms += " " + category + " {" + category + "}"
		}
		write(t, filepath.Join(family, "app_"+strings.ReplaceAll(tag, "-", "_")+".arb"), fmt.Sprintf(
			`{"@@locale": %q, "cardinal": "{n, plural,%s}", "@cardinal": {"placeholders": {"n": {"type": "double"}}}, "ordinal": "{n, selectordinal,%s}", "@ordinal": {"placeholders": {"n": {"type": "double"}}}}`, tag, forms, forms))
	}
	var want strings.Builder
	for _, tag := range counted {
		for _, number := range numbers {
			o, err := culture.ParseOperands(number)
			require.NoError(t, err)
			fmt.Fprintf(&want, "%s %s\n", culture.Tag(tag).Cardinal().Category(o), culture.Tag(tag).Ordinal().Category(o))
		}
	}
	quoted := `"` + strings.Join(counted, `", "`) + `"`
	for _, c := range categories {
		t.Run(c.language, func(t *testing.T) {
			dir := t.TempDir()
			modelWith(t, c.language, dir, accessor.Options{Package: c.pkg, Plain: true}, family)
			list := func(behind, whole string) string {
				var out []string
				for _, number := range numbers {
					if behind == "" && !strings.Contains(number, ".") {
						out = append(out, number+whole)
						continue
					}
					out = append(out, number+behind)
				}
				return strings.Join(out, ", ")
			}
			var decimals []string
			for _, number := range numbers {
				if !strings.Contains(number, ".") {
					number += ".0"
				}
				decimals = append(decimals, number)
			}
			program := strings.NewReplacer("CULTURES", quoted, "NUMBERSm", list("m", "m"), "NUMBERSd", strings.Join(decimals, ", "), "NUMBERS", list("", "")).Replace(c.program)
			write(t, filepath.Join(dir, c.file), program)
			have := strings.Split(strings.TrimSpace(c.run(t, dir)), "\n")
			expect := strings.Split(strings.TrimSpace(want.String()), "\n")
			require.Len(t, have, len(expect))
			wrong := 0
			for i := range expect {
				if strings.TrimSpace(have[i]) != expect[i] && wrong < 10 {
					wrong++
					assert.Fail(t, fmt.Sprintf("%s %s: %s, and it is %s", counted[i/len(numbers)], numbers[i%len(numbers)], have[i], expect[i]))
				}
			}
		})
	}
}

// Every language with every script and region that Unicode's locale data knows
// it in has the categories that the JavaScript engine's data has.
func TestPluralCategoriesOfAllCultures(t *testing.T) {
	node := need(t, "node")
	var tags []string
	scripts := strings.Fields("Latn Cyrl Arab Deva Hans Hant Guru Hebr Thaa Mong Tfng Grek Beng Telu Shaw Dsrt Vaii Adlm Olck Mtei Nkoo Aran Armn Geor Ethi Mymr Khmr Thai")
	for _, language := range culture.Languages() {
		tags = append(tags, language)
		for _, script := range scripts {
			tags = append(tags, language+"-"+script)
		}
	}
	tags = append(tags, strings.Fields("sr-Latn-RS sr-Cyrl-BA bs-Cyrl-BA uz-Cyrl-UZ pa-Arab-PK kk-Arab-CN az-Cyrl zh-Hant-HK pt-PT pt-BR pt-AO pt-MZ pt-CH es-419 es-MX fr-CA en-001 en-150 de-CH nb nn no sh-RS")...)
	dir := t.TempDir()
	write(t, filepath.Join(dir, "tags.json"), `["`+strings.Join(tags, `","`)+`"]`)
	printed := tool(t, dir, node, "-e", `
for (const tag of JSON.parse(require("fs").readFileSync("tags.json", "utf8"))) {
  try { if (!Intl.PluralRules.supportedLocalesOf([tag]).length) continue; } catch { continue; } // no tag for it
  const both = ["cardinal", "ordinal"].map((type) => new Intl.PluralRules(tag, {type}));
  const of = (rules) => rules.resolvedOptions().pluralCategories.slice().sort().join(",");
  const say = (n) => both.map((rules) => rules.select(n)).join("/");
  console.log(tag, ...both.map(of), [0, 1, 2, 3, 5, 11, 21, 100, 1.5].map(say).join(","));
}`)
	asked, wrong := 0, 0
	for line := range strings.Lines(printed) {
		fields := strings.Fields(line)
		if len(fields) < 4 { // not known to the engine
			continue
		}
		tag, err := culture.Parse(fields[0])
		if err != nil {
			continue
		}
		asked++
		var said []string
		for _, number := range strings.Fields("0 1 2 3 5 11 21 100 1.5") {
			o, err := culture.ParseOperands(number)
			require.NoError(t, err)
			said = append(said, tag.Cardinal().Category(o)+"/"+tag.Ordinal().Category(o))
		}
		if have := strings.Join(said, ","); have != fields[3] {
			if wrong++; wrong < 20 {
				assert.Equal(t, fields[3], have, "%s", tag)
			}
		}
		for i, rules := range []culture.Rules{tag.Cardinal(), tag.Ordinal()} {
			list := rules.Categories()
			slices.Sort(list)
			if have := strings.Join(list, ","); have != fields[i+1] {
				if wrong++; wrong < 20 {
					assert.Equal(t, fields[i+1], have, "%s %d", tag, i)
				}
			}
		}
	}
	assert.Zero(t, wrong)
	assert.Greater(t, asked, 3000)
	t.Logf("%d cultures", asked)
}
