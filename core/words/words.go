// Package words puts figures into words, the same everywhere.
package words

import (
	"math"
	"strconv"
)

// Count is a number of things: "1 item", "3 items". many is what several are called where that is not one with an s.
func Count(n int, one string, many ...string) string {
	if n == 1 {
		return "1 " + one
	}
	if len(many) > 0 {
		return strconv.Itoa(n) + " " + many[0]
	}
	return strconv.Itoa(n) + " " + one + "s"
}

// Number is a number with one decimal at the most: "3", "2.5".
func Number(n float64) string { return strconv.FormatFloat(math.Round(n*10)/10, 'f', -1, 64) }
