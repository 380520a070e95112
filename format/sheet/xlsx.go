package sheet

import (
	"bytes"
	"errors"

	"github.com/xuri/excelize/v2"
)

// limits bound what a workbook may unpack to.
var limits = excelize.Options{UnzipSizeLimit: 512 << 20, UnzipXMLSizeLimit: 64 << 20}

// open reads the first sheet of a workbook.
func open(data []byte) (rows []row, name string, err error) {
	f, err := excelize.OpenReader(bytes.NewReader(data), limits)
	if err != nil {
		return nil, "", err
	}
	defer func() { _ = f.Close() }()
	names := f.GetSheetList()
	if len(names) == 0 {
		return nil, "", errors.New("the workbook has no sheet")
	}
	cells, err := f.GetRows(names[0])
	if err != nil {
		return nil, "", err
	}
	for _, list := range cells {
		rows = append(rows, row{cells: list, from: -1})
	}
	return rows, names[0], nil
}

// pack writes rows as a workbook: the first row stands still, columns are wide
// enough to read, long texts wrap.
func pack(rows [][]string) ([]byte, error) {
	f := excelize.NewFile()
	defer func() { _ = f.Close() }()
	const name = "Texts"
	if err := f.SetSheetName("Sheet1", name); err != nil {
		return nil, err
	}
	head, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return nil, err
	}
	wrapped, err := f.NewStyle(&excelize.Style{Alignment: &excelize.Alignment{WrapText: true, Vertical: "top"}})
	if err != nil {
		return nil, err
	}
	w, err := f.NewStreamWriter(name)
	if err != nil {
		return nil, err
	}
	if len(rows) > 0 {
		err = errors.Join(w.SetColWidth(1, 1, 28), w.SetColWidth(2, max(len(rows[0]), 2), 36),
			w.SetPanes(&excelize.Panes{Freeze: true, XSplit: 1, YSplit: 1, TopLeftCell: "B2", ActivePane: "bottomRight"}))
		if err != nil {
			return nil, err
		}
	}
	for i, list := range rows {
		cells := make([]any, len(list))
		for j, text := range list {
			style := wrapped
			if i == 0 {
				style = head
			}
			if text == "" {
				continue
			}
			cells[j] = excelize.Cell{StyleID: style, Value: text}
		}
		at, err := excelize.CoordinatesToCellName(1, i+1)
		if err != nil {
			return nil, err
		}
		if err := w.SetRow(at, cells); err != nil {
			return nil, err
		}
	}
	if err := w.Flush(); err != nil {
		return nil, err
	}
	var out bytes.Buffer
	if _, err := f.WriteTo(&out); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

// rework makes changes in a workbook; everything else in it stays.
func rework(data []byte, name string, ops []op) ([]byte, error) {
	f, err := excelize.OpenReader(bytes.NewReader(data), limits)
	if err != nil {
		return nil, err
	}
	defer func() { _ = f.Close() }()
	put := func(r, c int, text string) error {
		at, err := excelize.CoordinatesToCellName(c+1, r+1)
		if err != nil {
			return err
		}
		return f.SetCellStr(name, at, text)
	}
	for _, o := range ops { // cells first, then rows from the last one up
		if o.kind == setCell {
			if err := put(o.row, o.column, o.text); err != nil {
				return nil, err
			}
		}
	}
	for _, o := range fromLast(ops) {
		switch o.kind {
		case dropRow:
			err = f.RemoveRow(name, o.row+1)
		case addRow:
			if err = f.InsertRows(name, o.row+2, 1); err == nil {
				for i, text := range o.cells {
					if text != "" {
						err = errors.Join(err, put(o.row+1, i, text))
					}
				}
			}
		}
		if err != nil {
			return nil, err
		}
	}
	var out bytes.Buffer
	if _, err := f.WriteTo(&out); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}
