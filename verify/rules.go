package verify

import (
	"fmt"

	"zelvik/finding"
)

// Rules is the list of rules. Adding a rule is adding its file and its line
// here.
var Rules = []*Rule{
	fileDamaged, fileMisnamed, cultureUnknown, defaultMissing,
	keyDuplicate, keyOrphan, mergeConflict,
	cultureAbsent, textMissing, textEmpty, textCopied, textMoved, textDraft,
	placeholderLost, placeholderAdded, placeholderType, markupBroken,
	acceleratorLost, urlLost, spaceDrift, termBroken, languageSuspect, lengthOver,
	pluralGap, pluralIdle, selectGap,
	escapeWrong, platformRefuses, scriptUnexpected,
	noteMissing, sentencePieces, gluedText,
	hardcodedText,
	nameClash, styleUnprinted, accessorsStale,
	clippedText, ellipsedText, lostLines, covered, offScreen, tightFit, fixedWidthText,
	notMirrored, pointingWrong, scrambledText, glyphMissing, targetSmall,
}

// Named returns the rule with a name, or nil.
func Named(name string) *Rule {
	for _, r := range Rules {
		if r.Name == name {
			return r
		}
	}
	return nil
}

// Find is Named with an error that proposes the nearest name.
func Find(name string) (*Rule, error) {
	if r := Named(name); r != nil {
		return r, nil
	}
	var names []string
	for _, r := range Rules {
		names = append(names, r.Name)
	}
	if nearest := finding.Nearest(name, names); nearest != "" {
		return nil, fmt.Errorf("%q is no rule; %s was probably meant", name, nearest)
	}
	return nil, fmt.Errorf("%q is no rule; zelvik rules lists them", name)
}

// The rules that readers of files and drawers of screens report.
var (
	fileDamaged = &Rule{
		Name: "file-damaged", Severity: finding.Error,
		Doc:     "A terminator, quote, brace or tag is missing, or the encoding is broken.",
		Why:     "The platform refuses the whole file, so every text in it falls back or shows its key.",
		Example: `"boarding_title" = "Boarding"   (no ; at the end)`,
		Fix:     "Put in what the message says is missing.",
	}
	nameClash = &Rule{
		Name: "name-clash", Severity: finding.Error,
		Doc:     "Two keys give one name in the generated accessors.",
		Why:     "One of the two members gets a number, and a key that is added later can move that number to another text.",
		Example: `two_words and two.words are both twoWords`,
		Fix:     "Rename one of the keys (zelvik rename), so that their words differ.",
	}
	styleUnprinted = &Rule{
		Name: "style-unprinted", Severity: finding.Warning,
		Doc:     "The language of the accessors does not write numbers or dates of a style.",
		Why:     "It would print something else; so the member takes a text that the application has written.",
		Example: `{views, number, ::compact-short} in Go`,
		Fix:     "Write the value in the application, or give the placeholder a style that the language has.",
	}
	accessorsStale = &Rule{
		Name: "accessors-stale", Severity: finding.Error,
		Doc:     "Generated accessors differ from what the catalogs give.",
		Why:     "The application shows texts of yesterday, and calls members whose key is gone.",
		Example: `a text was changed with an editor, and the accessors were not generated again`,
		Fix:     "Run zelvik accessors in the project; zelvik accessors --check says the same in CI.",
	}
	keyDuplicate = &Rule{
		Name: "key-duplicate", Severity: finding.Error,
		Doc:     "One key stands twice in a file.",
		Why:     "Some platforms refuse the file, others silently take the first or the last text.",
		Example: `<string name="ok">OK</string> ... <string name="ok">Fine</string>`,
		Fix:     "Remove one of them, or give it another key.",
	}
	selectGap = &Rule{
		Name: "select-gap", Severity: finding.Error,
		Doc:     "A choice has no variant other.",
		Why:     "A value that no variant names shows nothing, or the program fails.",
		Example: "{vehicle, select, car {Car} bicycle {Bicycle}}",
		Fix:     "Add other {...}.",
	}
	escapeWrong = &Rule{
		Name: "escape-wrong", Severity: finding.Error,
		Doc:     "A character that needs an escape has none, or an escape is no escape.",
		Why:     "The platform drops the character, cuts the text, or fails when it formats it.",
		Example: "<string name=\"x\">Don't wait</string>",
		Fix:     `Write \' in Android, {{ in .NET, %% in format strings.`,
	}
	gluedText = &Rule{
		Name: "glued-text", Severity: finding.Warning,
		Doc:     "Code joins a text of the catalog with another one or with a value.",
		Why:     "Other languages put the pieces in another order, and decline what stands beside them.",
		Example: `getString(R.string.sent_by) + " " + name`,
		Fix:     "Make one text of the whole sentence, with a placeholder for what is put in.",
	}
	hardcodedText = &Rule{
		Name: "hardcoded-text", Severity: finding.Warning,
		Doc:     "A text that people read stands in a layout.",
		Why:     "It is the same in every culture, and no translator ever sees it.",
		Example: `<Button android:text="Confirm booking"/>`,
		Fix:     "Move it to the catalog: zelvik lift --apply (zelvik lift looks into code as well)",
	}
	clippedText = &Rule{
		Name: "clipped-text", Severity: finding.Error,
		Doc:     "A text is wider or taller than its box and is cut.",
		Why:     "People read half a word; German and Finnish are a third longer than English.",
		Example: "a label with width: 60 and the text Reisendenzahl",
		Fix:     "Let the box fit its text, or let the text wrap.",
	}
	notMirrored = &Rule{
		Name: "not-mirrored", Severity: finding.Error,
		Doc:     "In a right-to-left culture a box is not where the mirror image of the left-to-right layout has it.",
		Why:     "The eye begins at the right; a box that stays at the left breaks the order of reading.",
		Example: "padding: {left: 16} where {start: 16} is meant",
		Fix:     "Write start and end instead of left and right.",
	}
	offScreen = &Rule{
		Name: "off-screen", Severity: finding.Error,
		Doc:     "A box leaves its parent or the device.",
		Why:     "What is outside cannot be seen or touched.",
		Example: "a row of three buttons that is wider than the phone in German",
		Fix:     "Let the row wrap, let the boxes share the width, or scroll.",
	}
	ellipsedText = &Rule{
		Name: "ellipsed-text", Severity: finding.Warning,
		Doc:     "A text is cut off with an ellipsis, in a culture whose words are longer.",
		Why:     "The end of a text is where its meaning is in many languages, and nobody can read it.",
		Example: `"Buchung bestäti…" on a button that has room for "Confirm booking"`,
		Fix:     "Give the box more room or more lines, or shorten the text.",
	}
	lostLines = &Rule{
		Name: "lost-lines", Severity: finding.Error,
		Doc:     "A text needs more lines than its box has or may have.",
		Why:     "Whole lines are missing, and nothing shows that they are.",
		Example: `lines: 2 for a text that has three in Finnish`,
		Fix:     "Allow more lines, or let the box be as high as its text.",
	}
	covered = &Rule{
		Name: "covered", Severity: finding.Error,
		Doc:     "Two boxes lie on one another in a culture, which they do not in the source.",
		Why:     "Neither can be read, or one cannot be pressed.",
		Example: `a label and a button at fixed places, as far apart as the English label is long`,
		Fix:     "Place them in a row, a column or a grid, which make room for the text.",
	}
	tightFit = &Rule{
		Name: "tight-fit", Severity: finding.Advice,
		Doc:     "A text that is not translated yet fits, but a translation of the usual length will not.",
		Why:     "Short texts double in length (W3C, text size in translation); it is cheaper to make room before.",
		Example: `"Delay" in a box of 60 units`,
		Fix:     "Let the box fit its text, fill its row, or wrap.",
	}
	fixedWidthText = &Rule{
		Name: "fixed-width-text", Severity: finding.Advice,
		Doc:     "A text stands in a box of a fixed width that keeps it to one line.",
		Why:     "It is right for the words that it was measured for, and for no other.",
		Example: `label: {key: booking_passengers, width: 92, lines: 1}`,
		Fix:     "Let the width fit the text, with a least width where things have to line up.",
	}
	pointingWrong = &Rule{
		Name: "pointing-wrong", Severity: finding.Error,
		Doc:     "A picture that points the way of reading is not mirrored where reading goes from right to left, or one that does not is.",
		Why:     "An arrow for back points forward to its readers; a mirrored clock is simply wrong.",
		Example: `icon: {picture: back} without directional: true`,
		Fix:     "Write directional: true for what points, and leave it out for clocks, logos and media keys.",
	}
	scrambledText = &Rule{
		Name: "scrambled-text", Severity: finding.Error,
		Doc:     "An argument that runs the other way is torn apart, or marks beside it stand on the wrong side.",
		Why:     "The bidirectional algorithm has to guess where the argument ends; a phone number is shown back to front.",
		Example: `+99 555 0142 in a Hebrew sentence is shown as 0142 555 99+`,
		Fix:     "Isolate the argument: U+2068 before it, U+2069 after it. The generated accessors do so.",
	}
	glyphMissing = &Rule{
		Name: "glyph-missing", Severity: finding.Warning,
		Doc:     "No font that screens are drawn with has a character; a box of its width stands for it.",
		Why:     "A picture shows boxes, and an application with the same fonts may do so, too.",
		Example: `Japanese without a font for it`,
		Fix:     "Name a font under fonts in zelvik.yaml, or write system there.",
	}
	targetSmall = &Rule{
		Name: "target-small", Severity: finding.Warning,
		Doc:     "What is pressed is smaller than a finger needs: 40 units each way, or what target says.",
		Why:     "A short word makes a small button, and its neighbour is pressed instead.",
		Example: `a button that fits "Ja"`,
		Fix:     "Give it padding, or a least width and height.",
	}
)
