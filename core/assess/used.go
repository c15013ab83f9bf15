package assess

// tally gathers what the gear of the whole job sees.
type tally struct {
	uses  []GearUse
	last  []int // of each: number of the pick that used it last
	ropes []RopeNeed
}

func (t *tally) add(v *Survey, o *Outcome) {
	if o.Rig == nil {
		return
	}
	for i := range o.loads {
		l := &o.loads[i]
		if l.part == PartPiece || l.part == partSpar || l.unseen {
			continue
		}
		use, known, judged := v.judge(l)
		found, rig, name := -1, o.Rig.Name, l.name
		if l.of != nil {
			// Of one line of two: the same item, whichever end it is on.
			rig, name = l.of.Rig.Name, l.on
		}
		for k := range t.uses {
			if t.uses[k].Rig == rig && t.uses[k].Part == l.part && t.uses[k].Name == name {
				found = k
			}
		}
		one := GearUse{Rig: rig, Part: l.part, Name: name, Item: l.item, PeakKn: l.peak, Pick: o.number, Picks: 1, Verdict: judged}
		if known {
			limit := l.Limit.Kn
			one.LimitKn, one.UsePct = &limit, &use
		}
		if found < 0 {
			t.uses, t.last = append(t.uses, one), append(t.last, o.number)
			continue
		}
		one.Picks = t.uses[found].Picks
		if t.last[found] != o.number {
			one.Picks++
		}
		t.last[found] = o.number
		if old := t.uses[found].UsePct; l.peak <= t.uses[found].PeakKn || old != nil && known && use <= *old {
			t.uses[found].Picks = one.Picks
			continue
		}
		t.uses[found] = one
	}
	t.rope(o)
	if o.ends != nil {
		for _, side := range o.ends.sides {
			t.rope(side)
		}
	}
	if o.twins != nil && o.twins.sides[1].Rig != o.Rig {
		t.rope(o.twins.sides[1])
	}
}

// rope notes how long the rope of a pick's rig must be.
func (t *tally) rope(o *Outcome) {
	if o.ropeM <= 0 {
		return
	}
	need := RopeNeed{Rig: o.Rig.Name, NeedM: o.ropeM, HaveM: o.Rig.RopeLengthM, Pick: o.number, Verdict: NotKnown}
	if need.HaveM != nil {
		need.Verdict = Within
		if *need.HaveM < need.NeedM {
			need.Verdict = Over
		}
	}
	for k := range t.ropes {
		if t.ropes[k].Rig == need.Rig {
			if need.NeedM > t.ropes[k].NeedM {
				t.ropes[k] = need
			}
			return
		}
	}
	t.ropes = append(t.ropes, need)
}
