package fell

import (
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/intake"
)

// A FallTree is a tree that turns about its hinge; heights are from the hinge.
type FallTree struct {
	MassKg      float64  `json:"mass_kg" exclusiveMinimum:"0" maximum:"500000" doc:"Mass, kg"`
	CogHeightM  float64  `json:"cog_height_m" exclusiveMinimum:"0" maximum:"100" doc:"Centre of gravity above the hinge, m"`
	CogForwardM float64  `json:"cog_forward_m" minimum:"-50" maximum:"50" doc:"Towards the fall, m; negative: back lean"`
	CogSideM    float64  `json:"cog_side_m,omitempty" minimum:"-50" maximum:"50" doc:"To the right, m; default 0"`
	TopHeightM  float64  `json:"top_height_m" exclusiveMinimum:"0" maximum:"150" doc:"Tip above the hinge, m"`
	InertiaKgM2 *float64 `json:"inertia_kg_m2,omitempty" exclusiveMinimum:"0" maximum:"1000000000" doc:"About the centre of gravity; default mass·top²/16, between a cone and a pole (common practice, no source)"`
}

// A FallHinge is what the hinge takes while it holds.
type FallHinge struct {
	BendingKnm         float64  `json:"bending_knm" minimum:"0" maximum:"100000" doc:"Moment that bends it in the fall, kN·m"`
	HelpsPct           float64  `json:"helps_pct,omitempty" minimum:"0" maximum:"100" doc:"Share of it that holds against a fall backward; default none: wood already bent is not counted on"`
	ToLeftKnm          *float64 `json:"to_left_knm,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Moment it holds against a load to the left, kN·m"`
	ToRightKnm         *float64 `json:"to_right_knm,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Moment it holds against a load to the right, kN·m"`
	ThicknessOverWidth *float64 `json:"thickness_over_width,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"For the drift of the crown; with both capacities"`
	ClosesDeg          *float64 `json:"closes_deg,omitempty" exclusiveMinimum:"0" maximum:"180" doc:"Tilt at which the face closes and the hinge is gone; default 70"`
}

// A BackCut is what stands open behind the hinge.
type BackCut struct {
	CutM   float64 `json:"cut_m" exclusiveMinimum:"0" maximum:"10" doc:"From the hinge to the bark at the back, m"`
	KerfM  float64 `json:"kerf_m" minimum:"0" maximum:"0.5" doc:"How far it stands open there, m"`
	Wedged bool    `json:"wedged,omitempty" doc:"A wedge fills it"`
}

// A HaulSpeed is an effort that shortens a line.
type HaulSpeed struct {
	SpeedMS float64 `json:"speed_m_s" exclusiveMinimum:"0" maximum:"20" doc:"Unloaded, m/s"`
	StallKn float64 `json:"stall_kn" exclusiveMinimum:"0" maximum:"5000" doc:"Pull at which it gains no more, at the effort, kN"`
}

// A FallLine runs from the tree to an anchor, and on to what holds or hauls it.
type FallLine struct {
	Name            string     `json:"name" minLength:"1" maxLength:"80"`
	AttachHeightM   float64    `json:"attach_height_m" exclusiveMinimum:"0" maximum:"150" doc:"On the tree, above the hinge, m"`
	AttachForwardM  float64    `json:"attach_forward_m,omitempty" minimum:"-50" maximum:"50" doc:"Where it is tied, ahead of the hinge, m; negative: behind it, as on a back leaner; default 0"`
	AttachSideM     float64    `json:"attach_side_m,omitempty" minimum:"-50" maximum:"50" doc:"And to its right, m; default 0"`
	AnchorDistanceM float64    `json:"anchor_distance_m" minimum:"0.1" maximum:"1000" doc:"From the hinge, level, m"`
	BearingDeg      float64    `json:"bearing_deg,omitempty" minimum:"-180" maximum:"180" doc:"From the fall line, + to the right; default 0"`
	AnchorHeightM   float64    `json:"anchor_height_m,omitempty" minimum:"-100" maximum:"100" doc:"Above the hinge, m; default 0"`
	LeadM           float64    `json:"lead_m,omitempty" minimum:"0" maximum:"2000" doc:"Rope beyond the anchor at the same tension, m; default 0"`
	Efficiency      *float64   `json:"efficiency,omitempty" exclusiveMinimum:"0" maximum:"1" doc:"Of all turns between tree and effort; default 1"`
	Rope            gear.Rope  `json:"rope"`
	PretensionKn    float64    `json:"pretension_kn,omitempty" minimum:"0" maximum:"5000" doc:"Tension at the tree before the cut, kN; default 0"`
	Haul            *HaulSpeed `json:"haul,omitempty" doc:"Absent: nothing hauls"`
	HoldKn          *float64   `json:"hold_kn,omitempty" exclusiveMinimum:"0" maximum:"5000" doc:"Tension at the effort at which rope runs out, kN; absent: it never does"`
	MidKg           *float64   `json:"mid_kg,omitempty" exclusiveMinimum:"0" maximum:"20000" doc:"Weight that hangs in its middle, kg; absent: none"`
	LineM           *float64   `json:"line_m,omitempty" exclusiveMinimum:"0" maximum:"1000" doc:"With a weight: line from tree to anchor as it hangs, m"`
}

// A Wind blows on the crown.
type Wind struct {
	SpeedMS    float64 `json:"speed_m_s" minimum:"0" maximum:"60" doc:"m/s"`
	TowardsDeg float64 `json:"towards_deg" minimum:"-360" maximum:"360" doc:"Where it blows to, from the fall line, + to the right"`
	AreaM2     float64 `json:"area_m2" minimum:"0" maximum:"2000" doc:"Of the crown, drag coefficient included, m²"`
	HeightM    float64 `json:"height_m" minimum:"0" maximum:"150" doc:"Of the crown's middle above the hinge, m"`
}

// A FallGround is where the tree comes down.
type FallGround struct {
	HingeHeightM *float64 `json:"hinge_height_m,omitempty" minimum:"0" maximum:"75" doc:"Hinge above the ground, m; default 0.3"`
	SlopeDeg     float64  `json:"slope_deg,omitempty" minimum:"-60" maximum:"60" doc:"Along the fall, + downhill; default 0"`
}

// A Fall is a tree on its hinge, its lines and what pulls them, to be followed through time.
type Fall struct {
	Tree       FallTree    `json:"tree"`
	Hinge      *FallHinge  `json:"hinge,omitempty" doc:"Absent: nothing holds it but the lines"`
	Back       *BackCut    `json:"back,omitempty" doc:"Absent: it cannot turn back, and what holds it there is not known"`
	Lines      []FallLine  `json:"lines,omitempty" maxItems:"6"`
	Wind       *Wind       `json:"wind,omitempty"`
	DragAreaM2 float64     `json:"drag_area_m2,omitempty" minimum:"0" maximum:"2000" doc:"Of the crown in its own wind, drag coefficient included, m²; default 0"`
	Ground     *FallGround `json:"ground,omitempty"`
	UntilS     *float64    `json:"until_s,omitempty" exclusiveMinimum:"0" maximum:"600" doc:"How long it is followed; default 60"`
	SampleS    *float64    `json:"sample_s,omitempty" minimum:"0.01" maximum:"60" doc:"Between samples of the series; default 0.05"`
	Spread     *FallSpread `json:"spread,omitempty" doc:"Repeat it with what is not known well"`
}

// The outcomes of a fall.
const (
	Goes       = "goes"
	Stands     = "stands"
	SitsBack   = "sits back"
	Tears      = "tears"
	Parts      = "parts"
	Unfinished = "unfinished"
)

// Outcomes lists them.
func Outcomes() []string { return []string{Goes, Stands, SitsBack, Tears, Parts, Unfinished} }

// A FallPhase is when something begins.
type FallPhase struct {
	Name  string  `json:"name" doc:"moving, closed, landed, torn, sits back, weight down, or parted and the line's name"`
	AtS   float64 `json:"at_s"`
	AtDeg float64 `json:"at_deg"`
}

// A FallLineRun is what became of a line.
type FallLineRun struct {
	Name       string   `json:"name"`
	PeakKn     float64  `json:"peak_kn" doc:"At the tree"`
	PeakAtDeg  float64  `json:"peak_at_deg"`
	SlackAtDeg *float64 `json:"slack_at_deg" doc:"Tilt at which it, tight before, has no tension; null: never"`
	HauledM    float64  `json:"hauled_m" doc:"How much it was shortened by hauling"`
	PaidOutM   float64  `json:"paid_out_m" doc:"How much of it ran out"`
	KnAtRest   float64  `json:"kn_at_rest" doc:"Tension at the tree at the start"`

	AnchorPeakKn *float64 `json:"anchor_peak_kn,omitempty" doc:"With a weight in it: of the half that ends at the anchor, its swing after the tree is down included"`
}

// A FallSeries is the fall sampled.
type FallSeries struct {
	TS         []float64   `json:"t_s" nullable:"false"`
	TiltDeg    []float64   `json:"tilt_deg" nullable:"false"`
	SideUsePct []float64   `json:"side_use_pct" nullable:"false" doc:"0 once the hinge is gone"`
	Lines      [][]float64 `json:"lines" nullable:"false" doc:"Tension of each line at the tree, kN"`

	Weight [][3]float64 `json:"weight,omitempty" doc:"Where the weight in a line is: ahead of the hinge, to its right, above it, m"`
}

// A FallRun is a fall followed.
type FallRun struct {
	Outcome      string        `json:"outcome" enum:"goes,stands,sits back,tears,parts,unfinished"`
	TimeS        float64       `json:"time_s" doc:"When the run ends"`
	HighestDeg   float64       `json:"highest_deg" doc:"Largest tilt from the position given"`
	GoesAloneDeg *float64      `json:"goes_alone_deg" doc:"Least tilt from which its own weight bends the hinge; null: never before 90°"`
	TurnedDeg    float64       `json:"turned_deg" doc:"Tilt at which its tip meets the ground"`
	TipSpeedMS   *float64      `json:"tip_speed_m_s,omitempty" doc:"When it lands"`
	LandingKj    *float64      `json:"landing_kj,omitempty" doc:"Energy of its turning when it lands"`
	SideUsePct   *float64      `json:"side_use_pct" doc:"Most of what the hinge holds sideways; null: not known"`
	SideUseAtDeg *float64      `json:"side_use_at_deg"`
	TwistKnm     float64       `json:"twist_knm" doc:"Most that twists the hinge; no limit is known for it"`
	DriftDeg     *float64      `json:"drift_deg,omitempty" doc:"How far the crown is carried aside as the hinge yields, + to the right"`
	WedgeKn      *float64      `json:"wedge_kn" doc:"Most that the wedge carries; null: there is none"`
	Phases       []FallPhase   `json:"phases" nullable:"false"`
	Lines        []FallLineRun `json:"lines" nullable:"false"`
	Series       FallSeries    `json:"series"`
}

func orElse(value *float64, standard float64) float64 {
	if value == nil {
		return standard
	}
	return *value
}

func (f *Fall) hingeHeight() float64 {
	if f.Ground == nil {
		return groundHinge
	}
	return orElse(f.Ground.HingeHeightM, groundHinge)
}

func (f *Fall) slope() float64 {
	if f.Ground == nil {
		return 0
	}
	return f.Ground.SlopeDeg * math.Pi / 180
}

// inertia is that about the hinge, kg·m².
func (f *Fall) inertia() float64 {
	t := &f.Tree
	own := orElse(t.InertiaKgM2, t.MassKg*t.TopHeightM*t.TopHeightM/16)
	return own + t.MassKg*(t.CogHeightM*t.CogHeightM+t.CogForwardM*t.CogForwardM)
}

// Faults names what is wrong between the fields at the given path.
func (f *Fall) Faults(path string) (faults intake.Faults) {
	if f.Tree.CogHeightM > f.Tree.TopHeightM {
		faults.Add(path+".tree.cog_height_m", f.Tree.CogHeightM, fmt.Sprintf("at most %g m", f.Tree.TopHeightM), "the centre of gravity (%g m) is above the tip (%g m)", f.Tree.CogHeightM, f.Tree.TopHeightM)
	}
	if h := f.hingeHeight(); h >= (f.Tree.TopHeightM+h)/2 {
		faults.Add(path+".ground.hinge_height_m", h, fmt.Sprintf("less than %g m", f.Tree.TopHeightM), "the hinge (%g m) is not in the lower half of the tree (%g m)", h, f.Tree.TopHeightM+h)
	}
	names := map[string]bool{}
	for i := range f.Lines {
		l := &f.Lines[i]
		at := fmt.Sprintf("%s.lines[%d]", path, i)
		faults.Join(l.Rope.Faults(at + ".rope"))
		if l.Rope.DynamicFactor != 0 {
			faults.Add(at+".rope.dynamic_factor", l.Rope.DynamicFactor, "nothing: a fall is slow", "a pull is no shock: the rope's dynamic factor has no meaning here")
		}
		if l.AttachHeightM > f.Tree.TopHeightM {
			faults.Add(at+".attach_height_m", l.AttachHeightM, fmt.Sprintf("at most %g m", f.Tree.TopHeightM), "%s is tied above the tip (%g m)", l.Name, f.Tree.TopHeightM)
		}
		if names[l.Name] {
			faults.Add(at+".name", l.Name, "a name of its own", "two lines are called %s", l.Name)
		}
		names[l.Name] = true
	}
	if len(faults) == 0 {
		faults.Join(f.hungFaults(path))
	}
	if f.Spread != nil {
		faults.Join(f.Spread.faults(path+".spread", f))
	}
	return faults
}
