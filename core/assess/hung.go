package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/ways/felled"
)

// hung judges what a felled tree may hang up on: brought down by nobody's plan, it is over; across
// a stump it lies.
func (v *Survey) hung(o *Outcome, over *felled.Felled) {
	l := o.Landing
	// What it strikes, from the stump on.
	slices.SortStableFunc(l.Hits, func(a, b string) int { return cmp.Compare(v.away(o, a), v.away(o, b)) })
	if l.Sector == "" && len(l.Hits) > 0 {
		l.Reason = "it may come down on " + strings.Join(l.Hits, ", then ")
	}
	if len(l.Hits) > 0 {
		over.Meets(v.strikes(o, l.Hits))
	}
	switch {
	case l.Verdict == policy.Close && len(l.HangsOn) == 0:
		l.Verdict, l.Reason = policy.Within, "into "+l.Zone
	case len(l.HangsOn) > 0 && l.Verdict != policy.Over:
		l.Verdict, l.Reason = policy.Over, "it hangs up on "+l.HangsOn[0]
	}
	if len(l.stumps) > 0 {
		over.Meets(fmt.Sprintf("It comes down across the stump of %s: it can break, roll or lift its butt there.", strings.Join(l.stumps, " and ")))
	}
}

// away is how far the nearest target of a name stands from the cut on the plan, m.
func (v *Survey) away(o *Outcome, name string) float64 {
	far := math.Inf(1)
	for i := range o.Tree.Targets {
		if o.Tree.Targets[i].Name == name {
			far = min(far, space.Apart(o.Tree.Targets[i].Corners, o.Cut.X, o.Cut.Y))
		}
	}
	return far
}

// strikes says what a felled tree meets, in the order in which it turns into it, and with how much of
// its fall: the whole tree's, the hinge's hold left out.
func (v *Survey) strikes(o *Outcome, hits []string) string {
	type strike struct {
		name          string
		tilt, out, kJ float64
	}
	list := []strike{}
	over := space.Towards(o.Settings.FallTowardsDeg)
	long := o.Sweeps(over)
	lever := r3.Sub(o.Weight.At, o.Cut)
	ahead := r3.Dot(lever, over)
	for i := range o.Tree.Targets {
		t := &o.Tree.Targets[i]
		if !slices.Contains(hits, t.Name) {
			continue
		}
		out := max(0.1, space.Apart(t.Corners, o.Cut.X, o.Cut.Y))
		up := t.ToM - o.Cut.Z
		tilt := math.Atan2(out, up)
		if math.Hypot(out, up) > long {
			// Its tip comes down beneath the top, on the face of it.
			tilt = math.Asin(min(1, out/long))
			if up < 0 {
				tilt = math.Pi - tilt
			}
		}
		falls := lever.Z - (lever.Z*math.Cos(tilt) - ahead*math.Sin(tilt))
		list = append(list, strike{name: t.Name, tilt: tilt, out: out, kJ: o.WeightKn() * max(0, falls)})
	}
	slices.SortStableFunc(list, func(a, b strike) int { return cmp.Or(cmp.Compare(a.tilt, b.tilt), strings.Compare(a.name, b.name)) })
	parts := make([]string, len(list))
	for i, one := range list {
		parts[i] = fmt.Sprintf("%s at %.0f°, %s out, with up to %.0f kJ", one.name, one.tilt*180/math.Pi, o.Height(one.out), one.kJ)
	}
	return "It meets " + strings.Join(parts, "; then ") + "."
}
