package program

import "slices"

// things is a list that is being edited.
type things[T any] interface {
	len() int
	at(i int) *T // to be written to
	insert(i int, thing T)
	remove(i int)
}

// sequence is a list for many edits: things are found by name, put in and taken out anywhere
// in about the square root of its length. It stands in blocks, and knows of each thing the
// block that it is in. What it was made of is not altered.
type sequence[T any] struct {
	nameOf func(*T) name
	blocks []*block[T]
	in     map[name]*block[T]
	n      int
}

type block[T any] struct{ things []*T }

// blockSize is how many things a block has when it is made; one twice as long is divided.
const blockSize = 128

func newSequence[T any](list []T, nameOf func(*T) name) *sequence[T] {
	s := &sequence[T]{nameOf: nameOf, in: make(map[name]*block[T], len(list)), n: len(list)}
	for from := 0; from < len(list); from += blockSize {
		b := &block[T]{}
		for i := from; i < min(from+blockSize, len(list)); i++ {
			b.things = append(b.things, &list[i])
			s.in[nameOf(&list[i])] = b
		}
		s.blocks = append(s.blocks, b)
	}
	return s
}

// list returns what the sequence holds, nil for nothing.
func (s *sequence[T]) list() []T {
	if s.n == 0 {
		return nil
	}
	list := make([]T, 0, s.n)
	for _, b := range s.blocks {
		for _, thing := range b.things {
			list = append(list, *thing)
		}
	}
	return list
}

func (s *sequence[T]) len() int { return s.n }

// find returns the position of a thing; -1: it is not there.
func (s *sequence[T]) find(wanted name) int {
	b := s.in[wanted]
	if b == nil {
		return -1
	}
	before := 0
	for _, other := range s.blocks {
		if other == b {
			break
		}
		before += len(other.things)
	}
	return before + slices.IndexFunc(b.things, func(thing *T) bool { return s.nameOf(thing) == wanted })
}

// locate returns which block holds position i, and where in it. The end is that of the last.
func (s *sequence[T]) locate(i int) (which, within int) {
	for which, b := range s.blocks {
		if i < len(b.things) || i == len(b.things) && which == len(s.blocks)-1 {
			return which, i
		}
		i -= len(b.things)
	}
	s.blocks = append(s.blocks, &block[T]{}) // of an empty one
	return 0, 0
}

func (s *sequence[T]) at(i int) *T {
	which, within := s.locate(i)
	own := *s.blocks[which].things[within]
	s.blocks[which].things[within] = &own
	return &own
}

func (s *sequence[T]) insert(i int, thing T) {
	which, within := s.locate(i)
	b := s.blocks[which]
	b.things = slices.Insert(b.things, within, &thing)
	s.in[s.nameOf(&thing)] = b
	s.n++
	if len(b.things) < 2*blockSize {
		return
	}
	half := &block[T]{slices.Clone(b.things[blockSize:])}
	b.things = slices.Clip(b.things[:blockSize])
	for _, moved := range half.things {
		s.in[s.nameOf(moved)] = half
	}
	s.blocks = slices.Insert(s.blocks, which+1, half)
}

func (s *sequence[T]) remove(i int) {
	which, within := s.locate(i)
	b := s.blocks[which]
	delete(s.in, s.nameOf(b.things[within]))
	b.things = slices.Delete(b.things, within, within+1)
	s.n--
	if len(b.things) == 0 {
		s.blocks = slices.Delete(s.blocks, which, which+1)
	}
}
