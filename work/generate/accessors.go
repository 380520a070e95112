package generate

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"maps"
	"path"
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
	// Dir is the folder of the family that they are made of, or the folders of several.
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
	families, err := families(w, set)
	if err != nil {
		return nil, err
	}
	types, err := typeNames(set.Type, families)
	if err != nil {
		return nil, err
	}
	options.Command = command
	if set.CasesOut != "" {
		if err := besides(w, set, language, &options); err != nil {
			return nil, err
		}
	}
	var parts []accessor.Part
	for i, family := range families {
		for _, file := range family.Files {
			if damage := file.Damaged(); damage != nil {
				return nil, project.Refuse(damage)
			}
		}
		if _, err := family.Restore(); err != nil {
			return nil, err
		}
		record, err := w.Record(family)
		if err != nil {
			return nil, err
		}
		parts = append(parts, accessor.Part{Family: &family.Family, Type: types[i], From: filepath.ToSlash(family.Dir), Gone: gone(record, family)})
	}
	model, err := accessor.New(language, parts, options)
	if err != nil {
		return nil, err
	}
	made := &Accessors{Dir: model.From, Language: language.Name, Files: map[string][]byte{}}
	for name, data := range language.Files(model) {
		made.Files[filepath.Join(set.Out, filepath.FromSlash(name))] = data
	}
	for i, c := range model.Catalogs {
		source := families[i].SourceMember()
		for _, f := range c.Findings {
			file := families[i].File(source)
			if f.Path = file.Path; source.Catalog.Find(f.Key) != nil {
				f.Line, f.Column = file.At(source.Catalog.Find(f.Key).Offset)
			}
			made.Clashes = append(made.Clashes, f)
		}
	}
	return made, nil
}

// besides puts the tests into a folder of their own.
func besides(w *project.Workspace, set project.AccessorConfig, language *accessor.Language, o *accessor.Options) error {
	if language.Beside {
		return fmt.Errorf("tests in %s lie beside what they test; leave out --cases-out, and give --cases", language.Name)
	}
	out, tests := w.Disk.Absolute(set.Out), w.Disk.Absolute(set.CasesOut)
	there, err := filepath.Rel(out, tests)
	if err != nil {
		return err
	}
	back, err := filepath.Rel(tests, out)
	if err != nil {
		return err
	}
	o.Cases, o.CasesOut, o.Sources = true, filepath.ToSlash(there), filepath.ToSlash(back)+"/"
	if !strings.HasPrefix(o.Sources, ".") {
		o.Sources = "./" + o.Sources
	}
	if language.Sources != nil {
		o.Sources = cmp.Or(language.Sources(out, w.Disk.Read), o.Sources)
	}
	return nil
}

// families are those of a set, in the order in which it names them.
func families(w *project.Workspace, set project.AccessorConfig) ([]*project.Family, error) {
	names := set.Families
	if set.Family != "" {
		names = append([]string{set.Family}, names...)
	}
	if len(names) == 0 {
		family, err := w.One()
		return []*project.Family{family}, err
	}
	var list []*project.Family
	for _, name := range names {
		place := w.Disk.Absolute(name)
		if !set.Named {
			place = w.Disk.Absolute(filepath.Join(w.Config.Dir(), filepath.FromSlash(name)))
		}
		found := false
		for _, f := range w.Families {
			if !w.Disk.Inside(place, w.Disk.Absolute(f.Dir)) && !slices.ContainsFunc(f.Files, func(file *project.File) bool { return w.Disk.Inside(place, w.Disk.Absolute(file.Path)) }) {
				continue
			}
			if found = true; !slices.Contains(list, f) {
				list = append(list, f)
			}
		}
		if !found && !set.Named {
			return nil, project.Usage("the accessors in %s are of %s, and no family is there; zelvik survey lists the families", set.Out, name)
		}
	}
	for _, f := range w.Families { // those that are named by the names that survey prints
		if set.Named && !slices.Contains(list, f) {
			list = append(list, f)
		}
	}
	return list, nil
}

// typeNames are the names of the families' types: those that are asked for, then
// Wording for the first, and for the others their own names with Text after them.
func typeNames(asked string, families []*project.Family) ([]string, error) {
	var types []string
	for name := range strings.SplitSeq(asked, ",") {
		if name = strings.TrimSpace(name); name == "" && asked == "" {
			continue
		}
		if !typeName().MatchString(name) {
			return nil, fmt.Errorf("%q is no name for a type; use a capital letter and letters or digits, such as Wording", name)
		}
		if slices.Contains(types, name) {
			return nil, fmt.Errorf("two families would have the type %s; give each a name of its own", name)
		}
		types = append(types, name)
	}
	if len(types) > len(families) {
		return nil, fmt.Errorf("%d types are named, and there are %d families; name at most one for each", len(types), len(families))
	}
	for _, f := range families[len(types):] {
		name := accessor.Type
		if len(types) > 0 {
			name = accessor.Pascal(accessor.Words(ownPart(f, families))) + "Text"
		}
		wanted := name
		for n := 2; slices.Contains(types, name); n++ {
			name = fmt.Sprintf("%s%d", wanted, n)
		}
		types = append(types, name)
	}
	return types, nil
}

// ownPart is the last part of a family's path that no other has in its own: watch of
// watch/res/strings, where others are app/res/strings and tv/res/strings.
func ownPart(f *project.Family, families []*project.Family) string {
	parts := strings.Split(filepath.ToSlash(f.Name), "/")
	for _, part := range slices.Backward(parts) {
		if !slices.ContainsFunc(families, func(other *project.Family) bool {
			return other != f && slices.Contains(strings.Split(filepath.ToSlash(other.Name), "/"), part)
		}) {
			return part
		}
	}
	return path.Base(filepath.ToSlash(f.Name))
}

// options checks what a set says.
func options(set project.AccessorConfig) (*accessor.Language, accessor.Options, error) {
	o := accessor.Options{Package: set.Package, Binding: set.Binding, Cases: set.Cases}
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
	switch set.Visibility {
	case "", "public":
	case "internal":
		o.Hidden = true
	default:
		return nil, o, fmt.Errorf("visibility takes public or internal, not %q", set.Visibility)
	}
	switch set.Annotations {
	case "", "nullable":
	case "none":
		o.Plain = true
	default:
		return nil, o, fmt.Errorf("annotations takes nullable or none, not %q", set.Annotations)
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
		if sets[i].CasesOut != "" {
			sets[i].CasesOut = w.Disk.Short(filepath.Join(w.Config.Dir(), filepath.FromSlash(sets[i].CasesOut)))
		}
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
