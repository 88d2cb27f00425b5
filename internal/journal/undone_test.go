package journal

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestUndone(t *testing.T) {
	t.Parallel()
	// 2 undoes 1. 3 does it again, and 4 undoes that. 6 takes 5 back, and 7 undoes 6: 5 stands.
	all := []Undoing{{2, 1}, {4, 3}, {6, 5}, {7, 6}}
	assert.Empty(t, Undone(all, 1))
	assert.Equal(t, NeverWere{1: 2, 2: 2}, Undone(all, 3))
	assert.Equal(t, NeverWere{1: 2, 2: 2, 3: 4, 4: 4}, Undone(all, 5))
	assert.Equal(t, NeverWere{1: 2, 2: 2, 3: 4, 4: 4, 5: 6, 6: 6}, Undone(all, 6))
	assert.Equal(t, NeverWere{1: 2, 2: 2, 3: 4, 4: 4, 6: 7, 7: 7}, Undone(all, 7))
}
