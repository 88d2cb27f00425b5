package program

import (
	"strings"
	"time"

	"jantrel/core/calendar"
)

// Tests are how the tests of an item stand, as a service outside says.
type Tests struct {
	Passed  int    `json:"passed"`
	Failed  int    `json:"failed"`
	NotRun  int    `json:"notRun"`
	Since   string `json:"since"`             // when they came to stand so, RFC 3339 in UTC
	Address string `json:"address,omitempty"` // of their report, http or https
}

// BuildState is how a build ended.
type BuildState string

// The states of a build.
const (
	Green BuildState = "green"
	Red   BuildState = "red"
)

// Build is how a team's build of some name stands, as a service outside says.
type Build struct {
	Name    string     `json:"name"`
	State   BuildState `json:"state"`
	Since   string     `json:"since"` // when it came to be so, RFC 3339 in UTC
	Address string     `json:"address,omitempty"`
}

// Deployed is what of a team's work runs in some place, as a service outside says.
type Deployed struct {
	Place   string `json:"place"`
	Version string `json:"version"`
	Since   string `json:"since"` // when it was put there, RFC 3339 in UTC
	Address string `json:"address,omitempty"`
}

// Hindered returns, by item, the defects that are still to be mended before its tests can be run.
func (p Program) Hindered() map[string][]string {
	by := map[string][]string{}
	for i := range p.Items {
		if item := &p.Items[i]; item.State != Done {
			for _, key := range item.Hinders {
				by[key] = append(by[key], item.Key)
			}
		}
	}
	return by
}

// Limits of what a service outside may say.
const (
	maxBuilds   = 50  // of a team
	maxDeployed = 50  // places of a team
	maxHindered = 100 // items of a defect
)

func (v *validator) tests(at path, t *Tests) {
	if t == nil {
		return
	}
	at = at.in("tests")
	for _, n := range []struct {
		field string
		count int
	}{{"passed", t.Passed}, {"failed", t.Failed}, {"notRun", t.NotRun}} {
		v.atMost(at, n.field, &n.count)
	}
	v.said(at, t.Since, t.Address)
}

func (v *validator) builds(at path, builds []Build) {
	v.count(at, "builds", len(builds), maxBuilds)
	names := keys{}
	for i, b := range builds {
		at := at.in("builds[%d]", i)
		v.distinctIn(names, at, "name", b.Name)
		v.said(at, b.Since, b.Address)
	}
}

func (v *validator) deployed(at path, list []Deployed) {
	v.count(at, "deployed", len(list), maxDeployed)
	places := keys{}
	for i, d := range list {
		at := at.in("deployed[%d]", i)
		v.distinctIn(places, at, "place", d.Place)
		v.filled(at, "version", d.Version)
		v.said(at, d.Since, d.Address)
	}
}

// said checks when a service outside said something, and where more of it is to be read.
func (v *validator) said(at path, since, address string) {
	if t, err := time.Parse(time.RFC3339, since); err != nil || !strings.HasSuffix(since, "Z") {
		v.report(at("since"), "%q is not a time in UTC such as 2027-03-02T12:00:00Z", since)
	} else {
		v.possible(at, "since", calendar.OfTime(t))
	}
	if address != "" {
		v.webAddress(at, address)
	}
}
