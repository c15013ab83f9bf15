package drop

import (
	"math"

	"elkstay/core/units"
)

// BoughLooks are the shares of the way from its base to the block at which the bending of a bough is looked at.
var BoughLooks = [...]float64{0, 0.15, 0.3, 0.45, 0.6, 0.75, 0.9}

// A Bough is what a block sits on that sways across itself under the line and its lead, which pull it that way with PerLine for every kN of
// the line.
type Bough struct {
	PerLine float64
	AtM     float64 // of the block from its base
	Resists [len(BoughLooks)]float64
	Modes   []BoughMode
}

// A BoughMode is one way in which it sways: as one mass at its tip, kg, at so many radians a second.
type BoughMode struct {
	Mode
	AtBlock float64                  // share of the tip's way that the block goes
	Bends   [len(BoughLooks)]float64 // what it bends the bough by where that is looked at, for every m/s² of the tip, kN·m

	off, quick, more float64
}

// goesOn moves a mode on by a step, as fast as it goes; pulled ends the step under a pull across the bough at its block, kN.
func (m *BoughMode) goesOn(step float64) {
	m.quick += m.more * step / 2
	m.off += m.quick * step
}

func (m *BoughMode) pulled(kn, step float64) {
	m.more = 1000*m.AtBlock*kn/m.Kg - m.Omega*(m.Omega*m.off+2*damping*m.quick)
	m.quick += m.more * step / 2
}

// bounceSteps are the steps that the quickest of line and bough takes a radian in.
const bounceSteps = 12

// Bounces is how many times as much a bough feels that the block sits on, as a catch comes onto it, as under the peak of that catch at rest: its
// own line's peak, kN, and the rope that runs, m, as over a block that stands still. The piece is a mass that comes with the energy which
// that takes; the bough gives way to the line and loses 5 % of critical, of the line nothing is lost. At least 1.
func (c *Case) Bounces(peakKn, runM float64, on *Bough) (times float64) {
	weight := c.WeightKn()
	if peakKn <= weight || on.PerLine <= 0 || math.IsInf(runM, 1) {
		return 1
	}
	var g give
	g.lay(c)
	tonnes := weight / units.Gravity
	held, taken := g.at(peakKn)
	stiffest := g.slope[0]
	for i := range g.n {
		stiffest = min(stiffest, g.slope[i])
	}
	speed := math.Sqrt(2 * max(0, taken-weight*held+(peakKn-weight)*runM) / tonnes)
	step, slowest := math.Sqrt(tonnes*stiffest), math.Inf(1)
	// On its line it speeds up until that carries it.
	modes := on.follows(math.Hypot(speed, units.Gravity*math.Sqrt(tonnes*held/peakKn)), held)
	lightest := tonnes
	for n := range modes {
		m := &modes[n]
		goes := on.PerLine * m.AtBlock
		lightest = min(lightest, m.Kg/1000/max(1e-9, goes*goes))
		step, slowest = min(step, 1/m.Omega), min(slowest, m.Omega)
	}
	step = min(step, math.Sqrt(lightest*stiffest)) / bounceSteps
	still := on.feels(nil, on.PerLine*peakKn)
	var at, run, tension float64
	if len(modes) == 0 {
		return coarse
	}
	// Once it pulls as hard as it will, its sway only dies away.
	end := min(swungFor, 4*math.Pi/slowest+2*math.Pi*math.Sqrt(tonnes*held/peakKn))
	for t := 0.0; t < math.Pi/slowest || speed > 0 && t < end; t += step {
		speed += (units.Gravity - tension/tonnes) * step / 2
		at += speed * step
		stretch := at - run
		for n := range modes {
			m := &modes[n]
			m.goesOn(step)
			stretch -= on.PerLine * m.AtBlock * m.off
		}
		tension = 0
		if stretch > 0 {
			tension = g.tension(stretch)
			if runM > 0 && tension > peakKn {
				run, tension = run+stretch-held, peakKn
			}
		}
		speed += (units.Gravity - tension/tonnes) * step / 2
		for n := range modes {
			modes[n].pulled(on.PerLine*tension, step)
		}
		times = max(times, on.feels(modes, on.PerLine*tension)/still)
	}
	return max(1, coarse*times)
}

// coarse is what a bough of so many lumps and looks may feel more (by a finer one, testdata/bough.py).
const coarse = 1.05

// quickly is the angle, radians, that a mode sways through while a pull comes on, from which it feels no more than at rest but for what coarse
// has: what a ramp overshoots by is at most twice its inverse.
const quickly = 40

// follows are the modes that are slow enough to sway under a pull that comes on over so far, m, at the most so fast, m/s.
func (b *Bough) follows(speed, over float64) (list []BoughMode) {
	for _, m := range b.Modes {
		if m.Omega*over < quickly*speed {
			list = append(list, m)
		}
	}
	return list
}

// feels is what it feels at the most of where it is looked at, under a pull across it, kN, and its own masses.
func (b *Bough) feels(modes []BoughMode, kn float64) (most float64) {
	for k, look := range BoughLooks {
		bend := kn * b.AtM * (1 - look)
		for n := range modes {
			bend -= modes[n].more * modes[n].Bends[k]
		}
		most = max(most, math.Abs(bend)/b.Resists[k])
	}
	return most
}

// An Across is the way that a bough is pulled by a swing: parts of a unit vector level out in the plane of the swing and up, and what the lead
// pulls it that way for every kN of the line.
type Across struct{ Out, Up, Lead float64 }

// swungBough is a bough under a swing.
type swungBough struct {
	*Bough
	way   Across
	modes []BoughMode
	off   float64 // how far its block is, m
	most  float64
}

func (b *swungBough) goesOn(step float64) {
	b.off = 0
	for n := range b.modes {
		b.modes[n].goesOn(step)
		b.off += b.modes[n].AtBlock * b.modes[n].off
	}
}

func (b *swungBough) pulled(tension, tieX, tieZ, step float64) {
	kn := 0.0
	if long := far(tieX, tieZ); tension > 0 && long > 0 {
		kn = tension * ((tieX*b.way.Out+tieZ*b.way.Up)/long + b.way.Lead)
	}
	for n := range b.modes {
		b.modes[n].pulled(kn, step)
	}
	b.most = max(b.most, b.feels(b.modes, kn))
}

// Bounces is how many times as much a bough feels that the block of a swing sits on, swaying one way across itself, as under a pull at rest that
// way, kN. At least 1.
func (s *Swung) Bounces(holdKn, stillKn float64, on *Bough, way Across) float64 {
	slip := holdKn / s.BlockEfficiency
	if slip <= s.WeightKn() || stillKn <= 0 {
		return 1
	}
	var g give
	g.lay(s.Case)
	step := swayStep * s.step(&g)
	// It comes no faster than from where it begins to as deep as its line lets it.
	held, _ := g.at(min(slip, stillKn))
	modes := on.follows(math.Sqrt(2*units.Gravity*(s.TurnM+s.CogUp+s.Course.LineM)), held)
	for _, m := range modes {
		step = min(step, 0.2/m.Omega)
	}
	bodies := s.bodies(1 - s.EnergyLostPct/100)
	body := &bodies[len(bodies)-1]
	body.bough = &swungBough{Bough: on, way: way, modes: modes}
	body.follow(&g, s.Course.LineM, slip, s.Piece.MassKg/1000, step)
	return max(1, coarse*body.bough.most/on.feels(nil, stillKn))
}
