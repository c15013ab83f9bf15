package plan

import (
	"math"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/timber"
)

// Settings are the figures an assessment rests on: those of the document, and
// the defaults where the document is silent.
type Settings struct {
	CutAtM          float64  `json:"cut_at_m"`
	TopDiameterM    float64  `json:"top_diameter_m"`
	TieAboveCutM    float64  `json:"tie_above_cut_m"`
	SlackM          float64  `json:"slack_m"`
	BlockBelowCutM  float64  `json:"block_below_cut_m"`
	BlockEfficiency float64  `json:"block_efficiency"`
	DeviceAtM       float64  `json:"device_at_m"`
	Wraps           float64  `json:"wraps"`
	Friction        float64  `json:"friction"`
	EnergyLostPct   float64  `json:"energy_lost_pct"`
	DynamicFactor   float64  `json:"dynamic_factor"`
	How             string   `json:"how" enum:"locked,wraps,hold,run"`
	HandKn          float64  `json:"hand_kn"`
	HoldKn          float64  `json:"hold_kn"`
	RunM            float64  `json:"run_m"`
	DesignFactor    float64  `json:"design_factor"`
	LimitHandKn     float64  `json:"limit_hand_kn"`
	ClearM          float64  `json:"clear_m"`
	CloseFromPct    float64  `json:"close_from_pct"`
	Defaulted       []string `json:"defaulted" nullable:"false" doc:"Paths of the document that stand at their default"`
}

// The defaults are round figures of common practice; the interface marks each as
// a default until the crew sets it.
const (
	defaultTie         = 0.5
	defaultSlack       = 0.1
	defaultBlock       = 0.6
	defaultEfficiency  = 0.9
	defaultDevice      = 1.2
	defaultWraps       = 2.5
	defaultFriction    = 0.2
	defaultHand        = 0.2
	defaultHold        = 5
	defaultRun         = 1
	defaultLimitHand   = 0.25
	defaultClear       = 0.5
	defaultCloseFrom   = 80
	defaultPieceLength = 2.5
)

// settings fills in the defaults of a job whose stem is known.
func (j *Job) settings(stem timber.Stem) Settings {
	s := Settings{Defaulted: []string{}}
	take := func(into *float64, path string, given *float64, standard float64) {
		*into = standard
		if given != nil {
			*into = *given
			return
		}
		s.Defaulted = append(s.Defaulted, path)
	}
	cut := 0.0
	if len(stem.Stations) >= 2 {
		span := stem.Top() - stem.Bottom()
		cut = math.Round(100*(stem.Top()-min(defaultPieceLength, span/3))) / 100
	}
	take(&s.CutAtM, "cut.at_m", j.Cut.AtM, cut)
	take(&s.TopDiameterM, "tree.top_diameter_m", j.Tree.TopDiameterM, topDiameter)
	take(&s.TieAboveCutM, "rig.tie_above_cut_m", j.Rig.TieAboveCutM, defaultTie)
	take(&s.SlackM, "rig.slack_m", j.Rig.SlackM, defaultSlack)
	take(&s.BlockBelowCutM, "rig.block.below_cut_m", j.Rig.Block.BelowCutM, defaultBlock)
	take(&s.BlockEfficiency, "rig.block.efficiency", j.Rig.Block.Efficiency, defaultEfficiency)
	take(&s.DeviceAtM, "rig.device.at_m", j.Rig.Device.AtM, defaultDevice)
	take(&s.Wraps, "rig.device.wraps", j.Rig.Device.Wraps, defaultWraps)
	take(&s.Friction, "rig.device.friction", j.Rig.Device.Friction, defaultFriction)
	take(&s.EnergyLostPct, "rig.energy_lost_pct", j.Rig.EnergyLostPct, 0)
	take(&s.HandKn, "catch.hand_kn", j.Catch.HandKn, defaultHand)
	take(&s.HoldKn, "catch.hold_kn", j.Catch.HoldKn, defaultHold)
	take(&s.RunM, "catch.run_m", j.Catch.RunM, defaultRun)
	take(&s.DesignFactor, "limits.design_factor", j.Limits.DesignFactor, gear.DefaultDesignFactor)
	take(&s.LimitHandKn, "limits.hand_kn", j.Limits.HandKn, defaultLimitHand)
	take(&s.ClearM, "limits.clear_m", j.Limits.ClearM, defaultClear)
	take(&s.CloseFromPct, "limits.close_from_pct", j.Limits.CloseFromPct, defaultCloseFrom)
	s.DynamicFactor = 1
	if j.Rig.Rope != nil {
		s.DynamicFactor = j.Rig.Rope.Dynamic()
	}
	if s.DynamicFactor == 1 {
		s.Defaulted = append(s.Defaulted, "rig.rope.dynamic_factor")
	}
	s.How = j.Catch.How
	if s.How == "" {
		s.How = ByWraps
		s.Defaulted = append(s.Defaulted, "catch.how")
	}
	return s
}

// dropCase is the drop of a piece of the given weight from a cut.
func (j *Job) dropCase(s *Settings, cutAt, massKg, cogAboveCut, length float64) drop.Case {
	room := cutAt
	c := drop.Case{
		Piece: drop.Piece{MassKg: massKg, CogAboveCutM: cogAboveCut, LengthM: length},
		Rigging: drop.Rigging{
			TieAboveCutM:    s.TieAboveCutM,
			BlockBelowCutM:  s.BlockBelowCutM,
			SlackM:          s.SlackM,
			LeadM:           cutAt - s.BlockBelowCutM - s.DeviceAtM,
			Rope:            j.Rig.Rope.Rope,
			BlockEfficiency: s.BlockEfficiency,
			RoomM:           &room,
		},
		EnergyLostPct: s.EnergyLostPct,
	}
	if j.Rig.AnchorStiffnessKnM != nil {
		c.AnchorStiffnessKnM = *j.Rig.AnchorStiffnessKnM
	}
	return c
}
