package job

import (
	"fmt"
	"slices"

	"elkstay/core/intake"
)

// Ground is what becomes of the wood once it lies: how it is sawn, where it is moved, what takes
// it away.
type Ground struct {
	HandKg     *float64  `json:"hand_kg,omitempty" minimum:"5" maximum:"200" doc:"Heaviest log that is lifted by hand, kg; default 40"`
	MachineKg  *float64  `json:"machine_kg,omitempty" exclusiveMinimum:"0" maximum:"50000" doc:"Heaviest log that the machine on site lifts, kg; absent: there is none"`
	LeastM     *float64  `json:"least_m,omitempty" minimum:"0.02" maximum:"1" doc:"Wood thinner than this goes to chips, m; default 0.1"`
	KerfM      *float64  `json:"kerf_m,omitempty" minimum:"0" maximum:"0.05" doc:"What a saw cut takes, m; default 0.01"`
	Friction   *float64  `json:"friction,omitempty" minimum:"0.1" maximum:"2" doc:"Log on the ground while it is dragged; default 0.9, the rough end for turf and soil"`
	ChipsKgM3  *float64  `json:"chips_kg_m3,omitempty" minimum:"100" maximum:"800" doc:"Bulk density of fresh chips, kg/m³; default 300"`
	StackShare *float64  `json:"stack_share,omitempty" minimum:"0.2" maximum:"0.9" doc:"Share of solid wood in a load of logs; default 0.6"`
	Logs       []Logging `json:"logs,omitempty" maxItems:"200" doc:"How what a pick brings down is sawn; a pick without one: at its defaults"`
	Moves      []Move    `json:"moves,omitempty" maxItems:"40" doc:"From where it lies to where it goes"`
	Trucks     []Truck   `json:"trucks,omitempty" maxItems:"12" doc:"What takes it away"`
	Gone       []Gone    `json:"-"` // the loads that have left, by the job's facts
}

// How logs are cut to length.
const (
	SawnByLength  = "length"
	SawnByHand    = "hand"
	SawnByMachine = "machine"
	SawnByTruck   = "truck"
)

// Logging is how what one pick brings down is sawn.
type Logging struct {
	ID        string    `json:"id" minLength:"1" maxLength:"40" doc:"Id of the pick"`
	By        string    `json:"by,omitempty" enum:"length,hand,machine,truck" doc:"By the lengths wanted, or no log heavier than by hand, by machine or on the truck; default length"`
	LengthsM  []float64 `json:"lengths_m,omitempty" maxItems:"6" doc:"Lengths wanted, the first as often as it goes, m, 0.2 to 15 each; default 2.4"`
	SupportsM []float64 `json:"supports_m,omitempty" maxItems:"2" doc:"The two places that carry it where it lies, from its butt, rising, m; absent: not known"`
	Flat      bool      `json:"flat,omitempty" doc:"It lies on the ground all along"`
	Kept      bool      `json:"kept,omitempty" doc:"Its logs stay here"`
}

// A Rise is a place of the ground along a way.
type Rise struct {
	OutM  float64 `json:"out_m" minimum:"0" maximum:"500" doc:"How far along the way, on the level, m"`
	RiseM float64 `json:"rise_m" minimum:"-100" maximum:"100" doc:"Above where the way begins, m"`
}

// A Move is a way over the ground along which logs are dragged.
type Move struct {
	ID       string   `json:"id" minLength:"1" maxLength:"40"`
	Name     string   `json:"name" minLength:"1" maxLength:"80"`
	From     Spot     `json:"from"`
	To       Spot     `json:"to"`
	Picks    []string `json:"picks,omitempty" maxItems:"200" doc:"Ids of the picks whose logs go this way; none: of all that are not kept"`
	Profile  []Rise   `json:"profile,omitempty" maxItems:"30" doc:"Ground along the way, from its beginning; absent: the slope of the site"`
	Together *int     `json:"together,omitempty" minimum:"1" maximum:"20" doc:"Logs in one go; default 1"`
	By       string   `json:"by,omitempty" enum:"hands,hand-winch,capstan-winch,vehicle,machine" doc:"What pulls; default hands"`
	People   *int     `json:"people,omitempty" minimum:"1" maximum:"20" doc:"Hands on it, in persons; default 1"`
	Parts    *int     `json:"parts,omitempty" minimum:"1" maximum:"9" doc:"Of the pulling system, 3 for 3:1; 1 to 6, or 9; default 1"`
	EffortKn *float64 `json:"effort_kn,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"What pulls with, kN; absent: hands by the crew's limit, a vehicle by its grip, else not known"`
	Truck    string   `json:"truck,omitempty" maxLength:"40" doc:"Id of the vehicle that pulls"`
	Anchor   string   `json:"anchor,omitempty" maxLength:"40" doc:"Id of the anchor that winch or system is on; empty: what pulls holds itself"`
	LiftM    *float64 `json:"lift_m,omitempty" exclusiveMinimum:"0" maximum:"10" doc:"How high its nose is lifted by a high block, m; absent: it lies flat"`
	Block    string   `json:"block,omitempty" maxLength:"40" doc:"Id of the anchor that the high block is on"`
	Rig      string   `json:"rig,omitempty" maxLength:"40" doc:"Id of the rig whose rope and device are used; empty: the first"`
}

// A Truck is what takes logs or chips away, or pulls them.
type Truck struct {
	ID        string   `json:"id" minLength:"1" maxLength:"40"`
	Name      string   `json:"name" minLength:"1" maxLength:"80"`
	Item      string   `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	Takes     string   `json:"takes,omitempty" enum:"logs,chips,both" doc:"Default both"`
	PayloadKg *float64 `json:"payload_kg,omitempty" exclusiveMinimum:"0" maximum:"60000" doc:"What it may carry, kg"`
	VolumeM3  *float64 `json:"volume_m3,omitempty" exclusiveMinimum:"0" maximum:"150" doc:"Room of its body, m³"`
	BedM      *float64 `json:"bed_m,omitempty" exclusiveMinimum:"0" maximum:"16" doc:"Longest log that lies in it, m"`
	MassKg    *float64 `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"60000" doc:"Its own mass, kg"`
	Grip      *float64 `json:"grip,omitempty" exclusiveMinimum:"0" maximum:"1.5" doc:"Friction of its wheels on the ground; default 0.35, wet grass"`
	WinchKn   *float64 `json:"winch_kn,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"What its winch pulls, kN"`
	Gone      []Gone   `json:"gone,omitempty" maxItems:"200" doc:"Loads that have gone, as documents had them before those were facts: read into them"`
}

// What a truck takes.
const (
	TakesLogs  = "logs"
	TakesChips = "chips"
	TakesBoth  = "both"
)

// Gone is a load that has left.
type Gone struct {
	ID    string  `json:"id" minLength:"1" maxLength:"40"`
	Truck string  `json:"-"` // id of the vehicle that it went on
	What  string  `json:"what" enum:"logs,chips"`
	Kg    float64 `json:"kg" exclusiveMinimum:"0" maximum:"100000" doc:"By the weighbridge, or judged, kg"`
	On    string  `json:"on,omitempty" maxLength:"10" doc:"The day"`
}

// Defaults on the ground (common practice, no source: round figures on the heavy side).
const (
	groundHand     = 40  // kg
	groundLeast    = 0.1 // m
	groundKerf     = 0.01
	groundFriction = 0.9
	groundChips    = 300 // kg/m³
	groundStack    = 0.6
	groundLength   = 2.4 // m
	truckGrip      = 0.35
)

// Lengths of logs that are asked for, m.
const (
	shortestLog = 0.2
	longestLog  = 15.0
)

// OnGround is what becomes of the wood, with its defaults.
func (j *Job) OnGround() Ground {
	g := Ground{}
	if j.Ground != nil {
		g = *j.Ground
	}
	g.Gone = j.LoadsGone()
	set := func(at **float64, standard float64) {
		value := Or(*at, standard)
		*at = &value
	}
	set(&g.HandKg, groundHand)
	set(&g.LeastM, groundLeast)
	set(&g.KerfM, groundKerf)
	set(&g.Friction, groundFriction)
	set(&g.ChipsKgM3, groundChips)
	set(&g.StackShare, groundStack)
	return g
}

// LoggingOf is how what a pick brings down is sawn, with its defaults.
func (g *Ground) LoggingOf(pick string) Logging {
	l := Logging{ID: pick}
	if i := slices.IndexFunc(g.Logs, func(l Logging) bool { return l.ID == pick }); i >= 0 {
		l = g.Logs[i]
	}
	if l.By == "" {
		l.By = SawnByLength
	}
	if len(l.LengthsM) == 0 {
		l.LengthsM = []float64{groundLength}
	}
	return l
}

// TruckOf is a truck by its id; nil: there is none.
func (g *Ground) TruckOf(id string) *Truck {
	if i := slices.IndexFunc(g.Trucks, func(t Truck) bool { return t.ID == id }); i >= 0 {
		return &g.Trucks[i]
	}
	return nil
}

// Wheels is the friction of a truck's wheels on the ground.
func (t *Truck) Wheels() float64 { return Or(t.Grip, truckGrip) }

// Carries tells whether a truck takes logs, or chips.
func (t *Truck) Carries(what string) bool {
	return t.Takes == "" || t.Takes == TakesBoth || t.Takes == what
}

// groundFaults names what contradicts itself on the ground.
func (j *Job) groundFaults() (faults intake.Faults) {
	if j.Ground == nil {
		return nil
	}
	g := j.Ground
	for i := range g.Logs {
		l, at := &g.Logs[i], fmt.Sprintf("body.ground.logs[%d]", i)
		for k, length := range l.LengthsM {
			if length < shortestLog || length > longestLog {
				faults.Add(fmt.Sprintf("%s.lengths_m[%d]", at, k), length, fmt.Sprintf("%g to %g m", shortestLog, longestLog), "a log of %g m is not sawn here", length)
			}
		}
		if n := len(l.SupportsM); n == 1 || n == 2 && l.SupportsM[1] <= l.SupportsM[0] {
			faults.Add(at+".supports_m", l.SupportsM, "two places, rising", "what it lies on is two places along it, the second further from the butt")
		}
		for k, s := range l.SupportsM {
			if s < 0 || s > 150 {
				faults.Add(fmt.Sprintf("%s.supports_m[%d]", at, k), s, "0 to 150 m", "a support at %g m is not under the log", s)
			}
		}
		if l.Flat && len(l.SupportsM) > 0 {
			faults.Add(at+".flat", true, "flat, or on two places", "it lies on the ground all along and on two places at once")
		}
	}
	for i := range g.Moves {
		m, at := &g.Moves[i], fmt.Sprintf("body.ground.moves[%d]", i)
		if m.From == m.To {
			faults.Add(at+".to", m.To, "another place", "%s ends where it begins", m.Name)
		}
		for k := range m.Profile {
			if k > 0 && m.Profile[k].OutM <= m.Profile[k-1].OutM {
				faults.Add(fmt.Sprintf("%s.profile[%d].out_m", at, k), m.Profile[k].OutM, fmt.Sprintf("more than %g m", m.Profile[k-1].OutM), "the places along %s do not go on from one another", m.Name)
			}
		}
		if m.Parts != nil && (*m.Parts == 7 || *m.Parts == 8) {
			faults.Add(at+".parts", *m.Parts, "1 to 6, or 9", "there is no simple system of %d parts", *m.Parts)
		}
		if m.Truck != "" && g.TruckOf(m.Truck) == nil {
			faults.Add(at+".truck", m.Truck, "the id of a vehicle", "%s is pulled by a vehicle that is not there: %q", m.Name, m.Truck)
		}
		for _, name := range [2]struct{ field, id string }{{"anchor", m.Anchor}, {"block", m.Block}} {
			if name.id != "" && !slices.ContainsFunc(j.Site.Anchors, func(a Anchor) bool { return a.ID == name.id }) {
				faults.Add(at+"."+name.field, name.id, "the id of an anchor", "%s hangs on an anchor that is not on the site: %q", m.Name, name.id)
			}
		}
		if m.Rig != "" && !slices.ContainsFunc(j.Rigs, func(r Rig) bool { return r.ID == m.Rig }) {
			faults.Add(at+".rig", m.Rig, "the id of a rig", "%s uses a rig that is not there: %q", m.Name, m.Rig)
		}
	}
	return faults
}
