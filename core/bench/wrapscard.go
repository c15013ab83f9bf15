package bench

import (
	"fmt"
	"math"

	"elkstay/core/calc"
	"elkstay/core/intake"
	"elkstay/core/line"
	"elkstay/core/units"
)

// A WrapsRequest asks what a hand holds with every number of turns on a device.
type WrapsRequest struct {
	Device   string   `json:"device,omitempty" maxLength:"80" doc:"What the crew calls it"`
	Friction float64  `json:"friction" minimum:"0.02" maximum:"1" doc:"Of rope on it"`
	HandKn   float64  `json:"hand_kn" minimum:"0.01" maximum:"5" doc:"What the hand holds, kN"`
	LimitKn  *float64 `json:"limit_kn,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"What is marked on the device or the rope, kN: what is over it is marked"`
	DrumM    *float64 `json:"drum_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"Length of drum for the turns, m; with the rope"`
	RopeM    *float64 `json:"rope_m,omitempty" exclusiveMinimum:"0" maximum:"0.1" doc:"Diameter of the rope, m"`
}

// A WrapsRow is one number of turns.
type WrapsRow struct {
	Wraps   float64 `json:"wraps"`
	HoldsKn float64 `json:"holds_kn" doc:"Tension of the line that the hand holds, at three quarters of the friction"`
	AtMost  float64 `json:"at_most_kn" doc:"At the friction given"`
	Kg      float64 `json:"kg" doc:"Mass at rest that the lesser of them is"`
	Fits    bool    `json:"fits" doc:"The drum has room for so many"`
	Over    bool    `json:"over" doc:"More than what is marked"`
}

// A WrapsCard is what a hand holds, turn by turn.
type WrapsCard struct {
	Rows []WrapsRow `json:"rows" nullable:"false"`
	Fit  *int       `json:"fit" doc:"Turns that the drum has room for; null: not said"`
	Said string     `json:"said"`
}

// Turns on the card: by halves, to so many.
const (
	cardStep = 0.5
	cardMost = 6
)

// WrapCard works a card out.
func WrapCard(document []byte) (WrapsCard, error) {
	var r WrapsRequest
	if err := intake.Decode(document, &r); err != nil {
		return WrapsCard{}, err
	}
	return r.Card()
}

// Card works the card out, or says why it cannot be.
func (r *WrapsRequest) Card() (WrapsCard, error) {
	var faults intake.Faults
	if (r.DrumM == nil) != (r.RopeM == nil) {
		faults.Add("body.rope_m", r.RopeM, "drum_m and rope_m together", "the drum and the rope on it are given together")
		return WrapsCard{}, faults
	}
	card := WrapsCard{Rows: []WrapsRow{}}
	room := math.Inf(1)
	if r.DrumM != nil {
		room = *r.DrumM / (calc.TurnsApart * *r.RopeM)
		fit := int(math.Floor(room + 1e-9))
		card.Fit = &fit
	}
	for wraps := cardStep; wraps <= cardMost; wraps += cardStep {
		row := WrapsRow{Wraps: wraps, HoldsKn: line.HeldBy(r.HandKn, wraps, r.Friction*line.LowerFriction), AtMost: line.HeldBy(r.HandKn, wraps, r.Friction), Fits: wraps <= room+1e-9}
		row.Kg = row.HoldsKn * 1000 / units.Gravity
		row.Over = r.LimitKn != nil && row.HoldsKn > *r.LimitKn
		card.Rows = append(card.Rows, row)
	}
	card.Said = fmt.Sprintf("What a hand of %.3g kN holds at rest, at three quarters of a friction of %.3g; wet, glazed or icy it holds less, and a piece that falls pulls more than it weighs.", r.HandKn, r.Friction)
	return card, nil
}
