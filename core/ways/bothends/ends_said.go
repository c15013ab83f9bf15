package bothends

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways/roped"
	"elkstay/core/working"
)

// lineSum writes the sum behind one of the two lines.
func (o *BothEnds) lineSum(sheet *working.Sheet, side *roped.Roped) {
	i := slices.Index(o.sides[:], side.AsGiven())
	worst := o.steepest(i)
	sheet.Add("T", "at rest, where its way down is steepest: of all places that both lines allow, the lowest", fmt.Sprintf("W = %s kN; %s° from upright", working.Figure(o.WeightKn()), working.Figure(worst.uprightDeg)), worst.kn, "kN", "statics: forces in a plane")
	sheet.Add("T₀", "when the cut lets go", "followed as a body over its hinge and onto two lines that stretch, undamped", o.caught.PeakKn[i], "kN", "equations of motion, fourth-order steps")
	sheet.Add("f", "what swings out of the plane of the two points", "3 − 2·cos of its angle from upright", o.aside[i], "", "energy")
	sheet.Add("T₁", "peak", "the more of T and T₀·f", side.Catch.LinePeakKn, "kN", "")
}

// letGo says what happens when either line fails, slips or is let go: of all moments on the way down the one that
// loads the other line hardest, and what is struck at any of them. That it comes to the ground when it is nearly there
// is no news.
func (o *BothEnds) letGo() {
	for i := range o.sides {
		other := 1 - i
		side := o.sides[other]
		below := o.MostBelow(side.Settings.TieM)
		peak, fallsM, strikes, onto := 0.0, 0.0, "", ""
		for k := range o.moments {
			at := &o.moments[k]
			long := max(0.05, o.caught.LineM[other]+at.out[other])
			held := drop.Held{MassKg: o.Counts(), SinkM: at.hang.Ties[other].DropM, LineM: long, LeadM: side.LeadM(), Rope: side.Rig.Rope.Rope, Efficiency: side.Ratio(), AnchorStiffnessKnM: job.Or(side.Rig.AnchorStiffnessKnM, 0)}
			low := side.Block.Z - long - below
			// Beneath where it is tied then: what stands above that is not in its way.
			under := o.FloorUnder(side.Block.X, side.Block.Y, 0.5, side.Block.Z-long, o.WoodRound())
			hits := low < under.Z
			if hits && onto == "" && under.Name != space.TheGround {
				onto = under.Name
			}
			// Of moments that are alike but for the last digit the first.
			if caught := held.Solve(); caught.LinePeakKn > peak*(1+1e-6) {
				peak, fallsM = caught.LinePeakKn, at.hang.Ties[other].DropM
				strikes = fmt.Sprintf("its lower end comes to %s", o.Height(max(0, low)))
				if hits {
					strikes = "it strikes " + under.Name
				}
			}
		}
		if onto != "" {
			strikes = "it strikes " + onto
		}
		limit := ""
		if rated := o.Limits.RateTie(side.Rig, 0, peak); rated.Known {
			limit = fmt.Sprintf(" of %s", units.Print(units.Force, o.System, rated.Limit.Kn))
		}
		o.falls[i] = fmt.Sprintf("When the line at the %s is let go, its balance falls %s onto the line at the %s: %s%s locked off; %s.",
			endNames[i], o.Height(fallsM), endNames[other], units.Print(units.Force, o.System, peak), limit, strikes)
	}
}

// Words are what is called to both hands, and what happens when either lets go.
func (o *BothEnds) Words() course.Words {
	if !o.known {
		return course.Words{}
	}
	words := course.Words{Call: "Butt and tip: let out alike", Cautions: o.cautions(), Steady: o.Steadied(), Drawn: o.Tag != nil}
	if program := o.set.Program; len(program) > 0 {
		said := make([]string, 0, len(program))
		for _, s := range program {
			said = append(said, o.endStep(&s))
		}
		words.Call = strings.Join(said, ", then ")
	}
	words.Call += o.Draws()
	return words
}

// endStep is one step of a program as it is called, to each hand its own words.
func (o *BothEnds) endStep(s *job.EndStep) string {
	does := "let out " + o.Height(s.ByM)
	if s.ByM < 0 {
		does = "take in " + o.Height(-s.ByM)
	}
	switch s.Line {
	case job.EndButt:
		return "tip: hold; butt: " + does
	case job.EndTip:
		return "butt: hold; tip: " + does
	}
	return "both: " + does
}

func (o *BothEnds) cautions() []string {
	list := append([]string{}, o.falls[:]...)
	if o.leaves != "" {
		list = append(list, strings.ToUpper(o.leaves[:1])+o.leaves[1:]+".")
	}
	switch face := o.set.FaceDeg; {
	case face == nil:
		list = append(list, fmt.Sprintf("How far it turns on its hinge is not said: the worst of letting go at once, at %g° and at %g° is told.", facesUnknown[1], facesUnknown[2]))
	case *face == 0:
		list = append(list, "It is taken as let go at rest where it grows.")
	case o.breaks != "":
		list = append(list, o.breaks)
	}
	return append(list, "Nothing damps it. The two hands must be able to hear each other.")
}

// Simulate gives every moment from its cut down.
func (o *BothEnds) Simulate(_ context.Context, _ int, trace *course.Trace) error {
	if !o.known {
		trace.Why = "There is no drop onto a line to follow."
		return nil
	}
	trace.Kind, trace.Course = "course", o.frames()
	return nil
}

// letOutAt is how fast lines are taken to be let out, m/s (common practice, no source).
const letOutAt = 0.3

// frames are all moments, from the cut down.
func (o *BothEnds) frames() []course.Frame {
	list := []course.Frame{}
	long := o.Length()
	put := func(at float64, step int, p space.Pose, kn [2]float64) {
		axis := r3.Unit(r3.Sub(o.Tip, o.Cut))
		along := func(m float64) line.Point { return space.PointOf(p.Place(r3.Scale(m, axis))) }
		list = append(list, course.Frame{AtS: at, Step: step, Butt: along(0), Tip: along(long), ButtAt: along(o.sides[0].Settings.TieM), TipAt: along(o.sides[1].Settings.TieM), ButtKn: kn[0], TipKn: kn[1]})
	}
	off, seconds := o.plane.aside(o.Weight.At), 0.0
	for k := range o.caught.TS {
		share := float64(k) / float64(max(1, len(o.caught.TS)-1))
		seconds = o.caught.TS[k]
		put(seconds, -1, o.poseOf(o.caught.X[k], o.caught.Z[k], o.caught.Deg[k], off*(1-share), 1-share), o.caught.Kn[k])
	}
	for k := range o.moments {
		m := &o.moments[k]
		if k > 0 {
			before := &o.moments[k-1]
			seconds += max(math.Abs(m.out[0]-before.out[0]), math.Abs(m.out[1]-before.out[1])) / letOutAt
		} else {
			seconds += 0.5
		}
		put(seconds, m.step, o.poseOf(m.hang.Cog.X, m.hang.Cog.Z, m.hang.AttitudeDeg, 0, 0), [2]float64{m.hang.Ties[0].TensionKn, m.hang.Ties[1].TensionKn})
	}
	return list
}

// endsFigures gives the lines and the way down of a piece held at both ends.
func (o *BothEnds) endsFigures() *course.EndsFigures {
	f := &course.EndsFigures{Lines: []course.EndFigures{}, Steps: []string{}, Ghosts: []course.Frame{}, Ends: o.leaves}
	for i, side := range o.sides {
		one := course.EndFigures{End: endNames[i], Rig: side.Rig.Name, TieM: side.Settings.TieM, SlackM: side.Settings.SlackM, Points: []line.Point{}, RestKn: o.steepest(i).kn, PeakKn: side.Catch.LinePeakKn, RunM: o.caught.RunM[i]}
		for _, stop := range side.Points[1:] {
			one.Points = append(one.Points, stop.Point)
		}
		f.Lines = append(f.Lines, one)
	}
	for k := range o.set.Program {
		f.Steps = append(f.Steps, o.endStep(&o.set.Program[k]))
	}
	frames := o.frames()
	first := len(o.caught.TS)
	for k := first; k < len(frames); k++ {
		if k == first || k == len(frames)-1 || frames[k].Step != frames[k+1].Step {
			f.Ghosts = append(f.Ghosts, frames[k])
		}
	}
	return f
}

// Figures are both lines and the way down on them.
func (o *BothEnds) Figures(f *course.Figures) {
	o.Roped.Figures(f)
	if !o.known {
		return
	}
	f.Ends = o.endsFigures()
	lines := make([]roped.Holding, 2)
	for i, side := range o.sides {
		end := [2]*job.End{&o.set.Butt, &o.set.Tip}[i]
		lines[i] = roped.Holding{Tie: side.Tie, To: side.Block, TightKn: job.Or(end.TightKn, 0)}
	}
	f.Face = o.Face(r3.Sub(o.plane.spot(o.moments[0].hang.Cog, 0), o.Weight.At), lines)
}
