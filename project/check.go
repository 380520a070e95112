package project

import (
	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/verify"
)

// Check runs the rules on all families of the workspace. Others are findings
// made elsewhere, such as those of screens.
func (w *Workspace) Check(others []finding.Finding) *verify.Result {
	severities := verify.Severities{}
	for name, text := range w.Config.Verify.Rules {
		if s, err := finding.ParseSeverity(text); err == nil { // checked when it was read
			severities[name] = s
		}
	}
	var families []*verify.Family
	var found []finding.Finding
	for _, f := range w.Families {
		if r, err := w.ledger(f); err == nil {
			r.mark(f)
		} else {
			found = append(found, finding.Finding{Rule: "file-damaged", Severity: finding.Error, Path: LedgerName, Message: err.Error(), Mend: "restore it from version control"})
		}
		families = append(families, f.verifiable(w.Config.Verify.Names, w.Partial))
		told := map[*File]bool{}
		for i, file := range f.Files {
			if told[file] { // it holds several cultures
				continue
			}
			told[file] = true
			tag := f.Members[i].Culture
			if len(file.Document.Catalogs()) > 1 {
				tag = ""
			}
			found = append(found, inCulture(file.Findings, tag)...)
			if file.Companion != nil {
				found = append(found, inCulture(file.Companion.Findings, tag)...)
			}
		}
		for _, file := range f.Misnamed {
			found = append(found, file.Findings...)
		}
	}
	return verify.Run(families, append(found, others...), severities)
}

func inCulture(findings []finding.Finding, tag culture.Tag) []finding.Finding {
	for i := range findings {
		if tag != "" {
			findings[i].Culture = string(tag)
		}
	}
	return findings
}

// verifiable gives the family as the rules see it.
func (f *Family) verifiable(names []string, partial bool) *verify.Family {
	v := &verify.Family{Family: &f.Family, Format: f.Format.Name, Names: names, Partial: partial}
	v.HasNeutral = !f.Format.Holds.Bilingual && f.Format.Path("", "t", "xx", true) != f.Format.Path("", "t", "xx", false)
	for _, file := range f.Misnamed {
		m := verify.Misnamed{Path: file.Path, Why: file.Location.Misnamed, Meant: file.Location.Meant, Unknown: file.Location.Unknown}
		if near, _ := nearExtension(file.Path); near != nil && m.Why == "" {
			m.Why = "the platform does not read a file with this ending"
			m.Meant = near.Path(f.Dir, f.Table, file.Location.Culture, file.Location.Neutral)
		}
		v.Misnamed = append(v.Misnamed, m)
	}
	v.Place = func(m *catalog.Member, e *catalog.Entry) (path string, line, column int) {
		file := f.File(m)
		if file == nil {
			return m.Path, 0, 0
		}
		holder := file.Holder(e.ID())
		line, column = holder.At(e.Offset)
		return holder.Path, line, column
	}
	return v
}
