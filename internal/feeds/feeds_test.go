package feeds_test

import (
	"context"
	"net"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/sample"
	"jantrel/internal/feeds"
	"jantrel/internal/standin"
)

// What a stand-in serves is read back: the program's own days off, and beside them
// what it adds.
func TestTheStandInIsReadBack(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 3, Iterations: 3, Items: 1, Wild: true})
	server := httptest.NewServer(standin.Calendars(p, sample.Today))
	defer server.Close()
	fetcher := feeds.NewCalendars(server.URL)
	span := calendar.Span{Start: sample.Today.Add(-400), End: sample.Today.Add(400)}
	for i, x := range p.People {
		events, err := fetcher.Fetch(t.Context(), "standin:"+x.Key, span)
		require.NoError(t, err)
		want := len(x.DaysOff)
		if i%3 == 2 {
			want++
		}
		assert.Len(t, events, want, x.Key)
		for _, e := range events {
			assert.NotContains(t, e.Name, "fell through")
			assert.NotContains(t, e.Name, "choir")
		}
	}
	_, err := fetcher.Fetch(t.Context(), "standin:nobody", span)
	assert.ErrorContains(t, err, "404")
	for _, address := range []string{"file:///etc/passwd", "ftp://example.org/a.ics", "nonsense", "http://169.254.169.254/latest"} {
		_, err := fetcher.Fetch(t.Context(), address, span)
		assert.Error(t, err, address)
	}
	_, err = feeds.NewCalendars("").Fetch(t.Context(), "standin:p0", span)
	assert.ErrorContains(t, err, "no stand-in runs")
}

// Only public addresses are asked, and those that are allowed: judged once they are resolved,
// at every redirect too. Nothing leaves this machine here: the test resolves and connects.
func TestWhereCalendarsAreFetchedFrom(t *testing.T) {
	const secret = "TOP SECRET of the network"
	names := map[string]string{
		"public.example": "93.184.216.34", "inner.example": "10.1.2.3", "machine.example": "127.0.0.1", "cloud.example": "169.254.169.254", "shared.example": "100.64.0.1",
		"mapped.example": "::ffff:127.0.0.1", "six.example": "fd00::1", "translated.example": "64:ff9b::7f00:1", "nowhere.example": "0.0.0.0", "v6.example": "2606:2800:220:1::1",
	}
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch r.URL.Path {
		case "/redirect":
			http.Redirect(w, r, "http://inner.example/calendar", http.StatusFound)
		case "/secret":
			_, _ = w.Write([]byte(secret))
		default:
			_, _ = w.Write([]byte("BEGIN:VCALENDAR\nEND:VCALENDAR\n"))
		}
	}))
	defer server.Close()
	var asked []string
	through := func(f *feeds.Calendars) *feeds.Calendars {
		f.Through(func(_ context.Context, host string) ([]netip.Addr, error) {
			if at, err := netip.ParseAddr(host); err == nil {
				return []netip.Addr{at}, nil
			}
			return []netip.Addr{netip.MustParseAddr(names[host])}, nil
		}, func(ctx context.Context, network, address string) (net.Conn, error) {
			asked = append(asked, address)
			return (&net.Dialer{}).DialContext(ctx, network, server.Listener.Addr().String())
		})
		return f
	}
	span := calendar.Span{Start: sample.Today, End: sample.Today.Add(400)}
	strict := through(feeds.NewCalendars(""))
	for host := range names {
		asked = nil
		_, err := strict.Fetch(t.Context(), "http://"+host+"/calendar", span)
		if host == "public.example" || host == "v6.example" {
			assert.NoError(t, err, host)
			continue
		}
		assert.ErrorContains(t, err, "no public address", host)
		assert.Empty(t, asked, host)
	}
	for _, address := range []string{"http://10.0.0.1/", "http://[::1]/", "http://127.1.2.3:8080/", "http://192.168.0.9/", "https://172.16.0.1/x"} {
		_, err := strict.Fetch(t.Context(), address, span)
		assert.ErrorContains(t, err, "no public address", address)
	}
	_, err := strict.Fetch(t.Context(), "http://public.example/redirect", span)
	assert.ErrorContains(t, err, "no public address", "a redirect leads nowhere else")
	allowed, err := feeds.ParseAllowed([]string{"10.1.0.0/16", "127.0.0.1"})
	require.NoError(t, err)
	asked = nil
	_, err = through(feeds.NewCalendars("", allowed...)).Fetch(t.Context(), "http://public.example/redirect", span)
	require.NoError(t, err)
	assert.Equal(t, []string{"93.184.216.34:80", "10.1.2.3:80"}, asked)
	_, err = strict.Fetch(t.Context(), "http://public.example/secret", span)
	require.Error(t, err)
	assert.NotContains(t, err.Error(), "SECRET")
	_, err = feeds.ParseAllowed([]string{"calendar.example"})
	assert.ErrorContains(t, err, "neither an address")
}
