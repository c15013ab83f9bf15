package felled

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/haul"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/units"
)

// A pullLine is a line of a felling as it leads, and what it takes.
type pullLine struct {
	set    *job.FellLine
	line   fell.Line // from the tree to its first turn, about the hinge
	rig    *job.Rig  // nil: there is none
	anchor *job.Anchor
	points []line.Stop // where it is tied, its turns, its anchor
	tied   r3.Vec
	// Of a tension of 1 at the tree, every leg and turn: as is counted on for what an effort
	// gives, and as the turns may run, for what is loaded.
	counted, loaded line.Tensions

	effortKn   float64 // as is counted on; 0: not known
	hardestKn  float64 // and the most it may pull with
	effortSays string
	givesKn    float64   // at the tree, as is counted on; 0: not known
	mostKn     float64   // at the tree, as it may be
	needKn     float64   // margin included
	share      float64   // of what all lines of its kind carry together
	beam       spar.Spar // the stem under it
	said       string
	mid        *midLine // nil: nothing is put on its middle
	drawn      bool     // it is drawn out as the tree goes, and nobody knows how hard
}

// lines lays out the lines of a felling, or says what stops one.
func (o *Felled) lines(f *felling) {
	f.pulls = make([]pullLine, 0, len(f.set.Lines))
	for i := range f.set.Lines {
		t := pullLine{set: &f.set.Lines[i]}
		if !o.leads(f, &t) {
			return
		}
		f.pulls = append(f.pulls, t)
	}
}

// leads lays out one line, from where it is tied over its turns to its anchor. It reports whether that can be; faults say
// why not.
func (o *Felled) leads(f *felling, t *pullLine) bool {
	l := t.set
	why := o.layOut(t)
	if why != "" {
		o.Fault(course.FaultFell, "%s", why)
		return false
	}
	first := t.points[1].Vec()
	t.rig = o.RigNamed(l.Rig)
	if l.Mid != nil {
		mid, why := o.onMiddle(f, t)
		if why != "" {
			o.Fault(course.FaultFell, "%s", why)
			return false
		}
		if t.mid = mid; mid.weighs() {
			first, t.points[0] = mid.at, line.Stop{Name: "weight", Point: space.PointOf(mid.at)}
		}
	}
	t.tensions()
	over := o.over()
	right := r3.Cross(over, r3.Vec{Z: 1})
	to, tied := r3.Sub(first, f.middle), r3.Sub(t.tied, f.middle)
	forward, aside := r3.Dot(to, over), r3.Dot(to, right)
	t.line = fell.Line{
		AttachHeightM: tied.Z, AttachForwardM: r3.Dot(tied, over), AttachSideM: r3.Dot(tied, right),
		AnchorDistanceM: max(0.1, math.Hypot(forward, aside)), AnchorHeightM: to.Z, BearingDeg: math.Atan2(aside, forward) * 180 / math.Pi,
	}
	if why := o.useless(f, t); why != "" {
		o.Fault(course.FaultFell, "%s", why)
		return false
	}
	if t.mid != nil {
		t.effortSays, t.givesKn, t.mostKn = t.mid.says, t.mid.gives, t.mid.most
		return true
	}
	o.effortOf(t)
	t.givesKn = t.effortKn * pullingOf(l).gain(pulleysGive) / t.counted.DeviceKn
	t.mostKn = l.PretensionKn
	if !l.Holds {
		// What holds is loaded by what it must hold; what pulls may be pulled with all of its effort.
		t.mostKn = max(t.mostKn, t.hardestKn*pullingOf(l).gain(pulleysLoad)/t.loaded.DeviceKn)
	}
	return true
}

// layOut places where a line is tied, its turns and its anchor; why says why it cannot be.
func (o *Felled) layOut(t *pullLine) (why string) {
	l := t.set
	if l.AtM <= o.FromM || l.AtM > o.Now.Top {
		return fmt.Sprintf("a line tied at %s has nothing to pull on: what is felled stands from %s to %s", o.Height(l.AtM), o.Height(o.FromM), o.Height(o.Now.Top))
	}
	if why := pullingOf(l).faults(); why != "" {
		return why
	}
	t.tied = o.OnStem(l.AtM)
	stop := func(name string, at r3.Vec) line.Stop { return line.Stop{Name: name, Point: space.PointOf(at)} }
	t.points = append(t.points, stop("tree", t.tied))
	for i := range l.Redirects {
		r := &l.Redirects[i]
		at, why := o.Place(&r.Place, o.Now, o.Piece)
		if why != "" {
			return fmt.Sprintf("%s of a line sits %s", r.Name, why)
		}
		turn := stop(r.Name, at)
		turn.Efficiency, turn.Friction = r.Efficiency, r.Friction
		if turn.Efficiency == nil && turn.Friction == nil {
			good := pulleysGive
			turn.Efficiency = &good
		}
		t.points = append(t.points, turn)
	}
	at, why := o.Place(&job.Place{On: job.OnAnchor, Anchor: l.Anchor, AtM: *l.AnchorM}, o.Now, o.Piece)
	if why != "" {
		return "a line is anchored " + why
	}
	for i := range o.Job.Site.Anchors {
		if a := &o.Job.Site.Anchors[i]; a.ID == l.Anchor {
			t.anchor = a
			t.points = append(t.points, stop(a.Name, at))
		}
	}
	for i := 1; i < len(t.points); i++ {
		if _, apart := space.Direction(r3.Sub(t.points[i].Vec(), t.points[i-1].Vec()), 0.01); !apart {
			return t.points[i].Name + " sits at the same place as what is before it on its line"
		}
	}
	return ""
}

// tensions works out every leg and turn of a line, of a tension of 1 at the tree.
func (t *pullLine) tensions() {
	motion := line.Lifting
	loaded := append([]line.Stop{}, t.points...)
	for i := 1; i < len(loaded)-1; i++ {
		// What holds is not helped by the friction of a turn; what pulls may meet less of it.
		one := &loaded[i]
		switch free := 1.0; {
		case t.set.Holds:
			one.Efficiency, one.Friction = &free, nil
		case t.set.Redirects[i-1].Efficiency == nil && one.Efficiency != nil:
			good := pulleysLoad
			one.Efficiency = &good
		}
	}
	if t.set.Holds {
		motion = line.Still
	}
	line.Path{LoadKn: 1, Motion: motion, Points: t.points}.SolveInto(&t.counted)
	line.Path{LoadKn: 1, Motion: motion, Points: loaded}.SolveInto(&t.loaded)
}

// useless says why a line neither pulls nor holds, or does not reach; "": it does.
func (o *Felled) useless(f *felling, t *pullLine) string {
	if !t.set.Holds {
		alone := f.pulled
		alone.Pull = t.line
		if faults := alone.Faults("fell"); len(faults) > 0 {
			return fmt.Sprintf("to %s %s", t.anchor.Name, faults[0].Message)
		}
	} else if _, aside, _ := t.line.Arms(); math.Abs(aside) < 0.02*t.line.AttachHeightM {
		return fmt.Sprintf("the line to %s leads along the fall: it holds nothing sideways", t.anchor.Name)
	}
	if t.rig != nil && t.rig.RopeLengthM != nil {
		if long := t.long() + spareRope; *t.rig.RopeLengthM < long {
			return fmt.Sprintf("the rope of %s is %s long; from the tree to %s it takes %s, knot and tail included", t.rig.Name, o.Height(*t.rig.RopeLengthM), t.anchor.Name, o.Height(long))
		}
	}
	return ""
}

// spareRope is what a line needs besides its way: knot and tail, m.
const spareRope = 4

// long is how long a line is from the tree to its anchor, m.
func (t *pullLine) long() (sum float64) {
	for i := range t.counted.Legs {
		sum += t.counted.Legs[i].LengthM
	}
	if t.mid != nil && t.mid.weighs() {
		sum += r3.Norm(r3.Sub(t.mid.at, t.tied))
	}
	return sum
}

// handsHardest is what a person may pull with, leaning into a rope, kN (common practice, no source).
const handsHardest = 0.5

// effortOf is what pulls at a line: as given; hands by what the crew lets a person hold; a vehicle
// by its grip.
func (o *Felled) effortOf(t *pullLine) {
	l := t.set
	by := map[string]string{job.EffortWinch: " on the hand winch", job.EffortCapstan: " by the capstan winch", job.EffortVehicle: " by the vehicle", job.EffortMachine: " by the machine", job.EffortHands: " by hand"}[l.By]
	switch {
	case l.EffortKn != nil:
		t.effortKn, t.effortSays = *l.EffortKn, units.Print(units.Force, o.System, *l.EffortKn)+by
		t.hardestKn = t.effortKn
	case l.By == job.EffortHands:
		t.effortKn = float64(*l.People) * o.Limits.HandKn
		t.hardestKn = max(t.effortKn, float64(*l.People)*handsHardest)
		t.effortSays = fmt.Sprintf("%d × %s by hand, %s,", *l.People, units.Print(units.Force, o.System, o.Limits.HandKn), policy.Ruled(o.Job.Limits.HandKn))
	case l.By == job.EffortVehicle && t.anchor.Kind == job.AnchorVehicle && t.anchor.MassKg != nil:
		braked := hold.BrakedShare
		last := len(t.points) - 1
		way := r3.Sub(t.points[last-1].Vec(), t.points[last].Vec())
		t.effortKn = hold.Grips(&o.Job.Site, haul.Grip{MassKg: *t.anchor.MassKg, Grip: hold.WetGrip, BrakedShare: &braked}, r3.Unit(way))
		t.hardestKn = hold.Grips(&o.Job.Site, haul.Grip{MassKg: *t.anchor.MassKg, Grip: hold.DryGrip}, r3.Unit(way))
		t.effortSays = fmt.Sprintf("%s, the grip of %s on wet grass with half of its weight on driven wheels,", units.Print(units.Force, o.System, t.effortKn), units.Print(units.Mass, o.System, *t.anchor.MassKg))
	}
}

// share hands the pull out to the lines that pull, as they can give, and the holding to those that
// lead against where the tree would go.
func (f *felling) share() {
	tells, sum, pulls := true, 0.0, 0
	for i := range f.pulls {
		if t := &f.pulls[i]; !t.set.Holds {
			tells, sum, pulls = tells && t.givesKn > 0, sum+t.givesKn, pulls+1
		}
	}
	for i := range f.pulls {
		t := &f.pulls[i]
		if t.set.Holds {
			continue
		}
		if t.share = 1 / float64(pulls); tells {
			t.share = t.givesKn / sum
		}
		f.pulled.Pulls = append(f.pulled.Pulls, fell.Share{Line: t.line, Part: t.share})
	}
	// Which way it goes sideways when nothing holds it says which lines hold; its balance is to the
	// worse side of where it likely is.
	leads := 0.0
	off := f.within + f.gustSide
	for _, side := range [2]float64{f.aside - off, f.aside + off} {
		f.pulled.Tree.CogSideM = side
		if most := f.pulled.Solve().Hinge.SideKnm; math.Abs(most) >= math.Abs(leads) {
			leads = most
		}
	}
	f.pulled.Tree.CogSideM = f.aside + math.Copysign(off, leads)
	f.shareHolding(leads)
}

// shareHolding hands the holding out to the lines that hold against what the tree leans to, by how stiff they are and how far out they pull:
// as it gives, each is drawn out by its arm.
func (f *felling) shareHolding(leads float64) {
	parts, sum, known := make([]float64, len(f.pulls)), 0.0, true
	holds := func(t *pullLine) (aside float64, is bool) {
		_, aside, _ = t.line.Arms()
		return aside, t.set.Holds && opposed(aside, leads)
	}
	for i := range f.pulls {
		if t := &f.pulls[i]; t.set.Holds {
			known = known && t.stiff() > 0
		}
	}
	for i := range f.pulls {
		t := &f.pulls[i]
		aside, is := holds(t)
		if !is {
			continue
		}
		// Of ropes that are not known the shorter is the stiffer.
		stiff := 1 / t.long()
		if known {
			stiff = t.stiff()
		}
		parts[i] = stiff * math.Abs(aside)
		sum += parts[i]
	}
	for i := range f.pulls {
		t := &f.pulls[i]
		if _, is := holds(t); is {
			t.share = parts[i] / sum
			f.pulled.Holds = append(f.pulled.Holds, fell.Share{Line: t.line, Part: t.share})
		}
	}
}

// opposed tells that two moments turn opposite ways.
func opposed(a, b float64) bool { return a != 0 && b != 0 && math.Signbit(a) != math.Signbit(b) }
