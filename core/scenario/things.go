package scenario

import (
	"slices"
	"strconv"
	"strings"

	"jantrel/core/program"
)

func kindAt(kind program.Kind) int {
	return slices.IndexFunc(program.Kinds, func(k program.KindInfo) bool { return k.Kind == kind })
}

// numberAfter is the key that comes n after one with a number at its end: LC-63 after LC-62. A key without
// one gets it: A-1.
func numberAfter(key string, n int) string {
	stem := strings.TrimRight(key, "0123456789")
	number, err := strconv.Atoi(strings.TrimPrefix(key, stem))
	if err != nil {
		return key + "-" + strconv.Itoa(n)
	}
	return stem + strconv.Itoa(number+n)
}
