package act

import (
	"fmt"
	"math"
	"slices"

	"jantrel/core/capacity"
	"jantrel/core/program"
)

// AgreeOn gives all coming iterations of a team the capacity that is suggested at some
// confidence, see capacity.Suggest. Those that nothing can be suggested for stay as they are.
type AgreeOn struct {
	Team       string  `json:"team"`
	Confidence float64 `json:"confidence"` // 0 to 1, one of capacity.Confidences
}

// Plan implements Intent.
func (x AgreeOn) Plan(s State) (Plan, error) {
	at := slices.Index(capacity.Confidences[:], x.Confidence)
	if at < 0 {
		return Plan{}, fmt.Errorf("capacities are suggested at %v, and not at %v", capacity.Confidences, x.Confidence)
	}
	i, err := teamAt(s, x.Team)
	if err != nil {
		return Plan{}, err
	}
	team := &s.Program.Teams[i]
	figures := capacity.Of(s.Plan)[i]
	percent := math.Round(100 * x.Confidence)
	var changes []program.Change
	for n := range team.Iterations {
		it := &team.Iterations[n]
		if !it.Takes(s.Today) {
			continue
		}
		found := capacity.Suggest(team, figures, n)
		if found.Trust == capacity.NothingToGoBy {
			continue
		}
		ref := program.Ref{Kind: program.KindIteration, In: team.Key, Key: it.Key}
		changes = append(changes,
			program.SetTo(ref, "capacity", math.Round(found.Amounts[at]*10)/10),
			program.SetTo(ref, "capacityNote", fmt.Sprintf("Agreed at %v %% confidence, from %s", percent, iterations(found.Samples))))
	}
	return made(fmt.Sprintf("Agree on %v %% for all coming iterations of %s", percent, team.Name), changes, nil)
}

func iterations(n int) string {
	if n == 1 {
		return "1 iteration"
	}
	return fmt.Sprintf("%d iterations", n)
}
