package calc

import (
	"context"
	"encoding/json"
	"errors"
	"os"
	"strings"
	"testing"
	"time"
)

const (
	goodPiece = `{"wood":{"species":"sycamore"},"stations":[{"at_m":0,"diameter_m":0.6},{"at_m":3,"diameter_m":0.5}]}`
	goodDrop  = `{"piece":{"mass_kg":400,"cog_above_cut_m":1.2,"length_m":2.5},"tie_above_cut_m":0.4,"block_below_cut_m":0.6,"slack_m":0,"lead_m":12,` +
		`"rope":{"mbs_kn":80,"elongation":[{"load_pct":10,"strain_pct":1.6}]},"block_efficiency":0.9}`
)

// with swaps one part of a good request for a bad one.
func with(t *testing.T, good, part, bad string) string {
	t.Helper()
	if !strings.Contains(good, part) {
		t.Fatalf("the request has no %s", part)
	}
	return strings.Replace(good, part, bad, 1)
}

func TestRefusalsNameFieldValueAndRange(t *testing.T) {
	piece := func(part, bad string) string { return with(t, goodPiece, part, bad) }
	drop := func(part, bad string) string { return with(t, goodDrop, part, bad) }
	cases := []struct{ kind, request, location, allowed string }{
		{"piece", piece(`"diameter_m":0.6`, `"diameter_m":40`), "body.stations[0].diameter_m", "at most 10 m"},
		{"piece", piece(`"diameter_m":0.6`, `"diameter_m":0`), "body.stations[0].diameter_m", "more than 0"},
		{"piece", piece(`"at_m":3`, `"at_m":0`), "body.stations[1].at_m", "more than 0 m"},
		{"piece", piece(`"at_m":3`, `"at_m":-3`), "body.stations[1].at_m", "at least 0"},
		{"piece", piece(`"diameter_m":0.5`, `"diameter_m":0.5,"cavity_m":0.5`), "body.stations[1].cavity_m", "less than 0.5 m"},
		{"piece", piece(`,{"at_m":3,"diameter_m":0.5}`, ``), "body.stations", "2 to 200 entries"},
		{"piece", piece(`"sycamore"`, `"stone"`), "body.wood.species", "an id of the wood table"},
		{"piece", piece(`"species":"sycamore"`, ``), "body.wood", "one of the two"},
		{"piece", piece(`{"wood"`, `{"method":"guess","wood"`), "body.method", "frustum, smalian, huber, newton"},
		{"piece", piece(`{"wood"`, `{"wooden":1,"wood"`), "body.wooden", "wood, stations"},
		{"piece", piece(`{"wood"`, `{"attached":[{"mass_kg":0,"at_m":1}],"wood"`), "body.attached[0].mass_kg", "more than 0"},
		{"cut-length", piece(`{"wood"`, `{"from":"middle","limit_kg":100,"wood"`), "body.from", "top, bottom"},
		{"cut-length", piece(`{"wood"`, `{"from":"top","limit_kg":0,"wood"`), "body.limit_kg", "more than 0"},
		{"wraps", `{"line_kn":9,"friction":0.2}`, "body.hand_kn", "one of the two"},
		{"wraps", `{"line_kn":9,"friction":0.2,"hand_kn":1,"wraps":2}`, "body.wraps", "one of the two"},
		{"wraps", `{"line_kn":9,"friction":0,"wraps":2}`, "body.friction", "at least 0.01"},
		{"wraps", `{"line_kn":9,"friction":0.2,"hand_kn":0}`, "body.hand_kn", "at least 0.0001"},
		{"drop", drop(`"mass_kg":400`, `"mass_kg":0`), "body.piece.mass_kg", "more than 0"},
		{"drop", drop(`"mass_kg":400`, `"mass_kg":1e400`), "body.piece.mass_kg", "more than 0"},
		{"drop", drop(`"tie_above_cut_m":0.4`, `"tie_above_cut_m":2.5`), "body.tie_above_cut_m", "less than 2.5 m"},
		{"drop", drop(`"lead_m":12`, `"lead_m":0`), "body.lead_m", "at least 0.001"},
		{"drop", drop(`"lead_m":12`, `"lead_m":-1`), "body.lead_m", "at least 0.001"},
		{"drop", drop(`"block_efficiency":0.9`, `"block_efficiency":1.2`), "body.block_efficiency", "at most 1"},
		{"drop", drop(`"mbs_kn":80`, `"mbs_kn":80,"dynamic_factor":0.5`), "body.rope.dynamic_factor", "at least 1"},
		{"drop", drop(`{"load_pct":10,"strain_pct":1.6}`, `{"load_pct":10,"strain_pct":1.6},{"load_pct":9,"strain_pct":2}`), "body.rope.elongation[1].load_pct", "more than 10 %"},
		{"drop", drop(`{"load_pct":10,"strain_pct":1.6}`, ``), "body.rope.elongation", "1 to 20 entries"},
	}
	for _, c := range cases {
		t.Run(c.kind+" "+c.location, func(t *testing.T) {
			kind, err := Find(c.kind)
			if err != nil {
				t.Fatal(err)
			}
			_, err = kind.Run(t.Context(), []byte(c.request))
			var problem *Problem
			if !errors.As(err, &problem) {
				t.Fatalf("got %v, want a problem", err)
			}
			if problem.Status != 422 || problem.Title == "" || problem.Type == "" || problem.Detail == "" {
				t.Errorf("the problem reads %+v", problem)
			}
			fault := problem.Errors[0]
			if fault.Location != c.location || !strings.Contains(fault.Allowed, c.allowed) || fault.Message == "" {
				t.Errorf("got %s (allowed: %s), want %s (allowed: …%s…)", fault.Location, fault.Allowed, c.location, c.allowed)
			}
		})
	}
}

func TestUnknownKindNamesTheKinds(t *testing.T) {
	_, err := Find("guess")
	var problem *Problem
	if !errors.As(err, &problem) || problem.Status != 404 || !strings.Contains(problem.Detail, "cut-length") {
		t.Errorf("got %v", err)
	}
}

func answer(t *testing.T, kind, request string) map[string]any {
	t.Helper()
	k, err := Find(kind)
	if err != nil {
		t.Fatal(err)
	}
	got, err := k.Run(t.Context(), []byte(request))
	if err != nil {
		t.Fatal(err)
	}
	encoded, err := Encode(got)
	if err != nil {
		t.Fatal(err)
	}
	var fields map[string]any
	if err := json.Unmarshal(encoded, &fields); err != nil {
		t.Fatal(err)
	}
	return fields
}

// The cautions that the contract asks for stand with the figures they concern,
// and go when their reason goes.
func TestCautionsStandWithTheirFigures(t *testing.T) {
	for _, c := range []struct {
		name, kind, request, says string
		wanted                    bool
	}{
		{"slow test", "drop", goodDrop, "a fifth to a half higher", true},
		{"dynamic factor given", "drop", with(t, goodDrop, `"mbs_kn":80`, `"mbs_kn":80,"dynamic_factor":1.4`), "a fifth to a half higher", false},
		{"never stopped", "drop", with(t, goodDrop, `{"piece"`, `{"device_hold_kn":2,"piece"`), "never stops", true},
		{"too little room", "drop", with(t, goodDrop, `{"piece"`, `{"room_m":2,"piece"`), "before the line has stopped it", true},
		{"room enough", "drop", with(t, goodDrop, `{"piece"`, `{"room_m":20,"piece"`), "before the line has stopped it", false},
		{"half a wrap", "wraps", `{"line_kn":9,"hand_kn":0.2,"friction":0.2}`, "factor of 1.87", true},
		{"table figure", "piece", goodPiece, "from memory", true},
		{"own density", "piece", with(t, goodPiece, `"species":"sycamore"`, `"density_kg_m3":{"low":900,"likely":1000,"high":1100}`), "from memory", false},
		{"cavity", "piece", with(t, goodPiece, `"diameter_m":0.6`, `"diameter_m":0.6,"cavity_m":0.2`), "Hollow wood", true},
		{"a lump too heavy", "cut-length", with(t, goodPiece, `{"wood"`, `{"from":"top","limit_kg":10,"attached":[{"mass_kg":50,"at_m":3}],"wood"`), "Not even the shortest", true},
	} {
		t.Run(c.name, func(t *testing.T) {
			found := false
			for _, caution := range answer(t, c.kind, c.request)["cautions"].([]any) {
				found = found || strings.Contains(caution.(string), c.says)
			}
			if found != c.wanted {
				t.Errorf("caution %q: %v, want %v", c.says, found, c.wanted)
			}
		})
	}
}

// The working of every kind ends in the answer's own figures and names a source in
// each line.
func TestWorkingLeadsToTheAnswer(t *testing.T) {
	for _, c := range []struct{ kind, request, symbol, field string }{
		{"piece", goodPiece, "V", "volume_m3"},
		{"piece", goodPiece, "I", "inertia_kg_m2"},
		{"cut-length", with(t, goodPiece, `{"wood"`, `{"from":"top","limit_kg":300,"wood"`), "L_max", "length_m"},
		{"wraps", `{"line_kn":9,"hand_kn":0.2,"friction":0.2}`, "n", "wraps"},
		{"wraps", `{"line_kn":9,"wraps":2,"friction":0.2}`, "H", "hand_kn"},
		{"drop", goodDrop, "T", "line_peak_kn"},
		{"drop", goodDrop, "h", "fall_m"},
		{"drop", goodDrop, "x", "stretch_m"},
		{"drop", with(t, goodDrop, `{"piece"`, `{"device_hold_kn":9,"piece"`), "R", "run_m"},
		{"drop", goodDrop, "z", "lowest_m"},
	} {
		fields := answer(t, c.kind, c.request)
		found := false
		for _, entry := range fields["working"].([]any) {
			step := entry.(map[string]any)
			if step["source"] == "" || step["expression"] == "" || step["label"] == "" {
				t.Errorf("%s: step %v is not complete", c.kind, step)
			}
			if step["symbol"] == c.symbol {
				found = true
				if step["value"] != fields[c.field] {
					t.Errorf("%s: %s is %v in the working, %v in the answer", c.kind, c.symbol, step["value"], fields[c.field])
				}
			}
		}
		if !found {
			t.Errorf("%s: the working has no %s", c.kind, c.symbol)
		}
	}
}

// FuzzKinds gives every kind documents bent out of good ones: it must answer with
// finite figures or refuse by name, and never crash.
func FuzzKinds(f *testing.F) {
	data, err := os.ReadFile("calctest/cases.json")
	if err != nil {
		f.Fatal(err)
	}
	var cases []struct {
		Request json.RawMessage `json:"request"`
	}
	if err := json.Unmarshal(data, &cases); err != nil {
		f.Fatal(err)
	}
	for _, c := range cases {
		f.Add([]byte(c.Request))
	}
	for _, request := range beyondCases {
		f.Add([]byte(request))
	}
	f.Add([]byte(goodPiece))
	f.Add([]byte(`{"line_kn":5000,"hand_kn":0.0001,"friction":0.01}`))
	f.Add([]byte(`{"line_kn":5000,"wraps":50,"friction":1.5}`))
	f.Fuzz(func(t *testing.T, request []byte) {
		for _, kind := range kinds {
			ctx, cancel := context.WithTimeout(t.Context(), 5*time.Second)
			got, err := kind.Run(ctx, request)
			cancel()
			if errors.Is(err, context.DeadlineExceeded) {
				continue // broken off, as it must be
			}
			if err != nil {
				var problem *Problem
				if !errors.As(err, &problem) || len(problem.Errors) == 0 {
					t.Errorf("%s refuses without a name: %v", kind.Name, err)
				}
				continue
			}
			// JSON has no NaN and no infinity: such a figure fails here.
			if _, err := Encode(got); err != nil {
				t.Errorf("%s answers %q with %v", kind.Name, request, err)
			}
		}
	})
}

// beyondCases is a good request for every kind beyond the contract.
var beyondCases = map[string]string{
	"rating":         `{"breaking_kn":80,"termination":"running-bowline","bend_ratio":4,"conditions":["aged"],"resting_kn":2,"peak_kn":6}`,
	"cut-advice":     `{"orientation_deg":0,"diameter_m":0.4,"length_m":5,"head_lean_deg":12,"species":"white-ash","rigged":"line","line_leads":"along"}`,
	"two-line":       `{"a":{"x":0,"y":0,"z":12},"b":{"x":8,"y":1,"z":10},"mass_kg":200,"piece_z":6,"efficiency":0.9}`,
	"drag":           `{"mass_kg":800,"friction":0.6,"slope_deg":8,"lifted":{"length_m":6,"cog_m":2.6,"lift_height_m":1}}`,
	"push":           `{"tree":{"mass_kg":2000,"cog_height_m":7,"cog_forward_m":-0.3},"hinge":{"width_m":0.4,"thickness_m":0.04,"strength_mpa":50},"height_m":4,"limit_kn":20}`,
	"heat":           `{"load_kn":3,"motion":"lowering","points":[{"name":"piece","x":0,"y":0,"z":9},{"name":"fork","x":0,"y":0,"z":14,"friction":0.3},{"name":"bollard","x":1,"y":0,"z":1,"wraps":2,"friction":0.2}],"lowered_m":8,"rope_on_rope":true}`,
	"midline-weight": `{"attach_height_m":10,"anchor_distance_m":18,"line_length_m":20.8,"weight_kg":100}`,
}

// Every kind beyond the contract answers, with its working and its cautions.
func TestKindsBeyondTheContractAnswer(t *testing.T) {
	for name, request := range beyondCases {
		fields := answer(t, name, request)
		if len(fields["working"].([]any)) == 0 || len(fields["cautions"].([]any)) == 0 && name != "rating" && name != "two-line" {
			t.Errorf("%s answers without working or cautions: %v", name, fields)
		}
	}
	if len(beyondCases)+25 != len(kinds) {
		t.Errorf("%d kinds, %d of them beyond the contracts have a request", len(kinds), len(beyondCases))
	}
}
