package calc

import (
	"elkstay/core/cut"
	"elkstay/core/fell"
	"elkstay/core/gear"
	"elkstay/core/haul"
	"elkstay/core/line"
)

// RatingAnswer is the answer of kind rating.
type RatingAnswer struct {
	gear.Rated
	Beside
}

// Rating works out what an item may carry as it is used.
func Rating(r *gear.RatingRequest) RatingAnswer {
	rated := r.Rate()
	return RatingAnswer{rated, Beside{r.Working(rated), r.Cautions(rated)}}
}

// CutAdviceAnswer is the answer of kind cut-advice.
type CutAdviceAnswer struct {
	cut.Advice
	Beside
}

// CutAdvice weighs the cuts for a site.
func CutAdvice(r *cut.Site) CutAdviceAnswer {
	a := r.Advise()
	return CutAdviceAnswer{a, Beside{r.Working(a), r.Cautions(a)}}
}

// TwoLineAnswer is the answer of kind two-line.
type TwoLineAnswer struct {
	line.Carrying
	Beside
}

// TwoLine works out a piece on two lines.
func TwoLine(r *line.Pair) TwoLineAnswer {
	c := r.Solve()
	return TwoLineAnswer{c, Beside{r.Working(c), r.Cautions(c)}}
}

// HeatAnswer is the answer of kind heat.
type HeatAnswer struct {
	line.Heats
	Beside
}

// Heat works out what a lowering turns into heat.
func Heat(r *line.Heat) HeatAnswer {
	h := r.Solve()
	return HeatAnswer{h, Beside{r.Working(h), r.Cautions(h)}}
}

// DragAnswer is the answer of kind drag.
type DragAnswer struct {
	haul.Skid
	Beside
}

// Drag works out what skids a log.
func Drag(r *haul.Drag) DragAnswer {
	s := r.Solve()
	return DragAnswer{s, Beside{r.Working(s), r.Cautions(s)}}
}

// PushAnswer is the answer of kind push.
type PushAnswer struct {
	fell.Shove
	Beside
}

// Push works out what a machine must push.
func Push(r *fell.Push) PushAnswer {
	s := r.Solve()
	return PushAnswer{s, Beside{r.Working(s), r.Cautions(s)}}
}

// MidlineWeightAnswer is the answer of kind midline-weight.
type MidlineWeightAnswer struct {
	fell.Following
	Beside
}

// MidlineWeight follows a weight hung in a pull line.
func MidlineWeight(r *fell.Midline) MidlineWeightAnswer {
	f := r.Solve()
	return MidlineWeightAnswer{f, Beside{r.Working(f), r.Cautions(f)}}
}
