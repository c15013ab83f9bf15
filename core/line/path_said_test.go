package line

import (
	"math"
	"strings"
	"testing"
)

// What a way of a line cannot be is named where it stands, and nothing else with it.
func TestWaysThatCannotBe(t *testing.T) {
	piece, block := Stop{Name: "piece", Point: Point{Z: 5}}, Stop{Name: "block", Point: Point{Z: 10}, Efficiency: number(0.9)}
	device := Stop{Name: "device", Wraps: number(2), Friction: number(0.2)}
	with := func(s Stop, change func(*Stop)) Stop { change(&s); return s }
	for _, c := range []struct {
		what string
		p    Path
		at   string
	}{
		{"as it should be", path(Lowering, piece, block, device), ""},
		{"straight to the device", path(Lowering, piece, device), ""},
		{"a device that only turns", path(Lowering, piece, block, with(device, func(s *Stop) { s.Wraps, s.Friction = nil, nil })), ""},
		{"no wraps need no friction", path(Lowering, piece, block, with(device, func(s *Stop) { s.Wraps, s.Friction = number(0), nil })), ""},
		{"a bare friction at the device", path(Lowering, piece, block, with(device, func(s *Stop) { s.Wraps = nil })), ""},
		{"a fork", path(Lowering, piece, with(block, func(s *Stop) { s.Efficiency, s.Friction = nil, number(0.4) }), device), ""},
		{"in one place", path(Lowering, piece, with(block, func(s *Stop) { s.Point = piece.Point }), device), "body.points[1]"},
		{"a piece with a sheave", path(Lowering, with(piece, func(s *Stop) { s.Efficiency = number(0.9) }), block, device), "body.points[0]"},
		{"a piece with friction", path(Lowering, with(piece, func(s *Stop) { s.Friction = number(0.4) }), block, device), "body.points[0]"},
		{"a device with a sheave", path(Lowering, piece, block, with(device, func(s *Stop) { s.Efficiency = number(0.9) })), "body.points[2].efficiency"},
		{"wraps without friction", path(Lowering, piece, block, with(device, func(s *Stop) { s.Friction = nil })), "body.points[2].friction"},
		{"a turn of nothing", path(Lowering, piece, with(block, func(s *Stop) { s.Efficiency = nil }), device), "body.points[1].efficiency"},
		{"a turn of both", path(Lowering, piece, with(block, func(s *Stop) { s.Friction = number(0.4) }), device), "body.points[1].efficiency"},
		{"wraps on the way", path(Lowering, piece, with(block, func(s *Stop) { s.Wraps = number(1) }), device), "body.points[1].wraps"},
	} {
		faults := c.p.Faults("body")
		if c.at == "" && len(faults) > 0 || c.at != "" && (len(faults) != 1 || faults[0].Location != c.at) {
			t.Errorf("%s: %v, want one at %q", c.what, faults, c.at)
		}
	}
}

// A line up over a sheave, square round a fork and to the device: every figure by hand, with its working.
func TestAWayByHand(t *testing.T) {
	stops := []Stop{
		{Name: "piece", Point: Point{Z: 4}},
		{Name: "block", Point: Point{Z: 10}, Efficiency: number(0.9)},
		{Name: "fork", Point: Point{X: 3, Z: 10}, Friction: number(0.4)},
		{Name: "device", Point: Point{X: 3}, Wraps: number(1.5), Friction: number(0.2)},
	}
	// Both turns are square: contact 90°. The sheave leaves 1 − 0.1·sin 45°, the fork e^(−0.4·π/2), the device e^(−0.2·3π).
	sheave, fork, wraps := 1-0.1*math.Sqrt(0.5), math.Exp(-0.2*math.Pi), math.Exp(-0.6*math.Pi)
	for motion, want := range map[string][4]float64{ // behind block, behind fork, at the hand, on the block
		Lowering: {3 * sheave, 3 * sheave * fork, 3 * sheave * fork * wraps, 3 * math.Hypot(1, sheave)},
		Lifting:  {3 / sheave, 3 / sheave / fork, 3 / sheave / fork / wraps, 3 * math.Hypot(1, 1/sheave)},
		Still:    {3, 3, 3 * wraps, 3 * math.Sqrt2},
	} {
		p := path(motion, stops...)
		got := solve(p)
		at := map[string]float64{}
		expressions := ""
		for _, step := range p.Working(got) {
			at[step.Symbol] = step.Value
			expressions += step.Expression + "\n"
		}
		for what, pair := range map[string][2]float64{
			"behind the block": {got.Legs[1].TensionKn, want[0]}, "behind the fork": {got.DeviceKn, want[1]}, "hand": {got.HandKn, want[2]},
			"on the block": {got.Points[0].ResultantKn, want[3]}, "over the load": {got.Points[0].Factor, want[3] / 3},
			"length": {got.Legs[2].LengthM, 10}, "ratio of the sheave": {at["ρ1"], sheave}, "of the fork": {at["ρ2"], fork},
			"T1": {at["T1"], 3}, "T2": {at["T2"], want[0]}, "T3": {at["T3"], want[1]}, "F1": {at["F1"], want[3]}, "H": {at["H"], want[2]}, "θ1": {at["θ1"], 90}, "θ2": {at["θ2"], 90},
		} {
			if !(math.Abs(pair[0]-pair[1]) <= 1e-12*math.Max(1, pair[1])) {
				t.Errorf("%s, %s: %g, want %g", motion, what, pair[0], pair[1])
			}
		}
		if !strings.Contains(expressions, "1 − (1 − 0.9)·sin(θ/2)") || !strings.Contains(expressions, "e^(−0.4·θ)") {
			t.Errorf("%s: %s", motion, expressions)
		}
		said := strings.Join(p.Cautions(got), "\n")
		if !strings.Contains(said, "fork: rope over bark") || strings.Contains(said, "block:") || strings.Contains(said, "Still:") != (motion == Still) {
			t.Errorf("%s: %s", motion, said)
		}
	}
}

// Full turns round bark come on top of its bend: e^(μ·(θ + 2π·n)); two places in one name both.
func TestTurnsRoundBark(t *testing.T) {
	p := path(Lowering, Stop{Name: "piece", Point: Point{Z: 4}}, Stop{Name: "stub", Point: Point{Z: 10}, Friction: number(0.3), Turns: 1.5}, Stop{Name: "hand", Point: Point{X: 6, Z: 10}})
	if got, want := solve(p).DeviceKn, 3*math.Exp(-0.3*(math.Pi/2+3*math.Pi)); !(math.Abs(got-want) <= 1e-12) {
		t.Errorf("a turn and a half besides its bend: %v, want %v", got, want)
	}
	p.Points[2].Point = p.Points[1].Point
	if faults := p.Faults("body"); len(faults) != 1 || faults[0].Message != "hand is at the same place as stub" {
		t.Errorf("%v", faults)
	}
	// A rope that runs on as it came loads nothing, and points nowhere.
	straight := solve(path(Still, Stop{Name: "piece"}, Stop{Name: "ring", Point: Point{X: 2}, Friction: number(0.3)}, Stop{Name: "hand", Point: Point{X: 5}}))
	if turn := straight.Points[0]; turn.ResultantKn > 1e-12 || turn.Direction != (Point{}) {
		t.Errorf("straight on: %+v", turn)
	}
}
