package files

import (
	"errors"
	"path/filepath"
	"slices"
	"strings"

	"github.com/bmatcuk/doublestar/v4"
)

// The bounds of patterns: each ** goes through all folders again, and braces
// multiply.
const (
	mostStars  = 3
	mostBraces = 256
)

func glob(pattern string) ([]string, error) {
	pattern = filepath.ToSlash(pattern)
	for strings.Contains(pattern, "**/**/") {
		pattern = strings.ReplaceAll(pattern, "**/**/", "**/")
	}
	if strings.Count(pattern, "**") > mostStars {
		return nil, errors.New("a pattern may have ** at three places")
	}
	if alternatives(pattern) > mostBraces {
		return nil, errors.New("the braces of the pattern stand for more than 256 names")
	}
	if !doublestar.ValidatePattern(pattern) {
		return nil, errors.New("it is no pattern; brackets and braces need their ends")
	}
	list, err := doublestar.FilepathGlob(filepath.FromSlash(pattern))
	slices.Sort(list)
	return slices.Compact(list), err
}

// alternatives returns for how many patterns without braces one stands, as far as
// mostBraces: those of a group add up, those of groups in a row multiply.
func alternatives(pattern string) int {
	type level struct{ sum, product int }
	stack := []level{{0, 1}}
	for i := 0; i < len(pattern); i++ {
		top := &stack[len(stack)-1]
		switch pattern[i] {
		case '\\':
			i++
		case '{':
			stack = append(stack, level{0, 1})
		case ',':
			if len(stack) > 1 {
				top.sum, top.product = min(top.sum+top.product, mostBraces+1), 1
			}
		case '}':
			if len(stack) > 1 {
				inner := min(top.sum+top.product, mostBraces+1)
				stack = stack[:len(stack)-1]
				top = &stack[len(stack)-1]
				top.product = min(top.product*inner, mostBraces+1)
			}
		}
	}
	n := 1
	for _, l := range stack {
		n = min(n*(l.sum+l.product), mostBraces+1)
	}
	return n
}
