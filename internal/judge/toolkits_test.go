package judge

import (
	"cmp"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// program writes a program of testdata/toolkits into a folder.
func program(t *testing.T, dir, name string) {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata/toolkits", name))
	require.NoError(t, err)
	write(t, filepath.Join(dir, name), string(data))
}

// application writes a program of testdata/toolkits into a folder with the demo's
// accessors, but those that it has no use for. It returns the folder and all files of
// the program's language.
func application(t *testing.T, language, pkg, name string, without ...string) (dir string, files []string) {
	t.Helper()
	dir = t.TempDir()
	modelOf(t, language, pkg, "../../demo/project/android/res", dir)
	for _, file := range without {
		require.NoError(t, os.Remove(filepath.Join(dir, file)))
	}
	program(t, dir, name)
	require.NoError(t, filepath.WalkDir(dir, func(at string, _ os.DirEntry, err error) error {
		if filepath.Ext(at) == filepath.Ext(name) {
			files = append(files, at)
		}
		return err
	}))
	return dir, files
}

// windows compiles a program for Windows, runs it there, and returns what it says.
func windows(t *testing.T, name string) string {
	t.Helper()
	compile, run := need(t, toolchain("dotnet/bin/windows-csharp")), need(t, toolchain("dotnet/bin/windows-run"))
	need(t, "/usr/lib/wine/wine64")
	dir, files := application(t, "csharp", "App.Text", name)
	tool(t, dir, compile, append([]string{"shown.exe", "-nowarn:CS0612,CS0618"}, files...)...)
	display(t)
	return strings.ReplaceAll(tool(t, dir, run, prefix(dir), "shown.exe"), "\r", "")
}

// script compiles a program for the browser's signal libraries, and returns its folder.
func script(t *testing.T, name string) string {
	t.Helper()
	tsc := need(t, filepath.Join(modules(), "typescript/bin/tsc"))
	need(t, filepath.Join(modules(), "@preact/signals-core"))
	need(t, filepath.Join(modules(), "@vue/reactivity"))
	dir, _ := application(t, "typescript", "", name)
	require.NoError(t, os.Symlink(modules(), filepath.Join(dir, "node_modules")))
	write(t, filepath.Join(dir, "package.json"), `{"type": "module"}`)
	tool(t, dir, need(t, "node"), tsc, "--strict", "--skipLibCheck", "--target", "es2022", "--lib", "es2022,dom", "--module", "nodenext", name)
	return dir
}

// TestCompose shows texts in a real composition: they follow the switch where they are
// read, the direction turns, and what was typed and scrolled stays.
func TestCompose(t *testing.T) {
	composec := need(t, toolchain("kotlin/bin/composec"))
	dir, files := application(t, "kotlin", "app.text", "Compose.kt", "app/text/CultureFlow.kt")
	tool(t, dir, composec, append([]string{"-Werror", "-d", "out"}, files...)...)
	said := tool(t, dir, need(t, toolchain("kotlin/bin/kotlin")), "-cp", "out", "ComposeKt")
	assert.Equal(t, strings.NewReplacer("<", "\u2068", ">", "\u2069").Replace(strings.TrimSpace(`
en Boarding pass | Welcome aboard, Runa! | typed Runa | at 0 | scrolled true
ar بطاقة الصعود | مرحبًا بك على متن العبّارة يا <Runa>! | typed Runa | at right | scrolled true
de Bordkarte | Willkommen an Bord, Runa! | typed Runa | at 0 | scrolled true
de Neue Karte | Willkommen an Bord, Runa! | typed Runa | at 0 | scrolled true
the untouched was composed 0 times for texts`)), strings.TrimSpace(said))
}

// TestWPF binds a window of the real WPF to the source of bindings, switches from the
// window's thread and from another one, and loads texts.
func TestWPF(t *testing.T) {
	said := windows(t, "Window.cs")
	lines := strings.Split(strings.TrimSpace(said), "\n")
	require.GreaterOrEqual(t, len(lines), 5, said)
	assert.Equal(t, []string{
		"en Boarding pass Boarding pass LeftToRight typed Runa focus True menu Back",
		"ar \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f RightToLeft typed Runa focus True menu \u0631\u062c\u0648\u0639",
		"de Bordkarte Bordkarte LeftToRight typed Runa focus True menu Zur\u00fcck",
		"de Neue Karte Neue Karte LeftToRight typed Runa focus True menu Zur\u00fcck",
		"collected True",
	}, lines[len(lines)-5:])
}

// TestWindowsForms binds the controls of a real form, and switches from another thread.
func TestWindowsForms(t *testing.T) {
	assert.Contains(t, windows(t, "Form.cs"), `en Boarding pass Boarding pass Back No typed Runa un
ar بطاقة الصعود بطاقة الصعود رجوع Yes typed Runa un
de Bordkarte Bordkarte Zurück No typed Runa un
`)
}

// prefix is the folder of a Windows, which is kept where one is named.
func prefix(dir string) string {
	return cmp.Or(os.Getenv("ZELVIK_WINE"), filepath.Join(dir, "prefix"))
}

// display gives programs with windows a screen.
func display(t *testing.T) {
	t.Helper()
	server := exec.Command(need(t, "Xvfb"), ":77", "-screen", "0", "1280x800x24")
	require.NoError(t, server.Start())
	t.Cleanup(func() {
		assert.NoError(t, server.Process.Kill())
		_ = server.Wait() // it was killed
	})
	t.Setenv("DISPLAY", ":77")
	time.Sleep(time.Second)
}

// TestJavaFX binds labels and loads a designed form, on a toolkit without a display.
func TestJavaFX(t *testing.T) {
	javafxc, javafx := need(t, toolchain("javafx/bin/javafxc")), need(t, toolchain("javafx/bin/javafx"))
	dir, files := application(t, "java", "app.text", "Forms.java", "app/text/WordingCases.java")
	tool(t, dir, javafxc, append([]string{"-Werror", "-d", "out"}, files...)...)
	said := strings.Split(strings.TrimSpace(tool(t, dir, javafx, "-cp", "out", "Forms")), "\n")
	assert.Equal(t, []string{
		"en Boarding pass | Welcome aboard, Runa! | LEFT_TO_RIGHT | Runa un | Boarding pass, Back",
		"ar \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f | \u0645\u0631\u062d\u0628\u064b\u0627 \u0628\u0643 \u0639\u0644\u0649 \u0645\u062a\u0646 \u0627\u0644\u0639\u0628\u0651\u0627\u0631\u0629 \u064a\u0627 \u2068Runa\u2069! | RIGHT_TO_LEFT | Runa un | \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f, \u0631\u062c\u0648\u0639",
		"de Bordkarte | Willkommen an Bord, Runa! | LEFT_TO_RIGHT | Runa un | Bordkarte, Zur\u00fcck",
	}, said)
}

// TestSwing shows texts in a real window: they follow the switch from another thread,
// what was typed, selected and scrolled stays, and a closed window is collected.
func TestSwing(t *testing.T) {
	javac, java := need(t, "javac"), need(t, "java")
	dir, files := application(t, "java", "app.text", "Frame.java", "app/text/WordingCases.java")
	tool(t, dir, javac, append([]string{"-Werror", "-d", "out"}, files...)...)
	display(t)
	said := strings.Split(strings.TrimSpace(tool(t, dir, java, "-cp", "out", "Frame")), "\n")
	assert.Equal(t, []string{
		"en Boarding pass | Welcome aboard, Runa! | 3 passengers | Back | ltr | Runa un at 200", "stale: []",
		"ar \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f | \u0645\u0631\u062d\u0628\u064b\u0627 \u0628\u0643 \u0639\u0644\u0649 \u0645\u062a\u0646 \u0627\u0644\u0639\u0628\u0651\u0627\u0631\u0629 \u064a\u0627 \u2068Runa\u2069! | \u0663 \u0631\u0643\u0627\u0628 | \u0631\u062c\u0648\u0639 | rtl | Runa un at 200", "stale: []",
		"de Bordkarte | Willkommen an Bord, Runa! | 3 Fahrg\u00e4ste | Zur\u00fcck | ltr | Runa un at 200", "stale: []",
		"loaded Neue Karte | Willkommen an Bord, Runa! | 3 Fahrg\u00e4ste | Zur\u00fcck | ltr | Runa un at 200",
		"collected true",
	}, said)
}

// TestObservation holds that what Swift's Observation tracks is told of every change, and
// that the main actor hears of a switch from another thread.
func TestObservation(t *testing.T) {
	swiftc := need(t, toolchain("swift/usr/bin/swiftc"))
	dir, files := application(t, "swift", "", "Observed.swift", "WordingCases.swift", "CultureObject.swift")
	tool(t, dir, swiftc, append([]string{"-swift-version", "6", "-warnings-as-errors", "-parse-as-library", "-o", "observed"}, files...)...)
	assert.Equal(t, "en Boarding pass\nstale\nde Bordkarte\nstale\nde Neue Karte\n2\nar \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f\n", tool(t, dir, filepath.Join(dir, "observed")))
}

// TestPage shows texts in a page of a real browser, by a plain store and by two libraries
// of signals.
func TestPage(t *testing.T) {
	chromium, dir := need(t, "chromium"), script(t, "page.ts")
	program(t, dir, "page.html")
	dom := tool(t, dir, chromium, "--headless", "--no-sandbox", "--disable-gpu", "--allow-file-access-from-files", "--virtual-time-budget=10000", "--user-data-dir="+filepath.Join(dir, "profile"), "--dump-dom", "file://"+filepath.Join(dir, "page.html"))
	_, said, _ := strings.Cut(dom, `<pre id="said">`)
	said, _, _ = strings.Cut(said, "</pre>")
	assert.Equal(t, []string{
		"en | Boarding pass | Welcome aboard, Runa! | 3 passengers | Back | left | Runa 1-3 true at 200", "stale: ",
		"ar | \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f | \u0645\u0631\u062d\u0628\u064b\u0627 \u0628\u0643 \u0639\u0644\u0649 \u0645\u062a\u0646 \u0627\u0644\u0639\u0628\u0651\u0627\u0631\u0629 \u064a\u0627 \u2068Runa\u2069! | 3 \u0631\u0643\u0627\u0628 | \u0631\u062c\u0648\u0639 | right | Runa 1-3 true at 200", "stale: ",
		"de | Bordkarte | Willkommen an Bord, Runa! | 3 Fahrg\u00e4ste | Zur\u00fcck | left | Runa 1-3 true at 200", "stale: ",
		"loaded | Neue Karte | Willkommen an Bord, Runa! | 3 Fahrg\u00e4ste | Zur\u00fcck | left | Runa 1-3 true at 200",
		"ended | Neue Karte | Welcome aboard, Runa! | 3 passengers | Back | left | Runa 1-3 true at 200",
	}, strings.Split(said, "\n"))
}

// TestSignals holds that effects of signal libraries of the browser read a text again
// when it changes, and that those that read none are left alone.
func TestSignals(t *testing.T) {
	dir := script(t, "signals.ts")
	assert.Equal(t, "preact en Boarding pass, ar \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f, ar x untouched 1\n"+
		"vue en Boarding pass, ar \u0628\u0637\u0627\u0642\u0629 \u0627\u0644\u0635\u0639\u0648\u062f, ar x untouched 1\n", tool(t, dir, need(t, "node"), "signals.js"))
}

// TestQt shows a designed form whose texts come from tr, with the translator that is
// generated, and switches from another thread.
func TestQt(t *testing.T) {
	uic := need(t, "/usr/lib/qt6/libexec/uic")
	dir, family := t.TempDir(), t.TempDir()
	for tag, texts := range map[string][4]string{
		"en": {"Boarding", "Boarding pass", "Back", "<numerusform>%n crate for %1</numerusform><numerusform>%n crates for %1</numerusform>"},
		"de": {"Einsteigen", "Bordkarte", "Zur\u00fcck", "<numerusform>%n Kiste f\u00fcr %1</numerusform><numerusform>%n Kisten f\u00fcr %1</numerusform>"},
		"ar": {"\u0635\u0639\u0648\u062f", "\u0628\u0637\u0627\u0642\u0629", "\u0631\u062c\u0648\u0639", strings.Repeat("<numerusform>%n/%1</numerusform>", 6)},
	} {
		write(t, filepath.Join(family, "app_"+tag+".ts"), `<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="`+tag+`" sourcelanguage="en"><context><name>BoardingForm</name>
<message><source>Boarding</source><translation>`+texts[0]+`</translation></message>
<message><source>Boarding pass</source><translation>`+texts[1]+`</translation></message>
<message><source>Back</source><comment>leave</comment><translation>`+texts[2]+`</translation></message>
<message numerus="yes"><source>%n crates for %1</source><translation>`+texts[3]+`</translation></message>
</context></TS>
`)
	}
	modelOf(t, "cpp", "skerry::text", family, filepath.Join(dir, "text"))
	program(t, dir, "form.ui")
	program(t, dir, "form.cpp")
	tool(t, dir, uic, "form.ui", "-o", "ui_form.h")
	flags := strings.Fields(tool(t, dir, need(t, "pkg-config"), "--cflags", "--libs", "Qt6Widgets"))
	tool(t, dir, need(t, "g++"), append([]string{"-std=c++17", "-fPIC", "-o", "form", "form.cpp", "text/culture_switch.cpp", "text/wording.cpp"}, flags...)...)
	t.Setenv("QT_QPA_PLATFORM", "offscreen")
	said := tool(t, dir, filepath.Join(dir, "form"))
	assert.Equal(t, "en Boarding | Boarding pass | Back | ltr | Runa un | 3 crates for Runa\n"+
		"ar \u0635\u0639\u0648\u062f | \u0628\u0637\u0627\u0642\u0629 | \u0631\u062c\u0648\u0639 | rtl | Runa un | 3/Runa\n"+
		"de Einsteigen | Bordkarte | Zur\u00fcck | ltr | Runa un | 3 Kisten f\u00fcr Runa\n", said[strings.Index(said, "en Boarding"):]) // Qt says things before
}
