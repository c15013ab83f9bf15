package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"elkstay/core/calc"
	"elkstay/core/job"
)

func kindOf(t *testing.T, name string) calc.Kind {
	t.Helper()
	kind, err := calc.Find(name)
	if err != nil {
		t.Fatal(err)
	}
	return kind
}

// A request with more rows than the instrument begins with has a field for each of them.
func TestEveryRowCanBeTyped(t *testing.T) {
	laid, err := LayOut(kindOf(t, "piece"), []byte(`{"wood":{"species":"sycamore"},"stations":[{"at_m":0,"diameter_m":0.5},{"at_m":2,"diameter_m":0.4},{"at_m":4,"diameter_m":0.2}]}`))
	if err != nil {
		t.Fatal(err)
	}
	for _, path := range []string{"stations[2].diameter_m", "stations[2].cavity_m", "wood.species"} {
		if !slices.ContainsFunc(laid.Fields, func(f Field) bool { return f.Path == path }) {
			t.Errorf("no field %s", path)
		}
	}
	if len(laid.Lists) != 1 || laid.Lists[0] != (List{Path: "stations", Label: "station", Rows: 3, Least: 2, Most: mostRows}) {
		t.Errorf("%+v", laid.Lists)
	}
	// A list that may have none begins with a row of its own, and the sum takes it.
	const stem = `{"stations":[{"at_m":0,"diameter_m":0.5},{"at_m":9,"diameter_m":0.4}],"strength_mpa":40,"stiffness_gpa":8,"density_kg_m3":900,"loads":[]`
	for weak, rows := range map[string]int{"": 0, `,"weak":[{"from_m":1,"to_m":2,"keeps_pct":60}]`: 1} {
		laid, err := LayOut(kindOf(t, "spar"), []byte(stem+weak+"}"))
		i := slices.IndexFunc(laid.Lists, func(l List) bool { return l.Path == "weak" })
		if err != nil || i < 0 || laid.Lists[i].Rows != rows || laid.Lists[i].Label != "weak part" {
			t.Fatalf("%v %+v", err, laid.Lists)
		}
		first, _ := json.Marshal(laid.Lists[i].First)
		if _, err := kindOf(t, "spar").Run(context.Background(), []byte(stem+`,"weak":[`+string(first)+"]}")); err != nil {
			t.Errorf("%s: %v", first, err)
		}
	}
	// Words in lists are typed too, and a list that is too long for a screen is typed as far as it goes.
	laid, err = LayOut(kindOf(t, "haul"), []byte(`{"ropes":[{"id":"r","path":["anchor","p","hand"]}],"pulleys":[{"id":"p"}]}`))
	if err != nil || !slices.ContainsFunc(laid.Fields, func(f Field) bool { return f.Path == "ropes[0].path[1]" && !f.Number }) {
		t.Errorf("%v %+v", err, laid)
	}
	long := make([]float64, 5000)
	written, _ := json.Marshal(map[string]any{"t_s": long, "kn": long, "at": "line"})
	laid, err = LayOut(kindOf(t, "trace-read"), written)
	if err != nil || len(laid.Fields) > 2*mostRows+5 {
		t.Errorf("%v, %d fields", err, len(laid.Fields))
	}
	if _, err := LayOut(kindOf(t, "piece"), []byte(`[]`)); err == nil {
		t.Error("a list is no request")
	}
}

func TestASumMakesAJob(t *testing.T) {
	ctx := context.Background()
	log, err := IntoJob(ctx, kindOf(t, "piece"), []byte(`{"wood":{"species":"sycamore"},"stations":[{"at_m":1,"diameter_m":0.5,"cavity_m":0.1},{"at_m":5,"diameter_m":0.3}],"attached":[{"mass_kg":20,"at_m":3}]}`))
	tree := &log.Trees[0]
	if err != nil || *tree.HeightM != 4 || tree.Readings[0] != (job.Reading{AtM: 0, Tape: job.Diameter, TapeM: 0.5, CavityM: 0.1}) || tree.Attached[0].AtM != 2 || tree.Wood.Species != "sycamore" || len(log.Picks) != 0 {
		t.Errorf("%v %+v", err, log.Trees)
	}
	drop, err := IntoJob(ctx, kindOf(t, "drop"), []byte(`{"piece":{"mass_kg":300,"cog_above_cut_m":1,"length_m":2.5},"tie_above_cut_m":0.4,"block_below_cut_m":0.6,"slack_m":0.1,"lead_m":12,
		"rope":{"mbs_kn":80,"elongation":[{"load_pct":10,"strain_pct":1.6}]},"block_efficiency":0.9,"device_hold_kn":7,"energy_lost_pct":12}`))
	r := &drop.Rigs[0]
	if err != nil || r.Rope.BreakingKn != 80 || *r.Tie.AboveM != 0.4 || *r.Block.BelowCutM != 0.6 || *r.SlackM != 0.1 || *r.Block.Efficiency != 0.9 || r.Catch.How != job.ByHold || *r.Catch.HoldKn != 7 || *drop.Picks[0].MassKg != 300 || r.EnergyLostPct == nil || *r.EnergyLostPct != 12 {
		t.Errorf("%v %+v", err, drop)
	}
	if len(drop.Trees[0].Readings) != 0 {
		t.Error("a stem that nobody measured")
	}
	// 9 kN to 0.2 kN at 0.2: ln 45 / 0.4π = 3.03, three and a half turns.
	wraps, err := IntoJob(ctx, kindOf(t, "wraps"), []byte(`{"line_kn":9,"hand_kn":0.2,"friction":0.2}`))
	if err != nil || *wraps.Rigs[0].Device.Wraps != 3.5 || *wraps.Rigs[0].Device.Friction != 0.2 || *wraps.Rigs[0].Catch.HandKn != 0.2 {
		t.Errorf("%v %+v", err, wraps.Rigs[0].Device)
	}
	for _, c := range []struct{ kind, request, want string }{
		{"spar", `{}`, "makes no job"}, {"piece", `{"stations":[]}`, "stations"}, {"wraps", `{"line_kn":900,"hand_kn":900,"friction":0.2}`, "hand_kn"},
	} {
		_, err := IntoJob(ctx, kindOf(t, c.kind), []byte(c.request))
		var problem *calc.Problem
		if !errors.As(err, &problem) || !strings.Contains(fmt.Sprint(problem.Errors), c.want) {
			t.Errorf("%s: %v", c.kind, err)
		}
	}
}
