package plan

import (
	"fmt"
	"slices"

	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/locker"
)

// An Exception is a recorded reason for planning with an item of the locker that is set
// aside or overdue. It holds for the state it was given for and no graver one.
type Exception struct {
	ID     string `json:"id" minLength:"1" maxLength:"40" doc:"Id of the item in the locker"`
	State  string `json:"state" enum:"overdue,set aside,retired" doc:"How the item stood when the reason was given"`
	Reason string `json:"reason" minLength:"8" maxLength:"400" doc:"Why it is planned with all the same"`
	By     string `json:"by" minLength:"1" maxLength:"80" doc:"Who answers for it"`
	On     string `json:"on" minLength:"10" maxLength:"10" doc:"The day it was recorded"`
}

// outfit is how the gear of a job stands in the crew's locker.
type outfit struct {
	items   map[string]*locker.Item
	day     string
	missing []string // ids that the locker at hand does not have
	faults  intake.Faults
}

// item gives the item of an id when it is of one of the kinds, and names what is wrong
// otherwise.
func (o *outfit) item(c *Crew, id, path string, kinds ...string) *locker.Item {
	if id == "" {
		return nil
	}
	found := c.item(id)
	if found == nil {
		if !slices.Contains(o.missing, id) {
			o.missing = append(o.missing, id)
		}
		return nil
	}
	if !slices.Contains(kinds, found.Kind) {
		o.faults.Add(path, id, kinds[0], "%s is a %s of the locker: here goes a %s", found.Name, found.Kind, kinds[0])
		return nil
	}
	o.items[id] = found
	return found
}

// outfitted returns the job with the figures of its gear as the crew's locker has them
// now, and how that gear stands. What the locker at hand does not have stays as the
// document noted it.
func (j *Job) outfitted(c *Crew) (*Job, outfit) {
	out := outfit{items: map[string]*locker.Item{}, day: max(c.On, j.WorkOn)}
	if c.On == "" {
		out.day = ""
	}
	job := *j
	job.Rigs = slices.Clone(j.Rigs)
	for i := range job.Rigs {
		out.rig(&job.Rigs[i], c, fmt.Sprintf("body.rigs[%d].", i))
	}
	job.Site.Cranes = slices.Clone(j.Site.Cranes)
	for i := range job.Site.Cranes {
		stands := &job.Site.Cranes[i]
		if item := out.item(c, stands.Item, fmt.Sprintf("body.site.cranes[%d].item", i), locker.Crane); item != nil {
			stands.Chart = item.Chart
			if item.RiggingKg != nil {
				stands.RiggingKg = *item.RiggingKg
			}
		}
	}
	job.Picks = slices.Clone(j.Picks)
	for i := range job.Picks {
		if job.Picks[i].Lift == nil {
			continue
		}
		lift := *job.Picks[i].Lift
		lift.Slings = slices.Clone(lift.Slings)
		for k := range lift.Slings {
			path := fmt.Sprintf("body.picks[%d].lift.slings[%d].item", i, k)
			item := out.item(c, lift.Slings[k].Item, path, locker.Sling)
			if item == nil {
				continue
			}
			limits := job.crewLimits(&c.Policy)
			if limit, known := item.WorkingLimit(limits.DesignFactors[locker.Sling]); known {
				lift.Slings[k].WllKn = limit.Kn
			}
		}
		job.Picks[i].Lift = &lift
	}
	return &job, out
}

func (o *outfit) rig(r *Rig, c *Crew, path string) {
	if r.Rope != nil {
		if item := o.item(c, r.Rope.Item, path+"rope.item", locker.Rope); item != nil {
			rope := *r.Rope
			rope.Name, rope.MarkedKn, rope.Conditions, rope.BreakingKn = item.Name, item.MarkedKn, item.Conditions, *item.BreakingKn
			rope.DiameterM, rope.DynamicFactor = orElse(item.DiameterM, rope.DiameterM), orElse(item.DynamicFactor, 0)
			// A maker who gives no elongation leaves what the rig was given.
			if len(item.Elongation) > 0 {
				rope.Elongation = item.Elongation
			}
			r.Rope = &rope
			if item.LengthM != nil {
				r.RopeLengthM = item.LengthM
			}
		}
	}
	if item := o.item(c, r.Tie.Item, path+"tie.item", locker.Sling); item != nil {
		r.Tie.Name, r.Tie.Rating = item.Name, item.Rating
	}
	turns := func(name *string, rating *gear.Rating, efficiency, bend **float64, item *locker.Item) {
		*name, *rating = item.Name, item.Rating
		if item.Efficiency != nil {
			*efficiency = item.Efficiency
		}
		*bend = item.BendM
	}
	if item := o.item(c, r.Block.Item, path+"block.item", locker.Block, locker.Pulley); item != nil {
		turns(&r.Block.Name, &r.Block.Rating, &r.Block.Efficiency, &r.Block.BendM, item)
	}
	if item := o.item(c, r.Sling.Item, path+"sling.item", locker.Sling); item != nil {
		r.Sling.Name, r.Sling.Rating, r.Sling.Conditions = item.Name, item.Rating, item.Conditions
	}
	if r.Connector != nil {
		if item := o.item(c, r.Connector.Item, path+"connector.item", locker.Connector); item != nil {
			own := *r.Connector
			own.Name, own.Rating = item.Name, item.Rating
			r.Connector = &own
		}
	}
	r.Redirects = slices.Clone(r.Redirects)
	for i := range r.Redirects {
		turn := &r.Redirects[i]
		if item := o.item(c, turn.Item, fmt.Sprintf("%sredirects[%d].item", path, i), locker.Pulley, locker.Block); item != nil {
			turns(&turn.Name, &turn.Rating, &turn.Efficiency, &turn.BendM, item)
			turn.Friction = nil
		}
	}
	if item := o.item(c, r.Device.Item, path+"device.item", locker.Device); item != nil {
		r.Device.Name, r.Device.Rating, r.Device.BendM = item.Name, item.Rating, item.BendM
		if item.Friction != nil {
			r.Device.Friction = item.Friction
		}
	}
	if item := o.item(c, r.Hands.Item, path+"hands.item", locker.Winch); item != nil {
		r.Hands.Name, r.Hands.Rating = item.Name, item.Rating
	}
	if r.Second != nil {
		if item := o.item(c, r.Second.Item, path+"second.item", locker.Block, locker.Pulley); item != nil {
			second := *r.Second
			second.Name, second.Rating = item.Name, item.Rating
			r.Second = &second
		}
	}
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
	for i := range j.Picks {
		if lift := j.Picks[i].Lift; lift != nil {
			for k := range lift.Slings {
				add(lift.Slings[k].Item)
			}
		}
	}
	return ids
}

// exception finds the recorded reason for an item.
func (j *Job) exception(id string) *Exception {
	for i := range j.Exceptions {
		if j.Exceptions[i].ID == id {
			return &j.Exceptions[i]
		}
	}
	return nil
}

// graver orders the states that bar an item.
var graver = map[string]int{locker.Overdue: 1, locker.Aside: 2, locker.Retired: 3}

// stands says how an item stands on the day, and whether it is barred from planning: a
// recorded reason lifts the bar for the state it was given for.
func (v *survey) stands(id string) (standing locker.Standing, barred bool, reason *Exception) {
	item := v.outfit.items[id]
	if item == nil || v.outfit.day == "" {
		return locker.Standing{State: locker.Ready}, false, nil
	}
	standing = item.On(v.outfit.day)
	if !standing.Barred {
		return standing, false, nil
	}
	reason = v.job.exception(id)
	if reason == nil || graver[reason.State] < graver[standing.State] {
		return standing, true, nil
	}
	return standing, false, reason
}

// bar names the gear that this pick may not be planned with.
func (v *survey) bar(o *outcome) {
	seen := map[string]bool{}
	for i := range o.loads {
		id := o.loads[i].item
		if id == "" || seen[id] {
			continue
		}
		seen[id] = true
		if standing, barred, _ := v.stands(id); barred {
			o.fault(faultGear, "%s is not to be planned with: %s. Take another, or record a reason", v.outfit.items[id].Name, standing.Why)
		}
	}
}

// sentence says how an item stands, and why it is used all the same.
func sentence(name string, standing locker.Standing, reason *Exception) string {
	text := fmt.Sprintf("%s: %s.", name, standing.Why)
	if reason != nil {
		text += fmt.Sprintf(" Used all the same, says %s: %s", reason.By, reason.Reason)
	}
	return text
}

// GearStanding is how an item of the locker that the job uses stands on its day.
type GearStanding struct {
	ID     string `json:"id" doc:"Id in the locker"`
	Kind   string `json:"kind"`
	Name   string `json:"name"`
	Serial string `json:"serial"`
	locker.Standing
	Barred bool   `json:"barred" doc:"Not to be planned with: no reason is recorded"`
	Reason string `json:"reason" doc:"The recorded reason for using it all the same; else empty"`
	By     string `json:"by" doc:"Who answers for that"`
}

// standings lists the gear of the locker that the job refers to.
func (v *survey) standings() []GearStanding {
	list := []GearStanding{}
	for _, item := range v.outfit.items {
		standing, barred, reason := v.stands(item.ID)
		one := GearStanding{ID: item.ID, Kind: item.Kind, Name: item.Name, Serial: item.Serial, Standing: standing, Barred: barred}
		if reason != nil {
			one.Reason, one.By = reason.Reason, reason.By
		}
		list = append(list, one)
	}
	slices.SortFunc(list, func(a, b GearStanding) int {
		if k := slices.Index(locker.Kinds(), a.Kind) - slices.Index(locker.Kinds(), b.Kind); k != 0 {
			return k
		}
		if a.Name != b.Name {
			if a.Name < b.Name {
				return -1
			}
			return 1
		}
		return slices.Compare([]byte(a.ID), []byte(b.ID))
	})
	return list
}

// outfitCautions says what of the gear the figures do not know.
func (v *survey) outfitCautions() (list []string) {
	if n := len(v.outfit.missing); n > 0 {
		list = append(list, fmt.Sprintf("%d of the items that this job takes from the locker are not at hand here: their figures are as the job noted them.", n))
	}
	return list
}
