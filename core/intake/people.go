package intake

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"jantrel/core/calendar"
	"jantrel/core/program"
)

// NewPerson is a person read from a line, with the shares that teams get of them.
type NewPerson struct {
	program.Person
	Shares map[string]program.Member // by team
	order  []string
}

// Teams returns the teams that get a share, in the order of the line.
func (n NewPerson) Teams() []string { return n.order }

var (
	setOff    = regexp.MustCompile(`[,;\t]`)
	shareWord = regexp.MustCompile(`^(\S+)(?:\s+(\d+(?:\.\d+)?)\s*%)?((?:\s+(?:from|to)\s+\S+)*)$`)
	hoursWord = regexp.MustCompile(`^(\d+(?:\.\d+)?)\s*h(?:ours)?(?:\s+a\s+day)?$`)
	offWord   = regexp.MustCompile(`^off\s+(\S+?)(?:(?:\.\.|\s+to\s+)(\S+))?(?:\s+(.+))?$`)
	dateWord  = regexp.MustCompile(`(from|to)\s+(\S+)`)
)

// ReadPeople reads people from lines of text, one a line, parts set off by commas:
//
//	Ingrid Oksanen, LC 100%, firmware, off 2027-04-12..2027-04-23
//	Rui Figueira, LC 50%, TW 50% from 2027-05-01, modelling, 6 h
//	open seat, MA 50% from 2027-06-01, mobile
//
// The first part is the name. What follows is a share of a team, named by its key
// (all of the person where there is no percentage), with dates where it has some;
// days off; hours a day; everything else is a role. Every line that cannot be read
// is a problem with its number.
func ReadPeople(text string, p program.Program) ([]NewPerson, program.Problems) {
	var people []NewPerson
	var problems program.Problems
	teams := map[string]string{}
	for _, t := range p.Teams {
		teams[strings.ToLower(t.Key)] = t.Key
	}
	taken := map[string]bool{}
	for _, x := range p.People {
		taken[x.Key] = true
	}
	for number, line := range strings.Split(text, "\n") {
		if strings.TrimSpace(line) == "" {
			continue
		}
		person, err := readPerson(line, teams)
		if err != nil {
			problems = append(problems, program.Problem{Path: fmt.Sprintf("line %d", number+1), Text: err.Error()})
			continue
		}
		for n := len(p.People) + 1; person.Key == "" || taken[person.Key]; n++ {
			person.Key = fmt.Sprintf("p%02d", n)
		}
		taken[person.Key] = true
		for key, m := range person.Shares {
			m.Person = person.Key
			person.Shares[key] = m
		}
		people = append(people, person)
	}
	return people, problems
}

func readPerson(line string, teams map[string]string) (NewPerson, error) {
	parts := setOff.Split(line, -1)
	person := NewPerson{Shares: map[string]program.Member{}}
	for i, part := range parts {
		part = strings.Join(strings.Fields(part), " ")
		switch share, off, hours := shareWord.FindStringSubmatch(part), offWord.FindStringSubmatch(part), hoursWord.FindStringSubmatch(part); {
		case part == "":
		case i == 0:
			person.Name = part
			person.OpenSeat = strings.HasPrefix(strings.ToLower(part), "open seat")
		case off != nil:
			day, err := readDayOff(off)
			if err != nil {
				return person, err
			}
			person.DaysOff = append(person.DaysOff, day)
		case hours != nil:
			person.HoursPerDay, _ = strconv.ParseFloat(hours[1], 64)
			if person.HoursPerDay <= 0 || person.HoursPerDay > 24 {
				return person, fmt.Errorf("%q is not a number of hours a day", part)
			}
		case share != nil && (teams[strings.ToLower(share[1])] != "" || share[2] != "" || share[3] != ""):
			key := teams[strings.ToLower(share[1])]
			if key == "" {
				return person, fmt.Errorf("there is no team %q", share[1])
			}
			m, err := readShare(share)
			if err != nil {
				return person, err
			}
			if _, twice := person.Shares[key]; twice {
				return person, fmt.Errorf("the team %s stands twice", key)
			}
			person.Shares[key] = m
			person.order = append(person.order, key)
		default:
			person.Roles = append(person.Roles, part)
		}
	}
	if person.Name == "" {
		return person, fmt.Errorf("the line has no name; it begins with one")
	}
	return person, nil
}

func readShare(words []string) (program.Member, error) {
	m := program.Member{Share: 1}
	if words[2] != "" {
		percent, _ := strconv.ParseFloat(words[2], 64)
		if percent > 100 {
			return m, fmt.Errorf("%s %% is more than 100 %%", words[2])
		}
		m.Share = percent / 100
	}
	for _, date := range dateWord.FindAllStringSubmatch(words[3], -1) {
		day, err := calendar.Parse(date[2])
		if err != nil {
			return m, err
		}
		if date[1] == "from" {
			m.From = day
		} else {
			m.To = day
		}
	}
	if !m.To.IsZero() && m.To < m.From {
		return m, fmt.Errorf("the share ends %s, before it begins %s", m.To, m.From)
	}
	return m, nil
}

func readDayOff(words []string) (program.DayOff, error) {
	from, err := calendar.Parse(words[1])
	if err != nil {
		return program.DayOff{}, err
	}
	off := program.DayOff{From: from, To: from, Name: words[3]}
	if words[2] != "" {
		if off.To, err = calendar.Parse(words[2]); err != nil {
			return off, err
		}
	}
	if off.To < off.From {
		return off, fmt.Errorf("the days off end %s, before they begin %s", off.To, off.From)
	}
	return off, nil
}
