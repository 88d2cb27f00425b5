// Package feeds fetches what the outside world publishes, within stated limits of time and
// size. Whoever may set an address can make the server ask there, so some places are never
// asked.
package feeds

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"net/url"
	"slices"
	"strings"
	"time"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/internal/exchange"
)

// StandInScheme begins the addresses of the stand-in calendars that ship with
// Jantrel: standin:p01 is the calendar of the demo's person p01.
const StandInScheme = "standin:"

// Calendars fetches calendar feeds over HTTP.
type Calendars struct {
	standIn string // base address of the stand-in; empty: there is none
	allowed []netip.Prefix
	client  *http.Client
	lookup  func(ctx context.Context, host string) ([]netip.Addr, error)
	dial    func(ctx context.Context, network, address string) (net.Conn, error)
}

// Limits of a fetch.
const (
	fetchTime    = 10 * time.Second // of one feed, with reading it
	maxRedirects = 3
)

// NewCalendars makes a fetcher, with the base address of the stand-in; empty: there is none.
// It connects to public addresses alone, to the stand-in, and to those that are allowed:
// whoever may set the address of a calendar could else make the server ask within its own
// network, where it may reach more than they do. An address is judged once it is resolved,
// and again after every redirect.
func NewCalendars(standIn string, allowed ...netip.Prefix) *Calendars {
	f := &Calendars{standIn: standIn, allowed: allowed, dial: (&net.Dialer{Timeout: 5 * time.Second}).DialContext}
	f.lookup = func(ctx context.Context, host string) ([]netip.Addr, error) {
		return net.DefaultResolver.LookupNetIP(ctx, "ip", host)
	}
	f.client = &http.Client{
		Timeout:   fetchTime,
		Transport: &http.Transport{DialContext: f.connect, DisableKeepAlives: true, ResponseHeaderTimeout: 8 * time.Second, MaxResponseHeaderBytes: 64 << 10},
		CheckRedirect: func(request *http.Request, via []*http.Request) error {
			if len(via) > maxRedirects || request.URL.Scheme != "https" && request.URL.Scheme != "http" {
				return fmt.Errorf("the calendar is redirected too often, or to no web address")
			}
			return nil
		},
	}
	return f
}

// ParseAllowed reads addresses and ranges of addresses, as 10.1.0.0/16 or 192.168.7.9.
func ParseAllowed(texts []string) ([]netip.Prefix, error) {
	var allowed []netip.Prefix
	for _, text := range texts {
		prefix, err := netip.ParsePrefix(text)
		if err != nil {
			address, isAddress := netip.ParseAddr(text)
			if isAddress != nil {
				return nil, fmt.Errorf("%q is neither an address such as 192.168.7.9 nor a range such as 10.1.0.0/16", text)
			}
			prefix = netip.PrefixFrom(address, address.BitLen())
		}
		allowed = append(allowed, prefix)
	}
	return allowed, nil
}

// special are ranges that are no public addresses, beside those that netip knows.
var special = []netip.Prefix{
	netip.MustParsePrefix("0.0.0.0/8"), netip.MustParsePrefix("100.64.0.0/10"), netip.MustParsePrefix("192.0.0.0/24"), netip.MustParsePrefix("192.0.2.0/24"),
	netip.MustParsePrefix("198.18.0.0/15"), netip.MustParsePrefix("198.51.100.0/24"), netip.MustParsePrefix("203.0.113.0/24"), netip.MustParsePrefix("240.0.0.0/4"),
	netip.MustParsePrefix("64:ff9b::/96"), netip.MustParsePrefix("64:ff9b:1::/48"), netip.MustParsePrefix("100::/64"), netip.MustParsePrefix("2001::/23"), netip.MustParsePrefix("2001:db8::/32"), netip.MustParsePrefix("2002::/16"),
}

// may reports whether the fetcher connects to an address.
func (f *Calendars) may(address netip.Addr) bool {
	address = address.Unmap()
	within := func(p netip.Prefix) bool { return p.Contains(address) }
	if slices.ContainsFunc(f.allowed, within) {
		return true
	}
	return address.IsGlobalUnicast() && !address.IsPrivate() && !slices.ContainsFunc(special, within)
}

// connect connects to a host at one of those of its addresses that may be.
func (f *Calendars) connect(ctx context.Context, network, address string) (net.Conn, error) {
	if f.standIn != "" && "http://"+address == f.standIn {
		return f.dial(ctx, network, address)
	}
	host, port, err := net.SplitHostPort(address)
	if err != nil {
		return nil, err
	}
	found, err := f.lookup(ctx, host)
	if err != nil {
		return nil, err
	}
	err = fmt.Errorf("calendars are not fetched from %s: it is no public address, and none that an administrator of the server allows", host)
	for _, at := range found {
		if !f.may(at) {
			continue
		}
		var connection net.Conn
		if connection, err = f.dial(ctx, network, net.JoinHostPort(at.Unmap().String(), port)); err == nil {
			return connection, nil
		}
	}
	return nil, err
}

// Fetch reads the events of a calendar feed that lie in a window; see
// [exchange.ReadCalendar], which stops at the limits of a calendar.
func (f *Calendars) Fetch(ctx context.Context, address string, window calendar.Span) ([]program.DayOff, error) {
	ctx, cancel := context.WithTimeout(ctx, fetchTime)
	defer cancel()
	name, isStandIn := strings.CutPrefix(address, StandInScheme)
	if isStandIn {
		if f.standIn == "" {
			return nil, fmt.Errorf("%s is a stand-in calendar, and no stand-in runs; start one with: jantrel standin", address)
		}
		address = f.standIn + "/calendars/" + url.PathEscape(name) + ".ics"
	}
	address = strings.Replace(address, "webcal://", "https://", 1)
	target, err := url.Parse(address)
	if err != nil || target.Scheme != "http" && target.Scheme != "https" || target.Host == "" {
		return nil, fmt.Errorf("%q is not the address of a calendar; it begins with https://, http:// or webcal://", address)
	}
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, target.String(), nil)
	if err != nil {
		return nil, err
	}
	request.Header.Set("Accept", "text/calendar")
	response, err := f.client.Do(request)
	if err != nil {
		return nil, fmt.Errorf("the calendar at %s cannot be fetched: %w", target.Host, plain(err))
	}
	defer func() { _ = response.Body.Close() }()
	if response.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("%s answered with status %d instead of a calendar", target.Host, response.StatusCode)
	}
	events, err := exchange.ReadCalendar(ctx, response.Body, window)
	var at *exchange.LineError
	if errors.As(err, &at) { // what stands there is not for everybody to read
		return nil, fmt.Errorf("%s answered something that is no calendar that can be read (line %d)", target.Host, at.Line)
	}
	if err != nil {
		return nil, fmt.Errorf("the calendar at %s cannot be fetched: %w", target.Host, plain(err))
	}
	return events, nil
}

// plain leaves out of a client's error the address, which may hold a secret.
func plain(err error) error {
	if e, ok := err.(*url.Error); ok {
		return e.Err
	}
	return err
}
