package fell

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"runtime"
	"slices"
	"sync"

	"elkstay/core/gear"
	"elkstay/core/intake"
)

// A FallSpread repeats a fall with what is not known well, each figure evenly within so much
// of the one given.
type FallSpread struct {
	Runs          int     `json:"runs" minimum:"1" maximum:"2000" doc:"How often"`
	Seed          int64   `json:"seed" minimum:"0" maximum:"2000000000" doc:"The same seed gives the same answer"`
	MassPct       float64 `json:"mass_pct,omitempty" minimum:"0" maximum:"90"`
	CogForwardM   float64 `json:"cog_forward_m,omitempty" minimum:"0" maximum:"20"`
	CogSideM      float64 `json:"cog_side_m,omitempty" minimum:"0" maximum:"20"`
	HingePct      float64 `json:"hinge_pct,omitempty" minimum:"0" maximum:"90" doc:"Of what it takes to bend it, and of what it holds sideways"`
	PretensionPct float64 `json:"pretension_pct,omitempty" minimum:"0" maximum:"90"`
	StiffnessPct  float64 `json:"stiffness_pct,omitempty" minimum:"0" maximum:"90" doc:"Of the ropes"`
}

// A FallOdds is what a spread comes to.
type FallOdds struct {
	Runs          int                `json:"runs"`
	OutcomesPct   map[string]float64 `json:"outcomes_pct" nullable:"false" doc:"How many end how, per cent"`
	LinesP95Kn    []float64          `json:"lines_p95_kn" nullable:"false" doc:"Peak that 95 of 100 keep below, line by line"`
	SideUseP95Pct *float64           `json:"side_use_p95_pct" doc:"Null: not known"`
	DriftP95Deg   *float64           `json:"drift_p95_deg" doc:"To either side; null: not known"`
}

// longestSpread bounds the work of a spread: seconds of fall that are followed.
const longestSpread = 60_000

func (p *FallSpread) faults(path string, f *Fall) (faults intake.Faults) {
	if seconds := float64(p.Runs) * orElse(f.UntilS, 60); seconds > longestSpread {
		faults.Add(path+".runs", p.Runs, fmt.Sprintf("at most %d", int(longestSpread/orElse(f.UntilS, 60))), "%d runs of %g s are more than can be waited for", p.Runs, orElse(f.UntilS, 60))
	}
	return faults
}

// vary draws one case of the spread.
func (f *Fall) vary(i int) Fall {
	p := f.Spread
	random := rand.New(rand.NewPCG(uint64(p.Seed), uint64(i))) //nolint:gosec // repeatable on purpose
	even := func(within float64) float64 { return within * (2*random.Float64() - 1) }
	v := *f
	mass := 1 + even(p.MassPct/100)
	v.Tree.MassKg *= mass
	if own := f.Tree.InertiaKgM2; own != nil {
		with := *own * mass
		v.Tree.InertiaKgM2 = &with
	}
	v.Tree.CogForwardM += even(p.CogForwardM)
	v.Tree.CogSideM += even(p.CogSideM)
	hinge := 1 + even(p.HingePct/100)
	if f.Hinge != nil {
		h := *f.Hinge
		h.BendingKnm *= hinge
		for _, side := range []**float64{&h.ToLeftKnm, &h.ToRightKnm} {
			if *side != nil {
				with := **side * hinge
				*side = &with
			}
		}
		v.Hinge = &h
	}
	v.Lines = slices.Clone(f.Lines)
	for k := range v.Lines {
		l := &v.Lines[k]
		l.PretensionKn *= 1 + even(p.PretensionPct/100)
		stiffer := 1 + even(p.StiffnessPct/100)
		table := make([]gear.Stretch, len(l.Rope.Elongation))
		for n, row := range l.Rope.Elongation {
			table[n] = gear.Stretch{LoadPct: row.LoadPct, StrainPct: row.StrainPct / stiffer}
		}
		l.Rope.Elongation = table
	}
	return v
}

// FollowSpread follows the runs that the fall's spread asks for, on all cores. It ends soon
// after ctx does, with its error.
func (f *Fall) FollowSpread(ctx context.Context) (*FallOdds, error) {
	runs := make([]FallRun, f.Spread.Runs)
	var workers sync.WaitGroup
	count := min(runtime.GOMAXPROCS(0), f.Spread.Runs)
	for worker := range count {
		workers.Go(func() {
			for i := worker; i < len(runs) && ctx.Err() == nil; i += count {
				one := f.vary(i)
				runs[i].Lines = make([]FallLineRun, len(f.Lines))
				_ = newFaller(&one).follow(ctx, &runs[i]) // its error is that of ctx, looked at below
			}
		})
	}
	workers.Wait()
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	odds := &FallOdds{Runs: len(runs), OutcomesPct: map[string]float64{}, LinesP95Kn: make([]float64, len(f.Lines))}
	for _, outcome := range Outcomes() {
		odds.OutcomesPct[outcome] = 0
	}
	for i := range runs {
		odds.OutcomesPct[runs[i].Outcome] += 100 / float64(len(runs))
	}
	p95 := func(of func(r *FallRun) *float64) *float64 {
		list := []float64{}
		for i := range runs {
			if value := of(&runs[i]); value != nil {
				list = append(list, *value)
			}
		}
		if len(list) == 0 {
			return nil
		}
		slices.Sort(list)
		return &list[int(math.Ceil(0.95*float64(len(list))))-1]
	}
	for k := range f.Lines {
		odds.LinesP95Kn[k] = *p95(func(r *FallRun) *float64 { return &r.Lines[k].PeakKn })
	}
	odds.SideUseP95Pct = p95(func(r *FallRun) *float64 { return r.SideUsePct })
	odds.DriftP95Deg = p95(func(r *FallRun) *float64 {
		if r.DriftDeg == nil {
			return nil
		}
		drift := math.Abs(*r.DriftDeg)
		return &drift
	})
	return odds, nil
}
