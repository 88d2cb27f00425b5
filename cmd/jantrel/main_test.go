package main

import (
	"os"
	"testing"
)

// TestMain runs the tests; or the program, where it is started by one of them.
func TestMain(m *testing.M) {
	const program = "JANTREL_TEST_IS_THE_PROGRAM"
	if os.Getenv(program) != "" {
		main()
		return
	}
	if err := os.Setenv(program, "1"); err != nil {
		panic(err)
	}
	os.Exit(m.Run())
}
