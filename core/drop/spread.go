package drop

import (
	"context"
	"math"
	"math/rand/v2"
	"runtime"
	"slices"
	"sync"

	"elkstay/core/intake"
	"elkstay/core/wood"
)

// A Spread asks for many runs with what is not known well. Each run draws the mass
// from a triangle over its range, and the rope's stiffness, the hold and the slack
// evenly from within their spread; slack never goes below none. The same seed gives
// the same runs.
type Spread struct {
	Runs             int         `json:"runs" minimum:"1" maximum:"5000"`
	Seed             int         `json:"seed" minimum:"0" maximum:"1000000000"`
	MassKg           *wood.Range `json:"mass,omitempty" doc:"kg; absent: the piece's mass"`
	RopeStiffnessPct float64     `json:"rope_stiffness_pct,omitempty" minimum:"0" maximum:"90"`
	HoldPct          float64     `json:"hold_pct,omitempty" minimum:"0" maximum:"90"`
	SlackM           float64     `json:"slack_m,omitempty" minimum:"0" maximum:"20"`
}

// A Bin is one column of a histogram.
type Bin struct {
	FromKn float64 `json:"from_kn"`
	ToKn   float64 `json:"to_kn"`
	Count  int     `json:"count"`
}

// A SpreadResult is how the line's peak is spread.
type SpreadResult struct {
	P50Kn        float64  `json:"p50_kn"`
	P95Kn        float64  `json:"p95_kn"`
	P99Kn        float64  `json:"p99_kn"`
	OverLimitPct *float64 `json:"over_limit_pct" doc:"Share of runs over line_limit_kn; null without one"`
	NeverTight   int      `json:"never_tight" doc:"Runs in which the line never came tight; they count as no load"`
	Histogram    []Bin    `json:"histogram" nullable:"false"`
}

func (s *Spread) faults(path string) intake.Faults {
	if s.MassKg == nil {
		return nil
	}
	return s.MassKg.Faults(path+".mass", 100_000)
}

// vary draws one run's case.
func (c *SimCase) vary(index int) SimCase {
	spread := c.Spread
	random := rand.New(rand.NewPCG(uint64(spread.Seed), uint64(index))) //nolint:gosec // figures, not secrets
	even := func(pct float64) float64 { return 1 + pct/100*(2*random.Float64()-1) }
	varied := *c
	if spread.MassKg != nil {
		mass := triangle(*spread.MassKg, random.Float64())
		if c.Piece.InertiaKgM2 != nil {
			inertia := *c.Piece.InertiaKgM2 * mass / c.Piece.MassKg
			varied.Piece.InertiaKgM2 = &inertia
		}
		varied.Piece.MassKg = mass
	}
	// Stiffer by a share: the same strain at a load higher by it.
	varied.Rope.BreakingKn *= even(spread.RopeStiffnessPct)
	if c.DeviceHoldKn != nil {
		held := *c.DeviceHoldKn * even(spread.HoldPct)
		varied.DeviceHoldKn = &held
	}
	varied.SlackM = max(0, c.SlackM+spread.SlackM*(2*random.Float64()-1))
	return varied
}

// triangle draws from the triangle over a range, u even in 0 to 1.
func triangle(r wood.Range, u float64) float64 {
	span := r.High - r.Low
	if span == 0 {
		return r.Likely
	}
	if split := (r.Likely - r.Low) / span; u < split {
		return r.Low + math.Sqrt(u*span*(r.Likely-r.Low))
	}
	return r.High - math.Sqrt((1-u)*span*(r.High-r.Likely))
}

// mostSpreadSteps bounds each run of a spread; a plain run of 6 s takes some 3,000.
const mostSpreadSteps = 20_000

// bins is how many columns a histogram has.
const bins = 20

// SimulateSpread follows the runs that the case's spread asks for, on all cores. It
// ends soon after ctx does, with the context's error.
func SimulateSpread(ctx context.Context, c *SimCase) (*SpreadResult, error) {
	peaks := make([]float64, c.Spread.Runs)
	tight := make([]bool, c.Spread.Runs)
	var workers sync.WaitGroup
	count := min(runtime.GOMAXPROCS(0), c.Spread.Runs)
	for worker := range count {
		workers.Go(func() {
			for i := worker; i < len(peaks) && ctx.Err() == nil; i += count {
				varied := c.vary(i)
				s := newSim(&varied)
				s.gone = ctx.Done()
				out := s.follow(s.begin(varied.start()), given(varied.UntilS, 6), varied.face(), mostSpreadSteps, nil)
				peaks[i], tight[i] = out.linePeak/1000, out.tight
			}
		})
	}
	workers.Wait()
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	return gather(c, peaks, tight), nil
}

func gather(c *SimCase, peaks []float64, tight []bool) *SpreadResult {
	result := &SpreadResult{Histogram: []Bin{}}
	for _, caught := range tight {
		if !caught {
			result.NeverTight++
		}
	}
	slices.Sort(peaks)
	at := func(share float64) float64 { return peaks[int(math.Ceil(share*float64(len(peaks))))-1] }
	result.P50Kn, result.P95Kn, result.P99Kn = at(0.50), at(0.95), at(0.99)
	if c.LineLimitKn != nil {
		first, _ := slices.BinarySearchFunc(peaks, *c.LineLimitKn, func(peak, limit float64) int {
			if peak > limit {
				return 1
			}
			return -1
		})
		over := 100 * float64(len(peaks)-first) / float64(len(peaks))
		result.OverLimitPct = &over
	}
	low, high := peaks[0], peaks[len(peaks)-1]
	if high == low {
		result.Histogram = append(result.Histogram, Bin{low, high, len(peaks)})
		return result
	}
	wide := (high - low) / bins
	for i := range bins {
		result.Histogram = append(result.Histogram, Bin{low + float64(i)*wide, low + float64(i+1)*wide, 0})
	}
	for _, peak := range peaks {
		result.Histogram[min(bins-1, int((peak-low)/wide))].Count++
	}
	return result
}
