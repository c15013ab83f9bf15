package policy

import (
	"cmp"
	"fmt"
	"slices"

	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/locker"
)

// Gear is the gear of a job as the crew's locker has it.
type Gear struct {
	Faults intake.Faults // items that are of the wrong kind for their place

	job     *job.Job
	items   map[string]*locker.Item
	day     string
	missing []string // ids that the locker at hand does not have
}

// take gives the item of an id when it is of one of the kinds, and names what is wrong
// otherwise.
func (o *Gear) take(c *Crew, id, path string, kinds ...string) *locker.Item {
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
		o.Faults.Add(path, id, kinds[0], "%s is a %s of the locker: here goes a %s", found.Name, found.Kind, kinds[0])
		return nil
	}
	o.items[id] = found
	return found
}

// Resolve returns the job with the figures of its gear as the crew's locker has them
// now, and how that gear stands. What the locker at hand does not have stays as the
// document noted it.
func Resolve(j *job.Job, c *Crew) (*job.Job, Gear) {
	out := Gear{job: j, items: map[string]*locker.Item{}, day: max(c.On, j.WorkOn)}
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
		if item := out.take(c, stands.Item, fmt.Sprintf("body.site.cranes[%d].item", i), locker.Crane); item != nil {
			stands.Chart = item.Chart
			if item.RiggingKg != nil {
				stands.RiggingKg = *item.RiggingKg
			}
		}
	}
	out.trucks(&job, c)
	job.Picks = slices.Clone(j.Picks)
	for i := range job.Picks {
		out.felling(&job.Picks[i], c, fmt.Sprintf("body.picks[%d].fell.", i))
		if job.Picks[i].Lift == nil {
			continue
		}
		lift := *job.Picks[i].Lift
		lift.Slings = slices.Clone(lift.Slings)
		for k := range lift.Slings {
			path := fmt.Sprintf("body.picks[%d].lift.slings[%d].item", i, k)
			item := out.take(c, lift.Slings[k].Item, path, locker.Sling)
			if item == nil {
				continue
			}
			limits := LimitsOf(&job, &c.Policy)
			if limit, known := item.WorkingLimit(limits.DesignFactors[locker.Sling]); known {
				lift.Slings[k].WllKn = limit.Kn
			}
		}
		job.Picks[i].Lift = &lift
	}
	return &job, out
}

// trucks gives the vehicles of a job the figures of their items.
func (o *Gear) trucks(j *job.Job, c *Crew) {
	if j.Ground == nil || len(j.Ground.Trucks) == 0 {
		return
	}
	ground := *j.Ground
	ground.Trucks = slices.Clone(ground.Trucks)
	for i := range ground.Trucks {
		truck := &ground.Trucks[i]
		if item := o.take(c, truck.Item, fmt.Sprintf("body.ground.trucks[%d].item", i), locker.Vehicle); item != nil {
			truck.Name, truck.PayloadKg, truck.VolumeM3, truck.BedM = item.Name, item.PayloadKg, item.VolumeM3, item.LengthM
			truck.MassKg, truck.Grip, truck.WinchKn = item.MassKg, item.Grip, item.WinchKn
		}
	}
	j.Ground = &ground
}

// turns gives what turns a rope the figures of its item.
func turns(name *string, rating *gear.Rating, efficiency, bend **float64, item *locker.Item) {
	*name, *rating = item.Name, item.Rating
	if item.Efficiency != nil {
		*efficiency = item.Efficiency
	}
	*bend = item.BendM
}

// redirects are those given, with the figures of their items.
func (o *Gear) redirects(given []job.Redirect, c *Crew, path string) []job.Redirect {
	list := slices.Clone(given)
	for i := range list {
		turn := &list[i]
		if item := o.take(c, turn.Item, fmt.Sprintf("%sredirects[%d].item", path, i), locker.Pulley, locker.Block); item != nil {
			turns(&turn.Name, &turn.Rating, &turn.Efficiency, &turn.BendM, item)
			turn.Friction = nil
		}
	}
	return list
}

// felling resolves the turns of a felling's lines.
func (o *Gear) felling(p *job.Pick, c *Crew, path string) {
	if p.Fell == nil || len(p.Fell.Lines) == 0 {
		return
	}
	fell := *p.Fell
	fell.Lines = slices.Clone(fell.Lines)
	for i := range fell.Lines {
		fell.Lines[i].Redirects = o.redirects(fell.Lines[i].Redirects, c, fmt.Sprintf("%slines[%d].", path, i))
	}
	p.Fell = &fell
}

func (o *Gear) rig(r *job.Rig, c *Crew, path string) {
	if r.Rope != nil {
		if item := o.take(c, r.Rope.Item, path+"rope.item", locker.Rope); item != nil {
			rope := *r.Rope
			rope.Name, rope.MarkedKn, rope.Conditions, rope.BreakingKn = item.Name, item.MarkedKn, item.Conditions, *item.BreakingKn
			rope.DiameterM, rope.DynamicFactor = job.Or(item.DiameterM, rope.DiameterM), job.Or(item.DynamicFactor, 0)
			// A maker who gives no elongation: what the rig had may be of a softer rope.
			if rope.Elongation = item.Elongation; len(rope.Elongation) == 0 {
				rope.Elongation = gear.StandIn(job.Or(item.DiameterM, 0))
			}
			r.Rope = &rope
			if item.LengthM != nil {
				r.RopeLengthM = item.LengthM
			}
		}
	}
	if item := o.take(c, r.Tie.Item, path+"tie.item", locker.Sling); item != nil {
		r.Tie.Name, r.Tie.Rating = item.Name, item.Rating
	}
	if item := o.take(c, r.Block.Item, path+"block.item", locker.Block, locker.Pulley, locker.Device); item != nil {
		turns(&r.Block.Name, &r.Block.Rating, &r.Block.Efficiency, &r.Block.BendM, item)
		if item.Kind == locker.Device {
			// A friction device aloft turns the rope in place of a pulley.
			r.Block.Efficiency = nil
			if item.Friction != nil {
				r.Block.Friction = item.Friction
			} else if r.Block.Friction == nil {
				friction := job.RigDefaults().Friction
				r.Block.Friction = &friction
			}
		} else {
			r.Block.Friction, r.Block.Turns = nil, nil
		}
	}
	if item := o.take(c, r.Sling.Item, path+"sling.item", locker.Sling); item != nil {
		r.Sling.Name, r.Sling.Rating, r.Sling.Conditions = item.Name, item.Rating, item.Conditions
	}
	if r.Connector != nil {
		if item := o.take(c, r.Connector.Item, path+"connector.item", locker.Connector); item != nil {
			own := *r.Connector
			own.Name, own.Rating = item.Name, item.Rating
			r.Connector = &own
		}
	}
	r.Redirects = o.redirects(r.Redirects, c, path)
	if item := o.take(c, r.Device.Item, path+"device.item", locker.Device); item != nil {
		r.Device.Name, r.Device.Rating, r.Device.BendM = item.Name, item.Rating, item.BendM
		if item.Friction != nil {
			r.Device.Friction = item.Friction
		}
	}
	if item := o.take(c, r.Hands.Item, path+"hands.item", locker.Winch); item != nil {
		r.Hands.Name, r.Hands.Rating = item.Name, item.Rating
	}
	if r.Second != nil {
		if item := o.take(c, r.Second.Item, path+"second.item", locker.Block, locker.Pulley); item != nil {
			second := *r.Second
			second.Name, second.Rating = item.Name, item.Rating
			r.Second = &second
		}
	}
}

// severity orders the states that bar an item.
var severity = map[string]int{locker.Overdue: 1, locker.Aside: 2, locker.Retired: 3}

// Item is the item of an id; nil: the locker at hand does not have it.
func (o *Gear) Item(id string) *locker.Item { return o.items[id] }

// Stands says how an item stands on the day, and whether it is barred from planning: a
// recorded reason lifts the bar for the state it was given for.
func (o *Gear) Stands(id string) (standing locker.Standing, barred bool, reason *job.Exception) {
	item := o.items[id]
	if item == nil || o.day == "" {
		return locker.Standing{State: locker.Ready}, false, nil
	}
	standing = item.On(o.day)
	if !standing.Barred {
		return standing, false, nil
	}
	reason = o.job.Exception(id)
	if reason == nil || severity[reason.State] < severity[standing.State] {
		return standing, true, nil
	}
	return standing, false, reason
}

// Said says how an item stands, and why it is used all the same; empty when there is
// nothing to say.
func (o *Gear) Said(id, name string) string {
	standing, _, reason := o.Stands(id)
	if standing.Why == "" {
		return ""
	}
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

// Standings lists the gear of the locker that the job refers to.
func (o *Gear) Standings() []GearStanding {
	list := []GearStanding{}
	for _, item := range o.items {
		standing, barred, reason := o.Stands(item.ID)
		one := GearStanding{ID: item.ID, Kind: item.Kind, Name: item.Name, Serial: item.Serial, Standing: standing, Barred: barred}
		if reason != nil {
			one.Reason, one.By = reason.Reason, reason.By
		}
		list = append(list, one)
	}
	slices.SortFunc(list, func(a, b GearStanding) int {
		return cmp.Or(slices.Index(locker.Kinds(), a.Kind)-slices.Index(locker.Kinds(), b.Kind), cmp.Compare(a.Name, b.Name), cmp.Compare(a.ID, b.ID))
	})
	return list
}

// Cautions says what of the gear the figures do not know.
func (o *Gear) Cautions() (list []string) {
	if n := len(o.missing); n > 0 {
		list = append(list, fmt.Sprintf("%d of the items that this job takes from the locker are not at hand here: their figures are as the job noted them.", n))
	}
	return list
}
