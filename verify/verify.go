// Package verify holds the rules about catalogs and runs them. A rule is a
// value with its documentation and a function from what it looks at to
// findings; each stands in a file of its own and in the list in rules.go.
package verify

import (
	"fmt"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"zelvik/catalog"
	"zelvik/catalog/glossary"
	"zelvik/catalog/status"
	"zelvik/culture"
	"zelvik/finding"
)

// Rule is one check. At most one of its functions is set; a rule without any
// is reported by those who read files or draw screens.
type Rule struct {
	Name     string
	Severity finding.Severity
	// Doc says in one sentence what the mistake is, Why what comes of it.
	Doc, Why string
	// Example offends; Fix says what to do.
	Example, Fix string

	// Family looks at a whole family.
	Family func(*Family, Report)
	// Catalog looks at one member's catalog.
	Catalog func(*Family, *catalog.Member, Report)
	// Pair looks at a translation beside its source.
	Pair func(*Pair, Report)
}

// Report takes what a rule found. Rule, severity, path and place are filled in
// from the entry or file it is about.
type Report func(about any, message, fix string)

// Family is what the rules need to know of a family.
type Family struct {
	*catalog.Family
	// Format is the format's name.
	Format string
	// HasNeutral says that the platform expects a file without a culture.
	HasNeutral bool
	// Cultures are those that the family is to have.
	Cultures []culture.Tag
	// OwnForms says that the files say themselves which number has which form.
	OwnForms bool
	// Partial says that files were named one by one, so that the family may
	// have others.
	Partial bool
	// Misnamed are the files that the platform will not find.
	Misnamed []Misnamed
	// Place returns path, line and column of an entry.
	Place func(m *catalog.Member, e *catalog.Entry) (path string, line, column int)
	// Names are words that stay as they are in every culture.
	Names []string
	// Terms is the project's glossary, nil for none.
	Terms *glossary.Glossary
	// Notes says that the files have room for notes.
	Notes bool
	// Refers reports whether a key that a text refers to is in some file of the
	// project; nil where that is not known.
	Refers func(key string) bool
}

// Misnamed is a file whose name is nearly right.
type Misnamed struct {
	Path, Why, Meant string
	// Culture is the one that is meant, "" where that is not known.
	Culture culture.Tag
	Unknown *culture.UnknownError
}

// Pair is a translation beside its source. Entry is nil where the culture has
// none; Status says whether a parent answers then.
type Pair struct {
	Family *Family
	Member *catalog.Member
	Source *catalog.Entry
	Entry  *catalog.Entry
	Status status.Status
}

// Coverage is how complete one culture of one family is.
type Coverage struct {
	Family  string      `json:"family"`
	Format  string      `json:"format"`
	Culture culture.Tag `json:"culture"`
	// Entries are the source's entries that are to be translated; Answered are
	// those with a text in the culture or a parent of it.
	Entries  int `json:"entries"`
	Answered int `json:"answered"`
}

// Summary counts findings by severity.
type Summary struct {
	Errors   int `json:"errors"`
	Warnings int `json:"warnings"`
	Advice   int `json:"advice"`
	Entries  int `json:"entries"`
	Files    int `json:"files"`
}

// Result is what a run found, in a stable order.
type Result struct {
	Findings []finding.Finding `json:"findings"`
	Coverage []Coverage        `json:"coverage"`
	Summary  Summary           `json:"summary"`
}

// Severities gives rules another severity; finding.Never turns one off.
type Severities map[string]finding.Severity

// Run applies all rules to the families, in parallel, and joins what was found
// with findings that others made (readers of files, drawers of screens).
func Run(families []*Family, others []finding.Finding, severities Severities) *Result {
	result := &Result{Findings: slices.Clone(others), Coverage: []Coverage{}}
	type job struct {
		family *Family
		member *catalog.Member
		// coverage is the member's place in the coverage, -1 for a twin, which
		// may have as few texts as it likes.
		coverage int
	}
	var jobs []job
	paths := map[string]bool{}
	for _, f := range families {
		jobs = append(jobs, job{f, nil, 0})
		for _, m := range f.Members {
			jobs = append(jobs, job{f, m, len(result.Coverage)})
			result.Coverage = append(result.Coverage, Coverage{})
			if !paths[m.Path] {
				paths[m.Path] = true
				result.Summary.Files++
			}
			result.Summary.Entries += len(m.Catalog.Entries)
		}
		for _, m := range f.Twins {
			jobs = append(jobs, job{f, m, -1})
			result.Summary.Files++
			result.Summary.Entries += len(m.Catalog.Entries)
		}
		for _, tag := range f.Absent() {
			result.Coverage = append(result.Coverage, Cover(f, NoFile(tag)))
		}
		_ = f.SourceMember() // build what the workers share before they start
		for _, m := range slices.Concat(f.Members, f.Twins) {
			m.Catalog.Find("")
		}
	}
	found := make([][]finding.Finding, len(jobs))
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, j := range jobs {
		group.Go(func() error {
			c := &collector{family: j.family, member: j.member}
			if j.member == nil {
				c.wholeFamily()
			} else {
				c.oneMember()
				if j.coverage >= 0 {
					result.Coverage[j.coverage] = Cover(j.family, j.member)
				}
			}
			found[i] = c.findings
			return nil
		})
	}
	_ = group.Wait() // no job fails
	for _, list := range found {
		result.Findings = append(result.Findings, list...)
	}
	result.judge(severities)
	finding.Sort(result.Findings)
	return result
}

// judge applies the project's severities and counts.
func (r *Result) judge(severities Severities) {
	kept := []finding.Finding{}
	for _, f := range r.Findings {
		if s, ok := severities[f.Rule]; ok {
			f.Severity = s
		}
		switch f.Severity {
		case finding.Error:
			r.Summary.Errors++
		case finding.Warning:
			r.Summary.Warnings++
		case finding.Advice:
			r.Summary.Advice++
		default:
			continue
		}
		kept = append(kept, f)
	}
	r.Findings = kept
}

// Limit keeps what is about these cultures, or about none in particular; nil
// keeps everything.
func (r *Result) Limit(asked []culture.Tag) {
	if asked == nil {
		return
	}
	r.Coverage = slices.DeleteFunc(r.Coverage, func(c Coverage) bool { return !slices.Contains(asked, c.Culture) })
	kept := slices.DeleteFunc(r.Findings, func(f finding.Finding) bool {
		return f.Culture != "" && !slices.Contains(asked, culture.Tag(f.Culture)) ||
			f.Culture == "" && f.Cultures != nil && f.Screen == "" && !slices.ContainsFunc(f.Cultures, func(tag string) bool { return slices.Contains(asked, culture.Tag(tag)) })
	})
	r.Findings, r.Summary.Errors, r.Summary.Warnings, r.Summary.Advice = kept, 0, 0, 0
	r.judge(nil)
}

// Worst reports whether any finding is at or above the threshold.
func (r *Result) Worst(threshold finding.Severity) bool {
	return slices.ContainsFunc(r.Findings, func(f finding.Finding) bool { return f.Severity >= threshold })
}

// NoFile is a member of a culture that has no file.
func NoFile(tag culture.Tag) *catalog.Member {
	return &catalog.Member{Culture: tag, Catalog: &catalog.Catalog{Culture: tag}}
}

// Cover counts how much of the source one culture of a family has.
func Cover(f *Family, m *catalog.Member) Coverage {
	c := Coverage{Family: f.Name, Format: f.Format, Culture: m.Culture}
	source := f.SourceMember()
	if source == nil {
		c.Entries, c.Answered = len(m.Catalog.Entries), len(m.Catalog.Entries)
		return c
	}
	own := m.Catalog.Follow()
	for i := range source.Catalog.Entries {
		e := &source.Catalog.Entries[i]
		if e.Fixed || e.Reference != "" {
			continue
		}
		switch how := status.Uncompared(f.Family, m, e, own.Find(e.ID()), f.Names); {
		case how == status.Exempt:
			continue
		case !how.Lacks():
			c.Answered++
			fallthrough
		default:
			c.Entries++
		}
	}
	return c
}

// collector gathers the findings of one job.
type collector struct {
	family   *Family
	member   *catalog.Member
	findings []finding.Finding
}

func (c *collector) report(rule *Rule) Report {
	return func(about any, message, fix string) {
		f := finding.Finding{Rule: rule.Name, Severity: rule.Severity, Message: message, Fix: fix}
		switch about := about.(type) {
		case *catalog.Entry:
			f.Key = about.Key
			f.Path, f.Line, f.Column = c.family.Place(c.member, about)
			f.Culture = string(c.member.Culture)
			if c.unfinished(about) {
				f.Severity = finding.Advice
			}
		case mild:
			c.report(rule)(about.Entry, message, fix)
			c.findings[len(c.findings)-1].Severity = finding.Advice
			return
		case *catalog.Member:
			f.Path, f.Culture = about.Path, string(about.Culture)
		case Misnamed:
			f.Path = about.Path
		case lacking:
			f.Key = about.source.Key
			if len(about.members) == 1 {
				f.Path, f.Culture = about.members[0].Path, string(about.members[0].Culture)
				break
			}
			f.Path, f.Line, f.Column = c.family.Place(c.family.SourceMember(), about.source)
			for _, m := range about.members {
				f.Cultures = append(f.Cultures, string(m.Culture))
			}
		case string:
			f.Path = about
		default:
			panic(fmt.Sprintf("verify: rule %s reports about a %T", rule.Name, about))
		}
		if f.Fix == "" {
			f.Fix = rule.fixFor(f.Key, f.Culture)
		}
		c.findings = append(c.findings, f)
	}
}

// fixFor is the rule's fix, in the form of those that findings bring: a command
// names the key and the culture that the finding is about.
func (r *Rule) fixFor(key, tag string) string {
	fix := strings.TrimSuffix(r.Fix, ".")
	if key != "" && !strings.ContainsAny(key, " '\"\\\n") {
		fix = strings.ReplaceAll(fix, "KEY", key)
	}
	if tag != "" {
		fix = strings.ReplaceAll(fix, "TAG", tag)
	}
	return strings.ToLower(fix[:1]) + fix[1:]
}

// unfinished reports whether somebody will have to look at a text before it counts:
// a draft, and in gettext one whose source changed, which programs do not show.
func (c *collector) unfinished(e *catalog.Entry) bool {
	return e.State == catalog.Draft || e.State == catalog.Moved && c.family.Format == "po"
}

// mild is an entry of which something is reported that may be meant so.
type mild struct{ *catalog.Entry }

// lacking is an entry of the source that members have no text for.
type lacking struct {
	source  *catalog.Entry
	members []*catalog.Member
}

func (c *collector) wholeFamily() {
	for _, rule := range Rules {
		if rule.Family != nil {
			rule.Family(c.family, c.report(rule))
		}
	}
}

func (c *collector) oneMember() {
	for _, rule := range Rules {
		if rule.Catalog != nil {
			rule.Catalog(c.family, c.member, c.report(rule))
		}
	}
	source := c.family.SourceMember()
	if source == nil || source == c.member {
		return
	}
	var pairRules []*Rule
	var reports []Report
	for _, rule := range Rules {
		if rule.Pair != nil {
			pairRules, reports = append(pairRules, rule), append(reports, c.report(rule))
		}
	}
	own := c.member.Catalog.Follow()
	for i := range source.Catalog.Entries {
		e := &source.Catalog.Entries[i]
		pair := Pair{Family: c.family, Member: c.member, Source: e, Entry: own.Find(e.ID())}
		if pair.Entry == nil && slices.Contains(c.family.Twins, c.member) {
			continue
		}
		pair.Status = status.Of(c.family.Family, c.member, e, pair.Entry, c.family.Names)
		for i, rule := range pairRules {
			rule.Pair(&pair, reports[i])
		}
	}
}
