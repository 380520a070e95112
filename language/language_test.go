package language

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestHuman(t *testing.T) {
	for text, want := range map[string][2]bool{ // among code, and in a place for texts
		"Book a crossing": {true, true}, "Boarding": {false, true}, "OK": {false, true}, "book now": {false, true},
		"Kesäaikataulu alkaa": {true, true}, "予約する": {true, true}, "احجز رحلة": {false, true}, "¿Ya se va?": {true, true},
		"Total %1$s": {false, true}, "Hello {name}, welcome": {true, true},
		"": {false, false}, "%s": {false, false}, "12:30": {false, false}, "%d / %d": {false, false}, "—": {false, false},
		"https://skerryline.example/a b": {false, false}, "mailto:a@skerryline.example": {false, false}, "a@skerryline.example": {false, false},
		"yyyy-MM-dd HH:mm": {false, false}, "booking_title": {false, false}, "bookingTitle": {false, false}, "line.skerry.app": {false, false},
		"#ff8800": {false, false}, "/etc/passwd": {false, false}, "C:\\temp": {false, false}, "@string/x": {false, false}, "SELECT a FROM b": {false, false},
		"BOOKING_TITLE": {false, false}, "application/json": {false, false}, "BookingPage": {false, false}, "<b>x</b>": {false, false},
	} {
		assert.Equal(t, want, [2]bool{Human(text, false), Human(text, true)}, text)
	}
}

// The literals of each language, as the language reads them.
func TestLiterals(t *testing.T) {
	for name, cases := range map[string]map[string][]string{
		"a.kt":    {`val a = "One \"two\" \u00e9"; val b = 'x'; val c = """raw "text" here"""`: {`One "two" é`, `raw "text" here`}},
		"a.java":  {`String a = "One" + "Two\n"; char b = '"'; // "no"`: {"One", "Two\n"}},
		"a.swift": {`let a = "One \(name) two", b = "x\u{e9}"` + "\n/* \"no\" */": {`One (name) two`, "xé"}},
		"a.cs":    {`var a = "One"; var b = @"C:\x"; var c = $"Two {n}";`: {"One", `C:\x`, "Two {n}"}},
		"a.dart":  {`var a = 'It\'s'; var b = "Two $n"; var c = r'raw\n';`: {"It's", "Two $n", `raw\n`}},
		"a.ts":    {"const a = 'One', b = \"Two\", c = `Three ${n + 1} four`;": {"One", "Two", "Three ${n + 1} four"}},
		"a.cpp":   {`auto a = "One"; auto b = L"Two"; char c = 'x'; #include "x.h"`: {"One", "Two"}},
	} {
		l := of(name)
		require.NotNil(t, l, name)
		for code, want := range cases {
			var got []string
			for _, lit := range l.literals(code) {
				got = append(got, lit.text)
				assert.Contains(t, "\"'`@$rLRuU", code[lit.from:lit.from+1], "%s: %s", name, code[lit.from:lit.to])
			}
			if name == "a.cpp" && len(got) > len(want) { // what stands after #include may count as one
				got = got[:len(want)]
			}
			assert.Equal(t, want, got, "%s: %s", name, code)
		}
	}
}

// of returns the language of a file.
func of(name string) *Language {
	for _, l := range Languages {
		if l.Matches(name) {
			return l
		}
	}
	return nil
}

func TestScreens(t *testing.T) {
	for p, want := range map[string]string{
		"res/layout/activity_booking.xml": "booking", "BookingPage.xaml": "booking", "ui/mainwindow.ui": "mainwindow",
		"harbour_map.fxml": "harbour_map", "BoardingPassView.swift": "boarding_pass", "main.cpp": "main", "app/AndroidManifest.xml": "app",
	} {
		assert.Equal(t, want, Screen(p), p)
	}
	assert.Equal(t, []string{"show", "it", "to", "html", "reader", "2"}, Words("Show it to HTMLReader 2"))
}

// Time for a project of some size: BenchmarkCode tells what a megabyte takes.
func BenchmarkCode(b *testing.B) {
	text := strings.Repeat("        button.setText(\"Book a crossing\"); // and go on\n        int n = compute(a, b) + 12;\n", 2000)
	b.SetBytes(int64(len(text)))
	for b.Loop() {
		Java.Texts("a.java", text, Options{})
	}
}

// The lexers' tables are here with their licence.
func TestTables(t *testing.T) {
	licence, err := os.ReadFile(filepath.Join("tokens", "COPYING"))
	require.NoError(t, err)
	assert.Contains(t, string(licence), "Permission is hereby granted")
}

func TestGlued(t *testing.T) {
	for _, test := range []struct{ code, with string }{
		{`view.setText(getString(R.string.sent_by) + " " + name);`, "name"},
		{`x = name + " " + getString(R.string.left)`, "name"},
		{`x = getString(R.string.a) + getString(R.string.b)`, "getString(R.string.b)"},
		{`x = stringResource(R.string.price) + amount`, "amount"},
		{`let s = NSLocalizedString("by", comment: "") + author`, "author"},
		{`label.Text = Resources.SentBy + " " + name;`, "name"},
		{`Text(AppLocalizations.of(context)!.sentBy + ' ' + name)`, "name"},
		{`a = t('sent.by') + ' ' + name`, "name"},
		{`label->setText(tr("Sent by ") + name);`, "name"},
		{`s = bundle.getString("by") + " of " + count;`, "count"},
		{`x = tr("Saved as") + u' ' + path`, "path"},
		{`x = QString("%1").arg(y) + tr(" of it")`, "what comes before it"},
		// Not glued: a sentence and another, through a tag, with a link that is made of literals, a class called Strings.
		{`x = tr("It is there.") + u' ' + tr("Do you want it?")`, ""},
		{`x = tr("Metadata received") + u"</b> - " + tr("It will stop then")`, ""},
		{`x = tr("Metadata received") + u" <em>"`, ""},
		{`x = tr("Stop timeout") + u' ' + makeLink(u"https://skerry.example", u"(?)")`, ""},
		{`x = Strings.ReadSafe(line) + name`, ""},
		{`x = tr("Save path: ") + path`, ""},
		{`x = name + tr("(SYSTEM)")`, ""},
		{`x = f(y) + tr("To control it, go to %1")`, ""},
		{`x = tr("Fonts") + QLatin1String(" - Skerry")`, ""},
		{"x = head\n#ifdef WITH_MAP\n + tr(\"Map %1\")", ""},
		// Not glued: alone, told apart by more than a space, with signs, in comments.
		{`view.setText(getString(R.string.sent_by));`, ""},
		{`x = getString(R.string.a) + "\n" + getString(R.string.b)`, ""},
		{`x = getString(R.string.total) + ": " + amount`, ""},
		{`x = "• " + getString(R.string.a)`, ""},
		{`x = getString(R.string.a) + "!"`, ""},
		{`// getString(R.string.a) + name`, ""},
		{`x = count + 1; y = tr("Crates");`, ""},
		{`s += getString(R.string.a)`, ""},
		{`x = "tr(\"a\") + b"`, ""},
	} {
		var found []Glued
		for _, l := range Languages {
			if l.asks != nil && found == nil {
				found = l.glued("\n    " + test.code + "\n")
			}
		}
		if test.with == "" {
			assert.Empty(t, found, test.code)
		} else if assert.Len(t, found, 1, test.code) {
			assert.Equal(t, test.with, found[0].With, test.code)
		}
	}
}
