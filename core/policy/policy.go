// Package policy holds the crew's rules and what follows from them: the limits a job is
// held to, the gear of a job as the crew's locker has it, how that gear stands on the day,
// and what an item may see as it is used, by its marking, knots, bends, condition and the
// rules.
//
// Every rule has a default with its reason. Defaults are common practice where no source
// is named; ASME B30.26 and B30.9 are from memory.
package policy

import (
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/working"
)

// A Policy is the crew's rules for every job. What is absent stands at its default.
type Policy struct {
	DesignFactors DesignFactors `json:"design_factors"`
	LeastFactor   *float64      `json:"least_factor,omitempty" minimum:"1" maximum:"30" doc:"What knot, bend and condition leave of a strength, over this, is never passed, whatever is marked"`
	MarkedPct     *float64      `json:"marked_pct,omitempty" minimum:"1" maximum:"100" doc:"Share of a marked working load that is used, per cent"`
	School        string        `json:"school,omitempty" enum:"peak-within-working-load,static-within-working-load" doc:"Which limit counts in a shock; default the peak within the working load"`
	PeakSharePct  *float64      `json:"peak_share_pct,omitempty" minimum:"1" maximum:"100" doc:"Share of the strength left that a peak may take in the second school"`
	ChartUsePct   *float64      `json:"chart_use_pct,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Share of a crane's chart that is used"`
	WeightEnd     string        `json:"weight_end,omitempty" enum:"likely,heavy" doc:"Which end of a weight estimate loads a line; a crane always takes the heavy one; default heavy"`
	WoodFactor    *float64      `json:"wood_factor,omitempty" minimum:"1" maximum:"20" doc:"Divides the green rupture strength of the standing stem"`
	PieceKg       *float64      `json:"piece_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Heaviest piece on a line, kg; absent: none set"`
	ThrowKg       *float64      `json:"throw_kg,omitempty" exclusiveMinimum:"0" maximum:"200" doc:"Heaviest piece thrown by hand, kg"`
	PushKg        *float64      `json:"push_kg,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"Heaviest piece that one person snaps and pushes off, kg"`
	HandKn        *float64      `json:"hand_kn,omitempty" minimum:"0.01" maximum:"5" doc:"What one person may hold on the line, kN"`
	ClearM        *float64      `json:"clear_m,omitempty" minimum:"0" maximum:"50" doc:"Room kept between a piece and what it must not touch, m"`
	RunM          *float64      `json:"run_m,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Longest run, m; absent: none set"`
	FillPct       *float64      `json:"fill_pct,omitempty" minimum:"50" maximum:"100" doc:"Share of every limit that a proposed order stays within, per cent"`
	CloseFromPct  *float64      `json:"close_from_pct,omitempty" minimum:"1" maximum:"100" doc:"Per cent of a limit from which it counts as close"`
	FellMargin    *float64      `json:"fell_margin,omitempty" minimum:"1" maximum:"5" doc:"Factor on the moment that brings a tree over; a felling may say otherwise"`
	AimDeg        *float64      `json:"aim_deg,omitempty" minimum:"1" maximum:"30" doc:"How far a fall may miss its bearing, to either side, degrees"`
	CircleLengths *float64      `json:"circle_lengths,omitempty" minimum:"1" maximum:"5" doc:"Nobody but who cuts stands nearer a tree that is felled, in lengths of it"`
	Minutes       Minutes       `json:"minutes,omitempty"`
	Note          string        `json:"note,omitempty" maxLength:"2000" doc:"Why the crew has settled on this"`
}

// DesignFactors divide a breaking strength where no working load is marked, by kind of
// gear.
type DesignFactors struct {
	Rope      *float64 `json:"rope,omitempty" minimum:"1" maximum:"30"`
	Sling     *float64 `json:"sling,omitempty" minimum:"1" maximum:"30"`
	Block     *float64 `json:"block,omitempty" minimum:"1" maximum:"30"`
	Connector *float64 `json:"connector,omitempty" minimum:"1" maximum:"30"`
	Pulley    *float64 `json:"pulley,omitempty" minimum:"1" maximum:"30"`
	Device    *float64 `json:"device,omitempty" minimum:"1" maximum:"30"`
	Winch     *float64 `json:"winch,omitempty" minimum:"1" maximum:"30"`
}

// Minutes are what a pick takes from the first look to the clear ground, by its way down.
type Minutes struct {
	Thrown    *float64 `json:"thrown,omitempty" minimum:"0.5" maximum:"600"`
	Free      *float64 `json:"free,omitempty" minimum:"0.5" maximum:"600"`
	PastBlock *float64 `json:"past_block,omitempty" minimum:"0.5" maximum:"600"`
	FromAbove *float64 `json:"from_above,omitempty" minimum:"0.5" maximum:"600"`
	Swung     *float64 `json:"swung,omitempty" minimum:"0.5" maximum:"600"`
	TwoPoints *float64 `json:"two_points,omitempty" minimum:"0.5" maximum:"600"`
	BothEnds  *float64 `json:"both_ends,omitempty" minimum:"0.5" maximum:"600"`
	Crane     *float64 `json:"crane,omitempty" minimum:"0.5" maximum:"600"`
	Felled    *float64 `json:"felled,omitempty" minimum:"0.5" maximum:"600"`
}

// minutes are those of a way down and its default (common practice, no source).
func (m *Minutes) of() map[job.Way]struct {
	own      *float64
	standard float64
} {
	return map[job.Way]struct {
		own      *float64
		standard float64
	}{
		job.WayThrown: {m.Thrown, 4}, job.WayFree: {m.Free, 6}, job.WayPastBlock: {m.PastBlock, 14}, job.WayFromAbove: {m.FromAbove, 14},
		job.WaySwung: {m.Swung, 18}, job.WayTwoPoints: {m.TwoPoints, 25}, job.WayBothEnds: {m.BothEnds, 22}, job.WayCrane: {m.Crane, 20}, job.WayFelled: {m.Felled, 45},
	}
}

// of gives the factor of a kind of gear; nil when none is set.
func (d *DesignFactors) of(kind string) *float64 {
	return map[string]*float64{
		locker.Rope: d.Rope, locker.Sling: d.Sling, locker.Block: d.Block, locker.Connector: d.Connector,
		locker.Pulley: d.Pulley, locker.Device: d.Device, locker.Winch: d.Winch,
	}[kind]
}

// The ends of a weight estimate.
const (
	EndLikely = "likely"
	EndHeavy  = "heavy"
)

const (
	defaultMetal     = 5 // design factor of metal gear
	defaultPeakShare = 40
	defaultMarked    = 100
	defaultFill      = 90
	defaultChartUse  = 75
	defaultLimitHand = 0.25
	defaultThrow     = 15
	defaultPush      = 80
	defaultWood      = 3
	defaultClear     = 0.5
	defaultCloseFrom = 80
	defaultMargin    = 1.3
	defaultAim       = 5
	defaultCircle    = 2
)

// A Rule is one rule of the policy: where it stands when nobody has said, and why.
type Rule struct {
	Path    string   `json:"path" doc:"Path in the policy"`
	Title   string   `json:"title"`
	Default *float64 `json:"default" doc:"Null: none, or a choice"`
	Choice  string   `json:"choice" doc:"The default of a choice; else empty"`
	Reason  string   `json:"reason"`
	Source  string   `json:"source"`
}

// Rules lists the rules of a policy with their defaults and the reasons for them.
func Rules() []Rule {
	at := func(v float64) *float64 { return &v }
	textile := "Knots, wear, sunlight and shocks that nobody sees come off a rope's strength before it reaches the tree; a tenth leaves room for them."
	metal := "Metal neither knots nor ages like fibre; five to one is what marked rigging hardware is commonly made to."
	takes := "From the first look to the clear ground, until the crew's own log knows better."
	b3026 := "ASME B30.26 asks at least 5 of shackles and 4 of rigging blocks (from memory)"
	return []Rule{
		{"design_factors.rope", "Ropes", at(gear.DefaultDesignFactor), "", textile, working.Common},
		{"design_factors.sling", "Slings", at(gear.DefaultDesignFactor), "", textile, working.Common},
		{"design_factors.block", "Blocks", at(defaultMetal), "", metal, b3026},
		{"design_factors.connector", "Connectors", at(defaultMetal), "", metal, b3026},
		{"design_factors.pulley", "Pulleys", at(defaultMetal), "", metal, b3026},
		{"design_factors.device", "Lowering devices", at(defaultMetal), "", metal, working.Common},
		{"design_factors.winch", "Winches", at(defaultMetal), "", metal, working.Common},
		{"least_factor", "Strength left by knot, bend and condition, over", at(gear.DefaultLeastFactor), "", "A marking is for the item as it was made; a knot, a sharp bend and wear take their share all the same.", working.Common},
		{"marked_pct", "Share of a marked load that is used", at(defaultMarked), "", "What the maker marked is what the maker made it for; a crew that wants to stay under it says by how much.", working.Common},
		{"school", "Which limit counts in a shock", nil, gear.PeakWithinWorkingLoad, "The peak is what breaks gear. Kept within the working load, no shock is more than the maker made it for.", working.Common},
		{"peak_share_pct", "Share of the strength a peak may take, in the second school", at(defaultPeakShare), "", "Well under half, so that a peak that was reckoned too low is still no break.", working.Common},
		{"chart_use_pct", "Share of a crane's chart", at(defaultChartUse), "", "The weight is an estimate until the hook has it, and a severed piece can come with a jerk.", working.Common},
		{"weight_end", "Which end of a weight estimate counts", nil, EndHeavy, "The heavy end is the one that hurts; a scale narrows it.", working.Common},
		{"wood_factor", "Standing wood: strength over", at(defaultWood), "", "Green strength varies from stem to stem by a third and more, and decay does not always show.", working.Common},
		{"piece_kg", "Heaviest piece on a line", nil, "", "None is set: the gear decides.", working.Common},
		{"throw_kg", "Heaviest piece thrown by hand", at(defaultThrow), "", "What one person on a line can push clear with one arm and mean it.", working.Common},
		{"push_kg", "Heaviest piece snapped and pushed off by hand", at(defaultPush), "", "Freshly cut softwood on itself: the first push that moves a piece of 185 lb is 150 lb, as much as one person has.", working.Common},
		{"hand_kn", "What one person holds on the line", at(defaultLimitHand), "", "About 25 kg on a wet line, held for as long as a piece takes to come down.", working.Common},
		{"clear_m", "Room kept round a piece", at(defaultClear), "", "Pieces turn and brush bends: half a metre of it is used up before anything touches.", working.Common},
		{"run_m", "Longest run", nil, "", "None is set: the room beneath decides.", working.Common},
		{"fell_margin", "Felling: moment on what is needed", at(defaultMargin), "", "Wind, a hinge left a little thick and a balance judged by eye; a third more is cheap before the cut.", working.Common},
		{"aim_deg", "Felling: a fall may miss its bearing by", at(defaultAim), "", "A face cut by eye and a hinge that is not quite even turn a fall by a few degrees.", working.Common},
		{"circle_lengths", "Felling: nobody nearer, in lengths of the tree", at(defaultCircle), "", "Tops break, throw and bring down what they touch: twice the length is what is kept clear.", working.Common},
		{"minutes.thrown", "Minutes: thrown by hand", at(4), "", takes, working.Common},
		{"minutes.free", "Minutes: free", at(6), "", takes, working.Common},
		{"minutes.past_block", "Minutes: lowered past its block", at(14), "", takes, working.Common},
		{"minutes.from_above", "Minutes: lowered from above", at(14), "", takes, working.Common},
		{"minutes.swung", "Minutes: swung", at(18), "", takes, working.Common},
		{"minutes.two_points", "Minutes: between two points", at(25), "", takes, working.Common},
		{"minutes.both_ends", "Minutes: held at both ends", at(22), "", takes, working.Common},
		{"minutes.crane", "Minutes: by crane", at(20), "", takes, working.Common},
		{"minutes.felled", "Minutes: felled, lines set", at(45), "", takes, working.Common},
		{"fill_pct", "Share of every limit that a proposed order fills", at(defaultFill), "", "Weights, wood and hands are never quite what was typed; who plans to the last per cent has planned to be over.", working.Common},
		{"close_from_pct", "Close begins at", at(defaultCloseFrom), "", "The last fifth is where a second look costs less than a surprise.", working.Common},
	}
}

// ReadPolicy reads a policy. The error is intake.Faults.
func ReadPolicy(data []byte) (Policy, error) {
	var policy Policy
	err := intake.Decode(data, &policy)
	return policy, err
}
