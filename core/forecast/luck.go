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

// pick returns a number below n for one thing that is drawn for, named by a and b. Over all
// plays it is stratified: each number comes up in as many plays as the others, but for two at most.
// The plays stand in a random order of their own for each thing (a permutation by a Feistel
// network of four rounds, walked on until it falls among the plays), and their place in it,
// with a random part of a step, is the share of n that is picked: a Latin hypercube.
func (l luck) pick(play, a, b uint64, n int) int {
	key := draw(l.seed, a, b)
	at := play
	for {
		at = l.shuffle(at, key)
		if at < l.plays {
			break
		}
	}
	within := float64(draw(key, play, 1)>>11) / (1 << 53)
	return min(n-1, int((float64(at)+within)/float64(l.plays)*float64(n)))
}

// shuffle is a permutation of the numbers of twice half bits.
func (l luck) shuffle(x, key uint64) uint64 {
	mask := uint64(1)<<l.half - 1
	left, right := x>>l.half, x&mask
	for round := range uint64(4) {
		left, right = right, left^mix(right^key+round*0x9E3779B97F4A7C15)&mask
	}
	return left<<l.half | right
}

// draw mixes its arguments into a number.
func draw(a, b, c uint64) uint64 {
	return mix(mix(mix(a*0x9E3779B97F4A7C15+1)^b*0xBF58476D1CE4E5B9) ^ c*0x94D049BB133111EB)
}

// mix is the finaliser of SplitMix64.
func mix(x uint64) uint64 {
	x ^= x >> 30
	x *= 0xBF58476D1CE4E5B9
	x ^= x >> 27
	x *= 0x94D049BB133111EB
	return x ^ x>>31
}

func hash(key string) uint64 {
	h := fnv.New64a()
	_, _ = h.Write([]byte(key))
	return h.Sum64()
}
