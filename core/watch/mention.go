package watch

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"jantrel/core/program"
)

// Mentions returns the keys of the people whom a text mentions, in the order of the program: an @
// that begins a word, then the whole name as people are called, in capitals or not. Of names that
// begin alike the longest counts; people of the same name are all meant. Time is linear in the
// text times the people.
func Mentions(text string, people []program.Person) []string {
	lower := strings.ToLower(text)
	longest := map[int]int{} // by where an @ stands: how long the longest name there is
	at := map[string][]int{}
	for i := range people {
		name := strings.ToLower(people[i].Name)
		if _, known := at[name]; known || name == "" {
			continue
		}
		at[name] = mentioned(lower, name)
		for _, n := range at[name] {
			longest[n] = max(longest[n], len(name))
		}
	}
	var found []string
	for i := range people {
		name := strings.ToLower(people[i].Name)
		for _, n := range at[name] {
			if longest[n] == len(name) {
				found = append(found, people[i].Key)
				break
			}
		}
	}
	return found
}

// mentioned is where in a text an @ stands before a name; both are in small letters.
func mentioned(text, name string) (at []int) {
	for from := 0; ; {
		n := strings.Index(text[from:], "@"+name)
		if n < 0 {
			return at
		}
		n += from
		from = n + 1
		before, _ := utf8.DecodeLastRuneInString(text[:n])
		after, _ := utf8.DecodeRuneInString(text[n+1+len(name):])
		if !partOfWord(before) && !partOfWord(after) {
			at = append(at, n)
		}
	}
}

// partOfWord is false for what stands for no letter at all, as beyond an end.
func partOfWord(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) || r == '_' }
