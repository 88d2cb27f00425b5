package watch_test

import (
	"fmt"

	"jantrel/core/plan"
	"jantrel/core/watch"
)

func ExampleOf() {
	w := watch.Of(plan.Of(harbour()), "ann", today)
	fmt.Println("under way", keys(w.Going), "next", keys(w.Next), "in review by others", keys(w.Review))
	fmt.Println(w.Hours, "h left; the next that others wait for:", w.Owed[1].Item, "by", w.Owed[1].Wanted)
	// Output:
	// under way [his mine stuck] next [waits next] in review by others [asks]
	// 2 h left; the next that others wait for: mine by 2027-03-12
}
