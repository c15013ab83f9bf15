package policy

import (
	"elkstay/core/intake"
	"elkstay/core/locker"
)

// A Crew is what the crew brings to every job: its rules, its gear, and the day.
type Crew struct {
	Policy   Policy        `json:"policy"`
	Gear     []locker.Item `json:"gear" nullable:"false" maxItems:"2000" doc:"The items of the locker that the job refers to"`
	On       string        `json:"on,omitempty" maxLength:"10" doc:"The day, such as 2026-03-31; absent: inspections are not judged"`
	Revision int           `json:"revision,omitempty" minimum:"0" maximum:"2000000000" doc:"Of rules and gear together, as they are kept"`
}

// ReadCrew reads a crew; empty data is a crew with neither rules nor gear of its own.
// The error is intake.Faults.
func ReadCrew(data []byte) (Crew, error) {
	var crew Crew
	if len(data) == 0 {
		return crew, nil
	}
	err := intake.Decode(data, &crew)
	return crew, err
}

// item finds an item of the crew's gear by its id.
func (c *Crew) item(id string) *locker.Item {
	for i := range c.Gear {
		if c.Gear[i].ID == id {
			return &c.Gear[i]
		}
	}
	return nil
}
