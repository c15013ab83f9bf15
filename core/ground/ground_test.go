package ground

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/cut"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

func of[T any](v T) *T { return &v }

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if !(math.Abs(got-want) <= 1e-6*math.Max(1, math.Abs(want))) {
		t.Errorf("%s: %.9g, want %.9g", what, got, want)
	}
}

// pole is a log of even thickness, 6 m long: 100 kg a metre.
func pole() *space.Member {
	return &space.Member{Title: "stem", Stem: timber.Stem{Stations: []timber.Station{{DiameterM: 0.4}, {AtM: 6, DiameterM: 0.4}}}, Kg: 600}
}

func settings(change func(*job.Ground)) *Ground {
	document := job.NewJob("ground")
	document.Ground = &job.Ground{}
	if change != nil {
		change(document.Ground)
	}
	return &Ground{Settings: document.OnGround()}
}

// At its heavy end the wood weighs a tenth more, at its light end a fifth less.
var ends = wood.Range{Low: 0.8, Likely: 1, High: 1.1}

func lengths(p Part) (list []float64) {
	for _, log := range p.Logs {
		list = append(list, math.Round(1e6*log.LengthM)/1e6)
	}
	return list
}

// Worked by hand for a pole of 6 m and 100 kg/m, a kerf of 1 cm.
func TestLogsByLengthAndByWeight(t *testing.T) {
	machine := func(g *job.Ground) { g.MachineKg = of(132.0) }
	truck := func(g *job.Ground) {
		g.Trucks = []job.Truck{{ID: "a", BedM: of(2.0), PayloadKg: of(900.0)}, {ID: "b", BedM: of(3.5), PayloadKg: of(165.0)}, {ID: "c", BedM: of(0.5), Takes: job.TakesChips}}
	}
	for _, c := range []struct {
		what   string
		set    func(*job.Ground)
		l      job.Logging
		want   []float64
		short  bool // the last one
		lifted string
	}{
		{"2.4 as often as it goes, then what is left", nil, job.Logging{By: "length", LengthsM: []float64{2.4}}, []float64{2.4, 2.4, 1.18}, true, liftsNeither},
		{"the next length where the first does not go", nil, job.Logging{By: "length", LengthsM: []float64{2.5, 0.9}}, []float64{2.5, 2.5, 0.9}, false, liftsNeither},
		// 40 kg by hand over 110 kg/m at the heavy end is 0.3636 m: 0.35 in steps of 5 cm. 16 of
		// them and their cuts take 5.76 m; the 0.24 m left is shorter than a disc is sawn.
		{"by hand", nil, job.Logging{By: "hand", LengthsM: []float64{2.4}}, []float64{0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35, 0.35}, false, liftsHand},
		// 132/110 = 1.2 m.
		{"by machine", machine, job.Logging{By: "machine", LengthsM: []float64{2.4}}, []float64{1.2, 1.2, 1.2, 1.2, 1.16}, false, liftsMachine},
		{"by machine, none longer than asked", machine, job.Logging{By: "machine", LengthsM: []float64{1}}, []float64{1, 1, 1, 1, 1, 0.95}, false, liftsMachine},
		// The shortest bed of those for logs, and 165/110 = 1.5 m by the lightest payload.
		{"by truck, one bed not said", func(g *job.Ground) {
			g.Trucks = []job.Truck{{ID: "a", PayloadKg: of(900.0)}, {ID: "b", BedM: of(2.0)}}
		}, job.Logging{By: "truck", LengthsM: []float64{9}}, []float64{2, 2, 1.98}, false, liftsNeither},
		{"by truck", truck, job.Logging{By: "truck", LengthsM: []float64{9}}, []float64{1.5, 1.5, 1.5, 1.47}, false, liftsNeither},
	} {
		g := settings(c.set)
		p := g.part(pole(), &c.l, ends)
		if got := lengths(p); fmt.Sprint(got) != fmt.Sprint(c.want) {
			t.Errorf("%s: %v, want %v", c.what, got, c.want)
			continue
		}
		last := p.Logs[len(p.Logs)-1]
		near(t, c.what+": mass", last.MassKg.Likely, 100*last.LengthM)
		near(t, c.what+": heavy end", last.MassKg.High, 110*last.LengthM)
		near(t, c.what+": volume", last.VolumeM3, math.Pi/4*0.16*last.LengthM)
		if last.Lifted != c.lifted || last.Short != c.short && c.l.By == "length" {
			t.Errorf("%s: lifted %s, short %v", c.what, last.Lifted, last.Short)
		}
	}
}

// A cone from 0.4 m to nothing is a tenth of a metre through at three quarters of its length.
func TestThinWoodGoesToChips(t *testing.T) {
	cone := timber.Stem{Stations: []timber.Station{{DiameterM: 0.4}, {AtM: 8, DiameterM: 0}}}
	near(t, "cone", thickTo(&cone, 0.1), 6)
	near(t, "all of it thick", thickTo(&cone, 1e-9), 8*(1-2.5e-9))
	near(t, "none of it", thickTo(&cone, 0.5), 0)
	swelling := timber.Stem{Stations: []timber.Station{{DiameterM: 0.05}, {AtM: 2, DiameterM: 0.3}, {AtM: 4, DiameterM: 0.05}}}
	near(t, "it swells: to beyond its thickest", thickTo(&swelling, 0.1), 3.6)
}

// Statics by hand on a pole of w = 110 kg/m at the heavy end. On supports at 1 and 5 m of 6 m each
// carries 3w. Cut at 3 m: 3w·2 − 3w·1.5 = 1.5w, sagging: the top is pressed. Cut at 0.5 m, beyond
// the first support: −0.125w, the bottom is pressed.
func TestSawAsItLies(t *testing.T) {
	l := job.Logging{SupportsM: []float64{1, 5}}
	middle := sawn(pole(), &l, 3, 6, 110/(math.Pi/4*0.16), units.Metric)
	if middle.Begin != "top" || middle.Left == nil || middle.Left.Does != cut.Tips || middle.Right.Does != cut.Tips {
		t.Errorf("middle: %+v", middle)
	}
	near(t, "left of the middle", middle.Left.MassKg, 330)
	near(t, "balance of what is right", middle.Right.CogM, 4.5)
	beyond := sawn(pole(), &l, 0.5, 6, 110/(math.Pi/4*0.16), units.Metric)
	if beyond.Begin != "bottom" || beyond.Left.Does != cut.Drops || beyond.Right.Does != cut.Stays {
		t.Errorf("beyond the support: %+v", beyond)
	}
	// What is off already hangs on it no more: at 5.5 m of 6, then at 3 m of 5.5.
	after := sawn(pole(), &l, 3, 5.5, 110/(math.Pi/4*0.16), units.Metric)
	near(t, "right of it", after.Right.MassKg, 275)
	flat, unknown := sawn(pole(), &job.Logging{Flat: true}, 3, 6, 1, units.Metric), sawn(pole(), &job.Logging{}, 3, 6, 1, units.Metric)
	if !strings.Contains(flat.Said, "roll it") || flat.Begin != "" || !strings.Contains(unknown.Said, "say what carries it") || unknown.Begin != "" {
		t.Errorf("%s %s", flat.Said, unknown.Said)
	}
	// From the thin end on; once it has moved nobody knows any more what carries it.
	g := settings(nil)
	p := g.part(pole(), &job.Logging{By: "length", LengthsM: []float64{1.4}}, ends)
	cuts := g.saw(pole(), &p, &l, ends, units.Metric)
	// At the heavy end: 110 kg/m up to the first cut, at 5.63 m.
	near(t, "the butt of the first cut", cuts[0].Left.MassKg, 110*5.63)
	if len(cuts) != 4 || cuts[0].Left == nil || cuts[0].Left.Does != cut.Stays || cuts[1].Left == nil || cuts[1].Left.Does != cut.Tips || !strings.Contains(cuts[2].Said, "it has moved") || cuts[1].AtM >= cuts[0].AtM {
		t.Errorf("%+v", cuts)
	}
}

func site(slope, towards *float64) *job.Site {
	return &job.Site{SlopeDeg: slope, SlopeTowardsDeg: towards}
}

func TestGroundOfAWay(t *testing.T) {
	north := job.Move{To: job.Spot{Y: 10}}
	east := job.Move{To: job.Spot{X: 10}}
	profile := job.Move{To: job.Spot{Y: 10}, Profile: []job.Rise{{OutM: 4, RiseM: 3}, {OutM: 8, RiseM: 0}}}
	for _, c := range []struct {
		what             string
		site             *job.Site
		move             job.Move
		length, up, down float64
	}{
		{"level", site(nil, nil), north, 10, 0, 0},
		{"the slope falls to the north", site(of(20.0), of(0.0)), north, 10 / math.Cos(20*math.Pi/180), -20, 20},
		{"the slope falls to the south", site(of(20.0), of(180.0)), north, 10 / math.Cos(20*math.Pi/180), 20, 0},
		{"across the slope", site(of(20.0), of(0.0)), east, 10, 0, 0},
		{"nobody has said which way it falls", site(of(20.0), nil), east, 10 / math.Cos(20*math.Pi/180), 20, 0},
		// A place at 15 m, 6 m up, lies beyond the end at 10 m, which is 4 m up.
		{"a place beyond its end", site(nil, nil), job.Move{To: job.Spot{Y: 10}, Profile: []job.Rise{{OutM: 15, RiseM: 6}}}, math.Hypot(10, 4), math.Atan(0.4) * 180 / math.Pi, 0},
		// 4 m out and 3 m up, 4 m out and 3 m down, and as steeply on: steeper than the site.
		{"by a profile", site(of(20.0), of(0.0)), profile, 12.5, math.Atan(0.75) * 180 / math.Pi, math.Atan(0.75) * 180 / math.Pi},
		// 4 m out, 0.5 m down; beyond that nobody measured, and the site rises.
		{"a profile that ends on a slope", site(of(20.0), of(180.0)), job.Move{To: job.Spot{Y: 10}, Profile: []job.Rise{{OutM: 4, RiseM: -0.5}}},
			math.Hypot(4, 0.5) + 6/math.Cos(20*math.Pi/180), 20, math.Atan(0.125) * 180 / math.Pi},
	} {
		length, up, down := groundOf(c.site, &c.move)
		near(t, c.what+": length", length, c.length)
		if !(math.Abs(up-c.up) <= 1e-9) || !(math.Abs(down-c.down) <= 1e-9) {
			t.Errorf("%s: up %g, down %g; want %g, %g", c.what, up, down, c.up, c.down)
		}
	}
}

// lot is a bare stem of 0.4 m, 900 kg/m³, taken down in two lengths of 3 m beside a drop zone.
func lot(change func(*job.Job)) job.Job {
	j := job.NewJob("lot")
	tree := &j.Trees[0]
	tree.Wood = wood.Wood{Density: &wood.Range{Low: 900, Likely: 900, High: 900}}
	tree.HeightM = of(6.0)
	tree.TopDiameterM = of(0.4)
	tree.Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: 0.4}, {AtM: 6, Tape: job.Diameter, TapeM: 0.4}}
	j.Rigs[0].Rope, j.Rigs[0].RopeLengthM = &gear.NamedRope{Name: "drag line", MarkedKn: of(15.0), Rope: gear.Rope{BreakingKn: 80}}, of(60.0)
	j.Site.Zones = []job.Zone{{ID: "z", Name: "lawn", Outline: []job.Spot{{X: -9, Y: -9}, {X: 9, Y: -9}, {X: 9, Y: 12}, {X: -9, Y: 12}}}}
	j.Picks = []job.Pick{{ID: "a", What: job.WhatStem, CutM: of(3.0), Way: job.WayFree, FallTowardsDeg: of(0.0)}, {ID: "b", What: job.WhatStem, CutM: of(0.1), Way: job.WayFree, FallTowardsDeg: of(0.0)}}
	if change != nil {
		change(&j)
	}
	return j
}

func lies(t *testing.T, j job.Job) Ground {
	t.Helper()
	if faults := j.Faults(); len(faults) > 0 {
		t.Fatal(faults)
	}
	j.NoteFacts() // loads as a document before had them
	g, err := Of(&j, assess.Options{Units: units.Metric})
	if err != nil {
		t.Fatal(err)
	}
	return g
}

// perMetre is what the lot's stem weighs a metre.
const perMetre = 900 * math.Pi / 4 * 0.16

func TestMovingByHand(t *testing.T) {
	g := lies(t, lot(func(j *job.Job) {
		j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = of(30.0), of(0.0)
		j.Site.Anchors = []job.Anchor{{ID: "post", Name: "post", Kind: job.AnchorGround, Rating: gear.Rating{MarkedKn: of(20.0)}}, {ID: "tree", Name: "a tree", Kind: job.AnchorTree}}
		j.Limits.HandKn = of(0.3)
		j.Ground = &job.Ground{Friction: of(0.5), Logs: []job.Logging{{ID: "a", LengthsM: []float64{1.0}}, {ID: "b", LengthsM: []float64{1.0}, Kept: true}}, Moves: []job.Move{
			{ID: "up", Name: "up", From: job.Spot{Y: 20}, To: job.Spot{}, People: of(3), Parts: of(5), Anchor: "post"},
			{ID: "down", Name: "down", To: job.Spot{Y: 20}, Together: of(2), Picks: []string{"a", "b"}},
			{ID: "block", Name: "by a block", From: job.Spot{Y: 20}, To: job.Spot{}, By: job.EffortWinch, EffortKn: of(8.0), Anchor: "tree", LiftM: of(0.5), Block: "post"},
		}}
	}))
	weight := perMetre * units.Gravity / 1000 // of a log of 1 m
	up, down, lifted := g.Moves[0], g.Moves[1], g.Moves[2]
	// Pick a is sawn into two logs of 1 m and one of 0.98; b is kept.
	if up.Logs != 3 || up.Goes != 3 || down.Logs != 6 || down.Goes != 3 {
		t.Errorf("up %d logs in %d goes, down %d in %d", up.Logs, up.Goes, down.Logs, down.Goes)
	}
	near(t, "up the slope", up.PullKn, weight*(0.5*math.Cos(math.Pi/6)+0.5))
	near(t, "three people", *up.GivesKn, 0.9)
	// Five parts with pulleys that lose a tenth each make 1 + 0.9 + 0.81 + 0.729 + 0.6561 of it.
	near(t, "through five parts", up.NeedKn, up.PullKn/4.0951)
	// The post of 20 kN has pull and effort on it; what pulls takes more of what it gives than that.
	near(t, "use", *up.UsePct, 100*up.NeedKn/0.9)
	if !strings.Contains(strings.Join(up.Cautions, " "), fmt.Sprintf("post: %s of 20.0 kN", units.Print(units.Force, units.Metric, up.PullKn*(1+1/4.0951)))) {
		t.Errorf("%v", up.Cautions)
	}
	if up.Verdict != policy.Within {
		t.Errorf("up: %+v", up)
	}
	near(t, "rope", up.RopeM, 5*20/math.Cos(math.Pi/6))
	// Downhill tan 30° is more than what holds it: none is needed to move it, 2 logs slide.
	near(t, "down needs nothing", down.PullKn, 0)
	hold := 2 * weight * (0.5 - 0.3*math.Cos(math.Pi/6))
	near(t, "held back", down.HoldKn, hold)
	// Half turns that leave one person 0.3 kN at three quarters of the friction of the device.
	if hand := line.HandFor(hold, down.HoldWraps, 0.75*job.RigDefaults().Friction); hand > 0.3 || line.HandFor(hold, down.HoldWraps-0.5, 0.75*job.RigDefaults().Friction) <= 0.3 {
		t.Errorf("%g turns leave %g", down.HoldWraps, hand)
	}
	// A tree whose girth nobody gave holds nobody knows what.
	if lifted.Verdict != policy.NotKnown || *lifted.GivesKn != 8 || lifted.PullKn <= weight/2 {
		t.Errorf("%+v", lifted)
	}
	if !strings.Contains(strings.Join(lifted.Cautions, " "), "nor what it holds is given") {
		t.Errorf("%v", lifted.Cautions)
	}
}

// The rope is held to what it takes and to how long it is; without one nothing is known. A lifted nose
// never takes less than what drags it flat until it is up.
func TestTheRopeOfAWay(t *testing.T) {
	way := func(change func(*job.Job), lift *float64) MoveFigures {
		return lies(t, lot(func(j *job.Job) {
			j.Ground = &job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{X: 20}, By: job.EffortWinch, EffortKn: of(5.0), LiftM: lift}}}
			if change != nil {
				change(j)
			}
		})).Moves[0]
	}
	if m := way(nil, nil); m.Verdict != policy.Within {
		t.Errorf("%+v", m)
	}
	// The log takes 2.4 kN; the winch may pull 5.
	thin := way(func(j *job.Job) { j.Rigs[0].Rope.MarkedKn = of(2.0) }, nil)
	near(t, "a thin rope", *thin.UsePct, 100*5.0/2)
	short := way(func(j *job.Job) { j.Rigs[0].RopeLengthM = of(16.0) }, nil)
	if thin.Verdict != policy.Over || short.Verdict != policy.Over || !strings.Contains(strings.Join(short.Cautions, " "), "16.00 m long, the way 20.00 m") {
		t.Errorf("%+v %+v", thin, short)
	}
	near(t, "by its length", *short.UsePct, 125)
	if enough := way(func(j *job.Job) { j.Rigs[0].RopeLengthM = of(20.0) }, nil); strings.Contains(strings.Join(enough.Cautions, " "), "the way") {
		t.Errorf("a rope just as long: %v", enough.Cautions)
	}
	if none := way(func(j *job.Job) { j.Rigs[0].Rope = nil }, nil); none.Verdict != policy.NotKnown {
		t.Errorf("%+v", none)
	}
	if lifted := way(nil, of(0.4)); lifted.PullKn < way(nil, nil).PullKn {
		t.Errorf("lifted %g", lifted.PullKn)
	}
}

// A vehicle pulls with the grip of half its weight, and its winch no more than that grip holds.
func TestMovingByVehicle(t *testing.T) {
	g := lies(t, lot(func(j *job.Job) {
		j.Ground = &job.Ground{Trucks: []job.Truck{{ID: "t", Name: "truck", MassKg: of(2000.0), WinchKn: of(9.0)}, {ID: "u", Name: "no plate"}}, Moves: []job.Move{
			{ID: "1", Name: "by its wheels", To: job.Spot{Y: 10}, By: job.EffortVehicle, Truck: "t"},
			{ID: "2", Name: "by its winch", To: job.Spot{Y: 10}, By: job.EffortWinch, Truck: "t"},
			{ID: "4", Name: "by hand, a truck named before", To: job.Spot{Y: 10}, Truck: "u", EffortKn: of(0.7)},
			{ID: "3", Name: "by what nobody knows", To: job.Spot{Y: 10}, By: job.EffortVehicle, Truck: "u"},
		}}
	}))
	grip := 2000 * units.Gravity / 1000 * 0.35 * 0.5
	near(t, "wheels", *g.Moves[0].GivesKn, grip)
	near(t, "winch", *g.Moves[1].GivesKn, grip)
	near(t, "by hand", *g.Moves[2].GivesKn, 0.7)
	if g.Moves[3].GivesKn != nil || g.Moves[3].Verdict != policy.NotKnown {
		t.Errorf("%+v", g.Moves[3])
	}
	// 2.4 m of it at 0.9 need 2.4·W·0.9.
	need := 2.4 * perMetre * units.Gravity / 1000 * 0.9
	near(t, "need", g.Moves[0].NeedKn, need)
	if want := map[bool]policy.Verdict{true: policy.Within, false: policy.Over}[need/grip < 0.8]; need/grip > 1 && g.Moves[0].Verdict != policy.Over || need/grip < 0.8 && g.Moves[0].Verdict != want {
		t.Errorf("%g of %g: %s", need, grip, g.Moves[0].Verdict)
	}
}

func TestLoadsByWeightAndByRoom(t *testing.T) {
	j := lot(func(j *job.Job) {
		j.Ground = &job.Ground{LeastM: of(0.3), Logs: []job.Logging{{ID: "a", LengthsM: []float64{1.49}}, {ID: "b", LengthsM: []float64{1.49}}}, Trucks: []job.Truck{
			{ID: "light", Name: "light", Takes: job.TakesLogs, PayloadKg: of(200.0), VolumeM3: of(9.0), BedM: of(1.2), Gone: []job.Gone{{ID: "g", What: job.TakesLogs, Kg: 300}}},
			{ID: "small", Name: "small", Takes: job.TakesLogs, PayloadKg: of(5000.0), VolumeM3: of(0.3)},
			{ID: "bare", Name: "bare"},
			{ID: "chips", Name: "chips", Takes: job.TakesChips, PayloadKg: of(1500.0), VolumeM3: of(6.0)},
		}}
	})
	g := lies(t, j)
	// Four logs, 1.49 m of them twice and what is left of 2.9 m: 1.4 m.
	solid := (1.49 + 1.49 + 1.49 + 1.40) * math.Pi / 4 * 0.16
	near(t, "solid", g.Away.LogsM3, solid)
	near(t, "heavy", g.Away.LogsKg.High, 900*solid)
	// 300 kg were one of 158 kg and not quite two: three are left, one a load.
	light, small, bare, chips := g.Trucks[0], g.Trucks[1], g.Trucks[2], g.Trucks[3]
	if *light.Logs != int(math.Ceil(900*solid/200)) || light.LogsBy != "weight" || *light.LogsLeft != 3 || light.GoneKg != 300 || light.Chips != nil {
		t.Errorf("light: %+v", light)
	}
	if *small.Logs != int(math.Ceil(solid/0.6/0.3)) || small.LogsBy != "room" {
		t.Errorf("small: %+v", small)
	}
	if strings.Contains(light.Said, "at least") {
		t.Error(light.Said)
	}
	if bare.Logs != nil || len(bare.Cautions) != 2 {
		t.Errorf("bare: %+v", bare)
	}
	if !strings.Contains(strings.Join(light.Cautions, " "), "4 logs are longer than its bed") {
		t.Errorf("%v", light.Cautions)
	}
	if half := g.loads(&job.Truck{ID: "h", Name: "h", VolumeM3: of(0.3)}, units.Metric); !strings.HasPrefix(half.Said, "at least ") {
		t.Error(half.Said)
	}
	// 6 m³ of chips at 300 kg/m³ are 1,800 kg: more than it may carry.
	near(t, "a body of chips", *chips.ChipsLoadKg, 1800)
	if !strings.Contains(strings.Join(chips.Cautions, " "), "83 % only") {
		t.Errorf("%v", chips.Cautions)
	}
}

func Example() {
	j := lot(nil)
	g, _ := Of(&j, assess.Options{Units: units.Metric})
	fmt.Println(g.Said)
	// Output: 4 logs: 665 kg to go; 0.01 m³ of chips, 2.3 kg.
}
