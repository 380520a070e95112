package check

import (
	"path/filepath"
	"slices"

	"zelvik/catalog"
	"zelvik/catalog/glossary"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/project"
	"zelvik/project/screens"
	"zelvik/verify"
	"zelvik/work/generate"
	"zelvik/work/refer"
)

// Options say what is verified beside the catalogs of the workspace.
type Options struct {
	// Screens are the files of screens that are laid out.
	Screens []string
	// Found says that the screens were found rather than named: one that cannot be
	// shown is a finding then, not an error.
	Found bool
	// Code are the folders in which texts are looked for that stand in layouts and
	// code.
	Code []string
	// Accessors says that generated files are held against their catalogs.
	Accessors bool
	// Alone says that no catalogs are looked at.
	Alone bool
	// Cultures limits the cultures, nil for all.
	Cultures []culture.Tag
}

// Verify is the whole verification: screens, layouts, code and accessors, and the
// rules on all families.
func Verify(w *project.Workspace, o Options) (*verify.Result, error) {
	for name := range w.Config.Verify.Rules {
		if _, err := verify.Find(name); err != nil {
			return nil, err
		}
	}
	var found []finding.Finding
	if len(o.Screens) > 0 {
		show, err := screens.New(w.Disk, w.Config)
		if err != nil {
			return nil, err
		}
		if found, err = show.Verify(o.Screens, o.Cultures, o.Found); err != nil {
			return nil, err
		}
	}
	if o.Alone {
		w.Families = nil
	}
	hardcoded, err := refer.Hardcoded(w, o.Code)
	if err != nil {
		return nil, err
	}
	if found = append(found, hardcoded...); o.Accessors {
		stale, err := generate.Stale(w)
		if err != nil {
			return nil, err
		}
		found = append(found, stale...)
	}
	result := Run(w, found)
	result.Limit(o.Cultures)
	return result, nil
}

// Run runs the rules on all families of the workspace. Others are findings
// made elsewhere, such as those of screens.
func Run(w *project.Workspace, others []finding.Finding) *verify.Result {
	severities := verify.Severities{}
	for name, text := range w.Config.Verify.Rules {
		if s, err := finding.ParseSeverity(text); err == nil { // checked when it was read
			severities[name] = s
		}
	}
	var families []*verify.Family
	terms, found := terms(w)
	refers, alone := referred(w), unneeded(w)
	for _, f := range w.Families {
		if r, err := w.Record(f); err == nil {
			r.Mark(f)
		} else {
			found = append(found, finding.Finding{Rule: "file-damaged", Severity: finding.Error, Path: project.LedgerName, Message: err.Error(), Fix: "restore it from version control"})
		}
		v := w.Verifiable(f)
		v.Refers = refers
		v.HasNeutral = v.HasNeutral && !alone[f.Format.Name]
		if terms != nil {
			v.Terms = &glossary.Glossary{Source: f.Source}
			v.Terms.Include(terms)
		}
		families = append(families, v)
		told := map[*project.File]bool{}
		for i, file := range f.Files {
			if told[file] { // it holds several cultures
				continue
			}
			told[file] = true
			tag := f.All()[i].Culture
			if len(file.Document.Catalogs()) > 1 {
				tag = ""
			}
			for _, one := range file.All() {
				found = append(found, inCulture(one.Findings, tag)...)
			}
		}
		for _, file := range f.Misnamed {
			found = append(found, file.Findings...)
		}
	}
	return verify.Run(families, append(found, others...), severities)
}

// terms reads the glossaries that the configuration names.
func terms(w *project.Workspace) (list []glossary.Term, found []finding.Finding) {
	for _, name := range w.Config.Verify.Terms {
		at := filepath.Join(w.Config.Dir(), filepath.FromSlash(name))
		data, err := w.Disk.Read(at)
		if err == nil {
			var read []glossary.Term
			read, err = glossary.Read(data)
			list = append(list, read...)
		}
		if err != nil {
			found = append(found, finding.Finding{Rule: "file-damaged", Severity: finding.Error, Path: at, Message: "the glossary cannot be read: " + err.Error(), Fix: "correct it, or take it out of zelvik.yaml"})
		}
	}
	return list, found
}

// unneeded returns the formats whose families are three or more and none has a neutral
// file: what reads them needs none.
func unneeded(w *project.Workspace) map[string]bool {
	families, neutral := map[string]int{}, map[string]bool{}
	for _, f := range w.Families {
		families[f.Format.Name]++
		neutral[f.Format.Name] = neutral[f.Format.Name] || slices.ContainsFunc(f.Members, func(m *catalog.Member) bool { return m.Neutral })
	}
	list := map[string]bool{}
	for name, n := range families {
		list[name] = n > 2 && !neutral[name] && name != "android"
	}
	return list
}

// referred returns what reports whether a key stands in some family of Android's:
// texts refer to others of the whole application.
func referred(w *project.Workspace) func(string) bool {
	return func(key string) bool {
		return slices.ContainsFunc(w.Families, func(f *project.Family) bool {
			return f.Format.Name == "android" && slices.ContainsFunc(f.Members, func(m *catalog.Member) bool { return m.Catalog.Find(key) != nil })
		})
	}
}

func inCulture(findings []finding.Finding, tag culture.Tag) []finding.Finding {
	for i := range findings {
		if tag != "" {
			findings[i].Culture = string(tag)
		}
	}
	return findings
}
