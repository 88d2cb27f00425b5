package sample

// Seeds is how many of n random cases a property is tried on: a third of them, or all in a build with the tag long
// (make test-long). A property names as many as would convince its author; each run of the tests sees the first third.
func Seeds(n uint64) uint64 { return (n + share - 1) / share }
