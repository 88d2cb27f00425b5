package exchange

import (
	"archive/zip"
	"bufio"
	"bytes"
	"fmt"
	"io"
)

// Limits of what is in an XLSX file, which is an archive: a few kilobytes of it can stand for
// gigabytes. One cell of a spreadsheet holds 32,767 characters.
const (
	maxParts    = 1000
	maxUnzipped = 64 << 20  // bytes of all parts
	maxInMemory = 4 << 20   // bytes of one part; larger ones are read from a file
	maxTags     = 5_000_000 // of all parts: four a cell, and some
	maxRowCells = 400
	maxShared   = 160 << 10 // bytes of one text that cells share
)

// checkWorkbook goes through all parts of an XLSX file, holding none of them, and refuses
// what would take far more memory to read than a table can fill.
func checkWorkbook(data []byte) error {
	archive, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return fmt.Errorf("the file cannot be read as XLSX: %w", err)
	}
	if len(archive.File) > maxParts {
		return fmt.Errorf("the file has %d parts; a workbook has %d at most", len(archive.File), maxParts)
	}
	s := tagScanner{unzipped: maxUnzipped, tags: maxTags}
	for _, part := range archive.File {
		in, err := part.Open()
		if err != nil {
			return fmt.Errorf("the file cannot be read as XLSX: %w", err)
		}
		err = s.scan(in)
		_ = in.Close()
		if err != nil {
			return fmt.Errorf("the file cannot be read as XLSX: %s: %w", part.Name, err)
		}
	}
	return nil
}

// tagScanner counts the tags of XML parts. It does not read XML: comments and the like, which
// could hide tags from it, are refused; no spreadsheet writes them.
type tagScanner struct{ unzipped, tags int } // what is left of either

func (s *tagScanner) scan(part io.Reader) error {
	in := bufio.NewReaderSize(part, 64<<10)
	text := 0        // bytes since the last tag of a shared text
	cells := -1      // in the row so far; -1 before the first
	inText := false  // within a shared text
	var head [6]byte // of the tag
	for {
		between, err := s.skip(in)
		if text += between; inText && text > maxShared {
			return fmt.Errorf("a text has more than %d kB", maxShared>>10)
		}
		if err == io.EOF {
			return nil
		} else if err != nil {
			return err
		}
		if s.tags--; s.tags < 0 {
			return fmt.Errorf("there are more than %d tags in it; leave columns out, or split it", maxTags)
		}
		switch string(nameOf(in, &head)) {
		case "!":
			return fmt.Errorf("there is a comment in it; save it anew from a spreadsheet")
		case "row":
			cells = 0
		case "c":
			if cells >= 0 {
				cells++
			}
			if cells > maxRowCells {
				return fmt.Errorf("a row has more than %d cells", maxRowCells)
			}
		case "si":
			inText, text = true, 0
		}
	}
}

// skip reads to the next tag and returns how many bytes stand before it.
func (s *tagScanner) skip(in *bufio.Reader) (n int, err error) {
	for {
		piece, err := in.ReadSlice('<')
		n += len(piece)
		if s.unzipped -= len(piece); s.unzipped < 0 {
			return n, fmt.Errorf("there are more than %d MB in it", maxUnzipped>>20)
		}
		if err != bufio.ErrBufferFull {
			return n, err
		}
	}
}

// nameOf looks at the name of a tag, without what stands before a colon, as far as head
// holds it; nothing is consumed.
func nameOf(in *bufio.Reader, head *[6]byte) []byte {
	ahead, _ := in.Peek(64) // fewer at the end
	if len(ahead) > 0 && ahead[0] == '!' {
		return ahead[:1]
	}
	end := bytes.IndexAny(ahead, " \t\r\n/>")
	if end < 0 {
		end = len(ahead)
	}
	if colon := bytes.LastIndexByte(ahead[:end], ':'); colon >= 0 {
		ahead, end = ahead[colon+1:], end-colon-1
	}
	return head[:copy(head[:], ahead[:end])]
}
