package forecast_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// Two teams that always do 10: one has 15 of the release, the other 5. The first decides when it lands. With
// work for the second too, at odds of 30 %, the second does in these plays.
func TestWhoDecidesWhenAReleaseLands(t *testing.T) {
	p := pier(10, 10, 10)
	second := p.Teams[0]
	second.Key, second.Name = "U", "U"
	p.Teams = append(p.Teams, second)
	other := work("C", 5, "d")
	other.Team = "U"
	p.Items = []program.Item{work("A", 10, "d"), work("B", 5, "e"), other}
	p.Risks = []program.Risk{{Key: "K", Odds: ptr(0.3), Adds: []program.RiskAdds{{Team: "U", Size: 15}}, Releases: []string{"R"}}}
	o := forecast.Options{Today: monday, Plays: 1000, Seed: 1}
	decides := forecast.Decides(plan.Of(p), o)["R"]
	assert.InDelta(t, 0.7, decides["T"], 0.003)
	assert.InDelta(t, 0.3, decides["U"], 0.003)
}

// In every play somebody decides.
func TestSomebodyDecides(t *testing.T) {
	for seed := range sample.Seeds(20) {
		p := sample.Program(seed, sample.Shape{Teams: 3, Iterations: 5, Items: 40, Needs: 20})
		o := forecast.Options{Today: sample.Today, Plays: 60, Seed: seed, Workers: 1 + int(seed%2)}
		decides := forecast.Decides(plan.Of(p), o)
		for _, l := range forecast.Play(plan.Of(p), o).Releases {
			sum := 0.0
			for _, share := range decides[l.Key] {
				assert.LessOrEqual(t, share, 1.0)
				sum += share
			}
			if l.Left+l.Rough > 0 && len(l.Cannot) == 0 {
				assert.GreaterOrEqual(t, sum, 1-1e-9, "%d %s", seed, l.Key)
			}
		}
	}
}

func BenchmarkDecides5000Items(b *testing.B) {
	pl := plan.Of(sample.Program(1, sample.Shape{Teams: 40, Iterations: 12, Items: 5000, Needs: 6000}))
	for b.Loop() {
		forecast.Decides(pl, forecast.Options{Today: sample.Today, Plays: 300, Seed: 1, Workers: 2})
	}
}
