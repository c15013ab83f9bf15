package job

import (
	"fmt"
)

// Settings are the figures one pick rests on: those of the document, and the defaults
// where it is silent.
type Settings struct {
	TieM            float64 `json:"tie_m" doc:"Tie, from the cut along the piece"`
	SlackM          float64 `json:"slack_m"`
	BlockBelowCutM  float64 `json:"block_below_cut_m" doc:"Of a block that moves with the cuts"`
	BlockEfficiency float64 `json:"block_efficiency"`
	DeviceAtM       float64 `json:"device_at_m"`
	Wraps           float64 `json:"wraps"`
	Friction        float64 `json:"friction"`
	EnergyLostPct   float64 `json:"energy_lost_pct"`
	DynamicFactor   float64 `json:"dynamic_factor"`
	How             string  `json:"how" enum:"locked,wraps,hold,run"`
	HandKn          float64 `json:"hand_kn"`
	HoldKn          float64 `json:"hold_kn"`
	RunM            float64 `json:"run_m"`
	FallTowardsDeg  float64 `json:"fall_towards_deg"`
}

// The defaults are round figures of common practice; the interface marks each as
// a default until the crew sets it.
const (
	defaultTie        = 0.5
	defaultSlack      = 0.1
	defaultBlock      = 0.6
	defaultEfficiency = 0.9
	defaultDevice     = 1.2
	defaultWraps      = 2.5
	defaultFriction   = 0.2
	defaultHand       = 0.2
	defaultHold       = 5
	defaultRun        = 1
)

// Or returns what is given, or the default.
func Or(given *float64, standard float64) float64 {
	if given == nil {
		return standard
	}
	return *given
}

// Settings fills in the defaults of a rig as a pick uses it.
func (r *Rig) Settings(p *Pick) Settings {
	how := r.Catch
	if p.Catch != nil {
		how = *p.Catch
	}
	s := Settings{
		TieM: Or(r.Tie.AboveM, defaultTie), SlackM: Or(r.SlackM, defaultSlack),
		BlockBelowCutM: Or(r.Block.BelowCutM, defaultBlock), BlockEfficiency: Or(r.Block.Efficiency, defaultEfficiency),
		DeviceAtM: Or(r.Device.AtM, defaultDevice), Friction: Or(r.Device.Friction, defaultFriction),
		Wraps:         Or(p.Wraps, Or(r.Device.Wraps, defaultWraps)),
		EnergyLostPct: Or(r.EnergyLostPct, 0), DynamicFactor: 1,
		How: how.How, HandKn: Or(how.HandKn, defaultHand), HoldKn: Or(how.HoldKn, defaultHold), RunM: Or(how.RunM, defaultRun),
	}
	if s.How == "" {
		s.How = ByWraps
	}
	if r.Device.None {
		// Hands alone: no turns to help them.
		s.Wraps = 0
	}
	if r.Rope != nil {
		s.DynamicFactor = r.Rope.Dynamic()
	}
	return s
}

// RigDefaults are the settings of a rig that nobody has filled in.
func RigDefaults() Settings { return (&Rig{}).Settings(&Pick{}) }

// Defaulted lists the paths of the document that stand at their default.
func (j *Job) Defaulted() []string {
	paths := []string{}
	note := func(given bool, path string) {
		if !given {
			paths = append(paths, path)
		}
	}
	for i := range j.Trees {
		note(j.Trees[i].TopDiameterM != nil, fmt.Sprintf("trees[%d].top_diameter_m", i))
	}
	l := &j.Limits
	note(l.DesignFactor != nil, "limits.design_factor")
	note(l.WoodFactor != nil, "limits.wood_factor")
	note(l.ThrowKg != nil, "limits.throw_kg")
	note(l.HandKn != nil, "limits.hand_kn")
	note(l.ClearM != nil, "limits.clear_m")
	note(l.CloseFromPct != nil, "limits.close_from_pct")
	for i := range j.Rigs {
		r, at := &j.Rigs[i], fmt.Sprintf("rigs[%d].", i)
		note(r.Tie.AboveM != nil, at+"tie.above_cut_m")
		note(r.SlackM != nil, at+"slack_m")
		note(r.Block.BelowCutM != nil, at+"block.below_cut_m")
		note(r.Block.Efficiency != nil || r.Block.Friction != nil, at+"block.efficiency")
		note(r.Device.AtM != nil, at+"device.at_m")
		note(r.Device.Wraps != nil || r.Device.None, at+"device.wraps")
		note(r.Device.Friction != nil, at+"device.friction")
		note(r.EnergyLostPct != nil, at+"energy_lost_pct")
		note(r.Catch.How != "", at+"catch.how")
		note(r.Catch.HandKn != nil, at+"catch.hand_kn")
		note(r.Catch.HoldKn != nil, at+"catch.hold_kn")
		note(r.Catch.RunM != nil, at+"catch.run_m")
		note(r.Rope != nil && r.Rope.Dynamic() > 1, at+"rope.dynamic_factor")
	}
	for i := range j.Picks {
		p, at := &j.Picks[i], fmt.Sprintf("picks[%d].", i)
		note(p.CutM != nil, at+"cut_m")
		note(p.TieM != nil, at+"tie_m")
		note(p.Wraps != nil, at+"wraps")
		note(p.FallTowardsDeg != nil, at+"fall_towards_deg")
	}
	return paths
}
