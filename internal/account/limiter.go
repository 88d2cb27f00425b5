package account

import (
	"net/netip"
	"sync"
	"time"
)

// limiter slows down guessing. Failures are counted by where they come from first: a
// stranger who fails a thousand times makes only their own address wait, and its network
// where they go on from others of it. Only where very many fail for one account, from
// wherever, does the account wait, for devices that it does not know.
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
	freeTries  = 5   // failures for one name from one address before waits begin
	addressTry = 50  // failures from one address, whatever the names
	networkTry = 200 // failures from one network, whatever the names
	accountTry = 300 // failures for one name, from wherever
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
	return map[string]int{
		"name " + address + " " + login: freeTries, "address " + address: addressTry,
		"network " + NetworkOf(address): networkTry, "account " + login: accountTry,
	}
}

// NetworkOf is the network of an address that one owner usually has all of: /24 of IPv4, /48
// of IPv6.
func NetworkOf(address string) string {
	at, err := netip.ParseAddr(address)
	if err != nil {
		return address
	}
	bits := 48
	if at = at.Unmap().WithZone(""); at.Is4() {
		bits = 24
	}
	network, _ := at.Prefix(bits) // of an address of that length: cannot fail
	return network.String()
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

// succeeded forgets the failures for the name, and of what others try from or for too
// only the try that was none.
func (l *limiter) succeeded(keys map[string]int) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for key, free := range keys {
		if free >= addressTry {
			if f := l.seen[key]; f != nil {
				f.count--
			}
		} else {
			delete(l.seen, key)
		}
	}
}
