package roped

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/course/coursetest"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/timber"
)

// A limb's stiffness against the general beam, and a rope's energy against its closed form.
func TestWhatIsMetGives(t *testing.T) {
	j := jobtest.Hung(0)
	s := coursetest.Scene(t, &j)
	v := s.Wood(s.Trees[0])
	g := &v.Limbs[0]
	for _, s := range []float64{1, 2.5, 5} {
		no := false
		beam := spar.Spar{Stations: []timber.Station{{AtM: 0, DiameterM: g.DiameterAt(0)}, {AtM: s, DiameterM: g.DiameterAt(s)}}, StrengthMpa: 50, StiffnessGpa: v.Species.ElasticityGPa, DensityKgM3: 900, SelfWeight: &no, Loads: []spar.Load{{AtM: s, HorizontalKn: 1}}}
		want := 1 / beam.Solve().TopDeflectionM
		if got := v.LimbGives(0, g.At(s)); !(math.Abs(got-want) <= 0.02*want) {
			t.Errorf("%v m out: %v kN/m, as a beam %v", s, got, want)
		}
	}
	rope := gear.Rope{BreakingKn: 50, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 5}}}
	for _, kj := range []float64{0.01, 1, 9} {
		if got, want := ropeTakes(&rope, 12, kj, 0), math.Sqrt(2*kj/(0.05/50*12)); !(math.Abs(got-want) <= 0.005*want) {
			t.Errorf("%v kJ: %v kN, want %v", kj, got, want)
		}
	}
}

// What is met on the way down is leaned on by what is met: of no energy at all twice what leans, as of any load that is
// put on suddenly; of a rope and of wood by the same rule, with what both give.
func TestWhatIsMetIsLeanedOn(t *testing.T) {
	rope := gear.Rope{BreakingKn: 50, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 5}}}
	const k = 50 / 0.05 / 12 // kN/m
	for _, c := range []struct{ kj, leans float64 }{{0, 2}, {1, 2}, {9, 0.5}} {
		want := c.leans + math.Sqrt(c.leans*c.leans+2*k*c.kj)
		onRope := &stopping{rig: &job.Rig{Rope: &gear.NamedRope{Rope: rope}}, tight: 12, kj: c.kj, leans: c.leans}
		onWood := &stopping{wood: &space.Wood{}, give: func() float64 { return k }, kj: c.kj, leans: c.leans}
		for name, st := range map[string]*stopping{"rope": onRope, "wood": onWood} {
			if got := st.takes(); !(math.Abs(got-want) <= 1e-3*want) {
				t.Errorf("%s: %v kJ, leaned on with %v: %v kN, by hand %v", name, c.kj, c.leans, got, want)
			}
			if got := st.bendsBy(); !(math.Abs(got-want/k) <= 1e-3*want/k) {
				t.Errorf("%s gives %v m, by hand %v", name, got, want/k)
			}
		}
	}
}

// A straight line that stretches a tenth at 80 kN takes √(2·k·E), k of its own length, and gives by that over k; one that is twice as
// stiff under a shock half as far for the same force.
func TestHowFarALineGives(t *testing.T) {
	for _, dynamic := range []float64{1, 2} {
		rope := gear.NamedRope{Rope: gear.Rope{BreakingKn: 80, DynamicFactor: dynamic, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 10}}}}
		st := &stopping{rig: &job.Rig{Rope: &rope}, tight: 15, kj: 2}
		k := dynamic * 80 / (0.1 * 15)
		takes := math.Sqrt(2 * k * 2)
		if got := st.takes(); !(math.Abs(got-takes) <= 1e-3*takes) {
			t.Errorf("it takes %v kN, by hand %v", got, takes)
		}
		if got := st.bendsBy(); !(math.Abs(got-takes/k) <= 1e-3*takes/k) {
			t.Errorf("it gives %v m, by hand %v", got, takes/k)
		}
	}
}

// What a stop's wood carries for the line already is taken off what it holds, the most of it: the stem's own bending where the stop is
// on that tree, and what holds gear on the same wood.
func TestWhatALineLeavesAStop(t *testing.T) {
	uses := func(part, on string, use float64, known bool) hold.Load {
		return hold.Load{Part: part, On: on, PeakKn: 10 * use, Rated: policy.Rated{Known: known, Limit: gear.Limit{Kn: 10}}}
	}
	for _, c := range []struct {
		what  string
		loads []hold.Load
		own   bool
		want  float64
	}{
		{"nothing there", []hold.Load{uses(hold.PartLine, "low limb", 0.9, true)}, true, 20},
		{"its own stem bent", []hold.Load{uses(hold.PartSpar, "", 0.3, true)}, true, 14},
		{"another tree's stem", []hold.Load{uses(hold.PartSpar, "", 0.3, true)}, false, 20},
		{"gear on it", []hold.Load{uses(hold.PartHolder, "low limb", 0.4, true)}, false, 12},
		{"gear elsewhere", []hold.Load{uses(hold.PartHolder, "high limb", 0.4, true)}, true, 20},
		{"the more of both", []hold.Load{uses(hold.PartSpar, "", 0.3, true), uses(hold.PartHolder, "low limb", 0.2, true), uses(hold.PartSpar, "", 0.1, true)}, true, 14},
		{"not known", []hold.Load{uses(hold.PartSpar, "", 0.3, false)}, true, 20},
		{"all of it", []hold.Load{uses(hold.PartSpar, "", 1.4, true)}, true, 0.2},
	} {
		l := hold.Load{On: "low limb", Rated: policy.Rated{Known: true, Limit: gear.Limit{Kn: 20, Reason: "its bending"}}}
		(&Roped{Course: course.Course{Loads: c.loads}}).leftBeside(&l, &stopping{wood: &space.Wood{}, own: c.own})
		jobtest.Nearly(t, c.what, l.Limit.Kn, c.want)
		if said := "; 30 % of it are taken off"; c.want == 14 && !strings.Contains(l.Limit.Reason, said) || c.want == 20 && l.Limit.Reason != "its bending" {
			t.Errorf("%s: %q", c.what, l.Limit.Reason)
		}
	}
}
