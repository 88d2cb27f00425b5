package program

// RunUnchecked does changes without the rules; for comparing the two ways in which
// they are checked.
func RunUnchecked(p Program, changes []Change) (Program, []Applied, error) { return run(p, changes) }

// ValidateAfter is validateAfter.
func ValidateAfter(p Program, applied []Applied) Problems { return validateAfter(p, applied) }

// Settable returns the fields of a kind that can be set.
func Settable(kind Kind) []string {
	var names []string
	for name := range registry[kind].slots {
		names = append(names, name)
	}
	return names
}

// Model returns an empty thing of a kind, as the model has it.
func Model(kind Kind) any { return registry[kind].model() }
