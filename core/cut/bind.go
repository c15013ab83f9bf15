package cut

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// A Bind is a log that lies level on two supports, and where the saw goes through it.
type Bind struct {
	Wood wood.Wood `json:"wood"`
	timber.Stem
	SupportsM []float64 `json:"supports_m" minItems:"2" maxItems:"2" doc:"Where it lies, along it, rising, m"`
	CutAtM    float64   `json:"cut_at_m" minimum:"0" maximum:"150" doc:"Where it is cut, along it, m"`
}

// What a part does when the saw is through.
const (
	Stays     = "stays"
	Tips      = "tips"
	EitherWay = "either way"
	Drops     = "drops"
)

// balanced is how near over a single support a part does not tell which way it goes, m.
const balanced = 0.02

// A Part is what the cut leaves on one side.
type Part struct {
	MassKg float64 `json:"mass_kg" doc:"Likely mass"`
	CogM   float64 `json:"cog_m" doc:"Its balance, on the axis of at_m"`
	Does   string  `json:"does" enum:"stays,tips,either way,drops" doc:"When the saw is through"`
}

// A Bound log is how it lies and what the cut does.
type Bound struct {
	ReactionsKn []float64 `json:"reactions_kn" nullable:"false" doc:"What the supports carry"`
	MomentKnm   float64   `json:"moment_knm" doc:"At the cut, + sagging"`
	Tension     string    `json:"tension" enum:"bottom,top" doc:"The side that opens"`
	StressMpa   float64   `json:"stress_mpa" doc:"Of bending at the cut"`
	FirstCut    string    `json:"first_cut" enum:"top,bottom" doc:"The side in compression: cut it first, shallow"`
	LastCut     string    `json:"last_cut" enum:"top,bottom" doc:"The side in tension: cut from there until it is through"`
	Left        Part      `json:"left"`
	Right       Part      `json:"right"`
	Stand       string    `json:"stand" enum:"left,right,either,clear" doc:"Of the cut, as the saw goes through; clear: both parts move, beside neither"`
	GoesFirst   string    `json:"goes_first,omitempty" enum:"left,right" doc:"Which part moves first where both do: what nothing is under, else the heavier"`
}

// Where to stand as the saw goes through, along the log from the cut.
const (
	StandLeft   = "left"
	StandRight  = "right"
	StandEither = "either"
	StandClear  = "clear"
)

// stands says where to stand, and which part goes first where both do.
func (b *Bound) stands() {
	left, right := b.Left.Does != Stays, b.Right.Does != Stays
	switch {
	case left && right:
		b.Stand, b.GoesFirst = StandClear, StandLeft
		drops := [2]bool{b.Left.Does == Drops, b.Right.Does == Drops}
		if drops[1] && !drops[0] || drops[0] == drops[1] && b.Right.MassKg > b.Left.MassKg {
			b.GoesFirst = StandRight
		}
	case left:
		b.Stand = StandRight
	case right:
		b.Stand = StandLeft
	default:
		b.Stand = StandEither
	}
}

// Faults names what cannot lie or be cut at the given path.
func (b *Bind) Faults(path string) intake.Faults {
	faults := b.Wood.Faults(path + ".wood")
	faults.Join(b.Stem.Faults(path))
	if len(faults) > 0 || len(b.Stations) < 2 {
		return faults
	}
	low, high := b.Bottom(), b.Top()
	for i, at := range b.SupportsM {
		if at < low || at > high {
			faults.Add(fmt.Sprintf("%s.supports_m[%d]", path, i), at, fmt.Sprintf("%g to %g m", low, high), "a support at %g m is not under the log (%g to %g m)", at, low, high)
		}
	}
	if b.SupportsM[1]-b.SupportsM[0] < 1e-3 {
		faults.Add(path+".supports_m", b.SupportsM[1], fmt.Sprintf("more than %g m", b.SupportsM[0]), "the supports (%g and %g m) do not rise", b.SupportsM[0], b.SupportsM[1])
	}
	if b.CutAtM <= low || b.CutAtM >= high {
		faults.Add(path+".cut_at_m", b.CutAtM, fmt.Sprintf("more than %g and less than %g m", low, high), "the cut at %g m is not within the log (%g to %g m)", b.CutAtM, low, high)
	}
	for _, at := range b.SupportsM {
		if math.Abs(at-b.CutAtM) < 1e-6 {
			faults.Add(path+".cut_at_m", b.CutAtM, "a place beside the support", "the cut is at the support at %g m", at)
		}
	}
	if len(faults) > 0 {
		return faults
	}
	density, _ := b.Wood.GreenDensity()
	whole := b.WeighBetween(low, high, density, timber.Frustum)
	for i, at := range b.SupportsM {
		if out := whole.CogM - at; i == 0 && out < 0 || i == 1 && out > 0 {
			faults.Add(path+".supports_m", at, fmt.Sprintf("a support on each side of %.4g m", whole.CogM), "it tips over the support at %g m: its balance is at %.4g m", at, whole.CogM)
		}
	}
	return faults
}

// part is what lies between two places and what hangs on it, likely.
func (b *Bind) part(from, to float64, lumps func(at float64) bool) (kg, cog float64) {
	density, _ := b.Wood.GreenDensity()
	bare := timber.Stem{Stations: b.Stations}
	wood := bare.WeighBetween(from, to, density, timber.Frustum)
	kg, moment := wood.MassKg.Likely, wood.MassKg.Likely*wood.CogM
	for _, lump := range b.Attached {
		if lumps(lump.AtM) {
			kg += lump.MassKg
			moment += lump.MassKg * lump.AtM
		}
	}
	return kg, moment / kg
}

// does says what a part does on the supports that are under it.
func (b *Bind) does(cog, from, to float64) string {
	under := []float64{}
	for _, at := range b.SupportsM {
		if at > from && at < to {
			under = append(under, at)
		}
	}
	switch len(under) {
	case 2:
		if cog >= under[0] && cog <= under[1] {
			return Stays
		}
		return Tips
	case 1:
		if math.Abs(cog-under[0]) <= balanced {
			return EitherWay
		}
		return Tips
	}
	return Drops
}

// Solve works out a log without Faults.
func (b *Bind) Solve() Bound {
	low, high := b.Bottom(), b.Top()
	leftKg, leftCog := b.part(low, b.CutAtM, func(at float64) bool { return at <= b.CutAtM })
	rightKg, rightCog := b.part(b.CutAtM, high, func(at float64) bool { return at > b.CutAtM })
	kn := units.Gravity / 1000
	first, second := b.SupportsM[0], b.SupportsM[1]
	far := (leftKg*(leftCog-first) + rightKg*(rightCog-first)) * kn / (second - first)
	near := (leftKg+rightKg)*kn - far
	out := Bound{ReactionsKn: []float64{near, far}, Tension: "bottom", FirstCut: "top", LastCut: "bottom"}
	out.MomentKnm = -leftKg * kn * (b.CutAtM - leftCog)
	for i, at := range b.SupportsM {
		if at < b.CutAtM {
			out.MomentKnm += out.ReactionsKn[i] * (b.CutAtM - at)
		}
	}
	if out.MomentKnm < 0 {
		out.Tension, out.FirstCut, out.LastCut = "top", "bottom", "top"
	}
	outside, cavity := b.DiameterAt(b.CutAtM)
	inertia := math.Pi / 64 * (math.Pow(outside, 4) - math.Pow(cavity, 4))
	out.StressMpa = math.Abs(out.MomentKnm) * outside / 2 / inertia / 1000
	out.Left = Part{leftKg, leftCog, b.does(leftCog, math.Inf(-1), b.CutAtM)}
	out.Right = Part{rightKg, rightCog, b.does(rightCog, b.CutAtM, math.Inf(1))}
	out.stands()
	return out
}

// Working writes the sum behind a bound log.
func (b *Bind) Working(out Bound) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const statics = "statics: a beam on two supports"
	sheet.Add("m_l", "left of the cut", "hollow frustums, and what hangs there", out.Left.MassKg, "kg", timber.SolidGeometry)
	sheet.Add("m_r", "right of the cut", "hollow frustums, and what hangs there", out.Right.MassKg, "kg", timber.SolidGeometry)
	sheet.Add("B", "second support", fmt.Sprintf("moments about the first, at %s m", n(b.SupportsM[0])), out.ReactionsKn[1], "kN", statics)
	sheet.Add("A", "first support", "the whole weight less B", out.ReactionsKn[0], "kN", statics)
	sheet.Add("M", "moment at the cut, + sagging", "supports left of it less the weight left of it", out.MomentKnm, "kN·m", statics)
	sheet.Add("σ", "stress of bending there", "|M|·(D/2)/I", out.StressMpa, "MPa", "Euler–Bernoulli")
	return sheet.Steps()
}

// Cautions returns what must stand beside a cut.
func (b *Bind) Cautions(out Bound) []string {
	cautions := []string{}
	does := map[string]string{Stays: "stays", Tips: "tips", EitherWay: "goes either way", Drops: "drops"}
	switch out.Stand {
	case StandClear:
		first, then, name, other := &out.Left, &out.Right, "left", "right"
		if out.GoesFirst == StandRight {
			first, then, name, other = then, first, other, name
		}
		cautions = append(cautions, fmt.Sprintf("Both parts move: the one to the %s, %.0f kg, %s first, then the one to the %s, %.0f kg, %s. Beside neither: stand back from the cut, square to the log and uphill of it, with a way out behind you; better, prop one of them before.",
			name, first.MassKg, does[first.Does], other, then.MassKg, does[then.Does]))
	case StandLeft:
		cautions = append(cautions, fmt.Sprintf("The part to the right, %.0f kg, %s when the saw is through: nobody beside it, stand to the left of the cut.", out.Right.MassKg, does[out.Right.Does]))
	case StandRight:
		cautions = append(cautions, fmt.Sprintf("The part to the left, %.0f kg, %s when the saw is through: nobody beside it, stand to the right of the cut.", out.Left.MassKg, does[out.Left.Does]))
	}
	cautions = append(cautions, fmt.Sprintf("The %s is pressed and the %s opens: begin at the %s, shallow, then from the %s until it is through (common practice).", out.FirstCut, out.LastCut, out.FirstCut, out.LastCut))
	return append(cautions, "A log that is wedged, or lies on a slope, can roll or spring whatever its weight says.")
}
