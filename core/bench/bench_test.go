package bench

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"os"
	"reflect"
	"strings"
	"testing"

	"elkstay/core/calc"
)

// Every kind lies on the bench once, its sum to begin with is answered, and its answer and what
// stands beside it are figures of it.
func TestEveryKindIsAnInstrument(t *testing.T) {
	all, err := All(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	seen := map[string]bool{}
	for _, one := range all {
		seen[one.Kind] = true
		paths := map[string]bool{}
		for _, f := range one.Figures {
			paths[f.Path] = true
		}
		for _, path := range append([]string{one.Answer}, one.Beside...) {
			if path != "" && !paths[path] {
				t.Errorf("%s: %s is no figure of its answer", one.Kind, path)
			}
		}
		if len(one.Fields) < 2 || one.Title == "" || one.Words == "" || one.Group == "" || one.Answer == "" && one.Kind != "cut-advice" {
			t.Errorf("%+v", one)
		}
		for _, f := range one.Fields {
			if f.Label == "" || f.Number && f.Required && f.Min == nil && !strings.Contains(f.Path, "[") {
				t.Errorf("%s: %+v", one.Kind, f)
			}
		}
	}
	// The figures' units are read off their names, those of a range off the range's.
	units := map[string]string{}
	for _, f := range all[0].Figures {
		units[f.Path] = f.Unit
	}
	if units["mass_kg.likely"] != "kg" || units["volume_m3"] != "m³" || units["cog_m"] != "m" {
		t.Errorf("units of a log: %v", units)
	}
	// What the page has is what the core has: make generate.
	committed, err := os.ReadFile("../../web/src/lib/bench/instruments.json")
	if err != nil {
		t.Fatal(err)
	}
	var there []Instrument
	if err := json.Unmarshal(committed, &there); err != nil || len(there) != len(all) {
		t.Fatalf("the page has %d instruments, %v", len(there), err)
	}
	for i := range all {
		a, _ := json.Marshal(all[i])
		b, _ := json.Marshal(there[i])
		var one, two any
		if json.Unmarshal(a, &one) != nil || json.Unmarshal(b, &two) != nil || !reflect.DeepEqual(one, two) {
			t.Errorf("%s is out of date on the page: make generate", all[i].Kind)
		}
	}
	for _, kind := range calc.Kinds() {
		if !seen[kind.Name] {
			t.Errorf("%s does not lie on the bench", kind.Name)
		}
	}
	if len(all) != len(calc.Kinds()) {
		t.Errorf("%d instruments of %d kinds", len(all), len(calc.Kinds()))
	}
}

// Of every kind: the answer held at what it is, each input that moves it is found again where it was.
func TestWhatIsHeldFindsWhatWas(t *testing.T) {
	all, err := All(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	for _, one := range all {
		if one.Answer == "" || one.Kind == "section" || one.Kind == "trace-read" || one.Kind == "drop-sim" {
			continue // counts, the figures of a record, and one that takes its time
		}
		kind, _ := calc.Find(one.Kind)
		document, _ := generic(one.Begin)
		answer, err := run(t.Context(), kind, document, one.Fields[0].Path, was(t, one.Begin, one.Fields[0].Path))
		if err != nil {
			answer, _ = runAsItIs(kind, one.Begin)
		}
		held, _ := numberAt(answer, one.Answer)
		asked := 0
		for _, f := range one.Fields {
			at, has := given(one.Begin, f.Path)
			if !f.Number || !has || asked == 3 || one.Kind == "fell-sim" && asked == 1 {
				continue
			}
			// Does it move the answer at all?
			moved, err := run(t.Context(), kind, mustGeneric(one.Begin), f.Path, at*1.01+1e-4)
			if err != nil {
				continue
			}
			if y, ok := numberAt(moved, one.Answer); !ok || math.Abs(y-held) < 1e-6*math.Max(1, math.Abs(held)) {
				continue
			}
			// Where it only touches the value no change of sign tells it.
			before, err := run(t.Context(), kind, mustGeneric(one.Begin), f.Path, at*0.99-1e-4)
			if y, ok := numberAt(before, one.Answer); err == nil && ok {
				if z, _ := numberAt(moved, one.Answer); (y-held)*(z-held) >= 0 {
					continue
				}
			} else {
				continue
			}
			asked++
			low, high := at-math.Abs(at)*0.5-0.01, at+math.Abs(at)*0.7+0.02
			if f.Min != nil {
				low = math.Max(low, *f.Min+1e-6)
			}
			if f.Max != nil {
				high = math.Min(high, *f.Max)
			}
			got, err := Ask(t.Context(), kind, one.Begin, Held{Hold: one.Answer, Value: held, Ask: f.Path, From: &low, To: &high})
			if err != nil {
				t.Errorf("%s, %s: %v", one.Kind, f.Path, err)
				continue
			}
			found := false
			for _, a := range got.Answers {
				found = found || math.Abs(a.Value-at) < 2e-2*math.Max(0.1, math.Abs(at))
				written, _ := json.Marshal(a.Answer)
				g, _ := generic(written)
				if y, _ := numberAt(g, one.Answer); !(math.Abs(y-held) <= 2e-6*math.Max(1, math.Abs(held))) {
					t.Errorf("%s: %s = %v gives %v, not %v", one.Kind, f.Path, a.Value, y, held)
				}
			}
			if !found {
				t.Errorf("%s: %s of %v is not among %+v", one.Kind, f.Path, at, got.Said)
			}
		}
		if asked == 0 {
			t.Errorf("%s: no input was asked for", one.Kind)
		}
	}
}

func mustGeneric(data []byte) map[string]any { g, _ := generic(data); return g }

func runAsItIs(kind calc.Kind, data []byte) (any, error) {
	answer, err := kind.Run(context.Background(), data)
	if err != nil {
		return nil, err
	}
	written, _ := json.Marshal(answer)
	return generic(written)
}

func given(data []byte, path string) (float64, bool) { return numberAt(mustGeneric(data), path) }

func was(t *testing.T, data []byte, path string) float64 {
	t.Helper()
	at, _ := given(data, path)
	return at
}

// By hand: the turns that leave 0.2 kN of 9 at a friction of 0.2 are ln 45/(2π·0.2); the friction
// that does it with three turns, ln 45/(6π). Two answers where a figure goes up and down; none where
// it never comes there; a jump is none.
func TestHeldByHand(t *testing.T) {
	wraps, _ := calc.Find("wraps")
	from, to := 0.05, 1.0
	got, err := Ask(t.Context(), wraps, []byte(`{"line_kn":9,"hand_kn":0.2,"friction":0.2}`), Held{Hold: "wraps", Value: 3, Ask: "friction", From: &from, To: &to})
	if err != nil || len(got.Answers) != 1 || !(math.Abs(got.Answers[0].Value-math.Log(45)/(6*math.Pi)) <= 1e-6) {
		t.Errorf("%v %+v", err, got)
	}
	if got.Said != "friction: 0.20195." {
		t.Errorf("%q", got.Said)
	}
	// The bending of a hinge, σ/4·w·t², by its thickness: one; by its face, up to the middle and back: two.
	hinge, _ := calc.Find("hinge")
	begin := []byte(`{"stump":{"diameter_m":0.6},"face_depth_m":0.2,"thickness_m":{"left":0.06,"right":0.06},"strength_mpa":50}`)
	bend := func(face float64) float64 {
		e := 0.3 - face - 0.03
		return 50e3 / 4 * 2 * math.Sqrt(0.09-e*e) * 0.0036
	}
	low, high := 0.05, 0.5
	got, err = Ask(t.Context(), hinge, begin, Held{Hold: "bending_knm", Value: bend(0.2), Ask: "face_depth_m", From: &low, To: &high})
	if err != nil || len(got.Answers) != 2 || !(math.Abs(got.Answers[0].Value-0.2) <= 1e-6) || !(math.Abs(got.Answers[1].Value-0.34) <= 1e-6) || got.Said != "2 values of face depth do: 0.2, 0.34 m." {
		t.Errorf("%v %+v", err, got.Said)
	}
	got, err = Ask(t.Context(), hinge, begin, Held{Hold: "bending_knm", Value: 1e5, Ask: "face_depth_m", From: &low, To: &high})
	if err != nil || len(got.Answers) != 0 || !strings.Contains(got.Said, "was found") {
		t.Errorf("%v %+v", err, got)
	}
	for says, h := range map[string]Held{
		"is no number of a request": {Hold: "bending_knm", Value: 10, Ask: "depth"},
		"has no figure":             {Hold: "bent", Value: 10, Ask: "face_depth_m"},
		"is between":                {Hold: "bending_knm", Value: 10, Ask: "face_depth_m", From: at(-3)},
		"where it begins":           {Hold: "bending_knm", Value: 10, Ask: "face_depth_m", From: at(0.3), To: at(0.3)},
	} {
		_, err := Ask(t.Context(), hinge, begin, h)
		var problem *calc.Problem
		if !errors.As(err, &problem) || !strings.Contains(problem.Detail, says) {
			t.Errorf("%s: %v", says, err)
		}
	}
	if _, err := Ask(t.Context(), hinge, []byte("{"), Held{Ask: "x"}); err == nil {
		t.Error("no JSON")
	}
	done, cancel := context.WithCancel(t.Context())
	cancel()
	if _, err := Ask(done, hinge, begin, Held{Hold: "bending_knm", Value: 10, Ask: "face_depth_m"}); err == nil {
		t.Error("nobody waits, and it is answered")
	}
}

func at(v float64) *float64 { return &v }

// A sweep is the kind's own answers one by one, and null where it refuses.
func TestASweepIsItsSingleAnswers(t *testing.T) {
	hinge, _ := calc.Find("hinge")
	begin := []byte(`{"stump":{"diameter_m":0.6},"face_depth_m":0.2,"thickness_m":{"left":0.06,"right":0.06},"strength_mpa":50}`)
	swept, err := Sweep(t.Context(), hinge, begin, Over{Over: "face_depth_m", From: at(0.05), To: at(0.7), Steps: 13, Of: "bending_knm"})
	if err != nil || len(swept.X) != 14 || len(swept.Y) != 14 || swept.Why == "" {
		t.Fatalf("%v %+v", err, swept)
	}
	for i, x := range swept.X {
		if want := 0.05 + 0.05*float64(i); !(math.Abs(x-want) <= 1e-12) {
			t.Errorf("step %d at %v, want %v", i, x, want)
		}
		e := 0.3 - x - 0.03
		switch {
		case swept.Y[i] == nil && math.Abs(e) < 0.29 && x < 0.53:
			t.Errorf("%v is refused", x)
		case swept.Y[i] != nil:
			if want := 50e3 / 4 * 2 * math.Sqrt(0.09-e*e) * 0.0036; !(math.Abs(*swept.Y[i]-want) <= 1e-9*want) {
				t.Errorf("at %v: %v, by hand %v", x, *swept.Y[i], want)
			}
		}
	}
	for _, bad := range []Over{{Over: "face_depth_m", Steps: 1, Of: "bending_knm"}, {Over: "face_depth_m", Steps: 5000, Of: "bending_knm"}, {Over: "nothing", Of: "bending_knm"}, {Over: "face_depth_m", Of: "nothing"}} {
		if _, err := Sweep(t.Context(), hinge, begin, bad); err == nil {
			t.Errorf("%+v is swept", bad)
		}
	}
}

// A sweep as a table: its names, its steps, and nothing where the kind refuses.
func TestASweepAsATable(t *testing.T) {
	s := Swept{Over: "face_depth_m", Of: "bending_knm", X: []float64{0.1, 0.25, 0.4}, Y: []*float64{at(3.5), nil, at(-0.125)}}
	if got, want := string(s.CSV()), "face_depth_m,bending_knm\n0.1,3.5\n0.25,\n0.4,-0.125\n"; got != want {
		t.Errorf("%q, want %q", got, want)
	}
	// Whole numbers are tried once each, however fine the steps.
	kind, _ := calc.Find("drop-sim")
	begin := []byte(`{"piece":{"mass_kg":100,"cog_above_cut_m":1,"length_m":2},"tie_above_cut_m":0.4,"block_below_cut_m":0.5,"slack_m":0.1,"lead_m":8,"rope":{"mbs_kn":80,"elongation":[{"load_pct":10,"strain_pct":2}]},"block_efficiency":0.9,"spread":{"runs":4,"seed":1}}`)
	whole, err := Sweep(t.Context(), kind, begin, Over{Over: "spread.runs", From: at(2), To: at(4), Steps: 8, Of: "spread.p50_kn"})
	if err != nil || len(whole.X) != 3 || whole.X[0] != 2 || whole.X[1] != 3 || whole.X[2] != 4 || len(whole.Y) != 3 {
		t.Errorf("%v %+v", err, whole)
	}
}

// A figure without a unit in its own name has that of what holds it: a hinge's left and right.
func TestAFieldTakesTheUnitOfItsHolder(t *testing.T) {
	all, err := All(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	seen := 0
	for _, one := range all {
		for _, field := range one.Fields {
			if strings.HasPrefix(field.Path, "thickness_m.") {
				seen++
				if field.Unit != "m" {
					t.Errorf("%s, %s: %q", one.Kind, field.Path, field.Unit)
				}
			}
		}
	}
	if seen != 2 {
		t.Errorf("%d ends of a hinge", seen)
	}
}
