package drop

import (
	"math"

	"elkstay/core/units"
	"elkstay/core/working"
)

// A Swung is a piece that comes off onto a line from a block above it: it drops through
// its slack, swings down on the stretching line, and lets rope run where the hold is
// passed. It is followed through time as a mass at its tie; what it falls besides while it
// turns to hang (TurnM) is given it as speed at the start, downwards. No damping: an upper
// bound of what a line that gives takes.
type Swung struct {
	*Case         // its Course is the line and the fall without the swing
	OutM  float64 // of the tie from the block, level
	DownM float64 // of the tie below the block
	TurnM float64 // what the centre of gravity falls besides, until the piece hangs from its tie
}

// swungFor is how long a swing is followed at most, s.
const swungFor = 12

// Solve follows the piece with rope running at the given tension on the lead, kN;
// infinite: locked off. LowestM is how far the tie comes below the block.
func (s *Swung) Solve(holdKn float64) Catch {
	var g give
	g.lay(s.Case)
	weight, r := s.WeightKn(), s.BlockEfficiency
	slip := holdKn / r
	end := Catch{Holds: slip > weight}
	line := s.Course.LineM
	if !end.Holds {
		x, _ := g.at(slip)
		return Catch{LinePeakKn: slip, BlockPeakKn: (1 + r) * slip, DevicePeakKn: r * slip, StretchM: x, Amplification: slip / weight, Runs: true, RunM: inf, LowestM: inf}
	}
	kept := 1 - s.EnergyLostPct/100
	x, z := s.OutM, -s.DownM
	vx, vz := 0.0, -math.Sqrt(2*units.Gravity*s.TurnM*kept)
	// Per unit of mass: forces in kN over tonnes are m/s².
	tonnes := s.Piece.MassKg / 1000
	stiffest := g.slope[0]
	for i := range g.n {
		stiffest = min(stiffest, g.slope[i])
	}
	step := max(2e-4, min(4e-3, 0.03*math.Sqrt(tonnes*stiffest)))
	run, peak, low := 0.0, 0.0, s.DownM
	pull := func() (ax, az, tension float64) {
		far := math.Hypot(x, z)
		stretch := far - line - run
		if stretch > 0 {
			if tension = g.tension(stretch); tension > slip {
				at, _ := g.at(slip)
				run, tension = far-line-at, slip
				end.Runs = true
			}
		}
		return -tension / tonnes * x / max(far, 1e-9), -tension/tonnes*z/max(far, 1e-9) - units.Gravity, tension
	}
	ax, az, _ := pull()
	for t := 0.0; t < swungFor; t += step {
		// Leapfrog: symplectic, so that no energy creeps in or out over the swing.
		vx, vz = vx+ax*step/2, vz+az*step/2
		x, z = x+vx*step, z+vz*step
		var tension float64
		ax, az, tension = pull()
		vx, vz = vx+ax*step/2, vz+az*step/2
		peak, low = max(peak, tension), max(low, -z)
		if run > 500 {
			break
		}
		// Turned on the far side: what follows is the same way back, no harder.
		if x < 0 && vx >= 0 || x <= 0 && s.OutM < 0.01 && vz > 0 && tension < 0.5*peak {
			break
		}
	}
	stretch, _ := g.at(peak)
	atRest, _ := g.at(weight)
	end.LinePeakKn, end.BlockPeakKn, end.DevicePeakKn = peak, (1+r)*peak, r*peak
	end.StretchM, end.Amplification, end.RunM = stretch, peak/weight, run
	end.LowestM = max(low, line+run+atRest)
	return end
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
	for range 40 {
		middle := (low + high) / 2
		if s.Solve(middle).RunM > runM {
			low = middle
		} else {
			high = middle
		}
	}
	return high
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
