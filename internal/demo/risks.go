package demo

import "jantrel/core/program"

// risks are what may happen to the demo's plan: rated, with odds, with a response, and one that
// nobody watches yet.
func (d *demo) risks() {
	days := func(n int) *int { return &n }
	d.p.Risks = []program.Risk{
		{Key: "RK-1", Title: "Winter storms keep the boat in harbour", Cause: "Three gales a month from October to April", Effect: "No trial at sea, and no mast can be reached",
			Chance: 4, Impact: 3, Owner: "p17", Response: program.Reduce, Answer: "Trials are done from the old pier where that will do", Again: d.today.Add(12),
			Actions: []program.RiskAction{{Text: "Ask the harbour office for the pier", Owner: "p17", Due: d.today.Add(5)}, {Text: "List the trials that need the sea", Owner: "p18", Done: true}},
			Odds:    number(0.15), Delays: []program.RiskDelay{{Item: "FW-2", Days: 6, UpTo: days(15)}}, ShareThen: number(0.5), Teams: []string{"FW"}, Items: []string{"FW-2"}, Releases: []string{"R1"}},
		{Key: "RK-2", Title: "The lens of Outer Stennholm has a flaw", Cause: "It was cast in 1911", Effect: "The dimming curve has to be measured and fitted again",
			Chance: 2, Impact: 4, Owner: "p01", Response: program.Accept, Answer: "Measured before the night trial; if it has one, the curve is fitted again", Again: d.today.Add(-1),
			Odds: number(0.15), Adds: []program.RiskAdds{{Team: "LC", Size: 5, UpTo: number(13)}}, Teams: []string{"LC"}, Items: []string{"LC-5"}, Releases: []string{"R1"}},
		{Key: "RK-3", Title: "The cable ship is called to another coast", Cause: "One ship serves three provinces", Effect: "Cables have to be laid from small boats, a bay at a time",
			Chance: 3, Impact: 4, Response: program.PassOn, Answer: "A second yard stands by for a fee", Teams: []string{"FW"}, Releases: []string{"R2"},
			Odds: number(0.15), Adds: []program.RiskAdds{{Team: "FW", Size: 6, UpTo: number(14)}}, From: d.p.Releases[0].Due, OddsThen: number(0.05)},
		{Key: "RK-4", Title: "A keeper retires before the console is learnt", Chance: 2, Impact: 2, Owner: "p15", Teams: []string{"KC"}, Again: d.today.Add(40)},
		{Key: "RK-5", Title: "The radio licence runs out", Cause: "It is renewed every ten years", State: program.RiskOver, Chance: 1, Impact: 5, Owner: "p02", Response: program.Avoid, Answer: "Renewed in January"},
	}
}
