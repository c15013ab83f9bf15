package ground

import (
	"math"
	"os"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// Two pieces of 3 m and 0.4 m cover 1.2 m² each: a drop zone of 1.5 m² is covered after the second.
func TestADropZoneFills(t *testing.T) {
	j := lot(func(j *job.Job) {
		for i := range j.Picks {
			j.Picks[i].Way, j.Picks[i].Lift = job.WayCrane, nil
		}
	})
	g := lies(t, lot(nil))
	if len(g.Zones) != 1 || len(g.Zones[0].After) != 2 || g.Zones[0].Full != 0 {
		t.Fatalf("%+v", g.Zones)
	}
	near(t, "the first covers", g.Zones[0].After[0].CoversM2, 1.2)
	near(t, "both weigh", g.Zones[0].After[1].Kg, perMetre*5.9)
	near(t, "the lawn", g.Zones[0].AreaM2, 18*21)
	if g := lies(t, j); len(g.Zones) != 0 || !strings.Contains(g.Pieces[0].Where, "not known") {
		t.Errorf("put down nobody knows where: %+v %s", g.Zones, g.Pieces[0].Where)
	}
	filled := zoneOf(&assess.Heap{Zone: "lawn", AreaM2: 2, Full: 9, After: []assess.Heaped{{Number: 4, Pieces: 1, Kg: 700, CoversM2: 1.5}, {Number: 9, Pieces: 14, Kg: 1900, CoversM2: 2.5}}}, units.Metric)
	if !strings.HasPrefix(filled.Said, "After pick 9 it holds 1,900 kg in 14 pieces and is covered: clear it.") || !strings.HasSuffix(filled.Said, "they cover 125 % of it.") {
		t.Error(filled.Said)
	}
}

// What is sawn and chipped is what came down, of every piece of the demo, and no log is thinner than
// what goes to chips.
func TestNothingIsLostInSawing(t *testing.T) {
	for _, name := range []string{"tern-quay", "mill-fold", "reed-lock"} {
		data, err := os.ReadFile("../../demo/" + name + ".json")
		if err != nil {
			t.Fatal(err)
		}
		j, err := job.ReadJob(data)
		if err != nil {
			t.Fatal(err)
		}
		a := assess.Assess(&j, assess.Options{Units: units.Metric})
		g := lies(t, j)
		if len(g.Pieces) != len(j.Picks) {
			t.Errorf("%s: %d pieces of %d picks", name, len(g.Pieces), len(j.Picks))
		}
		for i := range g.Pieces {
			p := &g.Pieces[i]
			near(t, name+" "+p.Title, p.LogsKg.Likely+p.ChipsKg.Likely, a.Picks[i].MassKg.Likely)
			near(t, name+" "+p.Title+" heavy", p.LogsKg.High+p.ChipsKg.High, a.Picks[i].MassKg.High)
			for _, part := range p.Parts {
				at := 0.0
				for _, log := range part.Logs {
					if log.FromM < at-1e-9 || log.ToM > part.LengthM+1e-9 || max(log.ThinM, log.DiameterM) < 0.1-1e-9 {
						t.Errorf("%s %s: %+v after %g", name, p.Title, log, at)
					}
					at = log.ToM
				}
			}
		}
	}
}

// What a vehicle's winch, capstan or machine gives is its winch's; a vehicle without one gives nothing that is known, whatever
// its wheels grip, and so does a capstan that stands alone.
func TestWhatPullsAWay(t *testing.T) {
	for _, c := range []struct {
		by, truck string
		gives     float64 // kN; 0: not known
		known     bool
	}{
		{job.EffortWinch, "t", 2, true}, {job.EffortCapstan, "t", 2, true}, {job.EffortMachine, "t", 2, true}, {job.EffortVehicle, "t", 5000 * 9.80665e-3 * 0.35 * 0.5, true},
		{job.EffortWinch, "bare", 0, false}, {job.EffortCapstan, "bare", 0, false}, {job.EffortMachine, "bare", 0, false},
		{job.EffortCapstan, "", 0, false}, {job.EffortVehicle, "", 0, false}, {job.EffortHands, "t", 0.4, true}, {"", "", 0.4, true},
	} {
		g := lies(t, lot(func(j *job.Job) {
			j.Limits.HandKn = of(0.4)
			j.Ground = &job.Ground{Trucks: []job.Truck{{ID: "t", Name: "truck", MassKg: of(5000.0), WinchKn: of(2.0)}, {ID: "bare", Name: "bare", MassKg: of(5000.0)}},
				Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{Y: 10}, By: c.by, Truck: c.truck}}}
		}))
		gives := g.Moves[0].GivesKn
		if c.known != (gives != nil) || c.known && !(math.Abs(*gives-c.gives) <= 1e-9) {
			t.Errorf("%q of %q: %v, want %v", c.by, c.truck, gives, c.gives)
		}
		if !c.known && g.Moves[0].Verdict == policy.Within {
			t.Errorf("%q of %q is within what nobody knows", c.by, c.truck)
		}
	}
}

// A slope whose direction nobody gave may lead down any way; one that was given does not, nor does a way that was measured.
func TestASlopeThatLeadsAnywhere(t *testing.T) {
	for _, c := range []struct {
		what    string
		change  func(*job.Job)
		degrees float64
	}{
		{"anywhere", func(*job.Job) {}, 25},
		{"across", func(j *job.Job) { j.Site.SlopeTowardsDeg = of(90.0) }, 0},
		{"measured", func(j *job.Job) { j.Ground.Moves[0].Profile = []job.Rise{{OutM: 10, RiseM: 1}} }, 0},
	} {
		g := lies(t, lot(func(j *job.Job) {
			j.Site.SlopeDeg = of(25.0)
			j.Ground = &job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{Y: 20}}}}
			c.change(j)
		}))
		if got := g.Moves[0].Downhill; !(math.Abs(got-c.degrees) <= 1e-6) {
			t.Errorf("%s: down %v°, want %v", c.what, got, c.degrees)
		}
	}
}

// The order of sawing is given for the log that lies, not for what was its branches.
func TestCutsAreOfTheLog(t *testing.T) {
	g := lies(t, lot(nil))
	if part := g.Pieces[0].Parts[0]; len(part.Cuts) != len(part.Logs)-1 || len(part.Cuts) == 0 {
		t.Errorf("%d logs, %d cuts", len(part.Logs), len(part.Cuts))
	}
}

// Logs are not sawn up to fill a load: three of 654 kg take three loads of a vehicle that carries 1,000 kg, one of 1,300 kg goes on
// none of them; what is light fills what is left. Of what has gone the lightest are taken off.
func TestLogsGoWhole(t *testing.T) {
	with := func(kg ...float64) *Ground {
		g := settings(nil)
		part := Part{}
		for _, one := range kg {
			part.Logs = append(part.Logs, Log{MassKg: wood.Range{Low: 0.8 * one, Likely: 0.9 * one, High: one}})
			g.Away.LogsKg.High += one
			g.Away.StackedM3 += one / 900
		}
		g.Pieces = []Piece{{Parts: []Part{part}}, {Logging: job.Logging{Kept: true}, Parts: []Part{{Logs: []Log{{MassKg: wood.Range{High: 5000}}}}}}}
		return g
	}
	truck := job.Truck{ID: "t", Name: "t", PayloadKg: of(1000.0), VolumeM3: of(9.0)}
	for _, c := range []struct {
		kg   []float64
		want int
	}{{[]float64{654, 654, 654}, 3}, {[]float64{654, 346, 654, 346}, 2}, {[]float64{500, 500, 500}, 2}, {[]float64{100, 100, 100, 100}, 1}, {[]float64{1000, 999}, 2}} {
		if got := with(c.kg...).loads(&truck, units.Metric); got.Logs == nil || *got.Logs != c.want || *got.LogsLeft != c.want {
			t.Errorf("%v: %+v", c.kg, got)
		}
	}
	if got := with(1300, 200).loads(&truck, units.Metric); got.Logs != nil || got.LogsLeft != nil || !strings.Contains(strings.Join(got.Cautions, " "), "The heaviest log may weigh 1,300 kg") {
		t.Errorf("too heavy a log: %+v", got)
	}
	gone := with(654, 654, 100, 100)
	gone.Away.GoneLogs = 180 // both of the light ones
	if got := gone.loads(&truck, units.Metric); *got.LogsLeft != 2 {
		t.Errorf("two of 654 kg are left: %+v", got)
	}
	// With room for little the room counts.
	small := truck
	small.VolumeM3 = of(0.5)
	if got := with(500, 500, 500).loads(&small, units.Metric); *got.Logs != 4 || got.LogsBy != "room" {
		t.Errorf("%+v", got)
	}
}
