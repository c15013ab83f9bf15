// Package cell reads what a load cell in the line, at the block or on the hook has recorded: the
// peak of a drop, and the load at rest after it, which tells the mass.
//
// The peak is the first largest sample. Rest is the first stretch after it that is long enough
// and whose samples all keep near their mean. Times are in seconds, forces in kilonewtons,
// masses in kilograms. What the cell itself smooths away is not seen.
package cell

import (
	"fmt"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// Where the cell is.
const (
	AtLine  = "line"
	AtBlock = "block"
	AtHook  = "hook"
)

// A Trace is what the cell recorded.
type Trace struct {
	TS            []float64 `json:"t_s" minItems:"2" maxItems:"200000" doc:"Times, strictly rising, s"`
	Kn            []float64 `json:"kn" minItems:"2" maxItems:"200000" doc:"Forces at those times, kN"`
	At            string    `json:"at" enum:"line,block,hook" doc:"Where the cell is"`
	Factor        *float64  `json:"factor,omitempty" exclusiveMinimum:"0" maximum:"4" doc:"What the cell reads for each load on the line: a block with both legs down 1 + efficiency; default 1, required at a block"`
	RestWindowS   *float64  `json:"rest_window_s,omitempty" exclusiveMinimum:"0" maximum:"600" doc:"How long a rest is at the least; default 1.5"`
	RestSpreadPct *float64  `json:"rest_spread_pct,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"How far a sample may lie from the mean of a rest; default 5"`
}

// A Reading is what it tells.
type Reading struct {
	PeakKn        float64  `json:"peak_kn"`
	PeakAtS       float64  `json:"peak_at_s"`
	RestKn        *float64 `json:"rest_kn" doc:"Null when it never came to rest"`
	RestAtS       *float64 `json:"rest_at_s"`
	MassKg        *float64 `json:"mass_kg"`
	Amplification *float64 `json:"amplification" doc:"Peak over rest"`
}

// leastRest is what a rest must read at the least, kN: below it the cell hangs free.
const leastRest = 0.05

// closeEnough is how near to the window's length a stretch may stay, s.
const closeEnough = 1e-9

func or(value *float64, standard float64) float64 {
	if value == nil {
		return standard
	}
	return *value
}

// Faults names what is wrong between the fields at the given path.
func (r *Trace) Faults(path string) (faults intake.Faults) {
	if len(r.TS) != len(r.Kn) {
		faults.Add(path+".kn", len(r.Kn), fmt.Sprintf("%d, as many as times", len(r.TS)), "there are %d times and %d forces", len(r.TS), len(r.Kn))
		return faults
	}
	for i := 1; i < len(r.TS); i++ {
		if !(r.TS[i] > r.TS[i-1]) {
			faults.Add(fmt.Sprintf("%s.t_s[%d]", path, i), r.TS[i], fmt.Sprintf("more than %g s", r.TS[i-1]), "the time %g s is not after the one before it (%g s)", r.TS[i], r.TS[i-1])
		}
	}
	if r.At == AtBlock && r.Factor == nil {
		faults.Add(path+".factor", nil, "more than 0 and at most 4", "factor is missing: at a block the cell reads both legs, 1 + efficiency when both lead down")
	}
	return faults
}

// queue holds the places of samples in the order of their size, the extreme first.
type queue struct {
	at   []int
	head int
}

func (q *queue) add(i int, kn []float64, before func(a, b float64) bool) {
	for len(q.at) > q.head && !before(kn[q.at[len(q.at)-1]], kn[i]) {
		q.at = q.at[:len(q.at)-1]
	}
	q.at = append(q.at, i)
}

func (q *queue) from(i int) int {
	for q.at[q.head] < i {
		q.head++
	}
	return q.at[q.head]
}

// Read reads a trace without Faults.
func (r *Trace) Read() Reading {
	peak := 0
	for i, kn := range r.Kn {
		if kn > r.Kn[peak] {
			peak = i
		}
	}
	out := Reading{PeakKn: r.Kn[peak], PeakAtS: r.TS[peak]}
	window, spread := or(r.RestWindowS, 1.5), or(r.RestSpreadPct, 5)/100
	// Sums from the start on, so that a mean costs nothing; the extremes of a window slide.
	sums := make([]float64, len(r.Kn)+1)
	for i, kn := range r.Kn {
		sums[i+1] = sums[i] + kn
	}
	least, most := queue{}, queue{}
	end := peak + 1 // samples before it are in the queues
	for i := peak + 1; i < len(r.Kn); i++ {
		for end < len(r.Kn) && (end <= i || r.TS[end-1]-r.TS[i] < window-closeEnough) {
			least.add(end, r.Kn, func(a, b float64) bool { return a < b })
			most.add(end, r.Kn, func(a, b float64) bool { return a > b })
			end++
		}
		if r.TS[end-1]-r.TS[i] < window-closeEnough {
			break // what is left is too short
		}
		mean := (sums[end] - sums[i]) / float64(end-i)
		low, high := r.Kn[least.from(i)], r.Kn[most.from(i)]
		const rounding = 1e-12
		if mean > leastRest && mean <= out.PeakKn && low >= mean*(1-spread)-rounding && high <= mean*(1+spread)+rounding {
			at, mass, times := r.TS[i], mean/(or(r.Factor, 1)*units.Gravity)*1000, out.PeakKn/mean
			out.RestKn, out.RestAtS, out.MassKg, out.Amplification = &mean, &at, &mass, &times
			break
		}
	}
	return out
}

// Working writes the sum behind a reading.
func (r *Trace) Working(out Reading) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	sheet.Add("P", "peak", "the first largest sample, at "+n(out.PeakAtS)+" s", out.PeakKn, "kN", "the cell")
	if out.RestKn != nil {
		sheet.Add("R", "rest", fmt.Sprintf("mean of the first %s s after the peak that keep within %s %% of it, from %s s on", n(or(r.RestWindowS, 1.5)), n(or(r.RestSpreadPct, 5)), n(*out.RestAtS)), *out.RestKn, "kN", "the cell")
		sheet.Add("m", "mass", fmt.Sprintf("R/(%s·9.80665)·1000", n(or(r.Factor, 1))), *out.MassKg, "kg", units.GravitySource)
		sheet.Add("P/R", "amplification", "P/R", *out.Amplification, "", "")
	}
	return sheet.Steps()
}

// Cautions returns what must stand beside a reading.
func (r *Trace) Cautions(out Reading) []string {
	cautions := []string{}
	if out.RestKn == nil {
		cautions = append(cautions, "It never hangs still for long enough: the mass cannot be read off this trace.")
	} else {
		cautions = append(cautions, "The rest is the first quiet stretch after the peak: where part of the piece still stood or lay on something then, all of it weighs more.")
	}
	if gap := (r.TS[len(r.TS)-1] - r.TS[0]) / float64(len(r.TS)-1); gap > 0.02 {
		cautions = append(cautions, fmt.Sprintf("The cell was read every %.3g s on the average: a short peak may have been higher than the highest sample.", gap))
	}
	return cautions
}
