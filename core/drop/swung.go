package drop

import (
	"math"
	"slices"

	"elkstay/core/search"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Swung is a piece that comes off onto a line from a block above it: it drops through
// its slack, swings down on the stretching line, and lets rope run where the hold is
// passed. It is followed through time in the upright plane through block and tie: as a
// body that turns about its centre of gravity as the line pulls it, and as a mass at its tie,
// which is given what it falls besides while it turns to hang (TurnM) as speed at the start,
// downwards. The graver counts, but no more than 15 % above the body's: how its weight is
// spread and what leads out of the plane is not known better. No damping: an upper bound on the
// way down, through the bottom and up on the far side.
type Swung struct {
	*Case          // its Course is the line and the fall without the swing
	OutM   float64 // of the tie from the block, level
	DownM  float64 // of the tie below the block
	TurnM  float64 // what the centre of gravity falls besides, until the piece hangs from its tie
	CogOut float64 // of the centre of gravity from the tie, level, away from the block, m
	CogUp  float64 // of the centre of gravity above the tie, m
	// Its radius of gyration about its centre of gravity, square to that plane, m; 0: a slender rod's.
	GyrationM float64
}

// spread is how far above the body's own figures those of a mass at its tie are followed.
const spread = 1.15

// damping is the share of the critical one that a tree's sway loses at the least (common practice, no source).
const damping = 0.05

// swungFor is how long a swing is followed at most, s.
const swungFor = 12

// A Pull is the line at a moment of a swing: its tension, kN, and how far it stands from straight down
// towards where the piece began, degrees; below nought beyond its block.
type Pull struct{ Kn, OffDeg float64 }

// pullsApart is how far apart the ways are, degrees, in each of which the hardest pull of a swing is kept.
const pullsApart = 30

// pullWays are the sine and the cosine of those ways, from level out over straight down to level beyond the block.
var pullWays = func() (ways [1 + 180/pullsApart][2]float64) {
	for k := range ways {
		ways[k][0], ways[k][1] = math.Sincos((90 - float64(k)*pullsApart) * math.Pi / 180)
	}
	return ways
}()

// Solve follows the piece with rope running at the given tension on the lead, kN;
// infinite: locked off. LowestM is how far the tie comes below the block.
func (s *Swung) Solve(holdKn float64) Catch {
	catch, _ := s.followed(holdKn, false)
	return catch
}

// A Holder is what the block of a swing sits on.
type Holder struct {
	OutKn, AsideKn float64 // of the lead, in the plane of the swing and square to it, for every kN of the line
	Sways          []Mode  // what it may sway as under what is level, each by itself
}

// A Mode is a tree swaying as one mass where its block sits, kg, at so many radians a second.
type Mode struct{ Kg, Omega float64 }

// SolvePulls is what Solve says, and the moments of the swing at which the line pulls its block hardest one way or another in the upright
// plane of the swing.
func (s *Swung) SolvePulls(holdKn float64) (Catch, []Pull) { return s.followed(holdKn, true) }

// swayStep is how much coarser a swing is followed for what sways under it: that is slower than the line, and a hundredth of it is enough.
const swayStep = 2

// Bends is the level pull by which a tree is bent at the most that sways under the swing and gives way to the line as it does, kN; 0: nothing
// sways.
func (s *Swung) Bends(holdKn float64, on Holder) (kn float64) {
	slip := holdKn / s.BlockEfficiency
	if slip <= s.WeightKn() {
		return 0
	}
	var g give
	g.lay(s.Case)
	step := swayStep * s.step(&g)
	for _, mode := range on.Sways {
		bodies := s.bodies(1 - s.EnergyLostPct/100)
		body := &bodies[len(bodies)-1]
		body.on, body.mode = &on, mode
		body.follow(&g, s.Course.LineM, slip, s.Piece.MassKg/1000, min(step, 0.2/mode.Omega))
		kn = max(kn, body.bent)
	}
	return kn
}

// A Frame is a moment of a swing.
type Frame struct {
	TS      float64
	X, Z    float64 // of the piece's balance from the block, m: X towards where it began
	TurnDeg float64 // since the start, from upright towards where it began
	Pull            // of the line then
	RunM    float64
}

// Film follows the piece as a body with rope running at a tension on the lead, kN, and shows it every so many seconds, and when its line
// pulls most, until it turns on the far side.
func (s *Swung) Film(holdKn, every float64) (frames []Frame, most Frame) {
	var g give
	g.lay(s.Case)
	next := 0.0
	bodies := s.bodies(1 - s.EnergyLostPct/100)
	body := &bodies[len(bodies)-1]
	body.see = func(t, tension, turn float64) {
		now := Frame{t, body.x, body.z, turn * 180 / math.Pi, Pull{tension, math.Atan2(body.tieX, -body.tieZ) * 180 / math.Pi}, body.run}
		if now.Kn > most.Kn {
			most = now
		}
		if t >= next-1e-9 {
			frames, next = append(frames, now), t+every
		}
	}
	body.follow(&g, s.Course.LineM, holdKn/s.BlockEfficiency, s.Piece.MassKg/1000, s.step(&g))
	return frames, most
}

// step is how finely it is followed, s.
func (s *Swung) step(g *give) float64 {
	stiffest := g.slope[0]
	for i := range g.n {
		stiffest = min(stiffest, g.slope[i])
	}
	return max(2e-4, min(5e-3, 0.06*math.Sqrt(s.Piece.MassKg/1000*stiffest)))
}

// followed is what Solve says, and what SolvePulls does where that is asked for.
func (s *Swung) followed(holdKn float64, withPulls bool) (end Catch, pulls []Pull) {
	var g give
	g.lay(s.Case)
	weight, r := s.WeightKn(), s.BlockEfficiency
	slip := holdKn / r
	end.Holds = slip > weight
	line := s.Course.LineM
	if !end.Holds {
		x, _ := g.at(slip)
		// It comes down on it from where it began to straight beneath.
		pulls = []Pull{{slip, math.Atan2(s.OutM, s.DownM) * 180 / math.Pi}, {slip, 0}}
		return Catch{LinePeakKn: slip, BlockPeakKn: (1 + r) * slip, DevicePeakKn: r * slip, StretchM: x, Amplification: slip / weight, Runs: true, RunM: inf, LowestM: inf}, pulls
	}
	kept := 1 - s.EnergyLostPct/100
	tonnes := s.Piece.MassKg / 1000
	step := s.step(&g)
	bodies := s.bodies(kept)
	for i := range bodies {
		bodies[i].keep = withPulls
		bodies[i].follow(&g, line, slip, tonnes, step)
	}
	run, peak, low := bodies[0].run, bodies[0].peak, max(s.DownM, bodies[0].low)
	if len(bodies) > 1 {
		body := &bodies[1]
		run, peak, low = max(body.run, min(run, spread*body.run)), max(body.peak, min(peak, spread*body.peak)), max(low, body.low)
	}
	end.Runs = run > 0
	stretch, _ := g.at(peak)
	atRest, _ := g.at(weight)
	end.LinePeakKn, end.BlockPeakKn, end.DevicePeakKn = peak, (1+r)*peak, r*peak
	end.StretchM, end.Amplification, end.RunM = stretch, peak/weight, run
	// However deep either came: the tie is no further from its block than the line, what runs of it and its stretch.
	end.LowestM = max(min(low, line+run+stretch), line+run+atRest)
	if withPulls {
		for i := range bodies {
			pulls = bodies[i].pulled(pulls, peak)
		}
	}
	return end, pulls
}

// bodies are the piece as a mass at its tie, and as a body where it has a lever to turn on.
func (s *Swung) bodies(kept float64) []swinging {
	list := []swinging{{x: s.OutM, z: -s.DownM, vz: -math.Sqrt(2 * units.Gravity * s.TurnM * kept)}}
	if s.CogOut == 0 && s.CogUp == 0 {
		return list
	}
	// Turning at the end of its lever it is quicker than the line alone.
	square := s.GyrationM * s.GyrationM
	if square == 0 {
		square = s.Piece.LengthM * s.Piece.LengthM / 12
	}
	return append(list, swinging{x: s.OutM + s.CogOut, z: -s.DownM + s.CogUp, leverX: -s.CogOut, leverZ: -s.CogUp, perInertia: 1 / square})
}

// swinging is a body on a line from a block at the origin: its centre of gravity, the speeds of that and
// of its turn, and the way from the centre of gravity to the tie at the start.
type swinging struct {
	x, z           float64
	vx, vz, spin   float64
	leverX, leverZ float64
	perInertia     float64 // mass over moment of inertia, 1/m²
	run, peak, low float64
	keep           bool                           // what pulls when is kept
	on             *Holder                        // nil: nothing sways
	mode           Mode                           // of the holder; 0: it stands
	sways          [2]swaying                     // in the plane of the swing, and square to it
	bough          *swungBough                    // what the block sits on instead; nil: no bough
	bent           float64                        // the level pull that the holder is bent by at the most, kN
	see            func(t, tension, turn float64) // every moment; nil: nobody looks
	tieX, tieZ     float64                        // of the tie from the block
	level          float64                        // part of the tension at this moment, kN
	most           [len(pullWays)]float64
	at             [len(pullWays)][3]float64 // tension, and the sine and cosine of its line
}

// swaying is a tree under a pull: how far off it is, m, how fast, and how much faster.
type swaying struct{ off, speed, more float64 }

// keeps keeps what pulls hardest each way: so much, along a line whose sine and cosine from straight down are given.
func (b *swinging) keeps(tension, sin, cos float64) {
	for k := range pullWays {
		if kn := tension * (sin*pullWays[k][0] + cos*pullWays[k][1]); kn > b.most[k] {
			b.most[k], b.at[k] = kn, [3]float64{tension, sin, cos}
		}
	}
}

// pulled adds what it kept to some pulls, none above what the line sees at most, kN, and none twice.
func (b *swinging) pulled(list []Pull, mostKn float64) []Pull {
	for _, at := range b.at {
		p := Pull{min(at[0], mostKn), math.Atan2(at[1], at[2]) * 180 / math.Pi}
		if p.Kn > 0 && !slices.Contains(list, p) {
			list = append(list, p)
		}
	}
	return list
}

// follow moves the body until it turns on the far side.
func (b *swinging) follow(g *give, line, slip, tonnes, step float64) {
	sin, cos := 0.0, 1.0 // of its turn since the start
	pull := func() (ax, az, turning, tension float64) {
		rx, rz := cos*b.leverX+sin*b.leverZ, cos*b.leverZ-sin*b.leverX
		x, z := b.x+rx-b.sways[0].off, b.z+rz
		if b.bough != nil {
			x, z = x-b.bough.off*b.bough.way.Out, z-b.bough.off*b.bough.way.Up
		}
		b.low, b.tieX, b.tieZ = max(b.low, -z), x, z
		square, taut := x*x+z*z, line+b.run
		if square <= taut*taut {
			return 0, -units.Gravity, 0, 0
		}
		long := math.Sqrt(square)
		if tension = g.tension(long - taut); tension > slip {
			at, _ := g.at(slip)
			b.run, tension = long-line-at, slip
		}
		if b.level = tension * x / long; b.keep {
			b.keeps(tension, x/long, -z/long)
		}
		// Per unit of mass: forces in kN over tonnes are m/s².
		fx, fz := -tension/tonnes*x/long, -tension/tonnes*z/long
		return fx, fz - units.Gravity, b.perInertia * (rz*fx - rx*fz), tension
	}
	plumb, side := math.Abs(b.x) < 0.01, math.Signbit(b.x)
	ax, az, turning, tension := pull()
	turn := 0.0
	if b.see != nil {
		b.see(0, tension, 0)
	}
	for t := 0.0; t < swungFor; t += step {
		// Leapfrog: symplectic, so that no energy creeps in or out over the swing.
		b.vx, b.vz, b.spin = b.vx+ax*step/2, b.vz+az*step/2, b.spin+turning*step/2
		b.x, b.z = b.x+b.vx*step, b.z+b.vz*step
		if b.perInertia > 0 {
			sin, cos = turnedOn(sin, cos, b.spin*step)
			turn += b.spin * step
		}
		b.level = 0
		if b.bough != nil {
			b.bough.goesOn(step)
		}
		ax, az, turning, tension = pull()
		b.vx, b.vz, b.spin = b.vx+ax*step/2, b.vz+az*step/2, b.spin+turning*step/2
		b.peak = max(b.peak, tension)
		if b.see != nil {
			b.see(t+step, tension, turn)
		}
		if b.bough != nil {
			b.bough.pulled(tension, b.tieX, b.tieZ, step)
		}
		if b.on != nil {
			b.bends(step, [2]float64{b.level + tension*b.on.OutKn, tension * b.on.AsideKn})
		}
		if b.run > 500 {
			return
		}
		// Turned on the far side: what follows is the same way back, with less.
		if math.Signbit(b.x) != side && math.Signbit(b.vx) == side || plumb && b.vz > 0 && tension < 0.5*b.peak {
			return
		}
	}
}

// bends takes what holds the block on by a step under a level pull, kN, in the plane of the swing and square to it.
func (b *swinging) bends(step float64, kn [2]float64) {
	if b.mode.Kg > 0 {
		square := b.mode.Omega * b.mode.Omega
		for i := range b.sways {
			s := &b.sways[i]
			s.speed += s.more * step / 2
			s.off += s.speed * step
			s.more = 1000*kn[i]/b.mode.Kg - square*s.off - 2*damping*b.mode.Omega*s.speed
			s.speed += s.more * step / 2
			kn[i] = b.mode.Kg * square * s.off / 1000
		}
	}
	b.bent = max(b.bent, far(kn[0], kn[1]))
}

// far is how long what is so long along two axes is: of lengths, which neither overflow nor vanish.
func far(x, z float64) float64 { return math.Sqrt(x*x + z*z) }

// turnedOn are the sine and cosine of an angle turned on by another: by its series while it is small, of which what is
// left out is less than the rounding.
func turnedOn(sin, cos, by float64) (float64, float64) {
	if math.Abs(by) > 0.05 {
		s, c := math.Sincos(by)
		return sin*c + cos*s, cos*c - sin*s
	}
	q := by * by
	s, c := by*(1-q/6*(1-q/20*(1-q/42))), 1-q/2*(1-q/12*(1-q/30*(1-q/56)))
	return sin*c + cos*s, cos*c - sin*s
}

// tension is that of the line at a stretch, kN.
func (g *give) tension(stretch float64) float64 {
	i := 0
	for i+1 < g.n && g.x[i+1] <= stretch {
		i++
	}
	return g.t[i] + (stretch-g.x[i])/g.slope[i]
}

// RunFor is how far the rope must run for the line to peak at no more than a tension, m,
// and whether that can be.
func (s *Swung) RunFor(lineKn float64) (runM float64, reachable bool) {
	catch := s.Solve(lineKn * s.BlockEfficiency)
	return catch.RunM, catch.Holds
}

// HoldFor is the tension on the lead at which a given run (m) is taken, kN: a longer run is
// never harder. It is closed in on by halving and rounded to the lower hold, the longer run.
func (s *Swung) HoldFor(runM float64) float64 {
	low, high := s.WeightKn()*s.BlockEfficiency, s.Solve(inf).LinePeakKn*s.BlockEfficiency
	if runM <= 0 {
		return high
	}
	return search.Root(40, low, high, func(hold float64) float64 {
		if s.Solve(hold).RunM > runM {
			return -1
		}
		return 1
	})
}

// Working writes what the swing was followed from, and what came of it.
func (s *Swung) Working(catch Catch) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const mechanics = "mechanics of a mass on a stretching line, in small steps, without damping"
	weight := s.WeightKn()
	sheet.Add("W", "weight of the piece", n(s.Piece.MassKg)+"·9.80665/1000", weight, "kN", "standard gravity 9.80665 m/s², CGPM 1901")
	sheet.Add("a", "tie from the block, level", "as rigged", s.OutM, "m", "geometry")
	sheet.Add("z", "tie below the block", "as rigged", s.DownM, "m", "geometry")
	sheet.Add("L", "line from block to tie, slack included", "√(a² + z²) + s = "+n(math.Hypot(s.OutM, s.DownM))+" + "+n(s.Course.LineM-math.Hypot(s.OutM, s.DownM)), s.Course.LineM, "m", "geometry")
	sheet.Add("h", "what it falls besides while it turns to hang", "|c−t| and what stands above its tie", s.TurnM, "m", "geometry")
	sheet.Add("T", "peak of the line", "the most on the way down and through the bottom", catch.LinePeakKn, "kN", mechanics)
	if catch.Runs && catch.Holds {
		sheet.Add("R", "rope that runs", "what the distance grows beyond L and the stretch at the hold", catch.RunM, "m", mechanics)
	}
	sheet.Add("T/W", "amplification", "T/W", catch.Amplification, "", "statics")
	return sheet.Steps()
}
