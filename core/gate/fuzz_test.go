package gate_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"jantrel/core/gate"
	"jantrel/core/plan"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// Whatever changes are sent: they are refused and nothing has happened, or they lead to a
// program that keeps the rules, and taken back to the one from before.
func FuzzChanges(f *testing.F) {
	f.Add(`[{"op":"set","kind":"item","key":"I1","field":"title","value":"X"}]`)
	f.Add(`[{"op":"add","kind":"need","in":"I1","key":"I2","value":{"item":"I1","needs":"I2"}},{"op":"move","kind":"item","key":"I3","at":0}]`)
	f.Add(`[{"op":"remove","kind":"iteration","in":"T0","key":"T0-1"},{"op":"set","kind":"program","field":"fillTo","value":1e308}]`)
	f.Add(`[{"op":"add","kind":"item","key":"I\u0000","value":{"key":"I\u0000","kind":"story","size":-0}}]`)
	p := sample.Program(7, sample.Shape{Teams: 2, Iterations: 4, Items: 8, Needs: 4, Wild: true, Rough: true})
	before, err := json.Marshal(p)
	require.NoError(f, err)
	f.Fuzz(func(t *testing.T, text string) {
		var changes []program.Change
		if json.Unmarshal([]byte(text), &changes) != nil {
			return
		}
		next, applied, err := gate.Try(plan.Of(p), changes)
		same, encodeErr := json.Marshal(p)
		require.NoError(t, encodeErr)
		require.Equal(t, string(before), string(same), "what was given is never altered")
		if err != nil {
			return
		}
		require.Empty(t, program.Validate(next.Program))
		back, err := program.Rewind(next.Program, applied)
		require.NoError(t, err)
		again, err := json.Marshal(back)
		require.NoError(t, err)
		require.Equal(t, string(before), string(again))
	})
}
