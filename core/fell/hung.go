package fell

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
)

// What moves of a weight that hangs in a line: its place and its speed.
const (
	iHung  = iRope + mostLines
	hungIs = 6
)

// hung is a weight in the middle of a line, as a point on two halves that stretch. Its air is
// left out, and so is what of the line lies behind the anchor's first turn: it catches harder.
type hung struct {
	line     int
	mass     float64    // t
	half     [2]float64 // unstretched: to the tree, to the anchor, m
	start    [3]float64 // where it hangs at first
	ground   float64    // m; the weight lies there
	down     bool       // it has come there, and pulls no more
	kn, most float64    // of the anchor's half
	rate     [3]float64 // what pulls at it at the place that was looked at last, m/s²
}

// hangs reports that a line has a weight in its middle.
func (l *FallLine) hangs() bool { return l.MidKg != nil }

// straight is how far the tie of a line is from its anchor, m.
func (l *FallLine) straight() float64 {
	bearing := l.BearingDeg * math.Pi / 180
	x, y := l.AnchorDistanceM*math.Cos(bearing)-l.AttachForwardM, l.AnchorDistanceM*math.Sin(bearing)-l.AttachSideM
	z := l.AnchorHeightM - l.AttachHeightM
	return math.Sqrt(x*x + y*y + z*z)
}

// hungFaults names what is wrong with a weight in a line at the given path.
func (f *Fall) hungFaults(path string) (faults intake.Faults) {
	seen := ""
	for i := range f.Lines {
		l := &f.Lines[i]
		at := fmt.Sprintf("%s.lines[%d]", path, i)
		if !l.hangs() {
			if l.LineM != nil {
				faults.Add(at+".line_m", *l.LineM, "nothing without mid_kg", "%s has no weight in its middle: its length is the way", l.Name)
			}
			continue
		}
		switch {
		case l.LineM == nil || *l.LineM <= l.straight()*(1+1e-6):
			faults.Add(at+".line_m", l.LineM, fmt.Sprintf("more than %.4g m", l.straight()), "a weight cannot hang in %s: its line must be longer than the way (%.4g m)", l.Name, l.straight())
		case l.Haul != nil || l.HoldKn != nil || l.PretensionKn > 0:
			faults.Add(at+".mid_kg", *l.MidKg, "no haul, hold or pretension with it", "a weight hangs in %s: it is made fast, and what is on it hangs", l.Name)
		case seen != "":
			faults.Add(at+".mid_kg", *l.MidKg, "one line of a fall", "a weight hangs in %s already", seen)
		}
		seen = l.Name
		if len(faults) > 0 {
			continue
		}
		if w := newHung(f, i); w.start[2] <= w.ground {
			faults.Add(at+".line_m", *l.LineM, "a shorter line", "the weight in %s lies on the ground before the tree moves", l.Name)
		}
	}
	return faults
}

// newHung hangs a weight in a line while the tree stands: half of the line, stretched as it is,
// from both ends.
func newHung(f *Fall, i int) *hung {
	l := &f.Lines[i]
	r := newRoped(l)
	w := &hung{line: i, mass: *l.MidKg / 1000, ground: -f.hingeHeight()}
	tie := [3]float64{r.ahead, r.aside, r.attach}
	anchor := [3]float64{r.ax, r.ay, r.az}
	out := math.Hypot(anchor[0]-tie[0], anchor[1]-tie[1])
	// In the upright plane through both ends, as kind midline-weight has it.
	hang, _ := (&Midline{AttachHeightM: tie[2], AnchorDistanceM: out, AnchorHeightM: anchor[2], LineLengthM: *l.LineM, WeightKg: *l.MidKg}).Hangs()
	along := hang.OutM / max(out, 1e-9)
	w.start = [3]float64{tie[0] + (anchor[0]-tie[0])*along, tie[1] + (anchor[1]-tie[1])*along, hang.WeightAtM}
	w.half[0], w.half[1] = *l.LineM/2/(1+r.stretched(hang.PullKn)), *l.LineM/2/(1+r.stretched(hang.AnchorKn))
	return w
}

// pulled works out the tension of both halves of a line with a weight in it: the tree's, with its way
// from the tree, and what both do to the weight.
func (s *faller) pulled(y *fallState, sin, cos float64) (kn, ux, uy, uz float64) {
	w := s.hung
	r := &s.lines[w.line]
	rate := &w.rate
	*rate = [3]float64{0, 0, -units.Gravity}
	w.kn = 0
	if w.down {
		return 0, 0, 0, -1
	}
	ends := [2][3]float64{{r.attach*sin + r.ahead*cos, r.aside, r.attach*cos - r.ahead*sin}, {r.ax, r.ay, r.az}}
	for k, end := range ends {
		x, dy, z := end[0]-y[iHung], end[1]-y[iHung+1], end[2]-y[iHung+2]
		long := math.Sqrt(x*x + dy*dy + z*z)
		pull := r.pull(long/w.half[k] - 1)
		rate[0] += pull * x / long / w.mass
		rate[1] += pull * dy / long / w.mass
		rate[2] += pull * z / long / w.mass
		if k == 0 {
			kn, ux, uy, uz = pull, -x/long, -dy/long, -z/long
		} else {
			w.kn = pull
		}
	}
	return kn, ux, uy, uz
}

// hungRates is how fast a weight in a line moves, its moment looked at.
func (s *faller) hungRates(y, dy *fallState) {
	if s.hung.down {
		for k := range hungIs {
			dy[iHung+k] = 0
		}
		return
	}
	copy(dy[iHung:iHung+3], y[iHung+3:])
	copy(dy[iHung+3:], s.hung.rate[:])
}

// swingOut follows the weight alone, the tree down, until it has come to its lowest.
func (s *faller) swingOut(y *fallState, run *FallRun) {
	w := s.hung
	if w == nil || w.down {
		return
	}
	s.direction = 0
	var k1 fallState
	const longest = 8.0
	step := s.longestStep(y)
	sinking := y[iHung+5] < 0
	for t := 0.0; t < longest; t += step {
		s.rates(y, &k1)
		*y = s.step(y, &k1, step)
		s.moment(y)
		w.most = max(w.most, w.kn)
		line := &run.Lines[w.line]
		line.PeakKn = max(line.PeakKn, s.tension[w.line])
		if y[iHung+2] <= w.ground {
			return
		}
		if y[iHung+5] < 0 {
			sinking = true
		} else if sinking {
			return
		}
	}
}
