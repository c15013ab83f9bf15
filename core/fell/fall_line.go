package fell

import (
	"math"

	"elkstay/core/gear"
)

// roped is a line readied for its tension.
type roped struct {
	attach, ahead, aside float64 // m; where it is tied, along the tree and off it
	ax, ay, az           float64 // m; the anchor's place
	lead                 float64
	rows                 int
	strain, kn, slope    [gear.MaxStretchRows + 1]float64 // kN per strain behind each corner
	runsAt               float64                          // tension at the tree at which rope runs out; infinite: never
	speed, most          float64                          // of hauling: unloaded, and the tension at which it gains no more
	breaks               float64
}

func newRoped(l *FallLine) roped {
	bearing := l.BearingDeg * math.Pi / 180
	r := roped{attach: l.AttachHeightM, ahead: l.AttachForwardM, aside: l.AttachSideM, ax: l.AnchorDistanceM * math.Cos(bearing), ay: l.AnchorDistanceM * math.Sin(bearing), az: l.AnchorHeightM, lead: l.LeadM, runsAt: math.Inf(1), breaks: l.Rope.BreakingKn}
	for i, row := range l.Rope.Elongation {
		r.strain[i+1], r.kn[i+1] = row.StrainPct/100, row.LoadPct/100*l.Rope.BreakingKn
		r.slope[i] = (r.kn[i+1] - r.kn[i]) / (r.strain[i+1] - r.strain[i])
		r.slope[i+1] = r.slope[i] // the last is carried on
	}
	r.rows = len(l.Rope.Elongation)
	efficiency := orElse(l.Efficiency, 1)
	if l.HoldKn != nil {
		r.runsAt = *l.HoldKn / efficiency
	}
	if l.Haul != nil {
		r.speed, r.most = l.Haul.SpeedMS, efficiency*min(l.Haul.StallKn, orElse(l.HoldKn, math.Inf(1)))
	}
	return r
}

// pull is the tension at a strain, kN.
func (r *roped) pull(strain float64) float64 {
	if strain <= 0 {
		return 0
	}
	i := 0
	for i < r.rows && strain > r.strain[i+1] {
		i++
	}
	return r.kn[i] + r.slope[i]*(strain-r.strain[i])
}

// stretched is the strain at a tension.
func (r *roped) stretched(kn float64) float64 {
	i := 0
	for i < r.rows && kn > r.kn[i+1] {
		i++
	}
	return r.strain[i] + (kn-r.kn[i])/r.slope[i]
}

// way is the length of the line outside its lead, and its unit vector at the tree.
func (r *roped) way(sin, cos float64) (long, ux, uy, uz float64) {
	x, y, z := r.ax-r.attach*sin-r.ahead*cos, r.ay-r.aside, r.az-r.attach*cos+r.ahead*sin
	long = math.Sqrt(x*x + y*y + z*z)
	return long, x / long, y / long, z / long
}

// steepestSlope is the stiffest part of its table, kN per strain.
func (r *roped) steepestSlope() float64 {
	most := 0.0
	for i := range r.rows {
		most = max(most, r.slope[i])
	}
	return most
}
