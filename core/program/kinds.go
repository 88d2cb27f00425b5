package program

// Sort says what values a field has, and so how they are read, compared and shown.
type Sort string

// The sorts of field.
const (
	Text   Sort = "text"
	Number Sort = "number"
	Choice Sort = "choice" // one of known values, by key
	Many   Sort = "many"   // several words or keys
	Day    Sort = "day"
	Flag   Sort = "flag"  // yes or no
	Parts  Sort = "parts" // a list of small things that belong to it
	Whole  Sort = "whole" // several values that belong together
)

// Gone is what becomes of a field when the thing that it names is removed.
type Gone int

// What becomes of it.
const (
	Cleared  Gone = iota // it names nothing, or one thing less, any more
	Dropped              // the part, or the thing, that holds it goes too
	Narrowed             // it names one less; a part that was for the removed thing alone goes
	Raised               // it names what the removed thing has in the same field
)

// Hands are who may set a field, beside administrators and program managers.
type Hands int

// Who may.
const (
	Managers Hands = iota // nobody else
	Leads                 // of a team lead's own
	Doers                 // the same, and who it is about or is assigned to
)

// Field is a row of the registry: what a thing says of itself, by its name in the
// program document.
type Field struct {
	Name   string
	Title  string // in words, as it stands at the head of a column
	Sort   Sort
	Values []string // of a Choice that names no thing
	Names  Kind     // what sort of thing its values are keys of
	Gone   Gone
	Parts  []Field // what each part says; Name is enough where it names nothing
	Fixed  bool    // never set: it identifies the thing, or stays as it was made
	Enter  bool    // of items: can be typed into a cell
	By     Hands
}

// KindInfo is what the registry holds of a kind.
type KindInfo struct {
	Kind   Kind
	Title  string // in words
	List   string // its list in a program document; empty for the program itself
	In     Kind   // the kind of thing that Ref.In names; empty for none
	Nested bool   // each thing of the kind In holds a list of its own
	Fields []Field
}

// Kinds is the one registry of what a program is made of. Applying changes, checking
// what is named, forgetting what is removed, storing, rights, the words of the history,
// the columns of the backlog and the page's own copy all follow from it. In this order
// things are stored and walked.
var Kinds = []KindInfo{
	{Kind: KindProgram, Title: "program", Fields: []Field{
		{Name: "name", Title: "Name", Sort: Text},
		{Name: "today", Title: "Today", Sort: Day},
		{Name: "holidays", Title: "Holidays", Sort: Parts, Parts: []Field{
			{Name: "date", Title: "Date", Sort: Day}, {Name: "name", Title: "Name", Sort: Text}, {Name: "teams", Title: "Teams", Sort: Many, Names: KindTeam, Gone: Narrowed}}},
		{Name: "phaseTemplates", Title: "Phase templates", Sort: Parts, Parts: []Field{
			{Name: "key", Title: "Key", Sort: Text}, {Name: "name", Title: "Name", Sort: Text}, {Name: "phases", Title: "Phases", Sort: Parts, Parts: []Field{
				{Name: "name", Title: "Name", Sort: Text}, {Name: "days", Title: "Days", Sort: Number}}}}},
		{Name: "patterns", Title: "Patterns", Sort: Parts, Parts: []Field{
			{Name: "key", Title: "Key", Sort: Text}, {Name: "name", Title: "Name", Sort: Text}, {Name: "parts", Title: "Parts", Sort: Parts, Parts: []Field{
				{Name: "title", Title: "Title", Sort: Text}, {Name: "kind", Title: "Kind", Sort: Choice, Values: words(leafKinds)}, {Name: "team", Title: "Team", Sort: Choice, Names: KindTeam},
				{Name: "role", Title: "Role", Sort: Text}, {Name: "size", Title: "Size", Sort: Number}, {Name: "tags", Title: "Tags", Sort: Many}, {Name: "needs", Title: "Needs", Sort: Many}}}}},
		{Name: "repeats", Title: "Repeated items", Sort: Parts, Parts: []Field{
			{Name: "key", Title: "Key", Sort: Text}, {Name: "title", Title: "Title", Sort: Text}, {Name: "kind", Title: "Kind", Sort: Choice, Values: words(leafKinds)},
			{Name: "teams", Title: "Teams", Sort: Many, Names: KindTeam, Gone: Narrowed}, {Name: "size", Title: "Size", Sort: Number}, {Name: "role", Title: "Role", Sort: Text},
			{Name: "parent", Title: "Part of", Sort: Choice, Names: KindItem}, {Name: "tags", Title: "Tags", Sort: Many}, {Name: "each", Title: "Made by itself", Sort: Flag}}},
		{Name: "views", Title: "Views", Sort: Parts, Parts: []Field{
			{Name: "key", Title: "Key", Sort: Text}, {Name: "name", Title: "Name", Sort: Text}, {Name: "by", Title: "Shared by", Sort: Text}, {Name: "columns", Title: "Columns", Sort: Parts},
			{Name: "group", Title: "Group", Sort: Text}, {Name: "sort", Title: "Order", Sort: Text}, {Name: "descending", Title: "Descending", Sort: Flag}, {Name: "filter", Title: "Filter", Sort: Whole},
			{Name: "colours", Title: "Colour rules", Sort: Parts, Parts: []Field{{Name: "name", Title: "Name", Sort: Text}, {Name: "colour", Title: "Colour", Sort: Choice, Values: words(colours)},
				{Name: "mark", Title: "Mark", Sort: Choice, Values: words(marks)}, {Name: "filter", Title: "Filter", Sort: Whole}}},
			{Name: "plan", Title: "Look of the plan", Sort: Whole}}},
		{Name: "guides", Title: "Guidance in its own words", Sort: Parts, Parts: []Field{
			{Name: "stage", Title: "Stage", Sort: Choice, Values: words(Stages)}, {Name: "role", Title: "For whom", Sort: Choice, Values: Readers}, {Name: "text", Title: "Text", Sort: Text}}},
		{Name: "sameIteration", Title: "Sharing an iteration", Sort: Choice, Values: words(sharings)},
		{Name: "fillTo", Title: "Fill to", Sort: Number},
		{Name: "landing", Title: "When work counts as done", Sort: Choice, Values: words(landingDays)},
		{Name: "pullAhead", Title: "Pull ahead", Sort: Flag},
		{Name: "othersAccept", Title: "Accepted by others", Sort: Flag},
		{Name: "agreements", Title: "Needs between teams are agreed on", Sort: Flag},
		{Name: "askWhy", Title: "Asks why scope changes", Sort: Flag},
		{Name: "steps", Title: "Steps", Sort: Parts, Parts: []Field{
			{Name: "name", Title: "Name", Sort: Text}, {Name: "state", Title: "State", Sort: Choice, Values: words(itemStates)}, {Name: "most", Title: "At most", Sort: Number}}},
		{Name: "roles", Title: "Roles of people", Sort: Many},
		{Name: "activities", Title: "Activities", Sort: Many},
		{Name: "priorities", Title: "Priorities", Sort: Many},
		{Name: "attention", Title: "What needs somebody", Sort: Whole},
		{Name: "scales", Title: "Scales of risks", Sort: Whole},
		{Name: "playRisks", Title: "Play risks", Sort: Flag},
		{Name: "turned", Title: "Play sizes as they turned out", Sort: Flag},
		{Name: "spread", Title: "Spread of paces", Sort: Number},
		{Name: "growth", Title: "Growth an iteration", Sort: Number},
		{Name: "guidance", Title: "Guidance beside each stage", Sort: Flag},
		{Name: "planSections", Title: "Sections of iteration plans", Sort: Parts, Parts: []Field{{Name: "title", Title: "Title", Sort: Text}, {Name: "ask", Title: "What belongs there", Sort: Text}}},
		{Name: "holidayCalendar", Title: "Calendar of the holidays", Sort: Text},
		{Name: "ready", Title: "What ready means", Sort: Whole},
		{Name: "mix", Title: "Wanted mix", Sort: Whole},
	}},
	{Kind: KindCadence, Title: "cadence", List: "cadences", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true},
		{Name: "name", Title: "Name", Sort: Text},
		{Name: "start", Title: "Start", Sort: Day},
		{Name: "lengthDays", Title: "Length in days", Sort: Number},
		{Name: "ahead", Title: "Kept ahead", Sort: Number},
		{Name: "naming", Title: "Naming", Sort: Text},
		{Name: "carryOver", Title: "Carry over", Sort: Flag},
	}},
	{Kind: KindPerson, Title: "person", List: "people", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true},
		{Name: "name", Title: "Name", Sort: Text},
		{Name: "hoursPerDay", Title: "Hours a day", Sort: Number},
		{Name: "weekdays", Title: "Weekdays", Sort: Many},
		{Name: "daysOff", Title: "Days off", Sort: Parts, By: Doers, Parts: []Field{
			{Name: "from", Title: "From", Sort: Day}, {Name: "to", Title: "To", Sort: Day}, {Name: "name", Title: "Name", Sort: Text}, {Name: "uid", Title: "Calendar event", Sort: Text}}},
		{Name: "openSeat", Title: "Open seat", Sort: Flag},
		{Name: "roles", Title: "Roles", Sort: Many},
		{Name: "calendar", Title: "Calendar", Sort: Text, By: Doers},
	}},
	{Kind: KindTeam, Title: "team", List: "teams", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true},
		{Name: "name", Title: "Name", Sort: Text},
		{Name: "unit", Title: "Unit", Sort: Choice, Values: words(units)},
		{Name: "cadence", Title: "Cadence", Sort: Choice, Names: KindCadence},
		{Name: "velocity", Title: "Agreed velocity", Sort: Number, By: Leads},
		{Name: "agreedOn", Title: "Velocity agreed on", Sort: Day, By: Leads},
		{Name: "agreedDays", Title: "Velocity agreed for, days a week", Sort: Number, By: Leads},
		{Name: "focus", Title: "Focus", Sort: Number, By: Leads},
		{Name: "fillTo", Title: "Fill to", Sort: Number, By: Leads},
		{Name: "lookback", Title: "Iterations that count", Sort: Number, By: Leads},
		{Name: "members", Title: "Members", Sort: Parts, Parts: []Field{
			{Name: "person", Title: "Person", Sort: Choice, Names: KindPerson, Gone: Dropped}, {Name: "share", Title: "Share", Sort: Number}, {Name: "roles", Title: "Roles", Sort: Many},
			{Name: "from", Title: "From", Sort: Day}, {Name: "to", Title: "To", Sort: Day}}},
		{Name: "builds", Title: "Builds", Sort: Parts, By: Leads, Parts: []Field{
			{Name: "name", Title: "Name", Sort: Text}, {Name: "state", Title: "State", Sort: Choice, Values: words(buildStates)},
			{Name: "since", Title: "Since", Sort: Text}, {Name: "address", Title: "Address", Sort: Text}}},
		{Name: "deployed", Title: "What runs where", Sort: Parts, By: Leads, Parts: []Field{
			{Name: "place", Title: "Place", Sort: Text}, {Name: "version", Title: "Version", Sort: Text},
			{Name: "since", Title: "Since", Sort: Text}, {Name: "address", Title: "Address", Sort: Text}}},
	}},
	{Kind: KindIteration, Title: "iteration", List: "iterations", In: KindTeam, Nested: true, Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true, By: Leads},
		{Name: "name", Title: "Name", Sort: Text, By: Leads},
		{Name: "start", Title: "Start", Sort: Day, By: Leads},
		{Name: "end", Title: "End", Sort: Day, By: Leads},
		{Name: "capacity", Title: "Capacity", Sort: Number, By: Leads},
		{Name: "state", Title: "State", Sort: Choice, Values: words(iterationStates), By: Leads},
		{Name: "committed", Title: "Committed", Sort: Number, By: Leads},
		{Name: "completed", Title: "Completed", Sort: Number, By: Leads},
		{Name: "goal", Title: "Goal", Sort: Text, By: Leads},
		{Name: "wentWell", Title: "What went well", Sort: Text, By: Leads},
		{Name: "toChange", Title: "What to change", Sort: Text, By: Leads},
		{Name: "actions", Title: "Actions", Sort: Parts, By: Leads, Parts: []Field{
			{Name: "text", Title: "Text", Sort: Text}, {Name: "owner", Title: "Owner", Sort: Choice, Names: KindPerson}, {Name: "done", Title: "Done", Sort: Flag}}},
		{Name: "capacityNote", Title: "Why the capacity", Sort: Text, By: Leads},
		{Name: "committedItems", Title: "Items committed", Sort: Number, By: Leads},
		{Name: "completedItems", Title: "Items completed", Sort: Number, By: Leads},
		{Name: "leftOut", Title: "Left out of velocity", Sort: Text, By: Leads},
	}},
	{Kind: KindRelease, Title: "release", List: "releases", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true},
		{Name: "name", Title: "Name", Sort: Text},
		{Name: "start", Title: "Start", Sort: Day},
		{Name: "due", Title: "Due", Sort: Day},
		{Name: "description", Title: "Description", Sort: Text},
		{Name: "phases", Title: "Phases", Sort: Parts, Parts: []Field{
			{Name: "key", Title: "Key", Sort: Text}, {Name: "name", Title: "Name", Sort: Text}, {Name: "start", Title: "Start", Sort: Day}, {Name: "end", Title: "End", Sort: Day}}},
		{Name: "growth", Title: "Growth an iteration", Sort: Number},
		{Name: "documents", Title: "Documents", Sort: Parts, Parts: []Field{
			{Name: "title", Title: "Title", Sort: Text}, {Name: "address", Title: "Address", Sort: Text}, {Name: "kind", Title: "Kind", Sort: Choice, Values: words(documentKinds)},
			{Name: "item", Title: "Item", Sort: Choice, Names: KindItem}}},
	}},
	{Kind: KindMilestone, Title: "milestone", List: "milestones", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true},
		{Name: "name", Title: "Name", Sort: Text},
		{Name: "date", Title: "Date", Sort: Day},
		{Name: "releases", Title: "Releases", Sort: Many, Names: KindRelease},
		{Name: "needs", Title: "Needs", Sort: Many, Names: KindItem},
	}},
	// Cells of an item are entered in this order: a place is one of the team's.
	{Kind: KindItem, Title: "item", List: "items", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true, Enter: true, By: Leads},
		{Name: "title", Title: "Title", Sort: Text, Enter: true, By: Doers},
		{Name: "kind", Title: "Kind", Sort: Choice, Values: words(itemKinds), Enter: true, By: Leads},
		{Name: "parent", Title: "Part of", Sort: Choice, Names: KindItem, Gone: Raised, Enter: true, By: Leads},
		{Name: "team", Title: "Team", Sort: Choice, Names: KindTeam, Enter: true, By: Leads},
		{Name: "role", Title: "Role", Sort: Text, Enter: true, By: Doers},
		{Name: "assignee", Title: "Assigned to", Sort: Choice, Names: KindPerson, Enter: true, By: Leads},
		{Name: "size", Title: "Size", Sort: Number, Enter: true, By: Doers},
		{Name: "left", Title: "Left", Sort: Number, Enter: true, By: Doers},
		{Name: "rough", Title: "Rough sizes", Sort: Parts, Enter: true, By: Leads, Parts: []Field{
			{Name: "team", Title: "Team", Sort: Choice, Names: KindTeam, Gone: Dropped}, {Name: "size", Title: "Size", Sort: Number}, {Name: "upTo", Title: "Up to", Sort: Number}}},
		{Name: "roughPlaces", Title: "Rough places", Sort: Parts, By: Leads, Parts: []Field{
			{Name: "team", Title: "Team", Sort: Choice, Names: KindTeam, Gone: Dropped},
			{Name: "iteration", Title: "Iteration", Sort: Choice, Names: KindIteration, Gone: Dropped}, {Name: "size", Title: "Size", Sort: Number}}},
		{Name: "release", Title: "Release", Sort: Choice, Names: KindRelease, Enter: true, By: Leads},
		{Name: "noRelease", Title: "No release", Sort: Flag, Enter: true, By: Leads},
		{Name: "iteration", Title: "Iteration", Sort: Choice, Names: KindIteration, Enter: true, By: Leads},
		{Name: "state", Title: "State", Sort: Choice, Values: words(itemStates), Enter: true, By: Doers},
		{Name: "priority", Title: "Priority", Sort: Text, Enter: true, By: Leads},
		{Name: "step", Title: "Step", Sort: Text, By: Doers},
		{Name: "blocked", Title: "Blocked", Sort: Text, Enter: true, By: Doers},
		{Name: "tags", Title: "Tags", Sort: Many, Enter: true, By: Doers},
		{Name: "notBefore", Title: "Not before", Sort: Day, Enter: true, By: Leads},
		{Name: "due", Title: "Due", Sort: Day, Enter: true, By: Leads},
		{Name: "pinned", Title: "Pinned", Sort: Flag, Enter: true, By: Leads},
		{Name: "keptOut", Title: "Kept out", Sort: Flag, Enter: true, By: Leads},
		{Name: "began", Title: "Began", Sort: Day, Enter: true, By: Doers},
		{Name: "doneOn", Title: "Done on", Sort: Day, Enter: true, By: Doers},
		{Name: "description", Title: "Description", Sort: Text, Enter: true, By: Doers},
		{Name: "foundIn", Title: "Found in", Sort: Text, Enter: true, By: Doers},
		{Name: "fixedIn", Title: "Fixed in", Sort: Text, Enter: true, By: Doers},
		{Name: "tasks", Title: "Tasks", Sort: Parts, By: Doers, Parts: []Field{
			{Name: "title", Title: "Title", Sort: Text}, {Name: "hours", Title: "Hours estimated", Sort: Number}, {Name: "hoursLeft", Title: "Hours left", Sort: Number}, {Name: "done", Title: "Done", Sort: Flag},
			{Name: "owner", Title: "Owner", Sort: Choice, Names: KindPerson}, {Name: "activity", Title: "Activity", Sort: Text}}},
		{Name: "checks", Title: "Checks", Sort: Parts, By: Doers, Parts: []Field{
			{Name: "text", Title: "Text", Sort: Text}, {Name: "done", Title: "Done", Sort: Flag}}},
		{Name: "links", Title: "Links", Sort: Parts, By: Doers, Parts: []Field{
			{Name: "title", Title: "Title", Sort: Text}, {Name: "address", Title: "Address", Sort: Text}}},
		{Name: "tests", Title: "Tests", Sort: Whole, By: Doers},
		{Name: "hinders", Title: "Hinders tests of", Sort: Many, Names: KindItem, By: Doers},
		{Name: "reported", Title: "Reported as", Sort: Text, By: Leads},
	}},
	{Kind: KindNeed, Title: "need", List: "needs", In: KindItem, Fields: []Field{
		{Name: "item", Title: "Item", Sort: Choice, Names: KindItem, Gone: Dropped, Fixed: true, By: Leads},
		{Name: "needs", Title: "Needs", Sort: Choice, Names: KindItem, Gone: Dropped, Fixed: true, By: Leads},
		{Name: "lagDays", Title: "Days between", Sort: Number, By: Leads},
		{Name: "agreement", Title: "Agreement", Sort: Choice, Values: words(agreements), By: Leads},
		{Name: "wanted", Title: "Wanted by", Sort: Day, By: Leads},
		{Name: "given", Title: "Date given", Sort: Day, By: Leads},
		{Name: "why", Title: "Said with it", Sort: Text, By: Leads},
	}},
	{Kind: KindComment, Title: "comment", List: "comments", In: KindItem, Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true, By: Doers},
		{Name: "item", Title: "Item", Sort: Choice, Names: KindItem, Gone: Dropped, Fixed: true, By: Doers},
		{Name: "by", Title: "Said by", Sort: Text, Fixed: true, By: Doers}, // who said what when stays
		{Name: "author", Title: "Account", Sort: Text, Fixed: true, By: Doers},
		{Name: "at", Title: "When", Sort: Text, Fixed: true, By: Doers},
		{Name: "text", Title: "Text", Sort: Text, By: Doers},
	}},
	{Kind: KindRisk, Title: "risk", List: "risks", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true, By: Leads},
		{Name: "title", Title: "Title", Sort: Text, By: Doers},
		{Name: "cause", Title: "Cause", Sort: Text, By: Doers},
		{Name: "effect", Title: "Effect", Sort: Text, By: Doers},
		{Name: "state", Title: "State", Sort: Choice, Values: words(riskStates), By: Doers},
		{Name: "owner", Title: "Owner", Sort: Choice, Names: KindPerson, By: Leads},
		{Name: "again", Title: "To be looked at again", Sort: Day, By: Doers},
		{Name: "chance", Title: "Chance", Sort: Number, By: Doers},
		{Name: "impact", Title: "Impact", Sort: Number, By: Doers},
		{Name: "response", Title: "Response", Sort: Choice, Values: words(responses), By: Doers},
		{Name: "answer", Title: "What is done about it", Sort: Text, By: Doers},
		{Name: "actions", Title: "Actions", Sort: Parts, By: Doers, Parts: []Field{
			{Name: "text", Title: "Text", Sort: Text}, {Name: "owner", Title: "Owner", Sort: Choice, Names: KindPerson}, {Name: "due", Title: "Due", Sort: Day}, {Name: "done", Title: "Done", Sort: Flag}}},
		{Name: "odds", Title: "Odds", Sort: Number, By: Leads},
		{Name: "adds", Title: "Work it brings", Sort: Parts, By: Leads, Parts: []Field{
			{Name: "team", Title: "Team", Sort: Choice, Names: KindTeam, Gone: Dropped}, {Name: "item", Title: "Item", Sort: Choice, Names: KindItem, Gone: Dropped},
			{Name: "size", Title: "Size", Sort: Number}, {Name: "upTo", Title: "Up to", Sort: Number}}},
		{Name: "delays", Title: "Delays", Sort: Parts, By: Leads, Parts: []Field{
			{Name: "item", Title: "Item", Sort: Choice, Names: KindItem, Gone: Dropped}, {Name: "days", Title: "Days", Sort: Number}, {Name: "upTo", Title: "Up to", Sort: Number}}},
		{Name: "from", Title: "From", Sort: Day, By: Leads},
		{Name: "oddsThen", Title: "Odds with the response", Sort: Number, By: Leads},
		{Name: "shareThen", Title: "Left with the response", Sort: Number, By: Leads},
		{Name: "answered", Title: "Response in place", Sort: Flag, By: Leads},
		{Name: "items", Title: "Items", Sort: Many, Names: KindItem, By: Doers},
		{Name: "needs", Title: "Needs", Sort: Parts, By: Doers, Parts: []Field{
			{Name: "item", Title: "Item", Sort: Choice, Names: KindItem, Gone: Dropped}, {Name: "needs", Title: "Needs", Sort: Choice, Names: KindItem, Gone: Dropped}}},
		{Name: "teams", Title: "Teams", Sort: Many, Names: KindTeam, By: Leads},
		{Name: "releases", Title: "Releases", Sort: Many, Names: KindRelease, By: Leads},
	}},
	{Kind: KindPromise, Title: "promise", List: "promises", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true},
		{Name: "release", Title: "Release", Sort: Choice, Names: KindRelease, Gone: Dropped, Fixed: true}, // what was promised stays
		{Name: "milestone", Title: "Milestone", Sort: Choice, Names: KindMilestone, Gone: Dropped, Fixed: true},
		{Name: "date", Title: "By", Sort: Day, Fixed: true},
		{Name: "to", Title: "To whom", Sort: Text},
		{Name: "made", Title: "Given on", Sort: Day, Fixed: true},
		{Name: "chance", Title: "Odds then", Sort: Number, Fixed: true},
		{Name: "note", Title: "Note", Sort: Text},
		{Name: "withdrawn", Title: "Taken back on", Sort: Day},
	}},
	{Kind: KindSnooze, Title: "snooze", List: "snoozes", Fields: []Field{
		{Name: "key", Title: "Of what", Sort: Text, Fixed: true, By: Leads},
		{Name: "until", Title: "Until", Sort: Day, By: Leads},
		{Name: "why", Title: "Why", Sort: Text, By: Leads},
	}},
	{Kind: KindTimeEntry, Title: "time entry", List: "timeEntries", Fields: []Field{
		{Name: "key", Title: "Key", Sort: Text, Fixed: true, By: Doers},
		{Name: "person", Title: "Person", Sort: Choice, Names: KindPerson},
		{Name: "date", Title: "Date", Sort: Day, Fixed: true, By: Doers},
		{Name: "hours", Title: "Hours", Sort: Number, By: Doers},
		{Name: "item", Title: "Item", Sort: Choice, Names: KindItem, By: Doers},
		{Name: "task", Title: "Task", Sort: Text, By: Doers},
		{Name: "activity", Title: "Activity", Sort: Text, By: Doers},
		{Name: "note", Title: "Note", Sort: Text, By: Doers},
	}},
}

// The values of each closed set, in the order in which they follow one another.
var (
	sharings        = []SameIteration{ShareNever, ShareSameTeam, ShareAlways}
	landingDays     = []LandingDay{OnTheDay, IterationEnd}
	units           = []Unit{Points, Days, Hours}
	iterationStates = []IterationState{Planned, Open, Closed}
	documentKinds   = []DocumentKind{Notes, TestReport, SecurityReview, OtherDocument}
	leafKinds       = []ItemKind{Story, Defect, Upkeep, Enabler, Spike}
	itemKinds       = append([]ItemKind{Initiative, Feature}, leafKinds...)
	itemStates      = []ItemState{Todo, Doing, Review, Done}
	agreements      = []Agreement{Asked, Offered, Agreed, Declined}
	riskStates      = []RiskState{RiskOpen, RiskHappened, RiskOver}
	buildStates     = []BuildState{Green, Red}
	responses       = []Response{Avoid, Reduce, PassOn, Accept}
	colours         = []Colour{Sand, Sky, Kelp, Sun, Deep, Rust, Heather, Ink}
	marks           = []Mark{Plain, Stripes, Rungs, Dots, Checks}
	colourings      = []ColourBy{ByRelease, ByKind, ByReadiness, ByRules}
	needsShown      = []NeedsShown{NeedsOfSelected, NeedsBroken, NeedsTight, NeedsAcross, NeedsAll}
	densities       = []Density{Compact, Usual, Roomy}
	blockParts      = []BlockPart{PartKey, PartTitle, PartSize, PartAssignee, PartState, PartTags, PartChecks}
	barKinds        = []ItemKind{Feature, Initiative}
)

func words[T ~string](values []T) []string {
	list := make([]string, len(values))
	for i, v := range values {
		list[i] = string(v)
	}
	return list
}
