package trace

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"zelvik/culture"
)

// android resolves every resource by itself: the best configuration that has
// it, for the first preferred culture that the application has at all
// (developer.android.com, Language and locale resolution, from Android 7).
var android = &Platform{
	Name: "Android", Formats: []string{"android"},
	Rule: "the first preferred culture that the app has; then, for every text by itself, its parents, and values/",
	find: func(s *search) {
		var chosen culture.Tag
		for _, want := range s.question.Preferred {
			for _, tag := range append(chain(want), s.siblings(want)...) {
				if s.member(tag) != nil && (chosen == "" || chosen == want) {
					chosen = want
					why := ""
					if tag.Base() == want.Base() && !slices.Contains(chain(want), tag) {
						why = "a sister of " + string(want) + " under the same parent"
					}
					if s.look(tag, why) {
						return
					}
				} else if chosen == "" || chosen == want {
					s.Steps = append(s.Steps, Step{Culture: tag, Outcome: Absent})
				}
			}
			if chosen != "" && chosen != want {
				s.pass(want, fmt.Sprintf("the app has %s, which comes first; a text that is missing there does not ask the next preferred culture", chosen))
			}
		}
		if s.into("", s.neutral(), "the default resources") {
			return
		}
		s.Shows, s.Surprise = "", "without a text in values/ the app stops with Resources.NotFoundException where no preferred culture has one"
	},
}

// siblings are the family's other cultures with the language and script.
func (s *search) siblings(tag culture.Tag) []culture.Tag {
	var list []culture.Tag
	for _, m := range s.family.Members {
		if m.Culture.Base() == tag.Base() && m.Culture.Script() == tag.Script() && !slices.Contains(chain(tag), m.Culture) && !m.Neutral {
			list = append(list, m.Culture)
		}
	}
	return list
}

// apple chooses one .lproj for the bundle, and asks its table alone
// (developer.apple.com, Bundle: preferredLocalizations, localizedString).
var apple = &Platform{
	Name: "Apple", Formats: []string{"strings", "stringsdict", "xcstrings"},
	Rule: "one .lproj for the whole app, else the development region; a key that it lacks shows as it is",
	find: func(s *search) {
		for i, want := range s.question.Preferred {
			for _, tag := range append(chain(want), s.siblings(want)...) {
				if s.member(tag) == nil {
					s.Steps = append(s.Steps, Step{Culture: tag, Outcome: Absent})
					continue
				}
				if s.look(tag, "the app's localization") {
					return
				}
				for _, parent := range tag.Parents() {
					s.pass(parent, "the table of "+string(tag)+" is the only one that is asked")
				}
				for _, later := range s.question.Preferred[i+1:] {
					s.pass(later, "the app runs in "+string(tag)+" already")
				}
				s.pass(s.family.Source, "it answers for cultures, not for keys")
				s.Shows = s.question.Key
				s.Surprise = fmt.Sprintf("%s.lproj has to hold every key: a text that it lacks shows as its key, although a parent or the source has it", tag)
				return
			}
		}
		if s.look(s.family.Source, "the development region") {
			return
		}
		s.Shows = s.question.Key
	},
}

// dotnet asks the satellite of the culture, then its parents', then the neutral
// resources (learn.microsoft.com, Package and deploy resources).
var dotnet = &Platform{
	Name: ".NET", Formats: []string{"resx"},
	Rule: "CurrentUICulture, then its parents, for every text by itself; then the neutral file",
	find: func(s *search) {
		if len(s.question.Preferred) > 0 {
			for _, tag := range dotnetChain(s.question.Preferred[0]) {
				if s.look(tag, "") {
					return
				}
			}
			for _, later := range s.question.Preferred[1:] {
				s.pass(later, "CurrentUICulture is one culture; the rest of the list is not asked")
			}
		}
		if !s.into("", s.neutral(), "the neutral resources") {
			s.Surprise = "GetString gives null, and a missing neutral file throws MissingManifestResourceException"
		}
	},
}

// dotnetChain is CultureInfo.Parent: Chinese goes by its script.
func dotnetChain(tag culture.Tag) []culture.Tag {
	list := []culture.Tag{tag}
	for at := tag; strings.Contains(string(at), "-"); list = append(list, at) {
		if at.Base() == "zh" && at.Region() != "" && !strings.Contains(string(at), at.Script()) {
			at = culture.Tag("zh-" + at.Script())
			continue
		}
		at = at[:strings.LastIndexByte(string(at), '-')]
	}
	return list
}

// java looks for a bundle for the culture, then for one for the default locale
// of the machine, and only then takes the base bundle
// (ResourceBundle.getBundle, ResourceBundle.Control).
var java = &Platform{
	Name: "Java", Formats: []string{"properties"},
	Rule: "the most specific bundle for the culture, else for the machine's default locale, else the base bundle; a bundle's parents answer for what it lacks",
	find: func(s *search) {
		device := cmp.Or(s.question.Device, s.family.Source)
		want := device
		if len(s.question.Preferred) > 0 {
			want = s.question.Preferred[0]
		}
		found := false
		for _, tag := range javaChain(want) {
			if s.look(tag, "") {
				return
			}
			found = found || s.member(tag) != nil
		}
		if !found && device.Base() != want.Base() {
			for _, tag := range javaChain(device) {
				if s.look(tag, "the machine's default locale") {
					s.Surprise = fmt.Sprintf("there is no bundle for %s, so the machine's default locale %s answers before the base bundle; Control.getNoFallbackControl turns that off", want, device)
					return
				}
			}
		}
		if len(s.question.Preferred) > 1 {
			for _, later := range s.question.Preferred[1:] {
				s.pass(later, "getBundle takes one locale; the rest of the list is not asked")
			}
		}
		if !s.into("", s.neutral(), "the base bundle") {
			s.Surprise = "getString throws MissingResourceException"
		}
	},
}

// javaChain are the candidate locales: the script is put in for Chinese.
func javaChain(tag culture.Tag) []culture.Tag {
	var list []culture.Tag
	add := func(t culture.Tag) {
		if !slices.Contains(list, t) {
			list = append(list, t)
		}
	}
	if region := tag.Region(); tag.Base() == "zh" && region != "" {
		add(culture.Tag("zh-" + tag.Script() + "-" + region))
		add(culture.Tag("zh-" + tag.Script()))
		add(culture.Tag("zh-" + region))
		add("zh")
		return list
	}
	for t := tag; ; t = t[:strings.LastIndexByte(string(t), '-')] {
		add(t)
		if !strings.Contains(string(t), "-") {
			return list
		}
	}
}

// qt loads one file for the interface languages, in their order, and shows the
// source text of what it lacks (doc.qt.io, QTranslator::load).
var qt = &Platform{
	Name: "Qt", Formats: []string{"qt"},
	Rule: "the first file for the interface languages in their order, cut from the right; what it lacks shows the source text in the code",
	find: func(s *search) {
		for i, want := range s.question.Preferred {
			for tag := want; tag != ""; tag = cutRight(tag) {
				if tag == s.family.Source || s.member(tag) == nil {
					s.Steps = append(s.Steps, Step{Culture: tag, Outcome: Absent})
					continue
				}
				if s.look(tag, "the file that is loaded") {
					return
				}
				for _, later := range append(tag.Parents(), s.question.Preferred[i+1:]...) {
					s.pass(later, "load takes one file, that of "+string(tag))
				}
				s.Shows = s.source()
				s.Surprise = "a regional file has to hold everything; or install the parent's translator as well, before it"
				return
			}
		}
		s.Shows = s.source()
	},
}

func cutRight(tag culture.Tag) culture.Tag {
	return tag[:max(strings.LastIndexByte(string(tag), '-'), 0)]
}

// arb chooses a supported locale by language, script and region; generated
// classes of a region extend those of the language.
var arb = &Platform{
	Name: "ARB loader", Formats: []string{"arb"},
	Rule: "the first preferred culture with the same language, script and region, then language and script, then language; a region's texts stand over those of its language",
	find: func(s *search) {
		for _, want := range s.question.Preferred {
			for _, tag := range chain(want) {
				if s.member(tag) == nil {
					s.Steps = append(s.Steps, Step{Culture: tag, Outcome: Absent})
				} else if s.look(tag, "") {
					return
				}
			}
			if slices.ContainsFunc(chain(want), func(t culture.Tag) bool { return s.member(t) != nil }) {
				break
			}
		}
		if !s.look(s.family.Source, "the template, whose texts stand in for those that are missing") {
			s.Shows = s.question.Key
		}
	},
}

// gettext asks the catalogs of all cultures in LANGUAGE for every text.
var gettext = &Platform{
	Name: "gettext", Formats: []string{"po", "mo"},
	Rule: "every culture of LANGUAGE in its order, the language behind its region, for every text by itself; then the source text",
	find: func(s *search) {
		for _, want := range s.question.Preferred {
			for tag := want; tag != ""; tag = cutRight(tag) {
				if tag == s.family.Source {
					s.Shows = s.source()
					return
				}
				if s.look(tag, "") {
					return
				}
			}
		}
		s.Shows = s.source()
	},
}

// accessors are our own: docs/accessors.md.
var accessors = &Platform{
	Name: "accessors",
	Rule: "the supported culture that matches best, its parents, the default culture, the source text",
	find: func(s *search) {
		var supported []culture.Tag
		for _, m := range s.family.Members {
			supported = append(supported, m.Culture)
		}
		tag, ok := culture.Match(supported, s.question.Preferred)
		why := "matches best"
		if !ok {
			tag, why = s.family.Source, "the default culture: nothing matches"
		}
		for _, t := range chain(tag) {
			if s.look(t, why) {
				return
			}
			why = "its parent"
		}
		if s.look(s.family.Source, "the default culture") {
			return
		}
		s.Shows = s.question.Key
	},
}
