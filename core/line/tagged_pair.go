package line

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/working"
)

// A Strung line holds a body at one place from one point in space. Lengths in m.
type Strung struct {
	AtM   float64 // along the body from its butt
	Point r3.Vec
	LineM float64 // from there to its tie
}

// A TaggedPair is a straight body on two lines, drawn aside by a third that pulls with a known
// force. Lengths in m, forces in kN, z up.
type TaggedPair struct {
	WeightKn   float64
	CogM, TagM float64 // along the body from its butt
	Lines      [2]Strung
	Towards    r3.Vec // where the tag line leads to
	PullKn     float64
}

// A PairDrawn is where a body on two lines hangs still.
type PairDrawn struct {
	Butt, Axis r3.Vec // its butt, and the unit vector from there to its tip
	Kn         [2]float64
	Pull       r3.Vec // what the tag line does to it, kN
	AsideM     float64
}

// Along is a place of the body.
func (d *PairDrawn) Along(m float64) r3.Vec { return r3.Add(d.Butt, r3.Scale(m, d.Axis)) }

// The unknowns of a place: how far the butt moves, two turns of the axis, and both tensions.
const unknowns = 7

// Bounds of the search: rounds of Newton's, pulls on the way to the whole one, and lines that come
// tight or slack in turn.
const (
	pairRounds = 40
	pairPulls  = 8
	pairTurns  = 6
)

// Solve finds where it hangs still, beginning where it hangs undrawn, or drawn as nearly: forces
// and moments on it are nil, and each line is as long as it is or slack. found is false where
// there is no such place short of where the tag line leads.
func (t *TaggedPair) Solve(from PairDrawn, drawn bool) (d PairDrawn, found bool) {
	// In shares of the weight, so that all that is to be nil is of one size.
	one := *t
	one.PullKn, one.WeightKn = t.PullKn/t.WeightKn, 1
	d = from.in(1 / t.WeightKn)
	found = one.solve(&d, drawn)
	return d.in(t.WeightKn), found
}

// in is the same place with its forces in another unit.
func (d PairDrawn) in(unit float64) PairDrawn {
	d.Kn[0], d.Kn[1], d.Pull = d.Kn[0]*unit, d.Kn[1]*unit, r3.Scale(unit, d.Pull)
	return d
}

func (t *TaggedPair) solve(d *PairDrawn, drawn bool) bool {
	taut := [2]bool{}
	for i := range t.Lines {
		taut[i] = r3.Norm(r3.Sub(t.Lines[i].Point, d.Along(t.Lines[i].AtM))) > t.Lines[i].LineM-1e-4 && (d.Kn[i] > 0 || drawn)
	}
	first := 1
	if drawn {
		first = pairPulls
	}
	for k := first; k <= pairPulls; k++ {
		if !t.settle(d, &taut, t.PullKn*float64(k)/pairPulls) {
			return false
		}
	}
	return true
}

// settle moves a place on to a pull, letting lines come tight and slack.
func (t *TaggedPair) settle(d *PairDrawn, taut *[2]bool, pullKn float64) bool {
	for range pairTurns {
		if !taut[0] && !taut[1] || !t.newton(d, *taut, pullKn) {
			return false
		}
		right := true
		for i := range t.Lines {
			long := r3.Norm(r3.Sub(t.Lines[i].Point, d.Along(t.Lines[i].AtM)))
			switch {
			case taut[i] && d.Kn[i] < -1e-9:
				taut[i], right = false, false
			case !taut[i] && long > t.Lines[i].LineM+1e-6:
				taut[i], right = true, false
			}
		}
		if right {
			return true
		}
	}
	return false
}

// newton closes in on a place with lines that are taut or slack.
func (t *TaggedPair) newton(d *PairDrawn, taut [2]bool, pullKn float64) bool {
	for range pairRounds {
		left, ok := t.left(d, taut, pullKn)
		if !ok {
			return false
		}
		worst := 0.0
		for _, v := range left {
			worst = max(worst, math.Abs(v))
		}
		if worst < 1e-10 {
			return true
		}
		var slopes [unknowns][unknowns]float64
		for n := range unknowns {
			const by = 1e-6
			var move [unknowns]float64
			move[n] = by
			more := t.moved(d, &move)
			there, ok := t.left(&more, taut, pullKn)
			if !ok {
				return false
			}
			for m := range unknowns {
				slopes[m][n] = (there[m] - left[m]) / by
			}
		}
		move, ok := solved(slopes, left)
		if !ok {
			return false
		}
		// No further at once than the picture of it holds.
		far := 0.0
		for n := range 5 {
			far = max(far, math.Abs(move[n]))
		}
		share := min(1, 0.4/max(far, 1e-12))
		for n := range move {
			move[n] *= -share
		}
		*d = t.moved(d, &move)
	}
	return false
}

// moved is a place moved on.
func (t *TaggedPair) moved(d *PairDrawn, by *[unknowns]float64) PairDrawn {
	out := *d
	out.Butt = r3.Add(d.Butt, r3.Vec{X: by[0], Y: by[1], Z: by[2]})
	e, f := across(d.Axis)
	out.Axis = r3.Unit(r3.Add(d.Axis, r3.Add(r3.Scale(by[3], e), r3.Scale(by[4], f))))
	for i := range out.Kn {
		out.Kn[i] = d.Kn[i] + by[5+i]
	}
	return out
}

// across are two directions square to one and to each other.
func across(axis r3.Vec) (e, f r3.Vec) {
	e = r3.Cross(axis, r3.Vec{Z: 1})
	if r3.Norm(e) < 0.3 {
		e = r3.Cross(axis, r3.Vec{X: 1})
	}
	e = r3.Unit(e)
	return e, r3.Cross(axis, e)
}

// left is what is left of forces, of moments square to the body, and of lengths, in shares of the
// weight and in metres.
func (t *TaggedPair) left(d *PairDrawn, taut [2]bool, pullKn float64) (out [unknowns]float64, ok bool) {
	lead := r3.Sub(t.Towards, d.Along(t.TagM))
	far := r3.Norm(lead)
	if far < 0.05 {
		return out, false
	}
	d.Pull = r3.Scale(pullKn/far, lead)
	weight := r3.Vec{Z: -t.WeightKn}
	sum, turns := r3.Add(weight, d.Pull), r3.Add(r3.Scale(t.CogM, weight), r3.Scale(t.TagM, d.Pull))
	for i := range t.Lines {
		up := r3.Sub(t.Lines[i].Point, d.Along(t.Lines[i].AtM))
		long := r3.Norm(up)
		if long < 1e-6 {
			return out, false
		}
		force := r3.Scale(d.Kn[i]/long, up)
		sum, turns = r3.Add(sum, force), r3.Add(turns, r3.Scale(t.Lines[i].AtM, force))
		out[5+i] = long - t.Lines[i].LineM
		if !taut[i] {
			out[5+i] = d.Kn[i]
		}
	}
	e, f := across(d.Axis)
	out[0], out[1], out[2] = sum.X, sum.Y, sum.Z
	out[3], out[4] = r3.Dot(turns, e), r3.Dot(turns, f)
	return out, true
}

// solved solves as many equations as unknowns by elimination; ok is false where they tell nothing.
func solved(a [unknowns][unknowns]float64, b [unknowns]float64) (x [unknowns]float64, ok bool) {
	for n := range unknowns {
		best := n
		for m := n + 1; m < unknowns; m++ {
			if math.Abs(a[m][n]) > math.Abs(a[best][n]) {
				best = m
			}
		}
		if math.Abs(a[best][n]) < 1e-12 {
			return x, false
		}
		a[n], a[best], b[n], b[best] = a[best], a[n], b[best], b[n]
		for m := n + 1; m < unknowns; m++ {
			share := a[m][n] / a[n][n]
			for k := n; k < unknowns; k++ {
				a[m][k] -= share * a[n][k]
			}
			b[m] -= share * b[n]
		}
	}
	for n := unknowns - 1; n >= 0; n-- {
		sum := b[n]
		for k := n + 1; k < unknowns; k++ {
			sum -= a[n][k] * x[k]
		}
		x[n] = sum / a[n][n]
	}
	return x, true
}

// Working writes the sum behind a place.
func (t *TaggedPair) Working(d PairDrawn) []working.Step {
	var sheet working.Sheet
	const statics = "statics: a body at rest"
	sheet.Add("P", "pull at the tag line", "as given", t.PullKn, "kN", "as given")
	sheet.Add("Pₕ", "of it, level", "along the line from the piece to where it leads", math.Hypot(d.Pull.X, d.Pull.Y), "kN", "geometry")
	for i, kn := range d.Kn {
		sheet.Add(fmt.Sprintf("T%d", i+1), []string{"line at the butt", "line at the tip"}[i], "all forces and all moments on it are nil, both lines as long as they are", kn, "kN", statics)
	}
	sheet.Add("a", "its balance off where it hangs undrawn", "by the plan", d.AsideM, "m", statics)
	return sheet.Steps()
}
