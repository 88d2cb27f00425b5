package briefs

import "slices"

// Forms are the sections that briefs of a program begin with where there was none about the same before, by what they are
// about. Where there are none, a brief begins from Template.
type Forms struct {
	Program   []Section `json:"brief,omitempty"`
	Release   []Section `json:"releaseBrief,omitempty"`
	Iteration []Section `json:"iterationBrief,omitempty"`
}

// Of is the form of a brief about something.
func (f *Forms) Of(about About) *[]Section {
	switch {
	case about.Release != "":
		return &f.Release
	case about.Team != "":
		return &f.Iteration
	}
	return &f.Program
}

// Begin is the brief that one about something begins with.
func (f *Forms) Begin(b Brief) Brief {
	if form := *f.Of(b.About); len(form) > 0 {
		b.Sections = slices.Clone(form)
	}
	return b
}
