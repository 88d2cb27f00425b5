package forecast_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"jantrel/core/calendar"
	"jantrel/core/forecast"
	"jantrel/core/plan"
	"jantrel/core/program"
)

// yard is a team that works from day to day, by a few lines of its own: some items at a time, each with an even share of
// the day, which is a tenth of what its iteration brings.
type yard struct {
	atOnce int
	size   func() float64
	brings func(iteration int) float64 // what each iteration brings
	luck   func() float64              // what each day is multiplied by

	items []program.Item
	left  []float64
	under []int
	start forecast.Date // of the first iteration
	day   forecast.Date
}

// next begins another item.
func (y *yard) next(day forecast.Date) {
	size := y.size()
	item := work(fmt.Sprint("I", len(y.items)), size, "")
	item.State, item.Began = program.Doing, day
	y.under, y.items, y.left = append(y.under, len(y.items)), append(y.items, item), append(y.left, size)
}

// work goes on until the evening before a day.
func (y *yard) work(until forecast.Date) {
	for ; y.day < until; y.day++ {
		if !calendar.MondayToFriday.Has(y.day) {
			continue
		}
		rest := y.brings(int(y.day-y.start)/14) / 10 * y.luck()
		for rest > 1e-9 {
			for len(y.under) < y.atOnce {
				y.next(y.day)
			}
			least := rest / float64(len(y.under))
			for _, i := range y.under {
				least = min(least, y.left[i])
			}
			var on []int
			for _, i := range y.under {
				rest -= least
				if y.left[i] -= least; y.left[i] > 1e-9 {
					on = append(on, i)
				} else {
					y.items[i].State, y.items[i].DoneOn = program.Done, y.day
				}
			}
			y.under = on
		}
	}
}

// program is how things stand on a day: iterations that are over are closed with what was done in them, and so much work,
// in items of the usual sizes, is to do after what is under way.
func (y *yard) program(today forecast.Date, toDo float64) program.Program {
	p := pier()
	team := &p.Teams[0]
	team.Iterations = nil
	for i := 0; i < 40; i++ {
		it := program.Iteration{Key: fmt.Sprint("i", i), Start: y.start.Add(14 * i), End: y.start.Add(14*i + 13)}
		if it.End < today {
			done := 0.0
			for k := range y.items {
				if it.Span().Holds(y.items[k].DoneOn) {
					done += *y.items[k].Size
				}
			}
			it.State, it.Completed = program.Closed, &done
		}
		team.Iterations = append(team.Iterations, it)
	}
	for i := range y.items {
		item := y.items[i]
		on := item.DoneOn
		if item.State != program.Done {
			on = today
			toDo -= y.left[i]
		}
		item.Iteration = team.Iterations[int(on-y.start)/14].Key
		p.Items = append(p.Items, item)
	}
	for n := 0; toDo > 1e-9; n++ {
		size := min(y.size(), toDo)
		toDo -= size
		p.Items = append(p.Items, work(fmt.Sprint("N", n), size, ""))
	}
	return p
}

func always(x float64) func() float64 { return func() float64 { return x } }

// A team that goes exactly as planned reads about the same on every day, whatever the sizes of its items, and with several
// under way at once: within 12 points of what it reads on average. Days alone do not say more of small items.
func TestASteadyTeamReadsTheSame(t *testing.T) {
	past := []float64{14, 17, 19, 16, 18.5, 20, 13, 18, 17.5}
	for _, size := range []float64{1, 2, 5, 10} {
		for _, atOnce := range []int{1, 3} {
			y := &yard{atOnce: atOnce, size: always(size), luck: always(1), start: monday.Add(-14 * len(past)), day: monday.Add(-14 * len(past))}
			y.brings = func(i int) float64 {
				if i < len(past) {
					return past[i]
				}
				return 17
			}
			var reads []float64
			for day := monday; day < monday.Add(12); day++ {
				if !calendar.MondayToFriday.Has(day) {
					continue
				}
				y.work(day)
				worked := 1.7 * float64(calendar.MondayToFriday.Count(calendar.Span{Start: monday, End: day.Add(-1)}))
				p := y.program(day, 3*17-worked)
				p.Releases[0].Due = monday.Add(3*14 - 3)
				reads = append(reads, 100**forecast.Play(plan.Of(p), forecast.Options{Today: day, Plays: 1000, Seed: 1}).Releases[0].Chance)
			}
			t.Logf("items of %g, %d at once: %.0f", size, atOnce, reads)
			for i, chance := range reads {
				assert.InDelta(t, mean(reads), chance, 12, "items of %g, %d at once, day %d", size, atOnce, i)
			}
		}
	}
}

// days are worlds in which it is said on some day of an iteration what its end will bring.
type days struct {
	cv, daily float64 // standard deviation of iterations, and of days within them, ÷ their mean
	past      int     // iterations that are over
}

// yard is a team of such a world.
func (w days) yard(r *rand.Rand) *yard {
	y := &yard{atOnce: 1 + r.IntN(3), start: monday.Add(-14 * w.past), day: monday.Add(-14 * w.past)}
	y.size = func() float64 { return float64(1 + r.IntN(8)) }
	s, d := math.Sqrt(math.Log(1+w.cv*w.cv)), math.Sqrt(math.Log(1+w.daily*w.daily))
	brought := map[int]float64{}
	y.brings = func(i int) float64 {
		if brought[i] == 0 {
			brought[i] = 17 * math.Exp(s*r.NormFloat64()-s*s/2)
		}
		return brought[i]
	}
	y.luck = func() float64 { return math.Exp(d*r.NormFloat64() - d*d/2) }
	return y
}

// says is what is said of the end of an iteration on one of its days, and what came: how much is done by then of what was
// to do, at odds of 50, 85 and 95 %, and how many items.
func (w days) says(r *rand.Rand, gone int) (reach forecast.Reach, items, came float64, size float64) {
	y, end := w.yard(r), monday.Add(13)
	y.work(monday.Add(gone))
	p := y.program(monday.Add(gone), 60)
	began, done, ask := len(y.items), 0, []string{}
	for i := range p.Items {
		if p.Items[i].State == program.Done {
			done++
			size -= *p.Items[i].Size
		} else {
			ask = append(ask, p.Items[i].Key)
		}
	}
	next := p.Items[began:] // what is planned is begun in this order
	y.size = func() float64 {
		next = next[1:]
		return *p.Items[len(p.Items)-len(next)-1].Size
	}
	reach = forecast.Reaches(plan.Of(p), forecast.Options{Today: monday.Add(gone), Plays: 300, Seed: r.Uint64()}, []forecast.ReachAsked{{Items: ask, By: end}})[0]
	for _, chance := range reach.Chances {
		items += chance
	}
	y.work(end.Add(1))
	for i := range y.items {
		if y.items[i].State == program.Done {
			came++
			size += *y.items[i].Size
		}
	}
	return reach, items, came - float64(done), size
}

// What is said on each day about the end of the iteration under way comes true, in total and of each item: within 5 points,
// and 3 that luck adds in so few worlds; of items, within a tenth, and an eighth of an item.
func TestEachDaySaysWhatComes(t *testing.T) {
	const worlds = 400
	for _, w := range []days{{0.25, 0.3, 8}, {0.15, 0.6, 8}, {0.25, 0.6, 4}} {
		for _, gone := range []int{2, 4, 8, 10} {
			r := rand.New(rand.NewPCG(3, uint64(gone)))
			said, came, items, done := map[int]float64{}, map[int]float64{}, 0.0, 0.0
			for range worlds {
				reach, some, n, size := w.says(r, gone)
				items, done = items+some/worlds, done+n/worlds
				for _, a := range reach.Amounts {
					said[a.Odds] += 100 * a.Chance / worlds
					if size >= a.Size-1e-9 {
						came[a.Odds] += 100.0 / worlds
					}
				}
			}
			t.Logf("%v after %d days: %.0f → %.0f, %.0f → %.0f, %.0f → %.0f %%; %.1f → %.1f items", w, gone, said[50], came[50], said[85], came[85], said[95], came[95], items, done)
			for odds := range said {
				assert.InDelta(t, said[odds], came[odds], 8, "%v after %d days, at %d %%", w, gone, odds)
			}
			assert.InDelta(t, items, done, 0.1*done+0.12, "%v after %d days", w, gone)
		}
	}
}
