package feeds

import (
	"context"
	"net"
	"net/netip"
)

// Through makes the fetcher resolve and connect by functions of a test.
func (f *Calendars) Through(lookup func(ctx context.Context, host string) ([]netip.Addr, error), dial func(ctx context.Context, network, address string) (net.Conn, error)) {
	f.lookup, f.dial = lookup, dial
}
