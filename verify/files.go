package verify

import (
	"fmt"

	"zelvik/finding"
)

var fileMisnamed = &Rule{
	Name: "file-misnamed", Severity: finding.Error,
	Doc:     "A file or folder is named nearly right.",
	Why:     "The platform ignores it without a word, and the culture shows the default texts.",
	Example: "res/values_ja/strings.xml",
	Fix:     "Rename it.",
	Family: func(f *Family, report Report) {
		for _, m := range f.Misnamed {
			if m.Unknown != nil {
				continue
			}
			fix := "give it a name that the platform reads"
			if m.Meant != "" {
				fix = "rename it to " + m.Meant
			}
			report(m, m.Why, fix)
		}
	},
}

var cultureUnknown = &Rule{
	Name: "culture-unknown", Severity: finding.Error,
	Doc:     "A name holds a culture that does not exist.",
	Why:     "jp is a country, ja the language: nobody is ever given the file.",
	Example: "res/values-jp/strings.xml",
	Fix:     "Use the BCP 47 tag that was meant.",
	Family: func(f *Family, report Report) {
		for _, m := range f.Misnamed {
			if m.Unknown == nil {
				continue
			}
			fix := "use a BCP 47 tag such as de or pt-BR"
			if m.Meant != "" {
				fix = "rename it to " + m.Meant
			}
			report(m, m.Unknown.Error(), fix)
		}
	},
}

var defaultMissing = &Rule{
	Name: "default-missing", Severity: finding.Error,
	Doc:     "There is no neutral file for the platform to fall back to.",
	Why:     "A reader whose culture is not there gets no text at all, or the program stops.",
	Example: "res/values-de/strings.xml without res/values/strings.xml",
	Fix:     "Add the file with the source texts.",
	Family: func(f *Family, report Report) {
		if len(f.Members) == 0 || f.Partial {
			return
		}
		source := f.SourceMember()
		switch {
		case source == nil:
			report(f.Members[0].Path, fmt.Sprintf("the family has no file in the source culture %s", f.Source), "add it, or say which culture is the source in zelvik.yaml")
		case f.HasNeutral && !source.Neutral:
			report(source.Path, "the family has no neutral file to fall back to", "add it with the source texts")
		}
	},
}
