package fell

import (
	"context"
	"math"

	"elkstay/core/units"
)

// airKgM3 is half the density of air, 1.2 kg/m³, as the sums take it.
const halfAir = 0.6

// mostLines is how many lines a fall may have.
const mostLines = 6

// What moves: tilt, its speed, the drift of the crown, the unstretched length of each line, and a
// weight that hangs in one.
type fallState [iHung + hungIs]float64

const (
	iPhi = iota
	iOmega
	iPsi
	iRope
)

// faller follows one fall. Figures inside are in kN, t, m, s.
type faller struct {
	f                        *Fall
	lines                    [mostLines]roped
	count                    int
	weight, inertia          float64
	height, forward, side    float64
	bending, helps, closes   float64
	toLeft, toRight          float64 // infinite: not known
	knownLeft, knownRight    bool
	yields                   float64 // thickness over width; 0: no drift
	windForward, windRight   float64 // force on the crown, kN
	windHeight, drag         float64
	low, turned              float64 // radians
	sits                     bool    // at low it sits on the saw
	hinged                   bool    // the hinge holds still
	direction                float64 // 1 forward, −1 backward, 0 at rest
	onLow                    bool    // at rest on what keeps it from turning back
	tension                  [mostLines]float64
	until, sample, next      float64
	hauled, paid             [mostLines]float64
	observe                  bool
	best, bestAt, twist, rod float64
	seen                     bool  // a side use that is known
	hung                     *hung // a weight in a line; nil: none
	last                     fallState
	lastForward, lastSide    float64 // the moments there
	known                    bool
}

func newFaller(f *Fall) *faller {
	t := &f.Tree
	s := &faller{f: f, count: len(f.Lines), weight: t.MassKg * units.Gravity / 1000, inertia: f.inertia() / 1000,
		height: t.CogHeightM, forward: t.CogForwardM, side: t.CogSideM, closes: math.Inf(1), toLeft: math.Inf(1), toRight: math.Inf(1)}
	for i := range f.Lines {
		s.lines[i] = newRoped(&f.Lines[i])
		if f.Lines[i].hangs() {
			s.hung = newHung(f, i)
		}
	}
	if h := f.Hinge; h != nil {
		s.hinged, s.bending, s.helps = true, h.BendingKnm, h.HelpsPct/100*h.BendingKnm
		s.closes = orElse(h.ClosesDeg, 70) * math.Pi / 180
		if h.ToLeftKnm != nil {
			s.toLeft, s.knownLeft = *h.ToLeftKnm, true
		}
		if h.ToRightKnm != nil {
			s.toRight, s.knownRight = *h.ToRightKnm, true
		}
		if s.knownLeft && s.knownRight {
			s.yields = orElse(h.ThicknessOverWidth, 0)
		}
	}
	if w := f.Wind; w != nil {
		force := halfAir * w.AreaM2 * w.SpeedMS * w.SpeedMS / 1000
		sin, cos := math.Sincos(w.TowardsDeg * math.Pi / 180)
		s.windForward, s.windRight, s.windHeight = force*cos, force*sin, w.HeightM
	}
	s.drag = halfAir * f.DragAreaM2 / 1000
	if b := f.Back; b != nil && !b.Wedged {
		s.low, s.sits = -b.KerfM/b.CutM, true
	}
	s.turned = meets(t.TopHeightM, f.hingeHeight(), f.slope())
	s.until, s.sample = orElse(f.UntilS, 60), orElse(f.SampleS, 0.05)
	return s
}

// begin is the state before anything moves.
func (s *faller) begin() (y fallState) {
	for i := range s.count {
		l := &s.lines[i]
		if w := s.hung; w != nil && w.line == i {
			y[iRope+i] = w.half[0] //nolint:gosec // count is mostLines at most
			copy(y[iHung:], w.start[:])
			continue
		}
		long, _, _, _ := l.way(0, 1)
		y[iRope+i] = (long + l.lead) / (1 + l.stretched(min(s.f.Lines[i].PretensionKn, l.runsAt))) //nolint:gosec // count is mostLines at most
	}
	return y
}

// pulls works out the tension of every line, and their moments.
func (s *faller) pulls(y *fallState, sin, cos float64) (forward, side float64) {
	for i := range s.count {
		l := &s.lines[i]
		var kn, ux, uy, uz float64
		if s.hung != nil && s.hung.line == i {
			kn, ux, uy, uz = s.pulled(y, sin, cos)
		} else {
			var long float64
			long, ux, uy, uz = l.way(sin, cos)
			kn = min(l.pull((long+l.lead)/y[iRope+i]-1), l.runsAt)
		}
		s.tension[i] = kn
		across, along := cos*ux-sin*uz, sin*ux+cos*uz // of the tree
		forward += kn * (l.attach*across - l.ahead*along)
		side += kn * (l.attach*uy - l.aside*along)
	}
	return forward, side
}

// moment is the sum of the forward moments but for the hinge's, kN·m; the tensions are worked
// out on the way. Of the place that was looked at last it is known.
func (s *faller) moment(y *fallState) (forward, side float64) {
	if s.known && s.last == *y {
		return s.lastForward, s.lastSide
	}
	forward, side = s.momentAt(y)
	s.known, s.last, s.lastForward, s.lastSide = true, *y, forward, side
	return forward, side
}

func (s *faller) momentAt(y *fallState) (forward, side float64) {
	sin, cos := math.Sincos(y[iPhi])
	forward, side = s.pulls(y, sin, cos)
	forward += s.weight*(s.forward*cos+s.height*sin) + s.windForward*s.windHeight*cos
	speed := s.height * y[iOmega]
	forward -= s.drag * speed * math.Abs(speed) * s.height
	side += s.windRight*s.windHeight + s.weight*(s.side+s.height*math.Sin(y[iPsi]))*cos
	return forward, side
}

// use is the share of what the hinge holds sideways, + to the right; known false on a side
// whose capacity is not given.
func (s *faller) use(side float64) (share float64, known bool) {
	if side >= 0 {
		return side / s.toRight, s.knownRight
	}
	return side / s.toLeft, s.knownLeft
}

// rates is how fast everything changes.
func (s *faller) rates(y, dy *fallState) {
	forward, side := s.moment(y)
	dy[iPhi], dy[iOmega], dy[iPsi] = 0, 0, 0
	if s.direction != 0 {
		if s.hinged && s.direction > 0 {
			forward -= s.bending
		} else if s.hinged {
			forward += s.helps
		}
		dy[iPhi], dy[iOmega] = y[iOmega], forward/s.inertia
		if s.hinged && s.yields > 0 {
			share, _ := s.use(side)
			dy[iPsi] = share * s.yields * y[iOmega]
		}
	}
	if s.hung != nil {
		s.hungRates(y, dy)
	}
	for i := range s.count {
		dy[iRope+i] = 0
		if l := &s.lines[i]; l.speed > 0 {
			dy[iRope+i] = -l.speed * max(0, 1-s.tension[i]/l.most)
		}
	}
}

// step is one step of Runge and Kutta's fourth order.
func (s *faller) step(y, k1 *fallState, h float64) fallState {
	var k2, k3, k4, at fallState
	move := func(k *fallState, h float64) {
		for i := range at {
			at[i] = y[i] + h*k[i]
		}
	}
	move(k1, h/2)
	s.rates(&at, &k2)
	move(&k2, h/2)
	s.rates(&at, &k3)
	move(&k3, h)
	s.rates(&at, &k4)
	out := *y
	for i := range out {
		out[i] += h / 6 * (k1[i] + 2*k2[i] + 2*k3[i] + k4[i])
	}
	return out
}

// happened tells that something lies within a step: the first of it is looked for.
func (s *faller) happened(y *fallState, slackened *[mostLines]bool, tight *[mostLines]bool) bool {
	forward, side := s.moment(y)
	if s.direction == 0 && s.breaksAway(forward) != 0 {
		return true
	}
	// By how much it is past what ends or changes its way: each in its own unit, only whether it is counts.
	past := y[iPhi] - s.turned
	switch s.direction {
	case 1:
		past = max(past, -y[iOmega])
	case -1:
		past = max(past, y[iOmega], s.low-y[iPhi])
	}
	if s.hinged {
		past = max(past, y[iPhi]-s.closes)
		if share, known := s.use(side); known {
			past = max(past, math.Abs(share)-1)
		}
	}
	if w := s.hung; w != nil && !w.down {
		past = max(past, w.ground-y[iHung+2], w.kn-s.lines[w.line].breaks)
	}
	for i := range s.count {
		past = max(past, s.tension[i]-s.lines[i].breaks)
		if tight[i] && !slackened[i] && s.tension[i] == 0 {
			return true
		}
	}
	return past > 0
}

// breaksAway is the way in which a tree at rest begins to turn under a moment; 0: it stays.
func (s *faller) breaksAway(forward float64) float64 {
	bending, helps := 0.0, 0.0
	if s.hinged {
		bending, helps = s.bending, s.helps
	}
	switch {
	case forward > bending:
		return 1
	case forward < -helps && !s.onLow:
		return -1
	}
	return 0
}

// Bounds of a step, s: while it turns and while it rests; and the budget of steps.
const (
	turningStep  = 0.008
	shortestFall = 2e-5
	mostFall     = 3_000_000
	asksFall     = 256
)

// longestStep is a step short enough for the stiffest line and the quickest haul.
func (s *faller) longestStep(y *fallState) float64 {
	stiff, quick := 0.0, 0.0
	for i := range s.count {
		l := &s.lines[i]
		k := l.steepestSlope() / y[iRope+i]
		stiff += k * (l.attach*l.attach + l.ahead*l.ahead)
		if l.speed > 0 {
			quick = max(quick, l.speed*k/l.most)
		}
	}
	step := turningStep
	if w := s.hung; w != nil && !w.down {
		// Both halves on the weight.
		k := s.lines[w.line].steepestSlope() * (1/w.half[0] + 1/w.half[1])
		step = min(step, 0.25/math.Sqrt(k/w.mass))
	}
	return max(shortestFall, min(step, 0.25/math.Sqrt(stiff/s.inertia), 0.4/quick))
}

// follow runs the fall until it ends. The error is that of ctx.
func (s *faller) follow(ctx context.Context, run *FallRun) error {
	f := falling{faller: s, run: run, y: s.begin()}
	s.onLow = !s.sits // what keeps it from turning back is there from the start
	f.start()
	ended := f.watch()
	f.take()
	if ended == "" {
		f.settle()
	}
	stride := s.longestStep(&f.y)
	for steps := 1; ended == "" && f.t < s.until && steps <= mostFall; steps++ {
		if steps%asksFall == 0 {
			if err := ctx.Err(); err != nil {
				return err
			}
			stride = s.longestStep(&f.y)
		}
		ended = f.advance(stride)
	}
	if ended == "" {
		ended = f.still()
	}
	f.finish(ended)
	return nil
}

// rests reports that what it rests on is a wedge.
func (s *faller) rests() bool { return s.f.Back != nil && s.f.Back.Wedged }

// slip lets out what a hold lets through.
func (s *faller) slip(y *fallState) {
	sin, cos := math.Sincos(y[iPhi])
	for i := range s.count {
		l := &s.lines[i]
		if math.IsInf(l.runsAt, 1) {
			continue // a line with a weight in it never runs
		}
		long, _, _, _ := l.way(sin, cos)
		if l.pull((long+l.lead)/y[iRope+i]-1) > l.runsAt {
			longer := (long + l.lead) / (1 + l.stretched(l.runsAt))
			s.paid[i] += max(0, longer-y[iRope+i])
			y[iRope+i] = longer
		}
	}
}

// end writes what was kept of a run.
func (s *faller) end(run *FallRun, y *fallState) {
	run.TwistKnm = s.twist
	if s.f.Hinge == nil {
		run.TwistKnm = 0
	}
	if s.seen {
		use, at := 100*s.best, s.bestAt
		run.SideUsePct, run.SideUseAtDeg = &use, &at
	}
	if s.yields > 0 {
		drift := y[iPsi] * 180 / math.Pi
		run.DriftDeg = &drift
	}
	if s.rests() {
		wedge := s.rod / s.f.Back.CutM
		run.WedgeKn = &wedge
	}
}

// goesAlone is the least tilt, radians, from which the tree's own weight bends the hinge; a wind from behind is not
// counted on.
func (s *faller) goesAlone() (tilt float64, ever bool) {
	return firstTilt(s.weight*s.forward+min(0, s.windForward)*s.windHeight, s.weight*s.height, s.bending)
}

// Follow follows a fall without Faults, without its spread. The error is that of ctx.
func (f *Fall) Follow(ctx context.Context) (FallRun, error) {
	s := newFaller(f)
	s.observe = true
	run := FallRun{TurnedDeg: s.turned * 180 / math.Pi, Phases: []FallPhase{}, Lines: make([]FallLineRun, len(f.Lines)), Series: FallSeries{TS: []float64{}, TiltDeg: []float64{}, SideUsePct: []float64{}, Lines: make([][]float64, len(f.Lines))}}
	for i := range f.Lines {
		run.Lines[i].Name, run.Series.Lines[i] = f.Lines[i].Name, []float64{}
	}
	if tilt, ever := s.goesAlone(); ever {
		deg := tilt * 180 / math.Pi
		run.GoesAloneDeg = &deg
	}
	err := s.follow(ctx, &run)
	return run, err
}
