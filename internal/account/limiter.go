package account

import (
	"sync"
	"time"
)

// limiter slows down guessing. Failures are counted by where they come from, never
// by the account alone: a stranger who fails a thousand times makes only their own
// address wait.
//
// A device that has signed in to an account before carries a device secret and is
// counted by that, so that its owner gets in even from an address (a shared office,
// say) that others have had blocked.
type limiter struct {
	clock func() time.Time

	mu   sync.Mutex
	seen map[string]*failures
}

type failures struct {
	count int
	last  time.Time
}

const (
	freeTries  = 5  // failures for one name from one address before waits begin
	addressTry = 50 // failures from one address, whatever the names
	longWait   = 15 * time.Minute
	forget     = 30 * time.Minute
	maxSeen    = 50_000
)

func newLimiter(clock func() time.Time) *limiter {
	return &limiter{clock: clock, seen: map[string]*failures{}}
}

// keys are what a try is counted by, with how many failures each allows.
func tryKeys(address, login, device string) map[string]int {
	if device != "" {
		return map[string]int{"device " + device: freeTries}
	}
	return map[string]int{"name " + address + " " + login: freeTries, "address " + address: addressTry}
}

// try returns how long to wait before a try, or counts it as failed until it
// proves to succeed: tries at the same time cannot slip by one another.
func (l *limiter) try(keys map[string]int) (wait time.Duration) {
	l.mu.Lock()
	defer l.mu.Unlock()
	now := l.clock()
	for key, free := range keys {
		f := l.seen[key]
		if f == nil || f.count < free {
			continue
		}
		pause := min(longWait, time.Second<<min(20, f.count-free)) // 1 s, 2 s, 4 s …
		wait = max(wait, f.last.Add(pause).Sub(now))
	}
	if wait > 0 {
		return wait
	}
	l.tidy(now)
	for key := range keys {
		f := l.seen[key]
		if f == nil || now.Sub(f.last) > forget {
			f = &failures{}
			l.seen[key] = f
		}
		f.count++
		f.last = now
	}
	return 0
}

// tidy forgets old failures where there are very many.
func (l *limiter) tidy(now time.Time) {
	if len(l.seen) < maxSeen {
		return
	}
	for key, f := range l.seen {
		if now.Sub(f.last) > time.Minute {
			delete(l.seen, key)
		}
	}
}

// succeeded forgets the failures for the name, and of the address only the try
// that was none.
func (l *limiter) succeeded(keys map[string]int) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for key, free := range keys {
		if free == addressTry {
			l.seen[key].count--
		} else {
			delete(l.seen, key)
		}
	}
}
