package program_test

import (
	"encoding/json"
	"math"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jantrel/core/calendar"
	"jantrel/core/program"
	"jantrel/core/sample"
)

// Every number of every thing has bounds, and so has every date, wherever it stands: what
// nobody can mean is refused. Numbers are looked for in the types, so that none is forgotten.
func TestEveryNumberAndDateHasBounds(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 3, Iterations: 4, Items: 12, Needs: 8, Wild: true, Rough: true})
	p.Releases[0].Phases = []program.Phase{{Key: "f", Name: "Build", Start: sample.Today, End: sample.Today.Add(3)}}
	p.Milestones = []program.Milestone{{Key: "m", Name: "Trial", Date: sample.Today}}
	p.PhaseTemplates = []program.PhaseTemplate{{Key: "t", Name: "Usual", Phases: []program.TemplatePhase{{Name: "Build", Days: 3}}}}
	p.Patterns = []program.Pattern{{Key: "x", Name: "X", Parts: []program.PatternPart{{Title: "A", Kind: program.Story, Size: new(float64)}}}}
	p.Repeats = []program.Repeat{{Key: "r", Title: "R", Kind: program.Upkeep, Size: new(float64)}}
	p.Settings.Ready = &program.ReadyRule{Largest: map[program.Unit]float64{program.Points: 5}}
	p.Settings.Mix = map[program.ItemKind]float64{program.Story: 0.5}
	require.Empty(t, program.Validate(p))
	seen := 0
	for _, extreme := range []float64{math.MaxFloat64, -1, 1e300} {
		tried := map[string]bool{}
		each(reflect.ValueOf(&p).Elem(), "program", func(at string, set func(float64)) {
			if tried[at] { // one of each field will do
				return
			}
			tried[at] = true
			set(extreme)
			assert.NotEmpty(t, program.Validate(p), "%s at %g", at, extreme)
		})
		seen = len(tried)
	}
	assert.Greater(t, seen, 30)
	require.Empty(t, program.Validate(p), "all was put back")
}

// sense are those for which any number will do: where none can be wrong.
var sense = map[string]bool{"program.Today": true, "program.Views.Columns.Width": true}

// each has do called for every number and date below v, with a way to set it, and puts back
// what was there.
func each(v reflect.Value, at string, do func(at string, set func(float64))) {
	number := func(set func(float64)) {
		if !sense[at] {
			before := reflect.New(v.Type()).Elem()
			before.Set(v)
			do(at, set)
			v.Set(before)
		}
	}
	switch {
	case v.Type() == reflect.TypeFor[calendar.Date]():
		number(func(x float64) {
			v.SetInt(int64(calendar.MustParse("9999-12-31")))
			if x < 0 {
				v.SetInt(int64(calendar.MustParse("0001-02-03")))
			}
		})
	case v.Kind() == reflect.Float64:
		number(v.SetFloat)
	case v.Kind() == reflect.Int:
		number(func(x float64) {
			v.SetInt(math.MaxInt32)
			if x < 0 {
				v.SetInt(-1)
			}
		})
	case v.Kind() == reflect.Pointer && !v.IsNil():
		inner := reflect.New(v.Type().Elem())
		inner.Elem().Set(v.Elem())
		old := reflect.ValueOf(v.Interface())
		v.Set(inner)
		each(v.Elem(), at, do)
		v.Set(old)
	case v.Kind() == reflect.Struct:
		for i := range v.NumField() {
			each(v.Field(i), at+"."+v.Type().Field(i).Name, do)
		}
	case v.Kind() == reflect.Slice:
		for i := range v.Len() {
			each(v.Index(i), at, do)
		}
	case v.Kind() == reflect.Map:
		for _, key := range v.MapKeys() {
			old := v.MapIndex(key)
			if old.Kind() == reflect.Float64 {
				do(at, func(x float64) { v.SetMapIndex(key, reflect.ValueOf(x)) })
				v.SetMapIndex(key, old)
			}
		}
	}
}

// What is as large as may be can still be added up and written.
func TestTheLargestNumbersCanBeWritten(t *testing.T) {
	p := sample.Program(3, sample.Shape{Teams: 3, Iterations: 4, Items: 200, Needs: 8})
	most := 1e6
	for i := range p.Items {
		p.Items[i].Size = &most
	}
	require.Empty(t, program.Validate(p))
	_, err := json.Marshal(p)
	require.NoError(t, err)
}
