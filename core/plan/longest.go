package plan

import (
	"fmt"
	"math"

	"elkstay/core/units"
)

// Longest is the longest piece that keeps every known limit.
type Longest struct {
	Found   bool     `json:"found"`
	AtM     *float64 `json:"at_m" doc:"Height of the cut, m; null when there is none"`
	LengthM *float64 `json:"length_m" doc:"Length of the piece, m; null when there is none"`
	Governs string   `json:"governs" doc:"What stops a longer piece: a part of the ladder, room, run, or the stem itself"`
	Reason  string   `json:"reason" doc:"In a sentence"`
}

// longestStep is the grid on which cuts are tried before the best is closed in
// on, m.
const longestStep = 0.05

// FindLongest returns the lowest cut at which every known limit is kept, closed
// in to a millimetre, and what stops a cut below it. The whole stem is tried from
// its top to its foot.
func FindLongest(job *Job, system units.System) Longest {
	s, a := prepare(job)
	switch {
	case s == nil:
		return Longest{Reason: stateWithout(&a)}
	case job.Rig.Rope == nil:
		return Longest{Reason: "Choose a rope first."}
	}
	top, bottom := s.stem.Top(), s.stem.Bottom()
	best, stops := math.NaN(), ""
	first := ""
	steps := int(math.Floor((top - bottom) / longestStep))
	for k := 1; k <= steps; k++ {
		cut := top - float64(k)*longestStep
		stop := s.stops(cut)
		switch {
		case stop == "":
			best, stops = cut, ""
		case first == "" && stop != governsTie:
			first = stop
		}
		if stop != "" && stops == "" && !math.IsNaN(best) {
			stops = stop
		}
	}
	if math.IsNaN(best) {
		if first == "" {
			first = governsTie
		}
		return Longest{Governs: first, Reason: fmt.Sprintf("No piece keeps every limit: %s stops the shortest one.", governsWords(first))}
	}
	low, high := math.Floor((best-longestStep)*1000), math.Ceil(best*1000)
	low = max(low, math.Ceil(bottom*1000))
	for high-low > 1 {
		middle := math.Floor((low + high) / 2)
		if stop := s.stops(middle / 1000); stop == "" {
			high = middle
		} else {
			low, stops = middle, stop
		}
	}
	if s.stops(high/1000) == "" {
		best = high / 1000
	}
	if stops == "" {
		stops = governsStem
	}
	length := top - best
	return Longest{
		Found: true, AtM: &best, LengthM: &length, Governs: stops,
		Reason: fmt.Sprintf("Longest piece: %s. A longer one is stopped by %s.", units.Print(units.Height, system, length), governsWords(stops)),
	}
}

// What besides a part of the ladder can stop a longer piece.
const (
	governsRoom  = "room"
	governsRun   = "run"
	governsHold  = "hold"
	governsTie   = "tie"
	governsBlock = "block height"
	governsStem  = "stem"
)

func governsWords(governs string) string {
	switch governs {
	case governsRoom:
		return "the room above the ground"
	case governsRun:
		return "the longest run"
	case governsHold:
		return "the hold, which no longer stops it"
	case governsTie:
		return "the tie, which must be below the piece's top"
	case governsBlock:
		return "the block, which must be above the lowering device"
	case governsStem:
		return "nothing but the foot of the stem"
	case partPiece:
		return "the heaviest piece you take"
	}
	return "the limit of the " + governs
}

// stops returns what forbids a cut, or "".
func (s *subject) stops(cutAt float64) string {
	if faults := s.cutFaults(cutAt); len(faults) > 0 {
		switch faults[0].Location {
		case "body.rig.tie_above_cut_m":
			return governsTie
		case "body.rig.block.below_cut_m":
			return governsBlock
		}
		return governsStem
	}
	o := s.at(cutAt)
	worst, use := "", 1.0
	for _, part := range ladderParts {
		limit, known := s.limits[part]
		if load := o.loads[part]; known && load.seen && load.peak/limit.Kn > use {
			worst, use = part, load.peak/limit.Kn
		}
	}
	if worst != "" {
		return worst
	}
	if !o.catch.Holds {
		return governsHold
	}
	if cutAt-o.catch.LowestM < s.settings.ClearM {
		return governsRoom
	}
	if limit := s.job.Limits.RunM; limit != nil && o.catch.RunM > *limit {
		return governsRun
	}
	return ""
}
