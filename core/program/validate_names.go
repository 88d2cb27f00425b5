package program

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// allThings collects the names of everything, and reports those that stand twice.
func (v *validator) allThings() map[Kind]map[name]bool {
	there := make(map[Kind]map[name]bool, len(entries))
	for _, e := range entries {
		names := make(map[name]bool, e.count(v.p))
		e.walk(v.p, func(n name, at int, _ reflect.Value) {
			if names[n] || n.key == "" && e.List != "" {
				v.twice(e, n, v.place(e, n, at))
			}
			names[n] = true
		})
		there[e.Kind] = names
	}
	return there
}

// twice reports a thing without a key, or with one that another has.
func (v *validator) twice(e *entry, n name, path string) {
	switch {
	case e.Kind == KindNeed && n.key != "":
		v.report(path+"needs", "the need of %s on %s stands twice", n.in, n.key)
	case e.Kind == KindNeed: // a need on nothing is reported by what it names
	case n.key == "":
		v.report(path+"key", "is empty; every one needs a key")
	default:
		v.report(path+"key", "%q stands twice", n.key)
	}
}

// place is the path of a thing in the document, with a dot at its end.
func (v *validator) place(e *entry, n name, at int) string {
	switch {
	case e.List == "":
		return ""
	case e.Nested:
		return fmt.Sprintf("teams[%d].%s[%d].", v.teams[n.in], e.List, at)
	}
	return fmt.Sprintf("%s[%d].", e.List, at)
}

// names reports keys in a value that name nothing.
func (v *validator) names(s *slot, holder, value reflect.Value, at path) {
	switch {
	case s.Names != "" && value.Kind() == reflect.String:
		if key := value.String(); key != "" {
			v.exists(target(s, holder, key), at, s.Name)
		} else if !s.empty {
			v.report(at(s.Name), "no %s %q", registry[s.Names].Title, key)
		}
	case s.Names != "":
		for i := range value.Len() {
			v.exists(target(s, holder, value.Index(i).String()), func(field string) string { return at(fmt.Sprintf("%s[%d]", field, i)) }, s.Name)
		}
	default:
		for i := range value.Len() {
			for j := range s.parts {
				if part := &s.parts[j]; part.names {
					v.names(part, value.Index(i), value.Index(i).FieldByIndex(part.index), at.in("%s[%d]", s.Name, i))
				}
			}
		}
	}
}

func (v *validator) has(ref Ref) bool {
	if v.there != nil {
		return v.there[ref.Kind][ref.name()]
	}
	_, _, ok := registry[ref.Kind].find(v.p, ref.name())
	return ok
}

func (v *validator) exists(ref Ref, at path, field string) {
	if v.has(ref) {
		return
	}
	e := registry[ref.Kind]
	switch {
	case !e.Nested:
		v.report(at(field), "no %s %q", e.Title, ref.Key)
	case v.has(Ref{Kind: e.In, Key: ref.In}): // without a team there is another word about it
		v.report(at(field), "%s %q has no %s %q", registry[e.In].Title, ref.In, e.Title, ref.Key)
	}
}

// picks reports values that are none of those known.
func (v *validator) picks(s *slot, value reflect.Value, at path) {
	field := s.Name
	if len(s.index) > 1 { // of the program itself
		field = "settings." + field
	}
	if len(s.Values) > 0 {
		if text := value.String(); !(text == "" && s.empty) && !slices.Contains(s.Values, text) {
			v.report(at(field), "%q is none of %s", text, strings.Join(s.Values, ", "))
		}
		return
	}
	for i := range value.Len() {
		for j := range s.parts {
			if part := &s.parts[j]; part.picks {
				v.picks(part, value.Index(i).FieldByIndex(part.index), at.in("%s[%d]", field, i))
			}
		}
	}
}
