package program

// Tree is how the items of a program hang together. All positions are indexes
// into Program.Items.
type Tree struct {
	Index    map[string]int // item key to position
	Parent   []int          // position of the parent, -1 for none
	Children [][]int        // positions of the children, in rank order
	items    []Item
}

// TreeOf builds the tree. Parents that do not exist count as none.
func TreeOf(p Program) Tree {
	t := Tree{
		Index:    make(map[string]int, len(p.Items)),
		Parent:   make([]int, len(p.Items)),
		Children: make([][]int, len(p.Items)),
		items:    p.Items,
	}
	for i := range p.Items {
		t.Index[p.Items[i].Key] = i
	}
	for i := range p.Items {
		t.Parent[i] = -1
		if key := p.Items[i].Parent; key != "" {
			if parent, ok := t.Index[key]; ok {
				t.Parent[i] = parent
				t.Children[parent] = append(t.Children[parent], i)
			}
		}
	}
	return t
}

// IsLeaf reports whether the item at i has neither children nor, while it is not done, rough
// sizes: only leaves are scheduled.
func (t Tree) IsLeaf(i int) bool {
	return len(t.Children[i]) == 0 && (len(t.items[i].Rough) == 0 || t.items[i].State == Done)
}

// Leaves returns the leaves below the item at i, or i itself if it is one.
func (t Tree) Leaves(i int) []int {
	if t.IsLeaf(i) {
		return []int{i}
	}
	var leaves []int
	for _, child := range t.Children[i] {
		leaves = append(leaves, t.Leaves(child)...)
	}
	return leaves
}

// Release returns the release of the item at i: its own, or its nearest
// ancestor's; empty where neither has one, or where one on the way says NoRelease.
func (t Tree) Release(i int) string {
	for ; i >= 0; i = t.Parent[i] {
		if r := t.items[i].Release; r != "" || t.items[i].NoRelease {
			return r
		}
	}
	return ""
}

// Nearest returns the position of the item at i, if it is of a kind, or of the nearest item above it
// that is; -1 where none is. A position of -1 has none above it.
func (t Tree) Nearest(i int, kind ItemKind) int {
	for i >= 0 && t.items[i].Kind != kind {
		i = t.Parent[i]
	}
	return i
}

// ToSchedule reports whether the item at i is one that a schedule places: a
// leaf, not done, not kept out.
func (t Tree) ToSchedule(i int) bool {
	return t.IsLeaf(i) && t.items[i].State != Done && !t.items[i].KeptOut
}
