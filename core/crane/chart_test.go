package crane

import (
	"strings"
	"testing"
)

// The two ways in which charts are laid out come to the same chart.
func TestAPastedChartReadsBothWays(t *testing.T) {
	grid := Pasted{Text: "m\t20\t24\n6\t5.1\t4.2\n8\t3.9\t3.3\n10\t\t2.65\n", Lengths: "m", Capacity: "t"}
	list := Pasted{Text: "radius\tboom\tcapacity\r\n6\t20\t5100\r\n8\t20\t3900\r\n6\t24\t4200\r\n8\t24\t3300\r\n10\t24\t2650\r\n", Lengths: "m", Capacity: "kg"}
	a, errA := grid.Read()
	b, errB := list.Read()
	if errA != nil || errB != nil || a.Shape != "grid" || b.Shape != "list" || len(a.Rows) != 5 || len(b.Rows) != 5 || len(a.Booms) != 2 {
		t.Fatalf("grid %v %+v, list %v %+v", errA, a, errB, b)
	}
	for i := range a.Rows {
		if d := a.Rows[i].CapacityKg - b.Rows[i].CapacityKg; a.Rows[i].RadiusM != b.Rows[i].RadiusM || a.Rows[i].BoomM != b.Rows[i].BoomM || d > 1e-6 || d < -1e-6 {
			t.Errorf("row %d: %+v and %+v", i, a.Rows[i], b.Rows[i])
		}
	}
	// One foot is 0.3048 m, one pound 0.45359237 kg, by definition (NIST SP 811).
	us, err := (&Pasted{Text: "ft\t60\n20\t10000\n25\t8000", Lengths: "ft", Capacity: "lb"}).Read()
	if err != nil || us.Rows[0].RadiusM != 20*0.3048 || us.Rows[0].CapacityKg != 10000*0.45359237 {
		t.Errorf("%v %+v", err, us.Rows)
	}
}

func TestAChartThatIsNoneIsRefused(t *testing.T) {
	for says, text := range map[string]string{
		"no chart":                     "6,20,5100",
		"formula":                      "m\t20\n6\t=B1*2\n8\t3",
		"is no capacity":               "m\t20\n6\t5,1\n8\t3",
		"another unit":                 "m\t20\n6\t5.1\n800\t3",
		"stands twice":                 "m\t20\n6\t5.1\n6\t3",
		"rows and columns swapped":     "m\t20\n6\t3.1\n8\t5",
		"has 4 cells, the first has 2": "m\t20\n6\t3.1\t1\t1\n8\t2",
	} {
		read, err := (&Pasted{Text: text, Lengths: "m", Capacity: "t"}).Read()
		if err == nil || !strings.Contains(err.Error(), says) || len(read.Rows) > 0 {
			t.Errorf("%q: %v, %d rows", says, err, len(read.Rows))
		}
	}
	if _, err := Answer([]byte(`{"text":"x","lengths":"yd","capacity":"t"}`)); err == nil || !strings.Contains(err.Error(), "lengths") {
		t.Errorf("got %v", err)
	}
}
