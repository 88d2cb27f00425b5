// Made from core/program/kinds.go by: go generate ./internal/api

/** The registry of kinds and their fields. */
export const kinds = {
  "cadence": {
    "title": "cadence",
    "list": "cadences",
    "fields": {
      "ahead": {
        "title": "Kept ahead",
        "sort": "number"
      },
      "carryOver": {
        "title": "Carry over",
        "sort": "flag"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "lengthDays": {
        "title": "Length in days",
        "sort": "number"
      },
      "name": {
        "title": "Name",
        "sort": "text"
      },
      "naming": {
        "title": "Naming",
        "sort": "text"
      },
      "start": {
        "title": "Start",
        "sort": "day"
      }
    }
  },
  "comment": {
    "title": "comment",
    "list": "comments",
    "in": "item",
    "fields": {
      "at": {
        "title": "When",
        "sort": "text"
      },
      "author": {
        "title": "Account",
        "sort": "text"
      },
      "by": {
        "title": "Said by",
        "sort": "text"
      },
      "item": {
        "title": "Item",
        "sort": "choice",
        "names": "item"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "text": {
        "title": "Text",
        "sort": "text"
      }
    }
  },
  "item": {
    "title": "item",
    "list": "items",
    "fields": {
      "assignee": {
        "title": "Assigned to",
        "sort": "choice",
        "names": "person"
      },
      "began": {
        "title": "Began",
        "sort": "day"
      },
      "blocked": {
        "title": "Blocked",
        "sort": "text"
      },
      "checks": {
        "title": "Checks",
        "sort": "parts"
      },
      "description": {
        "title": "Description",
        "sort": "text"
      },
      "doneOn": {
        "title": "Done on",
        "sort": "day"
      },
      "due": {
        "title": "Due",
        "sort": "day"
      },
      "fixedIn": {
        "title": "Fixed in",
        "sort": "text"
      },
      "foundIn": {
        "title": "Found in",
        "sort": "text"
      },
      "hinders": {
        "title": "Hinders tests of",
        "sort": "many",
        "names": "item"
      },
      "iteration": {
        "title": "Iteration",
        "sort": "choice",
        "names": "iteration"
      },
      "keptOut": {
        "title": "Kept out",
        "sort": "flag"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "kind": {
        "title": "Kind",
        "sort": "choice",
        "values": [
          "initiative",
          "feature",
          "story",
          "defect",
          "upkeep",
          "enabler",
          "spike"
        ]
      },
      "left": {
        "title": "Left",
        "sort": "number"
      },
      "links": {
        "title": "Links",
        "sort": "parts"
      },
      "noRelease": {
        "title": "No release",
        "sort": "flag"
      },
      "notBefore": {
        "title": "Not before",
        "sort": "day"
      },
      "parent": {
        "title": "Part of",
        "sort": "choice",
        "names": "item"
      },
      "pinned": {
        "title": "Pinned",
        "sort": "flag"
      },
      "priority": {
        "title": "Priority",
        "sort": "text"
      },
      "release": {
        "title": "Release",
        "sort": "choice",
        "names": "release"
      },
      "reported": {
        "title": "Reported as",
        "sort": "text"
      },
      "role": {
        "title": "Role",
        "sort": "text"
      },
      "rough": {
        "title": "Rough sizes",
        "sort": "parts"
      },
      "roughPlaces": {
        "title": "Rough places",
        "sort": "parts"
      },
      "size": {
        "title": "Size",
        "sort": "number"
      },
      "state": {
        "title": "State",
        "sort": "choice",
        "values": [
          "todo",
          "doing",
          "review",
          "done"
        ]
      },
      "step": {
        "title": "Step",
        "sort": "text"
      },
      "tags": {
        "title": "Tags",
        "sort": "many"
      },
      "tasks": {
        "title": "Tasks",
        "sort": "parts"
      },
      "team": {
        "title": "Team",
        "sort": "choice",
        "names": "team"
      },
      "tests": {
        "title": "Tests",
        "sort": "whole"
      },
      "title": {
        "title": "Title",
        "sort": "text"
      }
    }
  },
  "iteration": {
    "title": "iteration",
    "list": "iterations",
    "in": "team",
    "nested": true,
    "fields": {
      "actions": {
        "title": "Actions",
        "sort": "parts"
      },
      "capacity": {
        "title": "Capacity",
        "sort": "number"
      },
      "capacityNote": {
        "title": "Why the capacity",
        "sort": "text"
      },
      "committed": {
        "title": "Committed",
        "sort": "number"
      },
      "committedItems": {
        "title": "Items committed",
        "sort": "number"
      },
      "completed": {
        "title": "Completed",
        "sort": "number"
      },
      "completedItems": {
        "title": "Items completed",
        "sort": "number"
      },
      "end": {
        "title": "End",
        "sort": "day"
      },
      "goal": {
        "title": "Goal",
        "sort": "text"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "leftOut": {
        "title": "Left out of velocity",
        "sort": "text"
      },
      "name": {
        "title": "Name",
        "sort": "text"
      },
      "start": {
        "title": "Start",
        "sort": "day"
      },
      "state": {
        "title": "State",
        "sort": "choice",
        "values": [
          "planned",
          "open",
          "closed"
        ]
      },
      "toChange": {
        "title": "What to change",
        "sort": "text"
      },
      "wentWell": {
        "title": "What went well",
        "sort": "text"
      }
    }
  },
  "milestone": {
    "title": "milestone",
    "list": "milestones",
    "fields": {
      "date": {
        "title": "Date",
        "sort": "day"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "name": {
        "title": "Name",
        "sort": "text"
      },
      "needs": {
        "title": "Needs",
        "sort": "many",
        "names": "item"
      },
      "releases": {
        "title": "Releases",
        "sort": "many",
        "names": "release"
      }
    }
  },
  "need": {
    "title": "need",
    "list": "needs",
    "in": "item",
    "fields": {
      "agreement": {
        "title": "Agreement",
        "sort": "choice",
        "values": [
          "asked",
          "offered",
          "agreed",
          "declined"
        ]
      },
      "given": {
        "title": "Date given",
        "sort": "day"
      },
      "item": {
        "title": "Item",
        "sort": "choice",
        "names": "item"
      },
      "lagDays": {
        "title": "Days between",
        "sort": "number"
      },
      "needs": {
        "title": "Needs",
        "sort": "choice",
        "names": "item"
      },
      "wanted": {
        "title": "Wanted by",
        "sort": "day"
      },
      "why": {
        "title": "Said with it",
        "sort": "text"
      }
    }
  },
  "person": {
    "title": "person",
    "list": "people",
    "fields": {
      "calendar": {
        "title": "Calendar",
        "sort": "text"
      },
      "daysOff": {
        "title": "Days off",
        "sort": "parts"
      },
      "hoursPerDay": {
        "title": "Hours a day",
        "sort": "number"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "name": {
        "title": "Name",
        "sort": "text"
      },
      "openSeat": {
        "title": "Open seat",
        "sort": "flag"
      },
      "roles": {
        "title": "Roles",
        "sort": "many"
      },
      "weekdays": {
        "title": "Weekdays",
        "sort": "many"
      }
    }
  },
  "program": {
    "title": "program",
    "fields": {
      "activities": {
        "title": "Activities",
        "sort": "many"
      },
      "agreements": {
        "title": "Needs between teams are agreed on",
        "sort": "flag"
      },
      "askWhy": {
        "title": "Asks why scope changes",
        "sort": "flag"
      },
      "attention": {
        "title": "What needs somebody",
        "sort": "whole"
      },
      "fillTo": {
        "title": "Fill to",
        "sort": "number"
      },
      "growth": {
        "title": "Growth an iteration",
        "sort": "number"
      },
      "guidance": {
        "title": "Guidance beside each stage",
        "sort": "flag"
      },
      "guides": {
        "title": "Guidance in its own words",
        "sort": "parts"
      },
      "holidayCalendar": {
        "title": "Calendar of the holidays",
        "sort": "text"
      },
      "holidays": {
        "title": "Holidays",
        "sort": "parts"
      },
      "landing": {
        "title": "When work counts as done",
        "sort": "choice",
        "values": [
          "day",
          "iteration-end"
        ]
      },
      "mix": {
        "title": "Wanted mix",
        "sort": "whole"
      },
      "name": {
        "title": "Name",
        "sort": "text"
      },
      "othersAccept": {
        "title": "Accepted by others",
        "sort": "flag"
      },
      "patterns": {
        "title": "Patterns",
        "sort": "parts"
      },
      "phaseTemplates": {
        "title": "Phase templates",
        "sort": "parts"
      },
      "planSections": {
        "title": "Sections of iteration plans",
        "sort": "parts"
      },
      "playRisks": {
        "title": "Play risks",
        "sort": "flag"
      },
      "priorities": {
        "title": "Priorities",
        "sort": "many"
      },
      "pullAhead": {
        "title": "Pull ahead",
        "sort": "flag"
      },
      "ready": {
        "title": "What ready means",
        "sort": "whole"
      },
      "repeats": {
        "title": "Repeated items",
        "sort": "parts"
      },
      "roles": {
        "title": "Roles of people",
        "sort": "many"
      },
      "sameIteration": {
        "title": "Sharing an iteration",
        "sort": "choice",
        "values": [
          "never",
          "same-team",
          "always"
        ]
      },
      "scales": {
        "title": "Scales of risks",
        "sort": "whole"
      },
      "spread": {
        "title": "Spread of paces",
        "sort": "number"
      },
      "steps": {
        "title": "Steps",
        "sort": "parts"
      },
      "today": {
        "title": "Today",
        "sort": "day"
      },
      "turned": {
        "title": "Play sizes as they turned out",
        "sort": "flag"
      },
      "views": {
        "title": "Views",
        "sort": "parts"
      }
    }
  },
  "promise": {
    "title": "promise",
    "list": "promises",
    "fields": {
      "chance": {
        "title": "Odds then",
        "sort": "number"
      },
      "date": {
        "title": "By",
        "sort": "day"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "made": {
        "title": "Given on",
        "sort": "day"
      },
      "milestone": {
        "title": "Milestone",
        "sort": "choice",
        "names": "milestone"
      },
      "note": {
        "title": "Note",
        "sort": "text"
      },
      "release": {
        "title": "Release",
        "sort": "choice",
        "names": "release"
      },
      "to": {
        "title": "To whom",
        "sort": "text"
      },
      "withdrawn": {
        "title": "Taken back on",
        "sort": "day"
      }
    }
  },
  "release": {
    "title": "release",
    "list": "releases",
    "fields": {
      "description": {
        "title": "Description",
        "sort": "text"
      },
      "documents": {
        "title": "Documents",
        "sort": "parts"
      },
      "due": {
        "title": "Due",
        "sort": "day"
      },
      "growth": {
        "title": "Growth an iteration",
        "sort": "number"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "name": {
        "title": "Name",
        "sort": "text"
      },
      "phases": {
        "title": "Phases",
        "sort": "parts"
      },
      "start": {
        "title": "Start",
        "sort": "day"
      }
    }
  },
  "risk": {
    "title": "risk",
    "list": "risks",
    "fields": {
      "actions": {
        "title": "Actions",
        "sort": "parts"
      },
      "adds": {
        "title": "Work it brings",
        "sort": "parts"
      },
      "again": {
        "title": "To be looked at again",
        "sort": "day"
      },
      "answer": {
        "title": "What is done about it",
        "sort": "text"
      },
      "answered": {
        "title": "Response in place",
        "sort": "flag"
      },
      "cause": {
        "title": "Cause",
        "sort": "text"
      },
      "chance": {
        "title": "Chance",
        "sort": "number"
      },
      "delays": {
        "title": "Delays",
        "sort": "parts"
      },
      "effect": {
        "title": "Effect",
        "sort": "text"
      },
      "from": {
        "title": "From",
        "sort": "day"
      },
      "impact": {
        "title": "Impact",
        "sort": "number"
      },
      "items": {
        "title": "Items",
        "sort": "many",
        "names": "item"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "needs": {
        "title": "Needs",
        "sort": "parts"
      },
      "odds": {
        "title": "Odds",
        "sort": "number"
      },
      "oddsThen": {
        "title": "Odds with the response",
        "sort": "number"
      },
      "owner": {
        "title": "Owner",
        "sort": "choice",
        "names": "person"
      },
      "releases": {
        "title": "Releases",
        "sort": "many",
        "names": "release"
      },
      "response": {
        "title": "Response",
        "sort": "choice",
        "values": [
          "avoid",
          "reduce",
          "pass-on",
          "accept"
        ]
      },
      "shareThen": {
        "title": "Left with the response",
        "sort": "number"
      },
      "state": {
        "title": "State",
        "sort": "choice",
        "values": [
          "open",
          "happened",
          "over"
        ]
      },
      "teams": {
        "title": "Teams",
        "sort": "many",
        "names": "team"
      },
      "title": {
        "title": "Title",
        "sort": "text"
      }
    }
  },
  "snooze": {
    "title": "snooze",
    "list": "snoozes",
    "fields": {
      "key": {
        "title": "Of what",
        "sort": "text"
      },
      "until": {
        "title": "Until",
        "sort": "day"
      },
      "why": {
        "title": "Why",
        "sort": "text"
      }
    }
  },
  "team": {
    "title": "team",
    "list": "teams",
    "fields": {
      "agreedDays": {
        "title": "Velocity agreed for, days a week",
        "sort": "number"
      },
      "agreedOn": {
        "title": "Velocity agreed on",
        "sort": "day"
      },
      "builds": {
        "title": "Builds",
        "sort": "parts"
      },
      "cadence": {
        "title": "Cadence",
        "sort": "choice",
        "names": "cadence"
      },
      "deployed": {
        "title": "What runs where",
        "sort": "parts"
      },
      "fillTo": {
        "title": "Fill to",
        "sort": "number"
      },
      "focus": {
        "title": "Focus",
        "sort": "number"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "lookback": {
        "title": "Iterations that count",
        "sort": "number"
      },
      "members": {
        "title": "Members",
        "sort": "parts"
      },
      "name": {
        "title": "Name",
        "sort": "text"
      },
      "unit": {
        "title": "Unit",
        "sort": "choice",
        "values": [
          "points",
          "days",
          "hours"
        ]
      },
      "velocity": {
        "title": "Agreed velocity",
        "sort": "number"
      }
    }
  },
  "timeEntry": {
    "title": "time entry",
    "list": "timeEntries",
    "fields": {
      "activity": {
        "title": "Activity",
        "sort": "text"
      },
      "date": {
        "title": "Date",
        "sort": "day"
      },
      "hours": {
        "title": "Hours",
        "sort": "number"
      },
      "item": {
        "title": "Item",
        "sort": "choice",
        "names": "item"
      },
      "key": {
        "title": "Key",
        "sort": "text"
      },
      "note": {
        "title": "Note",
        "sort": "text"
      },
      "person": {
        "title": "Person",
        "sort": "choice",
        "names": "person"
      },
      "task": {
        "title": "Task",
        "sort": "text"
      }
    }
  }
} as const

/** Fields of a program that stand in its settings. */
export const settings: readonly string[] = ["sameIteration","fillTo","landing","pullAhead","othersAccept","agreements","askWhy","steps","roles","activities","priorities","attention","scales","playRisks","turned","spread","growth","guidance","planSections","holidayCalendar","ready","mix"]
