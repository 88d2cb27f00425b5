package program

// Stage is a step of the work, as the page has them.
type Stage string

// The stages.
const (
	StageSetUp    Stage = "set-up"
	StageBacklog  Stage = "backlog"
	StagePlan     Stage = "plan"
	StageForecast Stage = "forecast"
	StageTrack    Stage = "track"
	StageReport   Stage = "report"
)

// Stages lists the stages in working order.
var Stages = []Stage{StageSetUp, StageBacklog, StagePlan, StageForecast, StageTrack, StageReport}

// Readers are whom guidance can be for, by their role.
var Readers = []string{"program manager", "team lead", "member", "viewer"}

// Guide is what a program says in its own words of how a step is done well.
type Guide struct {
	Stage Stage  `json:"stage"`
	Role  string `json:"role,omitempty"` // whom it is for, one of Readers; empty: all
	Text  string `json:"text"`           // Markdown
}

// PlanSection is a section that the plan of every iteration has.
type PlanSection struct {
	Title string `json:"title"`
	Ask   string `json:"ask,omitempty"` // what belongs there, for who writes it
}

// Guides is Guidance with its usual value.
func (s Settings) Guides() bool { return s.Guidance == nil || *s.Guidance }

// Limits of guidance.
const (
	maxGuides       = 60
	maxGuideText    = 10_000
	maxPlanSections = 20
	maxPlanTitle    = 200
)

func (v *validator) guides(at path, guides []Guide) {
	if len(guides) > maxGuides {
		v.report(at("guides"), "there are %d, %d are the most", len(guides), maxGuides)
	}
	seen := map[[2]string]bool{}
	for i, g := range guides {
		at := at.in("guides[%d]", i)
		oneOf(v, at("stage"), g.Stage, Stages)
		noneOr(v, at("role"), g.Role, Readers)
		v.filled(at, "text", g.Text)
		if len(g.Text) > maxGuideText {
			v.report(at("text"), "it has %d bytes, %d are the most", len(g.Text), maxGuideText)
		}
		if of := [2]string{string(g.Stage), g.Role}; seen[of] {
			v.report(at("role"), "there is another one of the same stage and role")
		} else {
			seen[of] = true
		}
	}
}

func (v *validator) planSections(at path, sections []PlanSection) {
	if len(sections) > maxPlanSections {
		v.report(at("planSections"), "there are %d, %d are the most", len(sections), maxPlanSections)
	}
	seen := map[string]bool{}
	for i, s := range sections {
		at := at.in("planSections[%d]", i)
		v.filled(at, "title", s.Title)
		if len(s.Title) > maxPlanTitle || len(s.Ask) > maxPlanTitle {
			v.report(at("title"), "it, or what belongs there, has more than %d bytes", maxPlanTitle)
		}
		if seen[s.Title] {
			v.report(at("title"), "there is another one called %q", s.Title)
		}
		seen[s.Title] = true
	}
}
