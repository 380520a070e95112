package sheet

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What stands in the columns is reported from the first row.
func TestColumns(t *testing.T) {
	for head, want := range map[string]string{
		"key,note,en,de":                 "key 0 note 1 en 2 de 3",
		"ID,Comment,English,Deutsch":     "key 0 note 1 en 2 de 3",
		"identifier,fr_CA,zh-Hant,Max":   "key 0 limit 3 fr-CA 1 zh-Hant 2",
		"name,plural,German (de),pl [x]": "key 0 form 1 de 2",
		",en,de":                         "key 0 en 1 de 2",
		"key,en,de,de state":             "key 0 en 1 de 2/3",
		"key,text":                       "key 0 en 1",
		"key,source,de":                  "key 0 en 1 de 2",
		"key,fr,source,en-GB":            "key 0 fr 1 en-GB 3",
		"key,en,en":                      "key 0 en 1",
		"apples,pears":                   "",
		"en,de":                          "en 0 de 1",
	} {
		c := columnsOf(strings.Split(head, ","))
		var got []string
		for i, at := range []int{c.key, c.form, c.note, c.limit} {
			if at >= 0 {
				got = append(got, fmt.Sprintf("%s %d", []string{"key", "form", "note", "limit"}[i], at))
			}
		}
		for _, k := range c.cultures {
			text := fmt.Sprintf("%s %d", k.tag, k.at)
			if k.state >= 0 {
				text += fmt.Sprintf("/%d", k.state)
			}
			got = append(got, text)
		}
		assert.Equal(t, want, strings.Join(got, " "), head)
	}
}
