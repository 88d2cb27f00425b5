package program

import (
	"cmp"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// Words says what is wrong where, in the words that people know the things by: for pages.
// String has the path, for who looks into the document.
func (p Problem) Words() string {
	if p.Where == "" {
		return p.Text
	}
	return p.Where + ": " + p.Text
}

// PlaceInWords says a place of a document in words: teams[1].members[3].share is "Team Tide &
// Weather, member 4, share". thing is what stands at its first part, decoded from JSON; nil
// where that is not known.
func PlaceInWords(path string, thing any) string {
	if path == "" || path == "document" {
		return ""
	}
	var said []string
	fields := registry[KindProgram].Fields
	for i, part := range strings.Split(path, ".") {
		name, index, indexed := cutIndex(part)
		var field Field
		if i == 0 {
			if info, ok := kindOfList(name); ok {
				field = Field{Title: info.Title, Parts: info.Fields}
			}
		} else if object, ok := thing.(map[string]any); ok {
			thing = object[name]
		} else {
			thing = nil
		}
		if field.Title == "" {
			if at := slices.IndexFunc(fields, func(f Field) bool { return f.Name == name }); at >= 0 {
				field = fields[at]
			}
		}
		words := field.Title
		if words == "" {
			words = spaced(name)
		}
		if indexed {
			if list, ok := thing.([]any); ok && i > 0 && index < len(list) {
				thing = list[index]
			} else if i > 0 {
				thing = nil
			}
			words = one(words) + " " + nameOf(thing, index)
		}
		said = append(said, strings.ToLower(words[:1])+words[1:])
		fields = field.Parts
	}
	text := []rune(strings.Join(said, ", "))
	text[0] = unicode.ToUpper(text[0])
	return string(text)
}

// inWords says where each problem is, of the program that has them.
func (ps Problems) inWords(p Program) Problems {
	const most = 100
	for i := range ps[:min(len(ps), most)] {
		ps[i].Where = PlaceInWords(ps[i].Path, p.first(ps[i].Path))
	}
	return ps
}

// first is what stands at the first part of a path, as JSON has it; nil for nothing.
func (p Program) first(path string) any {
	part, _, _ := strings.Cut(path, ".")
	name, index, indexed := cutIndex(part)
	field, ok := fieldOf(reflect.TypeFor[Program](), name)
	if !ok {
		return nil
	}
	found := reflect.ValueOf(p).FieldByIndex(field.Index)
	if indexed {
		if found.Kind() != reflect.Slice || index >= found.Len() {
			return nil
		}
		found = found.Index(index)
	}
	text, err := json.Marshal(found.Interface())
	var thing any
	if err != nil || json.Unmarshal(text, &thing) != nil {
		return nil
	}
	return thing
}

// Describe names a thing in a few words, by what people call it: the iteration LC·12 of Lamp
// Control. What is not there goes by its key.
func (p Program) Describe(ref Ref) string {
	switch ref.Kind {
	case KindNeed, KindComment, KindTimeEntry, KindSnooze:
		return ref.Describe()
	}
	return strings.TrimSpace(string(ref.Kind) + " " + p.Called(ref))
}

// Called is what people call a thing that has a key: LC·12 of Lamp Control. What is not there,
// or has no name, goes by its key.
func (p Program) Called(ref Ref) string {
	if ref.Kind == KindItem {
		return ref.Key
	}
	name := cmp.Or(p.label(ref), ref.Key)
	if ref.Kind == KindIteration {
		name += " of " + p.Called(Ref{Kind: KindTeam, Key: ref.In})
	}
	return name
}

// DescribeChange says what a change is in a few words, of the program as it is before.
func (p Program) DescribeChange(c Change) string { return c.described(p.Describe(c.Ref)) }

// label is the name of a thing; empty where it is not there or has none.
func (p Program) label(ref Ref) string {
	e := registry[ref.Kind]
	if e == nil {
		return ""
	}
	thing, _, ok := e.find(&p, ref.name())
	if !ok {
		return ""
	}
	field := reflect.Indirect(thing).FieldByName("Name")
	if !field.IsValid() || field.Kind() != reflect.String {
		return ""
	}
	return field.String()
}

func kindOfList(list string) (*KindInfo, bool) {
	at := slices.IndexFunc(Kinds, func(k KindInfo) bool { return k.List == list && list != "" })
	if at < 0 {
		return nil, false
	}
	return &Kinds[at], true
}

// cutIndex takes a part of a path apart: items[3] is items and 3.
func cutIndex(part string) (name string, index int, indexed bool) {
	name, rest, indexed := strings.Cut(part, "[")
	if !indexed {
		return part, 0, false
	}
	index, err := strconv.Atoi(strings.TrimSuffix(rest, "]"))
	return name, index, err == nil && index >= 0
}

// nameOf is what people call a thing of a list: its key and title, its name, or else which one
// of the list it is.
func nameOf(thing any, index int) string {
	object, _ := thing.(map[string]any)
	text := func(name string) string {
		s, _ := object[name].(string)
		return strings.TrimSpace(s)
	}
	switch {
	case text("title") != "" && text("key") != "":
		return text("key") + " “" + text("title") + "”"
	case text("name") != "":
		return text("name")
	case text("key") != "":
		return text("key")
	}
	return strconv.Itoa(index + 1)
}

// one is a word for one of several: "Members" is a member.
func one(words string) string {
	if cut, ok := strings.CutSuffix(words, "s"); ok {
		return cut
	}
	return words
}

// spaced writes a name of the document as words: lengthDays is "length days".
func spaced(name string) string {
	var out strings.Builder
	for i, r := range name {
		if unicode.IsUpper(r) && i > 0 {
			out.WriteByte(' ')
		}
		out.WriteRune(unicode.ToLower(r))
	}
	if out.Len() == 0 {
		return fmt.Sprintf("%q", name)
	}
	return out.String()
}
