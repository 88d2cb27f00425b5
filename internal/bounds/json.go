// Package bounds keeps what is read from others within limits before anything is made of it:
// a few bytes of input can else become gigabytes of values, or of complaints about them.
package bounds

import (
	"bytes"
	"fmt"
)

// JSON says how much a JSON text may hold.
type JSON struct {
	Values int // objects, lists and what stands in them, at all depths
	List   int // entries of one list
	Names  int // names of one object
	Depth  int // objects and lists within one another
}

// Exceeded says which limit a text passes, and where.
type Exceeded struct {
	Line int    // from 1
	Name string // of the list, or of what it stands in; empty at the top
	Text string // what is too much
}

func (e *Exceeded) Error() string {
	at := fmt.Sprintf("line %d", e.Line)
	if e.Name != "" {
		at = fmt.Sprintf("%q, %s", e.Name, at)
	}
	return at + ": " + e.Text
}

// Check goes through a JSON text once, in linear time and with next to no memory, and
// returns an *Exceeded where it passes a limit. It judges nothing else: what is no JSON is
// found by whoever reads it.
func (l JSON) Check(text []byte) error {
	type open struct {
		name    []byte // that it stands under, or the last name in it
		list    bool
		entries int
	}
	stack := make([]open, 1, 16)
	values := 1
	refuse := func(at int, name []byte, format string, args ...any) error {
		return &Exceeded{1 + bytes.Count(text[:at], []byte("\n")), string(name[:min(len(name), 80)]), fmt.Sprintf(format, args...)}
	}
	var last []byte // the last text read
	for i := 0; i < len(text); i++ {
		top := &stack[len(stack)-1]
		switch text[i] {
		case '"':
			start := i + 1
			for i++; i < len(text) && text[i] != '"'; i++ {
				if text[i] == '\\' {
					i++
				}
			}
			last = text[start:min(i, len(text))]
		case ':':
			if !top.list {
				top.name = last
			}
		case ',':
			values++
			top.entries++
			switch {
			case top.list && top.entries >= l.List:
				return refuse(i, top.name, "a list has %s entries at most", thousands(l.List))
			case !top.list && len(stack) > 1 && top.entries >= l.Names:
				return refuse(i, top.name, "an object has %s names at most", thousands(l.Names))
			}
		case '{', '[':
			values++
			if len(stack) > l.Depth {
				return refuse(i, top.name, "there are more than %d lists and objects within one another", l.Depth)
			}
			stack = append(stack, open{name: top.name, list: text[i] == '['})
		case '}', ']':
			if len(stack) > 1 {
				stack = stack[:len(stack)-1]
			}
		}
		if values > l.Values {
			return refuse(i, stack[len(stack)-1].name, "there are more than %s values in all", thousands(l.Values))
		}
	}
	return nil
}

// thousands writes a count so that it can be read.
func thousands(n int) string {
	text := fmt.Sprint(n)
	for i := len(text) - 3; i > 0; i -= 3 {
		text = text[:i] + "," + text[i:]
	}
	return text
}
