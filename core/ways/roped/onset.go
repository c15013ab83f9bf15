package roped

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
	"elkstay/core/working"
)

// An onset is how a piece that is carried between two points comes onto both of its lines as its cut parts: through the slack in them,
// turning about its tie, undamped; the second line held as its rig has it, tied off where nobody has said. Whatever comes out of their plane swings through it besides.
type onset struct {
	peakKn [2]float64 // of the first line, of the second
	leads  [2]r3.Vec  // unit vectors from their blocks to the piece at those
}

// comesOn follows the piece onto both lines, its hinge letting go at each of some angles.
func (o *Roped) comesOn(far r3.Vec, faces ...float64) *onset {
	along := space.Heading(0.05, space.Towards(o.Settings.FallTowardsDeg), space.Level(r3.Sub(far, o.Block)))
	out := r3.Cross(along, r3.Vec{Z: 1})
	axis := r3.Sub(o.Tip, o.Cut)
	x := func(at r3.Vec) float64 { return r3.Dot(r3.Sub(at, o.Block), along) }
	gyration := o.Gyration(space.Heading(0.02, along, space.Level(axis)))
	long := o.Length()
	mass, cog := o.Counts(), max(0.01, min(long-0.01, o.Weight.CogM))
	// What lies across the plane of its lines turns about its tie as if it lay in it.
	attitude := math.Atan2(axis.Z, math.Copysign(r3.Norm(space.Level(axis)), r3.Dot(axis, along)))
	sin, cos := math.Sincos(attitude)
	arm := cog - o.Settings.TieM
	falls := drop.Ends{
		MassKg: mass, LengthM: long, CogM: cog, InertiaKgM2: mass * gyration * gyration, X: x(o.Tie) + arm*cos, Z: o.Tie.Z + arm*sin,
		AttitudeDeg: attitude * 180 / math.Pi,
	}
	on := &onset{}
	var swings [2]float64
	rope := o.Rig.Rope.Rope
	for i, point := range [2]r3.Vec{o.Block, far} {
		falls.Ends[i] = drop.End{AtM: o.Settings.TieM, X: x(point), Z: point.Z, SlackM: o.Settings.SlackM, LeadM: max(0.1, point.Z), Rope: rope, Efficiency: o.Settings.BlockEfficiency, HoldKn: math.Inf(1)}
		off := math.Atan2(math.Abs(r3.Dot(r3.Sub(o.Tie, point), out)), math.Abs(point.Z-o.Tie.Z))
		swings[i] = 3 - 2*math.Cos(off)
	}
	first := &falls.Ends[0]
	first.LeadM, first.Efficiency, first.AnchorStiffnessKnM = o.LeadM(), o.Ratio(), job.Or(o.Rig.AnchorStiffnessKnM, 0)
	switch set := &o.Settings; set.How {
	case job.ByWraps:
		first.HoldKn = line.HeldBy(set.HandKn, set.Wraps, set.Friction)
	case job.ByHold:
		first.HoldKn = set.HoldKn
	}
	holds := []float64{math.Inf(1)}
	if other := o.other; other != nil {
		end := &falls.Ends[1]
		end.LeadM, end.Efficiency, end.Rope, end.AnchorStiffnessKnM = max(0.1, other.LeadM()), other.Ratio(), other.Rig.Rope.Rope, job.Or(other.Rig.AnchorStiffnessKnM, 0)
		// Held as its rig holds it, and with as much friction as there may be.
		if !math.IsInf(other.hold, 1) {
			holds = []float64{other.hold, other.hold * frictions[0].times}
		}
	}
	for _, face := range faces {
		for _, held := range holds {
			falls.HingeDeg, falls.Ends[1].HoldKn = face, held
			run := falls.Follow()
			for i := range on.peakKn {
				if peak := run.PeakKn[i] * swings[i]; peak > on.peakKn[i] {
					on.peakKn[i] = peak
					on.leads[i] = leadAt(&falls, &run, i, along)
				}
			}
		}
	}
	return on
}

// leadAt is where a line leads from its block when it carries most, of the frames of a catch.
func leadAt(falls *drop.Ends, run *drop.EndsRun, i int, along r3.Vec) r3.Vec {
	most, at := -1.0, 0
	for k := range run.Kn {
		if run.Kn[k][i] > most {
			most, at = run.Kn[k][i], k
		}
	}
	one := &falls.Ends[i]
	sin, cos := math.Sincos(run.Deg[at] * math.Pi / 180)
	lever := one.AtM - falls.CogM
	to := r3.Add(r3.Scale(run.X[at]+lever*cos-one.X, along), r3.Vec{Z: run.Z[at] + lever*sin - one.Z})
	return space.Heading(0.01, r3.Vec{Z: -1}, to)
}

// moment is that of both lines at their hardest, kN, with what sits elsewhere on the first line's way. The lead of the first leads off as it
// lies, that of the second straight down, hauled in.
func (n *onset) moment(o *Roped, elsewhere hold.Moment) hold.Moment {
	kn := n.onBlocks(o)
	// A tag line draws aside too; what it would relieve is not credited, as it need not pull then.
	if drawn := r3.Add(kn[0], o.aside); r3.Norm(drawn) > r3.Norm(kn[0]) {
		kn[0] = drawn
	}
	return append(elsewhere,
		hold.Force{Place: o.Rig.Block.Place, At: o.Block, Kn: kn[0], RestKn: o.carried.MaxAKn, Leads: true},
		hold.Force{Place: &o.second.Place, At: o.pair.B.Vec(), Kn: kn[1], RestKn: o.carried.MaxBKn, Leads: true})
}

// onBlocks are the forces on both blocks, kN.
func (n *onset) onBlocks(o *Roped) [2]r3.Vec {
	return [2]r3.Vec{r3.Scale(n.peakKn[0], r3.Add(n.leads[0], o.leadPull())), r3.Scale(n.peakKn[1], r3.Add(n.leads[1], o.farLead(o.other == nil)))}
}

// working writes the peak of one of the lines.
func (n *onset) working(sheet *working.Sheet, i int) {
	sheet.Add([2]string{"T_1", "T_2"}[i], [2]string{"first line", "second line"}[i]+" as the cut parts", "rigid body on two lines, followed from the hinge (face open 0 and 70°) until it is stopped; undamped", n.peakKn[i], "kN", "rigid-body dynamics; Runge–Kutta of fourth order")
}

// whenOn is said of what is loaded most as the piece comes onto both lines.
const whenOn = "as the cut parts: through the slack and turning onto both lines"
