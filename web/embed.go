// Package web holds the built page, so that one file serves everything.
package web

import (
	"embed"
	"io/fs"
)

// dist is filled by the build; in a fresh checkout it holds no page.
//
//go:embed all:dist
var dist embed.FS

// Files returns the built page.
func Files() fs.FS {
	files, err := fs.Sub(dist, "dist/page")
	if err != nil {
		panic(err) // the path is a constant and valid
	}
	return files
}
