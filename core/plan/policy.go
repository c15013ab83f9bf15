package plan

import (
	"fmt"

	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/locker"
	"elkstay/core/working"
)

// A Policy is the crew's rules for every job. What is absent stands at its default.
type Policy struct {
	DesignFactors DesignFactors `json:"design_factors"`
	School        string        `json:"school,omitempty" enum:"peak-within-working-load,static-within-working-load" doc:"Which limit counts in a shock; default the peak within the working load"`
	PeakSharePct  *float64      `json:"peak_share_pct,omitempty" minimum:"1" maximum:"100" doc:"Share of the strength left that a peak may take in the second school"`
	ChartUsePct   *float64      `json:"chart_use_pct,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Share of a crane's chart that is used"`
	WeightEnd     string        `json:"weight_end,omitempty" enum:"likely,heavy" doc:"Which end of a weight estimate loads a line; a crane always takes the heavy one; default heavy"`
	WoodFactor    *float64      `json:"wood_factor,omitempty" minimum:"1" maximum:"20" doc:"Divides the green rupture strength of the standing stem"`
	PieceKg       *float64      `json:"piece_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Heaviest piece on a line, kg; absent: none set"`
	ThrowKg       *float64      `json:"throw_kg,omitempty" exclusiveMinimum:"0" maximum:"200" doc:"Heaviest piece thrown by hand, kg"`
	HandKn        *float64      `json:"hand_kn,omitempty" minimum:"0.01" maximum:"5" doc:"What one person may hold on the line, kN"`
	ClearM        *float64      `json:"clear_m,omitempty" minimum:"0" maximum:"50" doc:"Room kept between a piece and what it must not touch, m"`
	RunM          *float64      `json:"run_m,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Longest run, m; absent: none set"`
	CloseFromPct  *float64      `json:"close_from_pct,omitempty" minimum:"1" maximum:"100" doc:"Per cent of a limit from which it counts as close"`
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
	defaultChartUse  = 75
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
	b3026 := "ASME B30.26 asks at least 5 of shackles and 4 of rigging blocks (from memory)"
	return []Rule{
		{"design_factors.rope", "Ropes", at(gear.DefaultDesignFactor), "", textile, working.Common},
		{"design_factors.sling", "Slings", at(gear.DefaultDesignFactor), "", textile, working.Common},
		{"design_factors.block", "Blocks", at(defaultMetal), "", metal, b3026},
		{"design_factors.connector", "Connectors", at(defaultMetal), "", metal, b3026},
		{"design_factors.pulley", "Pulleys", at(defaultMetal), "", metal, b3026},
		{"design_factors.device", "Lowering devices", at(defaultMetal), "", metal, working.Common},
		{"design_factors.winch", "Winches", at(defaultMetal), "", metal, working.Common},
		{"school", "Which limit counts in a shock", nil, gear.PeakWithinWorkingLoad, "The peak is what breaks gear. Kept within the working load, no shock is more than the maker made it for.", working.Common},
		{"peak_share_pct", "Share of the strength a peak may take, in the second school", at(defaultPeakShare), "", "Well under half, so that a peak that was reckoned too low is still no break.", working.Common},
		{"chart_use_pct", "Share of a crane's chart", at(defaultChartUse), "", "The weight is an estimate until the hook has it, and a severed piece can come with a jerk.", working.Common},
		{"weight_end", "Which end of a weight estimate counts", nil, EndHeavy, "The heavy end is the one that hurts; a scale narrows it.", working.Common},
		{"wood_factor", "Standing wood: strength over", at(defaultWood), "", "Green strength varies from stem to stem by a third and more, and decay does not always show.", working.Common},
		{"piece_kg", "Heaviest piece on a line", nil, "", "None is set: the gear decides.", working.Common},
		{"throw_kg", "Heaviest piece thrown by hand", at(defaultThrow), "", "What one person on a line can push clear with one arm and mean it.", working.Common},
		{"hand_kn", "What one person holds on the line", at(defaultLimitHand), "", "About 25 kg on a wet line, held for as long as a piece takes to come down.", working.Common},
		{"clear_m", "Room kept round a piece", at(defaultClear), "", "Pieces turn and brush bends: half a metre of it is used up before anything touches.", working.Common},
		{"run_m", "Longest run", nil, "", "None is set: the room beneath decides.", working.Common},
		{"close_from_pct", "Close begins at", at(defaultCloseFrom), "", "The last fifth is where a second look costs less than a surprise.", working.Common},
	}
}

// ReadPolicy reads a policy. The error is intake.Faults.
func ReadPolicy(data []byte) (Policy, error) {
	var policy Policy
	err := intake.Decode(data, &policy)
	return policy, err
}

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

// crewLimits brings together what the job says for itself, the policy, and the defaults.
func (j *Job) crewLimits(p *Policy) CrewLimits {
	l := &j.Limits
	pick := func(own, crew *float64, standard float64) float64 { return orElse(own, orElse(crew, standard)) }
	either := func(own, crew *float64) *float64 {
		if own != nil {
			return own
		}
		return crew
	}
	limits := CrewLimits{
		DesignFactors: map[string]float64{}, School: p.School, PeakSharePct: orElse(p.PeakSharePct, defaultPeakShare),
		ChartUsePct: orElse(p.ChartUsePct, defaultChartUse), WeightEnd: p.WeightEnd,
		WoodFactor: pick(l.WoodFactor, p.WoodFactor, defaultWood), PieceKg: either(l.PieceKg, p.PieceKg), ThrowKg: pick(l.ThrowKg, p.ThrowKg, defaultThrow),
		HandKn: pick(l.HandKn, p.HandKn, defaultLimitHand), ClearM: pick(l.ClearM, p.ClearM, defaultClear), RunM: either(l.RunM, p.RunM),
		CloseFromPct: pick(l.CloseFromPct, p.CloseFromPct, defaultCloseFrom),
	}
	if limits.School == "" {
		limits.School = gear.PeakWithinWorkingLoad
	}
	if limits.WeightEnd == "" {
		limits.WeightEnd = EndHeavy
	}
	for _, kind := range locker.Kinds() {
		standard := float64(defaultMetal)
		switch kind {
		case locker.Rope, locker.Sling:
			standard = gear.DefaultDesignFactor
		case locker.Crane:
			continue
		}
		limits.DesignFactors[kind] = pick(l.DesignFactor, p.DesignFactors.of(kind), standard)
	}
	return limits
}

// ruled says in words which rule set a figure: the job's own, or the policy.
func ruled(own *float64) string {
	if own != nil {
		return "this job's own"
	}
	return "the crew's policy"
}

func schoolWords(school string, share float64) string {
	if school == gear.StaticWithinWorkingLoad {
		return fmt.Sprintf("the load at rest within the working load, the peak within %g %% of the strength", share)
	}
	return "the peak within the working load"
}

// DesignFactorOf is the design factor of a kind of gear by a policy.
func DesignFactorOf(p *Policy, kind string) float64 {
	return (&Job{}).crewLimits(p).DesignFactors[kind]
}
