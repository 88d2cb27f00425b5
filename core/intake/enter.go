package intake

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// enterable are the fields of an item that a cell can give, in the order in which they
// are read: a place is one of the team's.
var enterable = func() (fields []*program.Field) {
	info, _ := program.InfoOf(program.KindItem)
	for i := range info.Fields {
		if f := &info.Fields[i]; f.Enter && !f.Fixed {
			fields = append(fields, f)
		}
	}
	return fields
}()

// enter gives a field of an item what a cell says.
func (r *reader) enter(item *program.Item, f *program.Field, text string) error {
	if f.Name == "title" && text == "" {
		return errors.New("the title is empty")
	}
	value, err := r.read(item, f, text)
	if err != nil {
		return err
	}
	slot := program.ValueOf(program.KindItem, f.Name)(item)
	slot.Set(reflect.ValueOf(value).Convert(slot.Type()))
	if f.Name == "release" {
		// An item with an empty cell is in no release, whatever its parents are in.
		item.NoRelease = text == "" && r.inherited(item) != ""
	}
	return nil
}

// inherits is what a cell of the release says that takes the parent's.
const inherits = "inherited"

// inherited is the release that an item takes from its parents.
func (r *reader) inherited(item *program.Item) string {
	tree := r.p.Tree()
	if parent, known := tree.Index[item.Parent]; known {
		return tree.Release(parent)
	}
	return ""
}

// read makes a value of a cell.
func (r *reader) read(item *program.Item, f *program.Field, text string) (any, error) {
	switch f.Sort {
	case program.Number:
		return sizeOf(text)
	case program.Many:
		return Words(text), nil
	case program.Day:
		return dateOf(text)
	case program.Flag:
		return flagOf(text)
	case program.Choice:
		return r.choose(item, f, text)
	case program.Parts: // of those that a cell can give, rough sizes
		return r.rough(text)
	default:
		if f.Name == "priority" {
			return r.priority(text)
		}
		return strings.ReplaceAll(text, "\r\n", "\n"), nil
	}
}

// priority finds which of the program's priorities is meant, whatever the case.
func (r *reader) priority(text string) (string, error) {
	all := r.p.Settings.Priorities
	for _, name := range all {
		if strings.EqualFold(name, text) {
			return name, nil
		}
	}
	switch {
	case text == "":
		return "", nil
	case len(all) == 0:
		return "", errors.New("the program has no priorities beside the rank; it may get some in the backlog, under More, Priorities")
	}
	return "", fmt.Errorf("%q is no priority of the program; it is one of %s", text, strings.Join(all, ", "))
}

// rough reads rough sizes, each a team's name or key and a figure or a range behind it: "LC 30,
// Tide & Weather 20–40".
func (r *reader) rough(text string) (list []program.Rough, err error) {
	for _, word := range Words(text) {
		at := strings.LastIndexByte(word, ' ')
		if at < 0 {
			return nil, fmt.Errorf("%q is no rough size; write a team and a figure or a range, as in LC 20–40", word)
		}
		team, err := r.find.team(strings.TrimSpace(word[:at]))
		if err != nil {
			return nil, err
		}
		least, most, ranged := strings.Cut(strings.ReplaceAll(word[at+1:], "–", "-"), "-")
		x := program.Rough{Team: team}
		size, err := sizeOf(least)
		if err == nil && ranged {
			x.UpTo, err = sizeOf(most)
		}
		if err != nil || size == nil || ranged && x.UpTo == nil {
			return nil, fmt.Errorf("%q is no rough size; write a figure or a range, as in 20–40", word[at+1:])
		}
		x.Size = *size
		list = append(list, x)
	}
	return list, nil
}

// choose finds which of the values that a field can have is meant.
func (r *reader) choose(item *program.Item, f *program.Field, text string) (string, error) {
	switch f.Names {
	case "":
		return wordOf(text, strings.ToLower(f.Title), f.Values, otherWords[f.Name])
	case program.KindItem:
		return r.parent(item, text)
	case program.KindIteration:
		return optional(text, func(text string) (string, error) { return r.find.iteration(item.Team, text) })
	}
	return optional(text, func(text string) (string, error) {
		key, err := r.find.named(f.Names, text)
		if err != nil && f.Name == "release" && strings.EqualFold(text, inherits) {
			return "", nil
		}
		return key, err
	})
}

// otherWords are what else stands for a value, in small letters; the empty one is what
// an empty cell means.
var otherWords = map[string]map[string]string{
	"kind":  {"": string(program.Story)},
	"state": {"": string(program.Todo), "to do": string(program.Todo), "in review": string(program.Review)},
}

func optional(text string, find func(string) (string, error)) (string, error) {
	if text == "" {
		return "", nil
	}
	return find(text)
}

// parent finds what an item is part of, or makes a feature for it.
func (r *reader) parent(item *program.Item, text string) (string, error) {
	if text == "" {
		return "", nil
	}
	key, err := r.find.parent(text)
	if err != nil && r.o.MakeParents && !r.find.ambiguous(text) {
		feature := program.Item{Key: r.keys.Next(program.Feature, ""), Title: text, Kind: program.Feature}
		r.made = append(r.made, feature)
		r.find.add(feature.Key, text, program.Feature)
		return feature.Key, nil
	}
	if key == item.Key {
		return "", fmt.Errorf("%s cannot be part of itself", key)
	}
	return key, err
}

// kindOf reads a kind of item.
func kindOf(text string) (program.ItemKind, error) {
	f, _ := program.FieldOf(program.KindItem, "kind")
	word, err := wordOf(text, "kind", f.Values, otherWords["kind"])
	return program.ItemKind(word), err
}

func wordOf(text, what string, words []string, others map[string]string) (string, error) {
	small := strings.ToLower(strings.TrimSpace(text))
	if word, ok := others[small]; ok {
		return word, nil
	}
	if slices.Contains(words, small) {
		return small, nil
	}
	return "", fmt.Errorf("%q is no %s; it is one of %s", text, what, strings.Join(words, ", "))
}

// sizeOf reads a size, with a unit after it or without: 5, 3.5, 3,5, "5 pt".
func sizeOf(text string) (*float64, error) {
	number := strings.TrimSpace(strings.TrimRight(strings.ToLower(text), "abcdefghijklmnopqrstuvwxyz. "))
	if text == "" {
		return nil, nil
	}
	if strings.Count(number, ",") == 1 && !strings.Contains(number, ".") {
		number = strings.Replace(number, ",", ".", 1)
	}
	size, err := strconv.ParseFloat(number, 64)
	if err != nil || math.IsInf(size, 0) || math.IsNaN(size) {
		return nil, fmt.Errorf("%q is not a size; write a number", text)
	}
	if size < 0 {
		return nil, fmt.Errorf("the size %s is below 0", text)
	}
	return &size, nil
}

// The days that a spreadsheet counts since 30 December 1899 and that are taken for
// dates: those from 1954 to 2118.
const firstSerial, lastSerial = 20_000, 80_000

// dateOf reads a date: 2027-06-25, or the number that spreadsheets keep it as.
func dateOf(text string) (program.Date, error) {
	if text == "" {
		return 0, nil
	}
	if n, err := strconv.ParseFloat(text, 64); err == nil && n >= firstSerial && n < lastSerial {
		return calendar.MustParse("1899-12-30").Add(int(n)), nil
	}
	day, err := calendar.Parse(text)
	if err != nil {
		return 0, fmt.Errorf("%q is not a date; write it as 2027-06-25", text)
	}
	return day, nil
}

func flagOf(text string) (bool, error) {
	switch strings.ToLower(text) {
	case "yes", "y", "true", "1", "x":
		return true, nil
	case "", "no", "n", "false", "0":
		return false, nil
	}
	return false, fmt.Errorf("%q is neither yes nor no", text)
}

// Words takes a list in one cell apart: set off by commas, semicolons or lines;
// what has one of these inside stands in double quotes.
func Words(text string) []string {
	var words []string
	var word strings.Builder
	quoted := false
	end := func() {
		if w := strings.TrimSpace(word.String()); w != "" && !slices.Contains(words, w) {
			words = append(words, w)
		}
		word.Reset()
	}
	for _, r := range text {
		switch {
		case r == '"':
			quoted = !quoted
		case !quoted && (r == ',' || r == ';' || r == '\n'):
			end()
		default:
			word.WriteRune(r)
		}
	}
	end()
	return words
}

// differences returns the changes that make one item the other.
func differences(ref program.Ref, before, after program.Item) []program.Change {
	var changes []program.Change
	a, b := reflect.ValueOf(before), reflect.ValueOf(after)
	for i := range a.NumField() {
		if !reflect.DeepEqual(a.Field(i).Interface(), b.Field(i).Interface()) {
			name, _, _ := strings.Cut(a.Type().Field(i).Tag.Get("json"), ",")
			changes = append(changes, program.SetTo(ref, name, b.Field(i).Interface()))
		}
	}
	return changes
}
