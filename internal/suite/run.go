package main

import (
	"context"
	"errors"
	"slices"
	"time"
)

// lanes is how many parts run side by side.
const lanes = 2

// errSkipped says that a part was not run, as one that it waits for failed.
var errSkipped = errors.New("not run: what it waits for failed")

// result is how a part went.
type result struct {
	part  string
	took  time.Duration
	tests []test
	log   string // the file that holds all it said
	err   error
}

// runAll runs parts, so many at a time, each after those that it waits for, the earlier ones of the list first. One that
// is to be alone waits until nothing else runs. After a failure what waits for it is skipped, and the rest goes on.
func runAll(ctx context.Context, list []part, lanes int, run func(context.Context, part) result) []result {
	waiting := slices.Clone(list)
	done, takes := map[string]result{}, map[string]int{} // by part; takes: of the lanes
	ended := make(chan result)
	running := 0 // lanes that are taken
	results := []result{}
	end := func(r result) {
		done[r.part] = r
		results = append(results, r)
	}
	for len(waiting) > 0 || running > 0 {
		for i := 0; i < len(waiting); {
			p := waiting[i]
			ready, failed := true, ctx.Err() != nil
			for _, name := range p.after {
				before, has := done[name]
				ready, failed = ready && has, failed || has && before.err != nil
			}
			takes[p.name] = 1
			if p.alone {
				takes[p.name] = lanes
			}
			switch {
			case failed:
				end(result{part: p.name, err: errSkipped})
			case !ready || running+takes[p.name] > lanes:
				i++
				continue
			default:
				running += takes[p.name]
				go func() { ended <- run(ctx, p) }()
			}
			waiting = slices.Delete(waiting, i, i+1)
		}
		if running > 0 {
			r := <-ended
			running -= takes[r.part]
			end(r)
			continue
		}
		for _, p := range waiting { // what they wait for is not in the list
			end(result{part: p.name, err: errSkipped})
		}
		waiting = nil
	}
	return results
}
