package bench

import (
	"math"
	"slices"
	"strings"
	"testing"

	"elkstay/core/calc"
)

// An input is tried at 161 places, evenly from end to end; where nobody said between what also by
// ratios from its low end, and about nought where the range goes over it.
func TestWhereAnInputIsTried(t *testing.T) {
	even := grid(2, 10, &Field{}, false)
	if len(even) != 161 || even[0] != 2 || even[160] != 10 {
		t.Fatalf("%v places from %v to %v", len(even), even[0], even[len(even)-1])
	}
	for i := 1; i < len(even); i++ {
		if gap := even[i] - even[i-1]; !(math.Abs(gap-8.0/160) <= 1e-12) {
			t.Errorf("a gap of %v", gap)
		}
	}
	has := func(xs []float64, want float64) bool {
		return slices.ContainsFunc(xs, func(x float64) bool { return math.Abs(x-want) <= 1e-9*math.Max(1e-6, math.Abs(want)) })
	}
	wide := grid(2, 10, &Field{}, true)
	// By ratios: the span times 10⁻⁷ at the first, all of it at the last, 10^(7/160) from one to the next.
	for _, want := range []float64{2, 10, 2 + 8e-7, 2 + 8e-7*math.Pow(10, 7.0/160), 2 + 8*math.Pow(10, -7.0/160), 2 + 8.0/160} {
		if !has(wide, want) {
			t.Errorf("nothing is tried at %v", want)
		}
	}
	if !slices.IsSorted(wide) || wide[0] != 2 || wide[len(wide)-1] != 10 || len(wide) > 322 {
		t.Errorf("%d places from %v to %v", len(wide), wide[0], wide[len(wide)-1])
	}
	over := grid(-5, 20, &Field{}, true)
	for _, want := range []float64{0, 20e-6, -5e-6, 20e-6 * math.Pow(10, 6.0/160), -5e-6 * math.Pow(10, 6.0/160), -5, 20} {
		if !has(over, want) {
			t.Errorf("about nought nothing is tried at %v", want)
		}
	}
	for _, x := range over {
		if x < -5 || x > 20 {
			t.Errorf("tried at %v, out of its range", x)
		}
	}
	// From nought up there is nothing to the other side.
	if up := grid(0, 20, &Field{}, true); up[0] != 0 || has(up, 20e-6*math.Pow(10, 6.0/160)) {
		t.Error("a range that begins at nought is tried about it")
	}
	whole := &Field{Whole: true}
	if got := grid(1.5, 4, whole, false); !slices.Equal(got, []float64{2, 3, 4}) {
		t.Errorf("whole: %v", got)
	}
	if got := grid(0, 2000, whole, false); len(got) != 2001 {
		t.Errorf("two thousand and one whole places: %d", len(got))
	}
	for _, x := range grid(0, 2001, whole, false) {
		if x != math.Round(x) {
			t.Errorf("%v is not whole", x)
		}
	}
	if got := grid(1500, 2500, whole, false); len(got) != 1001 {
		t.Errorf("of a thousand and one numbers: %d", len(got))
	}
	if got := grid(0, 2001, whole, false); len(got) != 161 {
		t.Errorf("of a wider range: %d", len(got))
	}
}

// A range is taken as asked, within the input's own; each bound is told by its name.
func TestBetweenWhat(t *testing.T) {
	of := func(v float64) *float64 { return &v }
	field := &Field{Label: "slack", Min: of(0.5), Max: of(8)}
	if low, high, faults := between(field, nil, nil); low != 0.5 || high != 8 || len(faults) != 0 {
		t.Errorf("its own: %v to %v, %v", low, high, faults)
	}
	if low, high, faults := between(field, of(0.5), of(8)); low != 0.5 || high != 8 || len(faults) != 0 {
		t.Errorf("on its bounds: %v to %v, %v", low, high, faults)
	}
	if low, high, _ := between(&Field{}, nil, nil); low != -1e6 || high != 1e6 {
		t.Errorf("without bounds: %v to %v", low, high)
	}
	if low, _, _ := between(&Field{Min: of(0), Max: of(50), Above: true}, nil, nil); !(math.Abs(low-50e-9) <= 1e-18) {
		t.Errorf("above nought begins at %v", low)
	}
	for _, row := range []struct {
		from, to *float64
		at, says string
	}{
		{of(0.4), nil, "query.from", "slack is between 0.5 and 8, not 0.4"}, {nil, of(8.01), "query.to", "slack is between 0.5 and 8, not 8.01"},
		{of(3), of(3), "query.to", "the range ends (3) where it begins (3)"}, {of(4), of(3), "query.to", "the range ends (3) where it begins (4)"},
	} {
		_, _, faults := between(field, row.from, row.to)
		if len(faults) != 1 || faults[0].Location != row.at || !strings.Contains(faults[0].Message, row.says) {
			t.Errorf("%v, want %s: %s", faults, row.at, row.says)
		}
	}
}

// Between two places the figure is closed in on; a step past it, and a gap, hold none.
func TestClosingIn(t *testing.T) {
	square := func(x float64) (float64, bool) { return x*x - 2, true }
	if at, found := closeIn(square, 0, 2, -2, 2); !found || !(math.Abs(at-math.Sqrt2) <= 1e-12) {
		t.Errorf("√2 at %v, %v", at, found)
	}
	falling := func(x float64) (float64, bool) { return 2 - x*x, true }
	if at, found := closeIn(falling, 0, 2, 2, 2); !found || !(math.Abs(at-math.Sqrt2) <= 1e-12) {
		t.Errorf("falling, √2 at %v, %v", at, found)
	}
	// Held at 2.5 a stair never stands there.
	stair := func(x float64) (float64, bool) { return math.Floor(x) - 2.5, true }
	if at, found := closeIn(stair, 2, 4, -0.5, 2.5); found {
		t.Errorf("a stair stands at 2.5 at %v", at)
	}
	// Where it stands still at the figure held, the edge it is come to first counts, rising or falling.
	for _, sign := range []float64{1, -1} {
		level := func(x float64) (float64, bool) { return sign * math.Trunc(math.Round(4*(x-1))/2), true }
		if at, found := closeIn(level, 0, 2, -2*sign, 2); !found || !(math.Abs(at-0.625) <= 1e-9) {
			t.Errorf("a landing: %v, %v", at, found)
		}
	}
	gap := func(x float64) (float64, bool) { return x - 1, x < 0.4 || x > 1.2 }
	if at, found := closeIn(gap, 0, 2, -1, 1); found {
		t.Errorf("over a gap at %v", at)
	}
	// As near as a millionth of what is held counts, and no farther.
	for off, want := range map[float64]bool{0.9e-6: true, 1.1e-6: false} {
		edge := func(x float64) (float64, bool) {
			if x < 1 {
				return -1, true
			}
			return 5 * off, true
		}
		if _, found := closeIn(edge, 0, 2, -1, 5); found != want {
			t.Errorf("off by %v of it: %v", off, found)
		}
	}
}

// A row that is one too far is none.
func TestARowTooFar(t *testing.T) {
	document := mustGeneric([]byte(`{"rows":[{"x":1},{"x":2}],"marks":[3,4]}`))
	for path, want := range map[string]float64{"rows[0].x": 1, "rows[1].x": 2, "marks[1]": 4} {
		if got, ok := numberAt(document, path); !ok || got != want {
			t.Errorf("%s: %v, %v", path, got, ok)
		}
	}
	for _, path := range []string{"rows[2].x", "marks[2]", "rows[0].y", "marks.x"} {
		set(document, path, 7)
		if got, ok := numberAt(document, path); ok && path != "rows[0].y" {
			t.Errorf("%s: %v", path, got)
		}
	}
	set(document, "marks[1]", 8)
	if got, ok := numberAt(document, "marks[1]"); !ok || got != 8 {
		t.Errorf("set: %v, %v", got, ok)
	}
}

// As few and as many steps as may be asked for are answered; one more is not.
func TestStepsAtTheirBounds(t *testing.T) {
	hinge, _ := calc.Find("hinge")
	begin := []byte(`{"stump":{"diameter_m":0.6},"face_depth_m":0.2,"thickness_m":{"left":0.06,"right":0.06},"strength_mpa":50}`)
	low, high := 0.05, 0.25
	for steps, want := range map[int]int{2: 3, 1000: 1001, 1: 0, 1001: 0, -1: 0} {
		got, err := Sweep(t.Context(), hinge, begin, Over{Over: "face_depth_m", Of: "bending_knm", From: &low, To: &high, Steps: steps})
		if len(got.X) != want || (err == nil) != (want > 0) {
			t.Errorf("%d steps: %d places, %v", steps, len(got.X), err)
		}
	}
}
