package project

import (
	"encoding/json"
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"

	"zelvik/catalog"
	"zelvik/culture"
	"zelvik/message"
)

// LedgerName is the ledger's file name.
const LedgerName = "zelvik.ledger.json"

// Ledger holds what no native format can: the names, types and samples of
// placeholders in formats that refer to them by position, and what was handed
// to translators.
type Ledger struct {
	entries map[string]ledgerEntry
	// path is where it was read, "" where there was none; data what it was.
	path string
	data []byte
}

// ledgerEntry is one line: a key and what is kept of it.
type ledgerEntry struct {
	Key string `json:"key"`
	// Arguments are those of its message, by position.
	Arguments []argument `json:"arguments,omitempty"`
	// Handed are the fingerprints of the texts, by culture, that were handed
	// out and are not back.
	Handed map[culture.Tag]string `json:"handed,omitempty"`
}

// argument is what is known of one position; an empty name is a gap.
type argument struct {
	Name   string        `json:"name"`
	Type   message.Type  `json:"type,omitempty"`
	Style  message.Style `json:"style,omitempty"`
	Sample string        `json:"sample,omitempty"`
}

// ReadLedger reads the ledger at or above a folder; an empty one where there
// is none.
func ReadLedger(dir string) (*Ledger, error) {
	l := &Ledger{entries: map[string]ledgerEntry{}}
	stop := Root(absolute(dir))
	for at := absolute(dir); ; at = filepath.Dir(at) {
		data, err := os.ReadFile(filepath.Join(at, LedgerName))
		if err == nil {
			l.path, l.data = shortened(filepath.Join(at, LedgerName)), data
			return l, l.parse(l.path, data)
		}
		if !errors.Is(err, fs.ErrNotExist) {
			return l, ReadError(filepath.Join(at, LedgerName), err)
		}
		if at == stop || stop == "" || filepath.Dir(at) == at {
			return l, nil
		}
	}
}

func absolute(dir string) string {
	if abs, err := filepath.Abs(dir); err == nil {
		return abs
	}
	return dir
}

func (l *Ledger) parse(path string, data []byte) error {
	var list []ledgerEntry
	if err := json.Unmarshal(data, &list); err != nil {
		return &FileError{path, "the ledger is damaged: " + err.Error(), "restore it from version control, or remove it"}
	}
	for _, e := range list {
		l.entries[e.Key] = e
	}
	return nil
}

// Note keeps what a format without names would forget of a source catalog.
func (l *Ledger) Note(c *catalog.Catalog) {
	for i := range c.Entries {
		e := &c.Entries[i]
		var list []argument
		worth := false
		for _, p := range e.Message.Arguments() {
			if p.Position <= 0 || p.Position > 64 {
				continue
			}
			for len(list) < p.Position {
				list = append(list, argument{})
			}
			list[p.Position-1] = argument{p.Name, p.Type, p.Style, p.Sample}
			worth = worth || !p.MadeName() || p.Sample != ""
		}
		if worth {
			l.entries[e.Key] = ledgerEntry{e.Key, list, l.entries[e.Key].Handed}
		}
	}
}

// Restore names the placeholders of a catalog in a format without names.
func (l *Ledger) Restore(c *catalog.Catalog) {
	if len(l.entries) == 0 {
		return
	}
	for i := range c.Entries {
		known, ok := l.entries[c.Entries[i].Key]
		if !ok {
			continue
		}
		for p := range c.Entries[i].Message.Placeholders() {
			if p.Position == 0 && p.Name != "" { // a format with names alone
				p.Position = 1 + slices.IndexFunc(known.Arguments, func(a argument) bool { return a.Name == p.Name })
			}
			if p.Position < 1 || p.Position > len(known.Arguments) {
				continue
			}
			a := known.Arguments[p.Position-1]
			if a.Name == "" {
				continue
			}
			if p.MadeName() || p.Name == "count" || strings.HasPrefix(p.Name, "arg") {
				p.Name = a.Name
			}
			if p.Sample == "" {
				p.Sample = a.Sample
			}
			if p.Type == message.String && p.Style == "" && (a.Type >= message.Percent || p.Syntax == message.Marker || p.Syntax == message.Braces) { // what the file cannot say
				p.Type, p.Style, p.Spelling = a.Type, a.Style, ""
			}
		}
	}
}

// Bytes writes the ledger: sorted, one line an entry, so that it merges.
func (l *Ledger) Bytes() []byte {
	keys := make([]string, 0, len(l.entries))
	for key := range l.entries {
		keys = append(keys, key)
	}
	sort.Strings(keys)
	var out strings.Builder
	out.WriteString("[\n")
	for i, key := range keys {
		line, err := json.Marshal(l.entries[key])
		if err != nil {
			continue // strings and numbers always marshal
		}
		out.Write(line)
		if i < len(keys)-1 {
			out.WriteByte(',')
		}
		out.WriteByte('\n')
	}
	out.WriteString("]\n")
	return []byte(out.String())
}

// hand notes that a text is handed out, or with an empty fingerprint that it is
// back.
func (l *Ledger) hand(key string, tag culture.Tag, fingerprint string) {
	e := l.entries[key]
	e.Key = key
	handed := map[culture.Tag]string{}
	for known, print := range e.Handed {
		handed[known] = print
	}
	if handed[tag] = fingerprint; fingerprint == "" {
		delete(handed, tag)
	}
	if e.Handed = handed; len(handed) == 0 {
		e.Handed = nil
	}
	if l.entries[key] = e; e.Handed == nil && e.Arguments == nil {
		delete(l.entries, key)
	}
}

// save plans the ledger's new content where it was read, else in a folder.
func (l *Ledger) save(p *Plan, dir string) {
	at := l.path
	if at == "" {
		at = filepath.Join(dir, LedgerName)
	}
	p.Add(at, l.data, l.Bytes())
}

// Empty reports whether there is nothing to keep.
func (l *Ledger) Empty() bool { return len(l.entries) == 0 }
