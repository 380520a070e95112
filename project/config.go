package project

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"sync"

	"github.com/bmatcuk/doublestar/v4"
	"github.com/goccy/go-yaml"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/finding"
	"zelvik/format"
	"zelvik/format/all"
)

// ConfigName is the configuration's file name.
const ConfigName = "zelvik.yaml"

// Config is what zelvik.yaml says. All paths are relative to its folder.
type Config struct {
	// Source is the culture that the others are translated from.
	Source culture.Tag `yaml:"source"`
	// Cultures are the cultures that every family is to have.
	Cultures []culture.Tag `yaml:"cultures"`
	// Families are the folders or files in which families are found; the whole
	// project where none are named.
	Families []FamilyConfig `yaml:"families"`
	// Screens are the screen files, patterns allowed.
	Screens []string `yaml:"screens"`
	// Fonts are the files of fonts that screens are drawn with before the
	// embedded ones, patterns allowed; system stands for those of the system,
	// which are asked last.
	Fonts []string `yaml:"fonts"`
	// Accessors are the accessors to generate.
	Accessors []AccessorConfig `yaml:"accessors"`
	// Verify says how findings are judged.
	Verify VerifyConfig `yaml:"verify"`

	dir  string
	disk *files.Disk
}

// FamilyConfig is one place with families.
type FamilyConfig struct {
	Path   string `yaml:"path"`
	Format string `yaml:"format"`
	// Placeholders says how texts spell placeholders where the format leaves
	// that open: a word of loose.Words.
	Placeholders string `yaml:"placeholders"`
	// Markup says that tags in the texts are markup, where the format holds text
	// alone.
	Markup bool `yaml:"markup"`
	// Follows is the path of the family with the same keys that leads this one.
	Follows string `yaml:"follows"`
}

// named returns what all.Named takes for the place; "" to detect it.
func (f *FamilyConfig) named() string {
	name := f.Format
	if f.Placeholders != "" {
		name += ":" + f.Placeholders
	}
	if f.Markup {
		name += ":" + format.MarkedWord
	}
	return name
}

// formatsOf returns the formats that the configuration states for a path, those
// of the innermost place that holds it; one that is "" where it states none.
func (c *Config) formatsOf(path string) []string {
	best, longest := []string{""}, -1
	if c == nil {
		return best
	}
	for i := range c.Families {
		f := &c.Families[i]
		place := c.disk.Absolute(filepath.Join(c.dir, filepath.FromSlash(f.Path)))
		if len(place) < longest || !c.disk.Inside(place, path) {
			continue
		}
		if len(place) > longest {
			best, longest = nil, len(place)
		}
		best = append(best, f.named())
	}
	return best
}

// FormatOf returns the name of the format in which a single file is to be read:
// what was asked for, else what the configuration says, else "".
func FormatOf(disk *files.Disk, path, asked, configPath string) (string, error) {
	if asked != "" || path == "-" {
		return asked, nil
	}
	if configPath == "" {
		configPath = FindConfig(disk, filepath.Dir(path))
	}
	if configPath == "" {
		return "", nil
	}
	c, err := ReadConfig(disk, configPath)
	if err != nil {
		return "", err
	}
	if stated := c.formatsOf(path); len(stated) == 1 {
		return stated[0], nil
	}
	return "", nil // several at one place: by its name and content
}

// AccessorConfig is one set of accessors.
type AccessorConfig struct {
	Family string `yaml:"family"`
	// Families are several that share one switch; each has a type of its own.
	Families []string `yaml:"families"`
	// Named says that Families are paths from the working folder, and that the workspace
	// has those families and no others.
	Named    bool   `yaml:"-"`
	Language string `yaml:"language"`
	Package  string `yaml:"package"`
	// Type is the name of the type; of several families their names, separated by commas.
	Type string `yaml:"type"`
	Out  string `yaml:"out"`
	// Annotations is nullable, or none for compilers that do not read them.
	Annotations string `yaml:"annotations"`
	// Visibility is public or internal.
	Visibility string `yaml:"visibility"`
	// Texts is compiled, or bundles: files that the application loads.
	Texts string `yaml:"texts"`
	// Binding and Cases add the file for the platform's interfaces, and tests.
	Binding bool `yaml:"binding"`
	Cases   bool `yaml:"cases"`
	// CasesOut is the folder of the tests, where that is not Out.
	CasesOut string `yaml:"cases-out"`
}

// VerifyConfig says how findings are judged.
type VerifyConfig struct {
	// Rules gives rules another severity, or "never".
	Rules map[string]string `yaml:"rules"`
	// FailOn is the threshold for the exit status.
	FailOn string `yaml:"fail-on"`
	// Names are words that stay as they are in every culture.
	Names []string `yaml:"names"`
	// Terms are the files of glossaries.
	Terms []string `yaml:"terms"`
}

// Dir is the folder of the configuration.
func (c *Config) Dir() string { return c.dir }

// FindConfig returns the path of the nearest zelvik.yaml at or above dir, or "".
func FindConfig(disk *files.Disk, dir string) string {
	for dir = disk.Absolute(dir); ; dir = filepath.Dir(dir) {
		if at := filepath.Join(dir, ConfigName); disk.There(at) {
			return disk.Short(at)
		}
		if filepath.Dir(dir) == dir {
			return ""
		}
	}
}

var unknownField = sync.OnceValue(func() *regexp.Regexp {
	return regexp.MustCompile(`\[(\d+):(\d+)\] unknown field "([^"]*)"`)
})

// ReadConfig reads a configuration. Errors name line and column, and for an
// unknown key the nearest one there is.
func ReadConfig(disk *files.Disk, path string) (*Config, error) {
	data, err := disk.Read(path)
	if err != nil {
		return nil, err
	}
	c := &Config{}
	err = yaml.UnmarshalWithOptions(data, c, yaml.DisallowUnknownField())
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return nil, configError(path, err)
	}
	c.dir, c.disk = filepath.Dir(path), disk // an empty file empties it
	for _, tag := range append([]culture.Tag{c.Source}, c.Cultures...) {
		if tag == "" {
			continue
		}
		if _, err := culture.Parse(string(tag)); err != nil {
			return nil, Usage("%s: %v", path, err)
		}
	}
	for _, place := range c.places() {
		if !filepath.IsLocal(filepath.FromSlash(place)) {
			return nil, Usage("%s: the path %q leads out of the project; use a path below %s", path, place, c.dir)
		}
	}
	for i := range c.Families {
		f := &c.Families[i]
		if f.Placeholders != "" && f.Format == "" {
			return nil, Usage("%s: family %s: placeholders needs the format beside it; write format: json", path, f.Path)
		}
		if f.Markup && f.Format == "" {
			return nil, Usage("%s: family %s: markup needs the format beside it; write format: json", path, f.Path)
		}
		if _, err := all.Named(f.named()); f.named() != "" && err != nil {
			return nil, Usage("%s: family %s: %v", path, f.Path, err)
		}
	}
	for name, severity := range c.Verify.Rules {
		if _, err := finding.ParseSeverity(severity); err != nil {
			return nil, Usage("%s: rule %s: %v", path, name, err)
		}
	}
	return c, nil
}

// places lists all paths that the configuration names.
func (c *Config) places() []string {
	list := append([]string(nil), c.Screens...)
	for _, font := range c.Fonts {
		if font != "system" {
			list = append(list, font)
		}
	}
	list = append(list, c.Verify.Terms...)
	for _, f := range c.Families {
		list = append(list, f.Path)
		if f.Follows != "" {
			list = append(list, f.Follows)
		}
	}
	for _, a := range c.Accessors {
		list = append(list, a.Out)
		if a.Family != "" {
			list = append(list, a.Family)
		}
	}
	return list
}

// configError makes one sentence of a YAML error.
func configError(path string, err error) error {
	text := yaml.FormatError(err, false, false)
	if m := unknownField().FindStringSubmatch(text); m != nil {
		fix := "see docs/configuration.md"
		if nearest := finding.Nearest(m[3], keys(reflect.TypeOf(Config{}))); nearest != "" {
			fix = nearest + " was probably meant"
		}
		return Usage("%s:%s:%s: %q is no key of the configuration; %s", path, m[1], m[2], m[3], fix)
	}
	first, _, _ := strings.Cut(text, "\n")
	if m := regexp.MustCompile(`^\[(\d+):(\d+)\] (.*)`).FindStringSubmatch(first); m != nil {
		return Usage("%s:%s:%s: %s; see docs/configuration.md", path, m[1], m[2], m[3])
	}
	return Usage("%s: %s", path, first)
}

// keys lists all keys of the configuration.
func keys(t reflect.Type) []string {
	var list []string
	for i := range t.NumField() {
		field := t.Field(i)
		name := field.Tag.Get("yaml")
		if name == "" || name == "-" {
			continue
		}
		list = append(list, name)
		inner := field.Type
		if inner.Kind() == reflect.Slice {
			inner = inner.Elem()
		}
		if inner.Kind() == reflect.Struct {
			list = append(list, keys(inner)...)
		}
	}
	return list
}

// Paths returns the places of the families, joined to the configuration's
// folder; the folder itself where none are named.
func (c *Config) Paths() []string {
	if len(c.Families) == 0 {
		return []string{c.dir}
	}
	var list []string
	for _, f := range c.Families {
		list = append(list, filepath.Join(c.dir, filepath.FromSlash(f.Path)))
	}
	return list
}

// Workspace is what a command works on: its families and its configuration,
// which is empty where there is none.
type Workspace struct {
	Config   *Config
	Families []*Family
	// Disk is where its files were read.
	Disk *files.Disk
	// Partial says that files were named one by one, not folders.
	Partial bool
	// ledgers are those that were looked at, by path.
	ledgers map[string]*Ledger
}

// Load finds what a command works on: the paths given, else what the
// configuration names, else the current folder.
func Load(paths []string, configPath string, o Options) (*Workspace, error) {
	w := &Workspace{Config: &Config{dir: "."}, Disk: o.Disk}
	at := configPath
	if at == "" {
		start := "."
		if len(paths) > 0 {
			if start = paths[0]; !o.Disk.IsDir(start) {
				start = filepath.Dir(start)
			}
		}
		at = FindConfig(o.Disk, start)
	}
	if err := o.hold(paths, at); err != nil {
		return nil, err
	}
	if at != "" {
		c, err := ReadConfig(o.Disk, at)
		if err != nil {
			return nil, err
		}
		w.Config = c
	}
	o.config = w.Config
	if o.Source == "" {
		o.Source = w.Config.Source
	}
	if len(paths) == 0 {
		paths = w.Config.Paths()
	}
	families, err := w.named(paths, o)
	if err != nil {
		return nil, err
	}
	if len(families) == 0 {
		return nil, Usage("no string files at %s; name a file or folder that has some (zelvik formats lists what is read)", strings.Join(paths, ", "))
	}
	if w.Families = families; o.Files == nil {
		w.show()
	}
	return w, nil
}

// named returns the families at paths: a folder's, and of a file or of the name of a
// family that one.
func (w *Workspace) named(paths []string, o Options) ([]*Family, error) {
	var rest []string
	var list []*Family
	for _, path := range paths {
		pattern := strings.ContainsAny(path, "*?[{") && !o.Disk.There(path)
		if o.Exact || pattern || path == "-" || o.Disk.IsDir(path) {
			rest = append(rest, path)
			continue
		}
		home := HomeOf(o.Disk, path)
		if !o.Disk.There(path) {
			home = filepath.Dir(path) // res/strings is a name, and no file
		}
		if !o.Disk.IsDir(home) {
			rest = append(rest, path)
			continue
		}
		near := o
		near.beside = home
		families, err := Families([]string{home}, near)
		if err != nil {
			return nil, err
		}
		at := slices.IndexFunc(families, func(f *Family) bool {
			return w.Disk.Absolute(f.Name) == w.Disk.Absolute(path) || slices.ContainsFunc(f.Files, func(file *File) bool {
				return slices.ContainsFunc(file.All(), func(one *File) bool { return w.Disk.Absolute(one.Path) == w.Disk.Absolute(path) })
			})
		})
		if at < 0 {
			rest = append(rest, path)
		} else if !listed(list, families[at]) {
			list = append(list, families[at])
		}
	}
	if rest == nil {
		return list, nil
	}
	w.Partial = !slices.ContainsFunc(rest, o.Disk.IsDir)
	families, err := Families(rest, o)
	for _, f := range families { // what is in a folder was perhaps named, too
		if !listed(list, f) {
			list = append(list, f)
		}
	}
	return list, err
}

// listed reports whether a list has the family.
func listed(list []*Family, f *Family) bool {
	return slices.ContainsFunc(list, func(other *Family) bool { return other.Name == f.Name && other.Format == f.Format })
}

// mostShown is up to how many bytes files are read back that are only shown
// (--dry-run): it takes as long as reading them.
const mostShown = 16 << 20

// show spares the files of a large project the reading back, as none of them is
// written.
func (w *Workspace) show() {
	size := 0
	for _, f := range w.Families {
		for _, file := range f.Files {
			size += len(file.Data)
		}
	}
	for _, f := range w.Families {
		for _, file := range f.Files {
			for _, one := range file.All() {
				one.shown = size > mostShown
			}
		}
	}
}

// hold locks the folders of what a command changes, before it is read.
func (o *Options) hold(paths []string, config string) error {
	if o.Files == nil {
		return nil
	}
	var homes []string
	if config != "" || len(paths) == 0 {
		homes = append(homes, o.Disk.Home(filepath.Dir(config)))
	}
	for _, path := range paths {
		homes = append(homes, o.Disk.Home(HomeOf(o.Disk, path)))
	}
	slices.Sort(homes) // two runs take them in one order
	for _, home := range slices.Compact(homes) {
		if err := o.Files.Hold(home); err != nil {
			return err
		}
	}
	return nil
}

// HomeOf returns the folder that a path stands for: that of the family of a file,
// so that a family is one place however it is named.
func HomeOf(disk *files.Disk, path string) string {
	if disk.IsDir(path) {
		return path
	}
	if strings.ContainsAny(path, "*?[{") {
		dir, _ := doublestar.SplitPattern(filepath.ToSlash(path))
		return filepath.FromSlash(dir)
	}
	if f, _ := all.Detect(filepath.ToSlash(path), nil); f != nil {
		return filepath.FromSlash(around(f.Locate(filepath.ToSlash(path)).Dir))
	}
	return filepath.Dir(path)
}

// Cultures returns all cultures of all families, the source first.
func (w *Workspace) Cultures() []culture.Tag {
	var list []culture.Tag
	seen := map[culture.Tag]bool{}
	for _, f := range w.Families {
		for _, m := range f.Members {
			if !seen[m.Culture] {
				seen[m.Culture] = true
				list = append(list, m.Culture)
			}
		}
	}
	return list
}

// One returns the only family, or an error that lists them.
func (w *Workspace) One() (*Family, error) {
	if len(w.Families) == 1 {
		return w.Families[0], nil
	}
	var names []string
	for _, f := range w.Families {
		names = append(names, fmt.Sprintf("%s (%s)", f.Name, f.Format.Name))
	}
	return nil, Usage("there are %d families here; name the files of one: %s", len(names), strings.Join(names, ", "))
}
