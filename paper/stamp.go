package paper

import (
	"fmt"
	"time"
)

// A Stamp says of what a paper is made, and when; it stands on each page.
type Stamp struct {
	Revision int // of the job; 0: a file that is kept nowhere
	Newest   int // revision of the job now
	SavedAt  time.Time
	MadeAt   time.Time
	Crew     int  // revision of rules and gear
	Changed  bool // rules or gear are others now
}

// Words is the line at the foot of each page.
func (s *Stamp) Words(name string) string {
	if s.Revision == 0 {
		return fmt.Sprintf("%s · from a job file, of no kept revision · made %s · rules and gear %d", name, moment(s.MadeAt), s.Crew)
	}
	return fmt.Sprintf("%s · revision %d, saved %s · made %s · rules and gear %d", name, s.Revision, moment(s.SavedAt), moment(s.MadeAt), s.Crew)
}

// Outdated says that the job has moved on; empty: it has not.
func (s *Stamp) Outdated() string {
	switch {
	case s.Newest > s.Revision:
		return fmt.Sprintf("Made from revision %d. The job has moved on to revision %d: do not work from this paper, ask for a new one.", s.Revision, s.Newest)
	case s.Changed:
		return "The crew's rules or gear have changed since this was made: ask for a new one."
	}
	return ""
}

func moment(t time.Time) string { return t.UTC().Format("2 Jan 2006 15:04 UTC") }
