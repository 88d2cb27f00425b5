package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/words"
)

func TestCount(t *testing.T) {
	assert.Equal(t, "0 items", words.Count(0, "item"))
	assert.Equal(t, "1 item", words.Count(1, "item"))
	assert.Equal(t, "3 items", words.Count(3, "item"))
	assert.Equal(t, "1 test fails", words.Count(1, "test fails", "tests fail"))
	assert.Equal(t, "2 tests fail", words.Count(2, "test fails", "tests fail"))
}

func TestNumber(t *testing.T) {
	assert.Equal(t, "3", words.Number(3.04))
	assert.Equal(t, "2.5", words.Number(2.46))
	assert.Equal(t, "-0.3", words.Number(-0.25))
}
