package job

import (
	"slices"
)

// An Exception is a recorded reason for planning with an item of the locker that is set
// aside or overdue. It holds for the state it was given for and no severity one.
type Exception struct {
	ID     string `json:"id" minLength:"1" maxLength:"40" doc:"Id of the item in the locker"`
	State  string `json:"state" enum:"overdue,set aside,retired" doc:"How the item stood when the reason was given"`
	Reason string `json:"reason" minLength:"8" maxLength:"400" doc:"Why it is planned with all the same"`
	By     string `json:"by" minLength:"1" maxLength:"80" doc:"Who answers for it"`
	On     string `json:"on" minLength:"10" maxLength:"10" doc:"The day it was recorded"`
}

// Exception finds the recorded reason for an item.
func (j *Job) Exception(id string) *Exception {
	for i := range j.Exceptions {
		if j.Exceptions[i].ID == id {
			return &j.Exceptions[i]
		}
	}
	return nil
}

// Items lists the ids of the locker that the job refers to.
func (j *Job) Items() []string {
	ids := []string{}
	add := func(id string) {
		if id != "" && !slices.Contains(ids, id) {
			ids = append(ids, id)
		}
	}
	for i := range j.Rigs {
		r := &j.Rigs[i]
		if r.Rope != nil {
			add(r.Rope.Item)
		}
		add(r.Tie.Item)
		add(r.Block.Item)
		if r.Connector != nil {
			add(r.Connector.Item)
		}
		add(r.Sling.Item)
		for k := range r.Redirects {
			add(r.Redirects[k].Item)
		}
		add(r.Device.Item)
		add(r.Hands.Item)
		if r.Second != nil {
			add(r.Second.Item)
		}
	}
	for i := range j.Site.Cranes {
		add(j.Site.Cranes[i].Item)
	}
	if j.Ground != nil {
		for i := range j.Ground.Trucks {
			add(j.Ground.Trucks[i].Item)
		}
	}
	for i := range j.Picks {
		if f := j.Picks[i].Fell; f != nil {
			for l := range f.Lines {
				for k := range f.Lines[l].Redirects {
					add(f.Lines[l].Redirects[k].Item)
				}
			}
		}
		if lift := j.Picks[i].Lift; lift != nil {
			for k := range lift.Slings {
				add(lift.Slings[k].Item)
			}
		}
	}
	return ids
}
