package fell

import (
	"context"
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/units"
	"elkstay/core/working"
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

// roped is a line readied for its tension.
type roped struct {
	attach, ahead, aside float64 // m; where it is tied, along the tree and off it
	ax, ay, az           float64 // m; the anchor's place
	lead                 float64
	rows                 int
	strain, kn, slope    [gear.MaxStretchRows + 1]float64 // kN per strain behind each corner
	runsAt               float64                          // tension at the tree at which rope runs out; infinite: never
	speed, most          float64                          // of hauling: unloaded, and the tension at which it gains no more
	breaks               float64
}

func newRoped(l *FallLine) roped {
	bearing := l.BearingDeg * math.Pi / 180
	r := roped{attach: l.AttachHeightM, ahead: l.AttachForwardM, aside: l.AttachSideM, ax: l.AnchorDistanceM * math.Cos(bearing), ay: l.AnchorDistanceM * math.Sin(bearing), az: l.AnchorHeightM, lead: l.LeadM, runsAt: math.Inf(1), breaks: l.Rope.BreakingKn}
	for i, row := range l.Rope.Elongation {
		r.strain[i+1], r.kn[i+1] = row.StrainPct/100, row.LoadPct/100*l.Rope.BreakingKn
		r.slope[i] = (r.kn[i+1] - r.kn[i]) / (r.strain[i+1] - r.strain[i])
		r.slope[i+1] = r.slope[i] // the last is carried on
	}
	r.rows = len(l.Rope.Elongation)
	efficiency := orElse(l.Efficiency, 1)
	if l.HoldKn != nil {
		r.runsAt = *l.HoldKn / efficiency
	}
	if l.Haul != nil {
		r.speed, r.most = l.Haul.SpeedMS, efficiency*min(l.Haul.StallKn, orElse(l.HoldKn, math.Inf(1)))
	}
	return r
}

// pull is the tension at a strain, kN.
func (r *roped) pull(strain float64) float64 {
	if strain <= 0 {
		return 0
	}
	i := 0
	for i < r.rows && strain > r.strain[i+1] {
		i++
	}
	return r.kn[i] + r.slope[i]*(strain-r.strain[i])
}

// stretched is the strain at a tension.
func (r *roped) stretched(kn float64) float64 {
	i := 0
	for i < r.rows && kn > r.kn[i+1] {
		i++
	}
	return r.strain[i] + (kn-r.kn[i])/r.slope[i]
}

// way is the length of the line outside its lead, and its unit vector at the tree.
func (r *roped) way(sin, cos float64) (long, ux, uy, uz float64) {
	x, y, z := r.ax-r.attach*sin-r.ahead*cos, r.ay-r.aside, r.az-r.attach*cos+r.ahead*sin
	long = math.Sqrt(x*x + y*y + z*z)
	return long, x / long, y / long, z / long
}

// steepestSlope is the stiffest part of its table, kN per strain.
func (r *roped) steepestSlope() float64 {
	most := 0.0
	for i := range r.rows {
		most = max(most, r.slope[i])
	}
	return most
}

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
	y := s.begin()
	var k1 fallState
	var tight, slackened [mostLines]bool
	degrees := func(y *fallState) float64 { return y[iPhi] * 180 / math.Pi }
	t := 0.0
	note := func(name string) { run.Phases = append(run.Phases, FallPhase{name, t, degrees(&y)}) }
	s.onLow = !s.sits // what keeps it from turning back is there from the start
	_, side := s.moment(&y)
	for i := range s.count {
		tight[i] = s.tension[i] > 0
		run.Lines[i].KnAtRest, run.Lines[i].PeakKn = s.tension[i], s.tension[i]
	}
	// watch keeps the extremes; ended names what ends the run there.
	watch := func() (ended string) {
		_, side = s.moment(&y)
		for i := range s.count {
			line := &run.Lines[i]
			if s.tension[i] > line.PeakKn {
				line.PeakKn, line.PeakAtDeg = s.tension[i], degrees(&y)
			}
			if s.tension[i] > 0 {
				tight[i] = true
			} else if tight[i] && !slackened[i] {
				slackened[i] = true
				at := degrees(&y)
				line.SlackAtDeg = &at
			}
			if s.tension[i] >= s.lines[i].breaks*(1-1e-9) {
				note("parted " + line.Name)
				return Parts
			}
		}
		if w := s.hung; w != nil {
			w.most = max(w.most, w.kn)
			if w.kn >= s.lines[w.line].breaks*(1-1e-9) {
				note("parted " + run.Lines[w.line].Name)
				return Parts
			}
			if !w.down && y[iHung+2] <= w.ground+1e-9 {
				w.down, s.known = true, false
				note("weight down")
			}
		}
		run.HighestDeg = max(run.HighestDeg, degrees(&y))
		if s.hinged {
			s.twist = max(s.twist, math.Abs(s.weight*s.side*math.Sin(y[iPhi])))
			if share, known := s.use(side); known {
				if share = math.Abs(share); share > s.best || !s.seen {
					s.best, s.bestAt, s.seen = share, degrees(&y), true
				}
				if share >= 1-1e-9 {
					note("torn")
					return Tears
				}
			}
		}
		return ""
	}
	finish := func(outcome string) error {
		run.Outcome, run.TimeS = outcome, t
		if w := s.hung; w != nil {
			if outcome == Goes {
				s.swingOut(&y, run)
			}
			most := w.most
			run.Lines[w.line].AnchorPeakKn = &most
		}
		for i := range s.count {
			run.Lines[i].HauledM, run.Lines[i].PaidOutM = s.hauled[i], s.paid[i]
		}
		s.end(run, &y)
		return nil
	}
	take := func() {
		if !s.observe || t < s.next-1e-9 {
			return
		}
		s.next += s.sample
		use := 0.0
		if s.hinged {
			if share, known := s.use(side); known {
				use = 100 * math.Abs(share)
			}
		}
		run.Series.TS = append(run.Series.TS, t)
		run.Series.TiltDeg = append(run.Series.TiltDeg, degrees(&y))
		run.Series.SideUsePct = append(run.Series.SideUsePct, use)
		for i := range s.count {
			run.Series.Lines[i] = append(run.Series.Lines[i], s.tension[i])
		}
		if s.hung != nil {
			run.Series.Weight = append(run.Series.Weight, [3]float64(y[iHung:iHung+3]))
		}
	}
	if ended := watch(); ended != "" {
		take()
		return finish(ended)
	}
	take()
	moved := false
	settle := func() {
		forward, _ := s.moment(&y)
		if s.onLow && s.rests() {
			s.rod = max(s.rod, -forward)
		}
		if s.direction = s.breaksAway(forward); s.direction != 0 {
			s.onLow = false
			if !moved {
				moved = true
				note("moving")
			}
		}
	}
	settle()
	stride := s.longestStep(&y)
	for steps := 1; t < s.until; steps++ {
		if steps%asksFall == 0 {
			if err := ctx.Err(); err != nil {
				return err
			}
			stride = s.longestStep(&y)
		}
		if steps > mostFall {
			break
		}
		h := min(stride, s.until-t)
		if s.observe {
			h = min(h, max(1e-9, s.next-t))
		}
		s.rates(&y, &k1)
		next := s.step(&y, &k1, h)
		event := s.happened(&next, &slackened, &tight)
		if event {
			low, high := 0.0, h
			for range 44 {
				middle := (low + high) / 2
				next = s.step(&y, &k1, middle)
				if s.happened(&next, &slackened, &tight) {
					high = middle
				} else {
					low = middle
				}
			}
			h = high
			next = s.step(&y, &k1, h)
		}
		for i := range s.count {
			s.hauled[i] += max(0, y[iRope+i]-next[iRope+i]) //nolint:gosec // count is mostLines at most
		}
		y, t = next, t+h
		s.slip(&y)
		if event && s.direction != 0 {
			switch {
			case y[iPhi] >= s.turned-1e-9:
				y[iPhi] = s.turned
				watch()
				take()
				note("landed")
				speed, kj := y[iOmega]*s.f.Tree.TopHeightM, s.inertia*y[iOmega]*y[iOmega]/2
				run.TipSpeedMS, run.LandingKj = &speed, &kj
				return finish(Goes)
			case s.hinged && y[iPhi] >= s.closes-1e-9:
				if ended := watch(); ended != "" {
					take()
					return finish(ended)
				}
				s.hinged = false
				note("closed")
			case s.direction < 0 && y[iPhi] <= s.low+1e-9 && y[iOmega] <= 0:
				y[iPhi], y[iOmega] = s.low, 0
				if s.sits {
					watch()
					take()
					note("sits back")
					return finish(SitsBack)
				}
				s.direction, s.onLow = 0, true
			case s.direction*y[iOmega] <= 0:
				y[iOmega], s.direction = 0, 0
			}
		}
		if ended := watch(); ended != "" {
			take()
			return finish(ended)
		}
		if s.direction == 0 {
			settle()
		}
		take()
	}
	if s.direction != 0 {
		return finish(Unfinished)
	}
	s.moment(&y)
	for i := range s.count {
		if l := &s.lines[i]; l.speed > 0 && s.tension[i] < 0.995*l.most {
			return finish(Unfinished)
		}
	}
	return finish(Stands)
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

// Working writes the sums that a fall begins with, and how it was followed.
func (f *Fall) Working(run FallRun) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const statics = "statics: moments about the hinge"
	s := newFaller(f)
	y := s.begin()
	forward, side := s.moment(&y)
	sheet.Add("W", "weight", n(f.Tree.MassKg)+"·9.80665/1000", s.weight, "kN", units.GravitySource)
	sheet.Add("I", "inertia about the hinge", "that about the centre of gravity + m·(height² + forward²)", f.inertia(), "kg·m²", "parallel axes; mass·top²/16 where none is given: "+working.Common)
	sheet.Add("D", "forward moment at the start", "weight, lines and wind", forward, "kN·m", statics)
	if f.Hinge != nil {
		sheet.Add("M", "moment that bends the hinge", "as given", f.Hinge.BendingKnm, "kN·m", "as given")
	}
	sheet.Add("S", "side moment at the start, + to the right", "weight, lines and wind", side, "kN·m", statics)
	if run.GoesAloneDeg != nil {
		sheet.Add("φ₁", "tilt from which it goes alone", "W·(forward·cos φ + height·sin φ) ≥ M, a wind from ahead taken off", *run.GoesAloneDeg, "°", statics)
	}
	sheet.Add("φ₂", "tilt at which its tip meets the ground", "as kind reach", run.TurnedDeg, "°", "geometry")
	sheet.Add("t", "time it was followed for", "I·φ̈ = D − M, the lines by their stretch, hauled and let out; fourth-order steps", run.TimeS, "s", "mechanics of a rigid body")
	return sheet.Steps()
}

// Cautions returns what must stand beside a fall.
func (f *Fall) Cautions(run FallRun) []string {
	cautions := []string{"Nobody stands in a line's path or in its bight, nor nearer than two lengths of the tree but who cuts."}
	s := newFaller(f)
	alone := math.Inf(1)
	if run.GoesAloneDeg != nil {
		alone = *run.GoesAloneDeg
	}
	for i := range run.Lines {
		_, ux, _, _ := s.lines[i].way(0, 1)
		if at := run.Lines[i].SlackAtDeg; at != nil && ux > 0 && *at < alone {
			if f.Lines[i].Haul != nil && run.Outcome == Goes {
				continue // it outran the haul for a moment, and the haul caught up
			}
			to := "the tree never goes alone"
			if !math.IsInf(alone, 1) {
				to = fmt.Sprintf("the tree needs it to %.3g°", alone)
			}
			cautions = append(cautions, fmt.Sprintf("%s: the pull is used up at %.3g°, %s. Haul on, or take out more before the cut.", run.Lines[i].Name, *at, to))
		}
	}
	if run.SideUsePct != nil && *run.SideUsePct > 70 {
		cautions = append(cautions, fmt.Sprintf("The hinge is used to %.0f %% sideways: hinge wood alone is never relied on against a heavy side lean.", *run.SideUsePct))
	} else if math.Abs(f.Tree.CogSideM) > 0.05*f.Tree.CogHeightM {
		cautions = append(cautions, "Its weight stands aside of the fall: hinge wood alone is never relied on against a heavy side lean.")
	}
	if f.Hinge != nil && run.SideUsePct == nil {
		cautions = append(cautions, "What the hinge holds sideways is not given: the side load is not judged.")
	}
	if run.TwistKnm > 0 {
		cautions = append(cautions, fmt.Sprintf("The hinge is twisted by up to %.3g kN·m: no limit is known for that.", run.TwistKnm))
	}
	if f.Back == nil {
		cautions = append(cautions, "Nothing is said of the back cut: that it cannot turn back is taken as held, by what is not known.")
	}
	if f.Wind != nil && f.Wind.SpeedMS > 0 {
		cautions = append(cautions, "Wind comes in gusts: the figure is for a steady one.")
	}
	return cautions
}
