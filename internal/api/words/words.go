// Package words describes the core's types in the interface: what their fields mean, which
// texts they may hold, and how long lists may be. The core has no interface words; what it
// says of a field in its comment, and the values that it names of a type, stand in the
// description of the interface, and requests are checked against them.
package words

import (
	"reflect"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"
)

//go:generate go test -run TestTheWordsAreOfToday -write

// maxList is how many entries a list in a request may have where nothing else is said.
const maxList = 50_000

// Describe completes the description of an interface of which all operations are registered.
func Describe(api *huma.OpenAPI) {
	done := map[*huma.Schema]bool{}
	registry := api.Components.Schemas
	for name, schema := range registry.Map() {
		if t := registry.TypeFromRef("#/components/schemas/" + name); t != nil {
			describe(t, schema, done)
		}
	}
	for _, path := range api.Paths {
		for _, o := range []*huma.Operation{path.Get, path.Put, path.Post, path.Delete, path.Patch} {
			if o == nil || o.RequestBody == nil {
				continue
			}
			for _, media := range o.RequestBody.Content {
				limit(registry, media.Schema, map[*huma.Schema]bool{})
			}
		}
	}
}

// describe adds to the schema of a type what the core says of it.
func describe(t reflect.Type, s *huma.Schema, done map[*huma.Schema]bool) {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if s == nil || done[s] {
		return
	}
	done[s] = true
	switch {
	case t.Kind() == reflect.String && s.Enum == nil:
		for _, value := range choices[nameOf(t)] {
			s.Enum = append(s.Enum, value)
		}
	case t.Kind() == reflect.Slice || t.Kind() == reflect.Array:
		describe(t.Elem(), s.Items, done)
	case t.Kind() == reflect.Map:
		if values, ok := s.AdditionalProperties.(*huma.Schema); ok {
			describe(t.Elem(), values, done)
		}
	case t.Kind() == reflect.Struct && s.Ref == "":
		for _, f := range reflect.VisibleFields(t) {
			property := s.Properties[strings.Split(f.Tag.Get("json"), ",")[0]]
			if property == nil || f.Anonymous {
				continue
			}
			if text := fields[nameOf(owner(t, f))][f.Name]; text != "" {
				property.Description = sentence(text)
			}
			describe(f.Type, property, done)
		}
	}
	s.PrecomputeMessages()
}

// owner is the struct that a field is declared in: of a promoted one, the embedded struct.
func owner(t reflect.Type, f reflect.StructField) reflect.Type {
	for _, i := range f.Index[:len(f.Index)-1] {
		t = t.Field(i).Type
		for t.Kind() == reflect.Pointer {
			t = t.Elem()
		}
	}
	return t
}

// limit gives the lists of a request the limit of all lists, where they have none.
func limit(registry huma.Registry, s *huma.Schema, done map[*huma.Schema]bool) {
	if s != nil && s.Ref != "" {
		s = registry.SchemaFromRef(s.Ref)
	}
	if s == nil || done[s] {
		return
	}
	done[s] = true
	if s.Type == huma.TypeArray && s.MaxItems == nil {
		most := maxList
		s.MaxItems = &most
		s.PrecomputeMessages()
	}
	limit(registry, s.Items, done)
	for _, property := range s.Properties {
		limit(registry, property, done)
	}
	if values, ok := s.AdditionalProperties.(*huma.Schema); ok {
		limit(registry, values, done)
	}
}

// nameOf is what the tables call a type: program.Item.
func nameOf(t reflect.Type) string { return t.String() }

func sentence(text string) string {
	first, size := utf8.DecodeRuneInString(text)
	return string(unicode.ToUpper(first)) + text[size:]
}
