package project

import (
	"bytes"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"testing"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/accessor/all"
	formats "zelvik/format/all"
	"zelvik/message/loose"
)

// TestSchema holds the schema against the configuration's own keys, and
// against configurations that are right and wrong.
func TestSchema(t *testing.T) {
	parsed, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource(SchemaName, parsed))
	schema, err := compiler.Compile(SchemaName)
	require.NoError(t, err)

	var own []string
	var gather func(node any)
	gather = func(node any) {
		for name, value := range node.(map[string]any) {
			if properties, ok := value.(map[string]any); ok {
				if name == "properties" {
					for key := range properties {
						own = append(own, key)
					}
				}
				gather(properties)
			}
		}
	}
	gather(parsed)
	assert.ElementsMatch(t, keys(reflect.TypeOf(Config{})), own)
	enum := func(path ...string) []string {
		node := parsed
		for _, name := range path {
			node = node.(map[string]any)[name]
		}
		var list []string
		for _, value := range node.([]any) {
			list = append(list, value.(string))
		}
		return list
	}
	var names, languages []string
	for _, f := range formats.Formats {
		names = append(names, f.Name)
	}
	for _, l := range all.Languages {
		languages = append(languages, l.Name)
	}
	assert.ElementsMatch(t, names, enum("properties", "families", "items", "properties", "format", "enum"))
	assert.ElementsMatch(t, loose.Words[:], enum("properties", "families", "items", "properties", "placeholders", "enum"))
	assert.ElementsMatch(t, languages, enum("properties", "accessors", "items", "properties", "language", "enum"))

	for text, fits := range map[string]bool{
		"source: en\ncultures: [de, pt-BR, zh-Hant-TW]":                          true,
		"families: [{path: res, format: json, placeholders: colon, follows: x}]": true,
		"verify: {rules: {text-copied: never}, fail-on: warning}":                true,
		"sauce: en":                           false,
		"cultures: de":                        false,
		"families: [{format: json}]":          false,
		"verify: {rules: {text-copied: bad}}": false,
	} {
		var value any
		require.NoError(t, yaml.Unmarshal([]byte(text), &value))
		assert.Equal(t, fits, schema.Validate(value) == nil, text)
		at := filepath.Join(t.TempDir(), ConfigName)
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
		if _, err := ReadConfig(nil, at); fits {
			assert.NoError(t, err, text)
		}
	}
	demo, err := os.ReadFile("../demo/project/" + SchemaName)
	require.NoError(t, err)
	assert.True(t, slices.Equal(Schema, demo), "cp project/schema.json demo/project/"+SchemaName)
	text, err := os.ReadFile("../demo/project/" + ConfigName)
	require.NoError(t, err)
	var value any
	require.NoError(t, yaml.Unmarshal(text, &value))
	assert.NoError(t, schema.Validate(value))
	assert.True(t, bytes.HasPrefix(text, []byte(SchemaLine)))
}
