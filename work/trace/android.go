package trace

import (
	"cmp"
	"fmt"
	"slices"

	"zelvik/culture"
)

// android resolves every resource by itself, in the files whose language and
// script are those of the chosen culture, the nearest region first
// (developer.android.com, Language and locale resolution, from Android 7; the
// order is that of ResTable_config::isLocaleBetterThan).
var android = &Platform{
	Name: "Android", Formats: []string{"android"},
	Rule: "the first preferred culture whose language and script the app has; then each text by itself, from the nearest region to values/",
	find: func(s *search) {
		if len(s.question.Preferred) == 0 {
			s.into("", s.neutral(), "the default resources")
			return
		}
		want := s.chosen()
		files := s.androidFiles(want)
		parents := chain(want)
		absent := slices.DeleteFunc(slices.Clone(parents), func(t culture.Tag) bool {
			return slices.ContainsFunc(files, func(f culture.Tag) bool { return f.Modern() == t.Modern() })
		})
		for _, tag := range files {
			// A parent without a file is reported where its file would stand.
			for len(absent) > 0 && (tag == "" || slices.Index(parents, absent[0]) < slices.Index(parents, tag.Modern())) {
				s.Steps = append(s.Steps, Step{Culture: absent[0], Outcome: Absent})
				absent = absent[1:]
			}
			if tag == "" {
				for _, other := range s.question.Preferred {
					if other != want {
						s.pass(other, fmt.Sprintf("the app runs in %s; a text that is missing there does not ask another preferred culture", want))
					}
				}
				if s.into("", s.neutral(), "the default resources") {
					break
				}
			} else if s.into(tag, s.written(tag), near(want, tag)) {
				break
			}
		}
		if s.Answer == nil {
			s.Surprise = "without a text in values/ the app stops with Resources.NotFoundException where no preferred culture has one"
			return
		}
	},
}

// near says why a file answers that is neither the culture's own nor a parent's.
func near(want, tag culture.Tag) string {
	if tag.Modern() == want.Modern() || slices.Contains(want.Modern().Parents(), tag.Modern()) {
		return ""
	}
	return "the nearest that the app has to " + string(want)
}

// chosen is the preferred culture that the app runs in
// (android.os.LocaleList.getFirstMatchWithEnglishSupported).
func (s *search) chosen() culture.Tag {
	have := []culture.Tag{"en"}
	for _, m := range s.family.All() {
		if !m.Neutral && !m.Culture.Pseudo() {
			have = append(have, m.Culture)
		}
	}
	for _, want := range s.question.Preferred {
		for _, tag := range have {
			if tag.Base() == "tl" {
				tag = "fil"
			}
			if tag.Modern().Base() == want.Modern().Base() && tag.Modern().Script() == want.Modern().Script() && (want.Known() || tag == want) {
				return want
			}
		}
	}
	return s.question.Preferred[0]
}

// androidFiles are the cultures of the files that may answer for a culture,
// best first; "" is values/.
func (s *search) androidFiles(want culture.Tag) []culture.Tag {
	same := func(a, b string) bool { return a == b || a == "tl" && b == "fil" || a == "fil" && b == "tl" }
	files := []culture.Tag{""}
	asked := want.Withdrawn()
	for _, m := range s.family.All() {
		if tag := written(m); !m.Neutral && same(tag.Base(), asked.Base()) && m.Culture.Script() == want.Modern().Script() &&
			(want.Modern().Known() || tag.Region() == "" || tag.Region() == want.Region()) {
			files = append(files, tag)
		}
	}
	slices.SortStableFunc(files, func(a, b culture.Tag) int {
		switch {
		case a == b:
			return 0
		case a == "":
			return -neutralOr(want, b)
		case b == "":
			return neutralOr(want, a)
		}
		if c := compareRegions(want, a, b); c != 0 {
			return c
		}
		return cmp.Compare(btoi(a.Base() != want.Base()), btoi(b.Base() != want.Base()))
	})
	return files
}

func btoi(b bool) int {
	if b {
		return 1
	}
	return 0
}

// neutralOr is -1 where a file of the language goes before values/, and 1 where
// values/ goes first: for readers of American English and its kin it does
// before the English of other countries.
func neutralOr(want, tag culture.Tag) int {
	if want.Base() == "en" && american(want) {
		if want.Region() == "US" && tag.Region() != "" && tag.Region() != "US" || !american(tag) {
			return 1
		}
	}
	return -1
}

// american reports whether English stands nearer to that of the United States
// than to the international one.
func american(tag culture.Tag) bool { return !slices.Contains(ancestors(tag, ""), "001") }

// international are the countries whose English Android 14, with its older
// locale data, still puts under the international one.
var international = map[culture.Tag]bool{"en-CA": true, "en-PH": true}

// ancestors are the regions of a culture and of its parents in the same script,
// the culture's own first; the last is "", no region. A region that is given
// stands for the culture's own: a caller puts 419 for it.
func ancestors(tag culture.Tag, region string) []string {
	region = cmp.Or(region, tag.Region())
	list := []string{region}
	for region != "" {
		parent := culture.Tag(tag.Base() + "-" + region).Parent()
		if written := culture.Tag(tag.Base() + "-" + tag.Script() + "-" + region); parent.Region() == "" {
			parent = written.Parent()
		}
		if region = parent.Region(); international[tag] && len(list) == 1 {
			region = "001"
		}
		list = append(list, region)
	}
	return list
}

// compareRegions orders two files of the wanted language and script
// (localeDataCompareRegions in Android's LocaleData).
func compareRegions(want, a, b culture.Tag) int {
	left, right := a.Region(), b.Region()
	if left == right {
		return 0
	}
	if want.Base() == "es" {
		special := func(region string) bool { return region == "US" || region == "MX" }
		switch {
		case special(left) && !special(right) && right != "419":
			left = "419"
		case special(right) && !special(left) && left != "419":
			right = "419"
		}
	}
	wanted := ancestors(want, "")
	for _, region := range wanted {
		switch region {
		case left:
			return -1
		case right:
			return 1
		}
	}
	// The distance over the nearest common parent.
	distance := func(tag culture.Tag, region string) int {
		for i, r := range ancestors(tag, region) {
			if at := slices.Index(wanted, r); at >= 0 {
				return i + at
			}
		}
		return len(wanted)
	}
	home := culture.Tag(want.Base() + "-" + want.Script()).Maximal().Region()
	return cmp.Or(
		cmp.Compare(distance(a, left), distance(b, right)),
		cmp.Compare(btoi(left != home), btoi(right != home)),
		cmp.Compare(len(left), len(right)),
		cmp.Compare(left, right),
	)
}
