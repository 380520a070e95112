package text

import (
	"math"
	"slices"
	"strings"
	"unicode"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"
)

// em is the size at which text is shaped once; every size is scaled from it.
const em = 1000

// LineHeight is the height of a line in ems: fonts of different scripts have
// different heights of their own, which would make rows jump.
const LineHeight = 1.4

// Ascent is how far the baseline lies below the top of a line, in ems.
const Ascent = 1.07

// Style is how a text is set. Size is in device units.
type Style struct {
	Size float64
	Bold bool
	// Font names a font that is asked before the others; "" for none.
	Font string
	// RightToLeft is the paragraph's direction.
	RightToLeft bool
	// Language is a BCP 47 tag that fonts may take into account.
	Language string
}

// Glyph is one glyph of a line, at its place from the line's left end and
// above the baseline, in device units.
type Glyph struct {
	// Font is nil for a character that no font has; a box of one em stands for
	// it.
	Font  *Font
	ID    uint32
	X, Y  float64
	Width float64
}

// Line is one line of a paragraph, in visual order.
type Line struct {
	Text   string
	Width  float64
	Glyphs []Glyph
}

// Paragraph is a text broken into lines.
type Paragraph struct {
	Lines []Line
	// Width is that of the widest line, Height that of all; Word is the width
	// of the widest piece that cannot be broken.
	Width, Height, Word float64
	// Missing are the characters that no font has.
	Missing []rune
}

// Setter shapes texts and remembers them. It is not safe for use by several
// goroutines at once; make one for each.
type Setter struct {
	shaper shaping.HarfbuzzShaper
	faces  map[*Font]*font.Face
	shaped map[key]*shapedText
	fonts  *Fonts
}

type key struct {
	text     string
	font     string
	bold     bool
	rtl      bool
	language string
}

// NewSetter makes a setter with fonts; nil for the embedded ones alone.
func NewSetter(fonts *Fonts) *Setter {
	if fonts == nil {
		fonts = &Fonts{}
	}
	s := &Setter{faces: map[*Font]*font.Face{}, shaped: map[key]*shapedText{}, fonts: fonts}
	s.shaper.SetFontCacheSize(32)
	return s
}

// Face returns the face of a font, for drawing its glyphs.
func (s *Setter) Face(f *Font) *font.Face {
	face := s.faces[f]
	if face == nil {
		face = font.NewFace(f.font)
		s.faces[f] = face
	}
	return face
}

// cluster is a stretch of characters that is set together, with its glyphs at
// the size of one em.
type cluster struct {
	from, to int // characters
	width    float64
	glyphs   []Glyph
	level    uint8
}

// shapedText is a paragraph before it is broken into lines.
type shapedText struct {
	runes    []rune
	clusters []cluster // in logical order
	// breaks are the places (characters) at which a line may end; forced those
	// at which it must.
	breaks  []int
	forced  map[int]bool
	missing []rune
	rtl     bool
}

// Set breaks a text into lines no wider than width; a width of 0 or less is no
// bound. A piece that cannot be broken is wider where it must be.
func (s *Setter) Set(text string, style Style, width float64) *Paragraph {
	shaped := s.shape(text, style)
	scale := style.Size / em
	p := &Paragraph{Missing: shaped.missing}
	start := 0 // cluster
	for _, end := range shaped.lines(width/scale, width > 0) {
		line := shaped.line(start, end, scale)
		p.Lines = append(p.Lines, line)
		p.Width = max(p.Width, line.Width)
		start = end
	}
	p.Word = shaped.widestPiece() * scale
	p.Height = float64(len(p.Lines)) * math.Round(style.Size*LineHeight)
	return p
}

// Cut sets a text into so many lines of a width; what does not fit is cut off,
// and an ellipsis stands at the end of the last line, on the side where reading
// goes on.
func (s *Setter) Cut(text string, style Style, width float64, lines int) *Paragraph {
	p := s.Set(text, style, width)
	lines = max(lines, 1)
	if len(p.Lines) <= lines && p.Width <= width+0.01 {
		return p
	}
	shaped := s.shape(text, style)
	ends := shaped.lines(width/style.Size*em, width > 0)
	from := 0 // character
	if n := min(lines, len(ends)); n > 1 {
		from = shaped.clusters[ends[n-2]-1].to
	}
	rest := shaped.runes[from:]
	least, most := 0, len(rest) // characters that fit beside the ellipsis, and that do not
	for most-least > 1 {
		middle := (least + most) / 2
		if s.Set(shortened(rest[:middle]), style, 0).Width <= width {
			least = middle
		} else {
			most = middle
		}
	}
	for least > 0 && least < len(rest) && unicode.In(rest[least], unicode.Mn, unicode.Mc, unicode.Me) {
		least-- // not between a letter and its marks
	}
	cut := &Paragraph{Missing: p.Missing, Word: p.Word}
	cut.Lines = append(cut.Lines, p.Lines[:min(lines, len(p.Lines))-1]...)
	cut.Lines = append(cut.Lines, s.Set(shortened(rest[:least]), style, 0).Lines[0])
	for _, line := range cut.Lines {
		cut.Width = max(cut.Width, line.Width)
	}
	cut.Height = float64(len(cut.Lines)) * math.Round(style.Size*LineHeight)
	return cut
}

func shortened(text []rune) string {
	return strings.TrimRightFunc(string(text), unicode.IsSpace) + "…"
}

// shape measures a paragraph at the size of one em.
func (s *Setter) shape(text string, style Style) *shapedText {
	k := key{text, style.Font, style.Bold, style.RightToLeft, style.Language}
	if known, ok := s.shaped[k]; ok {
		return known
	}
	out := &shapedText{runes: []rune(text), rtl: style.RightToLeft}
	base := 0
	if style.RightToLeft {
		base = 1
	}
	levels := Levels(out.runes, base)
	for _, item := range s.itemize(out.runes, levels, s.fonts.ordered(style)) {
		out.clusters = append(out.clusters, s.item(out, item, style)...)
	}
	out.breaks, out.forced = breaks(out.runes)
	if len(s.shaped) > 20000 { // a bound, not a policy: screens have far fewer texts
		clear(s.shaped)
	}
	s.shaped[k] = out
	return out
}

// item is a stretch of one level, script and font.
type item struct {
	from, to int
	level    uint8
	script   language.Script
	font     *Font
}

// itemize parts the text. Common and inherited characters take the script and
// the font of what stands before them; a space takes the first font.
func (s *Setter) itemize(text []rune, levels []uint8, fonts []*Font) []item {
	var items []item
	scripts := make([]language.Script, len(text))
	script := language.Common
	for i, r := range text {
		if found := language.LookupScript(r); found != language.Common && found != language.Inherited {
			script = found
		}
		scripts[i] = script
	}
	for i := len(text) - 1; i >= 0; i-- { // what stands before the first letter
		if scripts[i] == language.Common && i+1 < len(text) {
			scripts[i] = scripts[i+1]
		}
	}
	var last *Font
	for i, r := range text {
		f := s.fontFor(r, last, fonts)
		if n := len(items); n > 0 && items[n-1].level == levels[i] && items[n-1].script == scripts[i] && items[n-1].font == f {
			items[n-1].to = i + 1
		} else {
			items = append(items, item{i, i + 1, levels[i], scripts[i], f})
		}
		if !unicode.IsSpace(r) {
			last = f
		}
	}
	return items
}

// fontFor returns the first font that has a character; nil where none has it.
func (s *Setter) fontFor(r rune, last *Font, fonts []*Font) *Font {
	if invisible(r) && last != nil {
		return last
	}
	if unicode.IsSpace(r) || invisible(r) {
		for _, f := range fonts {
			if _, ok := s.Face(f).NominalGlyph(' '); ok {
				return f
			}
		}
		return fonts[0]
	}
	if last != nil && unicode.In(r, unicode.Mn, unicode.Mc, unicode.Me) {
		if _, ok := s.Face(last).NominalGlyph(r); ok {
			return last
		}
	}
	for _, f := range fonts {
		if _, ok := s.Face(f).NominalGlyph(r); ok {
			return f
		}
	}
	return s.fonts.system(r)
}

// invisible reports whether a character has no ink by its nature.
func invisible(r rune) bool {
	return unicode.In(r, unicode.Cf, unicode.Cc) || r >= 0xFE00 && r <= 0xFE0F
}

// item shapes one stretch, the whole paragraph being its context, and gives
// its clusters in logical order.
func (s *Setter) item(t *shapedText, it item, style Style) []cluster {
	if it.font == nil {
		var list []cluster
		for i := it.from; i < it.to; i++ {
			width := 1.0 * em
			if unicode.In(t.runes[i], unicode.Mn, unicode.Me) {
				width = 0
			}
			if !slices.Contains(t.missing, t.runes[i]) {
				t.missing = append(t.missing, t.runes[i])
			}
			list = append(list, cluster{i, i + 1, width, []Glyph{{Width: width}}, it.level})
		}
		return list
	}
	direction := di.DirectionLTR
	if it.level%2 == 1 {
		direction = di.DirectionRTL
	}
	output := s.shaper.Shape(shaping.Input{
		Text: t.runes, RunStart: it.from, RunEnd: it.to, Direction: direction, Face: s.Face(it.font),
		Size: fixed.I(em), Script: it.script, Language: language.NewLanguage(style.Language),
	})
	byStart := map[int]*cluster{}
	var order []int
	for _, g := range output.Glyphs {
		c := byStart[g.ClusterIndex]
		if c == nil {
			c = &cluster{from: g.ClusterIndex, to: g.ClusterIndex + g.RuneCount, level: it.level}
			byStart[g.ClusterIndex] = c
			order = append(order, g.ClusterIndex)
		}
		advance := float64(g.XAdvance) / 64
		if r := t.runes[g.ClusterIndex]; invisible(r) && g.RuneCount == 1 {
			continue
		}
		c.glyphs = append(c.glyphs, Glyph{it.font, uint32(g.GlyphID), c.width + float64(g.XOffset)/64, float64(g.YOffset) / 64, advance})
		c.width += advance
	}
	slices.Sort(order)
	list := make([]cluster, 0, len(order))
	for _, at := range order {
		list = append(list, *byStart[at])
	}
	return list
}

// lines returns the clusters after the end of each line.
func (t *shapedText) lines(width float64, bounded bool) []int {
	var ends []int
	start, lastBreak := 0, -1
	used := 0.0
	canBreak := map[int]bool{}
	for _, b := range t.breaks {
		canBreak[b] = true
	}
	for i := 0; i < len(t.clusters); i++ {
		c := t.clusters[i]
		used += c.width
		if bounded && used-t.trailing(start, i+1) > width+0.01 && lastBreak > start {
			ends = append(ends, lastBreak)
			start, i = lastBreak, lastBreak-1
			lastBreak, used = -1, 0
			continue
		}
		if t.forced[c.to] {
			ends = append(ends, i+1)
			start, lastBreak, used = i+1, -1, 0
			continue
		}
		if canBreak[c.to] {
			lastBreak = i + 1
		}
	}
	if start < len(t.clusters) || len(ends) == 0 {
		ends = append(ends, len(t.clusters))
	}
	return ends
}

// trailing is the width of the white space at the end of a stretch, which may
// hang over the edge.
func (t *shapedText) trailing(start, end int) float64 {
	width := 0.0
	for i := end - 1; i >= start; i-- {
		c := t.clusters[i]
		if !unicode.IsSpace(t.runes[c.from]) {
			break
		}
		width += c.width
	}
	return width
}

// widestPiece is the widest stretch between two places to break.
func (t *shapedText) widestPiece() float64 {
	widest, used, start := 0.0, 0.0, 0
	canBreak := map[int]bool{}
	for _, b := range t.breaks {
		canBreak[b] = true
	}
	for i, c := range t.clusters {
		used += c.width
		if canBreak[c.to] || i == len(t.clusters)-1 {
			widest = max(widest, used-t.trailing(start, i+1))
			used, start = 0, i+1
		}
	}
	return widest
}

// line puts clusters into visual order, leaving the white space at its end out
// of the width.
func (t *shapedText) line(start, end int, scale float64) Line {
	if start == end {
		return Line{}
	}
	stop := end
	for stop > start && unicode.IsSpace(t.runes[t.clusters[stop-1].from]) {
		stop--
	}
	clusters := t.clusters[start:stop]
	levels := make([]uint8, len(clusters))
	for i, c := range clusters {
		levels[i] = c.level
	}
	out := Line{}
	if len(clusters) > 0 {
		out.Text = string(t.runes[clusters[0].from:clusters[len(clusters)-1].to])
	}
	x := 0.0
	for _, i := range Order(levels) {
		for _, g := range clusters[i].glyphs {
			out.Glyphs = append(out.Glyphs, Glyph{g.Font, g.ID, (x + g.X) * scale, g.Y * scale, g.Width * scale})
		}
		x += clusters[i].width
	}
	out.Width = x * scale
	return out
}
