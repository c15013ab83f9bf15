package fell

import (
	"math"

	"elkstay/core/search"
)

// falling is one fall on its way: where it is, and what has been seen of it so far.
type falling struct {
	*faller
	run              *FallRun
	y                fallState
	t                float64 // s
	across           float64 // the moment sideways, kN·m, + to the right
	tight, slackened [mostLines]bool
	moved            bool
}

// tilt of a state, degrees.
func tilt(y *fallState) float64 { return y[iPhi] * 180 / math.Pi }

func (f *falling) note(name string) {
	f.run.Phases = append(f.run.Phases, FallPhase{name, f.t, tilt(&f.y)})
}

// start keeps what the lines carry before anything moves.
func (f *falling) start() {
	_, f.across = f.moment(&f.y)
	for i := range f.count {
		f.tight[i] = f.tension[i] > 0
		f.run.Lines[i].KnAtRest, f.run.Lines[i].PeakKn = f.tension[i], f.tension[i]
	}
}

// watch keeps the extremes, and returns what ends the fall here, or "".
func (f *falling) watch() string {
	_, f.across = f.moment(&f.y)
	if ended := f.watchLines(); ended != "" {
		return ended
	}
	f.run.HighestDeg = max(f.run.HighestDeg, tilt(&f.y))
	if !f.hinged {
		return ""
	}
	f.twist = max(f.twist, math.Abs(f.weight*f.side*math.Sin(f.y[iPhi])))
	share, known := f.use(f.across)
	if !known {
		return ""
	}
	if share = math.Abs(share); share > f.best || !f.seen {
		f.best, f.bestAt, f.seen = share, tilt(&f.y), true
	}
	if share >= 1-1e-9 {
		f.note("torn")
		return Tears
	}
	return ""
}

// watchLines keeps the extremes of its lines and of a weight in one, and returns what ends the fall, or "".
func (f *falling) watchLines() string {
	for i := range f.count {
		line := &f.run.Lines[i]
		if f.tension[i] > line.PeakKn {
			line.PeakKn, line.PeakAtDeg = f.tension[i], tilt(&f.y)
		}
		if f.tension[i] > 0 {
			f.tight[i] = true
		} else if f.tight[i] && !f.slackened[i] {
			f.slackened[i] = true
			at := tilt(&f.y)
			line.SlackAtDeg = &at
		}
		if f.tension[i] >= f.lines[i].breaks*(1-1e-9) {
			f.note("parted " + line.Name)
			return Parts
		}
	}
	w := f.hung
	if w == nil {
		return ""
	}
	w.most = max(w.most, w.kn)
	if w.kn >= f.lines[w.line].breaks*(1-1e-9) {
		f.note("parted " + f.run.Lines[w.line].Name)
		return Parts
	}
	if !w.down && f.y[iHung+2] <= w.ground+1e-9 {
		w.down, f.known = true, false
		f.note("weight down")
	}
	return ""
}

// take keeps a sample of the series where the next one is due.
func (f *falling) take() {
	if !f.observe || f.t < f.next-1e-9 {
		return
	}
	f.next += f.sample
	use := 0.0
	if f.hinged {
		if share, known := f.use(f.across); known {
			use = 100 * math.Abs(share)
		}
	}
	series := &f.run.Series
	series.TS = append(series.TS, f.t)
	series.TiltDeg = append(series.TiltDeg, tilt(&f.y))
	series.SideUsePct = append(series.SideUsePct, use)
	for i := range f.count {
		series.Lines[i] = append(series.Lines[i], f.tension[i])
	}
	if f.hung != nil {
		series.Weight = append(series.Weight, [3]float64(f.y[iHung:iHung+3]))
	}
}

// settle lets a tree at rest stay there, or begin to turn.
func (f *falling) settle() {
	forward, _ := f.moment(&f.y)
	if f.onLow && f.rests() {
		f.rod = max(f.rod, -forward)
	}
	if f.direction = f.breaksAway(forward); f.direction == 0 {
		return
	}
	f.onLow = false
	if !f.moved {
		f.moved = true
		f.note("moving")
	}
}

// advance goes on by a step, at most to what happens first within it, and returns what ends the fall, or "".
func (f *falling) advance(stride float64) string {
	h := min(stride, f.until-f.t)
	if f.observe {
		h = min(h, max(1e-9, f.next-f.t))
	}
	var k1 fallState
	f.rates(&f.y, &k1)
	next := f.step(&f.y, &k1, h)
	event := f.happened(&next, &f.slackened, &f.tight)
	if event {
		h = search.Root(44, 0, h, func(part float64) float64 {
			next = f.step(&f.y, &k1, part)
			if f.happened(&next, &f.slackened, &f.tight) {
				return 1
			}
			return -1
		})
		next = f.step(&f.y, &k1, h)
	}
	for i := range f.count {
		f.hauled[i] += max(0, f.y[iRope+i]-next[iRope+i]) //nolint:gosec // count is mostLines at most
	}
	f.y, f.t = next, f.t+h
	f.slip(&f.y)
	if event && f.direction != 0 {
		if ended := f.reached(); ended != "" {
			return ended
		}
	}
	if ended := f.watch(); ended != "" {
		f.take()
		return ended
	}
	if f.direction == 0 {
		f.settle()
	}
	f.take()
	return ""
}

// reached goes through what a tree that turns has come to, and returns what ends the fall, or "".
func (f *falling) reached() string {
	switch {
	case f.y[iPhi] >= f.turned-1e-9:
		f.y[iPhi] = f.turned
		f.watch()
		f.take()
		f.note("landed")
		speed, kj := f.y[iOmega]*f.f.Tree.TopHeightM, f.inertia*f.y[iOmega]*f.y[iOmega]/2
		f.run.TipSpeedMS, f.run.LandingKj = &speed, &kj
		return Goes
	case f.hinged && f.y[iPhi] >= f.closes-1e-9:
		if ended := f.watch(); ended != "" {
			f.take()
			return ended
		}
		f.hinged = false
		f.note("closed")
	case f.direction < 0 && f.y[iPhi] <= f.low+1e-9 && f.y[iOmega] <= 0:
		f.y[iPhi], f.y[iOmega] = f.low, 0
		if f.sits {
			f.watch()
			f.take()
			f.note("sits back")
			return SitsBack
		}
		f.direction, f.onLow = 0, true
	case f.direction*f.y[iOmega] <= 0:
		f.y[iOmega], f.direction = 0, 0
	}
	return ""
}

// still is what has become of a tree that nothing has ended by the time it is followed for.
func (f *falling) still() string {
	if f.direction != 0 {
		return Unfinished
	}
	f.moment(&f.y)
	for i := range f.count {
		if l := &f.lines[i]; l.speed > 0 && f.tension[i] < 0.995*l.most {
			return Unfinished
		}
	}
	return Stands
}

// finish writes what was kept of the fall.
func (f *falling) finish(outcome string) {
	f.run.Outcome, f.run.TimeS = outcome, f.t
	if w := f.hung; w != nil {
		if outcome == Goes {
			f.swingOut(&f.y, f.run)
		}
		most := w.most
		f.run.Lines[w.line].AnchorPeakKn = &most
	}
	for i := range f.count {
		f.run.Lines[i].HauledM, f.run.Lines[i].PaidOutM = f.hauled[i], f.paid[i]
	}
	f.end(f.run, &f.y)
}
