package drop

import (
	"context"
	"math"

	"elkstay/core/units"
)

func radians(deg float64) float64 { return deg * math.Pi / 180 }

// mode says which forces act.
type mode int

const (
	tipping mode = iota
	slack
	taut
	running
)

// sim follows one case. All figures inside are in N, kg, m, s.
type sim struct {
	give            give
	m, inertia      float64
	c, tie          float64 // centre of gravity and tie above the cut
	length          float64
	block           float64 // below the cut
	over, aside     float64 // of the block from beneath the hinge, towards the fall and square to it
	share           float64 // of the top's way that the block goes
	line            float64 // beyond the block when it comes tight
	r               float64
	slip            float64 // line tension at which rope runs, N; infinite when locked off
	rope            float64 // damping of the line, N·s/m
	hinge           float64 // N·m
	mass, spring, d float64 // of the spar; mass 0: it stands still
	mode            mode
	coarse          bool            // a step is followed as near as a force is known, not as a film is drawn
	gone            <-chan struct{} // closed: nobody waits for it any more; nil: never
}

// left reports that nobody waits for the run any more.
func (s *sim) cancelled() bool {
	select {
	case <-s.gone:
		return true
	default:
		return false
	}
}

func newSim(c *SimCase) *sim {
	s := &sim{}
	energy := c.Energy()
	s.give.lay(&energy)
	s.m, s.c, s.tie, s.length = c.Piece.MassKg, c.Piece.CogAboveCutM, c.TieAboveCutM, c.Piece.LengthM
	s.inertia = given(c.Piece.InertiaKgM2, s.m*s.length*s.length/12)
	s.block, s.line, s.r = c.BlockBelowCutM, energy.LineM(), c.BlockEfficiency
	s.over, s.aside, s.share = c.BlockOverM, c.BlockAsideM, 1
	if c.BlockShare > 0 {
		s.share = c.BlockShare
	}
	s.slip = 1000 * hold(&energy) / s.r
	first := 1000 / s.give.slope[0]
	s.rope = 2 * given(c.RopeDampingRatio, 0.05) * math.Sqrt(first*s.m)
	s.hinge = 1000 * c.HingeMomentKnm
	if c.Spar != nil {
		s.mass, s.spring = c.Spar.MassKg, 1000*c.Spar.StiffnessKnM
		s.d = 2 * given(c.Spar.DampingRatio, 0.05) * math.Sqrt(s.spring*s.mass)
	}
	return s
}

// pull returns the tension of the give alone, N, when the line is longer by stretch.
func (g *give) pull(stretch float64) float64 {
	i := 0
	for i+1 < g.n && g.x[i+1] <= stretch {
		i++
	}
	return 1000 * (g.t[i] + (stretch-g.x[i])/g.slope[i])
}

// tied is where the tie is against the block: its distance, the unit vector from
// block to tie in the plane of the fall, and how fast the distance grows.
func (s *sim) tied(y *state) (distance, nx, nz, speed float64) {
	arm := s.tie - s.c
	sin, cos := math.Sincos(y[iTilt])
	dx, dz := y[ix]+arm*sin-s.share*y[iU]-s.over, y[iz]+arm*cos
	distance = math.Sqrt(dx*dx + dz*dz + s.aside*s.aside)
	if distance == 0 {
		return 0, 0, -1, 0
	}
	nx, nz = dx/distance, dz/distance
	vx, vz := y[iVx]+arm*cos*y[iSpin]-s.share*y[iVu], y[iVz]-arm*sin*y[iSpin]
	return distance, nx, nz, nx*vx + nz*vz
}

// tension returns the line's tension, N, before the device lets rope run.
func (s *sim) tension(distance, speed, run float64) float64 {
	stretch := distance - s.line - run
	if stretch <= 0 {
		return 0
	}
	return max(0, s.give.pull(stretch)+s.rope*speed)
}

// quickest is the shortest time in which a damped line is followed to its new
// stretch, s; a quicker one is taken to be there at once.
const quickest = 1e-5

// runSpeed is how fast rope runs while the tension stays at the device's hold: what
// the distance grows by, less what goes into stretch. The stretch closes in on the
// hold's own as its viscous part dies away.
func (s *sim) runSpeed(distance, speed, run float64) float64 {
	if s.rope*s.give.slope[0]/1000 < quickest {
		return speed
	}
	return speed - (s.slip-s.give.pull(distance-s.line-run))/s.rope
}

// rates is the motion of the present mode.
func (s *sim) rates(y, dy *state) {
	*dy = state{ix: y[iVx], iz: y[iVz], iTilt: y[iSpin], iU: y[iVu]}
	sin, cos := math.Sincos(y[iTilt])
	if s.mode == tipping {
		// (I+mc²)φ̈ + m·c·cosφ·ü = m·g·c·sinφ − M_h, and the spar's own balance.
		turning := s.m*units.Gravity*s.c*sin - s.hinge
		own, link := s.inertia+s.m*s.c*s.c, s.m*s.c*cos
		if s.mass == 0 {
			dy[iSpin] = turning / own
		} else {
			side := s.m*s.c*sin*y[iSpin]*y[iSpin] - s.spring*y[iU] - s.d*y[iVu]
			det := (s.m+s.mass)*own - link*link
			dy[iVu] = (side*own - link*turning) / det
			dy[iSpin] = ((s.m+s.mass)*turning - link*side) / det
		}
		// The centre of gravity rides on the hinge.
		dy[ix], dy[iz] = y[iVu]+s.c*cos*y[iSpin], -s.c*sin*y[iSpin]
		dy[iVx] = dy[iVu] + s.c*(cos*dy[iSpin]-sin*y[iSpin]*y[iSpin])
		dy[iVz] = -s.c * (sin*dy[iSpin] + cos*y[iSpin]*y[iSpin])
		return
	}
	distance, nx, nz, speed := s.tied(y)
	force := 0.0
	switch s.mode {
	case taut:
		force = min(s.slip, s.tension(distance, speed, y[iRun]))
	case running:
		force = s.slip
		dy[iRun] = s.runSpeed(distance, speed, y[iRun])
	}
	arm := s.tie - s.c
	dy[iVx] = -force * nx / s.m
	dy[iVz] = -force*nz/s.m - units.Gravity
	dy[iSpin] = -force * arm * (nx*cos - nz*sin) / s.inertia
	if s.mass > 0 {
		dy[iVu] = (s.share*force*nx - s.d*y[iVu] - s.spring*y[iU]) / s.mass
	}
}

// line and block forces of a state, N.
func (s *sim) forces(y *state) (line, block float64) {
	if s.mode == tipping || s.mode == slack {
		return 0, 0
	}
	distance, nx, nz, speed := s.tied(y)
	line = s.slip
	if s.mode == taut {
		// What the line's damping pulls at its first instant runs through the device as well.
		line = min(s.slip, s.tension(distance, speed, y[iRun]))
	}
	return line, line * math.Hypot(math.Hypot(nx, nz-s.r), s.aside/distance)
}

// struck reports whether an end of the piece is behind the stem's axis and more than
// a centimetre below the hinge, and how fast that end moves against the stem.
func (s *sim) struck(y *state) (speed float64, hit bool) {
	sin, cos := math.Sincos(y[iTilt])
	for _, along := range [2]float64{-s.c, s.length - s.c} {
		if y[ix]+along*sin < y[iU] && y[iz]+along*cos < s.block-0.01 {
			return math.Hypot(y[iVx]+along*cos*y[iSpin]-y[iVu], y[iVz]-along*sin*y[iSpin]), true
		}
	}
	return 0, false
}

// passed reports whether the present mode is at its end in a state.
func (s *sim) passed(y *state, face float64) bool {
	if s.mode == tipping {
		return y[iTilt] >= face
	}
	distance, _, _, speed := s.tied(y)
	stretch := distance - s.line - y[iRun]
	switch s.mode {
	case slack:
		return stretch > 0
	case taut:
		return stretch < 0 || speed > 0 && s.tension(distance, speed, y[iRun]) > s.slip
	case running:
		return s.runSpeed(distance, speed, y[iRun]) <= 0
	}
	return false
}

// change goes to the mode that follows the present one.
func (s *sim) change(y *state) {
	switch s.mode {
	case tipping:
		s.mode = slack
		if distance, _, _, _ := s.tied(y); distance > s.line {
			s.mode = taut
		}
	case slack, running:
		s.mode = taut
	case taut:
		s.mode = running
		if distance, _, _, _ := s.tied(y); distance-s.line-y[iRun] <= 0 {
			s.mode = slack
		}
	}
}

// tally is what is kept of a run while it goes on.
type tally struct {
	linePeak, linePeakAt, blockPeak float64
	first                           float64 // the tension when the peak was first reached
	tight                           bool
	passedWeight, over              bool // of the first catch
	eased                           bool // and the line is slack again, or pulls more again
	line                            float64
	least, most                     float64
	strike                          *Strike
	cutOff                          bool
	phases                          []Phase
	run                             float64
}

// observer hears of every accepted step.
type observer func(s *sim, t0, h float64, y0, k0, y1, k1 *state)

// follow runs a case from a state until it ends, in at most the given number of steps.
func (s *sim) follow(y state, until, face float64, most int, observe observer) tally {
	var out tally
	weight := s.m * units.Gravity
	note := func(name string, at float64) {
		if observe != nil {
			out.phases = append(out.phases, Phase{name, at})
		}
	}
	if s.mode == tipping {
		note("tipping", 0)
	}
	var k, k1 state
	s.rates(&y, &k)
	t, h := 0.0, 1e-3
	by := stepper{f: s.rates, allow: 1}
	if s.coarse {
		by.allow = coarser
	}
	steps := 0
	for t < until {
		if steps++; steps > most || steps%asksEvery == 0 && s.cancelled() {
			out.cutOff = true
			break
		}
		longest := s.longest()
		h = min(h, longest, until-t)
		excess := by.step(&y, &k, h)
		if excess > 1 && h > shortestStep {
			h = max(shortestStep, h*max(0.2, 0.9*math.Pow(excess, -0.2)))
			continue
		}
		grown := h * min(4, 0.9*math.Pow(max(excess, 1e-6), -0.2))
		ended := s.passed(&by.next, face)
		hit := false
		if s.mode != tipping && out.strike == nil {
			_, hit = s.struck(&by.next)
		}
		if ended || hit {
			var more int
			h, more = s.closeIn(&by, &y, &k, face, h, ended, hit)
			steps += more
			ended = s.passed(&by.next, face)
		}
		k1 = by.k[6]
		if observe != nil {
			observe(s, t, h, &y, &k, &by.next, &k1)
		}
		t += h
		y = by.next
		out.see(s, t, &y, weight)
		if hit && out.strike == nil {
			if speed, struck := s.struck(&y); struck {
				out.strike = &Strike{t, speed}
				note("struck", t)
			}
		}
		if out.strike != nil && (out.over || s.coarse) || s.coarse && out.eased {
			break
		}
		h = grown
		if ended {
			was := s.mode
			s.change(&y)
			if was == tipping {
				note("falling", t)
			}
			if s.mode == taut && !out.tight {
				out.tight = true
				note("caught", t)
			}
			h = 1e-4
			s.rates(&y, &k)
		} else {
			k = k1
		}
	}
	out.run = y[iRun]
	return out
}

// see keeps what a moment has more of than those before it.
func (t *tally) see(s *sim, at float64, y *state, weight float64) {
	line, block := s.forces(y)
	if line > t.linePeak {
		// While rope runs the tension stays: the peak is when it was first reached, not when
		// its last digit was.
		if line > t.first*(1+1e-6) {
			t.first, t.linePeakAt = line, at
		}
		t.linePeak = line
	}
	t.blockPeak = max(t.blockPeak, block)
	t.least, t.most = min(t.least, y[iU]), max(t.most, y[iU])
	if line > weight {
		t.passedWeight = true
	} else if t.passedWeight && !t.over && s.mode != running {
		t.over = true
	}
	t.eased = t.over && (t.eased || line == 0 || line > t.line)
	t.line = line
}

// begin is the state in which the piece starts, at rest on its hinge.
func (s *sim) begin(tilt float64) (y state) {
	sin, cos := math.Sincos(tilt)
	y[ix], y[iz], y[iTilt] = s.c*sin, s.block+s.c*cos, tilt
	return y
}

// Simulate follows a case without Faults through time, without its spread. The error is that
// of ctx.
func Simulate(ctx context.Context, c *SimCase) (Run, error) {
	s := newSim(c)
	s.gone = ctx.Done()
	energy := c.Energy()
	run := Run{CeilingKn: Solve(&energy).LinePeakKn, Series: Series{TS: []float64{}, LineKn: []float64{}, BlockKn: []float64{}, Piece: [][3]float64{}, SparM: []float64{}}}
	sample, next := given(c.SampleS, 0.01), 0.0
	series := &run.Series
	out := s.follow(s.begin(c.start()), given(c.UntilS, 6), c.face(), mostSteps, func(s *sim, t0, h float64, y0, k0, y1, k1 *state) {
		for ; next <= t0+h; next += sample {
			y := between(y0, k0, y1, k1, h, max(0, (next-t0)/h))
			line, block := s.forces(&y)
			series.TS = append(series.TS, next)
			series.LineKn = append(series.LineKn, line/1000)
			series.BlockKn = append(series.BlockKn, block/1000)
			series.Piece = append(series.Piece, [3]float64{y[ix], y[iz], y[iTilt] * 180 / math.Pi})
			series.SparM = append(series.SparM, y[iU])
		}
	})
	run.Phases, run.StrikesStem, run.CutOff = out.phases, out.strike, out.cutOff
	run.RunM, run.PushbackM, run.SparPeakToPeakM = out.run, -out.least, out.most-out.least
	if out.tight {
		line, block, device := out.linePeak/1000, out.blockPeak/1000, s.r*out.linePeak/1000
		run.LinePeakKn, run.BlockPeakKn, run.DevicePeakKn, run.LinePeakAtS = &line, &block, &device, &out.linePeakAt
	}
	return run, ctx.Err()
}
