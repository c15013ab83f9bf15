package assess

// tally gathers what the gear of the whole job sees.
type tally struct {
	uses  []GearUse
	ropes []RopeNeed
}

func (t *tally) add(v *Survey, o *Outcome) {
	if t.uses == nil {
		t.uses, t.ropes = []GearUse{}, []RopeNeed{}
	}
	if o.Rig == nil {
		return
	}
	for i := range o.loads {
		l := &o.loads[i]
		if l.part == PartPiece || l.part == partSpar || l.unseen {
			continue
		}
		use, known, judged := v.judge(l)
		found, rig := -1, o.Rig.Name
		if l.of != nil {
			rig = l.of.Rig.Name
		}
		for k := range t.uses {
			if t.uses[k].Rig == rig && t.uses[k].Part == l.part && t.uses[k].Name == l.name {
				found = k
			}
		}
		one := GearUse{Rig: rig, Part: l.part, Name: l.name, Item: l.item, PeakKn: l.peak, Pick: o.number, Picks: 1, Verdict: judged}
		if known {
			limit := l.Limit.Kn
			one.LimitKn, one.UsePct = &limit, &use
		}
		if found < 0 {
			t.uses = append(t.uses, one)
			continue
		}
		one.Picks = t.uses[found].Picks + 1
		if old := t.uses[found].UsePct; l.peak <= t.uses[found].PeakKn || old != nil && known && use <= *old {
			t.uses[found].Picks = one.Picks
			continue
		}
		t.uses[found] = one
	}
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
