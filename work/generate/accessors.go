package generate

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"maps"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"

	"zelvik/accessor"
	languages "zelvik/accessor/all"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/project"
)

// Accessors are the files of one set of accessors.
type Accessors struct {
	// Dir is the folder of the family that they are made of.
	Dir string
	// Language is what the set names.
	Language string
	// Files are all files, by path.
	Files map[string][]byte
	// Clashes are keys whose members would have one name, at their place in the
	// source file.
	Clashes []finding.Finding
}

var typeName = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`^[A-Z][A-Za-z0-9]*$`)
})

// Configured is the command that generates the sets of the configuration.
const Configured = "zelvik accessors"

// For generates a set of accessors; set.Out is a folder as it is written, and command the
// command that generates them again.
func For(w *project.Workspace, set project.AccessorConfig, command string) (*Accessors, error) {
	language, options, err := options(set)
	if err != nil {
		return nil, err
	}
	families := w
	if set.Family != "" {
		families = &project.Workspace{Config: w.Config}
		place := w.Disk.Absolute(filepath.Join(w.Config.Dir(), filepath.FromSlash(set.Family)))
		for _, f := range w.Families {
			if w.Disk.Inside(place, w.Disk.Absolute(f.Dir)) || slices.ContainsFunc(f.Files, func(file *project.File) bool { return w.Disk.Inside(place, w.Disk.Absolute(file.Path)) }) {
				families.Families = append(families.Families, f)
			}
		}
	}
	family, err := families.One()
	if err != nil {
		return nil, err
	}
	for _, file := range family.Files {
		if damage := file.Damaged(); damage != nil {
			return nil, project.Refuse(damage)
		}
	}
	if _, err := family.Restore(); err != nil {
		return nil, err
	}
	options.From, options.Command = filepath.ToSlash(family.Dir), command
	record, err := w.Record(family)
	if err != nil {
		return nil, err
	}
	options.Gone = gone(record, family)
	model, err := accessor.New(&family.Family, options)
	if err != nil {
		return nil, err
	}
	made := &Accessors{Dir: family.Dir, Language: language.Name, Files: map[string][]byte{}}
	for name, data := range language.Files(model) {
		made.Files[filepath.Join(set.Out, filepath.FromSlash(name))] = data
	}
	source := family.SourceMember()
	for _, f := range model.Findings {
		file := family.File(source)
		if f.Path = file.Path; source.Catalog.Find(f.Key) != nil {
			f.Line, f.Column = file.At(source.Catalog.Find(f.Key).Offset)
		}
		made.Clashes = append(made.Clashes, f)
	}
	return made, nil
}

// options checks what a set says.
func options(set project.AccessorConfig) (*accessor.Language, accessor.Options, error) {
	o := accessor.Options{Package: set.Package, Type: set.Type, Binding: set.Binding, Cases: set.Cases}
	language, err := languages.Named(set.Language)
	if err != nil {
		return nil, o, err
	}
	if set.Out == "" {
		return nil, o, errors.New("accessors need --out FOLDER to write to")
	}
	o.Package = cmp.Or(o.Package, language.Package)
	if !language.ValidPackage(o.Package) {
		return nil, o, fmt.Errorf("%q is no package of %s; use %s", o.Package, language.Name, language.PackagePattern)
	}
	if o.Type == "" {
		o.Type = "Wording"
	}
	if !typeName().MatchString(o.Type) {
		return nil, o, fmt.Errorf("%q is no name for a type; use a capital letter and letters or digits, such as Wording", o.Type)
	}
	switch set.Visibility {
	case "", "public":
	case "internal":
		o.Hidden = true
	default:
		return nil, o, fmt.Errorf("visibility takes public or internal, not %q", set.Visibility)
	}
	switch set.Texts {
	case "", "compiled":
	case "bundles":
		o.Bundles = true
	default:
		return nil, o, fmt.Errorf("texts takes compiled or bundles, not %q", set.Texts)
	}
	return language, o, nil
}

// gone lists the keys that the ledger has set aside for a family.
func gone(r *project.Record, f *project.Family) []accessor.Gone {
	var list []accessor.Gone
	source := f.SourceMember()
	for key, line := range r.Lines() {
		if len(line.Aside) > 0 && source != nil && source.Catalog.Find(key) == nil {
			list = append(list, accessor.Gone{Key: key, Texts: line.Aside})
		}
	}
	slices.SortFunc(list, func(a, b accessor.Gone) int { return strings.Compare(a.Key, b.Key) })
	return list
}

// Sets are the sets of the configuration, their folders as paths.
func Sets(w *project.Workspace) []project.AccessorConfig {
	if w.Config == nil {
		return nil
	}
	sets := slices.Clone(w.Config.Accessors)
	for i := range sets {
		sets[i].Out = w.Disk.Short(filepath.Join(w.Config.Dir(), filepath.FromSlash(sets[i].Out)))
	}
	return sets
}

// Stale are findings of the rules accessors-stale and name-clash: what
// the accessors of the configuration would be, held against the disk. A set
// whose folder does not exist was never generated here, and is left out.
func Stale(w *project.Workspace) ([]finding.Finding, error) {
	var found []finding.Finding
	for _, set := range Sets(w) {
		if !w.Disk.IsDir(set.Out) {
			continue
		}
		made, err := For(w, set, Configured)
		var damage *files.Error
		if errors.As(err, &damage) {
			continue // the rule file-damaged tells
		}
		if err != nil {
			return nil, fmt.Errorf("accessors to %s: %w", set.Out, err)
		}
		found = append(found, made.Clashes...)
		var stale []string
		for _, at := range slices.Sorted(maps.Keys(made.Files)) {
			if old, err := w.Disk.Read(at); err != nil || !bytes.Equal(old, made.Files[at]) {
				stale = append(stale, at)
			}
		}
		if len(stale) > 0 {
			more := ""
			if len(stale) > 1 {
				more = fmt.Sprintf(", here and in %d more", len(stale)-1)
			}
			found = append(found, finding.Finding{
				Rule: "accessors-stale", Severity: finding.Error, Path: stale[0],
				Message: fmt.Sprintf("the accessors in %s differ from what the texts of %s give%s", made.Language, made.Dir, more),
				Fix:     "run zelvik accessors in the project",
			})
		}
	}
	return slices.CompactFunc(found, func(a, b finding.Finding) bool { return a.Rule == b.Rule && a.Key == b.Key && a.Path == b.Path }), nil
}
