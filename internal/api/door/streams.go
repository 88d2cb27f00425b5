package door

import (
	"slices"
	"sync"
)

// Limits of streams of events that are open.
const (
	streamsEach = 20    // of one account: so many pages
	streamsAll  = 2_000 // of all
)

// Stream is a stream of events that somebody has open.
type Stream struct {
	account int64
	rest    chan struct{}
}

// Rest is closed when the stream has to make room for newer ones.
func (s *Stream) Rest() <-chan struct{} { return s.rest }

// streams are those that are open. The zero value has none.
type streams struct {
	mu  sync.Mutex
	of  map[int64][]*Stream // by account, the oldest first
	all int
}

// open opens a stream of an account. Where that has too many, its oldest has to make room; where there are too many in all,
// the oldest of who has the most.
func (s *streams) open(account int64) *Stream {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.of == nil {
		s.of = map[int64][]*Stream{}
	}
	opened := &Stream{account, make(chan struct{})}
	s.of[account] = append(s.of[account], opened)
	s.all++
	if len(s.of[account]) > streamsEach {
		s.rest(account)
	}
	if s.all > streamsAll {
		most := account
		for other, open := range s.of {
			if has := len(s.of[most]); len(open) > has || len(open) == has && other < most {
				most = other
			}
		}
		s.rest(most)
	}
	return opened
}

// rest has the oldest stream of an account make room.
func (s *streams) rest(account int64) {
	oldest := s.of[account][0]
	close(oldest.rest)
	s.drop(oldest)
}

// close forgets a stream.
func (s *streams) close(closed *Stream) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.drop(closed)
}

func (s *streams) drop(dropped *Stream) {
	open := s.of[dropped.account]
	at := slices.Index(open, dropped)
	if at < 0 { // it had to make room already
		return
	}
	s.all--
	if s.of[dropped.account] = slices.Delete(open, at, at+1); len(open) == 1 {
		delete(s.of, dropped.account)
	}
}

// OpenStream opens a stream of events for an account, and returns it with what ends it.
func (d *Door) OpenStream(account int64) (*Stream, func()) {
	opened := d.streams.open(account)
	return opened, func() { d.streams.close(opened) }
}
