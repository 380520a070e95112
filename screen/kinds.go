package screen

import (
	"slices"
	"strings"
)

// Kind is a kind of box.
type Kind struct {
	Name string
	// Doc says what it is; Properties are those it may have beside the Common
	// ones; Example is its shortest sensible use.
	Doc        string
	Properties []string
	Example    string
	// Holds says that it has children.
	Holds bool
}

// Property is something that boxes can have.
type Property struct {
	Name, Doc string
	// Schema is the JSON Schema of its value.
	Schema string
}

// text are the properties of what shows a text.
const text = "key args text size weight font lines overflow smallest"

func words(s string) []string { return strings.Fields(s) }

// Common are the properties of every box.
var Common = words("name width height padding margin at align fill only except")

// Kinds are the kinds of boxes there are.
var Kinds = []Kind{
	{"row", "children side by side, from the side where reading begins", words("gap children"), "row: {gap: 8, children: [{icon: {picture: ferry}}, {label: {key: sailing_route, args: {from: Hollow Isle, to: Outer Tern}}}]}", true},
	{"column", "children one below the other", words("gap children"), "column: {gap: 8, children: [{label: {key: boarding_title}}, {label: {key: boarding_deck, args: {deck: \"2\"}}}]}", true},
	{"grid", "children in columns, row after row; columns are numbers, fit or fill", words("gap columns children"), "grid: {gap: 8, columns: [fit, fill], children: [{label: {key: booking_cars}}, {label: {text: \"1\"}}, {label: {key: booking_bicycles}}, {label: {text: \"2\"}}]}", true},
	{"stack", "children one above the other, each at its place (at)", words("children"), "stack: {children: [{image: {picture: map, width: 200, height: 90}}, {label: {key: map_title, at: {start: 10, top: 60}}}]}", true},
	{"fixed", "children at places (at) that no text moves", words("children"), "fixed: {width: 220, height: 60, children: [{label: {key: boarding_title, at: {start: 0, top: 0}}}, {button: {key: action_next, at: {start: 120, top: 10}}}]}", true},
	{"scroll", "one child that may be higher than the box", words("children"), "scroll: {height: 50, width: fill, children: [{column: {children: [{label: {key: delay_title}}, {label: {key: delay_reason, width: fill}}, {label: {key: action_retry}}]}}]}", true},
	{"list", "its only child once for each of rows, with their arguments", words("gap rows children"), "list: {gap: 6, rows: [{from: Hollow Isle, to: Outer Tern}, {from: Outer Tern, to: Hollow Isle}], children: [{label: {key: sailing_route}}]}", true},
	{"label", "a text", words(text), "label: {key: boarding_title, size: 20, weight: bold}", false},
	{"button", "a text to press", words(text + " target"), "button: {key: booking_confirm}", false},
	{"field", "a place to type: its text, else its hint", words(text + " hint target"), "field: {hint: booking_passengers, width: 200}", false},
	{"check", "a box that is checked or not, and its text", words(text + " on target"), "check: {key: settings_follow, on: true}", false},
	{"radio", "texts of which one is chosen", words("items chosen size weight font overflow target"), "radio: {items: [{key: booking_bicycles}, {key: booking_cars}], chosen: 1}", false},
	{"switch", "a text, and at the other end something that is on or off", words(text + " on target"), "switch: {key: settings_follow, on: true, width: 260}", false},
	{"menu", "the chosen one of several texts, as wide as the widest", words("items chosen size weight font overflow target"), "menu: {items: [{key: booking_cars}, {key: booking_passengers}], chosen: 1}", false},
	{"tabs", "texts that share the width", words("items chosen size weight font overflow target"), "tabs: {width: fill, items: [{key: sailings_title}, {key: booking_title}, {key: settings_title}], chosen: 1}", false},
	{"icon", "a small picture; a directional one is mirrored in right-to-left cultures", words("picture directional size target"), "icon: {picture: back, directional: true}", false},
	{"image", "a picture that fills its box", words("picture directional"), "image: {picture: map, width: 200, height: 80}", false},
	{"space", "nothing, with a size", nil, "row: {width: fill, children: [{label: {key: action_back}}, {space: {width: fill}}, {label: {key: action_next}}]}", false},
	{"line", "a thin line across its parent", nil, "column: {gap: 6, width: 200, children: [{label: {key: action_back}}, {line: {}}, {label: {key: action_next}}]}", false},
}

const (
	sizeSchema  = `{"oneOf": [{"type": "integer", "minimum": 0, "maximum": 20000}, {"enum": ["fit", "fill"]}, {"type": "object", "additionalProperties": false, "properties": {"want": {"oneOf": [{"type": "integer", "minimum": 0}, {"enum": ["fit", "fill"]}]}, "least": {"type": "integer", "minimum": 0}, "most": {"type": "integer", "minimum": 0}}}]}`
	edgesSchema = `{"oneOf": [{"type": "integer", "minimum": 0}, {"type": "object", "additionalProperties": false, "properties": {"start": {"type": "integer"}, "end": {"type": "integer"}, "left": {"type": "integer"}, "right": {"type": "integer"}, "top": {"type": "integer"}, "bottom": {"type": "integer"}}}]}`
	argsSchema  = `{"type": "object", "additionalProperties": {"type": ["string", "number"]}}`
)

// Properties are all properties of boxes.
var Properties = []Property{
	{"name", "how findings call the box", `{"type": "string"}`},
	{"width", "units, fit (the content's, when left out), fill (what is left), or {want, least, most}", sizeSchema},
	{"height", "as width", sizeSchema},
	{"padding", "space inside: a number, or by start, end, top, bottom; left and right do not mirror", edgesSchema},
	{"margin", "space outside, as padding", edgesSchema},
	{"at", "the place in a stack or a fixed box, as padding", edgesSchema},
	{"align", "across the parent: start, center, end; left and right do not mirror", `{"enum": ["start", "center", "end", "left", "right"]}`},
	{"fill", "the background", `{"enum": ["none", "plain", "soft", "accent"]}`},
	{"only", "the cultures it is shown in", `{"type": "array", "items": {"type": "string"}}`},
	{"except", "the cultures it is not shown in", `{"type": "array", "items": {"type": "string"}}`},
	{"target", "the least width and height for a finger: 40 where left out, 0 for none", `{"type": "integer", "minimum": 0}`},
	{"gap", "space between children", `{"type": "integer", "minimum": 0}`},
	{"columns", "the widths of a grid's columns", `{"type": "array", "items": ` + sizeSchema + `}`},
	{"children", "the boxes inside", `{"type": "array", "items": {"$ref": "#/$defs/box"}}`},
	{"rows", "the arguments of a list's rows", `{"type": "array", "items": ` + argsSchema + `}`},
	{"key", "the key of the text", `{"type": "string"}`},
	{"text", "a text as it stands, in place of a key", `{"type": "string"}`},
	{"args", "sample arguments", argsSchema},
	{"hint", "the key of what an empty field says", `{"type": "string"}`},
	{"items", "several texts: key, or text, and args of each", `{"type": "array", "items": {"type": "object", "additionalProperties": false, "properties": {"key": {"type": "string"}, "text": {"type": "string"}, "args": ` + argsSchema + `}}}`},
	{"chosen", "the number of the chosen item, from 1", `{"type": "integer", "minimum": 0}`},
	{"on", "whether it is on", `{"type": "boolean"}`},
	{"size", "of the type (16) or the icon (24)", `{"type": "integer", "minimum": 1, "maximum": 400}`},
	{"weight", "of the type", `{"enum": ["regular", "bold"]}`},
	{"font", "a font of the project, by its name", `{"type": "string"}`},
	{"lines", "at most so many", `{"type": "integer", "minimum": 0}`},
	{"overflow", "what happens to a text that does not fit", `{"enum": ["wrap", "ellipsis", "clip", "shrink"]}`},
	{"smallest", "the size that a text may shrink to, 10 when left out", `{"type": "integer", "minimum": 1}`},
	{"picture", "the picture's name", `{"type": "string"}`},
	{"directional", "mirrored in right-to-left cultures", `{"type": "boolean"}`},
}

// kind returns the kind with a name, or nil.
func kind(name string) *Kind {
	for i := range Kinds {
		if Kinds[i].Name == name {
			return &Kinds[i]
		}
	}
	return nil
}

// May reports whether a kind may have a property.
func (k *Kind) May(property string) bool {
	return slices.Contains(Common, property) || slices.Contains(k.Properties, property)
}

// Schema is the JSON Schema of screen files.
func Schema() string {
	var out strings.Builder
	out.WriteString(`{
  "$schema": "https://json-schema.org/draft/2020-12/schema",
  "title": "a screen",
  "description": "What stands where in one view of an interface (docs/screens.md).",
  "type": "object",
  "additionalProperties": false,
  "required": ["body"],
  "properties": {
    "screen": {"description": "its name, the file's when left out", "type": "string"},
    "texts": {"description": "where its texts are, seen from the file; the project's families when left out", "type": "string"},
    "devices": {"description": "the sizes it is shown at", "type": "array", "items": {"type": "object", "additionalProperties": false, "required": ["name", "width", "height"], "properties": {"name": {"type": "string"}, "width": {"type": "integer", "minimum": 1, "maximum": 4000}, "height": {"type": "integer", "minimum": 1, "maximum": 4000}}}},
    "scales": {"description": "the text scales that people set, in percent", "type": "array", "items": {"type": "integer", "minimum": 50, "maximum": 400}},
    "body": {"$ref": "#/$defs/box"}
  },
  "$defs": {
    "box": {
      "type": "object",
      "additionalProperties": false,
      "minProperties": 1,
      "maxProperties": 1,
      "properties": {
`)
	for i, k := range Kinds {
		out.WriteString(`        "` + k.Name + `": {"description": "` + k.Doc + `", "type": ["object", "null"], "additionalProperties": false, "properties": {`)
		first := true
		for _, p := range Properties {
			if k.May(p.Name) {
				if !first {
					out.WriteString(", ")
				}
				first = false
				out.WriteString(`"` + p.Name + `": {"$ref": "#/$defs/` + p.Name + `"}`)
			}
		}
		out.WriteString("}}")
		if i < len(Kinds)-1 {
			out.WriteByte(',')
		}
		out.WriteByte('\n')
	}
	out.WriteString("      }\n    },\n")
	for i, p := range Properties {
		out.WriteString(`    "` + p.Name + `": {"description": "` + p.Doc + `", ` + strings.TrimPrefix(p.Schema, "{"))
		if i < len(Properties)-1 {
			out.WriteByte(',')
		}
		out.WriteByte('\n')
	}
	out.WriteString("  }\n}\n")
	return out.String()
}
