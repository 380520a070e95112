package sheet

import (
	"archive/zip"
	"bytes"
	"cmp"
	"compress/flate"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"zelvik/format"
	"zelvik/format/xmlscan"
)

// The parts of a new workbook beside its sheet (ECMA-376, part 1, 12 and 18).
var parts = [][2]string{
	{"[Content_Types].xml", `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/docProps/app.xml" ContentType="application/vnd.openxmlformats-officedocument.extended-properties+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`},
	{"_rels/.rels", `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/><Relationship Id="rId2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/extended-properties" Target="docProps/app.xml"/></Relationships>`},
	{"docProps/app.xml", `<Properties xmlns="http://schemas.openxmlformats.org/officeDocument/2006/extended-properties"><Application>Zelvik</Application></Properties>`},
	{"xl/workbook.xml", `<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="Texts" sheetId="1" r:id="rId1"/></sheets></workbook>`},
	{"xl/_rels/workbook.xml.rels", `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="rId2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/styles" Target="styles.xml"/></Relationships>`},
	{"xl/styles.xml", `<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><fonts count="2"><font><sz val="11"/><name val="Calibri"/></font><font><b/><sz val="11"/><name val="Calibri"/></font></fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/></cellStyleXfs><cellXfs count="3"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/><xf numFmtId="49" fontId="1" fillId="0" borderId="0" xfId="0" applyNumberFormat="1" applyFont="1"/><xf numFmtId="49" fontId="0" fillId="0" borderId="0" xfId="0" applyNumberFormat="1" applyAlignment="1"><alignment vertical="top" wrapText="1"/></xf></cellXfs><cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>`},
}

const xmlHead = `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>` + "\n"

// epoch is the time of all parts, so that the same texts give the same bytes:
// the first that a ZIP archive can say.
var epoch = time.Date(1980, 1, 1, 0, 0, 0, 0, time.UTC)

// The styles of cells: names of columns, and texts.
const headStyle, textStyle = "1", "2"

// pack writes rows as a workbook: the first row stands still, columns are wide
// enough to read, long texts wrap.
func pack(rows [][]string) ([]byte, error) {
	for _, line := range rows {
		for _, text := range line {
			if len(text) > mostCell && length(text) > mostCell {
				return nil, fmt.Errorf("a cell holds at most %d characters", mostCell)
			}
		}
	}
	var packed bytes.Buffer
	w := zip.NewWriter(&packed)
	w.RegisterCompressor(zip.Deflate, func(out io.Writer) (io.WriteCloser, error) { return flate.NewWriter(out, flate.BestSpeed) })
	put := func(name string, content ...[]byte) error {
		part, err := w.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: epoch})
		for _, piece := range content {
			if err == nil {
				_, err = part.Write(piece)
			}
		}
		return err
	}
	for _, one := range parts {
		if err := put(one[0], []byte(xmlHead), []byte(one[1])); err != nil {
			return nil, err
		}
	}
	out := room(rows)
	out = append(out, xmlHead+`<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetViews><sheetView workbookViewId="0"><pane xSplit="1" ySplit="1" topLeftCell="B2" activePane="bottomRight" state="frozen"/></sheetView></sheetViews><cols><col min="1" max="1" width="28" customWidth="1"/><col min="2" max="`...)
	columns := 2
	if len(rows) > 0 {
		columns = max(len(rows[0]), columns)
	}
	out = append(strconv.AppendInt(out, int64(columns), 10), `" width="36" customWidth="1"/></cols><sheetData>`...)
	for i, line := range rows {
		style := textStyle
		if i == 0 {
			style = headStyle
		}
		out = appendRow(out, "", i+1, line, style)
	}
	out = append(out, `</sheetData></worksheet>`...)
	if err := errors.Join(put("xl/worksheets/sheet1.xml", out), w.Close()); err != nil {
		return nil, err
	}
	return packed.Bytes(), nil
}

// appendRow writes a row with a number, from 1.
func appendRow(out []byte, prefix string, number int, line []string, style string) []byte {
	out = append(append(append(append(out, '<'), prefix...), `row r="`...), strconv.Itoa(number)...)
	out = append(out, `">`...)
	for j, text := range line {
		if text != "" {
			out = appendCellAt(out, prefix, j, number, text, style)
		}
	}
	return append(append(append(out, "</"...), prefix...), "row>"...)
}

// appendCellAt writes a cell; one without a text is empty.
func appendCellAt(out []byte, prefix string, column, number int, text, style string) []byte {
	out = append(append(append(out, '<'), prefix...), `c r="`...)
	out = strconv.AppendInt(append(out, columnName(column)...), int64(number), 10)
	out = append(out, '"')
	if style != "" {
		out = append(append(append(out, ` s="`...), xmlscan.EscapeAttribute(style)...), '"')
	}
	if text == "" {
		return append(out, "/>"...)
	}
	out = append(append(append(out, ` t="inlineStr"><`...), prefix...), "is><"...)
	out = append(append(out, prefix...), `t xml:space="preserve">`...)
	out = appendText(out, text)
	for _, name := range []string{"t", "is", "c"} {
		out = append(append(append(append(out, "</"...), prefix...), name...), '>')
	}
	return out
}

// rework makes changes in the sheet of a workbook. Cells are replaced where they
// stand, and keep their styles; new rows come last, and a row that goes leaves
// its number free, so that nothing else moves. All other parts are copied as
// they are packed.
func (b *book) rework(ops []op) ([]byte, error) {
	byRow := map[int][]op{}
	var edits []format.Replacement
	var added []byte
	last := b.last
	for _, o := range ops {
		switch o.kind {
		case setCell:
			byRow[o.row] = append(byRow[o.row], o)
		case dropRow:
			p := b.places[o.row]
			if err := b.calculates(p); err != nil {
				return nil, err
			}
			edits = append(edits, format.Replacement{Start: p.from, End: p.to})
		case addRow:
			for _, text := range o.cells {
				if length(text) > mostCell {
					return nil, fmt.Errorf("a cell holds at most %d characters", mostCell)
				}
			}
			last++
			added = appendRow(added, b.prefix, last, o.cells, b.style())
		}
	}
	if last > mostRows {
		return nil, errors.New("the sheet has no room for more rows")
	}
	if added != nil {
		edits = append(edits, format.Replacement{Start: b.end, End: b.end, Text: string(added)})
	}
	for at, list := range byRow {
		if slices.ContainsFunc(ops, func(o op) bool { return o.kind == dropRow && o.row == at }) {
			continue
		}
		more, err := b.setCells(b.places[at], list)
		if err != nil {
			return nil, err
		}
		edits = append(edits, more...)
	}
	if edit, ok := b.dimension(last); ok {
		edits = append(edits, edit)
	}
	xml, err := format.Patch([]byte(b.xml), edits)
	if err != nil {
		return nil, err
	}
	return b.repack(xml)
}

// calculates refuses a row with a formula: others may count on its place.
func (b *book) calculates(p place) error {
	s := xmlscan.New(b.xml[:p.to])
	s.Seek(p.from)
	s.Next()
	return eachCell(s, func(c *bookCell) error {
		if c.calculated {
			return fmt.Errorf("the cell %s%d is calculated by a formula; edit it in a spreadsheet program", columnName(c.column), p.number)
		}
		return nil
	})
}

// setCells returns the replacements that set cells of a row.
func (b *book) setCells(p place, list []op) ([]format.Replacement, error) {
	slices.SortStableFunc(list, func(x, y op) int { return cmp.Compare(x.column, y.column) })
	list = slices.CompactFunc(slices.Clone(list), func(x, y op) bool { return x.column == y.column && x.text == y.text })
	s := xmlscan.New(b.xml[:p.to])
	s.Seek(p.from)
	s.Next()
	head := s.To
	lone, name := s.Lone, s.Name
	var edits []format.Replacement
	put := func(from, to int, o op, style string) error {
		if length(o.text) > mostCell {
			return fmt.Errorf("a cell holds at most %d characters", mostCell)
		}
		edits = append(edits, format.Replacement{Start: from, End: to, Text: string(appendCellAt(nil, b.prefix, o.column, p.number, o.text, style))})
		return nil
	}
	var spans format.Replacement
	for _, a := range s.Attributes {
		if a.Name == "spans" { // a hint that may be wrong then (ECMA-376, 18.3.1.73)
			spans = format.Replacement{Start: a.From - 1, End: a.To}
		}
	}
	fresh, at, style := false, head, ""
	err := eachCell(s, func(c *bookCell) error {
		for len(list) > 0 && list[0].column < c.column {
			fresh = true
			if err := put(c.from, c.from, list[0], cmp.Or(style, c.style)); err != nil {
				return err
			}
			list = list[1:]
		}
		at, style = c.to, c.style
		for len(list) > 0 && list[0].column == c.column {
			if c.calculated {
				return fmt.Errorf("the cell %s%d is calculated by a formula; edit it in a spreadsheet program", columnName(c.column), p.number)
			}
			if len(list) == 1 || list[1].column != c.column { // the last of several counts
				if err := put(c.from, c.to, list[0], c.style); err != nil {
					return err
				}
			}
			list = list[1:]
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	tail := ""
	for _, o := range list {
		fresh = true
		if length(o.text) > mostCell {
			return nil, fmt.Errorf("a cell holds at most %d characters", mostCell)
		}
		tail += string(appendCellAt(nil, b.prefix, o.column, p.number, o.text, style))
	}
	switch {
	case lone && tail != "":
		start := strings.LastIndexByte(b.xml[:head], '/')
		edits = append(edits, format.Replacement{Start: start, End: head, Text: ">" + tail + "</" + name + ">"})
	case tail != "":
		edits = append(edits, format.Replacement{Start: at, End: at, Text: tail})
	}
	if fresh && spans.End > 0 {
		edits = append(edits, spans)
	}
	return edits, nil
}

// style returns the style of the cells of the last row, for new ones.
func (b *book) style() string {
	style := ""
	if len(b.places) > 1 {
		p := b.places[len(b.places)-1]
		s := xmlscan.New(b.xml[:p.to])
		s.Seek(p.from)
		s.Next()
		_ = eachCell(s, func(c *bookCell) error { style = c.style; return nil }) // the row was read before
	}
	return style
}

// dimension returns the replacement of the sheet's dimension, which some programs
// trust, where it ends above the last row.
func (b *book) dimension(last int) (format.Replacement, bool) {
	s := xmlscan.New(b.xml)
	for s.Next() {
		if s.Kind == xmlscan.Start && local(s.Name) == "sheetData" {
			break
		}
		if s.Kind != xmlscan.Start || local(s.Name) != "dimension" {
			continue
		}
		for _, a := range s.Attributes {
			value := s.Unescape(a.ValueFrom, a.ValueTo)
			from, to, ok := strings.Cut(value, ":")
			digits := strings.TrimLeft(to, "ABCDEFGHIJKLMNOPQRSTUVWXYZ")
			if n, err := strconv.Atoi(digits); a.Name == "ref" && ok && err == nil && n < last {
				return format.Replacement{Start: a.ValueFrom, End: a.ValueTo, Text: from + ":" + strings.TrimSuffix(to, digits) + strconv.Itoa(last)}, true
			}
		}
	}
	return format.Replacement{}, false
}

// repack writes the package with another sheet.
func (b *book) repack(xml []byte) ([]byte, error) {
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range b.parts.File {
		if !strings.EqualFold(f.Name, b.part) {
			if err := w.Copy(f); err != nil {
				return nil, err
			}
			continue
		}
		part, err := w.CreateHeader(&zip.FileHeader{Name: f.Name, Method: zip.Deflate, Modified: f.Modified})
		if err == nil {
			_, err = part.Write(xml)
		}
		if err != nil {
			return nil, err
		}
	}
	if err := errors.Join(w.SetComment(b.parts.Comment), w.Close()); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}
