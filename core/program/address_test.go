package program_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/program"
)

// An address is one that may be followed, and holds nothing that an address cannot: what is copied with its quotes is
// refused with where it stands and what to write.
func TestAddresses(t *testing.T) {
	t.Parallel()
	for address, says := range map[string]string{
		"https://lights.example/42?a=b'c": "",
		`https://lights.example/"42"`:     `has "\"" in it, which no address may have; leave it out, or write it as %22`,
		"https://lights.example/a b":      "write it as %20",
		"http://x/<script>":               "write it as %3C",
		"ftp://lights.example":            "is not an address that starts with http:// or https://",
	} {
		p := program.Program{Items: []program.Item{{Key: "A", Title: "A", Kind: program.Story, Links: []program.Link{{Title: "Log", Address: address}}}}}.Normal()
		problems := program.Validate(p)
		if says == "" {
			assert.Empty(t, problems, address)
			continue
		}
		if assert.Len(t, problems, 1, address) {
			assert.Contains(t, problems[0].Words(), says)
			assert.Equal(t, "items[0].links[0].address", problems[0].Path)
		}
	}
}
