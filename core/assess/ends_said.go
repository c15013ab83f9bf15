package assess

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/units"
	"elkstay/core/working"
)

// endWorking writes the sum behind one of the two lines.
func (o *Outcome) endWorking(sheet *working.Sheet, side *Outcome) {
	e := o.ends
	i := slices.Index(e.sides[:], side)
	worst := e.steepest(i)
	sheet.Add("T", "at rest, where its way down is steepest: of all places that both lines allow, the lowest", fmt.Sprintf("W = %s kN; %s° from upright", working.Figure(o.weightKn()), working.Figure(worst.uprightDeg)), worst.kn, "kN", "statics: forces in a plane")
	sheet.Add("T₀", "when the cut lets go", "followed as a body over its hinge and onto two lines that stretch, undamped", e.caught.PeakKn[i], "kN", "equations of motion, fourth-order steps")
	sheet.Add("f", "what swings out of the plane of the two points", "3 − 2·cos of its angle from upright", e.aside[i], "", "energy")
	sheet.Add("T₁", "peak", "the more of T and T₀·f", side.Catch.LinePeakKn, "kN", "")
}

// endsLetGo says what happens when either line fails, slips or is let go: of all moments on the way down the one that
// loads the other line hardest, and what is struck at any of them. That it comes to the ground when it is nearly there
// is no news.
func (v *Survey) endsLetGo(o *Outcome, e *endsOf, now *Standing) {
	for i := range e.sides {
		other := 1 - i
		side := e.sides[other]
		below := o.mostBelow(side.Settings.TieM)
		peak, fallsM, strikes, onto := 0.0, 0.0, "", ""
		for k := range e.course {
			at := &e.course[k]
			long := max(0.05, e.caught.LineM[other]+at.out[other])
			held := drop.Held{MassKg: o.counts(), SinkM: at.hang.Ties[other].DropM, LineM: long, LeadM: side.leadM(), Rope: side.Rig.Rope.Rope, Efficiency: side.Ratio(), AnchorStiffnessKnM: job.Or(side.Rig.AnchorStiffnessKnM, 0)}
			low := side.block.Z - long - below
			// Beneath where it is tied then: what stands above that is not in its way.
			under := v.floorUnder(side.block.X, side.block.Y, 0.5, side.block.Z-long, v.woodRound(o, now))
			hits := low < under.z
			if hits && onto == "" && under.name != theGround {
				onto = under.name
			}
			// Of moments that are alike but for the last digit the first.
			if caught := held.Solve(); caught.LinePeakKn > peak*(1+1e-6) {
				peak, fallsM = caught.LinePeakKn, at.hang.Ties[other].DropM
				strikes = fmt.Sprintf("its lower end comes to %s", v.Height(max(0, low)))
				if hits {
					strikes = "it strikes " + under.name
				}
			}
		}
		if onto != "" {
			strikes = "it strikes " + onto
		}
		limit := ""
		if rated := v.limits.RateTie(side.Rig, 0, peak); rated.Known {
			limit = fmt.Sprintf(" of %s", units.Print(units.Force, v.System, rated.Limit.Kn))
		}
		e.falls[i] = fmt.Sprintf("When the line at the %s is let go, its balance falls %s onto the line at the %s: %s%s locked off; %s.",
			endNames[i], v.Height(fallsM), endNames[other], units.Print(units.Force, v.System, peak), limit, strikes)
	}
}

func (bothEnds) call(v *Survey, o *Outcome) string {
	if o.ends == nil {
		return ""
	}
	program, tag := o.ends.set.Program, ""
	if o.tag != nil {
		tag = "; tag: draw to " + o.tag.anchor
	}
	if len(program) == 0 {
		return "Butt and tip: let out alike" + tag
	}
	said := make([]string, 0, len(program))
	for _, s := range program {
		said = append(said, v.endStep(&s))
	}
	return strings.Join(said, ", then ") + tag
}

// endStep is one step of a program as it is called, to each hand its own words.
func (v *Survey) endStep(s *job.EndStep) string {
	does := "let out " + v.Height(s.ByM)
	if s.ByM < 0 {
		does = "take in " + v.Height(-s.ByM)
	}
	switch s.Line {
	case job.EndButt:
		return "tip: hold; butt: " + does
	case job.EndTip:
		return "butt: hold; tip: " + does
	}
	return "both: " + does
}

func (bothEnds) cautions(o *Outcome) []string {
	if o.ends == nil {
		return nil
	}
	list := append([]string{}, o.ends.falls[:]...)
	if o.ends.ends != "" {
		list = append(list, strings.ToUpper(o.ends.ends[:1])+o.ends.ends[1:]+".")
	}
	switch told := o.ends.set.FaceDeg; {
	case told == nil:
		list = append(list, fmt.Sprintf("How far it turns on its hinge is not said: the worst of letting go at once, at %g° and at %g° is told.", facesUnknown[1], facesUnknown[2]))
	case *told == 0:
		list = append(list, "It is taken as let go at rest where it grows.")
	case o.ends.breaks != "":
		list = append(list, o.ends.breaks)
	}
	return append(list, "Nothing damps it. The two hands must be able to hear each other.")
}

func (bothEnds) because(v *Survey, o *Outcome) string { return v.becauseHeld("Held at both ends", o) }

func (bothEnds) simulate(_ context.Context, v *Survey, o *Outcome, _ int, trace *Trace) error {
	trace.Kind, trace.Course = "course", v.courseFrames(o)
	return nil
}

// letOutAt is how fast lines are taken to be let out, m/s (common practice, no source).
const letOutAt = 0.3

// A CourseFrame is one moment of a piece held at both ends.
type CourseFrame struct {
	AtS    float64    `json:"at_s"`
	Step   int        `json:"step" doc:"Of the program, from 0; −1: before it"`
	Butt   line.Point `json:"butt"`
	Tip    line.Point `json:"tip"`
	ButtAt line.Point `json:"butt_at" doc:"Where the line at the butt is tied"`
	TipAt  line.Point `json:"tip_at"`
	ButtKn float64    `json:"butt_kn"`
	TipKn  float64    `json:"tip_kn"`
}

// courseFrames are all moments, from the cut down.
func (v *Survey) courseFrames(o *Outcome) []CourseFrame {
	e := o.ends
	list := []CourseFrame{}
	long := o.Length()
	put := func(at float64, step int, p pose, kn [2]float64) {
		axis := r3.Unit(r3.Sub(o.tip, o.cut))
		along := func(m float64) line.Point { return pointOf(p.place(r3.Scale(m, axis))) }
		list = append(list, CourseFrame{AtS: at, Step: step, Butt: along(0), Tip: along(long), ButtAt: along(e.sides[0].Settings.TieM), TipAt: along(e.sides[1].Settings.TieM), ButtKn: kn[0], TipKn: kn[1]})
	}
	off, seconds := e.plane.aside(o.Weight.at), 0.0
	for k := range e.caught.TS {
		share := float64(k) / float64(max(1, len(e.caught.TS)-1))
		seconds = e.caught.TS[k]
		put(seconds, -1, e.poseOf(o, e.caught.X[k], e.caught.Z[k], e.caught.Deg[k], off*(1-share), 1-share), e.caught.Kn[k])
	}
	for k := range e.course {
		m := &e.course[k]
		if k > 0 {
			before := &e.course[k-1]
			seconds += max(math.Abs(m.out[0]-before.out[0]), math.Abs(m.out[1]-before.out[1])) / letOutAt
		} else {
			seconds += 0.5
		}
		put(seconds, m.step, e.poseOf(o, m.hang.Cog.X, m.hang.Cog.Z, m.hang.AttitudeDeg, 0, 0), [2]float64{m.hang.Ties[0].TensionKn, m.hang.Ties[1].TensionKn})
	}
	return list
}

// EndsFigures are the two lines of a piece and its way down.
type EndsFigures struct {
	Lines  []EndFigures  `json:"lines" nullable:"false" doc:"At its butt, at its tip"`
	Steps  []string      `json:"steps" nullable:"false" doc:"What is called, step by step"`
	Ghosts []CourseFrame `json:"ghosts" nullable:"false" doc:"As it first hangs, and at the end of every step"`
	Ends   string        `json:"ends" doc:"Where the program leaves it; empty: on the ground, by itself"`
}

// EndFigures is one of the two lines.
type EndFigures struct {
	End    string       `json:"end" enum:"butt,tip"`
	Rig    string       `json:"rig"`
	TieM   float64      `json:"tie_m" doc:"From the cut along the piece"`
	SlackM float64      `json:"slack_m"`
	Points []line.Point `json:"points" nullable:"false" doc:"From its block to its device"`
	RestKn float64      `json:"rest_kn" doc:"At the steepest of its way down"`
	PeakKn float64      `json:"peak_kn"`
	RunM   float64      `json:"run_m" doc:"Rope that runs when the cut lets go"`
}

// endsFigures gives the lines and the way down of a piece held at both ends.
func (v *Survey) endsFigures(o *Outcome) *EndsFigures {
	e := o.ends
	if e == nil {
		return nil
	}
	f := &EndsFigures{Lines: []EndFigures{}, Steps: []string{}, Ghosts: []CourseFrame{}, Ends: e.ends}
	for i, side := range e.sides {
		one := EndFigures{End: endNames[i], Rig: side.Rig.Name, TieM: side.Settings.TieM, SlackM: side.Settings.SlackM, Points: []line.Point{}, RestKn: e.steepest(i).kn, PeakKn: side.Catch.LinePeakKn, RunM: e.caught.RunM[i]}
		for _, stop := range side.points[1:] {
			one.Points = append(one.Points, stop.Point)
		}
		f.Lines = append(f.Lines, one)
	}
	for k := range e.set.Program {
		f.Steps = append(f.Steps, v.endStep(&e.set.Program[k]))
	}
	frames := v.courseFrames(o)
	first := len(e.caught.TS)
	for k := first; k < len(frames); k++ {
		if k == first || k == len(frames)-1 || frames[k].Step != frames[k+1].Step {
			f.Ghosts = append(f.Ghosts, frames[k])
		}
	}
	return f
}
