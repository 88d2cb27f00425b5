package intake

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"jantrel/core/plan"
	"jantrel/core/program"
)

// finder finds things by what people call them: their key, or else their name in
// whatever case. What takes a look at every item or iteration is made when it is first
// asked for: a single cell mostly names neither.
type finder struct {
	p          *plan.Plan
	names      map[program.Kind]map[string][]string // name in small letters to keys
	exact      map[program.Kind]map[string]bool     // their keys
	iterations map[string]map[string]string         // of the teams asked about: key or name to key
	added      []program.Item                       // items that are to be made
	fresh      map[string]bool                      // their keys
	titled     map[string][]string                  // title in small letters to keys of items
	groups     map[string][]string                  // the same of what may be a parent
	needs      map[string][]string                  // of each item: what it needs
}

func newFinder(p *plan.Plan) *finder {
	f := &finder{p: p, names: map[program.Kind]map[string][]string{}, exact: map[program.Kind]map[string]bool{}, iterations: map[string]map[string]string{}, fresh: map[string]bool{}}
	put := func(kind program.Kind, key, name string) {
		if f.names[kind] == nil {
			f.names[kind], f.exact[kind] = map[string][]string{}, map[string]bool{}
		}
		f.exact[kind][key] = true
		for _, word := range []string{key, name} {
			if small := strings.ToLower(strings.TrimSpace(word)); !slices.Contains(f.names[kind][small], key) {
				f.names[kind][small] = append(f.names[kind][small], key)
			}
		}
	}
	for _, t := range p.Teams {
		put(program.KindTeam, t.Key, t.Name)
	}
	for _, release := range p.Releases {
		put(program.KindRelease, release.Key, release.Name)
	}
	for _, person := range p.People {
		put(program.KindPerson, person.Key, person.Name)
	}
	return f
}

// add lets an item be found that is to be made.
func (f *finder) add(key, title string, kind program.ItemKind) {
	item := program.Item{Key: key, Title: title, Kind: kind}
	f.fresh[key] = true
	f.added = append(f.added, item)
	if f.titled != nil {
		f.title(&item, kind.IsGroup())
	}
}

// title lets an item be found by its title.
func (f *finder) title(item *program.Item, group bool) {
	small := strings.ToLower(strings.TrimSpace(item.Title))
	f.titled[small] = append(f.titled[small], item.Key)
	if group {
		f.groups[small] = append(f.groups[small], item.Key)
	}
}

// titles makes the lists by title.
func (f *finder) titles() {
	if f.titled != nil {
		return
	}
	f.titled, f.groups = make(map[string][]string, len(f.p.Items)), map[string][]string{}
	tree := f.p.Tree()
	for i := range f.p.Items {
		item := &f.p.Items[i]
		f.title(item, item.Kind.IsGroup() || !tree.IsLeaf(i))
	}
	for i := range f.added {
		f.title(&f.added[i], f.added[i].Kind.IsGroup())
	}
}

// namesakes is how many items have a title.
func (f *finder) namesakes(title string) int {
	f.titles()
	return len(f.titled[strings.ToLower(title)])
}

// needsOf is what an item needs.
func (f *finder) needsOf(key string) []string {
	if f.needs == nil {
		f.needs = make(map[string][]string, len(f.p.Needs))
		for _, n := range f.p.Needs {
			f.needs[n.Item] = append(f.needs[n.Item], n.Needs)
		}
	}
	return f.needs[key]
}

// named finds a thing of a kind by its key or name.
func (f *finder) named(kind program.Kind, text string) (string, error) {
	if f.exact[kind][text] {
		return text, nil
	}
	switch keys := f.names[kind][strings.ToLower(text)]; len(keys) {
	case 0:
		return "", fmt.Errorf("there is no %s %q", kind, text)
	case 1:
		return keys[0], nil
	default:
		return "", fmt.Errorf("%q is the name of %d; write the key, %s", text, len(keys), strings.Join(keys, " or "))
	}
}

func (f *finder) team(text string) (string, error) { return f.named(program.KindTeam, text) }

// iterationsOf are a team's iterations, by key and by name in small letters.
func (f *finder) iterationsOf(team string) map[string]string {
	if known := f.iterations[team]; known != nil {
		return known
	}
	known := map[string]string{}
	if t, ok := f.p.TeamAt()[team]; ok {
		for _, it := range f.p.Teams[t].Iterations {
			for _, name := range []string{strings.ToLower(it.Label()), it.Key} { // keys win
				known[name] = it.Key
			}
			known[strings.ToLower(it.Key)] = it.Key
		}
	}
	f.iterations[team] = known
	return known
}

func (f *finder) iteration(team, text string) (string, error) {
	if team == "" {
		return "", fmt.Errorf("it has no team, so it cannot stand in %q; give it a team", text)
	}
	known := f.iterationsOf(team)
	if key := cmp.Or(known[text], known[strings.ToLower(text)]); key != "" {
		return key, nil
	}
	return "", fmt.Errorf("team %s has no iteration %q", team, text)
}

func (f *finder) hasIteration(team, key string) bool { return f.iterationsOf(team)[key] == key }

// item finds an item by its key, new ones too.
func (f *finder) item(key string) (string, bool) {
	has := func(key string) bool {
		_, known := f.p.Tree().Index[key]
		return known || f.fresh[key]
	}
	if has(key) {
		return key, true
	}
	upper := strings.ToUpper(key)
	return upper, has(upper)
}

func (f *finder) ambiguous(title string) bool {
	f.titles()
	return len(f.groups[strings.ToLower(title)]) > 1
}

func (f *finder) parent(text string) (string, error) {
	if key, ok := f.item(text); ok {
		return key, nil
	}
	f.titles()
	switch keys := f.groups[strings.ToLower(text)]; len(keys) {
	case 0:
		return "", fmt.Errorf("there is no feature or initiative %q", text)
	case 1:
		return keys[0], nil
	default:
		return "", fmt.Errorf("%q is the title of %d; write the key, %s", text, len(keys), strings.Join(keys, " or "))
	}
}
