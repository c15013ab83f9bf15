package ground

import (
	"fmt"
	"math"
	"slices"

	"elkstay/core/assess"
	"elkstay/core/haul"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways/felled"
	"elkstay/core/working"

	"gonum.org/v1/gonum/spatial/r3"
)

// Friction at the slippery end, at which a log on a slope goes by itself: bark off, wet ground
// (common practice, no source).
const slippery = 0.3

// A vehicle pulls with the share of its weight on driven wheels (common practice, no source).
const drivenShare = 0.5

// MoveFigures is what a way over the ground takes.
type MoveFigures struct {
	ID         string         `json:"id"`
	Name       string         `json:"name"`
	LengthM    float64        `json:"length_m" doc:"Along the ground"`
	Steepest   float64        `json:"steepest_deg" doc:"Uphill at its steepest; negative: downhill all the way"`
	Downhill   float64        `json:"downhill_deg" doc:"Downhill at its steepest; 0: nowhere"`
	Logs       int            `json:"logs"`
	MassKg     float64        `json:"mass_kg" doc:"All of them, at the heavy end"`
	HeaviestKg float64        `json:"heaviest_kg" doc:"The heaviest go, at the heavy end"`
	Goes       int            `json:"goes"`
	PullKn     float64        `json:"pull_kn" doc:"At the log, on the steepest part"`
	NeedKn     float64        `json:"need_kn" doc:"Of what pulls, through its system"`
	GivesKn    *float64       `json:"gives_kn,omitempty" doc:"What pulls gives; absent: not known"`
	UsePct     *float64       `json:"use_pct,omitempty" doc:"Of what it gives, or of what rope or anchor hold: the nearest limit"`
	Verdict    policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	HoldKn     float64        `json:"hold_kn" doc:"What holds it back downhill; 0: it stays by itself"`
	HoldWraps  float64        `json:"hold_wraps" doc:"Turns on the lowering device with which one person holds that"`
	RopeM      float64        `json:"rope_m" doc:"Through the system, hauled in on the way"`
	Said       string         `json:"said"`
	Cautions   []string       `json:"cautions" nullable:"false"`
	Working    []working.Step `json:"working" nullable:"false"`
}

// moved is one log that goes along a way.
type moved struct {
	log Log
	kg  float64 // heavy end
}

// along are the logs that go along a way, the heaviest first.
func (g *Ground) along(m *job.Move) (list []moved) {
	for i := range g.Pieces {
		p := &g.Pieces[i]
		if p.Logging.Kept && len(m.Picks) == 0 || len(m.Picks) > 0 && !slices.Contains(m.Picks, p.ID) {
			continue
		}
		for k := range p.Parts {
			for _, log := range p.Parts[k].Logs {
				list = append(list, moved{log, log.MassKg.High})
			}
		}
	}
	slices.SortStableFunc(list, func(a, b moved) int { return int(math.Copysign(1, b.kg-a.kg)) })
	return list
}

// ground of a way: how long it is along the ground, and how steep up and down at the most, degrees.
func groundOf(site *job.Site, m *job.Move) (length, up, down float64) {
	flat := math.Hypot(m.To.X-m.From.X, m.To.Y-m.From.Y)
	up = math.Inf(-1)
	rise := []job.Rise{{}}
	for _, r := range m.Profile {
		if r.OutM > 0 && r.OutM < flat {
			rise = append(rise, r)
		}
	}
	if n := len(m.Profile); n > 0 {
		// A first place off the beginning sets its height.
		if m.Profile[0].OutM == 0 {
			rise[0] = m.Profile[0]
		}
		before := rise[len(rise)-1]
		beyond := slices.IndexFunc(m.Profile, func(r job.Rise) bool { return r.OutM >= flat })
		grade := 0.0
		if beyond >= 0 {
			r := m.Profile[beyond]
			grade = (r.RiseM - before.RiseM) / (r.OutM - before.OutM)
		} else {
			// Beyond the last place the ground goes on as it ended, or as the site does: both count, the steeper lies there.
			ended, site := 0.0, math.Tan(slopeAlong(site, m)*math.Pi/180)
			if len(rise) > 1 {
				ended = (before.RiseM - rise[len(rise)-2].RiseM) / (before.OutM - rise[len(rise)-2].OutM)
			}
			grade = search.Harder(ended, site)
			for _, one := range [2]float64{ended, site} {
				angle := math.Atan(one) * 180 / math.Pi
				up, down = max(up, angle), max(down, -angle)
			}
		}
		rise = append(rise, job.Rise{OutM: flat, RiseM: before.RiseM + grade*(flat-before.OutM)})
	} else {
		rise = append(rise, job.Rise{OutM: flat, RiseM: flat * math.Tan(slopeAlong(site, m)*math.Pi/180)})
	}
	for i := 1; i < len(rise); i++ {
		out, high := rise[i].OutM-rise[i-1].OutM, rise[i].RiseM-rise[i-1].RiseM
		length += math.Hypot(out, high)
		angle := math.Atan2(high, out) * 180 / math.Pi
		up, down = max(up, angle), max(down, -angle)
	}
	return length, up, down
}

// slopeAlong is how steeply the site's slope rises along a way, degrees; where nobody has said which
// way it falls, it rises along every one.
func slopeAlong(site *job.Site, m *job.Move) float64 {
	slope := job.Or(site.SlopeDeg, 0)
	if slope == 0 || site.SlopeTowardsDeg == nil {
		return slope
	}
	heading := math.Atan2(m.To.X-m.From.X, m.To.Y-m.From.Y)
	return -math.Atan(math.Tan(slope*math.Pi/180)*math.Cos(heading-*site.SlopeTowardsDeg*math.Pi/180)) * 180 / math.Pi
}

// dragged is the way in which what pulls at a way is pulled itself, along the ground: a unit vector.
func dragged(site *job.Site, m *job.Move) r3.Vec {
	back := space.Heading(1e-9, r3.Vec{X: 1}, r3.Vec{X: m.From.X - m.To.X, Y: m.From.Y - m.To.Y})
	fall := back
	if towards := site.SlopeTowardsDeg; towards != nil {
		fall = space.Towards(*towards)
	}
	return r3.Unit(r3.Vec{X: back.X, Y: back.Y, Z: -r3.Dot(back, fall) * math.Tan(space.Radians(job.Or(site.SlopeDeg, 0)))})
}

// move works out one way over the ground.
func (g *Ground) move(f *assess.Forest, m *job.Move) MoveFigures {
	out := MoveFigures{ID: m.ID, Name: m.Name, Verdict: policy.NotKnown, Cautions: []string{}, Working: []working.Step{}}
	var down float64
	out.LengthM, out.Steepest, down = groundOf(&f.Job.Site, m)
	if f.Job.Site.SlopeTowardsDeg == nil && len(m.Profile) == 0 {
		down = max(down, job.Or(f.Job.Site.SlopeDeg, 0))
	}
	out.Downhill = down
	logs := g.along(m)
	out.Logs = len(logs)
	if len(logs) == 0 {
		out.Said = "No log goes this way."
		return out
	}
	together := 1
	if m.Together != nil {
		together = *m.Together
	}
	for i, one := range logs {
		out.MassKg += one.kg
		if i < together {
			out.HeaviestKg += one.kg
		}
	}
	out.Goes = (len(logs) + together - 1) / together
	drag := haul.Drag{MassKg: out.HeaviestKg, Friction: *g.Settings.Friction, SlopeDeg: out.Steepest}
	if m.LiftM != nil {
		// Its thick end is lifted: that is the heavier way round.
		long := logs[0].log.LengthM
		drag.Lifted = &haul.Lifted{LengthM: long, CogM: heavyEnd(&logs[0].log), LiftHeightM: *m.LiftM}
	}
	if faults := drag.Faults("body"); len(faults) > 0 {
		out.Said = fmt.Sprintf("%s: %s.", m.Name, faults[0].Message)
		out.Verdict = policy.Over
		return out
	}
	skid := drag.Solve()
	if drag.Lifted != nil {
		// Until its nose is up it is dragged flat: the more of both.
		flat := haul.Drag{MassKg: drag.MassKg, Friction: drag.Friction, SlopeDeg: drag.SlopeDeg}
		if lying := flat.Solve(); lying.PullKn > skid.PullKn {
			drag, skid = flat, lying
		}
	}
	out.PullKn, out.Working = skid.PullKn, drag.Working(skid)
	g.pulled(f, m, &out)
	g.heldBack(f, m, &out)
	return out
}

// heavyEnd is where a log balances, from its thin end, m: the centroid of a frustum.
func heavyEnd(l *Log) float64 {
	thin, thick := min(l.DiameterM, l.ThinM), max(l.DiameterM, l.ThinM)
	return l.LengthM / 4 * (thin*thin + 2*thin*thick + 3*thick*thick) / (thin*thin + thin*thick + thick*thick)
}

// pulled works out the effort that moves a log along its way, whether what pulls there gives it, and what holds the system that pulls.
func (g *Ground) pulled(f *assess.Forest, m *job.Move, out *MoveFigures) {
	system := f.System
	force := func(kn float64) string { return units.Print(units.Force, system, kn) }
	parts := 1
	if m.Parts != nil {
		parts = *m.Parts
	}
	gain := felled.Advantage(parts)
	out.NeedKn = out.PullKn / gain
	out.RopeM = out.LengthM * float64(parts)
	gives, by := g.effort(f, m, out.Steepest)
	worst, known := 0.0, true
	add := func(use *float64) {
		if use == nil {
			known = false
		} else {
			worst = max(worst, *use)
		}
	}
	if gives > 0 {
		out.GivesKn = &gives
		share := out.NeedKn / gives
		add(&share)
	} else {
		add(nil)
	}
	// What pulls by a machine may pull all that it can: rope and what holds it see that.
	most := out.PullKn
	if m.By != "" && m.By != job.EffortHands {
		most = max(most, gives*gain)
	}
	use, said, long := f.RopeUnder(m.Rig, most)
	add(use)
	out.Cautions = append(out.Cautions, said+".")
	if long != nil && *long < out.LengthM {
		worst = max(worst, out.LengthM / *long)
		out.Cautions = append(out.Cautions, fmt.Sprintf("That rope is %s long, the way %s.", units.Print(units.Height, system, *long), units.Print(units.Height, system, out.LengthM)))
	}
	for _, held := range []struct {
		id string
		kn float64
	}{{m.Anchor, most + most/gain}, {m.Block, 2 * most}} {
		if held.id != "" {
			use, said := f.AnchorUnder(held.id, held.kn)
			add(use)
			out.Cautions = append(out.Cautions, said+".")
		}
	}
	if worst > 0 {
		pct := 100 * worst
		out.UsePct = &pct
	}
	out.Verdict = f.Judged(worst)
	if !known && out.Verdict != policy.Over {
		out.Verdict = policy.NotKnown
	}
	through := ""
	if parts > 1 {
		through = fmt.Sprintf(", %s through %d parts", force(out.NeedKn), parts)
	}
	there := "what pulls is not known"
	if out.GivesKn != nil {
		there = fmt.Sprintf("%s: %s", by, force(gives))
	}
	out.Said = fmt.Sprintf("%s to move%s; %s. %s of %s, %s along the ground; %s of rope come in each time.",
		force(out.PullKn), through, there, plural(out.Goes, "go", "goes"), units.Print(units.Mass, system, out.HeaviestKg)+" at the most",
		units.Print(units.Height, system, out.LengthM), units.Print(units.Height, system, out.RopeM))
}

// effort is what pulls at a way, kN, and what it is called; 0: not known.
func (g *Ground) effort(f *assess.Forest, m *job.Move, uphill float64) (kn float64, by string) {
	truck := g.Settings.TruckOf(m.Truck)
	if m.By == "" || m.By == job.EffortHands {
		truck = nil // one that was named before hands were
	}
	grip := math.Inf(1)
	by = map[string]string{"": "hand", job.EffortHands: "hand", job.EffortWinch: "the hand winch", job.EffortCapstan: "the capstan winch", job.EffortVehicle: "the vehicle", job.EffortMachine: "the machine"}[m.By]
	if truck != nil {
		by = truck.Name
		grip = 0
		if truck.MassKg != nil {
			share := drivenShare
			grips := haul.Grip{MassKg: *truck.MassKg, Grip: truck.Wheels(), BrakedShare: &share, SlopeDeg: max(0, uphill)}
			// Along the ground from where it stands; the steepest of its way, too.
			grip = min(grips.Solve().PullKn, hold.Grips(&f.Job.Site, grips, dragged(&f.Job.Site, m)))
		}
	}
	switch {
	case m.EffortKn != nil:
		return min(*m.EffortKn, grip), by
	case m.By == "" || m.By == job.EffortHands:
		people := 1
		if m.People != nil {
			people = *m.People
		}
		return float64(people) * f.HandKn(), plural(people, "person", "people")
	case truck != nil && m.By == job.EffortWinch, truck != nil && m.By == job.EffortCapstan, truck != nil && m.By == job.EffortMachine:
		if truck.WinchKn != nil {
			return min(*truck.WinchKn, grip), by + "'s winch"
		}
	case truck != nil && m.By == job.EffortVehicle:
		return grip, by
	}
	return 0, by
}

// heldBack is what holds a log back where the way goes down steeply enough for it to slide.
func (g *Ground) heldBack(f *assess.Forest, m *job.Move, out *MoveFigures) {
	angle := out.Downhill * math.Pi / 180
	out.HoldKn = max(0, out.HeaviestKg*units.Gravity/1000*(math.Sin(angle)-slippery*math.Cos(angle)))
	if out.HoldKn < 1e-9 {
		return
	}
	friction := job.RigDefaults().Friction
	for i := range f.Job.Rigs {
		if f.Job.Rigs[i].ID == m.Rig || m.Rig == "" && i == 0 {
			friction = job.Or(f.Job.Rigs[i].Device.Friction, friction)
		}
	}
	out.HoldWraps = math.Ceil(2*line.WrapsFor(out.HoldKn, f.HandKn(), friction*line.LowerFriction)) / 2
	out.Cautions = append(out.Cautions, fmt.Sprintf("Downhill at %.0f° it slides by itself once bark and ground are wet: hold it back with %s, %g turns on the lowering device for one person.",
		out.Downhill, units.Print(units.Force, f.System, out.HoldKn), out.HoldWraps))
}
