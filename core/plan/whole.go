package plan

import (
	"cmp"
	"math"
	"slices"
	"strconv"

	"jantrel/core/program"
)

// Piece is a part of what is rough, as large as the team's items usually are.
type Piece struct {
	Of     int       // position in the whole plan's Items of the item that has the rough size
	Nth    int       // of the pieces of that item and team, from 0
	Shares []float64 // by which its size may turn out another, each as likely; their mean is 1. nil: it may not
}

// RoughState is how far items cover a rough size, and where the rest of it stands.
type RoughState struct {
	Item    int // position of the item in Program.Items
	Team    int // position of the team
	Rough   program.Rough
	Covered float64              // sizes of the items below, those without one at their usual size, in the team's unit
	Rest    float64              // what is to be expected beyond these
	Places  []program.RoughPlace // where that stands, by time
	Loose   float64              // what of it stands nowhere
}

// Over is how much the items below come to beyond the most of the rough size; 0 where they do not.
func (r *RoughState) Over() float64 { return max(0, r.Covered-r.Rough.Most()) }

// Roughs are the rough sizes of what is neither done nor kept out, in the order of the items and
// of their lists.
func Roughs(p *Plan) []RoughState { return roughs(p) }

// Whole is the plan with its rough sizes spelled out: what the items below do not cover yet, as
// leaves of their own, which everything that schedules, plays and adds up takes like any other.
// A plan without rough sizes is whole itself.
//
// What is expected beyond what is covered is the mean of max(0, X − covered), where X lies
// anywhere in the range with the same chance. It comes in pieces of the usual size of the team's
// stories (see UsualSize; without past sizes a tenth of it), the last one smaller. They obey the
// item's dates, release and needs as all that is below it does; by rank they follow the last item
// below it. Positions in the whole plan are other than in the plan.
func (p *Plan) Whole() *Plan {
	if p.of != nil {
		return p
	}
	return wholes(p)
}

// Piece is what the item at position i is a piece of, and whether it is one.
func (p *Plan) Piece(i int) (Piece, bool) {
	piece, ok := p.pieces[i]
	return piece, ok
}

// KeyOf is the key of the item at position i; of a piece that of the item which has the rough size.
func (p *Plan) KeyOf(i int) string {
	if piece, ok := p.pieces[i]; ok {
		i = piece.Of
	}
	return p.Items[i].Key
}

// Pieces are the keys in the whole plan of what is rough of an item for a team and stands in an
// iteration; where that is empty, of what stands nowhere.
func (p *Plan) Pieces(item, team, iteration string) (keys []string) {
	p = p.Whole()
	for i := range p.Items {
		if _, is := p.Piece(i); is && p.KeyOf(i) == item && p.Items[i].Team == team && p.Items[i].Iteration == iteration {
			keys = append(keys, p.Items[i].Key)
		}
	}
	return keys
}

// tiny is a size that comes of rounding.
const tiny = 1e-9

// Limits that keep a slip of the keyboard from making thousands of pieces.
const (
	mostPieces    = 24     // of a rough size
	mostPiecesAll = 20_000 // of a program
)

var (
	roughs = Once(roughsOf)
	wholes = Once(wholeOf)
)

// roughsOf works upwards: what stands below an item, rough or not, covers its own rough size.
func roughsOf(p *Plan) []RoughState {
	var states []RoughState
	if !slices.ContainsFunc(p.Items, func(i program.Item) bool { return len(i.Rough) > 0 }) {
		return nil
	}
	tree, teams, past := p.Tree(), p.TeamAt(), PastSizes(p)
	var below func(i int) map[string]float64
	below = func(i int) map[string]float64 {
		sum := map[string]float64{}
		for _, child := range tree.Children[i] {
			item := &p.Items[child]
			switch {
			case !tree.IsLeaf(child):
				for team, size := range below(child) {
					sum[team] += size
				}
			case item.Size != nil:
				sum[item.Team] += *item.Size
			default:
				usual, _ := UsualSize(past(item))
				sum[item.Team] += usual
			}
		}
		item := &p.Items[i]
		if item.State == program.Done || item.KeptOut {
			return sum
		}
		for _, r := range item.Rough {
			s := RoughState{Item: i, Team: teams[r.Team], Rough: r, Covered: sum[r.Team]}
			s.Rest = expected(r, s.Covered)
			s.stand(p)
			states = append(states, s)
			sum[r.Team] += s.Rest
		}
		return sum
	}
	for i := range p.Items {
		if tree.Parent[i] < 0 && !tree.IsLeaf(i) {
			below(i)
		}
	}
	slices.SortStableFunc(states, func(a, b RoughState) int { return cmp.Compare(a.Item, b.Item) })
	return states
}

// expected is the mean of what a rough size comes to beyond what is covered.
func expected(r program.Rough, covered float64) float64 {
	least, most := r.Size, r.Most()
	switch {
	case covered >= most:
		return 0
	case covered <= least:
		return (least+most)/2 - covered
	}
	return (most - covered) * (most - covered) / (2 * (most - least))
}

// sharesOf are the middles of so many equal parts of the range, less what is covered, as shares of
// their mean; nil where the size is a figure.
func sharesOf(r program.Rough, covered float64) []float64 {
	const parts = 16
	least, most := r.Size, r.Most()
	if least == most {
		return nil
	}
	shares, sum := make([]float64, parts), 0.0
	for i := range shares {
		shares[i] = max(0, least+(most-least)*(float64(i)+0.5)/parts-covered)
		sum += shares[i]
	}
	for i := range shares {
		if sum == 0 { // all but the very end is covered
			shares[i] = 1
			continue
		}
		shares[i] *= parts / sum
	}
	return shares
}

// stand finds where the rest stands: in its places, as far as it goes. Items that have come take
// their place, in their own iteration first, then from the earliest on.
func (s *RoughState) stand(p *Plan) {
	item, team := &p.Items[s.Item], p.Teams[s.Team].Key
	sum := 0.0
	for _, place := range item.RoughPlaces {
		at, ok := p.Slot(place.Team, place.Iteration)
		if ok && place.Team == team && place.Size > 0 && p.Teams[at.Team].Iterations[at.Slot].State != program.Closed {
			s.Places = append(s.Places, place)
			sum += place.Size
		}
	}
	start := func(place program.RoughPlace) program.Date {
		at, _ := p.Slot(place.Team, place.Iteration)
		return at.Start
	}
	slices.SortStableFunc(s.Places, func(a, b program.RoughPlace) int { return cmp.Compare(start(a), start(b)) })
	taken := sum - s.Rest
	take := func(place *program.RoughPlace, most float64) {
		n := max(0, min(taken, place.Size, most))
		place.Size -= n
		taken -= n
	}
	if len(s.Places) > 0 && taken > 0 {
		of := map[string]float64{}
		for _, leaf := range p.Tree().Leaves(s.Item) {
			if x := &p.Items[leaf]; x.Team == team && x.Size != nil {
				of[x.Iteration] += *x.Size
			}
		}
		for i := range s.Places {
			take(&s.Places[i], of[s.Places[i].Iteration])
		}
	}
	for i := range s.Places {
		take(&s.Places[i], math.Inf(1))
	}
	s.Places = slices.DeleteFunc(s.Places, func(place program.RoughPlace) bool { return place.Size < tiny })
	s.Loose = max(0, s.Rest-sum)
}

func wholeOf(p *Plan) *Plan {
	states := Roughs(p)
	if !slices.ContainsFunc(states, func(s RoughState) bool { return s.Rest > 0 }) {
		return p
	}
	tree, past := p.Tree(), PastSizes(p)
	most := max(1, min(mostPieces, mostPiecesAll/len(states)))
	type cut struct {
		program.Item
		Piece
	}
	behind, n := map[int][]cut{}, 0 // pieces, by the position that they follow
	for k := range states {
		s := &states[k]
		after := s.Item
		if leaves := tree.Leaves(s.Item); len(leaves) > 0 {
			after = slices.Max(leaves)
		}
		shares := sharesOf(s.Rough, s.Covered)
		for nth, piece := range s.pieces(p, past, most) {
			behind[after] = append(behind[after], cut{piece, Piece{s.Item, nth, shares}})
			n++
		}
	}
	next := p.Program
	next.Items = make([]program.Item, 0, len(p.Items)+n)
	at, pieces := make([]int, len(p.Items)), make(map[int]Piece, n)
	for i := range p.Items {
		at[i] = len(next.Items)
		next.Items = append(next.Items, p.Items[i])
		for _, x := range behind[i] {
			pieces[len(next.Items)] = x.Piece
			next.Items = append(next.Items, x.Item)
		}
	}
	for i, piece := range pieces {
		piece.Of = at[piece.Of]
		pieces[i] = piece
	}
	whole := Of(next)
	whole.of, whole.pieces, whole.Gone = p, pieces, p.Gone
	return whole
}

// pieces are what the rest is cut into, where it stands first and by time.
func (s *RoughState) pieces(p *Plan, past func(*program.Item) []float64, most int) (pieces []program.Item) {
	group := &p.Items[s.Item]
	like := program.Item{Kind: group.Kind, Parent: group.Key, Title: group.Title, Team: s.Rough.Team, Role: group.Role, NotBefore: group.NotBefore, State: program.Todo}
	if group.Kind.IsGroup() {
		like.Kind = program.Story
	}
	size, ok := UsualSize(past(&like))
	if !ok || size <= 0 {
		size = s.Rest / 10
	}
	size = max(size, s.Rest/float64(most))
	add := func(iteration string, amount float64) {
		for amount > tiny {
			part := min(size, amount)
			if amount-part < tiny {
				part = amount
			}
			piece := like
			// No key of an item can have such a sign in it.
			piece.Key = group.Key + "\x1f" + s.Rough.Team + "\x1f" + strconv.Itoa(len(pieces))
			piece.Size, piece.Iteration = &part, iteration
			pieces = append(pieces, piece)
			amount -= part
		}
	}
	for _, place := range s.Places {
		add(place.Iteration, place.Size)
	}
	add("", s.Loose)
	return pieces
}
