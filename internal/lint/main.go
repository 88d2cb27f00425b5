// Command lint looks for mistakes in Go code: what go vet looks for and what staticcheck does, with one reading of the
// code for both. It has no rule of its own, and is told packages as they are.
package main

import (
	"os"

	"golang.org/x/tools/go/analysis/suite/vet"
	"honnef.co/go/tools/lintcmd"
	"honnef.co/go/tools/lintcmd/version"
	"honnef.co/go/tools/simple"
	"honnef.co/go/tools/staticcheck"
	"honnef.co/go/tools/stylecheck"
	"honnef.co/go/tools/unused"
)

func main() {
	cmd := lintcmd.NewCommand("lint")
	cmd.SetVersion(version.Version, version.MachineVersion)
	cmd.ParseFlags(os.Args[1:])
	cmd.AddBareAnalyzers(vet.Suite...)
	cmd.AddAnalyzers(simple.Analyzers...)
	cmd.AddAnalyzers(staticcheck.Analyzers...)
	cmd.AddAnalyzers(stylecheck.Analyzers...)
	cmd.AddAnalyzers(unused.Analyzer)
	cmd.Run()
}
