package account

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// Guessing from many addresses of one network, or for one account from everywhere, is slowed
// down too; a device that has signed in before, and others, are not kept waiting.
func TestGuessingFromManyAddresses(t *testing.T) {
	l := newLimiter(func() time.Time { return time.Date(2027, 3, 2, 8, 0, 0, 0, time.UTC) })
	looked := func(tries int, login, address func(i int) string) (n int) {
		for i := range tries {
			if l.try(tryKeys(address(i), login(i), "")) == 0 {
				n++
			}
		}
		return n
	}
	name := func(i int) string { return fmt.Sprintf("user%d", i) }
	assert.Equal(t, 200, looked(250, name, func(i int) string { return fmt.Sprintf("192.0.2.%d", i) }), "of one network")
	assert.Equal(t, 200, looked(250, name, func(i int) string { return fmt.Sprintf("2001:db8:1:%x::1", i) }), "of one of IPv6")
	assert.Equal(t, 300, looked(350, func(int) string { return "ann" }, func(i int) string { return fmt.Sprintf("10.%d.%d.1", i/250+1, i%250) }), "for one account")
	assert.Zero(t, l.try(tryKeys("198.51.100.7", "ann", "a device of hers")))
	assert.Zero(t, l.try(tryKeys("198.51.100.7", "bo", "")))
	for range 1000 { // who gets in each time is not held to be guessing
		keys := tryKeys("198.51.100.9", "cy", "")
		assert.Zero(t, l.try(keys))
		l.succeeded(keys)
	}
}
