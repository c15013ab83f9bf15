// Package spar answers what the standing stem feels: bending and compression along
// it, how far it bends, and how it sways.
//
// The model is an upright cantilever fixed at its lowest station (Euler–Bernoulli,
// small deflections), round, tapering in straight lines between stations, with a
// round cavity. Stress is N/A + |M|·(D/2)/I. The first mode is found by Stodola's
// iteration on the same beam, the loads' masses included, and Rayleigh's quotient.
// Lean is in it as far as the loads say it; roots, second-order sway, shear and the grain are not.
//
// Lengths are in metres, forces in kilonewtons, moments in kilonewton metres,
// stresses in megapascals. Sources: any text on strength of materials and on
// vibrations (Timoshenko; from memory).
package spar

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/units"
)

// A Load acts on the stem at one height.
type Load struct {
	AtM           float64 `json:"at_m" minimum:"0" maximum:"150" doc:"Height, m"`
	HorizontalKn  float64 `json:"horizontal_kn" minimum:"-5000" maximum:"5000" doc:"Sideways, kN"`
	VerticalKn    float64 `json:"vertical_kn" minimum:"-5000" maximum:"5000" doc:"Downward, kN"`
	OffsetM       float64 `json:"offset_m,omitempty" minimum:"-40" maximum:"40" doc:"Of the vertical part from the axis, towards the horizontal one, m; default 0"`
	AcrossKn      float64 `json:"across_kn,omitempty" minimum:"-5000" maximum:"5000" doc:"Sideways at right angles to the horizontal one, to its right looking along it, kN; default 0"`
	AcrossOffsetM float64 `json:"across_offset_m,omitempty" minimum:"-40" maximum:"40" doc:"Of the vertical part from the axis, to that side, m; default 0"`
	MassKg        float64 `json:"mass_kg,omitempty" minimum:"0" maximum:"100000" doc:"Mass that sways with the stem, kg; default 0"`
}

// A Weak is a part of the stem whose wood has not all of its strength, its ends with it.
type Weak struct {
	FromM    float64 `json:"from_m" minimum:"0" maximum:"150" doc:"Its lower end, m"`
	ToM      float64 `json:"to_m" minimum:"0" maximum:"150" doc:"Its upper end, m"`
	KeepsPct float64 `json:"keeps_pct" minimum:"1" maximum:"100" doc:"What it keeps of its strength, %"`
}

// A Spar is a standing stem and what acts on it.
type Spar struct {
	Stations     []timber.Station `json:"stations" minItems:"2" maxItems:"200"`
	StrengthMpa  float64          `json:"strength_mpa" exclusiveMinimum:"0" maximum:"500"`
	StiffnessGpa float64          `json:"stiffness_gpa" exclusiveMinimum:"0" maximum:"100"`
	DensityKgM3  float64          `json:"density_kg_m3" exclusiveMinimum:"0" maximum:"2000"`
	Loads        []Load           `json:"loads" maxItems:"100"`
	Weak         []Weak           `json:"weak,omitempty" maxItems:"100" first:"{\"from_m\":2,\"to_m\":3,\"keeps_pct\":50}" doc:"Where the wood is weaker: what it feels there counts as much more; of several the weakest. Default none"`
	SelfWeight   *bool            `json:"self_weight,omitempty" doc:"Count the stem's own weight; default true"`
}

// Felt is what one cross-section feels.
type Felt struct {
	AtM       float64 `json:"at_m"`
	MomentKnm float64 `json:"moment_knm"`
	AxialKn   float64 `json:"axial_kn" doc:"Compression"`
	StressMpa float64 `json:"stress_mpa" doc:"Of weak wood as much more as it keeps less"`
	UsePct    float64 `json:"use_pct" doc:"Stress in per cent of the strength"`
}

// Worst is the most strained cross-section.
type Worst struct {
	AtM       float64 `json:"at_m"`
	StressMpa float64 `json:"stress_mpa"`
	UsePct    float64 `json:"use_pct"`
}

// Modal is the stem as one mass on one spring.
type Modal struct {
	MassKg       float64 `json:"mass_kg"`
	StiffnessKnM float64 `json:"stiffness_kn_m" doc:"1 over the deflection of the top under 1 kN there"`
}

// Standing is what the stem feels and how it sways.
type Standing struct {
	Stations           []Felt    `json:"stations" nullable:"false"`
	Worst              Worst     `json:"worst"`
	TopDeflectionM     float64   `json:"top_deflection_m"`
	DeflectionAtLoadsM []float64 `json:"deflection_at_loads_m" nullable:"false"`
	FrequencyHz        float64   `json:"frequency_hz" doc:"First mode"`
	PeriodS            float64   `json:"period_s"`
	Modal              Modal     `json:"modal"`
}

// Faults names what is wrong between the fields at the given path.
func (s *Spar) Faults(path string) intake.Faults {
	faults := timber.Stem{Stations: s.Stations}.Faults(path)
	if len(faults) > 0 || len(s.Stations) < 2 {
		return faults
	}
	bottom, top := s.Stations[0].AtM, s.Stations[len(s.Stations)-1].AtM
	for i, load := range s.Loads {
		if load.AtM < bottom || load.AtM > top {
			faults.Add(fmt.Sprintf("%s.loads[%d].at_m", path, i), load.AtM, fmt.Sprintf("between %g and %g m", bottom, top),
				"the load at %g m is not on the stem (%g to %g m)", load.AtM, bottom, top)
		}
	}
	for i, weak := range s.Weak {
		if weak.ToM < weak.FromM {
			faults.Add(fmt.Sprintf("%s.weak[%d].to_m", path, i), weak.ToM, fmt.Sprintf("at least %g m", weak.FromM), "weak wood from %g m on ends lower, at %g m", weak.FromM, weak.ToM)
		}
	}
	return faults
}

// corners are the heights between which nothing begins or ends, from the bottom up: stations, loads, weak wood.
func (s *Spar) corners() []float64 {
	stem := timber.Stem{Stations: s.Stations}
	corners := make([]float64, 0, len(s.Stations)+len(s.Loads)+2*len(s.Weak))
	for _, station := range s.Stations {
		corners = append(corners, station.AtM)
	}
	for _, load := range s.Loads {
		corners = append(corners, load.AtM)
	}
	for _, weak := range s.Weak {
		corners = append(corners, min(max(weak.FromM, stem.Bottom()), stem.Top()), min(max(weak.ToM, stem.Bottom()), stem.Top()))
	}
	slices.Sort(corners)
	return slices.Compact(corners)
}

// section is what a cross-section resists with: area, m², second moment, m⁴.
func section(outside, cavity float64) (area, inertia float64) {
	o, c := outside*outside, cavity*cavity
	return math.Pi / 4 * (o - c), math.Pi / 64 * (o*o - c*c)
}

// A stretch is the stem from a corner, with it, down to the next: what acts at its top acts on all of it.
type stretch struct {
	top, bottom       float64
	outside, thins    float64 // at its top, and how much more a metre down
	cavity, closes    float64
	own               float64 // weight above its top, kN
	weight            float64 // of a cubic metre of its wood, kN
	acting            acts
	keeps, keepsAtTop float64 // its share of the strength
	strength          float64 // MPa
}

// stretches are those of the stem from the top down; the last is its foot alone.
func (s *Spar) stretches(corners []float64) []stretch {
	list := make([]stretch, len(corners))
	down := slices.Clone(s.Loads)
	slices.SortStableFunc(down, func(a, b Load) int { return cmp.Compare(b.AtM, a.AtM) })
	weight := 0.0
	if s.SelfWeight == nil || *s.SelfWeight {
		weight = s.DensityKgM3 * units.Gravity / 1000
	}
	var acting acts
	own, part := 0.0, len(s.Stations)-1 // the part of the stem it is in
	for k := range list {
		z := corners[len(corners)-1-k]
		for part > 1 && z <= s.Stations[part-1].AtM {
			part--
		}
		for len(down) > 0 && down[0].AtM >= z {
			acting.add(&down[0])
			down = down[1:]
		}
		low, high := &s.Stations[part-1], &s.Stations[part]
		up := (z - low.AtM) / (high.AtM - low.AtM)
		t := stretch{
			top: z, bottom: z, own: own, weight: weight, acting: acting, keepsAtTop: s.keeps(z), strength: s.StrengthMpa,
			outside: low.DiameterM + up*(high.DiameterM-low.DiameterM), cavity: low.CavityM + up*(high.CavityM-low.CavityM),
		}
		if k+1 < len(list) {
			t.bottom = corners[len(corners)-2-k]
			t.keeps = s.keeps((t.top + t.bottom) / 2)
			t.thins, t.closes = (low.DiameterM-high.DiameterM)/(high.AtM-low.AtM), (low.CavityM-high.CavityM)/(high.AtM-low.AtM)
			_, _, own = t.at(t.bottom)
		}
		list[k] = t
	}
	return list
}

// at is how thick the stem is at a height of the stretch, its cavity, m, and its own weight above it, kN.
func (t *stretch) at(z float64) (outside, cavity, own float64) {
	d := t.top - z
	outside, cavity = t.outside+t.thins*d, t.cavity+t.closes*d
	// Between two heights it is a frustum.
	wood := outside*outside + outside*t.outside + t.outside*t.outside - cavity*cavity - cavity*t.cavity - t.cavity*t.cavity
	return outside, cavity, t.own + t.weight*math.Pi/12*d*wood
}

// felt is what a cross-section of the stretch feels.
func (t *stretch) felt(z float64) Felt {
	outside, cavity, own := t.at(z)
	area, inertia := section(outside, cavity)
	axial, moment, keeps := own+t.acting.down, t.acting.moment(z), t.keeps
	if z == t.top {
		keeps = t.keepsAtTop
	}
	stress := (axial/area + math.Abs(moment)*outside/2/inertia) / 1000 / keeps
	return Felt{z, moment, axial, stress, 100 * stress / t.strength}
}

// most is more than any cross-section between two heights of the stretch, the upper first, feels, MPa: the least wood
// and the most that acts of both.
func (t *stretch) most(high, low float64) float64 {
	thick, hollow, _ := t.at(high)
	thickBelow, hollowBelow, own := t.at(low)
	thick, hollow = min(thick, thickBelow), max(hollow, hollowBelow)
	area, inertia := section(thick, hollow)
	if hollow >= thick {
		return math.Inf(1)
	}
	moment := max(math.Abs(t.acting.moment(high)), math.Abs(t.acting.moment(low)))
	return (max(0, own+t.acting.down)/area + moment*thick/2/inertia) / 1000 / t.keeps
}

// worse brings the nodes of a stretch between two of its so many, the upper first, into the worst so far. What can
// feel no more is passed over as a whole.
func (t *stretch) worse(worst *Worst, above, below, count int) {
	at := func(k int) float64 { return node(t.bottom, t.top-t.bottom, k, count) }
	if above < below || t.most(at(above), at(below)) <= worst.StressMpa {
		return
	}
	if above == below {
		worst.take(t.felt(at(above)))
		return
	}
	middle := (above + below) / 2
	t.worse(worst, above, middle+1, count)
	t.worse(worst, middle, below, count)
}

// keeps is the share of its strength that the wood has at a height.
func (s *Spar) keeps(z float64) float64 {
	share := 1.0
	for _, weak := range s.Weak {
		if z >= weak.FromM && z <= weak.ToM {
			share = min(share, weak.KeepsPct/100)
		}
	}
	return share
}

// WorstSection returns the most strained cross-section alone: what Solve gives as
// Worst, without the bending line and the sway.
func (s *Spar) WorstSection() Worst {
	return s.worstOf(s.stretches(s.corners()))
}

func (s *Spar) worstOf(stretches []stretch) Worst {
	cell := s.cell()
	worst := Worst{StressMpa: math.Inf(-1)}
	for k := range stretches {
		worst.take(stretches[k].felt(stretches[k].top))
		if k+1 < len(stretches) {
			// Right above the next corner too: what begins there may relieve what is below.
			worst.take(stretches[k].felt(stretches[k].bottom))
		}
	}
	for k := range stretches {
		t := &stretches[k]
		count := int(math.Ceil((t.top - t.bottom) / cell))
		t.worse(&worst, count-1, 1, count)
	}
	return worst
}

// acts are the loads above a height as one: down, and of either plane sideways, the sum of force
// times height, and of what presses off the axis.
type acts struct {
	down                   float64 // kN
	side, sideAt, turn     float64 // kN, kN·m, kN·m
	across, acrossAt, bank float64
}

func (a *acts) add(l *Load) {
	a.down += l.VerticalKn
	a.side, a.sideAt, a.turn = a.side+l.HorizontalKn, a.sideAt+l.HorizontalKn*l.AtM, a.turn+l.VerticalKn*l.OffsetM
	a.across, a.acrossAt, a.bank = a.across+l.AcrossKn, a.acrossAt+l.AcrossKn*l.AtM, a.bank+l.VerticalKn*l.AcrossOffsetM
}

// moment is the bending moment at a height, kN·m: with its sign while it bends in one plane.
func (a *acts) moment(z float64) float64 {
	return together(a.sideAt-a.side*z+a.turn, a.acrossAt-a.across*z+a.bank)
}

// still is what of a load or a moment is the rounding of none, kN and kN·m.
const still = 1e-9

// together is what two parts at right angles come to; of the first alone with its sign.
func together(along, across float64) float64 {
	if math.Abs(across) < still {
		return along
	}
	return math.Hypot(along, across)
}

func (w *Worst) take(felt Felt) {
	if felt.StressMpa > w.StressMpa {
		*w = Worst{felt.AtM, felt.StressMpa, felt.UsePct}
	}
}
