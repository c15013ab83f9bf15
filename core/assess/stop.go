package assess

import "slices"

// What besides a part of the ladder can stop a piece.
const (
	StopsRoom  = "room"
	StopsClear = "clearance"
	stopsRun   = "run"
	stopsHold  = "hold"
	stopsLand  = "landing"
	StopsOrder = "order"
	StopsTie   = "tie beyond the piece"
	StopsWood  = "the wood itself"
)

// Stops returns what forbids a piece, or "".
func (v *Survey) Stops(o *Outcome) string {
	if o.Stopped() {
		switch o.Faults[0].Code {
		case faultTie:
			return StopsTie
		case faultGone:
			return StopsWood
		}
		return StopsOrder
	}
	if o.DropCase != nil && !o.Catch.Holds {
		return stopsHold
	}
	if part := o.over(); part != "" {
		return part
	}
	if o.Landing != nil {
		if o.Landing.Verdict == Over || o.Landing.Verdict == NotKnown {
			return stopsLand
		}
		return ""
	}
	if low, hangs := o.lowest(); hangs && (low-o.floor.hard < v.limits.ClearM || o.floor.onto != "") {
		return StopsRoom
	}
	// The nearest may be wood that it may brush, and what it strikes beyond it.
	if slices.ContainsFunc(o.clears, func(c Clearance) bool { return c.Verdict == Over }) {
		return StopsClear
	}
	if limit := v.limits.RunM; limit != nil && o.Catch.RunM > *limit {
		return stopsRun
	}
	return ""
}

// over is the part that is loaded most over its limit, or "".
func (o *Outcome) over() string {
	worst, use := "", 1.0
	for i := range o.loads {
		l := &o.loads[i]
		if l.Known && !l.unseen && l.use() > use {
			worst, use = l.part, l.use()
		}
	}
	return worst
}

// StopWords says what stops a piece, with the place of it.
func (v *Survey) StopWords(stop string, o *Outcome) string {
	switch stop {
	case StopsRoom:
		return "the room above " + o.floor.name
	case StopsClear:
		struck := max(0, slices.IndexFunc(o.clears, func(c Clearance) bool { return c.Verdict == Over }))
		return "how close it comes to " + o.clears[struck].Name
	case stopsRun:
		return "the longest run"
	case stopsHold:
		return "the hold, which does not stop it"
	case StopsTie:
		return "the tie, which must be within the piece"
	case stopsLand:
		return "where it comes down: " + o.Landing.Reason
	case StopsOrder:
		return "this: " + o.Faults[0].Message
	case StopsWood:
		return "nothing but the end of the wood"
	case PartPiece:
		return "the heaviest piece you take"
	}
	return "the limit of the " + stop
}

// Use is the largest share of a known limit, per cent.
func (v *Survey) Use(o *Outcome) float64 {
	most := 0.0
	for i := range o.loads {
		if share, known, _ := v.judge(&o.loads[i]); known {
			most = max(most, share)
		}
	}
	return most
}
