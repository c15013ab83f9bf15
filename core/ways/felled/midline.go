package felled

import (
	"context"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/fell"
	"elkstay/core/haul"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A midLine is what is put on the middle of a line of a felling, and what it makes of the line.
type midLine struct {
	says, source string
	gives, most  float64 // at the tree: as is counted on, and as it may be, kN
	aside        float64 // that it pulls the tree to the side, kN

	// A weight: how it hangs while the tree turns.
	hangs []hanging
	at    r3.Vec    // where it hangs at first
	way   fell.Line // from the tree to where its other half ends
	long  float64   // of both halves, m
	// What its other half takes when the tree lets it go: it swings down from there, or falls free
	// and is caught, kN; why that could not be followed, empty: it was.
	swings float64
	unseen string

	// A pull to the side.
	pull *haul.Sideways
	gain haul.Gain
	kn   float64
}

// hanging is a weight in a line at one tilt of the tree.
type hanging struct {
	fell.Sag
	tilt   float64 // degrees
	place  r3.Vec
	moment float64 // forward, about the hinge, kN·m
}

func (m *midLine) weighs() bool { return m.pull == nil }

// midSteps is how many tilts a weight in a line is looked at.
const midSteps = 40

// onMiddle works out what is put on the middle of a line, or says why it cannot be.
func (o *Felled) onMiddle(f *felling, t *pullLine) (m *midLine, why string) {
	l := t.set
	set := l.Mid
	switch {
	case l.Holds:
		return nil, fmt.Sprintf("the line to %s holds: nothing is put on its middle", t.anchor.Name)
	case set.Kind == job.MidSide && set.SideKn == nil:
		return nil, fmt.Sprintf("say with how much the line to %s is pulled to the side", t.anchor.Name)
	case set.Kind == job.MidSide:
		return o.pulledAside(t)
	case set.WeightKg == nil:
		return nil, fmt.Sprintf("say how heavy the weight in the line to %s is", t.anchor.Name)
	case pullingOf(l).more() || l.By != "" || l.EffortKn != nil || l.PretensionKn > 0:
		return nil, fmt.Sprintf("a weight hangs in the line to %s: it is made fast there, with no effort, system or tension besides", t.anchor.Name)
	}
	return o.hungIn(f, t)
}

// hungIn follows a weight in a line from the upright tree until the tree goes alone.
func (o *Felled) hungIn(f *felling, t *pullLine) (m *midLine, why string) {
	set, end := t.set.Mid, t.points[1].Vec()
	over := space.Towards(o.Settings.FallTowardsDeg)
	hinge := r3.Cross(r3.Vec{Z: 1}, over)
	arm := r3.Sub(t.tied, f.middle)
	long := set.Line(r3.Norm(r3.Sub(end, t.tied)))
	m = &midLine{source: "statics: a weight on two lines",
		says: fmt.Sprintf("%s hung in the middle of %s of line", units.Print(units.Mass, o.System, *set.WeightKg), o.Height(long))}
	right := r3.Cross(over, r3.Vec{Z: 1})
	off := r3.Sub(end, f.middle)
	ahead, aside := r3.Dot(off, over), r3.Dot(off, right)
	m.long = long
	m.way = fell.Line{AttachHeightM: arm.Z, AttachForwardM: r3.Dot(arm, over), AttachSideM: r3.Dot(arm, right),
		AnchorDistanceM: max(0.1, math.Hypot(ahead, aside)), AnchorHeightM: off.Z, BearingDeg: math.Atan2(aside, ahead) * 180 / math.Pi}
	until, ever := f.aloneAt(o.Weight.Kg.Low)
	if !ever {
		until = 45
	}
	for i := range midSteps + 1 {
		tilt := until * float64(i) / midSteps
		turned := space.Turned(hinge, space.Radians(tilt), r3.Vec{})
		tied := r3.Add(f.middle, turned.Place(arm))
		to := r3.Sub(end, tied)
		out := space.Level(to)
		// Both ends over a base beneath them.
		base := min(tied.Z, end.Z) - 1
		line := fell.Midline{AttachHeightM: tied.Z - base, AnchorDistanceM: r3.Norm(out), AnchorHeightM: end.Z - base, LineLengthM: long, WeightKg: *set.WeightKg}
		sag, ok := line.Hangs()
		if !ok && i == 0 {
			return nil, fmt.Sprintf("%s of line to %s is no longer than the way, %s: a weight cannot hang in it", o.Height(long), t.anchor.Name, o.Height(r3.Norm(to)))
		}
		h := hanging{Sag: sag, tilt: tilt}
		if ok {
			z := base + sag.WeightAtM
			half := long / 2
			h.place = r3.Add(tied, r3.Scale(math.Sqrt(max(0, half*half-(tied.Z-z)*(tied.Z-z)))/max(1e-9, r3.Norm(out)), out))
			h.place.Z = z
			if z > 0.1 && sag.PullKn > 0 {
				force := r3.Scale(sag.PullKn/half, r3.Sub(h.place, tied))
				h.moment = r3.Dot(r3.Cross(r3.Sub(tied, f.middle), force), hinge)
			} else if i == 0 {
				return nil, fmt.Sprintf("the weight in the line to %s lies on the ground, or does not pull, before the tree moves: a shorter line, or higher ends", t.anchor.Name)
			}
			m.most = max(m.most, sag.PullKn)
		}
		m.hangs = append(m.hangs, h)
	}
	m.at, m.gives = m.hangs[0].place, m.hangs[0].PullKn
	// A pendulum on the half that stays, from where the weight hangs to straight down, or to the ground.
	half := long / 2
	from, to := (end.Z-m.at.Z)/half, min(1, max(0, end.Z)/half)
	m.swings = *set.WeightKg * units.Gravity / 1000 * max(0, 3*to-2*from)
	return m, ""
}

// catchFor is how long a fall is followed for what a weight in a line does, s; aboveFollowed is how
// much more than the worst of what was followed it is taken for, as the moment of a catch hangs on
// little.
const (
	catchFor      = 20.0
	aboveFollowed = 1.1
)

// weightsCatch follows the fall, the tree as light, as likely and as heavy as it may be, for what a
// weight in a line does to both its halves: a tree that falls faster than the weight leaves it to
// fall free, and a half that stretches little catches it.
func (o *Felled) weightsCatch(f *felling) {
	hung := slices.IndexFunc(f.pulls, func(t pullLine) bool { return t.mid != nil && t.mid.weighs() })
	if hung < 0 {
		return
	}
	fall, why := o.follows()
	for i := range f.pulls {
		if t := &f.pulls[i]; t.mid != nil && t.mid.weighs() {
			t.mid.unseen = why
		}
	}
	if why != "" {
		return
	}
	until, t := catchFor, &f.pulls[hung]
	fall.UntilS = &until
	for _, kg := range []float64{o.Weight.Kg.Low, o.Weight.Kg.Likely, o.Weight.Kg.High} {
		fall.Tree.MassKg = kg
		run, err := fall.Follow(context.Background())
		if err != nil {
			continue
		}
		line := &run.Lines[hung]
		t.mid.swings = max(t.mid.swings, aboveFollowed**line.AnchorPeakKn)
		t.mostKn = max(t.mostKn, line.PeakKn)
	}
}

// pulledAside works out a pull at the middle of a line that was made tight before.
func (o *Felled) pulledAside(t *pullLine) (m *midLine, why string) {
	l := t.set
	span := r3.Norm(r3.Sub(t.points[1].Vec(), t.tied))
	m = &midLine{kn: *l.Mid.SideKn, source: "statics of a stretched line",
		says: fmt.Sprintf("%s to the side at the middle of %s of line", units.Print(units.Force, o.System, *l.Mid.SideKn), o.Height(span))}
	switch {
	case l.PretensionKn <= 0:
		return nil, fmt.Sprintf("a line that is pulled at its middle is tight before: say how tight the line to %s is made", t.anchor.Name)
	case t.rig == nil || t.rig.Rope == nil || len(t.rig.Rope.Elongation) == 0:
		return nil, fmt.Sprintf("the stretch of the rope to %s is not known: nobody can say what a pull at its middle gives", t.anchor.Name)
	}
	whole := 0.0
	for i := 1; i < len(t.points); i++ {
		whole += r3.Norm(r3.Sub(t.points[i].Vec(), t.points[i-1].Vec()))
	}
	rope := t.rig.Rope.Rope
	// As soft as all of the line stretches for what it gives; as stiff as its first part alone, and as
	// a rope is that has been loaded, for what it takes.
	soft := l.PretensionKn / rope.Strain(l.PretensionKn)
	m.pull = &haul.Sideways{SpanM: span, PretensionKn: l.PretensionKn, StiffnessKn: soft * span / whole, SideForceKn: m.kn}
	m.gain = m.pull.Solve()
	stiff := *m.pull
	more := l.PretensionKn + m.kn
	for range 30 {
		// As steep as its stretch is where it ends up.
		step := 0.01 * more
		stiff.StiffnessKn = max(soft, step/max(1e-9, rope.Strain(more+step)-rope.Strain(more)))
		more = stiff.Solve().TensionKn
	}
	m.gives = m.gain.TensionKn * math.Cos(space.Radians(m.gain.AngleDeg))
	m.most = max(m.gain.TensionKn, more)
	m.aside = m.kn / 2
	return m, ""
}

// onward is what a line carries behind its middle: as it rests, and at the most, kN.
func (t *pullLine) onward() (rest, most float64) {
	if t.mid == nil || !t.mid.weighs() {
		return t.needKn, t.mostKn
	}
	most = t.mid.swings
	for i := range t.mid.hangs {
		most = max(most, t.mid.hangs[i].AnchorKn)
	}
	return t.mid.hangs[0].AnchorKn, most
}

// holdsOn is what the middle of a line gives, as a pull at the tree before it moves: of a weight the
// least that it gives, for what is needed, while the tree turns.
func (m *midLine) holdsOn(f *felling) (kn float64, why string) {
	if !m.weighs() {
		return m.gives, ""
	}
	kn = m.gives
	tree := &f.pulled.Tree
	weight := tree.MassKg * units.Gravity / 1000
	needed := func(tilt float64) float64 {
		sin, cos := math.Sincos(space.Radians(tilt))
		return f.wood.BendingKnm - weight*(tree.CogForwardM*cos+tree.CogHeightM*sin)
	}
	first := needed(0)
	if first <= 0 {
		return kn, ""
	}
	for i := range m.hangs {
		h := &m.hangs[i]
		if share := max(0, needed(h.tilt)) / first; share > 0 {
			if as := m.gives * h.moment / m.hangs[0].moment / share; as < kn {
				kn, why = as, fmt.Sprintf("; at %.1f° it gives the least for what is needed", h.tilt)
			}
		}
	}
	return max(1e-6, kn), why
}

// said is what stands beside the line.
func (m *midLine) said(o *Felled, f *felling, t *pullLine, alone float64) string {
	print := func(kn float64) string { return units.Print(units.Force, o.System, kn) }
	if !m.weighs() {
		return fmt.Sprintf("Pulled at its middle with %s the line goes from %s to %s, %s out of line: used up when the tree has come %s. A short, strong pull: take up what it gives, and stay out of the bight.",
			print(m.kn), print(t.set.PretensionKn), print(m.gain.TensionKn), o.Height(m.gain.DeflectionM), o.Height(2*math.Hypot(m.pull.SpanM/2, m.gain.DeflectionM)-m.pull.SpanM))
	}
	first, last := &m.hangs[0], &m.hangs[len(m.hangs)-1]
	said := fmt.Sprintf("The weight pulls %s at first, %s up", print(first.PullKn), o.Height(first.place.Z))
	for i := range m.hangs {
		if h := &m.hangs[i]; h.moment == 0 {
			return said + fmt.Sprintf("; at %.1f° it is down or the line is slack, and the tree needs it to %.1f°: a shorter line, or more height under it. Nobody under it or beside it.", h.tilt, alone)
		}
	}
	if kn, _ := m.holdsOn(f); kn < t.needKn {
		said += "; while it follows it does not give what is needed"
	}
	return said + fmt.Sprintf(", and %s at %.1f°, where the tree goes alone. Nobody under it or beside it.", print(last.PullKn), last.tilt)
}

// working writes the sum behind what it gives.
func (m *midLine) working(sheet *working.Sheet) {
	if !m.weighs() {
		sheet.Append(m.pull.Working(m.gain))
		sheet.Add("G", "what is counted on, along the line", "T·cos of its angle", m.gives, "kN", m.source)
		return
	}
	first, last := &m.hangs[0], &m.hangs[len(m.hangs)-1]
	sheet.Add("z₀", "the weight above the ground, at first", "half a line from both ends, hanging", first.place.Z, "m", "geometry")
	sheet.Add("G", "pull on the tree, at first", "two lines hold the weight", first.PullKn, "kN", m.source)
	sheet.Add("M₀", "its moment about the hinge", "arm × pull, along the fall", first.moment, "kN·m", m.source)
	sheet.Add("M₁", fmt.Sprintf("its moment at %.3g°", last.tilt), "as M₀, the tree turned", last.moment, "kN·m", m.source)
	sheet.Add("A", "its other half, to the anchor", "two lines hold the weight", first.AnchorKn, "kN", m.source)
	sheet.Add("A₁", "the same when the tree lets it go", "the more of W·(3·cos θ₁ − 2·cos θ₀) and what it is caught with, followed with the tree light, likely and heavy", m.swings, "kN", "energy of a pendulum; followed through time, a tenth added")
}
