package sheet

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"

	"zelvik/format/charset"
	"zelvik/format/xmlscan"
)

// A workbook is a package of parts (ECMA-376, part 2): a ZIP archive of XML
// files that name one another by relationships. The bounds keep one that a
// stranger made from taking more than it is worth.
const (
	mostParts   = 10_000
	mostPart    = 64 << 20  // bytes of one part, unpacked
	fewBytes    = 8 << 20   // up to which a part may unpack to as much as it likes
	mostTimes   = 100       // of its packed size for a larger one; tables have 5 to 30
	mostText    = 64 << 20  // bytes of all cells together
	mostCells   = 4_000_000 // of all rows, gaps before a cell counted
	mostColumns = 1_000     // those after it are no table's; they are left alone
	mostRows    = 1 << 20   // of a sheet (ECMA-376, 18.3.1.73: as spreadsheet programs have it)
	mostShared  = 1 << 20   // texts that cells share
	mostCell    = 32_767    // characters (UTF-16) of a cell that spreadsheet programs take
)

// book is a workbook that was read: its parts, and the first sheet's XML.
type book struct {
	parts *zip.Reader
	// part is the name of the sheet's part, xml its content.
	part, xml string
	// prefix stands before the names of its elements, as in "x:".
	prefix string
	// places are those of the rows in xml, in the order of rows.
	places []place
	// last is the number of the last row, end where its element ends.
	last, end int
}

// place is where a row's element stands, and its number, from 1.
type place struct{ from, to, number int }

// openBook reads the parts of a workbook that lead to its first sheet, and that.
func openBook(data []byte) (*book, []row, error) {
	parts, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil && !errors.Is(err, zip.ErrInsecurePath) { // names are only compared
		return nil, nil, errors.New("it is no whole ZIP archive")
	}
	if len(parts.File) > mostParts {
		return nil, nil, fmt.Errorf("it has more than %d parts", mostParts)
	}
	b := &book{parts: parts}
	main, err := b.related("", "/officeDocument")
	if err != nil {
		return nil, nil, err
	}
	if b.part, err = b.firstSheet(main); err != nil {
		return nil, nil, err
	}
	if b.xml, err = b.read(b.part); err != nil {
		return nil, nil, err
	}
	var shared []string
	if at, err := b.related(main, "/sharedStrings"); err == nil {
		text, err := b.read(at)
		if err != nil {
			return nil, nil, err
		}
		if shared, err = sharedTexts(text); err != nil {
			return nil, nil, err
		}
	}
	rows, err := b.rows(shared, max(mostText, 8*len(data)))
	return b, rows, err
}

// read unpacks a part.
func (b *book) read(name string) (string, error) {
	var found *zip.File
	for _, f := range b.parts.File {
		if strings.EqualFold(f.Name, name) {
			found = f
		}
	}
	if found == nil {
		return "", fmt.Errorf("its part %q is missing", name)
	}
	most := min(mostPart, max(fewBytes, int64(min(found.CompressedSize64, mostPart))*mostTimes))
	if found.UncompressedSize64 > uint64(most) {
		return "", fmt.Errorf("its part %s unpacks to more than %d MiB", name, most>>20)
	}
	in, err := found.Open()
	if err != nil {
		return "", fmt.Errorf("its part %s cannot be unpacked: %w", name, err)
	}
	defer func() { _ = in.Close() }()
	data, err := io.ReadAll(io.LimitReader(in, most+1))
	switch {
	case err != nil:
		return "", fmt.Errorf("its part %s cannot be unpacked: %w", name, err)
	case int64(len(data)) > most:
		return "", fmt.Errorf("its part %s unpacks to more than %d MiB", name, most>>20)
	}
	return charset.Decode(data).String(), nil
}

// related returns the first part to which another one, or the whole package where
// that is "", has a relationship of a kind. Kinds end alike in both of the
// standard's namespaces.
func (b *book) related(from, kind string) (string, error) {
	at, _, err := b.relationship(from, func(k, _ string) bool { return strings.HasSuffix(k, kind) })
	return at, err
}

func (b *book) relationship(from string, is func(kind, id string) bool) (target, id string, err error) {
	dir, name := path.Split(from)
	text, err := b.read(path.Join(dir, "_rels", name+".rels"))
	if err != nil {
		return "", "", err
	}
	s := xmlscan.New(text)
	for s.Next() {
		if s.Kind != xmlscan.Start || local(s.Name) != "Relationship" {
			continue
		}
		kind, _ := s.Value("Type")
		id, _ := s.Value("Id")
		target, _ := s.Value("Target")
		if mode, _ := s.Value("TargetMode"); mode != "External" && is(kind, id) {
			if strings.HasPrefix(target, "/") {
				return strings.TrimPrefix(path.Clean(target), "/"), id, nil
			}
			return path.Join(dir, target), id, nil
		}
	}
	return "", "", errors.New("it is no workbook: a part that it needs is not named")
}

// firstSheet returns the part of the first sheet that holds cells.
func (b *book) firstSheet(main string) (string, error) {
	text, err := b.read(main)
	if err != nil {
		return "", err
	}
	s := xmlscan.New(text)
	for s.Next() {
		if s.Kind != xmlscan.Start || local(s.Name) != "sheet" {
			continue
		}
		for _, a := range s.Attributes {
			if !strings.HasSuffix(a.Name, ":id") {
				continue
			}
			want := s.Unescape(a.ValueFrom, a.ValueTo)
			at, _, err := b.relationship(main, func(kind, id string) bool { return id == want && strings.HasSuffix(kind, "/worksheet") })
			if err == nil {
				return at, nil
			}
		}
	}
	return "", errors.New("it has no sheet")
}

// local is a name without its prefix.
func local(name string) string { return name[strings.IndexByte(name, ':')+1:] }

// sharedTexts reads the texts that cells share.
func sharedTexts(text string) ([]string, error) {
	var list []string
	s := xmlscan.New(text)
	for s.Next() {
		if s.Kind == xmlscan.Start && local(s.Name) == "si" {
			one, err := rich(s)
			if err != nil {
				return nil, err
			}
			if list = append(list, one); len(list) > mostShared {
				return nil, fmt.Errorf("it has more than %d shared texts", mostShared)
			}
		}
	}
	return list, nil
}

// rich reads the text of the current element: that of its t elements, or those
// of its runs, without what is only pronounced.
func rich(s *xmlscan.Scanner) (string, error) {
	if s.Lone {
		return "", nil
	}
	var text strings.Builder
	for depth := len(s.Open); len(s.Open) >= depth && s.Next(); {
		switch {
		case s.Kind == xmlscan.Start && local(s.Name) == "rPh":
			s.Skip()
		case s.Kind == xmlscan.Start && local(s.Name) == "t":
			text.WriteString(inner(s))
		}
		if text.Len() > 4*mostCell {
			return "", fmt.Errorf("a cell has more than %d characters", mostCell)
		}
	}
	return text.String(), nil
}

// inner reads the characters of the current element.
func inner(s *xmlscan.Scanner) string {
	if s.Lone {
		return ""
	}
	text := ""
	for depth := len(s.Open); len(s.Open) >= depth && s.Next(); {
		switch s.Kind {
		case xmlscan.Text:
			text += s.Unescape(s.From, s.To)
		case xmlscan.CDATA:
			text += xmlscan.LineEnds(s.Raw(s.InnerFrom, s.InnerTo))
		}
	}
	return unescaped(text)
}
