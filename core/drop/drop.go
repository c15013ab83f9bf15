// Package drop answers what a piece does to the rope when it falls past the block
// and the line catches it.
//
// The model is the energy sum, the ceiling of what can happen: all the energy of
// the fall goes into the stretch of the line beyond the block, of the lead
// behind it, of the anchor when its stiffness is known, and into the rope that
// runs through the lowering device. The piece hangs straight under the block at
// the end; what is lost in its swing, in the branch, in the air is left out
// unless energy_lost_pct says otherwise. A rope follows its elongation table by
// straight lines; a shock finds it stiffer than the table by the dynamic factor.
//
// With a straight-line rope, a block without friction, no loss and a rigid
// anchor the peak is mg(1+√(1+2hk/mg)), the textbook impact formula (e.g.
// Timoshenko, Strength of Materials, part I, impact; from memory).
//
// Followed through time (Simulate), the piece tips on its hinge, a pendulum on a spar that
// sways as one mass on one spring; when the face closes it falls free and turns; the line
// pulls from block to tie by the same give, damped; at the device's hold rope runs while
// the tension stays. Steps are chosen by their error (Dormand and Prince), and every
// change, face closing, line tight, rope running, strike, is located within its step.
// While rope runs, what goes into stretch is taken off what runs: the stretch closes in
// on that of the hold as its viscous part dies away. A spread repeats the run with what
// is not known well.
//
// What the energy sum leaves out: the piece striking the stem, the spar's sway, a knot that
// tightens, rope that slips on the tie, heat. Lengths are in metres, masses in
// kilograms, forces in kilonewtons.
package drop

import (
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/units"
)

var inf = math.Inf(1)

// A Piece is the piece that drops.
type Piece struct {
	MassKg       float64 `json:"mass_kg" exclusiveMinimum:"0" maximum:"100000" doc:"Mass, kg"`
	CogAboveCutM float64 `json:"cog_above_cut_m" exclusiveMinimum:"0" maximum:"100" doc:"Centre of gravity above the cut, m"`
	LengthM      float64 `json:"length_m" exclusiveMinimum:"0" maximum:"150" doc:"Length from the cut to the top, m"`
}

// A Rigging is where the piece is tied, where the block is, the line and what holds
// it.
type Rigging struct {
	TieAboveCutM       float64   `json:"tie_above_cut_m" minimum:"0" maximum:"100" doc:"Tie above the cut, m; less than the piece's length"`
	BlockBelowCutM     float64   `json:"block_below_cut_m" minimum:"0" maximum:"100" doc:"Block below the cut, m"`
	SlackM             float64   `json:"slack_m" minimum:"0" maximum:"100" doc:"Slack in the line between tie and block, m"`
	LeadM              float64   `json:"lead_m" minimum:"0.001" maximum:"1000" doc:"Rope from the block to the lowering device, m"`
	Rope               gear.Rope `json:"rope"`
	BlockEfficiency    float64   `json:"block_efficiency" minimum:"0.05" maximum:"1" doc:"Tension behind the block over tension before it"`
	AnchorStiffnessKnM float64   `json:"anchor_stiffness_kn_m,omitempty" minimum:"0.1" maximum:"1000000000" doc:"Stiffness of the block's anchor, kN/m; absent: rigid"`
	DeviceHoldKn       *float64  `json:"device_hold_kn,omitempty" nullable:"true" minimum:"0" maximum:"5000" doc:"Tension on the lead at which rope runs, kN; null or absent: locked off"`
	LineLimitKn        *float64  `json:"line_limit_kn,omitempty" exclusiveMinimum:"0" maximum:"5000" doc:"Working limit of the line, kN"`
	RoomM              *float64  `json:"room_m,omitempty" minimum:"0" maximum:"1000" doc:"From the cut down to the ground or what lies beneath, m"`
}

// A Case is one drop: the piece and its rigging.
type Case struct {
	Piece Piece `json:"piece"`
	Rigging
	EnergyLostPct float64 `json:"energy_lost_pct,omitempty" minimum:"0" maximum:"100" doc:"Energy of the fall that never reaches the line, per cent; default 0"`
	Course        *Course `json:"-"` // nil: upright on its cut, straight past the block
}

// A Course is how a piece comes onto its line when it does not stand upright on its
// cut with the block straight beneath: a limb, a block above. A block above the cut is
// a negative BlockBelowCutM.
type Course struct {
	FallM float64 // fall of the centre of gravity until the line is tight
	LineM float64 // rope from block to tie when it is tight
	How   string  // the sum behind the fall
}

// Faults names what is wrong between the fields of a case at the given path.
func (c *Case) Faults(path string) intake.Faults {
	faults := c.Rope.Faults(path + ".rope")
	if c.TieAboveCutM >= c.Piece.LengthM {
		faults.Add(path+".tie_above_cut_m", c.TieAboveCutM, fmt.Sprintf("at least 0 and less than %g m", c.Piece.LengthM),
			"tie_above_cut_m is %g, at or above the top of the piece (%g)", c.TieAboveCutM, c.Piece.LengthM)
	}
	if c.Piece.CogAboveCutM >= c.Piece.LengthM {
		faults.Add(path+".piece.cog_above_cut_m", c.Piece.CogAboveCutM, fmt.Sprintf("more than 0 and less than %g m", c.Piece.LengthM),
			"cog_above_cut_m is %g, at or above the top of the piece (%g)", c.Piece.CogAboveCutM, c.Piece.LengthM)
	}
	return faults
}

// FallM is how far the centre of gravity falls until the line is tight with the
// piece hanging from its tie: (b+c) + (b+t+s) + |c−t|, m.
func (c *Case) FallM() float64 {
	if c.Course != nil {
		return c.Course.FallM
	}
	return c.BlockBelowCutM + c.Piece.CogAboveCutM + c.LineM() + math.Abs(c.Piece.CogAboveCutM-c.TieAboveCutM)
}

// HangsTipDown reports whether the piece turns over and hangs with its tip down:
// the tie is below its centre of gravity.
func (c *Case) HangsTipDown() bool { return c.Piece.CogAboveCutM > c.TieAboveCutM }

// LineM is the line beyond the block when it comes tight: b+t+s, m.
func (c *Case) LineM() float64 {
	if c.Course != nil {
		return c.Course.LineM
	}
	return c.BlockBelowCutM + c.TieAboveCutM + c.SlackM
}

// WeightKn is the weight of the piece, kN.
func (c *Case) WeightKn() float64 { return c.Piece.MassKg * units.Gravity / 1000 }

// EnergyKj is the energy of the fall that reaches the line, kJ.
func (c *Case) EnergyKj() float64 { return (1 - c.EnergyLostPct/100) * c.WeightKn() * c.FallM() }

// compliance is how fast the give of line, lead and anchor grows at a line
// tension, m/kN.
func (c *Case) compliance(tension float64) float64 {
	r := c.BlockEfficiency
	rope := (c.LineM()*c.Rope.Compliance(tension) + c.LeadM*r*c.Rope.Compliance(r*tension)) / c.Rope.Dynamic()
	if c.AnchorStiffnessKnM > 0 {
		return rope + 2*(1+r)/c.AnchorStiffnessKnM
	}
	return rope
}

// A Catch is how one drop ends.
type Catch struct {
	LinePeakKn    float64
	BlockPeakKn   float64 // parallel legs: (1+r)·T
	DevicePeakKn  float64 // lead: r·T
	StretchM      float64 // give at the peak, run not included
	TakenKj       float64 // energy the give has taken up at the peak
	Amplification float64 // line peak over weight
	Runs          bool    // rope runs through the device
	Holds         bool    // the device stops the piece
	RunM          float64 // rope that runs; infinite when it never stops
	LowestM       float64 // how far below the cut the piece's lower end comes; infinite when it never stops
}

// Solve returns how the drop of a case without Faults ends. It allocates
// nothing.
func Solve(c *Case) Catch {
	var g give
	g.lay(c)
	return g.catch(c, hold(c))
}

// hold is the tension on the lead at which rope runs, kN; infinite when locked off.
func hold(c *Case) float64 {
	if c.DeviceHoldKn == nil {
		return inf
	}
	return *c.DeviceHoldKn
}

// lockedPeak returns the line tension at which all energy of the fall is taken
// up with no rope running. Within one straight stretch of the give the balance
// E + mg·x(T) = U(T) is a quadratic in T; its root lies above the weight.
func (g *give) lockedPeak(c *Case) float64 {
	weight, energy := c.WeightKn(), c.EnergyKj()
	i := 0
	for i+1 < g.n && (g.t[i+1] <= weight || energy+weight*g.x[i+1] > g.u[i+1]) {
		i++
	}
	rest := energy + weight*(g.x[i]-g.slope[i]*g.t[i]) - g.u[i] + g.slope[i]*g.t[i]*g.t[i]/2
	return weight + math.Sqrt(max(0, weight*weight+2*rest/g.slope[i]))
}

// catch solves the drop with rope running at the given tension on the lead.
func (g *give) catch(c *Case, holdKn float64) Catch {
	weight, energy, r := c.WeightKn(), c.EnergyKj(), c.BlockEfficiency
	peak := g.lockedPeak(c)
	slip := holdKn / r
	end := Catch{Holds: true}
	if peak > slip {
		peak = slip
		end.Runs = true
		end.Holds = slip > weight
	}
	x, u := g.at(peak)
	switch {
	case !end.Holds:
		end.RunM = inf
	case end.Runs:
		end.RunM = (energy + weight*x - u) / (peak - weight)
	}
	end.LinePeakKn = peak
	end.BlockPeakKn = (1 + r) * peak
	end.DevicePeakKn = r * peak
	end.StretchM = x
	end.TakenKj = u
	end.Amplification = peak / weight
	below := c.TieAboveCutM
	if c.HangsTipDown() {
		below = c.Piece.LengthM - c.TieAboveCutM
	}
	end.LowestM = c.BlockBelowCutM + c.LineM() + x + end.RunM + below
	return end
}

// RunFor returns how far the rope must run for the line to peak at no more than
// the given tension, m, and whether that can be: no run stops a piece on a line
// that holds no more than its weight.
func RunFor(c *Case, lineKn float64) (runM float64, reachable bool) {
	var g give
	g.lay(c)
	catch := g.catch(c, lineKn*c.BlockEfficiency)
	return catch.RunM, catch.Holds
}

// HoldFor returns the tension on the lead at which the rope must run for the
// catch to take the given run (m), kN. A longer run is never harder, so the hold
// lies between the weight and the locked peak; it is found by halving, to a part
// in 10¹². A run of 0 is the locked peak.
func HoldFor(c *Case, runM float64) float64 {
	var g give
	g.lay(c)
	r := c.BlockEfficiency
	low, high := c.WeightKn()*r, g.lockedPeak(c)*r
	if runM <= 0 {
		return high
	}
	for range 200 {
		middle := (low + high) / 2
		if middle <= low || middle >= high {
			break
		}
		if g.catch(c, middle).RunM > runM {
			low = middle
		} else {
			high = middle
		}
	}
	return high
}
