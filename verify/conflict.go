package verify

import (
	"strings"

	"zelvik/catalog"
	"zelvik/finding"
)

var mergeConflict = &Rule{
	Name: "merge-conflict", Severity: finding.Error,
	Doc:     "Two people changed one text, and nobody has settled it since they were merged, by key or by lines.",
	Why:     "The text is that of one side; what the other meant is lost when the mark is forgotten. No platform reads a file with <<<<<<< in it as it was meant.",
	Example: `<!-- Merge conflict: edited; theirs says "Board now" -->`,
	Fix:     "Choose one, and take the mark out of the note, or the three lines out of the file.",
	Catalog: func(_ *Family, m *catalog.Member, report Report) {
		for i := range m.Catalog.Entries {
			e := &m.Catalog.Entries[i]
			if at := strings.Index(e.Note, catalog.ConflictMark); at >= 0 {
				said, _, _ := strings.Cut(e.Note[at+len(catalog.ConflictMark):], "\n")
				report(e, "a merge left a conflict: "+said, "")
			} else if key, ok := strings.CutSuffix(e.Key, catalog.ConflictAside); ok && m.Catalog.Find(key) != nil {
				report(e, "a merge left the other side's text of "+key+" beside it", "choose one of the two, and remove "+e.Key)
			}
		}
	},
}
