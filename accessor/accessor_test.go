package accessor_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"zelvik/accessor"
	"zelvik/culture"
)

func TestNames(t *testing.T) {
	for key, want := range map[string]string{
		"boarding.greeting": "boardingGreeting", "boarding_title": "boardingTitle", "deckNumber": "deckNumber", "URLs": "urls",
		"9lives": "text9lives", "": "text", "...": "text", "tür": "tu00fcr", "days[0]": "days0",
	} {
		assert.Equal(t, want, accessor.Camel(accessor.Words(key)), key)
	}
}

// The generated expressions of every culture's rules are of the shape that
// C-like languages read: balanced, and over the operands alone.
func TestPluralExpressions(t *testing.T) {
	for _, language := range culture.Languages() {
		for _, rules := range []culture.Rules{culture.Tag(language).Cardinal(), culture.Tag(language).Ordinal()} {
			for _, rule := range rules {
				text := accessor.Expression(rule.Condition, "==", "!=")
				assert.Equal(t, strings.Count(text, "("), strings.Count(text, ")"), text)
				assert.Empty(t, strings.Trim(text, "ivwft0123456789 %=!&|<>()"), text)
			}
		}
	}
	for tag, want := range map[culture.Tag]string{
		"en": "i == 1 && v == 0", "fr": "i == 0 || i == 1", "ar": "t == 0 && i == 0",
	} {
		assert.Equal(t, want, accessor.Expression(tag.Cardinal()[0].Condition, "==", "!="), tag)
	}
}
