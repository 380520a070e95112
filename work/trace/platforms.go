package trace

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
)

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
				if s.into(tag, s.written(tag), "") {
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
		parent := at[:strings.LastIndexByte(string(at), '-')]
		if last := at[len(parent)+1:]; len(last) > 4 || len(last) == 4 && last[0] <= '9' { // a variant has no parent
			return list
		}
		at = parent
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
		bundles := func(tag culture.Tag, why string) (found, answers bool) {
			for _, t := range javaChain(tag) {
				m := s.bundle(t)
				found = found || m != nil
				if s.into(t, m, why) {
					return true, true
				}
			}
			return found, false
		}
		found, answers := bundles(want, "")
		if answers {
			return
		}
		if !found && device != want {
			if _, answers = bundles(device, "the machine's default locale"); answers {
				s.Surprise = fmt.Sprintf("there is no bundle for %s, so the machine's default locale %s answers before the base bundle; Control.getNoFallbackControl turns that off", want, device)
				return
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

// bundle returns the file of a candidate; the base bundle stands for none.
func (s *search) bundle(tag culture.Tag) *catalog.Member {
	if m := s.written(tag); m != nil {
		return m
	}
	return s.written(tag.Withdrawn())
}

// javaChain are the candidate locales (ResourceBundle.Control,
// getCandidateLocales): the script is put in for Chinese, its country where only
// the script is given, and the three names of Norwegian stand in for one another.
func javaChain(tag culture.Tag) []culture.Tag {
	language, script, region := tag.Modern().Base(), "", tag.Region()
	if strings.Contains(string(tag), tag.Script()) {
		script = tag.Script()
	}
	if language == "zh" && region != "" {
		script = tag.Script()
	}
	languages := []string{language}
	if language == "no" || language == "nb" {
		languages = append(languages, map[string]string{"no": "nb", "nb": "no"}[language])
	}
	var list []culture.Tag
	add := func(parts ...string) {
		for _, l := range languages {
			t := culture.Tag(strings.Join(slices.DeleteFunc(append([]string{l}, parts...), func(p string) bool { return p == "" }), "-"))
			if !slices.Contains(list, t) {
				list = append(list, t)
			}
		}
	}
	if script != "" {
		add(script, region)
		add(script)
	}
	if language == "zh" && region == "" {
		region = map[string]string{"Hans": "CN", "Hant": "TW"}[script]
	}
	add(region)
	add()
	if language == "nn" {
		list = append(list, "no-NO", "no")
	}
	return list
}

// qt loads one file for the interface languages, in their order, and shows the
// source text of what it lacks (doc.qt.io, QTranslator::load).
var qt = &Platform{
	Name: "Qt", Formats: []string{"qt"},
	Rule: "the first file for the interface languages in their order, each with and without its script and region; what it lacks shows the source text in the code",
	find: func(s *search) {
		s.Shows = s.source()
		var loaded *catalog.Member
		for _, tag := range qtLanguages(s.question.Preferred) {
			m := s.own(tag, s.written(tag))
			switch {
			case loaded != nil:
				s.pass(tag, "load takes one file, that of "+string(loaded.Culture))
			case m == nil:
				s.Steps = append(s.Steps, Step{Culture: tag, Outcome: Absent})
			default:
				loaded = m
				if s.into(tag, m, "the file that is loaded") {
					return
				}
			}
		}
		if loaded != nil && loaded.Culture != s.family.Source {
			s.Surprise = "a regional file has to hold everything; or install the parent's translator as well, before it"
		}
	},
}

// qtLanguages are the interface languages of a list of preferences
// (QLocale::uiLanguages, from Qt 6.7): each with script and region, without the
// script and without the region where these are likely, and then its language;
// a language that would stand for another script comes after the whole list.
func qtLanguages(preferred []culture.Tag) []culture.Tag {
	var list, last []culture.Tag
	add := func(tag culture.Tag) {
		if !slices.Contains(list, tag) {
			list = append(list, tag)
		}
	}
	for _, want := range preferred {
		code := want.Modern().Language()
		renamed := code != want.Base()
		if renamed || !want.Modern().Known() {
			add(want)
		}
		if !want.Modern().Known() {
			continue
		}
		full := culture.Tag(code + strings.TrimPrefix(string(want), want.Base())).Maximal()
		script, region := culture.Tag(code+"-"+full.Script()), culture.Tag(code+"-"+full.Region())
		add(full)
		if region.Maximal() == full && !(renamed && want.Region() != "") {
			add(region)
		}
		add(script)
		if culture.Tag(code).Script() == full.Script() {
			add(culture.Tag(code))
		} else {
			last = append(last, culture.Tag(code))
		}
		if renamed {
			add(culture.Tag(want.Base()))
		}
	}
	for _, tag := range last {
		add(tag)
	}
	return list
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
	Rule: "every culture of LANGUAGE in its order, the language after its region, for every text by itself; then the source text",
	find: func(s *search) {
		for _, want := range s.question.Preferred {
			for tag := want; tag != ""; tag = cutRight(tag) {
				if s.into(tag, s.own(tag, s.member(tag)), "") {
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
