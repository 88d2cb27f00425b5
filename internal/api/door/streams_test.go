package door

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func resting(s *Stream) bool {
	select {
	case <-s.Rest():
		return true
	default:
		return false
	}
}

// One account has twenty streams, and its oldest makes room for a newer one; of all there are two thousand, and then the
// oldest of who has the most does.
func TestStreamsMakeRoom(t *testing.T) {
	t.Parallel()
	var s streams
	var mine []*Stream
	for range streamsEach + 3 {
		mine = append(mine, s.open(1))
	}
	for i, stream := range mine {
		assert.Equal(t, i < 3, resting(stream), i)
	}
	s.close(mine[0]) // which is gone already
	assert.Equal(t, streamsEach, s.all)
	s.close(mine[10])
	assert.Equal(t, streamsEach-1, s.all)

	for account := int64(2); s.all < streamsAll; account++ {
		s.open(account)
	}
	assert.False(t, resting(mine[3]))
	others := s.open(streamsAll + 1)
	assert.False(t, resting(others))
	assert.True(t, resting(mine[3]))
	assert.Equal(t, streamsAll, s.all)
	for account := range int64(streamsAll + 2) {
		for len(s.of[account]) > 0 {
			s.close(s.of[account][0])
		}
	}
	assert.Zero(t, s.all)
	assert.Empty(t, s.of)
}
