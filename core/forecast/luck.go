package forecast

import (
	"hash/fnv"
	"math/bits"
)

// luck draws for the plays of a game. What it draws depends on its seed, the play and what is
// drawn for, on nothing else: an edit elsewhere in the plan changes nobody's luck, and play n
// is the same whoever plays it.
type luck struct {
	seed, plays uint64
	half        uint // bits of half a number that holds a play
}

func newLuck(seed uint64, plays int) luck {
	return luck{seed: seed, plays: uint64(plays), half: uint(bits.Len64(uint64(plays-1))+1) / 2}
}

// of is the luck of one thing that is drawn for, named by a and b.
func (l luck) of(a, b uint64) lot {
	key := draw(l.seed, a, b)
	return lot{luck: l, key: key, within: mix(key*drawA + 1)}
}

// lot is the luck of one thing.
type lot struct {
	luck
	key    uint64
	within uint64   // what draw makes of its key
	table  []uint16 // what each round of the permutation makes of each half; nil: worked out each time
}

// tabled is the same luck, for one that is asked for in many plays: a table of 4·2^half numbers
// instead of four mixes, twice or so, in each of them.
func (l lot) tabled() lot {
	if l.half > 16 {
		return l
	}
	l.table = make([]uint16, rounds<<l.half)
	for i := range l.table {
		round, x := uint64(i)>>l.half, uint64(i)&(1<<l.half-1)
		l.table[i] = uint16(l.turn(x, round))
	}
	return l
}

// pick returns a number below n. Over all plays it is stratified: each number comes up in as many
// plays as the others, but for two at most. The plays stand in a random order of their own for each
// thing (a permutation by a Feistel network of four rounds, walked on until it falls among the
// plays), and their place in it, with a random part of a step, is the share of n that is picked: a
// Latin hypercube.
func (l *lot) pick(play uint64, n int) int {
	at := play
	for {
		at = l.shuffle(at)
		if at < l.plays {
			break
		}
	}
	within := float64(mix(mix(l.within^play*drawB)^drawC)>>11) / (1 << 53)
	return min(n-1, int((float64(at)+within)/float64(l.plays)*float64(n)))
}

const rounds = 4

// shuffle is a permutation of the numbers of twice half bits.
func (l *lot) shuffle(x uint64) uint64 {
	mask := uint64(1)<<l.half - 1
	left, right := x>>l.half, x&mask
	if l.table != nil {
		for round := range uint64(rounds) {
			left, right = right, left^uint64(l.table[round<<l.half|right])
		}
		return left<<l.half | right
	}
	for round := range uint64(rounds) {
		left, right = right, left^l.turn(right, round)
	}
	return left<<l.half | right
}

// turn is the function of a round.
func (l *lot) turn(half, round uint64) uint64 {
	return mix(half^l.key+round*drawA) & (uint64(1)<<l.half - 1)
}

// Odd numbers that set the arguments of draw apart: those of SplitMix64.
const (
	drawA = 0x9E3779B97F4A7C15
	drawB = 0xBF58476D1CE4E5B9
	drawC = 0x94D049BB133111EB
)

// draw mixes its arguments into a number.
func draw(a, b, c uint64) uint64 { return mix(mix(mix(a*drawA+1)^b*drawB) ^ c*drawC) }

// mix is the finaliser of SplitMix64.
func mix(x uint64) uint64 {
	x ^= x >> 30
	x *= drawB
	x ^= x >> 27
	x *= drawC
	return x ^ x>>31
}

func hash(key string) uint64 {
	h := fnv.New64a()
	_, _ = h.Write([]byte(key))
	return h.Sum64()
}
