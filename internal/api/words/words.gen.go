// Code generated from the comments of core. DO NOT EDIT.

package words

// fields are what is said of the fields of types.
var fields = map[string]map[string]string{
	"act.AddOutline": {
		"Under": "where the items go",
	},
	"act.AddPeople": {
		"Joining": "adds, unless said otherwise; see SetMembers",
		"Text":    "lines, one a person",
	},
	"act.AgreeOn": {
		"Confidence": "0 to 1, one of capacity.Confidences",
	},
	"act.AgreeVelocity": {
		"Days":     "member-days a week that it is agreed for; none: those of who is in the team today",
		"Velocity": "in the team's unit, an iteration; none: measured from now on",
	},
	"act.Answer": {
		"Text":  "in words",
		"Value": "of the intent's field",
	},
	"act.BreakDown": {
		"Key":     "the feature",
		"Pattern": "the pattern's key",
	},
	"act.CloseEnded": {
		"Teams": "of which",
	},
	"act.CloseIteration": {
		"Unfinished": "where items that are not done go instead",
	},
	"act.Delete": {
		"Below": "what is below groups goes too; else it goes up",
	},
	"act.Enter": {
		"Cells":  "a row for each item, a cell for each field; a single row is for all",
		"Fields": "the fields that cells are entered in",
		"Keys":   "the items",
	},
	"act.FollowCadence": {
		"From": "iterations that start on that day or later take the new length",
	},
	"act.InsertIteration": {
		"Days": "its length",
	},
	"act.KeepTemplate": {
		"Key":  "the release",
		"Name": "the template's",
	},
	"act.LayPhases": {
		"From":     "the first day; missing: the release's own start",
		"Template": "the template's key",
	},
	"act.MoveIteration": {
		"Days": "how far; below 0 it is earlier",
	},
	"act.MoveRelease": {
		"After": "it starts on the day after the last of this item",
		"Days":  "later; below 0: earlier",
		"Items": "missing: they go along",
		"Phase": "this phase alone, with what starts in it; missing: all of the release",
		"Start": "it starts on this day",
	},
	"act.MoveRough": {
		"From": "missing: what stands nowhere yet",
		"To":   "missing: nowhere",
	},
	"act.OfTeam": {
		"Key": "the iteration's",
	},
	"act.Place": {
		"Label": "empty: how many items are placed",
		"Rough": "what is rough, and where all of it is to stand",
	},
	"act.Placement": {
		"Iteration": "missing: nowhere",
	},
	"act.Plan": {
		"Keys":  "items that are new, or that go",
		"Label": "what the edit is, in a few words",
		"Notes": "what else is to be known",
	},
	"act.Question": {
		"Answer":  "what the plan went by",
		"Answers": "what there is to choose from",
		"Field":   "the intent's field that takes the answer",
		"Text":    "in words",
	},
	"act.Rank": {
		"Shown": "of up and down: the items in view, in order",
	},
	"act.Repeat": {
		"Keys":  "of the repeated items: which",
		"Until": "the last day on which an iteration may start",
	},
	"act.ResizeIteration": {
		"Along": "later iterations move along; else the next gives or takes the days",
		"End":   "its last day",
	},
	"act.ResumeIterations": {
		"Teams": "which of them",
	},
	"act.SaveCadence": {
		"Cadence": "as it should be",
	},
	"act.SetMembers": {
		"Joining": "adds, unless said otherwise",
		"Members": "as they should be, all of them",
	},
	"act.Shift": {
		"After": "as early as can be once this is over; of a group: the last of its items",
		"Days":  "later; below 0: earlier",
		"Item":  "a group stands for its items",
		"Start": "the first of its items that can move starts about then; the others keep their distance from it",
	},
	"act.Split": {
		"Chain": "each part needs the one before it",
		"Parts": "the first is the item itself",
	},
	"act.Start": {
		"Goal": "what it is for, in a sentence; empty: as it is",
	},
	"act.TakeIn": {
		"Columns":     "the field of each column; empty for one that is left out",
		"MakeParents": "features are made for parents that do not exist",
		"Name":        "the file's",
	},
	"backlog.Comparison": {
		"Sorts":  "the sorts of field that it can compare",
		"Values": "how many values it takes: 0, 1, or 2 for any number",
		"Words":  "as it stands in a sentence between field and values",
	},
	"backlog.Field": {
		"Enter":  "can be entered; the others are worked out",
		"Names":  "of a choice of things: their kind",
		"Values": "of a choice among known words: these",
	},
	"backlog.Group": {
		"From":  "position of its first row",
		"Value": "key or word; empty for the rows without one",
	},
	"backlog.List": {
		"Depths":   "of a tree: how deep each row stands",
		"Groups":   "heads, in the order of the rows",
		"Rollups":  "of a tree: what the items below each parent in it add up to, by its key",
		"Rows":     "keys of the items, in order",
		"Sentence": "the filter in words",
		"Total":    "what the items of the list add up to",
	},
	"backlog.Paint": {
		"Colours":  "by colour rule of the view: the leaves of which it is the first that holds",
		"LeftOut":  "the leaves that the filter does not keep",
		"Names":    "of the colour rules: their own, or their conditions in words",
		"Sentence": "the filter in words",
	},
	"backlog.Rollup": {
		"End":     "last day of the latest",
		"Items":   "leaves that are not kept out",
		"Sizes":   "by team, in the program's order: sizes of different teams are never added up",
		"Start":   "first day of the earliest iteration that one is placed in",
		"Unsized": "to be done and without a size",
	},
	"backlog.SplitPart": {
		"Needs":  "needs what the item needs",
		"Size":   "in the team's unit; missing: not sized",
		"Wanted": "is needed by what needs the item",
	},
	"backlog.TeamSize": {
		"Done": "sizes of those that are done",
		"Size": "sizes in the team's unit, done ones too",
	},
	"backlog.Where": {
		"Key": "of above and below: the item there",
	},
	"cadence.Break": {
		"After":   "the one that should start the day after",
		"Before":  "the iteration that ends",
		"Overlap": "they share days; else days are left out",
	},
	"cadence.Unfinished": {
		"Done": "of one that is split: how much of its size is done",
	},
	"capacity.Away": {
		"Days": "working days lost, times the person's share",
		"Who":  "the person's name, or the holiday's",
	},
	"capacity.Days": {
		"Full":     "by weekday",
		"Holidays": "of these, lost to holidays",
		"Off":      "of the others, days off",
		"Present":  "of these, within the dates of the share",
		"Worked":   "what is left",
	},
	"capacity.Detail": {
		"DaysAgreed":  "member-days of the team that the velocity was agreed for",
		"DaysFull":    "member-days of the complete team",
		"DaysPresent": "member-days of those whose share holds",
		"DaysWorked":  "without holidays and days off",
		"Focus":       "share of time that goes to items",
		"Full":        "capacity were nobody away",
		"Length":      "the iteration's days ÷ its cadence's",
		"Note":        "why it was set by hand",
		"Pace":        "mean measured pace, units a member-day",
		"Reckoned":    "capacity were none set by hand",
		"Samples":     "closed iterations behind it",
		"Velocity":    "agreed velocity",
	},
	"capacity.Part": {
		"At":    "where the iteration stands in the team",
		"Items": "what makes up the load",
		"Large": "of a person: two or more large items in one iteration",
	},
	"capacity.Past": {
		"Committed":      "in the team's unit",
		"CommittedItems": "in number of items",
		"Counts":         "whether measured velocity counts it",
		"DaysWorked":     "member-days without holidays and days off",
		"LeftOut":        "why it was left out by hand",
		"Normalised":     "pace × the days of the complete team in an iteration of the cadence: what one would have completed with nobody away",
		"Pace":           "completed ÷ days worked; 0 where nobody worked",
	},
	"capacity.Row": {
		"Key": "the role, or the person's key",
	},
	"capacity.SeatDays": {
		"From": "first day of the share, where it has one",
		"Open": "an open seat",
		"Part": "capacity × the seat's share of the days worked, in the team's unit",
		"To":   "last day of the share, where it has one",
	},
	"capacity.Suggestion": {
		"Amounts": "units completed or more with 50, 70, 85 and 95 % confidence",
		"Days":    "member-days worked in it",
		"Pace":    "mean pace, units a member-day",
		"Samples": "closed iterations that count",
		"Spread":  "standard deviation of pace that was reckoned with",
	},
	"forecast.Amount": {
		"Size": "in the team's unit; items without a size add nothing",
	},
	"forecast.Dated": {
		"Chance": "chance, 0 to 1, that the date really carries",
		"Error":  "standard error of that chance",
	},
	"forecast.Fit": {
		"All":     "chance, 0 to 1, that all of the list is done by the date",
		"Chances": "chance of each of these, 0 to 1, of being done by the date",
		"Items":   "what of the list is still to do and can be played, in rank order",
		"LeftOut": "items that cannot be played: they have no team, or neither a size nor past sizes to draw one from",
		"Lines":   "how much of the list is done by the date",
		"Teams":   "the same for the items of each team alone",
		"When":    "when the items asked about are done",
	},
	"forecast.Growth": {
		"Share": "of its whole size; measured, the mean, which may be below 0",
	},
	"forecast.Landing": {
		"Chance": "chance, 0 to 1, of landing by the due date",
		"Error":  "standard error of that chance",
		"Left":   "items still to do",
		"Rough":  "pieces of rough sizes besides",
	},
	"forecast.Line": {
		"After": "the last of them",
		"Items": "how many items stand above the line",
		"Next":  "the first item below the line, which keeps it from standing lower",
		"Waits": "what that one needs and is ranked below it: ranking this higher may help",
	},
	"forecast.Lines": {
		"Items": "its items in the list",
	},
	"forecast.Pace": {
		"Drift": "plays promise too much: see driftOf",
	},
	"forecast.Simple": {
		"After":  "the last of them",
		"Buffer": "what is added to the time, 0.2 for a fifth",
		"Done":   "when the last team is done; none where one has no velocity",
		"Fits":   "how many items from the top of the list are done by the date asked about",
	},
	"forecast.SimpleTeam": {
		"Days":       "days of an iteration",
		"Done":       "today and these days on",
		"Iterations": "units ÷ velocity",
		"Mean":       "mean size of the team's items that have one",
		"TotalDays":  "iterations × days × (1 + buffer), rounded up",
		"Units":      "sizes, in the team's unit",
		"Unsized":    "items without a size, counted at the mean",
		"Velocity":   "units an iteration",
	},
	"forecast.Start": {
		"Blocker": "what it needs that is the least likely to be done in time",
		"Chance":  "chance, 0 to 1, that all it needs is done by the rule for needs before its iteration starts",
		"Odds":    "that one's own chance",
	},
	"forecast.Turned": {
		"Applied": "items not yet begun are played that much larger or smaller",
		"Items":   "done ones that tell",
		"Mean":    "of size when done ÷ size when begun",
		"Spread":  "standard deviation of these",
	},
	"gate.Conflict": {
		"Base":   "what both began with",
		"Field":  "empty: the thing itself, its being there or its place",
		"Theirs": "as they left it",
	},
	"intake.Node": {
		"Depth":   "counted from 0, one more than its parent's",
		"Group":   "others stand below it",
		"Item":    "as it was understood",
		"Line":    "counted from 1",
		"Unknown": "what stands among others in the brackets and was not understood; it stays in the title",
	},
	"intake.Problem": {
		"Column": "counted from 0; -1: of the whole row",
		"Row":    "counted from 0 over the rows; -1: of the whole",
	},
	"intake.Result": {
		"Keys": "the key of each row, made up for new ones; empty for empty rows",
	},
	"intake.Table": {
		"Columns": "the field of each column; empty for one that is left out",
		"Rows":    "cells as text; a row may end early",
	},
	"intake.Under": {
		"After":  "the item below which they are ranked; empty: at the end",
		"Parent": "what the top lines are part of",
	},
	"levers.Answer": {
		"Ended": "the search was ended before all had been tried",
		"Name":  "of what is to be mended",
	},
	"levers.Lever": {
		"Label": "of the edit",
		"Moves": "items whose iteration changes",
		"Then":  "how it stands with the lever",
	},
	"levers.Moved": {
		"Team": "of the iteration that it comes to stand in; of the item",
	},
	"levers.Stand": {
		"Broken":           "broken needs",
		"Chance":           "chance, 0 to 1, of landing by its date",
		"ExpectedLateDays": "of the whole plan",
		"Lands":            "at even odds",
		"Late":             "expected late days of it alone",
		"Over":             "iterations over capacity",
	},
	"people.Committed": {
		"Left":    "what no team holds on that day; below 0 where too much is promised",
		"Most":    "the largest sum of shares on any day from today on",
		"TooMuch": "when the shares sum to more than 100 %",
	},
	"people.Free": {
		"Days":    "working days in the range that no team holds, in days of the person",
		"When":    "when that is, in order; the first MaxGaps",
		"Working": "working days in the range, without holidays and days off",
	},
	"people.Gap": {
		"Left": "the share of the person that is free",
	},
	"people.Refreshed": {
		"DaysOff": "all days off of the person after it, those entered by hand included",
	},
	"people.Stretch": {
		"From": "missing: from the beginning",
		"To":   "missing: for good",
	},
	"program.Cadence": {
		"Ahead":     "how many iterations to keep that have not started; 0: none are made",
		"CarryOver": "unfinished items go on into the next iteration when one closes",
		"Naming":    "pattern of new iterations' names, see package cadence",
	},
	"program.Change": {
		"At":    "for add and move: the place in the list, from 0; left out: the end",
		"Field": "what set gives a value, by its name in the program document",
		"Value": "for set the new value, null to clear it; for add the whole thing",
	},
	"program.ColourRule": {
		"Filter": "of which items",
		"Name":   "in the legend; empty: its conditions in words",
	},
	"program.Column": {
		"Width": "pixels; 0: the field's usual",
	},
	"program.Comment": {
		"At":     "when, RFC 3339 in UTC",
		"Author": "the account that said it: names may be shared, and change; empty: nobody's here",
		"By":     "the name of who said it, as it was then",
		"Text":   "Markdown",
	},
	"program.DayOff": {
		"UID": "names the calendar event it came from; empty: entered by hand",
	},
	"program.Document": {
		"Address": "http or https; empty while there is none yet",
		"Item":    "the item that produces it",
	},
	"program.Item": {
		"Blocked":     "why it cannot go on; empty: it can",
		"Description": "Markdown",
		"FixedIn":     "of a defect: where it is mended",
		"FoundIn":     "of a defect: where it was seen",
		"Iteration":   "key in the team's list; empty: unplaced",
		"Left":        "what is left of it once begun, in the team's unit; nil: see forecast.Play",
		"NoRelease":   "belongs to no release although its parents do; Release wins over it",
		"RoughPlaces": "where the pieces stand",
		"Size":        "in the team's unit; nil: not sized",
	},
	"program.Iteration": {
		"Capacity":       "set by hand, in the team's unit",
		"CapacityNote":   "why the capacity was set by hand",
		"CommittedItems": "the same as committed and completed, in number of items",
		"Goal":           "what it is for, in a sentence",
		"LeftOut":        "why measured velocity leaves it out; empty: it counts",
	},
	"program.Link": {
		"Address": "http or https",
	},
	"program.Member": {
		"From":  "first day; none: from the beginning",
		"Roles": "empty: the person's own",
		"Share": "0..1 of the person's time",
		"To":    "last day; none: for good",
	},
	"program.PatternPart": {
		"Needs": "the parts that it needs, from 0",
		"Size":  "in the team's unit",
		"Title": "{title} stands for the title of what is broken down",
	},
	"program.Person": {
		"Calendar":    "address of the calendar feed that days off come from",
		"HoursPerDay": "0 means 8",
		"Weekdays":    "ISO days, Monday 1; empty means Monday to Friday",
	},
	"program.PlanLook": {
		"Bars":      "feature or initiative: what stands above the lanes; empty: nothing",
		"Blocks":    "what a block says; empty: title and size",
		"ColourBy":  "empty: by release",
		"Density":   "empty: usual",
		"Needs":     "empty: those that are broken",
		"OnlyNeeds": "blocks without a need step back",
	},
	"program.Problem": {
		"Of":    "the thing that it is about; empty where that is not known",
		"Path":  "place in the document, as items[3].team",
		"Text":  "what is wrong there, and where it helps what would be right",
		"Where": "the place in words, as far as it is known; see PlaceInWords",
	},
	"program.Program": {
		"Comments":       "oldest first",
		"Patterns":       "parts to break a feature down into",
		"PhaseTemplates": "phases to give the next release",
		"Repeats":        "items that every iteration repeats",
		"Views":          "lists of the backlog that everybody sees",
	},
	"program.ReadyRule": {
		"Checks":  "has a check at least",
		"Largest": "the largest size, for teams of that unit",
		"Needs":   "nothing it needs is unplaced, or placed too late for it",
		"Parent":  "belongs to a feature or initiative",
		"Tags":    "carries all of these",
	},
	"program.Ref": {
		"In":  "the team of an iteration; the item of a comment; the needing item of a need",
		"Key": "the thing's key; of a need, the item needed",
	},
	"program.Release": {
		"Growth": "share by which it is taken to grow each iteration, 0..1; nil: as the program says",
	},
	"program.Repeat": {
		"Size":  "in each team's unit",
		"Teams": "whose iterations; empty: every team's",
		"Title": "{iteration} stands for the iteration's name",
	},
	"program.Rough": {
		"Size": "in the team's unit; of a range the least",
		"UpTo": "the most; nil: Size is a figure",
	},
	"program.RoughPlace": {
		"Size": "in the team's unit",
	},
	"program.Settings": {
		"FillTo":          "share of capacity a draft may use, 0 < FillTo <= 1",
		"Growth":          "share by which releases are taken to grow each iteration, 0..1",
		"HolidayCalendar": "address of the calendar feed that holidays come from",
		"Landing":         "empty: on the day",
		"Mix":             "wanted share of each kind, 0..1; a kind left out has none",
		"PullAhead":       "a team with room left takes what is placed later or unplaced; nil: it does",
		"Ready":           "what ready means; nil: DefaultReady",
		"Turned":          "sizes are played as the team's have turned out once work on them began; nil: they are",
	},
	"program.Task": {
		"Hours":     "estimated at first, in all; nil: not estimated",
		"HoursLeft": "nil: all of Hours, where there are any",
		"Owner":     "the person who does it",
	},
	"program.Team": {
		"AgreedDays": "member-days a week of the team that Velocity was agreed for; nil: the complete team, see capacity.Of",
		"AgreedOn":   "the day on which Velocity was agreed",
		"FillTo":     "share of capacity a draft may use; nil: the program's",
		"Focus":      "share of time that goes to items; days and hours only",
		"Lookback":   "how many closed iterations measured velocity looks back on; 0: all",
		"Velocity":   "agreed, in Unit per iteration",
	},
	"program.View": {
		"By":      "who shared it",
		"Colours": "of blocks and cards: of each item the first that holds",
		"Group":   "the field whose values are heads; \"tree\": under parents",
		"Plan":    "how the plan looks; missing: it stays as it is",
		"Sort":    "the field to order by; empty: rank",
	},
	"ready.Asked": {
		"Items": "groups stand for their items",
		"Team":  "of an iteration",
	},
	"ready.Lack": {
		"Item": "the first of the items that it waits for",
		"Text": "what it lacks, as goes on from the item's name: \"has no size\"",
	},
	"ready.Mix": {
		"Items":   "leaves in the scope, done ones too, kept out ones not",
		"Unsized": "those without a size or a team: they count in number alone",
	},
	"ready.Share": {
		"Candidates": "of a kind that is short: the highest ranked items that could be pulled in",
		"Counts":     "share of the number of items, 0 to 1",
		"Short":      "how much of the scope is missing to the target, 0 to 1; 0 where there is enough",
		"Sizes":      "share of team time, 0 to 1: sizes as the time that their teams take for them, as sizes of different teams cannot be added up",
		"Target":     "the share of team time that the program wants",
	},
	"roles.Rule": {
		"Field": "of set: what is set",
	},
	"schedule.Finish": {
		"Chance":      "chance, 0 to 1, of landing by the due date; see Foresee",
		"ChanceToday": "the same of today's plan",
	},
	"schedule.Rough": {
		"Loose":  "what finds no place, in the team's unit",
		"Places": "by time",
		"Why":    "of its last piece",
	},
	"schedule.RoughPart": {
		"Was": "what stands there today",
	},
	"schedule.Score": {
		"ExpectedLateDays":      "over plays of the forecast; see Foresee",
		"ExpectedLateDaysBound": "no plan of this work has fewer; see forecast.Hindsight",
		"ExpectedLateDaysToday": "the same of today's plan",
	},
	"schedule.Why": {
		"Team": "where it is the team that lacks something",
	},
	"standing.Effects": {
		"Broken":     "broken needs",
		"Capacity":   "coming iterations whose capacity changes",
		"Items":      "placed items, and what is rough of them for a team, whose dates change, or that lose or gain their place",
		"Iterations": "iterations with other dates or names, new ones and removed ones",
		"Milestones": "milestones for which an item now comes too late, or comes in time again",
		"Over":       "iterations over capacity",
		"Releases":   "releases whose plan finishes on another day, or that are due on another",
		"Unplaced":   "items that lose their place, or gain one",
	},
	"standing.Facts": {
		"Counts": "left out of updates: they follow from the entries",
	},
	"standing.Fit": {
		"Breaks": "needs that would break or stay broken",
		"Load":   "load with the items",
	},
	"standing.ItemFacts": {
		"Checked":   "how many of them are done",
		"Checks":    "how many checks it has",
		"HoursLeft": "of its tasks still to do; missing: none is estimated",
		"Release":   "its own, or its nearest ancestor's",
		"Rough":     "how its rough sizes stand, in their order",
		"Unplaced":  "to be scheduled, and not placed; or something rough of it is not",
	},
	"standing.IterationFacts": {
		"Ended":   "its last day has gone by, or it is closed",
		"Full":    "capacity were nobody away; 0 where that is unknown",
		"Over":    "carries more than it can",
		"Started": "its dates and name stay: it is open or closed, or its first day has come",
		"Unsized": "items placed here that have no size",
		"Usable":  "not closed and not over: items can be placed here",
	},
	"standing.Missed": {
		"Missed": "comes too late after the edit",
	},
	"standing.NeedFacts": {
		"Spare": "days to spare; missing where nothing is at stake",
	},
	"standing.Redated": {
		"After":  "missing: removed, or unplaced",
		"Before": "missing: new, or unplaced before",
		"Was":    "the name before, of an iteration that gets another",
	},
	"standing.RoughFacts": {
		"Covered": "sizes of the items that have come",
		"Loose":   "what of the rest stands nowhere",
		"Over":    "by how much the items are more than the most",
		"Places":  "where the rest stands, by time",
		"Rest":    "what is to be expected beyond these",
	},
	"standing.TeamFacts": {
		"Ahead":    "how many iterations the headroom counts",
		"Ended":    "iterations that are over and not closed, oldest first",
		"Headroom": "room left in the next iterations, in the team's unit",
		"Mean":     "mean of pace: the measured velocity, wherever it shows",
		"Pace":     "what each closed iteration that counts would have completed with nobody away, oldest first; see capacity.History",
		"Spread":   "standard deviation of pace",
	},
	"starting.Template": {
		"Says": "what is in it, in a sentence",
	},
	"track.Course": {
		"Added": "it came after the start",
		"Back":  "how often it went from review back to work",
		"Since": "when it came into its state; none: before the journal tells",
	},
	"track.Iteration": {
		"Courses": "of what stands in it, by rank",
	},
	"track.Pace": {
		"Days":  "on which somebody of the team works",
		"Gone":  "of these, up to today and with it",
		"Ideal": "what would be left at an even pace over the member-days, of what was to do at the start",
	},
	"track.Run": {
		"Added":      "since then",
		"DoneBefore": "of what stood in it at the start",
		"From":       "when it was started, as far as the journal reaches back",
		"Grown":      "of what stays in it: size alone, no items",
		"Start":      "what stood in it then",
		"Steps":      "the oldest first",
		"Total":      "now",
	},
	"track.Step": {
		"From":     "of one whose state changed",
		"Revision": "of the edit",
		"Size":     "of the item then; of one that has grown or shrunk by how much",
		"Total":    "of the run, after it",
	},
	"track.Usual": {
		"Of": "how many iterations tell",
	},
}

// choices are the texts that a value of a type may be.
var choices = map[string][]string{
	"act.Along":              {"along", "stay"},
	"act.Joining":            {"adds", "included"},
	"backlog.Side":           {"top", "bottom", "above", "below", "up", "down"},
	"cadence.Goes":           {"on", "back", "split"},
	"capacity.Basis":         {"by hand", "available time", "agreed velocity", "measured velocity", "unknown"},
	"capacity.Trust":         {"history", "short history", "no history", "nothing to go by"},
	"forecast.Basis":         {"history", "others", "assumed"},
	"forecast.Drift":         {"slowing", "quickening", "runs"},
	"forecast.GrowthBasis":   {"set", "measured", "assumed"},
	"gate.Sort":              {"both set", "they removed", "you remove", "both added", "both moved"},
	"intake.RowState":        {"new", "changed", "unchanged", "wrong", "empty"},
	"levers.Kind":            {"size", "place", "move", "draft", "lend", "team", "split", "shrink", "drop", "relax"},
	"needs.Status":           {"holds", "tight", "broken"},
	"program.Agreement":      {"asked", "agreed", "declined"},
	"program.BlockPart":      {"key", "title", "size", "assignee", "state", "tags", "checks"},
	"program.Colour":         {"sand", "sky", "kelp", "sun", "deep", "rust", "heather", "ink"},
	"program.ColourBy":       {"release", "kind", "readiness", "rules"},
	"program.Density":        {"compact", "usual", "roomy"},
	"program.DocumentKind":   {"notes", "test-report", "security-review", "other"},
	"program.ItemKind":       {"initiative", "feature", "story", "defect", "upkeep", "enabler", "spike"},
	"program.ItemState":      {"todo", "doing", "review", "done"},
	"program.IterationState": {"planned", "open", "closed"},
	"program.Kind":           {"program", "cadence", "team", "iteration", "person", "release", "milestone", "item", "need", "comment"},
	"program.LandingDay":     {"day", "iteration-end"},
	"program.Mark":           {"plain", "stripes", "rungs", "dots", "checks"},
	"program.NeedsShown":     {"selected", "broken", "tight", "across", "all"},
	"program.Op":             {"set", "add", "remove", "move"},
	"program.SameIteration":  {"never", "same-team", "always"},
	"program.Sort":           {"text", "number", "choice", "many", "day", "flag", "parts", "whole"},
	"program.Unit":           {"points", "days", "hours"},
	"ready.Code":             {"size", "largest", "team", "parent", "release", "description", "checks", "tags", "needs", "later"},
	"roles.Reach":            {"never", "own", "any"},
	"roles.Role":             {"administrator", "program manager", "team lead", "member", "viewer"},
	"schedule.Aim":           {"dates", "odds"},
	"track.What":             {"added", "removed", "grown", "shrunk", "finished", "reopened", "moved", "blocked", "freed"},
}
