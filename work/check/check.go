package check

import (
	"zelvik/culture"
	"zelvik/finding"
	"zelvik/project"
	"zelvik/verify"
)

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
	var found []finding.Finding
	for _, f := range w.Families {
		if r, err := w.Record(f); err == nil {
			r.Mark(f)
		} else {
			found = append(found, finding.Finding{Rule: "file-damaged", Severity: finding.Error, Path: project.LedgerName, Message: err.Error(), Mend: "restore it from version control"})
		}
		families = append(families, f.Verifiable(w.Config.Verify.Names, w.Partial))
		told := map[*project.File]bool{}
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
