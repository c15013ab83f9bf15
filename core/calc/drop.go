package calc

import (
	"elkstay/core/drop"
)

// DropAnswer is the answer of kind drop.
type DropAnswer struct {
	FallM         float64         `json:"fall_m" doc:"Fall of the centre of gravity until the line is tight"`
	LinePeakKn    float64         `json:"line_peak_kn"`
	BlockPeakKn   float64         `json:"block_peak_kn" doc:"Parallel legs: line and lead together"`
	DevicePeakKn  float64         `json:"device_peak_kn" doc:"Tension of the lead"`
	StretchM      float64         `json:"stretch_m" doc:"Give of rope and anchor at the peak, run not included"`
	Amplification float64         `json:"amplification" doc:"Peak of the line over the weight of the piece"`
	Runs          bool            `json:"runs" doc:"Rope runs through the device"`
	RunM          *float64        `json:"run_m" doc:"Rope that runs; null when the piece is never stopped"`
	Holds         bool            `json:"holds" doc:"The device stops the piece"`
	LowestM       *float64        `json:"lowest_m" doc:"How far below the cut the piece's lower end comes; null when it is never stopped"`
	Clears        *bool           `json:"clears,omitempty" doc:"lowest_m is within room_m; only when room_m is given"`
	ForLimit      *drop.ForLimit  `json:"for_limit,omitempty" doc:"What keeps the line at its limit; only when line_limit_kn is given"`
	HoldRange     *drop.HoldRange `json:"hold_range,omitempty" doc:"A device holds a range, not a figure; only when device_hold_kn is given"`
	Beside
}

// Drop answers how hard a dropped piece hits the line.
func Drop(c *drop.Case) DropAnswer {
	catch := drop.Solve(c)
	answer := DropAnswer{
		FallM: c.FallM(), LinePeakKn: catch.LinePeakKn, BlockPeakKn: catch.BlockPeakKn, DevicePeakKn: catch.DevicePeakKn,
		StretchM: catch.StretchM, Amplification: catch.Amplification, Runs: catch.Runs, Holds: catch.Holds,
	}
	if catch.Holds {
		answer.RunM, answer.LowestM = &catch.RunM, &catch.LowestM
	}
	if c.RoomM != nil {
		clears := catch.Holds && catch.LowestM <= *c.RoomM
		answer.Clears = &clears
	}
	answer.ForLimit = drop.AtLimit(c)
	answer.HoldRange = drop.AroundHold(c)
	answer.Working = c.Working(catch)
	answer.Cautions = c.Cautions(catch)
	return answer
}
