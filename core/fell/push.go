package fell

import (
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Push is a machine pushing a stem level, at a height, towards the fall.
type Push struct {
	Tree    Tree     `json:"tree"`
	Hinge   *Hinge   `json:"hinge,omitempty"`
	HeightM float64  `json:"height_m" exclusiveMinimum:"0" maximum:"30" doc:"Where it pushes, above the hinge, m"`
	Margin  *float64 `json:"margin,omitempty" minimum:"1" maximum:"10" doc:"Factor on the moment; default 1.3"`
	LimitKn *float64 `json:"limit_kn,omitempty" exclusiveMinimum:"0" maximum:"1000" doc:"What the machine can push there, kN"`
}

// A Shove is what a push takes.
type Shove struct {
	PushKn     float64  `json:"push_kn"`
	TipsAlone  bool     `json:"tips_alone"`
	BalanceDeg float64  `json:"balance_deg"`
	FollowM    float64  `json:"follow_m" doc:"How far the machine must follow until the stem goes by itself"`
	UsePct     *float64 `json:"use_pct" doc:"Of what the machine can; null when not given"`
	ShearKn    float64  `json:"shear_kn" doc:"What the hinge takes sideways to the grain: it can slide off the stump"`
	Curve      []Moment `json:"curve" nullable:"false" doc:"Push needed as it turns, margin included"`
}

// felling is the same tree under a level line at the same height.
func (p *Push) felling() Felling {
	return Felling{Tree: p.Tree, Hinge: p.Hinge, Margin: p.Margin}
}

// Faults has nothing to add to the ranges of the fields.
func (p *Push) Faults(string) intake.Faults { return nil }

// Solve works out a push: moments about the hinge as in pulling, the force level.
func (p *Push) Solve() Shove {
	f := p.felling()
	weight, bending := f.weightKn(), f.bending()
	force := func(tilt float64) float64 {
		forward := p.Tree.CogForwardM*math.Cos(tilt) + p.Tree.CogHeightM*math.Sin(tilt)
		return max(0, f.margin()*(-weight*forward+bending)/(p.HeightM*math.Cos(tilt)))
	}
	balance := max(0, math.Atan(-p.Tree.CogForwardM/p.Tree.CogHeightM))
	out := Shove{PushKn: force(0), TipsAlone: weight*p.Tree.CogForwardM >= bending, BalanceDeg: balance * 180 / math.Pi, FollowM: p.HeightM * math.Sin(balance), Curve: []Moment{}}
	out.ShearKn = out.PushKn
	if p.LimitKn != nil {
		use := 100 * out.PushKn / *p.LimitKn
		out.UsePct = &use
	}
	for i := range curvePoints + 1 {
		tilt := balance * float64(i) / curvePoints
		out.Curve = append(out.Curve, Moment{tilt * 180 / math.Pi, force(tilt)})
	}
	return out
}

// Working writes the sum behind a push.
func (p *Push) Working(s Shove) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	f := p.felling()
	sheet.Add("W", "weight", n(p.Tree.MassKg)+"·9.80665/1000", p.Tree.MassKg*units.Gravity/1000, "kN", units.GravitySource)
	sheet.Add("M_h", "moment that bends the hinge", "σ·w·t²/4·1000", f.bending(), "kN·m", "plastic bending of a rectangle")
	sheet.Add("P", "push", n(f.margin())+"·(−W·"+n(p.Tree.CogForwardM)+" + M_h)/"+n(p.HeightM), s.PushKn, "kN", "statics: moments about the hinge")
	sheet.Add("β", "balance", "atan(−forward/height)", s.BalanceDeg, "°", "geometry")
	sheet.Add("s", "follow", "height·sin β", s.FollowM, "m", "geometry")
	return sheet.Steps()
}

// Cautions returns what must stand beside a push.
func (p *Push) Cautions(s Shove) []string {
	cautions := []string{"Leave a strap at the back and release it low: a stem under push can split up or slide off its hinge. Nobody near while the machine pushes."}
	if s.UsePct != nil && *s.UsePct > 100 {
		cautions = append(cautions, "The machine cannot push that hard at this height.")
	}
	if p.Tree.CogHeightM > 2*p.HeightM {
		cautions = append(cautions, "It pushes low: the head may come back over the machine.")
	}
	return cautions
}
