package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// free: cut and let fall into a drop zone; no rope, no load.
type free struct{ unheld }

// fromGround is the height up to which a stem is felled standing on the ground: it tips
// over, and does not have to turn in the air, m.
const fromGround = 1.5

func (free) bound(_ *Survey, _ *Outcome, piece *load) {
	piece.why = "it goes free: no line to keep to"
}

func (free) work(v *Survey, o *Outcome, now *Standing) {
	if o.pick.What != job.WhatLimb {
		if o.cut.Z > fromGround && o.Length() > o.cut.Z {
			o.fault(faultTooLong, "the piece, %s long, is longer than its drop (%s): it stands on its tip before it is down", v.Height(o.Length()), v.Height(o.cut.Z))
		}
		v.tips(o)
	}
	if v.Hurried && o.Stopped() {
		return
	}
	v.land(o, now, v.lay(o, now))
}

// disc is a round of ground a distance from the cut, the way the piece falls.
func (o *Outcome) disc(d, r float64) Disc {
	at := r3.Add(level(o.cut), r3.Scale(d, towards(o.Settings.FallTowardsDeg)))
	return Disc{at.X, at.Y, r}
}

// land judges where a piece that nothing holds comes down.
func (v *Survey) land(o *Outcome, now *Standing, discs []Disc) {
	// It comes past lines as high as it reaches; what stands on its hinge, past wood too.
	far, _ := v.reaches(o, now)
	top := o.cut.Z + far
	if o.pick.What == job.WhatLimb {
		// It does not stand up on its cut: as high as it grows.
		top = o.cut.Z
		for _, b := range v.body(o, now) {
			top = max(top, o.cut.Z+b.off.Z)
		}
	}
	from := o.cut.Z
	if o.pick.Way == job.WayFelled {
		from = top
	}
	o.Landing = v.landing(discs, from, top, v.woodRound(o, now))
	if o.pick.Way == job.WayFelled {
		v.hung(o)
	} else {
		o.Landing.HangsOn = append(o.Landing.HangsOn, o.Landing.stumps...)
	}
	v.landsBy(o, discs)
	// Downhill it falls further.
	down := math.Sin(radians(max(0, v.fallsAway(o.Settings.FallTowardsDeg)))) * o.Weight.cog
	o.Landing.EnergyKj = o.weightKn() * (max(0, o.Weight.at.Z) + down)
}

func (free) call(_ *Survey, o *Outcome) string { return "Zone clear: free to " + o.wind() }

func (free) cautions(o *Outcome) []string {
	if o.Landing == nil {
		return nil
	}
	return []string{fmt.Sprintf("It can kick off its butt, roll or bounce: nobody nearer than twice its length, %.0f m (common practice).", math.Ceil(2*o.Length()))}
}

func (free) because(_ *Survey, o *Outcome) string {
	return fmt.Sprintf("Goes free %s: no rope, no load.", o.Landing.Reason)
}

// stumpHigh is how high what stands of a tree is a stump that another can lie across, m.
const stumpHigh = 1.2

// hung judges what a felled tree may hang up on: brought down by nobody's plan, it is over; across
// a stump it lies.
func (v *Survey) hung(o *Outcome) {
	l := o.Landing
	// What it strikes, from the stump on.
	slices.SortStableFunc(l.Hits, func(a, b string) int { return cmp.Compare(v.away(o, a), v.away(o, b)) })
	if l.Sector == "" && len(l.Hits) > 0 {
		l.Reason = "it may come down on " + strings.Join(l.Hits, ", then ")
	}
	if o.felling != nil && len(l.Hits) > 0 {
		o.felling.said = append(o.felling.said, v.strikes(o, l.Hits))
	}
	switch {
	case l.Verdict == Close && len(l.HangsOn) == 0:
		l.Verdict, l.Reason = Within, "into "+l.Zone
	case len(l.HangsOn) > 0 && l.Verdict != Over:
		l.Verdict, l.Reason = Over, "it hangs up on "+l.HangsOn[0]
	}
	if len(l.stumps) > 0 && o.felling != nil {
		o.felling.said = append(o.felling.said, fmt.Sprintf("It comes down across the stump of %s: it can break, roll or lift its butt there.", strings.Join(l.stumps, " and ")))
	}
}

// away is how far the nearest target of a name stands from the cut on the plan, m.
func (v *Survey) away(o *Outcome, name string) float64 {
	far := math.Inf(1)
	for i := range v.targets {
		if v.targets[i].Name == name {
			far = min(far, apart(v.targets[i].corners, o.cut.X, o.cut.Y))
		}
	}
	return far
}
