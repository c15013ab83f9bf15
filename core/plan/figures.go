package plan

import (
	"fmt"
	"math"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/line"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// subject is a job made ready for sums: the stem, the density, the settings and
// the limits, worked out once and then asked for any cut.
type subject struct {
	job      *Job
	stem     timber.Stem
	density  wood.Range
	source   string // of the density
	settings Settings
	limits   map[string]gear.Limit // by part of the ladder; absent: not known
}

// The parts of the ladder, from the piece to the hand.
const (
	partPiece  = "piece"
	partLine   = "line"
	partBlock  = "block"
	partDevice = "device"
	partHand   = "hand"
)

var ladderParts = []string{partPiece, partLine, partBlock, partDevice, partHand}

// knownLimits gathers what each part of the ladder may see.
func (j *Job) knownLimits(s *Settings) map[string]gear.Limit {
	limits := map[string]gear.Limit{}
	if j.Limits.PieceKg != nil {
		limits[partPiece] = gear.Limit{Kn: *j.Limits.PieceKg * units.Gravity / 1000,
			Reason: fmt.Sprintf("the crew's heaviest piece, %g kg", *j.Limits.PieceKg), Source: "as given"}
	}
	rate := func(part string, rating gear.Rating) {
		if limit, known := rating.WorkingLimit(s.DesignFactor); known {
			limits[part] = limit
		}
	}
	if j.Rig.Rope != nil {
		rate(partLine, j.Rig.Rope.Rating())
	}
	rate(partBlock, j.Rig.Block.Rating)
	rate(partDevice, j.Rig.Device.Rating)
	limits[partHand] = gear.Limit{Kn: s.LimitHandKn, Reason: "what one person holds", Source: "common practice"}
	return limits
}

// load is what one part of the ladder sees, kN.
type load struct {
	resting float64
	peak    float64
	seen    bool // false: nothing reaches this part
}

// outcome is everything worked out for one cut.
type outcome struct {
	weight timber.Weight
	kase   drop.Case
	catch  drop.Catch
	hold   float64 // tension on the lead at which rope runs, kN; infinite when locked off
	loads  map[string]load
}

// at works out the drop of the piece above a cut. It needs a rope and a cut
// without cutFaults.
func (s *subject) at(cutAt float64) outcome {
	o := outcome{weight: s.stem.WeighBetween(cutAt, s.stem.Top(), s.density, timber.Frustum)}
	set := &s.settings
	o.kase = s.job.dropCase(set, cutAt, o.weight.MassKg.High, o.weight.CogM-cutAt, o.weight.LengthM)
	o.hold = math.Inf(1)
	switch set.How {
	case ByWraps:
		o.hold = line.HeldBy(set.HandKn, set.Wraps, set.Friction)
	case ByHold:
		o.hold = set.HoldKn
	case ByRun:
		o.hold = drop.HoldFor(&o.kase, set.RunM)
	}
	if !math.IsInf(o.hold, 1) {
		hold := o.hold
		o.kase.DeviceHoldKn = &hold
	}
	if limit, known := s.limits[partLine]; known {
		o.kase.LineLimitKn = &limit.Kn
	}
	o.catch = drop.Solve(&o.kase)
	weight, r := o.kase.WeightKn(), set.BlockEfficiency
	hand := func(device float64) float64 { return line.HandFor(device, set.Wraps, set.Friction) }
	o.loads = map[string]load{
		partPiece:  {o.weight.WeightKn().Likely, o.weight.WeightKn().High, true},
		partLine:   {weight, o.catch.LinePeakKn, true},
		partBlock:  {(1 + r) * weight, o.catch.BlockPeakKn, true},
		partDevice: {r * weight, o.catch.DevicePeakKn, true},
		partHand:   {hand(r * weight), hand(o.catch.DevicePeakKn), set.How != Locked},
	}
	return o
}

// cutFaults names why a drop from a cut cannot be worked out.
func (s *subject) cutFaults(cutAt float64) (faults intake.Faults) {
	set := &s.settings
	if cutAt <= s.stem.Bottom() || cutAt >= s.stem.Top() {
		faults.Add("body.cut.at_m", cutAt, fmt.Sprintf("between %g and %g m", s.stem.Bottom(), s.stem.Top()),
			"the cut at %g m is not on the stem, which stands from %g to %g m", cutAt, s.stem.Bottom(), s.stem.Top())
		return faults
	}
	if length := s.stem.Top() - cutAt; set.TieAboveCutM >= length {
		faults.Add("body.rig.tie_above_cut_m", set.TieAboveCutM, fmt.Sprintf("less than %.2f m", length),
			"the tie, %g m above the cut, is at or above the top of the piece (%.2f m long)", set.TieAboveCutM, length)
	}
	if block := cutAt - set.BlockBelowCutM; block-set.DeviceAtM < 0.001 {
		faults.Add("body.rig.block.below_cut_m", set.BlockBelowCutM, fmt.Sprintf("less than %.2f m", max(0, cutAt-set.DeviceAtM)),
			"the block at %.2f m is not above the lowering device at %g m", block, set.DeviceAtM)
	}
	return faults
}
