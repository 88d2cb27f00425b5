// Package feeds fetches what the outside world publishes, within stated limits of time and
// size. Whoever may set an address can make the server ask there, so some places are never
// asked.
package feeds

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"net/url"
	"strings"
	"syscall"
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
	client  *http.Client
}

// NewCalendars makes a fetcher, with the base address of the stand-in; empty: there is none. It waits ten seconds at most, follows three redirects,
// and connects to no link-local address: there the clouds keep secrets of a
// machine for whoever can make it ask.
func NewCalendars(standIn string) *Calendars {
	dialer := &net.Dialer{Timeout: 5 * time.Second, Control: func(_, address string, _ syscall.RawConn) error {
		host, _, err := net.SplitHostPort(address)
		if ip := net.ParseIP(host); err != nil || ip == nil || ip.IsLinkLocalUnicast() || ip.IsMulticast() || ip.IsUnspecified() {
			return fmt.Errorf("calendars are not fetched from %s", host)
		}
		return nil
	}}
	return &Calendars{standIn, &http.Client{
		Timeout:   10 * time.Second,
		Transport: &http.Transport{DialContext: dialer.DialContext, DisableKeepAlives: true, ResponseHeaderTimeout: 8 * time.Second},
		CheckRedirect: func(request *http.Request, via []*http.Request) error {
			if len(via) > 3 || request.URL.Scheme != "https" && request.URL.Scheme != "http" {
				return fmt.Errorf("the calendar is redirected too often, or to no web address")
			}
			return nil
		},
	}}
}

// Fetch reads the events of a calendar feed that lie in a window; see
// [exchange.ReadCalendar], which stops at the limits of a calendar.
func (f *Calendars) Fetch(ctx context.Context, address string, window calendar.Span) ([]program.DayOff, error) {
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
		return nil, fmt.Errorf("%s answered %s instead of a calendar", target.Host, response.Status)
	}
	events, err := exchange.ReadCalendar(response.Body, window)
	if err != nil {
		return nil, fmt.Errorf("the calendar at %s cannot be read: %w", target.Host, err)
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
