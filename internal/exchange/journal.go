package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"jantrel/core/program"
)

// WriteFirst writes what a program with its journal begins with: its document, on one line.
func WriteFirst(w io.Writer, first program.Program) error {
	return writeLine(w, document{program.Format, program.Version, first.WithoutAuthors()})
}

// WriteEdit writes an edit after what was written before, on one line.
func WriteEdit(w io.Writer, e program.RecordedEdit) error { return writeLine(w, e.WithoutAuthors()) }

func writeLine(w io.Writer, value any) error {
	encoder := json.NewEncoder(w)
	encoder.SetEscapeHTML(false)
	return encoder.Encode(value)
}

// What a program with its journal may hold.
const (
	MaxRecorded = 1 << 30   // bytes
	maxEdits    = 1_000_000 // edits
	maxEdit     = 32 << 20  // bytes of one of them
)

// ReadRecorded reads a program with its journal: a program document, and after it one edit after another, each a JSON
// value (JSON lines). A document alone is one without edits. What is wrong is program.Problems, as of ReadDocument,
// or the first in an edit, which are counted from 1.
func ReadRecorded(r io.Reader) (program.Recorded, error) {
	var all program.Recorded
	in := json.NewDecoder(&bounded{r, MaxRecorded})
	var first json.RawMessage
	if err := in.Decode(&first); err != nil {
		return all, program.Problems{{Path: "document", Text: err.Error()}}
	}
	var err error
	if all.First, err = ReadDocument(bytes.NewReader(first)); err != nil {
		return all, err
	}
	all.First = all.First.WithoutAuthors()
	for n := 1; ; n++ {
		var raw json.RawMessage
		err := in.Decode(&raw)
		if errors.Is(err, io.EOF) {
			return all, nil
		}
		var e program.RecordedEdit
		if err == nil {
			e, err = readEdit(raw)
		}
		if err == nil && n > maxEdits {
			err = fmt.Errorf("is one too many: %d edits are the most", maxEdits)
		}
		if err != nil {
			return all, program.Problems{{Path: fmt.Sprintf("edit %d", n), Text: err.Error()}}
		}
		all.Edits = append(all.Edits, e)
	}
}

// bounded reads no more than so many bytes, and says so.
type bounded struct {
	io.Reader
	left int
}

func (b *bounded) Read(p []byte) (n int, err error) {
	if b.left <= 0 {
		return 0, fmt.Errorf("the file is larger than %d MB", MaxRecorded>>20)
	}
	n, err = b.Reader.Read(p[:min(len(p), b.left)])
	b.left -= n
	return n, err
}

func readEdit(raw json.RawMessage) (e program.RecordedEdit, err error) {
	if len(raw) > maxEdit {
		return e, fmt.Errorf("is larger than %d MB", maxEdit>>20)
	}
	if err := documentLimits.Check(raw); err != nil {
		return e, err
	}
	decoder := json.NewDecoder(bytes.NewReader(raw))
	decoder.DisallowUnknownFields()
	if err := decoder.Decode(&e); err != nil {
		return e, err
	}
	if e.At.IsZero() || e.Label == "" || len(e.Changes) == 0 {
		return e, errors.New("says when it was made (at), what it is (label), and its changes")
	}
	return e.WithoutAuthors(), nil
}
