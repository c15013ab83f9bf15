package assess

import (
	"slices"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/policy"
)

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
	for i := range o.Loads {
		l := &o.Loads[i]
		if l.Part == hold.PartPiece || l.Part == hold.PartSpar || l.Unseen {
			continue
		}
		use, known, judged := v.judge(l)
		rig, name := o.Rig, l.Name
		if l.Rig != nil {
			// Of one line of two: the same item, whichever end it is on.
			rig, name = l.Rig, l.On
		}
		one := GearUse{Rig: rig.Name, Part: l.Part, Name: name, Item: l.Item, PeakKn: l.PeakKn, Pick: o.Number, Picks: 1, Verdict: judged}
		if known {
			limit := l.Limit.Kn
			one.LimitKn, one.UsePct = &limit, &use
		}
		key := [4]string{rig.ID, l.Part, name, l.Item}
		found := slices.Index(t.of, key)
		if found < 0 {
			t.uses, t.of, t.last = append(t.uses, one), append(t.of, key), append(t.last, o.Number)
			continue
		}
		was := &t.uses[found]
		one.Picks = was.Picks
		if t.last[found] != o.Number {
			one.Picks++
		}
		t.last[found] = o.Number
		was.Picks = one.Picks
		if one.harder(was) {
			*was = one
		}
	}
	for i := range o.Ropes {
		t.rope(&o.Ropes[i], o.Number)
	}
}

// rope notes how long the rope of a pick's rig must be.
func (t *tally) rope(use *course.RopeUse, number int) {
	need := RopeNeed{Rig: use.Rig.Name, NeedM: use.NeedM, HaveM: use.Rig.RopeLengthM, Pick: number, Verdict: policy.NotKnown}
	if need.HaveM != nil {
		need.Verdict = policy.Within
		if *need.HaveM < need.NeedM {
			need.Verdict = policy.Over
		}
	}
	if k := slices.Index(t.ropeOf, use.Rig.ID); k >= 0 {
		if need.NeedM > t.ropes[k].NeedM {
			t.ropes[k] = need
		}
		return
	}
	t.ropes, t.ropeOf = append(t.ropes, need), append(t.ropeOf, use.Rig.ID)
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
