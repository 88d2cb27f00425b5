package program

import "reflect"

// Rekeyed returns p with things of a kind under other keys, and all that names them with them.
// It goes once through the program.
func (p Program) Rekeyed(kind Kind, keys map[string]string) (Program, error) {
	things, err := p.Things(func(Ref) bool { return true })
	if err != nil {
		return p, err
	}
	fresh, err := FromThings(things) // shares nothing with p: it may be written to
	if err != nil {
		return p, err
	}
	r := rekeying{kind, keys}
	for _, e := range entries {
		if e.Kind != kind && len(e.naming) == 0 {
			continue
		}
		e.walk(&fresh, func(_ name, _ int, thing reflect.Value) {
			for _, s := range e.naming {
				r.mend(s, thing.FieldByIndex(s.index))
			}
			if key := thing.FieldByName("Key"); e.Kind == kind && key.IsValid() {
				r.put(key)
			}
		})
	}
	return fresh, nil
}

type rekeying struct {
	kind Kind
	keys map[string]string
}

func (r rekeying) put(key reflect.Value) {
	if to, is := r.keys[key.String()]; is {
		key.SetString(to)
	}
}

// mend puts the other keys into a field that names things, or into its parts.
func (r rekeying) mend(s *slot, value reflect.Value) {
	switch {
	case s.Names == r.kind && value.Kind() == reflect.String:
		r.put(value)
	case s.Names == r.kind:
		for i := range value.Len() {
			r.put(value.Index(i))
		}
	case s.Names == "":
		for i := range value.Len() {
			for j := range s.parts {
				if s.parts[j].names {
					r.mend(&s.parts[j], value.Index(i).FieldByIndex(s.parts[j].index))
				}
			}
		}
	}
}

// NamedBy are the things that a thing of p names, with what holds it: without them it cannot be as it is.
func (p Program) NamedBy(ref Ref) []Ref {
	return p.names(ref, func(*slot) bool { return true })
}

// GoesWith are the things that a thing of p goes with, see [Forget].
func (p Program) GoesWith(ref Ref) []Ref {
	return p.names(ref, func(s *slot) bool { return s.Names != "" && s.Gone == Dropped })
}

// names are the things that a thing names in some of its fields, with what holds it.
func (p Program) names(ref Ref, in func(*slot) bool) []Ref {
	e := registry[ref.Kind]
	thing, _, ok := e.find(&p, ref.name())
	if !ok {
		return nil
	}
	var refs []Ref
	if e.Nested {
		refs = append(refs, Ref{Kind: e.In, Key: ref.In})
	}
	for _, s := range e.naming {
		if in(s) {
			refs = s.named(thing, thing.FieldByIndex(s.index), refs)
		}
	}
	return refs
}

// named adds to refs what a value of a field names.
func (s *slot) named(holder, value reflect.Value, refs []Ref) []Ref {
	switch {
	case s.Names != "" && value.Kind() == reflect.String:
		if value.Len() > 0 {
			refs = append(refs, target(s, holder, value.String()))
		}
	case s.Names != "":
		for i := range value.Len() {
			refs = append(refs, target(s, holder, value.Index(i).String()))
		}
	default:
		for i := range value.Len() {
			part := value.Index(i)
			for j := range s.parts {
				if s.parts[j].names {
					refs = s.parts[j].named(part, part.FieldByIndex(s.parts[j].index), refs)
				}
			}
		}
	}
	return refs
}
