package door

import (
	"fmt"
	"regexp"
	"strconv"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/internal/store"
)

// A stranger who tries 2,609 names in 15 seconds leaves few entries, which say how many tries there were; others are
// written as they are meanwhile, and so is what the same network does a minute later.
func TestAFloodOfRefusalsIsCounted(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var r refusals
		var written []store.Audited
		try := func(name, from string) {
			r.note(store.Audited{Event: store.SignInRefused, Account: name, Address: from}, func(e store.Audited) { written = append(written, e) })
		}
		for i := range 2609 {
			try(fmt.Sprintf("name %d", i), fmt.Sprintf("203.0.113.%d", i%250))
			time.Sleep(15 * time.Second / 2609)
		}
		try("ann", "198.51.100.7")
		require.Len(t, written, refusedPlain+1)
		assert.Equal(t, "ann", written[refusedPlain].Account)
		time.Sleep(refusedEvery)
		synctest.Wait()
		require.Len(t, written, refusedPlain+2)
		told := written[refusedPlain+1]
		assert.Equal(t, "203.0.113.0/24", told.Address)
		assert.Equal(t, store.SignInRefused, told.Event)
		more, err := strconv.Atoi(regexp.MustCompile(`^\d+`).FindString(told.Detail))
		require.NoError(t, err)
		assert.Equal(t, 2609, refusedPlain+more, "each try is counted")
		try("name 1", "203.0.113.1")
		require.Len(t, written, refusedPlain+3)
	})
}

// Over a day of tries from one network no more than eleven entries a minute are written, and none is forgotten.
func TestRefusalsOfADay(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var r refusals
		plain, counted := 0, 0
		const tries = 24 * 60 * 30 // two seconds apart
		for i := range tries {
			r.note(store.Audited{Event: store.Refused, About: strconv.Itoa(i), Address: "2001:db8:1:2::3"}, func(e store.Audited) {
				if e.About != "" {
					plain++
					return
				}
				more, err := strconv.Atoi(regexp.MustCompile(`^\d+`).FindString(e.Detail))
				assert.NoError(t, err)
				assert.Equal(t, "2001:db8:1::/48", e.Address)
				counted += more
			})
			time.Sleep(2 * time.Second)
		}
		time.Sleep(refusedEvery)
		synctest.Wait()
		assert.Equal(t, tries, plain+counted)
		assert.LessOrEqual(t, plain, 24*60*refusedPlain)
	})
}
