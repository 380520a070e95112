package dotnet

import (
	"path"
	"regexp"
	"strings"
	"sync"

	"zelvik/format"
	"zelvik/format/xmlscan"
	"zelvik/language"
	"zelvik/toolkit"
)

// XAML is that of WPF, WinUI, UWP, MAUI and their kin.
var XAML = &toolkit.Toolkit{
	Name:   "XAML",
	Layout: language.Ending(".xaml"),
	Source: &language.Kind{
		Name: "XAML", Layout: true, Formats: []string{"resx"},
		Matches:   language.Ending(".xaml", ".axaml"),
		Texts:     texts,
		Namespace: namespace,
		LookUps:   []language.LookUp{{Formats: []string{"resx"}, Pattern: `\{x:Static\s+\w+:TABLE\.(NAME)`}},
		Quoted:    true,
	},
}

var (
	names = &toolkit.Attributes{Names: "Text Content Header Title ToolTip PlaceholderText Placeholder Label Description OnContent OffContent Caption Hint Watermark PrimaryButtonText SecondaryButtonText CloseButtonText ToolTipService.ToolTip AutomationProperties.Name AutomationProperties.HelpText SemanticProperties.Description SemanticProperties.Hint"}
	// contents are the elements whose content is a text, and the property
	// that it fills.
	contents = map[string]string{"TextBlock": "Text", "Run": "Text", "Button": "Content", "CheckBox": "Content", "RadioButton": "Content"}
	static   = sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`\{x:Static\s+(\w+):(\w+)\.`) })
)

// texts finds texts in attributes and between tags. A reference is
// {x:Static prefix:Class.Key}; the prefix is the one that the file has already,
// else one is declared in its root.
func texts(p, text string, o language.Options) []language.Text {
	var list []language.Text
	prefix, class := "texts", language.Identifier(path.Base(o.Table))
	declare := []format.Replacement(nil)
	if m := static().FindStringSubmatch(text); m != nil {
		prefix, class = m[1], m[2]
	}
	namespace, sure := o.Namespace, o.Namespace != ""
	root := -1
	reference := func(key string) string {
		return "{x:Static " + prefix + ":" + class + "." + language.Identifier(key) + "}"
	}
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
		found := language.Text{Screen: language.Screen(p), Certain: sure, Reference: reference}
		if !sure {
			found.Doubt = "the namespace of " + class + " is not known"
		}
		found.ID, _ = s.Value("x:Name")
		for _, a := range s.Attributes {
			value := s.Unescape(a.ValueFrom, a.ValueTo)
			if !names.Holds(a.Name) || strings.HasPrefix(value, "{") || !language.Human(value, true) {
				continue
			}
			one := found
			one.From, one.To, one.Text, one.Where = a.ValueFrom, a.ValueTo, value, a.Name+" of "+s.Name
			one.With = func(key string) []format.Replacement {
				return append([]format.Replacement{{Start: one.From, End: one.To, Text: xmlscan.EscapeAttribute(reference(key))}}, declare...)
			}
			list = append(list, one)
		}
		if property, ok := contents[s.Name]; ok && !s.Lone {
			if one, ok := content(s, text, found, property, reference, declare); ok {
				list = append(list, one)
			}
		}
	}
	return list
}

// content returns the text between the tags of an element that has nothing else;
// a reference goes into the property that the content fills.
func content(s *xmlscan.Scanner, text string, found language.Text, property string, reference func(string) string, declare []format.Replacement) (language.Text, bool) {
	from := s.To
	end := strings.IndexByte(text[from:], '<')
	if end <= 0 || !strings.HasPrefix(text[from+end:], "</") {
		return found, false
	}
	found.From, found.To = from, from+end
	found.Text, found.Where = strings.TrimSpace(s.Unescape(found.From, found.To)), "content of "+s.Name
	if !language.Human(found.Text, true) {
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
