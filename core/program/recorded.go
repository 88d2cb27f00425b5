package program

import (
	"encoding/json"
	"time"
)

// Recorded is a program with its journal: as it was at first, and every edit since then, the oldest first.
type Recorded struct {
	First Program
	Edits []RecordedEdit
}

// RecordedEdit is an edit of a journal, as its file has it.
type RecordedEdit struct {
	At      time.Time `json:"at"`
	By      string    `json:"by"`
	Label   string    `json:"label"`
	Why     string    `json:"why,omitempty"`
	Changes []Change  `json:"changes"`
}

// WithoutAuthors is an edit of which no comment says which account is its author: accounts are a server's own.
func (e RecordedEdit) WithoutAuthors() RecordedEdit {
	changes := make([]Change, len(e.Changes))
	for i, c := range e.Changes {
		var comment Comment
		if c.Kind == KindComment && c.Op == Add && json.Unmarshal(c.Value, &comment) == nil {
			comment.Author = ""
			c.Value = encode(comment)
		}
		changes[i] = c
	}
	e.Changes = changes
	return e
}
