module zelvik

go 1.26.0

require (
	github.com/alecthomas/chroma/v2 v2.27.0
	github.com/bmatcuk/doublestar/v4 v4.10.4
	github.com/go-text/typesetting v0.3.0
	github.com/goccy/go-yaml v1.19.2
	github.com/gofrs/flock v0.13.2
	github.com/hashicorp/go-retryablehttp v0.7.8
	github.com/jedib0t/go-pretty/v6 v6.8.3
	github.com/pmezard/go-difflib v1.0.0
	github.com/santhosh-tekuri/jsonschema/v6 v6.0.3
	github.com/stretchr/testify v1.12.1
	github.com/urfave/cli/v3 v3.14.0
	golang.org/x/image v0.44.0
	golang.org/x/sync v0.24.0
	golang.org/x/sys v0.49.0
	golang.org/x/term v0.47.0
	golang.org/x/text v0.43.0
	golang.org/x/tools v0.51.0
	pgregory.net/rapid v1.3.0
)

require (
	github.com/dlclark/regexp2/v2 v2.2.1 // indirect
	github.com/hashicorp/go-cleanhttp v0.5.2 // indirect
	github.com/mattn/go-isatty v0.0.24 // indirect
	github.com/mattn/go-runewidth v0.0.16 // indirect
	github.com/rivo/uniseg v0.4.7 // indirect
	go.yaml.in/yaml/v3 v3.0.5 // indirect
)
