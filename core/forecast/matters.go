package forecast

import "jantrel/core/program"

// played are the fields of items that plays go by.
var played = map[string]bool{
	"team": true, "size": true, "left": true, "state": true, "iteration": true, "pinned": true, "notBefore": true, "due": true, "release": true,
	"noRelease": true, "parent": true, "keptOut": true, "rough": true, "roughPlaces": true, "began": true, "doneOn": true, "hinders": true, "tasks": true, "kind": true,
}

// told are the kinds of things that plays know nothing of.
var told = map[program.Kind]bool{program.KindComment: true, program.KindTimeEntry: true, program.KindSnooze: true, program.KindPromise: true}

// Matters reports whether a change may change what plays say. It may say so of one that does not.
func Matters(c *program.Change) bool {
	if c.Kind == program.KindItem && c.Op == program.Set {
		return played[c.Field]
	}
	return !told[c.Kind]
}
