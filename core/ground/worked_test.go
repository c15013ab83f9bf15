package ground

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// A way begins anywhere on the site: what counts is from there to where it goes.
func TestGroundFromAnyPlace(t *testing.T) {
	// From (3, 4) to (9, 12): 10 m, to the north-east by atan2(6, 8).
	move := job.Move{From: job.Spot{X: 3, Y: 4}, To: job.Spot{X: 9, Y: 12}}
	heading := math.Atan2(6, 8) * 180 / math.Pi
	for _, c := range []struct{ towards, up float64 }{{heading, -20}, {heading + 180, 20}, {heading + 90, 0}} {
		length, up, down := groundOf(site(of(20.0), &c.towards), &move)
		near(t, "length", length, 10/math.Cos(math.Abs(c.up)*math.Pi/180))
		near(t, "up", up, c.up)
		near(t, "down", down, math.Max(0, -c.up))
	}
	// Half aside of the fall it rises by the cosine: tan = tan 20°·cos 60°.
	aside := heading + 120
	_, up, _ := groundOf(site(of(20.0), &aside), &move)
	near(t, "aside", up, math.Atan(math.Tan(20*math.Pi/180)*0.5)*180/math.Pi)
	// 1 m up where it begins, 3 m at 4 m, 8 m at 15 m: at its end of 10 m, 3 + 5·6/11.
	move.Profile = []job.Rise{{OutM: 0, RiseM: 1}, {OutM: 4, RiseM: 3}, {OutM: 15, RiseM: 8}}
	end := 3 + 5*6.0/11
	length, up, down := groundOf(site(nil, nil), &move)
	near(t, "by a profile", length, math.Hypot(4, 2)+math.Hypot(6, end-3))
	near(t, "its steepest", up, math.Atan(0.5)*180/math.Pi)
	near(t, "nowhere down", down, 0)
	// A place right at its end is its end.
	move.Profile = []job.Rise{{OutM: 10, RiseM: 5}, {OutM: 20, RiseM: -50}}
	length, up, _ = groundOf(site(nil, nil), &move)
	near(t, "to a place at its end", length, math.Hypot(10, 5))
	near(t, "as steep as that", up, math.Atan(0.5)*180/math.Pi)
}

// The balance of a log, from its thin end, against thin slices.
func TestWhereALogBalances(t *testing.T) {
	for _, l := range []Log{{LengthM: 4, DiameterM: 0.6, ThinM: 0.3}, {LengthM: 3, DiameterM: 0.2, ThinM: 0.5}, {LengthM: 2, DiameterM: 0.4, ThinM: 0.4}} {
		mass, moment := 0.0, 0.0
		thin, thick := math.Min(l.DiameterM, l.ThinM), math.Max(l.DiameterM, l.ThinM)
		for k := range 20000 {
			x := (float64(k) + 0.5) / 20000
			d := thin + (thick-thin)*x
			mass += d * d
			moment += d * d * x * l.LengthM
		}
		if got, want := heavyEnd(&l), moment/mass; !(math.Abs(got-want) <= 1e-6) {
			t.Errorf("%+v balances at %v m, by slices %v", l, got, want)
		}
	}
}

// The heaviest logs go first, whatever their order on the stem; a log's ends are those of the stem
// where it is sawn.
func TestTheHeaviestGoFirst(t *testing.T) {
	g := settings(nil)
	cone := &space.Member{Title: "stem", Stem: timber.Stem{Stations: []timber.Station{{DiameterM: 0.5}, {AtM: 8, DiameterM: 0.3}}}, Kg: 900}
	p := g.part(cone, &job.Logging{By: "length", LengthsM: []float64{3, 2}}, ends)
	for i, log := range p.Logs {
		near(t, "its thick end", log.DiameterM, 0.5-0.2*log.FromM/8)
		near(t, "its thin end", log.ThinM, 0.5-0.2*log.ToM/8)
		if i > 0 && log.FromM <= p.Logs[i-1].ToM {
			t.Errorf("log %d begins at %v", i, log.FromM)
		}
	}
	// Put first what grows on top.
	p.Logs[0], p.Logs[len(p.Logs)-1] = p.Logs[len(p.Logs)-1], p.Logs[0]
	g.Pieces = []Piece{{ID: "a", Parts: []Part{p}}}
	list := g.along(&job.Move{})
	for i := 1; i < len(list); i++ {
		if list[i].kg > list[i-1].kg {
			t.Errorf("%v kg goes after %v", list[i].kg, list[i-1].kg)
		}
	}
	if len(list) != len(p.Logs) || list[0].kg == list[len(list)-1].kg {
		t.Errorf("%d logs of %d, %v", len(list), len(p.Logs), list)
	}
}

// What holds a log back is wound on the device of the rig that goes along, or of the first; the
// block that lifts a nose holds both legs of the line, what the line is made fast to the pull and
// what pulls.
func TestWhatHoldsAWay(t *testing.T) {
	way := func(rig string) MoveFigures {
		return lies(t, lot(func(j *job.Job) {
			second := j.Rigs[0]
			second.ID, second.Name = "r2", "second"
			j.Rigs[0].Device.Friction, second.Device.Friction = of(0.1), of(0.35)
			j.Rigs = append(j.Rigs, second)
			j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = of(35.0), of(0.0)
			j.Site.Anchors = []job.Anchor{{ID: "post", Name: "post", Kind: job.AnchorGround, Rating: gear.Rating{MarkedKn: of(50.0)}}, {ID: "high", Name: "high block", Kind: job.AnchorGround, Rating: gear.Rating{MarkedKn: of(40.0)}}}
			j.Ground = &job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{Y: 10}, Rig: rig}, {ID: "n", Name: "n", From: job.Spot{Y: 10}, To: job.Spot{}, Rig: rig, By: job.EffortWinch, EffortKn: of(9.0), Parts: of(3), Anchor: "post", Block: "high", LiftM: of(0.3)}}}
		})).Moves[0]
	}
	for rig, friction := range map[string]float64{"": 0.1, "r1": 0.1, "r2": 0.35} {
		m := way(rig)
		if hand := line.HandFor(m.HoldKn, m.HoldWraps, friction*line.LowerFriction); hand > assessHand {
			t.Errorf("by rig %q %v turns leave %v kN", rig, m.HoldWraps, hand)
		}
		if less := line.HandFor(m.HoldKn, m.HoldWraps-0.5, friction*line.LowerFriction); less <= assessHand {
			t.Errorf("by rig %q half a turn less than %v would do: %v kN", rig, m.HoldWraps, less)
		}
	}
	up := lies(t, lot(func(j *job.Job) {
		j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = of(20.0), of(0.0)
		j.Site.Anchors = []job.Anchor{{ID: "post", Name: "post", Kind: job.AnchorGround, Rating: gear.Rating{MarkedKn: of(50.0)}}, {ID: "high", Name: "high block", Kind: job.AnchorGround, Rating: gear.Rating{MarkedKn: of(40.0)}}}
		j.Ground = &job.Ground{Moves: []job.Move{{ID: "n", Name: "n", From: job.Spot{Y: 10}, To: job.Spot{}, By: job.EffortWinch, EffortKn: of(9.0), Parts: of(3), Anchor: "post", Block: "high", LiftM: of(0.3)}}}
	})).Moves[0]
	said := strings.Join(up.Cautions, " ")
	// The winch may pull 9 kN through three parts of pulleys at 0.9, which is more than the log takes.
	most := 9 * (1 + 0.9 + 0.81)
	for _, part := range []string{"post: " + units.Print(units.Force, units.Metric, most+9) + " of 50.0 kN", "high block: " + units.Print(units.Force, units.Metric, 2*most) + " of 40.0 kN"} {
		if !strings.Contains(said, part) {
			t.Errorf("%q is not in %s", part, said)
		}
	}
	if !strings.Contains(up.Said, "through 3 parts") || !strings.Contains(up.Said, "the hand winch: 9.0 kN") {
		t.Error(up.Said)
	}
	plain := lies(t, lot(func(j *job.Job) {
		j.Ground = &job.Ground{Moves: []job.Move{{ID: "n", Name: "n", To: job.Spot{Y: 10}, By: job.EffortMachine}}}
	})).Moves[0]
	if strings.Contains(plain.Said, "parts") || !strings.Contains(plain.Said, "what pulls is not known") || plain.HoldKn != 0 || plain.HoldWraps != 0 {
		t.Errorf("%+v", plain)
	}
}

// assessHand is what one person holds by default, kN (common practice, no source).
const assessHand = 0.25

// What must be read with the ground stands there when it has a cause, and only then.
func TestWhatIsSaidOfTheGround(t *testing.T) {
	said := func(change func(*job.Ground)) string {
		j := lot(func(j *job.Job) {
			j.Ground = &job.Ground{Logs: []job.Logging{{ID: "a", LengthsM: []float64{1}}, {ID: "b", LengthsM: []float64{1}}}}
			change(j.Ground)
		})
		g := lies(t, j)
		return strings.Join(g.Cautions, " ")
	}
	// Each log of a metre weighs 113 kg: beyond 40 kg by hand.
	still := said(func(*job.Ground) {})
	if strings.Contains(still, "catches on a root") || !strings.Contains(still, "6 logs can be lifted neither") || strings.Contains(still, "Only the first") {
		t.Error(still)
	}
	machine := said(func(g *job.Ground) {
		g.MachineKg = of(200.0)
		g.Moves = []job.Move{{ID: "m", Name: "m", To: job.Spot{Y: 9}}}
	})
	if !strings.Contains(machine, "catches on a root") || strings.Contains(machine, "lifted neither") {
		t.Error(machine)
	}
	// As many logs as are worked out, and one more.
	g := settings(nil)
	g.sawn = mostLogs - 2
	p := g.part(pole(), &job.Logging{By: "length", LengthsM: []float64{2.4}}, ends)
	g.cautions()
	if len(p.Logs) != 2 || !strings.Contains(strings.Join(g.Cautions, " "), "Only the first") {
		t.Errorf("%d logs, %v", len(p.Logs), g.Cautions)
	}
	g = settings(nil)
	g.sawn = mostLogs - 3
	p = g.part(pole(), &job.Logging{By: "length", LengthsM: []float64{2.4}}, ends)
	g.cautions()
	if len(p.Logs) != 3 || strings.Contains(strings.Join(g.Cautions, " "), "Only the first") {
		t.Errorf("%d logs, %v", len(p.Logs), g.Cautions)
	}
}

// Loads on their bounds: whole loads, weight and room alike, a body that is just full, a bed that is
// just long enough; what has gone is said when something has.
func TestLoadsOnTheirBounds(t *testing.T) {
	for _, c := range []struct {
		kg, m3, payload, room float64
		loads                 int
		by                    string
	}{{400, 1, 200, 1, 2, "weight"}, {400, 2, 200, 1, 2, "weight"}, {400, 2.001, 200, 1, 3, "room"}, {401, 1, 200, 1, 3, "weight"}, {0, 0, 200, 1, 0, "weight"}} {
		if n, by := fills(c.kg, c.m3, &job.Truck{PayloadKg: &c.payload, VolumeM3: &c.room}); *n != c.loads || by != c.by {
			t.Errorf("%+v: %d loads by %s", c, *n, by)
		}
	}
	g := settings(nil)
	g.Away.LogsKg.High, g.Away.StackedM3, g.Away.GoneLogs = 1000, 4, 250
	g.Away.ChipsKg.High, g.Away.ChipsM3, g.Away.GoneChips = 600, 3, 150
	both := g.loads(&job.Truck{ID: "t", Name: "t", PayloadKg: of(250.0), VolumeM3: of(50.0)}, units.Metric)
	if *both.Logs != 4 || *both.LogsLeft != 3 || *both.Chips != 3 || *both.ChipsLeft != 2 || both.Said != "4 loads of logs, full by weight; 3 loads of chips, full by weight." {
		t.Errorf("%+v", both)
	}
	byRoom := g.loads(&job.Truck{ID: "t", Name: "t", PayloadKg: of(9000.0), VolumeM3: of(1.0)}, units.Metric)
	if *byRoom.LogsLeft != 3 || *byRoom.ChipsLeft != 3 || byRoom.LogsBy != "room" {
		t.Errorf("%+v", byRoom)
	}
	// 300 kg/m³ of chips: 2 m³ are just what it carries.
	g.Settings.Gone = []job.Gone{{ID: "g", Truck: "t", What: job.TakesChips, Kg: 120}, {ID: "h", Truck: "another", What: job.TakesChips, Kg: 70}}
	full := g.loads(&job.Truck{ID: "t", Name: "t", Takes: job.TakesChips, PayloadKg: of(600.0), VolumeM3: of(2.0)}, units.Metric)
	if len(full.Cautions) != 0 || full.Said != "2 loads of chips, full by room. It has taken 120 kg." || full.Logs != nil {
		t.Errorf("%+v", full)
	}
	g.Pieces = []Piece{{Parts: []Part{{Logs: []Log{{LengthM: 2.4}, {LengthM: 2.41}}}}}, {Logging: job.Logging{Kept: true}, Parts: []Part{{Logs: []Log{{LengthM: 5}}}}}}
	for bed, want := range map[float64]string{2.39: "2 logs are longer", 2.4: "1 log is longer", 2.41: ""} {
		got := strings.Join(g.loads(&job.Truck{ID: "t", Name: "t", PayloadKg: of(1.0), VolumeM3: of(1.0), Takes: job.TakesLogs, BedM: &bed}, units.Metric).Cautions, " ")
		if want == "" && got != "" || !strings.Contains(got, want) {
			t.Errorf("a bed of %v m: %q, want %q", bed, got, want)
		}
	}
}

// Light, likely and heavy ends are summed each on its own: by volume times each density. What stays
// is not in what goes; what has gone is said as one.
func TestEndsAreSummedEachOnItsOwn(t *testing.T) {
	j := lot(func(j *job.Job) {
		j.Trees[0].Wood = wood.Wood{Density: &wood.Range{Low: 800, Likely: 900, High: 1000}}
		j.Ground = &job.Ground{LeastM: of(0.2), Logs: []job.Logging{{ID: "a", LengthsM: []float64{1}}, {ID: "b", LengthsM: []float64{1}, Kept: true}},
			Trucks: []job.Truck{{ID: "t", Name: "t", Gone: []job.Gone{{ID: "g", What: job.TakesLogs, Kg: 120}, {ID: "h", What: job.TakesChips, Kg: 30}}}}}
	})
	g := lies(t, j)
	// Of the first, 3 m, two logs of a metre and what is left; of the second, 2.9 m, likewise. Two saw
	// cuts of a centimetre each go to chips.
	goes, stays := 2.98*math.Pi/4*0.16, 2.88*math.Pi/4*0.16
	for i, density := range [3]float64{800, 900, 1000} {
		end := func(r wood.Range) float64 { return [3]float64{r.Low, r.Likely, r.High}[i] }
		near(t, "to go", end(g.Away.LogsKg), density*goes)
		near(t, "to stay", end(g.Away.KeptKg), density*stays)
		near(t, "a piece's logs", end(g.Pieces[0].LogsKg), density*goes)
		near(t, "its first log", end(g.Pieces[0].Parts[0].Logs[0].MassKg), density*math.Pi/4*0.16)
	}
	near(t, "solid", g.Away.LogsM3, goes)
	if want := "6 logs: 337 kg to go, 326 kg to stay; "; !strings.HasPrefix(g.Said, want) || !strings.HasSuffix(g.Said, "Gone: 150 kg.") {
		t.Errorf("%q, want %q", g.Said, want)
	}
	if want := "3 logs, 337 kg, the heaviest up to 126 kg"; !strings.HasPrefix(g.Pieces[0].Said, want) {
		t.Errorf("%q, want %q", g.Pieces[0].Said, want)
	}
	half := zoneOf(&assess.Heap{Zone: "lawn", AreaM2: 4, After: []assess.Heaped{{Number: 1, Pieces: 2, Kg: 700, CoversM2: 1}}}, units.Metric)
	if half.Said != "2 pieces, 700 kg in all: they cover 25 % of it." {
		t.Error(half.Said)
	}
}

// A piece is said by its logs, its chips, or that there is nothing of it.
func TestAPieceIsSaid(t *testing.T) {
	kg := func(likely float64) wood.Range { return wood.Range{Low: likely, Likely: likely, High: 1.2 * likely} }
	log := Log{MassKg: kg(50)}
	for want, p := range map[string]Piece{
		"Nothing to speak of.":                                              {ChipsM3: 0.049, ChipsKg: kg(14)},
		"All of it goes to chips: 0.05 m³ of chips, 15 kg.":                 {ChipsM3: 0.05, ChipsKg: kg(15)},
		"1 log, 50 kg, the heaviest up to 60 kg.":                           {ChipsM3: 0.01, ChipsKg: kg(3), LogsKg: kg(50), Parts: []Part{{Logs: []Log{log}}}},
		"2 logs, 90 kg, the heaviest up to 60 kg; 0.30 m³ of chips, 90 kg.": {ChipsM3: 0.3, ChipsKg: kg(90), LogsKg: kg(90), Parts: []Part{{Logs: []Log{{MassKg: kg(40)}}}, {Logs: []Log{log}}}},
	} {
		if got := p.said(units.Metric); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
