package exchange

import (
	"encoding/csv"
	"encoding/json"
	"io"
	"strconv"
	"time"

	"jantrel/core/program"
)

// Told is an edit of the journal as files for people have it.
type Told struct {
	Revision int64
	At       time.Time
	By       string
	Label    string
	Why      string
	Changes  []program.Applied
}

// JournalWriter writes edits one after another, each of their changes as a row of CSV, or as a line of JSON.
type JournalWriter struct {
	lines *json.Encoder
	rows  *csv.Writer
}

// NewJournalWriter begins a file of format "csv" or "jsonl".
func NewJournalWriter(w io.Writer, format string) (*JournalWriter, error) {
	if format == "jsonl" {
		lines := json.NewEncoder(w)
		lines.SetEscapeHTML(false)
		return &JournalWriter{lines: lines}, nil
	}
	j := &JournalWriter{rows: csv.NewWriter(w)}
	return j, j.rows.Write([]string{"Revision", "At", "By", "Edit", "Why", "Did", "Kind", "In", "Key", "Field", "Before", "After"})
}

// journalLine is one change, as JSON lines have it.
type journalLine struct {
	Revision int64     `json:"revision"`
	At       time.Time `json:"at"`
	By       string    `json:"by"`
	Edit     string    `json:"edit"`
	Why      string    `json:"why,omitempty"`
	program.Change
	Before json.RawMessage `json:"before,omitempty"`
}

// Write adds an edit.
func (j *JournalWriter) Write(e Told) error {
	for i := range e.Changes {
		c, before := &e.Changes[i].Change, e.Changes[i].Inverse.Value
		if j.lines != nil {
			if err := j.lines.Encode(journalLine{e.Revision, e.At.UTC(), e.By, e.Label, e.Why, *c, before}); err != nil {
				return err
			}
			continue
		}
		err := j.rows.Write([]string{strconv.FormatInt(e.Revision, 10), e.At.UTC().Format(time.RFC3339), Guard(e.By), Guard(e.Label), Guard(e.Why), string(c.Op), string(c.Kind), Guard(c.In), Guard(c.Key),
			c.Field, Guard(string(before)), Guard(string(c.Value))})
		if err != nil {
			return err
		}
	}
	return nil
}

// End writes what is left.
func (j *JournalWriter) End() error {
	if j.rows == nil {
		return nil
	}
	j.rows.Flush()
	return j.rows.Error()
}
