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
	textMissing, textEmpty, textCopied, textMoved, textDraft,
	placeholderLost, placeholderAdded, placeholderType,
	pluralGap, pluralIdle, selectGap,
	escapeWrong, scriptUnexpected,
	hardcodedText,
	nameClash, accessorsStale,
	clippedText, notMirrored, offScreen,
}

// Named gives the rule with a name, or nil.
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
		Mend:    "Put in what the message says is missing.",
	}
	nameClash = &Rule{
		Name: "name-clash", Severity: finding.Error,
		Doc:     "Two keys give one name in the generated accessors.",
		Why:     "One of the two members gets a number, and a key that is added later can move that number to another text.",
		Example: `two_words and two.words are both twoWords`,
		Mend:    "Rename one of the keys (zelvik rename), so that their words differ.",
	}
	accessorsStale = &Rule{
		Name: "accessors-stale", Severity: finding.Error,
		Doc:     "Generated accessors differ from what the catalogs give.",
		Why:     "The application shows texts of yesterday, and calls members whose key is gone.",
		Example: `a text was changed with an editor, and the accessors were not generated again`,
		Mend:    "Run zelvik accessors in the project; zelvik accessors --check says the same in CI.",
	}
	keyDuplicate = &Rule{
		Name: "key-duplicate", Severity: finding.Error,
		Doc:     "One key stands twice in a file.",
		Why:     "Some platforms refuse the file, others silently take the first or the last text.",
		Example: `<string name="ok">OK</string> ... <string name="ok">Fine</string>`,
		Mend:    "Remove one of them, or give it another key.",
	}
	selectGap = &Rule{
		Name: "select-gap", Severity: finding.Error,
		Doc:     "A choice has no variant other.",
		Why:     "A value that no variant names shows nothing, or the program fails.",
		Example: "{vehicle, select, car {Car} bicycle {Bicycle}}",
		Mend:    "Add other {...}.",
	}
	escapeWrong = &Rule{
		Name: "escape-wrong", Severity: finding.Error,
		Doc:     "A character that needs an escape has none, or an escape is no escape.",
		Why:     "The platform drops the character, cuts the text, or fails when it formats it.",
		Example: "<string name=\"x\">Don't wait</string>",
		Mend:    `Write \' in Android, {{ in .NET, %% in format strings.`,
	}
	hardcodedText = &Rule{
		Name: "hardcoded-text", Severity: finding.Warning,
		Doc:     "A text that people read stands in a layout.",
		Why:     "It is the same in every culture, and no translator ever sees it.",
		Example: `<Button android:text="Confirm booking"/>`,
		Mend:    "Move it to the catalog: zelvik lift --apply (zelvik lift looks into code as well)",
	}
	clippedText = &Rule{
		Name: "clipped-text", Severity: finding.Error,
		Doc:     "A text is wider or taller than its box and is cut.",
		Why:     "People read half a word; German and Finnish are a third longer than English.",
		Example: "a label with width: 60 and the text Reisendenzahl",
		Mend:    "Let the box fit its text, or let the text wrap.",
	}
	notMirrored = &Rule{
		Name: "not-mirrored", Severity: finding.Error,
		Doc:     "In a right-to-left culture a box is not where the mirror image of the left-to-right layout has it.",
		Why:     "The eye begins at the right; a box that stays at the left breaks the order of reading.",
		Example: "padding: {left: 16} where {start: 16} is meant",
		Mend:    "Write start and end instead of left and right.",
	}
	offScreen = &Rule{
		Name: "off-screen", Severity: finding.Error,
		Doc:     "A box leaves its parent or the device.",
		Why:     "What is outside cannot be seen or touched.",
		Example: "a row of three buttons that is wider than the phone in German",
		Mend:    "Let the row wrap, let the boxes share the width, or scroll.",
	}
)
