package units

import (
	"errors"
	"math"
	"strings"
	"testing"
)

// The factors are held against NIST SP 811, appendix B (from memory).
func TestFactorsAgainstTheStandard(t *testing.T) {
	for _, c := range []struct {
		name      string
		got, want float64
	}{
		{"foot, m", UnitFor(Height, US).Factor, 0.3048},
		{"inch, m", UnitFor(Diameter, US).Factor, 0.0254},
		{"pound, kg", UnitFor(Mass, US).Factor, 0.45359237},
		{"pound-force, kN", UnitFor(Force, US).Factor, 4.4482216152605e-3},
	} {
		if !(math.Abs(c.got-c.want) <= 1e-15) {
			t.Errorf("%s: got %v, want %v", c.name, c.got, c.want)
		}
	}
}

func TestReadWhatPeopleWrite(t *testing.T) {
	for _, c := range []struct {
		quantity Quantity
		system   System
		text     string
		want     float64
	}{
		{Height, Metric, "0.56", 0.56},
		{Height, Metric, "0,56", 0.56},
		{Height, Metric, "12,5", 12.5},
		{Height, Metric, "560 mm", 0.56},
		{Height, Metric, "1 m 20 cm", 1.2},
		{Height, Metric, "6ft 4in", 76 * 0.0254},
		{Height, Metric, `6' 4"`, 76 * 0.0254},
		{Height, Metric, "6’4”", 76 * 0.0254},
		{Height, Metric, "6ft 4", 76 * 0.0254},
		{Height, Metric, "6 FT 4 1/2 IN", 76.5 * 0.0254},
		{Height, US, "40", 40 * 0.3048},
		{Diameter, Metric, "56", 0.56},
		{Gauge, Metric, "16", 0.016},
		{Volume, Metric, "6 m3", 6},
		{Volume, Metric, "210 ft3", 210 * 0.3048 * 0.3048 * 0.3048},
		{Volume, US, "210", 210 * 0.3048 * 0.3048 * 0.3048},
		{Volume, Metric, "8yd³", 8 * 0.9144 * 0.9144 * 0.9144},
		{Gauge, US, "5/8", 0.625 * 0.0254},
		{Diameter, US, "22", 22 * 0.0254},
		{Diameter, Metric, "22in", 22 * 0.0254},
		{Diameter, Metric, "101 1/2 in", 101.5 * 0.0254},
		{Diameter, US, "3/4", 0.75 * 0.0254},
		{Diameter, US, "174 cm", 1.74},
		{Diameter, US, "2yd 1ft", 7 * 0.3048},
		{Height, Metric, "-0.5", -0.5},
		{Mass, Metric, "412", 412},
		{Mass, Metric, "1,200 kg", 1200},
		{Mass, US, "900", 900 * 0.45359237},
		{Mass, Metric, "0.4 t", 400},
		{Mass, Metric, "2 lb 8 oz", 2.5 * 0.45359237},
		{Force, Metric, "11.2", 11.2},
		{Force, Metric, "950 kgf", 950 * 9.80665e-3},
		{Force, Metric, "1500 daN", 15},
		{Force, US, "2500", 2500 * 4.4482216152605e-3},
	} {
		got, err := Read(c.quantity, c.system, c.text)
		if err != nil || !(math.Abs(got-c.want) <= 1e-12) {
			t.Errorf("%s %s %q: got %v, %v; want %v", c.quantity, c.system, c.text, got, err, c.want)
		}
	}
}

func TestReadRefusesWhatIsNoFigure(t *testing.T) {
	for _, text := range []string{
		"", "  ", "abc", "12 kg", "4in 6ft", "6ft 4in 2in", "6 7", "1/0", "22..5", "1e9", "m", "--3", "12 3 in 4",
		"1 m 2", "∞", "NaN", "0x10", "999999999999999999999999999999999999999999 m",
	} {
		got, err := Read(Height, Metric, text)
		var refused *ReadError
		if !errors.As(err, &refused) {
			t.Errorf("%q: got %v, %v; want a refusal", text, got, err)
			continue
		}
		if refused.Text != text || refused.Examples == "" {
			t.Errorf("%q: the refusal names %q and shows %q", text, refused.Text, refused.Examples)
		}
	}
}

func TestPrint(t *testing.T) {
	for _, c := range []struct {
		quantity Quantity
		system   System
		si       float64
		want     string
	}{
		{Height, Metric, 1.899, "1.90 m"},
		{Height, US, 1.899, "6.2 ft"},
		{Diameter, Metric, 0.5842, "58.4 cm"},
		{Mass, Metric, 1234.4, "1,234 kg"},
		{Mass, Metric, 4.44, "4.4 kg"},
		{Force, Metric, 11.06, "11.1 kN"},
		{Force, Metric, 0.044, "0.04 kN"},
		{Force, US, 11.06, "2,490 lbf"},
		{Force, US, 0.2, "45 lbf"},
		{Height, Metric, -0.25, "-0.25 m"},
	} {
		if got := Print(c.quantity, c.system, c.si); got != c.want {
			t.Errorf("%s %s %v: got %q, want %q", c.quantity, c.system, c.si, got, c.want)
		}
	}
}

func FuzzRead(f *testing.F) {
	for _, text := range []string{"6ft 4in", "22 1/2 in", "0,56", "/", "1/2/3", `'"`, "1 1 1 1"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, q := range []Quantity{Height, Mass, Force} {
			got, err := Read(q, Metric, text)
			if math.IsNaN(got) || math.IsInf(got, 0) {
				t.Errorf("%q reads as %v, %v", text, got, err)
			}
		}
	})
}

// Bearings as they are called: points of the compass, degrees, both; west of north by a minus.
func TestBearingsAreRead(t *testing.T) {
	for text, want := range map[string]float64{
		"N": 0, "nw": 315, "North-West": 315, "south east": 135, "SSW": 202.5, "east": 90, "315": 315, "315°": 315, "315 ° NW": 315,
		"-45": 315, "0": 0, "360": 360, "22,5": 22.5, "7 deg": 7, " w ": 270,
		"N 45 W": 315, "N45E": 45, "S 30 E": 150, "south 30° west": 210, "n 0 w": 0, "N 22.5 W": 337.5, "S 90 E": 90,
		"330 NW": 330, "359 N": 359, "10 N": 10, "-30 nw": 330, "212 SSW": 212,
	} {
		if got, err := Read(Bearing, Metric, text); err != nil || got != want {
			t.Errorf("%q: %v, %v, want %v", text, got, err, want)
		}
	}
	for _, text := range []string{"", "up", "400", "-361", "NN", "ten", "12 m", "45 NW", "345 NW", "215 SSW", "-45 NE", "N 91 W", "N 45", "45 N 45 W", strings.Repeat("n", 50)} {
		if got, err := Read(Bearing, Metric, text); err == nil {
			t.Errorf("%q is read as %v", text, got)
		}
	}
}
