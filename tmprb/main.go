package main

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"zelvik/format"
	"zelvik/format/all"
	"zelvik/project"
)

func main() {
	edits, refused, files, conv, crefused := 0, 0, 0, 0, map[string]int{}
	shown := map[string]int{}
	for _, root := range os.Args[1:] {
		filepath.WalkDir(root, func(at string, d os.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return nil
			}
			ext := filepath.Ext(at)
			from := map[string]string{".po": "po", ".properties": "properties", ".json": "json", ".xml": "android"}[ext]
			if from == "" || ext == ".json" && !strings.Contains(at, "loc") && !strings.Contains(at, "lang") || ext == ".xml" && !strings.Contains(at, "values") {
				return nil
			}
			file, err := project.Open(at, from)
			if err != nil || file.Damaged() != nil {
				return nil
			}
			files++
			f := file.Format
			list := file.Document.Catalogs()
			c := list[len(list)-1]
			step := max(1, len(c.Entries)/12)
			for i := 0; i < len(c.Entries); i += step {
				e := &c.Entries[i]
				if e.Message.Choice != nil || e.Product != "" {
					continue
				}
				text := []rune(e.Message.Main().String())
				k := len(text) / 2
				m, faults := f.Message(string(text[:k]) + "é x" + string(text[k:]))
				if len(faults) > 0 || m.Choice != nil {
					continue
				}
				ch := []format.Change{{Culture: c.Culture, Key: e.Key, Message: &m}}
				out, losses, err := file.Document.Edit(ch)
				if err != nil {
					continue
				}
				edits++
				if err := format.ReadBack(f, file.Document, ch, out, losses); err != nil {
					refused++
					if shown["edit"]++; shown["edit"] < 12 {
						fmt.Println("EDIT", at, err)
					}
				}
			}
			for _, to := range []string{"android", "strings", "arb", "resx", "json", "xliff", "qt", "properties", "po", "sheet", "xcstrings", "winrc", "tmx", "xliff2"} {
				file, _ := project.Open(at, from)
				target, _ := all.Named(to)
				if target.Name == file.Format.Name {
					continue
				}
				out := "/tmp/real/out" + target.Extensions[0]
				c, err := project.ConvertFile(file, target, out, project.Options{})
				if err != nil {
					continue
				}
				conv++
				if err := c.Check(); err != nil {
					crefused[to]++
					if shown[to]++; shown[to] < 5 {
						fmt.Println("CONV", to, at, strings.ReplaceAll(err.Error(), "\n", "⏎"))
					}
				}
			}
			return nil
		})
	}
	var keys []string
	for k := range crefused {
		keys = append(keys, fmt.Sprint(k, "=", crefused[k]))
	}
	slices.Sort(keys)
	fmt.Println(files, "files", edits, "edits", refused, "refused", conv, "conversions refused", keys)
}
