package live

import "reflect"

// weighed is how many elements of a long list are looked at: the others are taken to be like them.
const weighed = 48

// weigh is about how many bytes a value takes with all that it leads to. Of long lists some elements are looked at, evenly
// spread, so that it takes a fraction of the time that making the value takes. What several places lead to counts once,
// but for text. O(number of types and lists that it is made of).
func weigh(value any) int64 {
	w := weigher{seen: map[uintptr]bool{}}
	v := reflect.ValueOf(value)
	if !v.IsValid() {
		return 0
	}
	return int64(v.Type().Size()) + w.beyond(v)
}

// weighState is about how many bytes a state takes: its plan and facts, and what is made of these when somebody asks for it.
func weighState(s *State) int64 { return 2 * (weigh(s.Program) + weigh(s.Facts)) }

type weigher struct{ seen map[uintptr]bool }

// flat says of kinds that they lead nowhere.
func flat(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.String, reflect.Slice, reflect.Map, reflect.Pointer, reflect.Interface, reflect.Struct, reflect.Array:
		return false
	}
	return true
}

// beyond is how many bytes a value leads to, without its own.
func (w *weigher) beyond(v reflect.Value) int64 {
	switch v.Kind() {
	case reflect.String:
		return int64(v.Len())
	case reflect.Pointer:
		if v.IsNil() || w.seen[v.Pointer()] {
			return 0
		}
		w.seen[v.Pointer()] = true
		return int64(v.Type().Elem().Size()) + w.beyond(v.Elem())
	case reflect.Interface:
		if v.IsNil() {
			return 0
		}
		return int64(v.Elem().Type().Size()) + w.beyond(v.Elem())
	case reflect.Struct:
		total := int64(0)
		for i := range v.NumField() {
			total += w.beyond(v.Field(i))
		}
		return total
	case reflect.Array:
		return w.elements(v)
	case reflect.Slice:
		if v.Cap() == 0 || w.seen[v.Pointer()] {
			return 0
		}
		w.seen[v.Pointer()] = true
		return int64(v.Cap())*int64(v.Type().Elem().Size()) + w.elements(v)
	case reflect.Map:
		return w.entries(v)
	}
	return 0
}

// elements is what the elements of a list lead to.
func (w *weigher) elements(v reflect.Value) int64 {
	n := v.Len()
	if flat(v.Type().Elem()) || n == 0 {
		return 0
	}
	step := max(1, n/weighed)
	total, looked := int64(0), int64(0)
	for i := 0; i < n; i += step {
		total += w.beyond(v.Index(i))
		looked++
	}
	return total * int64(n) / looked
}

// entries is what a map takes: its table is about a half larger than what is in it.
func (w *weigher) entries(v reflect.Value) int64 {
	n := int64(v.Len())
	if n == 0 || w.seen[v.Pointer()] {
		return 0
	}
	w.seen[v.Pointer()] = true
	total, looked := int64(0), int64(0)
	for each := v.MapRange(); each.Next() && looked < weighed; looked++ {
		total += w.beyond(each.Key()) + w.beyond(each.Value())
	}
	own := n * int64(v.Type().Key().Size()+v.Type().Elem().Size()) * 3 / 2
	return own + total*n/looked
}
