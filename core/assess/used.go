package assess

import "slices"

// tally gathers what the gear of the whole job sees. Names may stand twice in it: gear is told apart by its
// rig's id and its own.
type tally struct {
	uses   []GearUse
	of     [][4]string // of each: rig, part, name and item
	last   []int       // of each: number of the pick that used it last
	ropes  []RopeNeed
	ropeOf []string // of each: its rig
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
		rig, name := o.Rig, l.name
		if l.of != nil {
			// Of one line of two: the same item, whichever end it is on.
			rig, name = l.of.Rig, l.on
		}
		one := GearUse{Rig: rig.Name, Part: l.part, Name: name, Item: l.item, PeakKn: l.peak, Pick: o.number, Picks: 1, Verdict: judged}
		if known {
			limit := l.Limit.Kn
			one.LimitKn, one.UsePct = &limit, &use
		}
		key := [4]string{rig.ID, l.part, name, l.item}
		found := slices.Index(t.of, key)
		if found < 0 {
			t.uses, t.of, t.last = append(t.uses, one), append(t.of, key), append(t.last, o.number)
			continue
		}
		was := &t.uses[found]
		one.Picks = was.Picks
		if t.last[found] != o.number {
			one.Picks++
		}
		t.last[found] = o.number
		was.Picks = one.Picks
		if one.harder(was) {
			*was = one
		}
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
	if k := slices.Index(t.ropeOf, o.Rig.ID); k >= 0 {
		if need.NeedM > t.ropes[k].NeedM {
			t.ropes[k] = need
		}
		return
	}
	t.ropes, t.ropeOf = append(t.ropes, need), append(t.ropeOf, o.Rig.ID)
}

// harder reports that a pick asks more of gear than another did: of its limit, which may differ from pick to pick;
// where either is not known, by the verdict, then by the load.
func (u *GearUse) harder(than *GearUse) bool {
	switch {
	case u.UsePct != nil && than.UsePct != nil:
		return *u.UsePct > *than.UsePct
	case u.Verdict != than.Verdict:
		return u.Verdict.Graver(than.Verdict)
	}
	return u.PeakKn > than.PeakKn
}
