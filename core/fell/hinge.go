package fell

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/working"
)

// A Stump is the round that a tree is cut at, with a round hole in its middle perhaps.
type Stump struct {
	DiameterM float64 `json:"diameter_m" exclusiveMinimum:"0" maximum:"10" doc:"Diameter at the cut, m"`
	CavityM   float64 `json:"cavity_m,omitempty" minimum:"0" maximum:"10" doc:"Diameter of the hole in its middle, m; default none"`
}

// A Thickness is how thick a hinge is at its two ends.
type Thickness struct {
	Left  float64 `json:"left" exclusiveMinimum:"0" maximum:"2" doc:"At the left end, looking towards the fall, m"`
	Right float64 `json:"right" exclusiveMinimum:"0" maximum:"2" doc:"At the right end, m"`
}

// A HingeCut is a hinge as it is cut in a stump.
type HingeCut struct {
	Stump       Stump     `json:"stump"`
	FaceDepthM  float64   `json:"face_depth_m" exclusiveMinimum:"0" maximum:"10" doc:"How deep the face goes, from the bark, m"`
	ThicknessM  Thickness `json:"thickness_m"`
	BoredM      float64   `json:"bored_m,omitempty" minimum:"0" maximum:"10" doc:"Width of what is bored out of its middle, m; default none"`
	NicksM      float64   `json:"nicks_m,omitempty" minimum:"0" maximum:"5" doc:"Wood cut out at each end, m; default none"`
	StrengthMpa float64   `json:"strength_mpa" exclusiveMinimum:"0" maximum:"300" doc:"Bending strength of the green wood, MPa"`
}

// A SideCapacity is what a hinge holds sideways.
type SideCapacity struct {
	ToLeft  float64 `json:"to_left" doc:"Against a load to the left, kN·m"`
	ToRight float64 `json:"to_right" doc:"Against a load to the right, kN·m"`
}

// A HingeWood is the wood that a hinge cut leaves, and what it takes.
type HingeWood struct {
	ChordM           float64      `json:"chord_m" doc:"Length of the hinge, nicks taken off, m"`
	HoleM            float64      `json:"hole_m" doc:"Width of the hole in its middle, bored or hollow, m"`
	AreaM2           float64      `json:"area_m2"`
	AheadOfCentreM   float64      `json:"ahead_of_centre_m" doc:"Its middle line ahead of the stump's centre, m; negative: behind it"`
	BendingKnm       float64      `json:"bending_knm" doc:"Moment that bends it in the fall, plastic, kN·m"`
	SideCapacityKnm  SideCapacity `json:"side_capacity_knm" doc:"To the first fibre"`
	BackCutM         float64      `json:"back_cut_m" doc:"From the bark at the back to the hinge, m"`
	MeanThicknessM   float64      `json:"mean_thickness_m"`
	CentreOfWoodM    float64      `json:"centre_of_wood_m" doc:"To the right of its middle, m"`
	SecondMomentM4   float64      `json:"second_moment_m4" doc:"Of the wood about that place, m⁴"`
	ThicknessPerWide float64      `json:"thickness_over_width" doc:"Mean thickness over the chord"`
}

// shape is where the hinge lies in its stump.
func (h *HingeCut) shape() (mean, ahead, chord, hole float64) {
	r := h.Stump.DiameterM / 2
	mean = (h.ThicknessM.Left + h.ThicknessM.Right) / 2
	ahead = r - h.FaceDepthM - mean/2
	c := h.Stump.CavityM / 2
	chord = 2*math.Sqrt(max(0, r*r-ahead*ahead)) - 2*h.NicksM
	hole = max(h.BoredM, 2*math.Sqrt(max(0, c*c-ahead*ahead)))
	return mean, ahead, chord, hole
}

// Faults names what cannot be cut at the given path.
func (h *HingeCut) Faults(path string) (faults intake.Faults) {
	d := h.Stump.DiameterM
	if h.Stump.CavityM >= d {
		faults.Add(path+".stump.cavity_m", h.Stump.CavityM, fmt.Sprintf("less than %g m", d), "the cavity is as wide as the stump: there is no wood")
		return faults
	}
	mean, _, chord, hole := h.shape()
	switch {
	case d-h.FaceDepthM-mean <= 0:
		faults.Add(path+".face_depth_m", h.FaceDepthM, fmt.Sprintf("less than %.4g m", d-mean), "the hinge lies off the stump: a face of %g m and %.3g m of hinge leave no back cut in %g m", h.FaceDepthM, mean, d)
	case hole >= chord:
		faults.Add(path+".bored_m", h.BoredM, "less than the hinge is long", "no wood is left: %.3g m of hinge, %.3g m of it hollow, bored or nicked away", math.Max(0, chord), hole)
	}
	return faults
}

// Solve works out a hinge without Faults.
func (h *HingeCut) Solve() HingeWood {
	mean, ahead, chord, hole := h.shape()
	w := HingeWood{ChordM: chord, HoleM: hole, AheadOfCentreM: ahead, BackCutM: h.Stump.DiameterM - h.FaceDepthM - mean, MeanThicknessM: mean, ThicknessPerWide: mean / chord}
	thick := func(y float64) float64 {
		return h.ThicknessM.Left + (h.ThicknessM.Right-h.ThicknessM.Left)*(y+chord/2)/chord
	}
	// Simpson's rule is exact for what is summed: cubic at the most.
	sum := func(of func(y float64) float64) float64 {
		part := func(a, b float64) float64 { return (b - a) / 6 * (of(a) + 4*of((a+b)/2) + of(b)) }
		return part(-chord/2, -hole/2) + part(hole/2, chord/2)
	}
	w.AreaM2 = sum(thick)
	w.CentreOfWoodM = sum(func(y float64) float64 { return y * thick(y) }) / w.AreaM2
	w.SecondMomentM4 = sum(func(y float64) float64 { return (y - w.CentreOfWoodM) * (y - w.CentreOfWoodM) * thick(y) })
	strength := 1000 * h.StrengthMpa // kN/m²
	w.BendingKnm = strength / 4 * sum(func(y float64) float64 { return thick(y) * thick(y) })
	w.SideCapacityKnm = SideCapacity{ToLeft: strength * w.SecondMomentM4 / (chord/2 - w.CentreOfWoodM), ToRight: strength * w.SecondMomentM4 / (chord/2 + w.CentreOfWoodM)}
	return w
}

// Working writes the sum behind a hinge.
func (h *HingeCut) Working(w HingeWood) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const geometry = "geometry of the circle"
	sheet.Add("t̄", "mean thickness", fmt.Sprintf("(%s+%s)/2", n(h.ThicknessM.Left), n(h.ThicknessM.Right)), w.MeanThicknessM, "m", geometry)
	sheet.Add("e", "middle line ahead of the stump's centre", "R − face − t̄/2", w.AheadOfCentreM, "m", geometry)
	sheet.Add("w", "length of the hinge", "2√(R² − e²) − 2·nicks", w.ChordM, "m", geometry)
	sheet.Add("c", "hole in its middle", "the wider of what is bored and 2√(r² − e²) of the cavity", w.HoleM, "m", geometry)
	sheet.Add("A", "wood", "∫t dy", w.AreaM2, "m²", geometry)
	sheet.Add("ȳ", "its centre, to the right", "∫y·t dy/A", w.CentreOfWoodM, "m", geometry)
	sheet.Add("J", "second moment about it", "∫(y−ȳ)²·t dy", w.SecondMomentM4, "m⁴", geometry)
	sheet.Add("M_h", "moment that bends it in the fall", fmt.Sprintf("σ/4·∫t² dy, σ = %s MPa", n(h.StrengthMpa)), w.BendingKnm, "kN·m", "plastic bending of a rectangle")
	sheet.Add("M_r", "held against a load to the right", "σ·J/(w/2 + ȳ)", w.SideCapacityKnm.ToRight, "kN·m", "elastic bending, first fibre")
	sheet.Add("M_l", "held against a load to the left", "σ·J/(w/2 − ȳ)", w.SideCapacityKnm.ToLeft, "kN·m", "elastic bending, first fibre")
	sheet.Add("b", "back cut", "2R − face − t̄", w.BackCutM, "m", geometry)
	return sheet.Steps()
}

// Cautions returns what must stand beside a hinge.
func (h *HingeCut) Cautions(w HingeWood) []string {
	d := h.Stump.DiameterM
	cautions := []string{}
	switch {
	case w.MeanThicknessM < d/20:
		cautions = append(cautions, fmt.Sprintf("The hinge is thinner than a twentieth of the stem (%.3g m of %.3g m): it breaks early and steers little.", w.MeanThicknessM, d))
	case w.MeanThicknessM > d/5:
		cautions = append(cautions, fmt.Sprintf("The hinge is thicker than a fifth of the stem (%.3g m of %.3g m): the stem can split up before it bends.", w.MeanThicknessM, d))
	}
	if h.FaceDepthM > 0.4*d {
		cautions = append(cautions, fmt.Sprintf("The face goes deeper than 0.4 of the stem (%.3g m of %.3g m): little is left to hold while the back is cut, and no room for a wedge.", h.FaceDepthM, d))
	}
	if w.HoleM > 0 {
		cautions = append(cautions, "The hinge stands in two strips: where the shell is unsound it steers less than its figures.")
	}
	return append(cautions, "Sound green wood is meant: dead, brittle or decayed wood holds less, and nobody knows how much less.")
}
