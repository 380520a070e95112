package judge

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"zelvik/accessor"
)

// parts are the five families of an application by the type that reads them, with the
// text of one key in English and in German, which the last one does not have.
var parts = [][3]string{{"Wording", "Desk", "Pult"}, {"IndexText", "Index", "Verzeichnis"}, {"HelpText", "Help", "Hilfe"}, {"MenuText", "Menu", "Auswahl"}, {"QuayText", "Quay", ""}}

// loads are bundles: of one type, of whatever type, and of a culture that is not
// compiled in.
var loads = []string{`{"culture":"de","type":"MenuText","texts":{"title":"Neu"}}`, `{"culture":"de","texts":{"title":"Alle"}}`, `{"culture":"nl","type":"HelpText","texts":{"title":"Hulp"}}`}

// applications show the title of every type after every change, one line each.
var applications = []struct {
	language, pkg, file, program string
	run                          func(t *testing.T, dir string) string
}{
	{"java", "app", "Main.java", `import app.*;
public class Main { public static void main(String[] a) { CultureSwitch c = new CultureSwitch(); Wording w = new Wording(c); IndexText i = new IndexText(c); HelpText h = new HelpText(c); MenuText m = new MenuText(c); QuayText q = new QuayText(c);
c.listen(tag -> System.out.println(tag + " " + w.title() + " " + i.title() + " " + h.title() + " " + m.title() + " " + q.title()));
c.choose("de"); for (String bundle : new String[] {LOADS}) { c.load(bundle); } c.choose("nl"); c.beginAudit(); w.title(); i.title(); c.clear(); i.title(); System.out.println(c.supported() + " " + c.audit()); } }`,
		func(t *testing.T, dir string) string {
			tool(t, dir, need(t, "javac"), "-sourcepath", ".", "-d", "out", "Main.java")
			return tool(t, dir, need(t, "java"), "-cp", "out", "Main")
		}},
	{"kotlin", "app", "Main.kt", `import app.*
fun main() { val c = CultureSwitch(); val w = Wording(c); val i = IndexText(c); val h = HelpText(c); val m = MenuText(c); val q = QuayText(c)
c.listen { println("$it ${w.title} ${i.title} ${h.title} ${m.title} ${q.title}") }
c.choose("de"); for (bundle in listOf(LOADS)) c.load(bundle); c.choose("nl"); c.beginAudit(); w.title; i.title; c.clear(); i.title; println("${c.supported} ${c.audit()}") }`,
		func(t *testing.T, dir string) string {
			library := filepath.Join(modules(), "kotlin-compiler/lib")
			tool(t, dir, need(t, "bash"), need(t, filepath.Join(modules(), "kotlin-compiler/bin/kotlinc")), "Main.kt", "app", "-nowarn", "-cp", filepath.Join(library, "kotlinx-coroutines-core-jvm.jar"), "-d", "out")
			return tool(t, dir, need(t, "java"), "-cp", "out:"+filepath.Join(library, "kotlin-stdlib.jar"), "MainKt")
		}},
	{"csharp", "App", "Main.cs", `using System; using App;
static class Program { static void Main() { var c = new CultureSwitch(); var w = new Wording(c); var i = new IndexText(c); var h = new HelpText(c); var m = new MenuText(c); var q = new QuayText(c);
c.Listen(tag => Console.WriteLine(tag + " " + w.Title + " " + i.Title + " " + h.Title + " " + m.Title + " " + q.Title));
c.Choose("de"); foreach (string bundle in new[] {LOADS}) { c.Load(bundle); } c.Choose("nl"); c.BeginAudit(); string read = w.Title + i.Title; c.Clear(); read += i.Title;
Console.WriteLine("[" + string.Join(", ", c.Supported) + "] [" + string.Join(", ", c.Audit()) + "]"); } }`,
		func(t *testing.T, dir string) string {
			tool(t, dir, need(t, "mcs"), "-langversion:6", "-out:main.exe", "-recurse:*.cs")
			return tool(t, dir, need(t, "mono"), "main.exe")
		}},
	{"swift", "", "main.swift", `import Foundation
let c = CultureSwitch(); let w = Wording(c); let i = IndexText(c); let h = HelpText(c); let m = MenuText(c); let q = QuayText(c)
let s = c.listen { print($0, w.title, i.title, h.title, m.title, q.title) }
c.choose("de"); for bundle in [LOADS] { c.load(Data(bundle.utf8)) }; c.choose("nl"); c.beginAudit(); _ = w.title + i.title; c.clear(); _ = i.title
print("[\(c.supported.joined(separator: ", "))] [\(c.audit().joined(separator: ", "))]")`,
		func(t *testing.T, dir string) string {
			compiler := need(t, toolchain("swift/usr/bin/swiftc"))
			files, _ := filepath.Glob(filepath.Join(dir, "*.swift"))
			files = strings.Fields(strings.NewReplacer(filepath.Join(dir, "CultureObject.swift"), "").Replace(strings.Join(files, " ")))
			var kept []string
			for _, file := range files {
				if !strings.HasSuffix(file, "Cases.swift") {
					kept = append(kept, file)
				}
			}
			tool(t, dir, compiler, append([]string{"-swift-version", "5", "-o", "main"}, kept...)...)
			return tool(t, dir, filepath.Join(dir, "main"))
		}},
	{"typescript", "", "main.ts", `import { CultureSwitch } from "./cultureSwitch.js"; import { Wording } from "./wording.js"; import { IndexText } from "./indexText.js"; import { HelpText } from "./helpText.js"; import { MenuText } from "./menuText.js"; import { QuayText } from "./quayText.js";
const c = new CultureSwitch(); const [w, i, h, m, q] = [new Wording(c), new IndexText(c), new HelpText(c), new MenuText(c), new QuayText(c)];
c.listen((tag) => console.log(tag, w.title(), i.title(), h.title(), m.title(), q.title()));
c.choose("de"); for (const bundle of [LOADS]) { c.load(bundle); } c.choose("nl"); c.beginAudit(); w.title(); i.title(); c.clear(); i.title();
console.log("[" + c.supported.join(", ") + "] [" + c.audit().join(", ") + "]");`,
		func(t *testing.T, dir string) string {
			write(t, filepath.Join(dir, "package.json"), `{"type": "module"}`)
			tool(t, dir, need(t, "node"), need(t, filepath.Join(modules(), "typescript/bin/tsc")), "--target", "es2022", "--lib", "es2022,dom", "--module", "nodenext", "main.ts")
			return tool(t, dir, need(t, "node"), "main.js")
		}},
	{"cpp", "app", "main.cpp", `#include <iostream>
#include "helptext.h"
#include "indextext.h"
#include "menutext.h"
#include "quaytext.h"
#include "wording.h"
int main() { app::CultureSwitch c; app::Wording w(c); app::IndexText i(c); app::HelpText h(c); app::MenuText m(c); app::QuayText q(c);
auto s = c.listen([&](const std::string& tag) { std::cout << tag << " " << w.title() << " " << i.title() << " " << h.title() << " " << m.title() << " " << q.title() << "\n"; });
c.choose("de"); for (const char* bundle : {LOADS}) { c.load(bundle); } c.choose("nl"); c.beginAudit(); w.title(); i.title(); c.clear(); i.title();
auto list = [](const std::vector<std::string>& all) { std::string text; for (const auto& one : all) { text += (text.empty() ? "" : ", ") + one; } return "[" + text + "]"; };
std::cout << list(c.supported()) << " " << list(c.audit()) << "\n"; }`,
		func(t *testing.T, dir string) string {
			tool(t, dir, need(t, "g++"), "-std=c++17", "-o", "main", "main.cpp", "culture_switch.cpp", "wording.cpp", "indextext.cpp", "helptext.cpp", "menutext.cpp", "quaytext.cpp")
			return tool(t, dir, filepath.Join(dir, "main"))
		}},
	{"go", "text", "main.go", `package main
import ("fmt"; "strings"; "main/text")
func main() { c := text.NewCultureSwitch(); w, i, h, m, q := text.NewWording(c), text.NewIndexText(c), text.NewHelpText(c), text.NewMenuText(c), text.NewQuayText(c)
c.Listen(func(tag string) { fmt.Println(tag, w.Title(), i.Title(), h.Title(), m.Title(), q.Title()) })
c.Choose("de"); for _, bundle := range []string{LOADS} { c.Load([]byte(bundle)) }; c.Choose("nl"); c.BeginAudit(); w.Title(); i.Title(); c.Clear(); i.Title()
fmt.Println("[" + strings.Join(c.Supported(), ", ") + "] [" + strings.Join(c.Audit(), ", ") + "]") }`,
		func(t *testing.T, dir string) string {
			write(t, filepath.Join(dir, "go.mod"), "module main\n\ngo 1.24\n")
			return tool(t, dir, need(t, "go"), "run", ".")
		}},
}

// TestApplication holds that five families have one switch, that a bundle is of one
// type or of all, and that a bundle brings a culture along.
func TestApplication(t *testing.T) {
	dir := t.TempDir()
	var families []string
	for i, part := range parts {
		at := filepath.Join(dir, strings.ToLower(part[0]))
		write(t, filepath.Join(at, "en.json"), fmt.Sprintf(`{"title": %q, "more%d": "{n, plural, one {#} other {#}}"}`, part[1], i))
		if part[2] != "" {
			write(t, filepath.Join(at, "de.json"), fmt.Sprintf(`{"title": %q}`, part[2]))
		}
		write(t, filepath.Join(at, "ar.json"), `{"title": "\u0639"}`)
		families = append(families, at+":"+part[0])
	}
	for _, a := range applications {
		t.Run(a.language, func(t *testing.T) {
			dir := t.TempDir()
			modelWith(t, a.language, dir, accessor.Options{Package: a.pkg, Plain: true}, families...)
			var quoted []string
			for _, bundle := range loads {
				quoted = append(quoted, fmt.Sprintf("%q", bundle))
			}
			write(t, filepath.Join(dir, a.file), strings.ReplaceAll(a.program, "LOADS", strings.Join(quoted, ", ")))
			assert.Equal(t, `de Pult Verzeichnis Hilfe Auswahl Quay
de Pult Verzeichnis Hilfe Neu Quay
de Alle Alle Alle Alle Alle
nl Desk Index Hulp Menu Quay
en Desk Index Help Menu Quay
[en, ar, de, nl] []
`, a.run(t, dir))
		})
	}
}
