package calc

import (
	"context"

	"elkstay/core/crane"
	"elkstay/core/cut"
	"elkstay/core/fell"
	"elkstay/core/haul"
	"elkstay/core/line"
	"elkstay/core/section"
	"elkstay/core/spar"
	"elkstay/core/swing"
	"elkstay/core/timber"
	"elkstay/core/working"
)

// Beside is what stands beside the figures of every answer.
type Beside struct {
	Working  []working.Step `json:"working" nullable:"false"`
	Cautions []string       `json:"cautions" nullable:"false"`
}

// LimbAnswer is the answer of kind limb.
type LimbAnswer struct {
	timber.LimbWeight
	Beside
}

// Limb weighs a whole limb.
func Limb(r *timber.Limb) LimbAnswer {
	w := r.Weigh()
	return LimbAnswer{w, Beside{r.Working(w), r.Cautions()}}
}

// LineAnswer is the answer of kind line.
type LineAnswer struct {
	line.Tensions
	Beside
}

// Line follows a rope's way.
func Line(r *line.Path) LineAnswer {
	t := line.Tensions{Legs: []line.Leg{}, Points: []line.Turn{}}
	r.SolveInto(&t)
	return LineAnswer{t, Beside{r.Working(t), r.Cautions(t)}}
}

// HaulAnswer is the answer of kind haul.
type HaulAnswer struct {
	haul.Advantage
	Beside
}

// Haul works out a pulley system.
func Haul(r *haul.System) HaulAnswer {
	a := r.Solve()
	return HaulAnswer{a, Beside{r.Working(a), r.Cautions(a)}}
}

// VectorAnswer is the answer of kind vector.
type VectorAnswer struct {
	haul.Gain
	Beside
}

// Vector works out a pull at the middle of a tight line.
func Vector(r *haul.Sideways) VectorAnswer {
	g := r.Solve()
	return VectorAnswer{g, Beside{r.Working(g), r.Cautions(g)}}
}

// FellAnswer is the answer of kind fell.
type FellAnswer struct {
	fell.Need
	Beside
}

// Fell works out what pulls a tree over.
func Fell(r *fell.Felling) FellAnswer {
	n := r.Solve()
	return FellAnswer{n, Beside{r.Working(n), r.Cautions(n)}}
}

// PickAnswer is the answer of kind pick.
type PickAnswer struct {
	crane.Lift
	Beside
}

// Pick works out a crane lift.
func Pick(r *crane.Pick) PickAnswer {
	l := r.Solve()
	return PickAnswer{l, Beside{r.Working(l), r.Cautions(l)}}
}

// ReleaseAnswer is the answer of kind release.
type ReleaseAnswer struct {
	crane.Released
	Beside
}

// Release works out what happens as a piece comes free on the hook.
func Release(r *crane.Release) ReleaseAnswer {
	d := r.Solve()
	return ReleaseAnswer{d, Beside{r.Working(d), r.Cautions(d)}}
}

// SnapAnswer is the answer of kind snap.
type SnapAnswer struct {
	cut.Parting
	Beside
}

// Snap works out two overlapping cuts and a push.
func Snap(r *cut.Snap) SnapAnswer {
	p := r.Solve()
	return SnapAnswer{p, Beside{r.Working(p), r.Cautions(p)}}
}

// SwingAnswer is the answer of kind swing.
type SwingAnswer struct {
	swing.Arc
	Beside
}

// Swing works out where a piece goes when it leaves.
func Swing(r *swing.Swing) SwingAnswer {
	a := r.Solve()
	return SwingAnswer{a, Beside{r.Working(a), r.Cautions(a)}}
}

// SparAnswer is the answer of kind spar.
type SparAnswer struct {
	spar.Standing
	Beside
}

// Spar works out what the standing stem feels.
func Spar(r *spar.Spar) SparAnswer {
	s := r.Solve()
	return SparAnswer{s, Beside{r.Working(s), r.Cautions(s)}}
}

// SectionAnswer is the answer of kind section.
type SectionAnswer struct {
	section.Plan
	Beside
}

// Section finds where to cut the whole stem.
// The error is that of ctx.
func Section(ctx context.Context, r *section.Problem) (SectionAnswer, error) {
	p, err := r.Solve(ctx)
	if err != nil {
		return SectionAnswer{}, err
	}
	return SectionAnswer{p, Beside{r.Working(p), r.Cautions(p)}}, nil
}

// WeighInAnswer is the answer of kind weigh-in.
type WeighInAnswer struct {
	timber.Learned
	Beside
}

// WeighIn learns from what the scale said.
func WeighIn(r *timber.WeighIn) WeighInAnswer {
	l := r.Learn()
	return WeighInAnswer{l, Beside{r.Working(l), r.Cautions(l)}}
}
