package assess

import (
	"fmt"
	"iter"
	"slices"

	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/timber"
)

// Spreads of limbs before any weighing and from limb to limb, per cent (common
// practice): wider than those of stems.
const (
	limbCv     = 30
	limbEachCv = 20
)

// mostly is the share of a piece from which the scale is taken to have weighed that kind of wood
// alone (common practice, no source).
const mostly = 0.8

// Learn asks what the weighings so far say of stems and of limbs, tree by tree.
func (f *Forest) Learn(a *Assessment) {
	for _, v := range f.Surveys {
		if v != nil {
			v.learn(a)
		}
	}
}

// weighings are what the scale had of this tree, kg, and what the survey has of the same wood: of each pick's, and of what was weighed of wood
// that no pick takes as it was cut then, of several of the same wood the last.
func (v *Survey) weighings() iter.Seq2[float64, *space.Mass] {
	return func(yield func(kg float64, weight *space.Mass) bool) {
		happened := v.Job.Happened()
		if !slices.ContainsFunc(happened, func(f job.Fact) bool { return f.What == job.FactWeighed }) &&
			!slices.ContainsFunc(v.Job.Picks, func(p job.Pick) bool { return p.WeighedKg != nil }) {
			return
		}
		now := v.Standing()
		var cut []*job.Wood
		for i := range v.Job.Picks {
			p := &v.Job.Picks[i]
			if v.Of(p) != v {
				continue
			}
			o := v.Take(p, i+1, now)
			is := p.WeighedOf == nil || o.Is(p.WeighedOf)
			if is && p.WeighedOf != nil {
				cut = append(cut, p.WeighedOf)
			}
			if is && p.WeighedKg != nil && !o.TakesNothing() && p.MassKg == nil && !yield(*p.WeighedKg, &o.Weight) {
				return
			}
			o.Off(now)
		}
		slices.Reverse(happened)
		for _, fact := range happened {
			if fact.What != job.FactWeighed || fact.Of == nil || v.Job.TreeIndex(fact.Of.Tree) != v.Index || slices.ContainsFunc(cut, fact.Of.Same) {
				continue
			}
			cut = append(cut, fact.Of)
			if weight := v.WeightOf(fact.Of); weight.Known() && !yield(*fact.Kg, &weight) {
				return
			}
		}
	}
}

func (v *Survey) learn(a *Assessment) {
	v.Taught = space.Taught{Heavier: 1}
	weighed := map[bool][]timber.Weighing{}
	for kg, weight := range v.weighings() {
		one := timber.Weighing{PredictedKg: weight.Kg.Likely, MeasuredKg: kg}
		// A piece that is much of both teaches neither: it would be taken for either. That it was
		// heavier than it could be is not forgotten.
		switch stem := weight.Stem.Likely / weight.Kg.Likely; {
		case stem >= mostly:
			weighed[false] = append(weighed[false], one)
		case stem <= 1-mostly:
			weighed[true] = append(weighed[true], one)
		default:
			v.Taught.Heavier = max(v.Taught.Heavier, kg/weight.Kg.High)
		}
	}
	if v.Taught.Heavier > 1 {
		a.Cautions = append(a.Cautions, fmt.Sprintf("A piece with both stem and limbs in it weighed %.2f times its heavy end: the heavy end of wood of which nothing was weighed by itself counts as much more.", v.Taught.Heavier))
	}
	for _, limb := range [2]bool{false, true} {
		if len(weighed[limb]) == 0 {
			continue
		}
		request := timber.WeighIn{Weighed: weighed[limb]}
		of := "stem"
		if limb {
			cv, each := float64(limbCv), float64(limbEachCv)
			request.CvPct, request.PieceCvPct, of = &cv, &each, "limbs"
		}
		learned := request.Learn()
		// One that is heavier than the others leave room for is wood of this tree as well: the next may be.
		fits := learned.HighFactor
		for _, one := range weighed[limb] {
			learned.HighFactor = max(learned.HighFactor, one.MeasuredKg/one.PredictedKg)
		}
		if learned.HighFactor > fits {
			a.Cautions = append(a.Cautions, fmt.Sprintf("A weighing of %s came to %.2f times what was planned, where the others leave no more than %.2f: the heavy end counts it, until the weighing is taken out.", of, learned.HighFactor, fits))
		}
		if limb {
			v.Taught.Limbs = &learned
		} else {
			v.Taught.Stem = &learned
		}
		a.Learned = append(a.Learned, Learned{v.Measured.ID, of, len(weighed[limb]), learned.Factor, learned.HighFactor, v.Measured.Wood.Species})
		a.Cautions = append(a.Cautions, request.Cautions(learned)...)
	}
}
