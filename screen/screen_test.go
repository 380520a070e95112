package screen

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Each case is a body and what is said of it, with its place.
func TestErrors(t *testing.T) {
	for body, want := range map[string]string{
		"{}":                                         "2:3: a box is exactly one of row",
		"colum: {}":                                  `2:3: "colum" is no box; column was probably meant`,
		"label: {width: wide}":                       `2:18: "wide" is no size`,
		"label: {align: middle}":                     `2:18: "middle" is no align; use start, center, end, left or right`,
		"label: {padding: {strat: 1}}":               `2:21: "strat" is no side`,
		"label: {key: a, text: b}":                   "has a key and a text",
		"label: {weight: heavy}":                     `2:19: "heavy" is no weight; use regular or bold`,
		"row: {children: [null]}":                    "an empty box",
		"row: {childen: []}":                         `2:9: "childen" is nothing a row has; children was probably meant`,
		"label: {gap: 3}":                            `"gap" is nothing a label has`,
		"label: {size: 0}":                           "use a whole number from 1 to 400",
		"label: {key: [a]}":                          "a text or a number is meant here",
		"label: {}\n  button: {}":                    "this one is a label already",
		"grid: {children: []}":                       "how wide its columns are",
		"list: {children: []}":                       "exactly one child",
		"radio: {}":                                  "a radio has items",
		"tabs: {items: [{key: a}], chosen: 2}":       "there is no item 2",
		"check: {on: maybe}":                         "true or false",
		"label: {key: a, key: b}":                    "key",
		"label: {width: {want: fit, leest: 3}}":      "least was probably meant",
		"row: {children: &a [{label: {}}], gap: *a}": "a text or a number",
	} {
		_, err := Parse("x.yaml", []byte("body:\n  "+body+"\n"))
		require.Error(t, err, body)
		assert.Contains(t, err.Error(), want, body)
		assert.True(t, strings.HasPrefix(err.Error(), "x.yaml:"), err.Error())
	}
	for file, want := range map[string]string{
		"":                     "no body",
		"bdy: {}":              `1:1: "bdy" is nothing a screen has; body was probably meant`,
		"devices: [{name: a}]": "a device has a name, a width and a height",
		"scales: [900]":        "from 50 to 400",
		"body: [a":             "x.yaml:1:",
		"body:\n  row: {children: [" + strings.Repeat("{column: {children: [", 200) + strings.Repeat("]}}", 200) + "]}\n": "nested more than",
	} {
		_, err := Parse("x.yaml", []byte(file))
		require.Error(t, err, file)
		assert.Contains(t, err.Error(), want)
	}
}

func TestPlaces(t *testing.T) {
	s, err := Parse("x.yaml", []byte("body:\n  column:\n    gap: 4\n    children:\n      - label:\n          key: a\n          width: 90\n"))
	require.NoError(t, err)
	label := s.Body.Children[0]
	assert.Equal(t, 5, label.Line)
	assert.Equal(t, Place{7, 11}, label.Place("width"))
	assert.Equal(t, Place{5, 9}, label.Place("height"))
	assert.Equal(t, []string{"a"}, s.Keys())
}

// The schema takes what the reader takes: every example, and the demo's
// screens; and it knows every property that the reader does.
func TestSchema(t *testing.T) {
	var schema any
	require.NoError(t, json.Unmarshal([]byte(Schema()), &schema))
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource("screen.json", schema))
	compiled, err := compiler.Compile("screen.json")
	require.NoError(t, err)
	valid := func(text string) error {
		var value any
		require.NoError(t, yaml.Unmarshal([]byte(text), &value))
		data, err := json.Marshal(value)
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(data, &value))
		return compiled.Validate(value)
	}
	for _, k := range Kinds {
		file := "body:\n  " + k.Example + "\n"
		_, err := Parse("x.yaml", []byte(file))
		assert.NoError(t, err, k.Name)
		assert.NoError(t, valid(file), k.Name)
		for _, p := range k.Properties {
			assert.True(t, known(p), p)
		}
	}
	for _, p := range Common {
		assert.True(t, known(p), p)
	}
	assert.Error(t, valid("body: {label: {gap: 3}}"))
	assert.Error(t, valid("body: {label: {}, row: {}}"))
	saved, err := os.ReadFile("schema.json")
	require.NoError(t, err)
	assert.Equal(t, Schema(), string(saved), "write it anew: ZELVIK_WRITE=1 go test ./screen")
}

func known(property string) bool {
	for _, p := range Properties {
		if p.Name == property {
			return true
		}
	}
	return false
}

func TestMain(m *testing.M) {
	if os.Getenv("ZELVIK_WRITE") != "" {
		if err := os.WriteFile("schema.json", []byte(Schema()), 0o644); err != nil {
			panic(err)
		}
	}
	os.Exit(m.Run())
}
