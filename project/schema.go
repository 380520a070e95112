package project

import _ "embed"

// SchemaName is the file name of the configuration's JSON Schema.
const SchemaName = "zelvik.schema.json"

// Schema is the JSON Schema of zelvik.yaml. It lies beside the configuration,
// whose first line names it in the way that editors look for it.
//
//go:embed schema.json
var Schema []byte

// schemaLine is the first line of a configuration.
const SchemaLine = "# yaml-language-server: $schema=" + SchemaName + "\n"
