package silhouette

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/units"
	"elkstay/core/wood"
)

func of(v float64) *float64 { return &v }

// A sentence is read for what it says, in either system and any order.
func TestSentences(t *testing.T) {
	for text, want := range map[string]struct {
		species, outline string
		height, girth    float64
	}{
		"ash 19 m girth 6ft 4in":                        {"european-ash", Open, 19, 6*0.3048 + 4*0.0254},
		"white ash, 60 ft high, 22 in dbh":              {"white-ash", Open, 60 * 0.3048, 22 * 0.0254 * math.Pi},
		"leaning Scots pine 24 m, 1.9 m round":          {"scots-pine", Leaning, 24, 1.9},
		"forked beech: diameter 80cm, 27 metres":        {"european-beech", Forked, 27, 0.8 * math.Pi},
		"pollarded crack willow girth 310 cm height 9m": {"crack-willow", Topped, 9, 3.1},
		"Quercus robur 0,9 m through 21 m woodland":     {"english-oak", Forest, 21, 0.9 * math.Pi},
		"redwood 45 m girth 5.5 m":                      {"redwood", Open, 45, 5.5},
	} {
		r := Request{Text: text}
		var faults intake.Faults
		read(&r, &faults)
		if r.Outline == "" {
			r.Outline = Open
		}
		if len(faults) > 0 || r.Species != want.species || r.Outline != want.outline || r.HeightM == nil || !(math.Abs(*r.HeightM-want.height) <= 1e-9) || r.GirthM == nil || !(math.Abs(*r.GirthM-want.girth) <= 1e-9) {
			t.Errorf("%q: %v %s %s %v %v", text, faults, r.Species, r.Outline, deref(r.HeightM), deref(r.GirthM))
		}
	}
}

func deref(v *float64) any {
	if v == nil {
		return nil
	}
	return *v
}

// What is missing, not known or not likely is named, with what would do.
func TestWhatASentenceLeavesOut(t *testing.T) {
	for text, want := range map[string]string{
		"ash 19 m":               "body.girth_m",
		"ash girth 2 m":          "body.height_m",
		"19 m girth 2 m":         "body.text",
		"triffid 19 m girth 2 m": "body.text",
		"ash 19 m girth 560 m":   "body.girth_m", // metres where centimetres were meant
		"ash 19 m girth 5 cm":    "body.girth_m",
	} {
		_, err := Make(Request{Text: text})
		var faults intake.Faults
		if !errors.As(err, &faults) || faults[0].Location != want || faults[0].Allowed == "" {
			t.Errorf("%q: %v, want a fault at %s", text, err, want)
		}
	}
}

// Every outline of every species is a tree that the core works out without a fault, its limbs on
// its stem and thinner than it, weights wide, all marked as guessed but the girth that was measured.
func TestEveryOutlineStands(t *testing.T) {
	for _, species := range wood.Table() {
		for outline := range shapes {
			for _, size := range [][2]float64{{0.3, 4}, {1.9, 19}, {5, 32}} {
				g, err := Make(Request{Species: species.ID, GirthM: of(size[0]), HeightM: of(size[1]), Outline: outline})
				if err != nil {
					t.Fatalf("%s %s: %v", species.ID, outline, err)
				}
				tree := &g.Job.Trees[0]
				measured := 0
				for _, r := range tree.Readings {
					if !r.Offered {
						measured++
						if r.TapeM != size[0] || r.AtM != breast {
							t.Errorf("%s: measured %+v", outline, r)
						}
					}
				}
				a := assess.Assess(&g.Job, assess.Options{Units: units.Metric, Pick: "p1"})
				if g.Job.Note != g.Said || !strings.Contains(g.Said, species.CommonName) {
					t.Errorf("noted: %q", g.Job.Note)
				}
				if measured != 1 || len(a.Faults) > 0 || len(a.Picks) != 1 || a.Detail == nil || a.Detail.Piece == nil {
					t.Fatalf("%s %s %v: %v %v", species.ID, outline, size, a.Faults, a.Missing)
				}
				kg := a.Detail.Piece.MassKg
				if kg.High < 1.8*kg.Low || kg.Likely <= 0 {
					t.Errorf("%s: a guessed limb weighs %+v", outline, kg)
				}
				said := strings.Join(a.Cautions, " ")
				if !strings.Contains(said, fmt.Sprintf("%d of %d limbs are a guess", len(tree.Limbs), len(tree.Limbs))) {
					t.Errorf("%s: %s", outline, said)
				}
				for _, l := range tree.Limbs {
					if here := stemAt(size[0]/math.Pi, size[1], l.AtM); !l.Guess || l.DiameterM > math.Max(0.02, 0.8*here) || l.AtM > *tree.HeightM {
						t.Errorf("%s: %+v on %v m of stem", outline, l, here)
					}
				}
			}
		}
	}
}

// A crown of a tree grown alone is wider and lower than one grown among others.
func TestOutlinesDiffer(t *testing.T) {
	crown := func(outline string) (lowest, widest float64) {
		g, err := Make(Request{Species: "english-oak", GirthM: of(2.4), HeightM: of(20), Outline: outline})
		if err != nil {
			t.Fatal(err)
		}
		lowest = 99
		for _, l := range g.Job.Trees[0].Limbs {
			lowest, widest = math.Min(lowest, l.AtM), math.Max(widest, l.LengthM*math.Sin(l.AngleDeg*math.Pi/180))
		}
		return lowest, widest
	}
	forestLow, forestWide := crown(Forest)
	openLow, openWide := crown(Open)
	if openLow >= forestLow || openWide <= forestWide {
		t.Errorf("alone from %v m and %v m wide; among others from %v m and %v m", openLow, openWide, forestLow, forestWide)
	}
}

func ExampleMake() {
	g, err := Make(Request{Text: "ash 19 m girth 6ft 4in"})
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(g.Said, len(g.Job.Trees[0].Limbs), g.Job.Picks[0].Way == job.WayFree)
	// Output: European ash, 19 m high, 1.93 m round (61 cm through) at breast height, grown alone. All else is a guess: replace it by readings. 12 true
}
