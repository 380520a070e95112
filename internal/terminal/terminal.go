// Package terminal draws what commands print: aligned tables, colour where it
// means something, diffs.
package terminal

import (
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/jedib0t/go-pretty/v6/table"
	"github.com/jedib0t/go-pretty/v6/text"
	"golang.org/x/term"

	"zelvik/finding"
	"zelvik/internal/diff"
)

// Printer writes to one stream, in colour or without. No control character of
// what it prints gets to the stream, whoever prints it.
type Printer struct {
	io.Writer
	Color bool
	// Width is how many columns there are, 0 for no bound.
	Width int
	raw   io.Writer
}

// New makes a printer. Mode is auto, always or never; auto asks whether the
// stream is a terminal and NO_COLOR is not set.
func New(w io.Writer, mode string) *Printer {
	p := &Printer{Writer: safe{w}, raw: w}
	file, ok := w.(*os.File)
	if stream, wrapped := w.(interface{ File() *os.File }); wrapped {
		file = stream.File()
		ok = file != nil
	}
	tty := ok && term.IsTerminal(int(file.Fd()))
	p.Color = mode == "always" || mode == "auto" && tty && os.Getenv("NO_COLOR") == ""
	if tty {
		p.Width = columns(file)
	}
	return p
}

// The colours, by meaning.
var (
	bad     = text.Colors{text.FgHiRed}
	warn    = text.Colors{text.FgHiYellow}
	faint   = text.Colors{text.FgHiBlack}
	good    = text.Colors{text.FgHiGreen}
	strong  = text.Colors{text.Bold}
	byGrade = map[finding.Severity]text.Colors{finding.Error: bad, finding.Warning: warn, finding.Advice: faint}
)

func (p *Printer) paint(c text.Colors, s string) string {
	if !p.Color || s == "" {
		return s
	}
	return sign + strings.TrimPrefix(c.EscapeSeq(), "\x1b[") + s + sign + "0m"
}

// Bad, Good, Faint and Strong colour a text by its meaning.
func (p *Printer) Bad(s string) string { return p.paint(bad, s) }

// Good marks what is as it should be.
func (p *Printer) Good(s string) string { return p.paint(good, s) }

// Warn marks what wants a look.
func (p *Printer) Warn(s string) string { return p.paint(warn, s) }

// Faint marks what matters less.
func (p *Printer) Faint(s string) string { return p.paint(faint, s) }

// Strong marks headings.
func (p *Printer) Strong(s string) string { return p.paint(strong, s) }

// Severity writes a severity in its colour.
func (p *Printer) Severity(s finding.Severity) string { return p.paint(byGrade[s], s.String()) }

// Printf writes a formatted text. Errors of the stream are left to its owner.
func (p *Printer) Printf(format string, args ...any) { _, _ = fmt.Fprintf(p.Writer, format, args...) }

// Table writes rows under a header, aligned, without lines. Columns named in
// right are set flush right; those in wrap are broken to fit the terminal.
func (p *Printer) Table(header []string, rows [][]string, right ...int) {
	t := table.NewWriter()
	t.SetOutputMirror(p.Writer)
	style := table.StyleDefault
	style.Options = table.Options{}
	style.Box.PaddingLeft, style.Box.PaddingRight = "", "  "
	style.Format.Header = text.FormatDefault
	t.SetStyle(style)
	if header != nil {
		t.AppendHeader(p.cells(header, true))
	}
	var configs []table.ColumnConfig
	for _, column := range right {
		configs = append(configs, table.ColumnConfig{Number: column + 1, Align: text.AlignRight, AlignHeader: text.AlignRight})
	}
	t.SetColumnConfigs(configs)
	for _, row := range rows {
		t.AppendRow(p.cells(row, false))
	}
	t.SuppressTrailingSpaces()
	t.Render()
}

func (p *Printer) cells(row []string, head bool) table.Row {
	out := make(table.Row, len(row))
	for i, cell := range row {
		cell = Visible(cell)
		if head {
			cell = p.Faint(cell)
		}
		out[i] = cell
	}
	return out
}

// Width returns how many columns a text takes.
func Width(s string) int { return text.StringWidthWithoutEscSequences(s) }

// Wrapped breaks a text between words to the terminal's width, with so many
// blanks before every line; into one line where no terminal is.
func (p *Printer) Wrapped(indent int, s string) string {
	blanks := strings.Repeat(" ", indent)
	if p.Width <= indent+20 {
		return blanks + s
	}
	var out strings.Builder
	used := 0
	for i, word := range strings.Split(s, " ") {
		width := Width(word)
		switch {
		case i == 0:
			out.WriteString(blanks)
		case indent+used+1+width > p.Width:
			out.WriteString("\n" + blanks)
			used = 0
		default:
			out.WriteByte(' ')
			used++
		}
		out.WriteString(word)
		used += width
	}
	return out.String()
}

// Cut shortens a text to a width, with an ellipsis.
func Cut(s string, width int) string {
	if width <= 0 || Width(s) <= width {
		return s
	}
	var out strings.Builder
	used := 0
	for _, r := range s {
		w := text.RuneWidth(r)
		if used+w > width-1 {
			break
		}
		out.WriteRune(r)
		used += w
	}
	return out.String() + "…"
}

// Diff writes the difference of two texts with three lines around each change.
func (p *Printer) Diff(path string, before, after []byte) {
	p.Printf("%s", p.Difference(path, before, after))
}

// Difference is what Diff writes.
func (p *Printer) Difference(path string, before, after []byte) string {
	from := "a/" + path
	if before == nil {
		from = "/dev/null"
	}
	var out strings.Builder
	out.WriteString(p.Strong("--- "+from) + "\n" + p.Strong("+++ b/"+path) + "\n")
	for line := range strings.Lines(diff.Unified(before, after)) {
		text := strings.TrimSuffix(line, "\n")
		switch line[0] {
		case '+':
			text = p.Good(text)
		case '-':
			text = p.Bad(text)
		case '@':
			text = p.Faint(text)
		}
		out.WriteString(text + "\n")
	}
	return out.String()
}
