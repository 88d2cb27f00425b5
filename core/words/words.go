// Package words puts figures into words, the same everywhere.
package words

import "strconv"

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
