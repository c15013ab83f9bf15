package assess

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/spar"
	"elkstay/core/working"
)

// PartStop is what stops a swing.
const PartStop = "stop"

// stopping is what is in the way of a swing, and how the piece meets it.
type stopping struct {
	set    *job.Stop
	own    bool // by wood of the tree that the piece comes off
	name   string
	wood   *limbWood      // nil: a line
	tight  float64        // length of the line, m
	from   r3.Vec         // what the line leads to
	rig    *job.Rig       // whose rope it is
	meets  bool           // on some of its arcs
	misses bool           // on others
	at     r3.Vec         // where it is met hardest
	heads  r3.Vec         // which way the piece goes there
	kj     float64        // with so much
	leans  float64        // and with so much of its weight the way it goes, kN
	pose   pose           // and stands so
	give   func() float64 // kN/m of what is met there
	holds  bool           // and all of it is within its limit
}

// stops readies what stops a pick's swing; nil: nothing does, or a fault says why not.
func (v *Survey) stops(o *Outcome, now *Standing) *stopping {
	set := o.pick.Stop
	if set == nil {
		return nil
	}
	if o.arc == nil {
		o.fault(faultTie, "nothing swings here for %s to stop: the piece hangs straight under its block", stopWord(set))
		return nil
	}
	st := &stopping{set: set}
	tree := v.called(set.Tree)
	if tree == nil {
		o.fault(faultGone, "the swing is to be stopped on a tree that is not there, or not measured: %q", set.Tree)
		return nil
	}
	stands := v.standsOf(tree, now)
	st.own = tree == v
	switch set.On {
	case job.StopLimb:
		i := tree.limbIndex(set.Limb)
		if i < 0 || !stands.stands(i) || tree == v && v.own(o)(i) {
			o.fault(faultGone, "the limb that is to stop the swing is not standing there: %q", set.Limb)
			return nil
		}
		st.name, st.wood = tree.Limbs[i].Title(), tree.limbWood(i, stands.Tips[i])
		st.give = func() float64 { return tree.limbGives(i, st.at) }
	case job.StopStem:
		top, bottom := min(stands.Top, tree.Stem.Top()), tree.Stem.Bottom()
		if tree == v {
			top = min(top, max(bottom, o.standsTo))
		}
		st.name = theStem
		if tree != v {
			st.name = tree.tree.Title()
		}
		st.wood = woodOf(max(1, int((top-bottom)/1.5)), func(share float64) (r3.Vec, float64) {
			z := bottom + (top-bottom)*share
			thick, _ := tree.Stem.DiameterAt(z)
			return tree.onStem(z), thick
		})
		st.wood.as = standsAs{tree.index, wholeStem}
		st.give = func() float64 { return tree.stemGives(st.at.Z) }
	case job.StopLine:
		at, name, why := v.ledTo(set.Anchor, nil, now)
		if why != "" {
			o.fault(faultBlock, "the line that stops the swing leads to a place %s", why)
			return nil
		}
		st.name = "the line to " + name
		st.from, st.rig = at, o.Rig
		if set.Rig != "" {
			st.rig = v.RigOf(&job.Pick{Rig: set.Rig})
		}
		if st.rig == nil || st.rig.Rope == nil {
			o.fault(faultRig, "the line that stops the swing has no rope: choose its rig")
			return nil
		}
		under := r3.Sub(o.block, r3.Vec{Z: o.arc.RadiusM})
		st.tight = job.Or(set.LineM, r3.Norm(r3.Sub(under, at)))
	}
	return st
}

func stopWord(s *job.Stop) string {
	return map[string]string{job.StopLimb: "a limb", job.StopStem: "a stem", job.StopLine: "a line"}[s.On]
}

// touches tells whether a piece in a pose is at its stop, and where.
func (st *stopping) touches(balls []ball, p *pose, tie r3.Vec) (at r3.Vec, is bool) {
	if st.wood == nil {
		at = p.place(tie)
		return at, r3.Norm(r3.Sub(at, st.from)) >= st.tight
	}
	for i := range balls {
		spot := p.place(balls[i].off)
		if st.wood.distance(spot, balls[i].wood) <= balls[i].wood {
			return spot, true
		}
	}
	return at, false
}

// cut ends an arc where the piece meets its stop: the share of it that is left, and what it meets
// it with. What begins there already, as it grows beside it, has still to leave it.
func (st *stopping) cut(o *Outcome, balls []ball, tie r3.Vec, at func(share float64) pose) float64 {
	const parts = 240
	cog := r3.Sub(o.Weight.at, o.cut)
	away := false
	var before r3.Vec
	for share := range shares(parts) {
		p := at(share)
		spot, is := st.touches(balls, &p, tie)
		middle := p.place(cog)
		if is && away {
			st.meets = true
			kj := o.weightKn() * max(0, o.Weight.at.Z-middle.Z)
			if kj >= st.kj {
				st.kj, st.at, st.pose = kj, spot, p
				st.heads = heading(1e-9, st.heads, r3.Sub(middle, before))
			}
			return share
		}
		away = away || !is
		before = middle
	}
	st.misses = true
	return 1
}

// limbGives is how stiff a limb is across itself at a place of it, kN/m: bending from there to its
// base.
func (v *Survey) limbGives(i int, at r3.Vec) float64 {
	g := &v.Limbs[i]
	s := g.nearest(at)
	modulus := 10.0
	if v.species != nil {
		modulus = v.species.ElasticityGPa
	}
	const parts = 60
	sum := 0.0
	for k := range parts {
		x := s * (float64(k) + 0.5) / parts
		d := g.diameterAt(x)
		sum += (s - x) * (s - x) / (modulus * 1e6 * math.Pi * math.Pow(d, 4) / 64) * s / parts
	}
	return 1 / max(1e-9, sum)
}

// nearest is the distance along a limb of its place nearest to one, m.
func (g *Grown) nearest(at r3.Vec) float64 {
	best, near := math.Inf(1), 0.0
	look := func(low, high float64) {
		for share := range shares(60) {
			s := low + (high-low)*share
			if d := r3.Norm(r3.Sub(g.at(s), at)); d < best {
				best, near = d, s
			}
		}
	}
	look(0, g.LengthM)
	look(max(0, near-g.LengthM/60), min(g.LengthM, near+g.LengthM/60))
	return near
}

// stemGives is how stiff a stem is across itself at a height, kN/m.
func (v *Survey) stemGives(at float64) float64 {
	modulus := 10.0
	if v.species != nil {
		modulus = v.species.ElasticityGPa
	}
	at = max(v.Stem.Bottom()+0.3, min(at, v.Stem.Top()))
	no := false
	beam := spar.Spar{Stations: v.stationsTo(at), StrengthMpa: 50, StiffnessGpa: modulus, DensityKgM3: v.density.High, SelfWeight: &no, Loads: []spar.Load{{AtM: at, HorizontalKn: 1}}}
	return beam.Solve().Modal.StiffnessKnM
}

// stopLoads gathers what a stop takes: all of the piece's fall goes into what is met, which bends, or
// into the rope, which stretches; nothing else is taken to give.
func (v *Survey) stopLoads(o *Outcome, now *Standing) {
	st := o.stop
	if st == nil {
		return
	}
	if !st.meets {
		o.fault(faultTie, "it never meets %s on its swing: it stops nothing", st.name)
		return
	}
	l := load{part: PartStop, name: st.name}
	speed := math.Sqrt(2 * st.kj * 1000 / o.counts())
	// On its way down it leans on what it has met, too.
	st.leans = o.weightKn() * max(0, -st.heads.Z)
	peak := st.takes()
	if st.wood == nil {
		l.item = st.rig.Rope.Item
		l.Rated = v.limits.RateTie(st.rig, st.leans, peak)
	} else {
		place := job.Place{On: job.OnStem, Tree: st.set.Tree, AtM: st.at.Z}
		tree := v.called(st.set.Tree)
		stands := v.standsOf(tree, now)
		p := pull{place: &place, at: st.at, dir: st.heads, rest: st.leans, peak: peak}
		if st.set.On == job.StopLimb {
			place.On, place.Limb, place.AtM = job.OnLimb, st.set.Limb, tree.Limbs[tree.limbIndex(st.set.Limb)].nearest(st.at)
			l = tree.onLimb(&p, stands)
		} else {
			l = tree.onStanding(&p, stands)
		}
		l.part, l.name = PartStop, st.name
	}
	l.resting, l.peak = st.leans, peak
	o.leftBeside(&l, st)
	l.cautions(fmt.Sprintf("Met at %.1f m/s with %.2g kJ, %s up: all of it is taken to go into what is met; bark, brush and the piece give way a little.", speed, st.kj, v.Height(max(0, st.at.Z))))
	l.cautions("It bounces back the way it came: nobody between it and its cut.")
	if l.why == "" && !l.Known {
		l.why = "nobody has said what it holds"
	}
	st.holds = l.Known && l.use() <= 1
	o.loads = append(o.loads, l)
	if st.wood == nil {
		for i := range v.Job.Site.Anchors {
			if a := &v.Job.Site.Anchors[i]; a.ID == st.set.Anchor {
				place := job.Place{On: job.OnAnchor, Anchor: a.ID, AtM: st.from.Z}
				held := v.anchored(a, &pull{place: &place, at: st.from, dir: r3.Unit(r3.Sub(st.at, st.from)), rest: st.leans, peak: peak})
				st.holds = st.holds && held.Known && held.use() <= 1
				o.loads = append(o.loads, held)
			}
		}
	}
	if st.misses {
		o.fouls = append(o.fouls, fmt.Sprintf("Where its line runs it can pass %s: hold it short until it has stopped.", st.name))
	}
}

// leftBeside takes off a stop's limit what the line loads of the same wood: both come at once.
func (o *Outcome) leftBeside(l *load, st *stopping) {
	if st.wood == nil || !l.Known {
		return
	}
	used := 0.0
	for i := range o.loads {
		other := &o.loads[i]
		own := other.part == partSpar && st.own || other.part == PartHolder && other.on == l.on
		if own && other.Known && !other.unseen {
			used = max(used, other.use())
		}
	}
	if used > 0 {
		l.Limit.Kn *= max(0.01, 1-used)
		l.Limit.Reason += fmt.Sprintf("; %.0f %% of it are taken off for what the line loads there", 100*min(0.99, used))
	}
}

// takes is the force at which what is met has taken up a piece that comes with an energy and goes on leaning
// on it: of a spring k, s + √(s² + 2·k·E), twice what leans for no energy at all, kN.
func (st *stopping) takes() float64 {
	if st.wood == nil {
		return ropeTakes(&st.rig.Rope.Rope, st.tight, st.kj, st.leans)
	}
	return st.leans + math.Sqrt(st.leans*st.leans+2*st.give()*st.kj)
}

// bendsBy is how far what is met has given way by then, m.
func (st *stopping) bendsBy() float64 {
	if st.wood == nil {
		rope := &st.rig.Rope.Rope
		return rope.Strain(st.takes()) * st.tight / rope.Dynamic()
	}
	return st.takes() / st.give()
}

// ropeTakes is the tension at which a rope so long has taken up an energy, kJ, and the work of what goes on
// leaning on it, kN.
func ropeTakes(rope *gear.Rope, longM, kj, leans float64) float64 {
	left := func(kn float64) float64 {
		// ∫(T − s)·dx of a table of straight lines, by small steps of the tension.
		const parts = 200
		sum := 0.0
		for k := range parts {
			sum += (kn*(float64(k)+0.5)/parts - leans) * (rope.Strain(kn*float64(k+1)/parts) - rope.Strain(kn*float64(k)/parts)) * longM
		}
		return sum/rope.Dynamic() - kj
	}
	return root(60, leans, max(2*leans, rope.BreakingKn), left)
}

// People who stand where a swing goes: so near, m, and so tall.
const (
	byPeople  = 1.0
	atTheTree = 2.0
	tallM     = 2.0
	aloftWord = "climber,bucket,platform,lift"
)

// swingsAt makes of a swing towards people a fault until something stops it, and says what stops one
// into a building, which is over as it strikes that.
func (v *Survey) swingsAt(o *Outcome, way *sweep) {
	if o.arc == nil || o.arc.StartDeg < swingsFrom {
		v.comesDownBy(o, way)
		return
	}
	for i := range o.clears {
		c := &o.clears[i]
		if c.target != nil && c.target.Kind == "building" && c.ClearanceM <= 0 {
			// Over already, by what it strikes: what helps is said.
			o.fouls = append(o.fouls, fmt.Sprintf("It swings into %s: stop it with a limb, a stem or a line, hold it at both ends, or take it shorter.", c.Name))
			break
		}
	}
	v.people(o, way, func(near float64, role string) {
		o.fault(faultSector, "it swings or comes down within %s of where the %s stands: stop it before, or have them stand elsewhere", v.Height(near), role)
	})
}

// people calls back for everybody on the site whom the way of a piece comes near, and how near, m.
func (v *Survey) people(o *Outcome, way *sweep, found func(near float64, role string)) {
	for i := range v.Job.Site.Posts {
		post := &v.Job.Site.Posts[i]
		if v.inTheTree(post) {
			continue
		}
		high := tallM
		if slices.ContainsFunc(strings.Split(aloftWord, ","), func(word string) bool { return strings.Contains(strings.ToLower(post.Role), word) }) {
			// Nobody has said how high: wherever it passes over that place.
			high = o.block.Z
		}
		near := way.nearest(byPeople, nil, func(at r3.Vec, _ float64) float64 {
			return math.Sqrt(square(at.X-post.At.X) + square(at.Y-post.At.Y) + square(max(0, at.Z-high)))
		})
		if near < byPeople {
			found(max(0, near), post.Role)
		}
	}
}

// inTheTree tells whether somebody is by the cut: who cuts is not in the way of what leaves.
func (v *Survey) inTheTree(post *job.Post) bool {
	return math.Hypot(post.At.X-v.foot.X, post.At.Y-v.foot.Y) < atTheTree
}

// comesDownBy says by whom a piece comes down on its line: they stand clear of it until it lies.
func (v *Survey) comesDownBy(o *Outcome, way *sweep) {
	v.people(o, way, func(near float64, role string) {
		o.fouls = append(o.fouls, fmt.Sprintf("It comes down within %s of where the %s stands: nobody there until it lies.", v.Height(near), role))
	})
}

// landsBy puts over what may come down, held by nothing, by where somebody stands.
func (v *Survey) landsBy(o *Outcome, discs []Disc) {
	for i := range v.Job.Site.Posts {
		post := &v.Job.Site.Posts[i]
		if v.inTheTree(post) {
			continue
		}
		near := math.Inf(1)
		for _, d := range discs {
			near = min(near, math.Hypot(post.At.X-d.X, post.At.Y-d.Y)-d.R)
		}
		if near >= byPeople {
			continue
		}
		o.fouls = append(o.fouls, fmt.Sprintf("It may come down within %s of where the %s stands: have them stand elsewhere.", v.Height(max(0, near)), post.Role))
		if l := o.Landing; l.Verdict != Over {
			l.Verdict, l.Reason = Over, "it may come down by where the "+post.Role+" stands"
		}
	}
}

func square(x float64) float64 { return x * x }

// StopFigures is how a swing is stopped.
type StopFigures struct {
	Name     string  `json:"name"`
	X        float64 `json:"x" doc:"Where it is met"`
	Y        float64 `json:"y"`
	Z        float64 `json:"z"`
	SpeedMS  float64 `json:"speed_m_s"`
	EnergyKj float64 `json:"energy_kj"`
	Said     string  `json:"said"`
}

// stopFigures gives what is drawn and said of a stop; nil: there is none, or it is not met.
func (v *Survey) stopFigures(o *Outcome) *StopFigures {
	st := o.stop
	if st == nil || !st.meets {
		return nil
	}
	speed := math.Sqrt(2 * st.kj * 1000 / o.counts())
	return &StopFigures{Name: st.name, X: st.at.X, Y: st.at.Y, Z: st.at.Z, SpeedMS: speed, EnergyKj: st.kj,
		Said: fmt.Sprintf("It meets %s %s up, at %.1f m/s with %s.", st.name, v.Height(max(0, st.at.Z)), speed, fmt.Sprintf("%.2g kJ", st.kj))}
}

// bends adds to a way how far what is met bends before it stops the piece.
func (st *stopping) bends(s *sweep) {
	if !st.meets {
		return
	}
	// It gives before it stops: as far as it bends.
	bends := min(0.5, st.bendsBy())
	s.along(func(share float64) pose {
		p := st.pose
		p.at = r3.Add(p.at, r3.Scale(share*bends, st.heads))
		return p
	})
}

// working writes the sum behind what a stop takes.
func (st *stopping) working(sheet *working.Sheet, l *load) {
	sheet.Add("E", "what the piece has when it meets the stop", "W·(how far its balance has come down)", st.kj, "kJ", "energy")
	sheet.Add("s", "what of its weight goes on leaning on it, on its way down", "W·sin of its way under the level", st.leans, "kN", "statics")
	if st.wood == nil {
		sheet.Add("F", "tension at which the rope has taken that up", fmt.Sprintf("∫(T − s)·dx = E over %s m of rope", working.Figure(st.tight)), l.peak, "kN", "energy")
		return
	}
	sheet.Add("k", "stiffness of what is met, bending from there to its foot", "1/∫(s − x)²/(E·I)·dx", st.give(), "kN/m", "Euler–Bernoulli beam")
	sheet.Add("F", "force that bends it so far", "s + √(s² + 2·k·E)", l.peak, "kN", "energy")
}
