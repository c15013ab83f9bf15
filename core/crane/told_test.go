package crane

import (
	"errors"
	"math"
	"strings"
	"testing"

	"elkstay/core/intake"
	"elkstay/core/wood"
)

// told is where an error stands and what is allowed there.
func told(err error) string {
	var faults intake.Faults
	if !errors.As(err, &faults) {
		return ""
	}
	return faults[0].Location + ": " + faults[0].Allowed
}

// Every wrong cell is told by where it stands, as a spreadsheet counts, and a value by what it may
// be in the units it was pasted in.
func TestAWrongCellIsToldByItsPlace(t *testing.T) {
	for _, row := range []struct {
		text, lengths, capacity string
		place, says, allowed    string
	}{
		{"m\t20\n6\t5\n8\t=B2", "m", "t", "body.text row 3 column 2", "row 3, column 2 holds a formula", "the value, not the formula"},
		{"m\t20\t24\n6\t5\tx1", "m", "t", "body.text row 2 column 3", `row 2, column 3: "x1" is no capacity`, "a number with a decimal point"},
		{"radius\tboom\tcapacity\n6\t20\t5\n9\tlong\t4", "m", "t", "body.text row 3 column 2", `row 3, column 2: "long" is no boom`, "a number with a decimal point"},
		{"radius\tboom\tcapacity\n6\t20\t5\n9\t4", "m", "t", "body.text row 3", "row 3 has 2 cells, not three", "radius, boom, capacity"},
		{"m\t20\n6\t5\n7\t4\t1\t1", "m", "t", "body.text row 3", "row 3 has 4 cells, the first has 2", "2 cells"},
		// 656 ft are 199.9 m, 657 ft are 200.3: no crane's radius.
		{"ft\t60\n657\t10000\n25\t8000", "ft", "lb", "body.text row 2 column 1", "a radius of 657 cannot be", "more than 0 and at most 656.168"},
		{"ft\t60\n20\t-3\n25\t8000", "ft", "lb", "body.text row 2 column 2", "a capacity of -3 cannot be", "more than 0 and at most 6.61387e+06"},
		{"ft\t985\n20\t100\n25\t80", "ft", "lb", "body.text row 1 column 2", "a boom of 985 cannot be", "more than 0 and at most 984.252"},
	} {
		_, err := (&Pasted{Text: row.text, Lengths: row.lengths, Capacity: row.capacity}).Read()
		if err == nil || !strings.Contains(err.Error(), row.says) {
			t.Errorf("%q: %v, want %q", row.text, err, row.says)
			continue
		}
		if text := told(err); !strings.Contains(text, row.place) || !strings.Contains(text, row.allowed) {
			t.Errorf("%q is told at %q, want %q and %q", row.text, text, row.place, row.allowed)
		}
	}
	// On the bounds themselves it is read.
	for _, text := range []string{"ft\t984\n656\t10000\n", "m\t300\n200\t3000\n"} {
		lengths, capacity := "ft", "lb"
		if text[0] == 'm' {
			lengths, capacity = "m", "t"
		}
		if read, err := (&Pasted{Text: text, Lengths: lengths, Capacity: capacity}).Read(); err != nil || len(read.Rows) != 1 {
			t.Errorf("%q: %v %+v", text, err, read)
		}
	}
	// Booms as a grid's first row rise, within ten times of the first; what does not is a list.
	for text, shape := range map[string]string{
		"6\t20\t24\n8\t3\t2": "grid", "6\t20\t200\n8\t20\t150": "list", "6\t20\t199\n8\t3\t2": "grid", "6\t20\t20\n8\t20\t19": "list",
	} {
		if read, err := (&Pasted{Text: text, Lengths: "m", Capacity: "t"}).Read(); err != nil || read.Shape != shape {
			t.Errorf("%q: %v, read as a %s, want a %s", text, err, read.Shape, shape)
		}
	}
}

// One sling aside of the balance hangs along the piece, at its balance square to it.
func TestTheAngleOfOneSling(t *testing.T) {
	for _, row := range []struct{ at, tilt, angle float64 }{{1.5, 0, 90}, {0.5, 90, 0}, {2.5, -90, 0}} {
		p := Pick{MassKg: wood.Range{Low: 400, Likely: 400, High: 400}, Piece: Piece{LengthM: 3, CogM: 1.5}, RadiusM: 8, BoomM: 20, Slings: []Sling{{Name: "one", AtM: row.at, LengthM: 2, WllKn: 20, Hitch: Choker}}}
		l := p.Solve()
		if l.TiltDeg != row.tilt || l.Slings[0].AngleDeg != row.angle || l.WorstTwo != nil {
			t.Errorf("slung at %v: tilted %v, at %v, %v", row.at, l.TiltDeg, l.Slings[0].AngleDeg, l.WorstTwo)
		}
	}
	// Short, far from the balance, it hangs plumb all the same: no leg of it lies flat.
	far := Pick{MassKg: wood.Range{Low: 400, Likely: 400, High: 400}, Piece: Piece{LengthM: 6, CogM: 3.5}, RadiusM: 8, BoomM: 20, Slings: []Sling{{Name: "one", AtM: 0.2, LengthM: 1, WllKn: 20, Hitch: Choker}}}
	if said := strings.Join(far.Cautions(far.Solve()), " "); strings.Contains(said, "under 30°") || !strings.Contains(said, "turns until it hangs upright") {
		t.Error(said)
	}
	two := Pick{MassKg: wood.Range{Low: 400, Likely: 400, High: 400}, Piece: Piece{LengthM: 3, CogM: 1.5}, RadiusM: 8, BoomM: 20, Slings: []Sling{{Name: "a", AtM: 0.5, LengthM: 2, WllKn: 20, Hitch: Choker}, {Name: "b", AtM: 2.5, LengthM: 2, WllKn: 20, Hitch: Choker}}}
	if l := two.Solve(); l.WorstTwo != nil {
		t.Errorf("two slings have no worst two: %+v", l.WorstTwo)
	}
}

// What is said of a sling turns at 30° to the level, at 85° of a basket, at its rating.
func TestWhereWordsOfALiftTurn(t *testing.T) {
	p := Pick{Piece: Piece{LengthM: 4, CogM: 2}, Slings: []Sling{{Name: "a", AtM: 1, Hitch: Basket}, {Name: "b", AtM: 3, Hitch: Basket}}}
	capacity := 1000.0
	said := func(height, angle, use float64) string {
		l := Lift{CapacityKg: &capacity, Within: true, HookOverM: 2, HookHeightM: height, Slings: []SlingLoad{{Name: "a", AngleDeg: angle, UsePct: use}, {Name: "b", AngleDeg: 90}}}
		return strings.Join(p.Cautions(l), " ")
	}
	// A metre aside, the hook tan 30° of it up: 30° to the level, give or take.
	flat := math.Tan(math.Pi / 6)
	if got := said(flat*0.999, 90, 0); !strings.Contains(got, "under 30°") {
		t.Errorf("just under 30°: %q", got)
	}
	if got := said(flat*1.001, 90, 0); strings.Contains(got, "under 30°") {
		t.Errorf("just over 30°: %q", got)
	}
	if got := said(9, 84.99, 0); !strings.Contains(got, "Basket a: its legs") {
		t.Errorf("a basket at 84.99°: %q", got)
	}
	if got := said(9, 85, 100); strings.Contains(got, "Basket a") || strings.Contains(got, "over its rating") {
		t.Errorf("a basket at 85°, at its rating: %q", got)
	}
	if got := said(9, 90, 100.01); !strings.Contains(got, "Sling a is over its rating") {
		t.Errorf("over its rating: %q", got)
	}
}
