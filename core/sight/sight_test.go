package sight

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

func of(v float64) *float64 { return &v }

func ask(t *testing.T, r Request) Read {
	t.Helper()
	document, err := json.Marshal(r)
	if err != nil {
		t.Fatal(err)
	}
	read, err := Answer(document)
	if err != nil {
		t.Fatalf("%s: %v", document, err)
	}
	if !(read.Low <= read.Value && read.Value <= read.High) && r.Of != Place {
		t.Errorf("%s: %v is not between %v and %v", document, read.Value, read.Low, read.High)
	}
	if len(read.Working) == 0 || read.Noted == "" {
		t.Errorf("%s: no working", document)
	}
	return read
}

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if !(math.Abs(got-want) <= 1e-9*math.Max(1, math.Abs(want))) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// The classroom cases of plane trigonometry: at 45° the height over the eye is the
// distance; at 30° it is the distance over √3.
func TestHeights(t *testing.T) {
	near(t, "45° from eye height", ask(t, Request{Of: Height, DistanceM: of(20), UpDeg: of(45), EyeM: of(1.6)}).Value, 21.6)
	near(t, "the eye's usual height", ask(t, Request{Of: Height, DistanceM: of(20), UpDeg: of(45)}).Value, 21.6)
	near(t, "30° and −45°", ask(t, Request{Of: Height, DistanceM: of(15), UpDeg: of(30), FootDeg: of(-45)}).Value, 15/math.Sqrt(3)+15)
	// Uphill of the eye: the foot is above it.
	near(t, "60° and 30°", ask(t, Request{Of: Height, DistanceM: of(9), UpDeg: of(60), FootDeg: of(30)}).Value, 9*(math.Sqrt(3)-1/math.Sqrt(3)))
	// 10 m down a slope of 60° is 5 m on the level.
	near(t, "along the slope", ask(t, Request{Of: Height, DistanceM: of(10), UpDeg: of(45), FootDeg: of(-60), AlongSlope: true}).Value, 5*(1+math.Sqrt(3)))
	if read := ask(t, Request{Of: Height, DistanceM: of(6), UpDeg: of(70)}); len(read.Cautions) != 2 || read.High-read.Low < 1.5 {
		t.Errorf("steep: %+v", read)
	}
}

// Trees put up in space and sighted come back at their height.
func TestHeightsComeBack(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 7))
	for range 200 {
		height, distance, foot := 4+30*random.Float64(), 12+30*random.Float64(), -4+4*random.Float64()
		deg := func(up float64) *float64 { return of(math.Atan2(up, distance) * 180 / math.Pi) }
		near(t, "height", ask(t, Request{Of: Height, DistanceM: &distance, UpDeg: deg(foot + height), FootDeg: deg(foot)}).Value, height)
	}
}

func TestLeanByAPlumbLine(t *testing.T) {
	near(t, "1 in 1", ask(t, Request{Of: Lean, OffsetM: of(3), OverM: of(3)}).Value, 45)
	near(t, "none", ask(t, Request{Of: Lean, OffsetM: of(0), OverM: of(3)}).Value, 0)
	near(t, "30°", ask(t, Request{Of: Lean, OffsetM: of(1), OverM: of(math.Sqrt(3))}).Value, 30)
}

func TestPlaces(t *testing.T) {
	for bearing, want := range map[float64][2]float64{0: {2, 11}, 90: {12, 1}, 180: {2, -9}, 270: {-8, 1}, 30: {2 + 5, 1 + 5*math.Sqrt(3)}} {
		read := ask(t, Request{Of: Place, BearingDeg: &bearing, DistanceM: of(10), FromX: 2, FromY: 1})
		if math.Hypot(read.X-want[0], read.Y-want[1]) > 1e-9 {
			t.Errorf("%v°: got %v, %v, want %v", bearing, read.X, read.Y, want)
		}
	}
}

func TestSightsThatCannotBe(t *testing.T) {
	for says, document := range map[string]string{
		"the distance is needed":      `{"of":"height","up_deg":40}`,
		"the angle to the top is":     `{"of":"height","distance_m":20}`,
		"needs the angle to the":      `{"of":"height","distance_m":20,"up_deg":40,"along_slope":true}`,
		"these readings make":         `{"of":"height","distance_m":20,"up_deg":-10,"foot_deg":10}`,
		"make the tree":               `{"of":"height","distance_m":400,"up_deg":60,"foot_deg":0}`,
		"body.up_deg":                 `{"of":"height","distance_m":20,"up_deg":90}`,
		"from which it hangs":         `{"of":"lean","offset_m":0.4}`,
		"the bearing is needed":       `{"of":"place","distance_m":4}`,
		"body.bearing_deg":            `{"of":"place","distance_m":4,"bearing_deg":400}`,
		"body.of":                     `{"of":"age"}`,
		"there is no field \"girth\"": `{"of":"lean","girth":3}`,
	} {
		if _, err := Answer([]byte(document)); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%s: %v", document, err)
		}
	}
}

func TestPointsOfTheCompass(t *testing.T) {
	for deg, want := range map[float64]string{0: "N", 22: "N", 23: "NE", 90: "E", 200: "S", 337: "NW", 338: "N", 360: "N"} {
		if got := Wind(deg); got != want {
			t.Errorf("%v°: %s, want %s", deg, got, want)
		}
	}
}
