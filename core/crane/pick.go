// Package crane answers whether a crane may take a piece and what its slings carry.
//
// The chart is read as charts are read: the column of the boom at or above, the row of
// the radius at or above, never between rows, never beyond them, nor nearer than they begin. The slings meet at
// the hook; the piece is rigid and hangs with its centre of gravity straight under
// it. Three or more slings cannot be told apart by statics: their tensions are shared
// by least squares as of equal, stiff slings, and every pair is also taken alone.
//
// Lengths are in metres along the piece from its butt, forces in kilonewtons, angles
// in degrees. Hitch and choke factors: ASME B30.9 (from memory).
package crane

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// A Piece is what is lifted.
type Piece struct {
	LengthM float64 `json:"length_m" exclusiveMinimum:"0" maximum:"100" doc:"Length, m"`
	CogM    float64 `json:"cog_m" exclusiveMinimum:"0" maximum:"100" doc:"Centre of gravity from the butt, m"`
}

// The hitches.
const (
	Vertical = "vertical"
	Choker   = "choker"
	Basket   = "basket"
)

// A Pick is one lift.
type Pick struct {
	MassKg      wood.Range `json:"mass_kg"`
	Piece       Piece      `json:"piece"`
	Slings      []Sling    `json:"slings" minItems:"1" maxItems:"8"`
	RiggingKg   float64    `json:"rigging_kg" minimum:"0" maximum:"100000" doc:"Ball, block, slings: anything below the boom tip, kg"`
	Chart       []ChartRow `json:"chart" maxItems:"2000"`
	RadiusM     float64    `json:"radius_m" exclusiveMinimum:"0" maximum:"200"`
	BoomM       float64    `json:"boom_m" exclusiveMinimum:"0" maximum:"300"`
	ChartUsePct *float64   `json:"chart_use_pct,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Share of the chart the crew uses; default 75"`
}

// A Lift is how a pick hangs.
type Lift struct {
	HookKg      wood.Range  `json:"hook_kg"`
	CapacityKg  *float64    `json:"capacity_kg" doc:"Null: the chart has no such lift"`
	UsePct      *float64    `json:"use_pct"`
	Within      bool        `json:"within"`
	TiltDeg     float64     `json:"tilt_deg" doc:"Positive: butt up"`
	HookOverM   float64     `json:"hook_over_m" doc:"Where the hook stands over the piece, from the butt"`
	HookHeightM float64     `json:"hook_height_m" doc:"Square to the piece"`
	Slings      []SlingLoad `json:"slings" nullable:"false"`
	WorstTwo    []SlingLoad `json:"worst_two,omitempty" doc:"The largest each sling sees with every pair taken alone; three or more slings"`
}

// heldAt is how near the centre of gravity a single sling must sit, m.
const heldAt = 0.001

// Faults names what cannot hang at the given path.
func (p *Pick) Faults(path string) intake.Faults {
	faults := p.MassKg.Faults(path+".mass_kg", 1_000_000)
	if p.Piece.CogM >= p.Piece.LengthM {
		faults.Add(path+".piece.cog_m", p.Piece.CogM, fmt.Sprintf("less than %g m", p.Piece.LengthM), "the centre of gravity is beyond the piece's tip")
	}
	for i, sling := range p.Slings {
		at := fmt.Sprintf("%s.slings[%d]", path, i)
		if sling.AtM > p.Piece.LengthM {
			faults.Add(at+".at_m", sling.AtM, fmt.Sprintf("at most %g m", p.Piece.LengthM), "sling %s sits beyond the piece's tip", sling.Name)
		}
		if sling.WllKn <= 0 {
			faults.Add(at+".wll_kn", sling.WllKn, "more than 0, up to 5000 kN", "nobody has said what sling %s holds", sling.Name)
		}
		if sling.ChokeDeg != nil && sling.Hitch != Choker {
			faults.Add(at+".choke_deg", *sling.ChokeDeg, "a choker only", "sling %s is no choker", sling.Name)
		}
		for k := range i {
			if math.Abs(p.Slings[k].AtM-sling.AtM) < 1e-6 {
				faults.Add(at+".at_m", sling.AtM, "a place of its own", "slings %s and %s sit at the same place", p.Slings[k].Name, sling.Name)
			}
		}
	}
	if len(faults) > 0 || len(p.Slings) < 2 {
		return faults
	}
	hang, why := p.hang(p.Slings)
	if why != "" {
		faults.Add(path+".slings", len(p.Slings), "slings on both sides of the centre of gravity, long enough to meet", "%s", why)
		return faults
	}
	for i, tension := range hang.tensions {
		if tension < 0 {
			faults.Add(fmt.Sprintf("%s.slings[%d].at_m", path, i), p.Slings[i].AtM, "slings on both sides of the centre of gravity",
				"sling %s would have to push", p.Slings[i].Name)
		}
	}
	return faults
}

// hanging is how the piece hangs in a set of slings.
type hanging struct {
	hookX, hookY float64
	tilt         float64 // radians, positive: butt up
	tensions     []float64
}

// hang works out a set of two slings or more; why says in words why it cannot be.
func (p *Pick) hang(slings []Sling) (h hanging, why string) {
	low, high := math.Inf(1), math.Inf(-1)
	for _, sling := range slings {
		low, high = min(low, sling.AtM), max(high, sling.AtM)
	}
	if p.Piece.CogM < low || p.Piece.CogM > high {
		return p.onOne(slings, low, high)
	}
	var ok bool
	if h.hookX, h.hookY, ok = meet(slings); !ok {
		return h, "the slings are too short, or too unequal, to meet over the piece"
	}
	h.tilt = math.Atan2(p.Piece.CogM-h.hookX, h.hookY)
	// Least norm: T = Nᵀ(NNᵀ)⁻¹·W·g, N the slings' unit vectors, g from the centre of
	// gravity to the hook. With two slings that is the plain balance of forces.
	reach := math.Hypot(h.hookX-p.Piece.CogM, h.hookY)
	weight := p.MassKg.High * units.Gravity / 1000
	gx, gy := weight*(h.hookX-p.Piece.CogM)/reach, weight*h.hookY/reach
	var xx, xy, yy float64
	unit := make([][2]float64, len(slings))
	for i, sling := range slings {
		long := math.Hypot(h.hookX-sling.AtM, h.hookY)
		unit[i] = [2]float64{(h.hookX - sling.AtM) / long, h.hookY / long}
		xx += unit[i][0] * unit[i][0]
		xy += unit[i][0] * unit[i][1]
		yy += unit[i][1] * unit[i][1]
	}
	det := xx*yy - xy*xy
	if det < 1e-12 {
		return h, "the slings lie in one line with the hook"
	}
	a, b := (yy*gx-xy*gy)/det, (xx*gy-xy*gx)/det
	for i := range unit {
		h.tensions = append(h.tensions, unit[i][0]*a+unit[i][1]*b)
	}
	return h, ""
}

// onOne hangs a piece in slings that are all to one side of its balance: upright, on the one that leaves all the others slack.
func (p *Pick) onOne(slings []Sling, low, high float64) (h hanging, why string) {
	for i, one := range slings {
		leaves := true
		for k, other := range slings {
			// Along the plumb line, the balance beneath its tie.
			far := one.LengthM + (other.AtM-one.AtM)*math.Copysign(1, p.Piece.CogM-one.AtM)
			leaves = leaves && (k == i || math.Abs(far) <= other.LengthM)
		}
		if leaves {
			h.hookX, h.hookY, h.tilt = one.AtM, one.LengthM, math.Copysign(math.Pi/2, p.Piece.CogM-one.AtM)
			h.tensions = make([]float64, len(slings))
			h.tensions[i] = p.MassKg.High * units.Gravity / 1000
			return h, ""
		}
	}
	return h, fmt.Sprintf("the centre of gravity, at %.2f m, is outside the slings (%.2f to %.2f m), and none of them leaves the others slack", p.Piece.CogM, low, high)
}

// meet finds where slings meet above the piece: exactly for two, by least squares on
// their lengths for more.
func meet(slings []Sling) (x, y float64, ok bool) {
	a, b := slings[0], slings[1]
	x = (a.LengthM*a.LengthM - b.LengthM*b.LengthM + b.AtM*b.AtM - a.AtM*a.AtM) / (2 * (b.AtM - a.AtM))
	square := a.LengthM*a.LengthM - (x-a.AtM)*(x-a.AtM)
	if len(slings) == 2 {
		return x, math.Sqrt(max(0, square)), square > 1e-12
	}
	// Start over the middle of the slings and follow Gauss and Newton.
	sumAt, sumLong := 0.0, 0.0
	for _, sling := range slings {
		sumAt += sling.AtM
		sumLong += sling.LengthM
	}
	x, y = sumAt/float64(len(slings)), sumLong/float64(len(slings))
	damping := 1e-6
	error2 := func(x, y float64) (sum float64) {
		for _, sling := range slings {
			r := math.Hypot(x-sling.AtM, y) - sling.LengthM
			sum += r * r
		}
		return sum
	}
	for range 200 {
		var xx, xy, yy, rx, ry float64
		for _, sling := range slings {
			long := math.Hypot(x-sling.AtM, y)
			if long == 0 {
				return 0, 0, false
			}
			ux, uy, r := (x-sling.AtM)/long, y/long, long-sling.LengthM
			xx, xy, yy = xx+ux*ux, xy+ux*uy, yy+uy*uy
			rx, ry = rx+ux*r, ry+uy*r
		}
		xx, yy = xx+damping, yy+damping
		det := xx*yy - xy*xy
		dx, dy := -(yy*rx-xy*ry)/det, -(xx*ry-xy*rx)/det
		if error2(x+dx, math.Abs(y+dy)) > error2(x, y) {
			if damping *= 10; damping > 1e6 {
				break
			}
			continue
		}
		damping = max(damping/10, 1e-9)
		x, y = x+dx, math.Abs(y+dy)
		if math.Hypot(dx, dy) < 1e-12 {
			break
		}
	}
	return x, y, y > 1e-6
}

// Solve works out a pick without Faults.
func (p *Pick) Solve() Lift {
	lift := Lift{HookKg: p.MassKg.Plus(p.RiggingKg), Slings: []SlingLoad{}}
	if capacity, ok := p.capacity(); ok {
		use := 100 * (p.MassKg.High + p.RiggingKg) / capacity
		lift.CapacityKg, lift.UsePct = &capacity, &use
		lift.Within = use <= p.share()
	}
	if len(p.Slings) == 1 {
		sling := p.Slings[0]
		lift.HookOverM, lift.HookHeightM = sling.AtM, sling.LengthM
		switch {
		case p.Piece.CogM-sling.AtM > heldAt:
			lift.TiltDeg = 90
		case sling.AtM-p.Piece.CogM > heldAt:
			lift.TiltDeg = -90
		}
		lift.Slings = append(lift.Slings, sling.load(p.MassKg.High*units.Gravity/1000, 90-math.Abs(lift.TiltDeg)))
		return lift
	}
	h, _ := p.hang(p.Slings)
	lift.TiltDeg, lift.HookOverM, lift.HookHeightM = h.tilt*180/math.Pi, h.hookX, h.hookY
	for i, sling := range p.Slings {
		lift.Slings = append(lift.Slings, sling.load(h.tensions[i], angle(sling, h)))
	}
	if math.Abs(h.tilt) == math.Pi/2 {
		lift.TiltDeg = math.Copysign(90, h.tilt)
		for i := range lift.Slings {
			lift.Slings[i].AngleDeg = 0
		}
		return lift
	}
	if len(p.Slings) > 2 {
		lift.WorstTwo = p.worstTwo()
	}
	return lift
}

func (p *Pick) share() float64 {
	if p.ChartUsePct == nil {
		return 75
	}
	return *p.ChartUsePct
}

// Working writes the sum behind a lift.
func (p *Pick) Working(l Lift) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const asme = "ASME B30.9 (from memory)"
	sheet.Add("m", "on the hook, heavy end", fmt.Sprintf("%s + %s", n(p.MassKg.High), n(p.RiggingKg)), l.HookKg.High, "kg", "as given")
	if l.CapacityKg != nil {
		sheet.Add("C", "capacity", fmt.Sprintf("column of the boom at or above %s m, row of the radius at or above %s m; a shorter boom's lower figure counts", n(p.BoomM), n(p.RadiusM)), *l.CapacityKg, "kg", "the crane's chart")
		sheet.Add("m/C", "use of the chart", fmt.Sprintf("100·m/C, at most %s %%", n(p.share())), *l.UsePct, "%", working.Common)
	}
	sheet.Add("x", "hook over the piece", "where the slings' lengths meet", l.HookOverM, "m", "geometry")
	sheet.Add("y", "hook above the piece", "square to it", l.HookHeightM, "m", "geometry")
	sheet.Add("τ", "tilt, positive butt up", "atan((cog − x)/y)", l.TiltDeg, "°", "statics")
	for i, sling := range l.Slings {
		sheet.Add("T_"+sling.Name, "tension of "+sling.Name, "balance of forces as it hangs; three or more by least squares", sling.TensionKn, "kN", "statics")
		sheet.Add("R_"+sling.Name, "rating of "+sling.Name, fmt.Sprintf("%s·hitch %s·choke %s", n(p.Slings[i].WllKn), p.Slings[i].Hitch, n(p.Slings[i].chokeFactor())), sling.RatingKn, "kN", asme)
	}
	return sheet.Steps()
}

// Cautions returns what must stand beside a lift.
func (p *Pick) Cautions(l Lift) []string {
	cautions := []string{}
	if l.CapacityKg == nil {
		cautions = append(cautions, "The chart has no such lift: it has no boom and radius at or above these, or begins further out.")
	} else if !l.Within {
		cautions = append(cautions, "The lift is over the share of the chart that is used.")
	}
	tilt := math.Abs(l.TiltDeg)
	for i, sling := range l.Slings {
		// To the level: what is left of 90° beside the angle to the upright, which leads
		// from the centre of gravity to the hook.
		sx, gx, y := l.HookOverM-p.Slings[i].AtM, l.HookOverM-p.Piece.CogM, l.HookHeightM
		level := 90 - math.Acos(min(1, (sx*gx+y*y)/(math.Hypot(sx, y)*math.Hypot(gx, y))))*180/math.Pi
		if len(l.Slings) > 1 && level < 30 {
			cautions = append(cautions, fmt.Sprintf("Sling %s lies under 30° to the level: its tension climbs steeply.", sling.Name))
		}
		if p.Slings[i].Hitch == Basket && sling.AngleDeg < 85 {
			cautions = append(cautions, fmt.Sprintf("Basket %s: its legs are not upright, and hold less than twice one leg.", sling.Name))
		}
		if sling.UsePct > 100 {
			cautions = append(cautions, fmt.Sprintf("Sling %s is over its rating.", sling.Name))
		}
	}
	if tilt > 0 && len(l.Slings) == 1 {
		cautions = append(cautions, "One sling away from the centre of gravity: the piece turns until it hangs upright.")
	}
	if len(l.Slings) > 2 {
		cautions = append(cautions, "Three or more slings never share as reckoned: plan by the worst two.")
	}
	return cautions
}
