package assess

import (
	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/policy"
)

// judge gives the verdict of one load.
func (f *Forest) judge(l *hold.Load) (usePct float64, known bool, judged policy.Verdict) {
	switch {
	case l.Unseen:
		return 0, false, policy.Within
	case l.Known && l.Limit.Kn > 0:
		use := 100 * l.Use()
		if l.NotHeld {
			return use, true, policy.NotHeld
		}
		return use, true, f.Limits.Judge(use)
	case l.NotHeld:
		return 0, false, policy.NotHeld
	case l.Free:
		return 0, false, policy.Within
	}
	return 0, false, policy.NotKnown
}

// judged is the verdict of how close a piece comes to something.
func judged(c *course.Clearance) policy.Verdict {
	switch {
	case !c.Near():
		return policy.Within
	case c.Spared:
		return policy.Close
	}
	return policy.Over
}

// Verdict is the worst of a pick's parts, of the room and of the order.
func (v *Survey) Verdict(o *Outcome) policy.Verdict { return v.VerdictBut(o, "") }

// VerdictBut is the verdict with one part left aside where nobody has said what it holds: slings that
// are still to be chosen.
func (v *Survey) VerdictBut(o *Outcome, part string) policy.Verdict {
	if o.Stopped() {
		return policy.Over
	}
	worst := policy.Within
	for i := range o.Loads {
		_, known, one := v.judge(&o.Loads[i])
		if known || o.Loads[i].Part != part {
			worst = policy.Worse(worst, one)
		}
	}
	if o.Landing != nil {
		worst = policy.Worse(worst, o.Landing.Verdict)
	}
	for i := range o.Clears {
		worst = policy.Worse(worst, judged(&o.Clears[i]))
	}
	if room := v.room(o); room != nil {
		worst = policy.Worse(policy.Worse(worst, room.Verdict), room.RunVerdict)
	}
	return worst
}

// room is the space that a piece on its line needs beneath it; nil: it is on none.
func (v *Survey) room(o *Outcome) *Room {
	held := o.Made.Held()
	if held == nil {
		return nil
	}
	room := &Room{Beneath: held.Floor.Name, BeneathM: held.Floor.Z, WantedM: v.Limits.ClearM, Verdict: policy.Over, RunVerdict: policy.Within, RunLimitM: v.Limits.RunM}
	if held.Stops {
		low, left := held.LowestM, held.LowestM-held.Floor.Z
		room.LowestM, room.ClearanceM = &low, &left
		switch {
		case held.Floor.Onto != "":
			// It could hang there; it cannot be put down.
		case left >= room.WantedM:
			room.Verdict = policy.Within
		case low-held.Floor.Hard >= room.WantedM:
			room.Verdict = policy.Close
		}
	}
	if limit := v.Limits.RunM; limit != nil && (!held.Holds || held.RunM > *limit) {
		room.RunVerdict = policy.Over
	}
	return room
}

// Use is the largest share of a known limit, per cent.
func (v *Survey) Use(o *Outcome) float64 {
	most := 0.0
	for i := range o.Loads {
		if share, known, _ := v.judge(&o.Loads[i]); known {
			most = max(most, share)
		}
	}
	return most
}
