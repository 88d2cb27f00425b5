package live

import (
	"context"
	"runtime"
	"slices"
	"sync"
)

// Asker is in whose name something is computed: the work of a server is shared out by it.
type Asker struct {
	Name  string // the same for all that one account, or one link, asks; empty: the server itself
	Looks bool   // who only looks waits with less at once than who edits
}

type askerKey struct{}

// AskedBy is a context in which what is computed counts as somebody's.
func AskedBy(ctx context.Context, a *Asker) context.Context {
	return context.WithValue(ctx, askerKey{}, a)
}

// AskerOf is who asks in a context, to be completed while the request is looked at.
func AskerOf(ctx context.Context) *Asker {
	if a, ok := ctx.Value(askerKey{}).(*Asker); ok {
		return a
	}
	return &Asker{}
}

// shares share the server's work out among those who ask, whatever they ask: whose turn it is goes round, and each has
// few under way and few waiting. What is long never stands before what is quick: either goes in a lane of its own.
type shares struct {
	mu          sync.Mutex
	quick, long lane
}

// Limits of the lanes. The long ones that are under way share the processors.
const (
	longOnes   = 8   // long answers under way
	quarter    = 4   // one asker has a quarter of a lane
	longWaits  = 40  // long answers that wait
	quickWaits = 400 // quick ones
)

func newShares() *shares {
	quick := max(2, runtime.GOMAXPROCS(0))
	return &shares{
		quick: lane{slots: quick, each: quick - 1, waits: quickWaits},
		long:  lane{slots: longOnes, each: longOnes / quarter, waits: longWaits},
	}
}

func (s *shares) of(long bool) *lane {
	if long {
		return &s.long
	}
	return &s.quick
}

// lane is where answers of one kind wait for their turn.
type lane struct {
	slots, each int // how many are under way, and of one asker
	waits       int // how many wait

	busy    int
	running map[string]int      // by asker
	queues  map[string][]*place // those that wait, by asker, first come first
	round   []string            // askers with something that waits, the next one first
	waiting int
}

// place is that of one answer: it waits with all who ask for it, and has its turn with the first of them.
type place struct {
	lane    *lane
	turn    chan struct{} // closed when it is its turn, or when it has to make room
	by      string        // with whose turn it goes
	begun   bool
	refused bool
	left    bool
	queued  int // in how many queues it is
}

// enter has an answer wait for its turn; nil where its asker has enough waiting, or all have. Where all have, who has the
// most waiting makes room for who has less.
func (s *shares) enter(long bool, a Asker) *place {
	s.mu.Lock()
	defer s.mu.Unlock()
	l := s.of(long)
	p := &place{lane: l, turn: make(chan struct{})}
	if !l.queue(p, a) {
		return nil
	}
	l.next()
	return p
}

// join has an answer that waits already wait with another asker too.
func (s *shares) join(p *place, a Asker) {
	s.mu.Lock()
	defer s.mu.Unlock()
	l := p.lane
	if !p.begun && !p.refused && !slices.Contains(l.queues[a.Name], p) && l.queue(p, a) {
		l.next()
	}
}

// leave gives a place up, or its turn when it is through.
func (s *shares) leave(p *place) {
	s.mu.Lock()
	defer s.mu.Unlock()
	l := p.lane
	if p.left {
		return
	}
	p.left = true
	if p.begun {
		l.busy--
		if l.running[p.by]--; l.running[p.by] == 0 {
			delete(l.running, p.by)
		}
	}
	l.forget(p)
	l.next()
}

// waiting is how many answers wait.
func (s *shares) waiting() int {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.quick.waiting + s.long.waiting
}

func (l *lane) queue(p *place, a Asker) bool {
	most := l.waits / quarter
	if a.Looks {
		most /= 2
	}
	mine := len(l.queues[a.Name])
	// One that need not wait is none of those that do.
	idle := l.busy < l.slots && l.running[a.Name] < l.each && mine == 0
	if !idle && (mine >= most || l.waiting >= l.waits && !l.makeRoom(mine+1)) {
		return false
	}
	if l.queues == nil {
		l.queues, l.running = map[string][]*place{}, map[string]int{}
	}
	if mine == 0 {
		l.round = append(l.round, a.Name)
	}
	l.queues[a.Name] = append(l.queues[a.Name], p)
	l.waiting++
	p.queued++
	return true
}

// makeRoom refuses the newest of who has the most waiting; false where nobody has more than so many.
func (l *lane) makeRoom(than int) bool {
	greedy := ""
	for asker, queue := range l.queues {
		if len(queue) > than || len(queue) == than && greedy != "" && asker < greedy {
			greedy, than = asker, len(queue)
		}
	}
	if greedy == "" {
		return false
	}
	queue := l.queues[greedy]
	p := queue[len(queue)-1]
	l.drop(greedy, len(queue)-1)
	if p.queued == 0 {
		p.refused = true
		close(p.turn)
	}
	return true
}

// drop takes a place out of a queue.
func (l *lane) drop(asker string, at int) {
	queue := l.queues[asker]
	queue[at].queued--
	l.waiting--
	if queue = slices.Delete(queue, at, at+1); len(queue) > 0 {
		l.queues[asker] = queue
		return
	}
	delete(l.queues, asker)
	l.round = slices.DeleteFunc(l.round, func(name string) bool { return name == asker })
}

// next gives turns as long as there are some.
func (l *lane) next() {
	for l.busy < l.slots {
		at := slices.IndexFunc(l.round, func(asker string) bool { return l.running[asker] < l.each })
		if at < 0 {
			return
		}
		asker := l.round[at]
		p := l.queues[asker][0]
		l.round = append(slices.Delete(l.round, at, at+1), asker)
		l.forget(p)
		p.begun, p.by = true, asker
		l.busy++
		l.running[asker]++
		close(p.turn)
	}
}

// forget takes a place out of all queues.
func (l *lane) forget(p *place) {
	for asker, queue := range l.queues {
		if at := slices.Index(queue, p); at >= 0 {
			l.drop(asker, at)
		}
	}
}
