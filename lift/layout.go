package lift

import (
	"path"
	"strings"

	"zelvik/format"
	"zelvik/format/xmlscan"
)

var androidLayout = &Kind{
	Name: "Android layout", Layout: true, Formats: []string{"android"},
	matches: func(p string) bool {
		dir := path.Base(path.Dir(p))
		return path.Ext(p) == ".xml" && (dir == "layout" || strings.HasPrefix(dir, "layout-") || dir == "menu" || dir == "xml" || dir == "navigation") || path.Base(p) == "AndroidManifest.xml"
	},
	find: attributes(places("android:|app:", "text hint contentDescription title subtitle summary label tooltipText prompt textOn textOff dialogTitle dialogMessage description helperText placeholderText prefixText suffixText queryHint titleCondensed"),
		"android:id", func(v string) bool { return strings.HasPrefix(v, "@") || strings.HasPrefix(v, "?") },
		func(key string) string { return "@string/" + key }),
}

var fxml = &Kind{
	Name: "FXML", Layout: true, Formats: []string{"properties"},
	matches: ending(".fxml"),
	find: attributes(places("", "text promptText title headerText contentText accessibleText accessibleHelp"), "fx:id",
		func(v string) bool {
			return strings.HasPrefix(v, "%") || strings.HasPrefix(v, "$") || strings.HasPrefix(v, `\`)
		},
		func(key string) string { return "%" + key }),
}

// places is the pattern of the attributes that hold texts.
func places(prefixes, names string) *pattern {
	prefix := ""
	if prefixes != "" {
		prefix = "(" + prefixes + ")"
	}
	return lazy("^" + prefix + "(" + strings.ReplaceAll(names, " ", "|") + ")$")
}

// attributes makes a finder of texts in attributes, for toolkits whose files
// refer to a key in the attribute's value.
func attributes(names *pattern, id string, refers func(string) bool, reference func(string) string) func(string, string, Options) []Found {
	return func(p, text string, _ Options) []Found {
		var list []Found
		for s := xmlscan.New(text); s.Next(); {
			if s.Kind != xmlscan.Start {
				continue
			}
			name, _ := s.Value(id)
			for _, a := range s.Attributes {
				value := s.Unescape(a.ValueFrom, a.ValueTo)
				if !names.re().MatchString(a.Name) || refers(value) || !Human(value, true) {
					continue
				}
				list = append(list, Found{
					From: a.ValueFrom, To: a.ValueTo, Text: value, Where: a.Name + " of " + s.Name, Screen: screen(p), ID: path.Base(name), Certain: true,
					Reference: reference,
					With: func(key string) []format.Replacement {
						return []format.Replacement{{Start: a.ValueFrom, End: a.ValueTo, Text: xmlscan.EscapeAttribute(reference(key))}}
					},
				})
			}
		}
		return list
	}
}

var xaml = &Kind{
	Name: "XAML", Layout: true, Formats: []string{"resx"},
	matches: ending(".xaml", ".axaml"),
	find:    findXAML,
}

var (
	xamlNames = places("", "Text Content Header Title ToolTip PlaceholderText Placeholder Label Description OnContent OffContent Caption Hint Watermark PrimaryButtonText SecondaryButtonText CloseButtonText ToolTipService.ToolTip AutomationProperties.Name AutomationProperties.HelpText SemanticProperties.Description SemanticProperties.Hint")
	// xamlContent are the elements whose content is a text, and the property
	// that it fills.
	xamlContent = map[string]string{"TextBlock": "Text", "Run": "Text", "Button": "Content", "CheckBox": "Content", "RadioButton": "Content"}
	static      = lazy(`\{x:Static\s+(\w+):(\w+)\.`)
)

// findXAML finds texts in attributes and between tags. A reference is
// {x:Static prefix:Class.Key}; the prefix is the one that the file has already,
// else one is declared in its root.
func findXAML(p, text string, o Options) []Found {
	var list []Found
	prefix, class := "texts", Identifier(path.Base(o.Table))
	declare := []format.Replacement(nil)
	if m := static.re().FindStringSubmatch(text); m != nil {
		prefix, class = m[1], m[2]
	}
	namespace, sure := o.Namespace, o.Namespace != ""
	root := -1
	reference := func(key string) string { return "{x:Static " + prefix + ":" + class + "." + Identifier(key) + "}" }
	s := xmlscan.New(text)
	for s.Next() {
		if s.Kind != xmlscan.Start {
			continue
		}
		if root < 0 {
			root = s.From + 1 + len(s.Name)
			if full, ok := s.Value("x:Class"); ok && namespace == "" {
				namespace, _, _ = strings.Cut(full, ".")
				sure = true
			}
			if !strings.Contains(text, "xmlns:"+prefix+"=") {
				declare = []format.Replacement{{Start: root, End: root, Text: ` xmlns:` + prefix + `="clr-namespace:` + namespace + `"`}}
			}
		}
		found := Found{Screen: screen(p), Certain: sure, Reference: reference}
		if !sure {
			found.Doubt = "the namespace of " + class + " is not known"
		}
		found.ID, _ = s.Value("x:Name")
		for _, a := range s.Attributes {
			value := s.Unescape(a.ValueFrom, a.ValueTo)
			if !xamlNames.re().MatchString(a.Name) || strings.HasPrefix(value, "{") || !Human(value, true) {
				continue
			}
			one := found
			one.From, one.To, one.Text, one.Where = a.ValueFrom, a.ValueTo, value, a.Name+" of "+s.Name
			one.With = func(key string) []format.Replacement {
				return append([]format.Replacement{{Start: one.From, End: one.To, Text: xmlscan.EscapeAttribute(reference(key))}}, declare...)
			}
			list = append(list, one)
		}
		if property, ok := xamlContent[s.Name]; ok && !s.Lone {
			if one, ok := content(s, text, found, property, reference, declare); ok {
				list = append(list, one)
			}
		}
	}
	return list
}

// content gives the text between the tags of an element that has nothing else;
// a reference goes into the property that the content fills.
func content(s *xmlscan.Scanner, text string, found Found, property string, reference func(string) string, declare []format.Replacement) (Found, bool) {
	from := s.To
	end := strings.IndexByte(text[from:], '<')
	if end <= 0 || !strings.HasPrefix(text[from+end:], "</") {
		return found, false
	}
	found.From, found.To = from, from+end
	found.Text, found.Where = strings.TrimSpace(s.Unescape(found.From, found.To)), "content of "+s.Name
	if !Human(found.Text, true) {
		return found, false
	}
	close := from - 1
	found.With = func(key string) []format.Replacement {
		return append([]format.Replacement{
			{Start: close, End: close, Text: " " + property + `="` + xmlscan.EscapeAttribute(reference(key)) + `"`},
			{Start: found.From, End: found.To},
		}, declare...)
	}
	return found, true
}

// Identifier spells a key as the classes made of resources do.
func Identifier(key string) string {
	return strings.Map(func(r rune) rune {
		if r == '_' || r >= '0' && r <= '9' || r >= 'A' && r <= 'Z' || r >= 'a' && r <= 'z' || r > 0x7f {
			return r
		}
		return '_'
	}, key)
}

var qtForm = &Kind{
	Name: "Qt form", Layout: true, Formats: []string{"qt"},
	matches: ending(".ui"),
	find:    findQtForm,
}

// findQtForm finds the <string>s of properties. Qt translates them by
// themselves; in a catalog of ids they need an id.
func findQtForm(p, text string, o Options) []Found {
	var list []Found
	property, widget := "", ""
	for s := xmlscan.New(text); s.Next(); {
		if s.Kind != xmlscan.Start {
			continue
		}
		switch s.Name {
		case "widget", "action":
			widget, _ = s.Value("name")
		case "property", "attribute":
			property, _ = s.Value("name")
		case "string":
			notr, _ := s.Value("notr")
			if _, has := s.Value("id"); has || notr == "true" || s.Lone {
				continue
			}
			from, at := s.To, s.From+len("<string")
			end := strings.IndexByte(text[from:], '<')
			if end <= 0 {
				continue
			}
			value := s.Unescape(from, from+end)
			if !Human(value, true) || property == "styleSheet" || property == "objectName" {
				continue
			}
			found := Found{From: from, To: from + end, Text: value, Where: property + " of " + widget, Screen: screen(p), ID: widget, Certain: true}
			found.Reference = func(key string) string { return `<string id="` + key + `">` }
			found.With = func(key string) []format.Replacement {
				return []format.Replacement{{Start: at, End: at, Text: ` id="` + xmlscan.EscapeAttribute(key) + `"`}}
			}
			if !o.ByID {
				found.Reference = func(string) string { return "the text itself" }
				found.With = func(string) []format.Replacement { return nil }
			}
			list = append(list, found)
		}
	}
	return list
}
