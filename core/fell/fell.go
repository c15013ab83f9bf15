// Package fell answers what it takes to bring a tree or a stem over: the pull against
// its lean and its hinge, the line that holds it sideways, the wedge in place of the
// pull, how the pull changes while it tips; a machine that pushes in place of a line; and
// a weight hung in the pull line, which follows the tree down.
//
// The model is moments about the middle of the hinge, the hinge bent in full
// (plastic: the pull must not fall short), lines straight and without weight. x is
// towards the fall, y to the right, z up. Wind, a crown that sways, and a hinge that
// breaks early are not in it.
//
// With a retainer both lines are solved together, also along the curve. A pull that bears
// 90° or more off the fall line, and a retainer that holds nothing sideways, are refused.
//
// Lengths are in metres, forces in kilonewtons, moments in kilonewton metres. The pure
// functions take what passed its Faults and return no errors. Sources: statics; plastic
// and elastic bending of a rectangle; the margin is common practice.
package fell

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Tree is what stands on the hinge.
type Tree struct {
	MassKg      float64 `json:"mass_kg" exclusiveMinimum:"0" maximum:"500000" doc:"Mass, kg"`
	CogHeightM  float64 `json:"cog_height_m" exclusiveMinimum:"0" maximum:"100" doc:"Centre of gravity above the hinge, m"`
	CogForwardM float64 `json:"cog_forward_m" minimum:"-50" maximum:"50" doc:"Towards the fall, m; negative: back lean"`
	CogSideM    float64 `json:"cog_side_m,omitempty" minimum:"-50" maximum:"50" doc:"To the right, m; default 0"`
}

// A Hinge is the wood left between face and back cut.
type Hinge struct {
	WidthM      float64 `json:"width_m" exclusiveMinimum:"0" maximum:"10" doc:"Across the stem, m"`
	ThicknessM  float64 `json:"thickness_m" exclusiveMinimum:"0" maximum:"2" doc:"From face to back cut, m"`
	StrengthMpa float64 `json:"strength_mpa" exclusiveMinimum:"0" maximum:"300" doc:"Bending strength, MPa"`
}

// A Line runs from the stem to an anchor.
type Line struct {
	AttachHeightM   float64 `json:"attach_height_m" exclusiveMinimum:"0" maximum:"100" doc:"On the stem, above the hinge, m"`
	AttachForwardM  float64 `json:"attach_forward_m,omitempty" minimum:"-50" maximum:"50" doc:"Where it is tied, ahead of the hinge, m; negative: behind it, as on a back leaner; default 0"`
	AttachSideM     float64 `json:"attach_side_m,omitempty" minimum:"-50" maximum:"50" doc:"And to its right, m; default 0"`
	AnchorDistanceM float64 `json:"anchor_distance_m" minimum:"0.1" maximum:"1000" doc:"From the hinge, m"`
	AnchorHeightM   float64 `json:"anchor_height_m,omitempty" minimum:"-100" maximum:"100" doc:"Above the hinge, m; default 0"`
	BearingDeg      float64 `json:"bearing_deg,omitempty" minimum:"-180" maximum:"180" doc:"From the fall line, + to the right; default 0"`
}

// A Share is a line among several that pull, or hold, together.
type Share struct {
	Line
	Part float64 // of the tension of all of them together
}

// A Wedge is driven behind the hinge.
type Wedge struct {
	DistanceM float64 `json:"distance_m" exclusiveMinimum:"0" maximum:"10" doc:"Behind the hinge, m"`
}

// A Felling is a tree about to be pulled.
type Felling struct {
	Tree     Tree     `json:"tree"`
	Hinge    *Hinge   `json:"hinge,omitempty"`
	Pull     Line     `json:"pull"`
	Retainer *Line    `json:"retainer,omitempty" doc:"A line that holds it sideways"`
	Margin   *float64 `json:"margin,omitempty" minimum:"1" maximum:"10" doc:"Factor on the forward moment; default 1.3"`
	Wedge    *Wedge   `json:"wedge,omitempty"`

	// Several lines in place of the one; what is solved is then the tension of all together.
	Pulls []Share `json:"-"`
	Holds []Share `json:"-"`
}

// pulls are the arms of what pulls, taken together, at a tilt (radians).
func (f *Felling) pulls(tilt float64) (forward, side float64, unit r3.Vec) {
	if len(f.Pulls) == 0 {
		return f.Pull.arms(tilt)
	}
	return together(f.Pulls, tilt)
}

// held tells whether anything holds it sideways.
func (f *Felling) held() bool { return f.Retainer != nil || len(f.Holds) > 0 }

// holds are the arms of what holds it sideways, taken together, at a tilt (radians).
func (f *Felling) holds(tilt float64) (forward, side float64, unit r3.Vec) {
	if len(f.Holds) == 0 {
		return f.Retainer.arms(tilt)
	}
	return together(f.Holds, tilt)
}

func together(lines []Share, tilt float64) (forward, side float64, unit r3.Vec) {
	for i := range lines {
		ahead, aside, along := lines[i].arms(tilt)
		forward, side = forward+lines[i].Part*ahead, side+lines[i].Part*aside
		unit = r3.Add(unit, r3.Scale(lines[i].Part, along))
	}
	return forward, side, unit
}

// HingeUse is what the hinge takes.
type HingeUse struct {
	BendingKnm      float64  `json:"bending_knm" doc:"Moment that bends it"`
	SideCapacityKnm *float64 `json:"side_capacity_knm" doc:"Moment it holds sideways; null without a hinge"`
	SideKnm         float64  `json:"side_knm" doc:"Side moment left for it, + to the right"`
	SideUsePct      *float64 `json:"side_use_pct" doc:"Null without a hinge"`
}

// WedgeUse is what a wedge does.
type WedgeUse struct {
	ForceKn float64 `json:"force_kn"`
	LiftM   float64 `json:"lift_m" doc:"Lift that brings the tree to its balance"`
}

// A Moment of the fall: the pull needed at a tilt.
type Moment struct {
	TiltDeg float64 `json:"tilt_deg"`
	PullKn  float64 `json:"pull_kn"`
}

// A Need is what it takes.
type Need struct {
	PullKn      float64   `json:"pull_kn"`
	RetainerKn  float64   `json:"retainer_kn"`
	TipsAlone   bool      `json:"tips_alone" doc:"Its own lean bends the hinge"`
	BalanceDeg  float64   `json:"balance_deg" doc:"Tilt at which its weight stands over the hinge"`
	Hinge       HingeUse  `json:"hinge"`
	AddedStemKn float64   `json:"added_stem_kn" doc:"The lines' downward parts on the stem"`
	Wedge       *WedgeUse `json:"wedge,omitempty"`
	Curve       []Moment  `json:"curve" nullable:"false" doc:"Pull needed as it turns, margin included, hinge kept whole"`
}

// curvePoints is how many steps the curve has.
const curvePoints = 40

func (f *Felling) margin() float64 {
	if f.Margin == nil {
		return 1.3
	}
	return *f.Margin
}

func (f *Felling) weightKn() float64 { return f.Tree.MassKg * units.Gravity / 1000 }

// bending is the moment that bends the hinge, kN·m: σ·w·t²/4.
func (f *Felling) bending() float64 {
	if f.Hinge == nil {
		return 0
	}
	return 1000 * f.Hinge.StrengthMpa * f.Hinge.WidthM * f.Hinge.ThicknessM * f.Hinge.ThicknessM / 4
}

// arms returns what 1 kN on the line turns about the hinge, forward and to the right,
// m, with the tree tilted forward by an angle (radians), and the line's unit vector.
func (l Line) arms(tilt float64) (forward, side float64, unit r3.Vec) {
	sin, cos := math.Sincos(tilt)
	attach := r3.Vec{X: l.AttachHeightM*sin + l.AttachForwardM*cos, Y: l.AttachSideM, Z: l.AttachHeightM*cos - l.AttachForwardM*sin}
	bearing := l.BearingDeg * math.Pi / 180
	anchor := r3.Vec{X: l.AnchorDistanceM * math.Cos(bearing), Y: l.AnchorDistanceM * math.Sin(bearing), Z: l.AnchorHeightM}
	unit = r3.Unit(r3.Sub(anchor, attach))
	return attach.Z*unit.X - attach.X*unit.Z, attach.Z*unit.Y - attach.Y*unit.Z, unit
}

// Arms returns what 1 kN on the line turns about the hinge of an upright tree, forward and to the
// right, m, and its way: a unit vector, forward, right and up.
func (l Line) Arms() (forward, side float64, unit r3.Vec) { return l.arms(0) }

// LengthM is how long the line is from the upright tree to its anchor, m.
func (l Line) LengthM() float64 {
	bearing := l.BearingDeg * math.Pi / 180
	return math.Hypot(math.Hypot(l.AnchorDistanceM*math.Cos(bearing)-l.AttachForwardM, l.AnchorDistanceM*math.Sin(bearing)-l.AttachSideM), l.AnchorHeightM-l.AttachHeightM)
}

// LengthAt is how long it is from the tree, turned over by a tilt (radians), to its anchor, m.
func (l Line) LengthAt(tilt float64) float64 {
	sin, cos := math.Sincos(tilt)
	bearing := l.BearingDeg * math.Pi / 180
	return r3.Norm(r3.Vec{
		X: l.AnchorDistanceM*math.Cos(bearing) - l.AttachHeightM*sin - l.AttachForwardM*cos,
		Y: l.AnchorDistanceM*math.Sin(bearing) - l.AttachSideM,
		Z: l.AnchorHeightM - l.AttachHeightM*cos + l.AttachForwardM*sin,
	})
}

// SpentAt is the least tilt, in degrees, at which a line that nobody hauls has come nearer its
// anchor by so much, m; spent is false when it never does before 90°.
func (l Line) SpentAt(byM float64) (tiltDeg float64, spent bool) {
	const steps = 900
	from := l.LengthAt(0)
	for i := range steps + 1 {
		if at := float64(i) * math.Pi / 2 / steps; from-l.LengthAt(at) >= byM {
			return at * 180 / math.Pi, true
		}
	}
	return 0, false
}

// AloneAt is the least tilt, in degrees, from which a weight of so much, kg, bends the hinge by
// itself; ever is false when it never does before 90°. Lines are left out.
func (f *Felling) AloneAt(massKg float64) (tiltDeg float64, ever bool) {
	weight := massKg * units.Gravity / 1000
	tilt, ever := firstTilt(weight*f.Tree.CogForwardM, weight*f.Tree.CogHeightM, f.bending())
	return tilt * 180 / math.Pi, ever
}

// firstTilt is the least tilt φ, radians, from 0 to π/2, at which a·cos φ + b·sin φ comes to a moment, b not negative: a
// sine of φ, ahead by atan(a/b).
func firstTilt(a, b, moment float64) (tilt float64, ever bool) {
	most := math.Hypot(a, b)
	if moment > most {
		return 0, false
	}
	tilt = max(0, math.Asin(max(-1, moment/max(most, math.SmallestNonzeroFloat64)))-math.Atan2(a, b))
	return tilt, tilt <= math.Pi/2
}

// Faults names what is wrong between the fields at the given path.
func (f *Felling) Faults(path string) (faults intake.Faults) {
	if math.Abs(f.Pull.BearingDeg) >= 90 {
		faults.Add(path+".pull.bearing_deg", f.Pull.BearingDeg, "more than -90 and less than 90 °",
			"the pull bears %.4g° off the fall line: it does not pull forward", f.Pull.BearingDeg)
	}
	ax, ay, _ := f.Pull.arms(0)
	if ax <= 1e-6*f.Pull.AttachHeightM && len(faults) == 0 {
		faults.Add(path+".pull.attach_forward_m", f.Pull.AttachForwardM, "a line that leads over the hinge, ahead of it",
			"the pull leads from %.4g m ahead of the hinge down behind it: it does not turn the tree forward", f.Pull.AttachForwardM)
	}
	if f.Retainer != nil && len(faults) == 0 {
		bx, by, _ := f.Retainer.arms(0)
		if math.Abs(by) < 1e-6*f.Retainer.AttachHeightM || math.Abs(ax*by-bx*ay) < 1e-9*math.Abs(ax)*f.Retainer.AttachHeightM {
			faults.Add(path+".retainer.bearing_deg", f.Retainer.BearingDeg, "a bearing off the fall line and off the pull's",
				"the retainer bears %.4g°: it holds nothing sideways that the pull does not", f.Retainer.BearingDeg)
		}
	}
	return faults
}

// lines solves pull and retainer together at a tilt: forward moments sum to the
// margin on lean and hinge, side moments to nothing. A line cannot push.
func (f *Felling) lines(tilt float64) (pull, retainer float64) {
	need := f.needForward(tilt)
	ax, ay, _ := f.pulls(tilt)
	alone := max(0, need/ax)
	if !f.held() {
		return alone, 0
	}
	bx, by, _ := f.holds(tilt)
	side := -f.weightKn() * f.Tree.CogSideM
	det := ax*by - bx*ay
	pull, retainer = (need*by-bx*side)/det, (ax*side-ay*need)/det
	if pull < 0 {
		pull, retainer = 0, side/by
	}
	if retainer < 0 {
		pull, retainer = alone, 0
	}
	return pull, retainer
}

// Unmet is the least tilt, degrees, from upright to where its weight stands over the hinge, at which no pull on the lines
// bends the hinge with the margin: the pull is past its dead point, or what holds the tree sideways takes more of the pull
// forward than that gives. met is true when there is none.
func (f *Felling) Unmet() (tiltDeg float64, met bool) {
	balance := 0.0
	if f.Tree.CogForwardM < 0 {
		balance = math.Atan(-f.Tree.CogForwardM / f.Tree.CogHeightM)
	}
	for i := range curvePoints + 1 {
		tilt := balance * float64(i) / curvePoints
		need := f.needForward(tilt)
		pull, retainer := f.lines(tilt)
		ax, _, _ := f.pulls(tilt)
		got := pull * ax
		if f.held() {
			bx, _, _ := f.holds(tilt)
			got += retainer * bx
		}
		if got < need-1e-6*math.Abs(need)-1e-9 {
			return tilt * 180 / math.Pi, false
		}
	}
	return 0, true
}

// needForward is the moment that the lines have to turn it forward with at a tilt, margin included, kN·m.
func (f *Felling) needForward(tilt float64) float64 {
	forward := f.Tree.CogForwardM*math.Cos(tilt) + f.Tree.CogHeightM*math.Sin(tilt)
	return f.margin() * (-f.weightKn()*forward + f.bending())
}

// PullAt is the pull needed at a tilt (radians), margin included, hinge kept whole, kN.
func (f *Felling) PullAt(tilt float64) float64 {
	pull, _ := f.lines(tilt)
	return pull
}

// Solve works out a felling without Faults.
func (f *Felling) Solve() Need {
	weight, bending := f.weightKn(), f.bending()
	need := Need{TipsAlone: weight*f.Tree.CogForwardM >= bending, Hinge: HingeUse{BendingKnm: bending}, Curve: []Moment{}}
	need.PullKn, need.RetainerKn = f.lines(0)
	_, ay, u := f.pulls(0)
	need.Hinge.SideKnm = weight*f.Tree.CogSideM + need.PullKn*ay
	need.AddedStemKn = max(0, -u.Z) * need.PullKn
	if f.held() {
		_, by, v := f.holds(0)
		need.Hinge.SideKnm += need.RetainerKn * by
		need.AddedStemKn += max(0, -v.Z) * need.RetainerKn
	}
	if f.Hinge != nil {
		capacity := 1000 * f.Hinge.StrengthMpa * f.Hinge.ThicknessM * f.Hinge.WidthM * f.Hinge.WidthM / 6
		use := 100 * math.Abs(need.Hinge.SideKnm) / capacity
		need.Hinge.SideCapacityKnm, need.Hinge.SideUsePct = &capacity, &use
	}
	leansForward := f.Tree.CogForwardM > 0
	balance := 0.0
	if !leansForward {
		balance = math.Atan(-f.Tree.CogForwardM / f.Tree.CogHeightM)
	}
	need.BalanceDeg = balance * 180 / math.Pi
	if f.Wedge != nil {
		need.Wedge = &WedgeUse{}
		if !leansForward {
			need.Wedge.ForceKn = f.margin() * (-weight*f.Tree.CogForwardM + bending) / f.Wedge.DistanceM
			need.Wedge.LiftM = f.Wedge.DistanceM * -f.Tree.CogForwardM / f.Tree.CogHeightM
		}
	}
	for i := range curvePoints + 1 {
		tilt := balance * float64(i) / curvePoints
		at := Moment{TiltDeg: tilt * 180 / math.Pi}
		if !leansForward {
			at.PullKn, _ = f.lines(tilt)
		}
		need.Curve = append(need.Curve, at)
	}
	return need
}

// Working writes the sum behind a need.
func (f *Felling) Working(need Need) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const statics = "statics: moments about the hinge"
	ax, ay, _ := f.pulls(0)
	sheet.Add("W", "weight", n(f.Tree.MassKg)+"·9.80665/1000", f.weightKn(), "kN", units.GravitySource)
	if f.Hinge != nil {
		sheet.Add("M_h", "moment that bends the hinge", fmt.Sprintf("σ·w·t²/4 = %s·%s·%s²/4·1000", n(f.Hinge.StrengthMpa), n(f.Hinge.WidthM), n(f.Hinge.ThicknessM)), need.Hinge.BendingKnm, "kN·m", "plastic bending of a rectangle")
		sheet.Add("M_cap", "side capacity of the hinge", "σ·t·w²/6·1000", *need.Hinge.SideCapacityKnm, "kN·m", "elastic bending of a rectangle")
	}
	sheet.Add("M", "forward moment needed", fmt.Sprintf("%s·(−W·%s + M_h)", n(f.margin()), n(f.Tree.CogForwardM)), f.margin()*(-f.weightKn()*f.Tree.CogForwardM+need.Hinge.BendingKnm), "kN·m", statics+"; margin: "+working.Common)
	if len(f.Pulls) == 0 {
		sheet.Add("a", "forward arm of the pull", fmt.Sprintf("%s·u_x − %s·u_z", n(f.Pull.AttachHeightM), n(f.Pull.AttachForwardM)), ax, "m", "geometry")
		sheet.Add("a_s", "side arm of the pull", fmt.Sprintf("%s·u_y − %s·u_z", n(f.Pull.AttachHeightM), n(f.Pull.AttachSideM)), ay, "m", "geometry")
	} else {
		for i := range f.Pulls {
			p := &f.Pulls[i]
			forward, aside, _ := p.Arms()
			sheet.Add("a", "forward arm of a line that pulls", fmt.Sprintf("%s·u_x − %s·u_z, %s of the pull", n(p.AttachHeightM), n(p.AttachForwardM), n(p.Part)), forward, "m", "geometry")
			sheet.Add("a_s", "its side arm", fmt.Sprintf("%s·u_y − %s·u_z", n(p.AttachHeightM), n(p.AttachSideM)), aside, "m", "geometry")
		}
	}
	sheet.Add("P", "pull", "forward moments sum to M, side moments to 0; a line cannot push", need.PullKn, "kN", statics)
	sheet.Add("R", "retainer", "solved with the pull", need.RetainerKn, "kN", statics)
	sheet.Add("M_side", "side moment left for the hinge", fmt.Sprintf("W·%s and the lines' side moments", n(f.Tree.CogSideM)), need.Hinge.SideKnm, "kN·m", statics)
	sheet.Add("N", "added to the stem", "the lines' downward parts", need.AddedStemKn, "kN", statics)
	sheet.Add("β", "balance", "atan(−forward/height)", need.BalanceDeg, "°", "geometry")
	if need.Wedge != nil {
		sheet.Add("F_w", "force of the wedge", fmt.Sprintf("M/%s", n(f.Wedge.DistanceM)), need.Wedge.ForceKn, "kN", statics)
		sheet.Add("l_w", "lift of the wedge", "distance·(−forward)/height", need.Wedge.LiftM, "m", "geometry")
	}
	return sheet.Steps()
}

// KeepUp is the caution of every tree that a line pulls.
const KeepUp = "The pull falls away as soon as its slack is used up: the line has to follow. Take the stretch out before the cut."

// Cautions returns what must stand beside a need.
func (f *Felling) Cautions(need Need) []string {
	cautions := []string{KeepUp}
	if tilt, met := f.Unmet(); !met {
		cautions = append(cautions, fmt.Sprintf("No pull on these lines brings it over: at %.3g° of tilt they work against each other, or the pull is past its dead point.", tilt))
	}
	if need.TipsAlone {
		cautions = append(cautions, "Its own lean bends the hinge: it goes without a pull. Think of the stem splitting up.")
	}
	if need.Hinge.SideUsePct != nil && *need.Hinge.SideUsePct > 50 {
		cautions = append(cautions, fmt.Sprintf("The hinge is left %.0f %% of what it holds sideways: hinge wood alone cannot be trusted with a heavy head.", *need.Hinge.SideUsePct))
	}
	return cautions
}
