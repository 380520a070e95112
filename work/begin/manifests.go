package begin

import (
	"bytes"
	"io/fs"
	"path"
	"path/filepath"
	"regexp"
	"strings"
	"sync"

	"zelvik/culture"
	"zelvik/files"
	"zelvik/project"
	"zelvik/toolkit"
	"zelvik/toolkit/all"
)

// changed is a manifest with a culture more.
type changed struct {
	path       string
	old, fresh []byte
}

// manifests returns the manifests of a project that list cultures, with one more.
func manifests(w *project.Workspace, tag culture.Tag) (list []changed, err error) {
	dir := w.Config.Dir()
	err = w.Disk.Walk(dir, func(at string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return files.ReadError(at, err)
		case d.IsDir() && at != dir && (project.Skipped[d.Name()] || strings.HasPrefix(d.Name(), ".")):
			return filepath.SkipDir
		case !d.Type().IsRegular():
			return nil
		}
		for _, l := range lists() {
			if ok, err := path.Match(l.File, d.Name()); !ok || err != nil {
				continue
			}
			old, err := w.Disk.Read(at)
			if err != nil {
				return err
			}
			if fresh, ok := l.Add(string(old), tag); ok {
				list = append(list, changed{at, old, []byte(fresh)})
				break
			}
		}
		return nil
	})
	return list, err
}

// lists returns the lists of cultures of all toolkits.
func lists() (list []*toolkit.List) {
	for _, t := range all.Toolkits {
		list = append(list, t.Lists...)
	}
	return list
}

var (
	flow  = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`(?m)^cultures:[ \t]*\[([^\]]*)\]`) })
	block = sync.OnceValue(func() *regexp.Regexp {
		return regexp.MustCompile(`(?m)^cultures:[ \t]*(?:#.*)?\r?\n((?:[ \t]*-[ \t]*[^\s#]+.*\r?\n?)+)`)
	})
)

// configured adds a culture to the list of zelvik.yaml. It is false where there is
// none, or it has the culture.
func configured(text string, tag culture.Tag) (string, bool) {
	if place := flow().FindStringSubmatchIndex(text); place != nil {
		inner := strings.TrimRight(text[place[2]:place[3]], " ,")
		for one := range strings.SplitSeq(inner, ",") {
			if strings.Trim(strings.TrimSpace(one), `"'`) == string(tag) {
				return "", false
			}
		}
		if inner != "" {
			inner += ", "
		}
		return text[:place[2]] + inner + string(tag) + text[place[3]:], true
	}
	place := block().FindStringSubmatchIndex(text)
	if place == nil {
		return "", false
	}
	lines := strings.SplitAfter(strings.TrimRight(text[place[2]:place[3]], "\r\n"), "\n")
	for _, line := range lines {
		if value, _, _ := strings.Cut(strings.TrimLeft(line, " \t-"), "#"); strings.Trim(strings.TrimSpace(value), `"'`) == string(tag) {
			return "", false
		}
	}
	last := lines[len(lines)-1]
	head := last[:len(last)-len(strings.TrimLeft(last, " \t-"))]
	end := "\n"
	if bytes.Contains([]byte(text), []byte("\r\n")) {
		end = "\r\n"
	}
	at := place[2] + len(strings.TrimRight(text[place[2]:place[3]], "\r\n"))
	return text[:at] + end + head + string(tag) + text[at:], true
}
