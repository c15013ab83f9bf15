package assess

import (
	"encoding/json"
	"slices"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// A Sum is the sum behind a rung as the calculation contract has it: a kind and its request.
type Sum struct {
	Kind    string          `json:"kind"`
	Request json.RawMessage `json:"request"`
}

// sumOf is the contract's sum behind one rung; nil: none of its kinds answers this by itself.
func (v *Survey) sumOf(l *load, o *Outcome) *Sum {
	kind, request := "", any(nil)
	switch {
	case l.of != nil && o.ends != nil && l.part == PartLine && o.tag == nil:
		kind, request = "two-tie", o.ends.steepestTies(o, l.of)
	case l.of != nil:
		// One line of two: what it takes is the sum of both, which no kind by itself has.
	default:
		kind, request = v.contracted(l, o)
	}
	if request == nil {
		return nil
	}
	written, err := json.Marshal(request)
	if err != nil {
		return nil
	}
	return &Sum{kind, written}
}

// steepestTies is the piece as it hangs where one of its two lines carries most at rest.
func (e *endsOf) steepestTies(o *Outcome, side *Outcome) *line.TwoTie {
	i := slices.Index(e.sides[:], side)
	at := 0
	for k := range e.course {
		if e.course[k].hang.Ties[i].TensionKn > e.course[at].hang.Ties[i].TensionKn {
			at = k
		}
	}
	hang := e.hanging(o)
	for k := range hang.Ties {
		hang.Ties[k].LineM = max(0.05, e.caught.LineM[k]+e.course[at].out[k])
	}
	return &hang
}

// wraps is the request of that kind.
type wraps struct {
	LineKn   float64 `json:"line_kn"`
	Wraps    float64 `json:"wraps"`
	Friction float64 `json:"friction"`
}

func (v *Survey) contracted(l *load, o *Outcome) (kind string, request any) {
	switch l.part {
	case PartLine, PartTie:
		switch {
		case o.tag != nil: // a tag line's pull is in it, which none of these has
		case o.pair != nil:
			return "two-line", o.pair
		case o.swung != nil || o.ends != nil:
		case o.tight != nil && !o.tight.swings:
			return "catch", &o.tight.held
		case o.DropCase != nil && o.DropCase.Course == nil:
			return "drop", o.DropCase
		case o.DropCase != nil:
			return "catch", heldOf(o.DropCase)
		}
	case partRedirect:
		if o.DropCase != nil {
			return "line", &line.Path{LoadKn: max(o.Catch.LinePeakKn, o.bearsKn()), Motion: line.Lowering, Points: o.points}
		}
	case PartDevice, partHand:
		if !l.unseen && o.DropCase != nil && o.Settings.Wraps > 0 && o.Catch.DevicePeakKn > 0 {
			return "wraps", &wraps{max(o.Catch.DevicePeakKn, o.bearsKn()*o.Ratio()), o.Settings.Wraps, o.Settings.Friction}
		}
	case partSpar:
		if o.spar != nil && l.tug == nil {
			return "spar", &o.spar.beam
		}
	case partCrane, PartSling, PartBlock:
		if o.lift != nil {
			return "pick", o.lift
		}
	case partHinge:
		return "hinge", &o.felling.hinge
	case partPull:
		// One line that pulls and at most one that holds: more share in a way the kind does not have.
		if f := o.felling; l.tug != nil && !l.tug.set.Holds && len(f.pulled.Pulls) == 1 && len(f.pulled.Holds) <= 1 {
			alone := f.pulled
			alone.Pull = f.pulled.Pulls[0].Line
			if len(f.pulled.Holds) == 1 {
				alone.Retainer = &f.pulled.Holds[0].Line
			}
			return "fell", &alone
		}
	case partPush:
		return "push", o.felling.push
	case PartPiece:
		if i := v.LimbOf(o.pick); i < 0 && o.pick.What == job.WhatStem && !o.weighed && o.pick.MassKg == nil && v.learned[false] == nil && v.upright() {
			return "piece", v.asPiece(o)
		}
	}
	return "", nil
}

// asPiece is the request of kind piece for a section of the stem.
func (v *Survey) asPiece(o *Outcome) any {
	stem := v.stemMember(o.FromM, &Standing{Top: o.toM}).Stem
	for _, lump := range v.Stem.Attached {
		if lump.AtM >= o.FromM && lump.AtM <= o.toM {
			lump.AtM -= o.FromM
			stem.Attached = append(stem.Attached, lump)
		}
	}
	return &struct {
		Wood wood.Wood `json:"wood"`
		timber.Stem
	}{v.tree.Wood, stem}
}

// heldOf is a catch of a piece that hangs from above its cut, as the kind catch has it.
func heldOf(c *drop.Case) *drop.Held {
	return &drop.Held{MassKg: c.Piece.MassKg, SinkM: c.Course.FallM, LineM: c.Course.LineM, LeadM: c.LeadM, Rope: c.Rope, Efficiency: c.BlockEfficiency,
		AnchorStiffnessKnM: c.AnchorStiffnessKnM, EnergyLostPct: c.EnergyLostPct, HoldKn: c.DeviceHoldKn}
}
