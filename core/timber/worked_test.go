package timber

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/wood"
	"elkstay/core/working/workingtest"
)

// The sum behind a piece of a hollow stem with a lump on it, worked out here: two frustums, each
// less its cavity, their centroids by thin slices.
func TestTheWorkingOfAHollowPiece(t *testing.T) {
	s := Stem{Stations: []Station{{AtM: 1, DiameterM: 0.6}, {AtM: 3, DiameterM: 0.5, CavityM: 0.2}, {AtM: 6, DiameterM: 0.4}, {AtM: 9, DiameterM: 0.2}}, Attached: []Lump{{MassKg: 30, AtM: 5}}}
	density := wood.Range{Low: 800, Likely: 900, High: 1000}
	outside := func(z float64) (d, c float64) {
		switch {
		case z <= 3:
			return 0.6 - 0.1*(z-1)/2, 0.2 * (z - 1) / 2
		case z <= 6:
			return 0.5 - 0.1*(z-3)/3, 0.2 - 0.2*(z-3)/3
		}
		return 0.4 - 0.2*(z-6)/3, 0
	}
	slices := func(from, to float64) (volume, centroid float64) {
		const n = 20000
		for k := range n {
			z := from + (to-from)*(float64(k)+0.5)/n
			d, c := outside(z)
			area := math.Pi / 4 * (d*d - c*c) * (to - from) / n
			volume += area
			centroid += area * z
		}
		return volume, centroid / volume
	}
	steps := s.Working(2, 7, density, "as given", Frustum)
	near := func(what string, got, want float64) {
		t.Helper()
		if !(math.Abs(got-want) <= 1e-6*math.Max(1, math.Abs(want))) {
			t.Errorf("%s: %v, want %v", what, got, want)
		}
	}
	total := 0.0
	for i, part := range []struct {
		from, to float64
		says     string
	}{{2, 3, "L = 1, D₁ = 0.55, D₂ = 0.5, less the same of the cavity, 0.1 to 0.2"}, {3, 6, "L = 3, D₁ = 0.5, D₂ = 0.4, less the same of the cavity, 0.2 to 0"}, {6, 7, "L = 1, D₁ = 0.4, D₂ = 0.333"}} {
		volume, centroid := slices(part.from, part.to)
		total += volume
		v := workingtest.Step(t, steps, fmt.Sprintf("V%d", i+1))
		near("volume of a part", v.Value, volume)
		near("centroid of a part", workingtest.Step(t, steps, fmt.Sprintf("z%d", i+1)).Value, centroid)
		if !strings.Contains(v.Expression, part.says) || strings.Contains(v.Expression, "cavity") != (i < 2) || !strings.Contains(v.Label, fmt.Sprintf("from %g m to %g m", part.from, part.to)) || v.Source != SolidGeometry {
			t.Errorf("part %d: %q %q", i+1, v.Label, v.Expression)
		}
	}
	_, balance := slices(2, 7)
	near("length", workingtest.Step(t, steps, "L").Value, 5)
	near("volume", workingtest.Step(t, steps, "V").Value, total)
	near("what hangs on it", workingtest.Step(t, steps, "a").Value, 30)
	near("likely", workingtest.Step(t, steps, "m").Value, 900*total+30)
	near("high", workingtest.Step(t, steps, "m_high").Value, 1000*total+30)
	near("weight", workingtest.Step(t, steps, "W").Value, (1000*total+30)*9.80665/1000)
	near("balance of the wood", workingtest.Step(t, steps, "z_w").Value, balance)
	near("balance of all", workingtest.Step(t, steps, "z").Value, (900*total*balance+30*5)/(900*total+30))
	if !strings.HasSuffix(workingtest.Step(t, steps, "m").Expression, " + a") || len(steps) != 17 {
		t.Errorf("%d steps, %q", len(steps), workingtest.Step(t, steps, "m").Expression)
	}
	// Bare, no lump is told of; by another formula its source and the frustums' volume beside it.
	bare := Stem{Stations: s.Stations}.Working(2, 7, density, "as given", "")
	if len(bare) != 15 || strings.Contains(workingtest.Step(t, bare, "m").Expression, "a") || workingtest.Step(t, bare, "V1").Source != SolidGeometry {
		t.Errorf("%d steps, %+v", len(bare), workingtest.Step(t, bare, "m"))
	}
	huber := s.Working(2, 7, density, "as given", Huber)
	near("frustums beside it", workingtest.Step(t, huber, "V_f").Value, total)
	if workingtest.Step(t, huber, "V1").Source == SolidGeometry || len(huber) != 18 {
		t.Errorf("%d steps, source %q", len(huber), workingtest.Step(t, huber, "V1").Source)
	}
}

// A cavity is said where there is one in the piece: at either end or between; a table figure is,
// where the wood is of the table.
func TestWhatIsSaidOfAPiece(t *testing.T) {
	s := Stem{Stations: []Station{{AtM: 0, DiameterM: 0.6}, {AtM: 2, DiameterM: 0.5, CavityM: 0.2}, {AtM: 4, DiameterM: 0.4}, {AtM: 6, DiameterM: 0.4}, {AtM: 8, DiameterM: 0.3, CavityM: 0.1}}}
	for _, c := range []struct {
		lower, upper float64
		hollow       bool
	}{{0, 4, true}, {0, 1, true}, {3, 6, true}, {4, 6, false}, {4, 7, true}, {6, 8, true}} {
		said := strings.Join(s.Cautions(wood.Wood{}, c.lower, c.upper), " ")
		if strings.Contains(said, "cavity") != c.hollow || strings.Contains(said, "table") {
			t.Errorf("from %v to %v: %q", c.lower, c.upper, said)
		}
	}
	if said := strings.Join(s.Cautions(wood.Wood{Species: "beech"}, 4, 6), " "); !strings.Contains(said, "table figure") {
		t.Error(said)
	}
	for diameter, outside := range map[float64]bool{0.0249: true, 0.025: false, 0.3: false, 0.7: false, 0.701: true} {
		if said := strings.Join((Limb{BasalDiameterM: diameter}).Cautions(), " "); strings.Contains(said, "outside the sizes") != outside {
			t.Errorf("a limb of %v m: %q", diameter, said)
		}
	}
}

// The sums behind a limb and behind the scale, by hand.
func TestTheWorkingsOfEstimates(t *testing.T) {
	l := Limb{Group: "soft-maple-birch", BasalDiameterM: 0.2, LengthM: 8, MoisturePct: 75}
	if group, known := wood.FindGroup(l.Group); !known {
		t.Fatalf("no group %s: %+v", l.Group, group)
	} else {
		steps := l.Working(LimbWeight{MassKg: wood.Range{Low: 1, Likely: 2, High: 3}, CogM: 3.04})
		dry := math.Exp(group.B0 + group.B1*math.Log(20))
		if got := workingtest.Step(t, steps, "m_dry"); !(math.Abs(got.Value-dry) <= 1e-9*dry) || !strings.HasSuffix(got.Expression, "·ln 20)") {
			t.Errorf("%+v, want %v", got, dry)
		}
		if got := workingtest.Step(t, steps, "m_green").Value; !(math.Abs(got-1.75*dry) <= 1e-9*dry) {
			t.Errorf("green %v, want %v", got, 1.75*dry)
		}
	}
	w := WeighIn{Weighed: []Weighing{{PredictedKg: 100, MeasuredKg: 80}, {PredictedKg: 200, MeasuredKg: 190}}}
	learned := w.Learn()
	steps := w.Working(learned)
	for i, want := range []float64{math.Log(0.8), math.Log(0.95)} {
		if got := workingtest.Step(t, steps, fmt.Sprintf("y%d", i+1)); !(math.Abs(got.Value-want) <= 1e-12) || !strings.HasPrefix(got.Expression, "ln(") {
			t.Errorf("%+v, want %v", got, want)
		}
	}
	_, piece, scale := w.spreads()
	if got := workingtest.Step(t, steps, "s²").Value; !(math.Abs(got-(piece*piece+scale*scale)) <= 1e-15) {
		t.Errorf("spread %v of %v and %v", got, piece, scale)
	}
	for _, c := range []struct {
		l      Learned
		weighs int
		says   []string
	}{
		{Learned{Factor: 0.849, Outliers: []int{1}}, 2, []string{"left out (1)", "planned lighter"}},
		{Learned{Factor: 0.85}, 2, nil}, {Learned{Factor: 1}, 0, []string{"Nothing has been weighed"}},
	} {
		said := (WeighIn{Weighed: make([]Weighing, c.weighs)}).Cautions(c.l)
		if len(said) != len(c.says) {
			t.Errorf("%+v: %q", c, said)
			continue
		}
		for i := range said {
			if !strings.Contains(said[i], c.says[i]) {
				t.Errorf("%q, want %q", said[i], c.says[i])
			}
		}
	}
}

// A stem that does not begin at the ground has its own length; a mass that is the limit fits.
func TestTheLongestOfAStemOffTheGround(t *testing.T) {
	s := Stem{Stations: []Station{{AtM: 5, DiameterM: 0.4}, {AtM: 9, DiameterM: 0.4}}}
	perMetre := 1000 * math.Pi / 4 * 0.16
	density := wood.Range{Low: 900, Likely: 1000, High: 1100}
	for _, high := range []bool{false, true} {
		each := perMetre
		if high {
			each *= 1.1
		}
		if length, whole := s.LongestWithin(FromTop, each*4*(1+1e-12), density, high); !whole || length != 4 {
			t.Errorf("all of it: %v, %v", length, whole)
		}
		if length, whole := s.LongestWithin(FromTop, each*4*0.9999, density, high); whole || length > 4 || length < 3.99 {
			t.Errorf("a little less: %v, %v", length, whole)
		}
	}
	// Between stations the diameter is that of the line between them, at every one its own.
	s.Stations = append(s.Stations, Station{AtM: 12, DiameterM: 0.1, CavityM: 0.04})
	for z, want := range map[float64]float64{5: 0.4, 9: 0.4, 10: 0.3, 12: 0.1} {
		if d, _ := s.DiameterAt(z); !(math.Abs(d-want) <= 1e-12) {
			t.Errorf("at %v m: %v, want %v", z, d, want)
		}
	}
	// A stem without a cavity is no fault, a lump at its foot is none either.
	s.Attached = []Lump{{MassKg: 3, AtM: 5}}
	if faults := s.Faults("body"); len(faults) > 0 {
		t.Error(faults)
	}
	s.Attached[0].AtM = 4.99
	if faults := s.Faults("body"); len(faults) != 1 || faults[0].Location != "body.attached[0].at_m" {
		t.Error(faults)
	}
}
