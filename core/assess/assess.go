package assess

import (
	"slices"

	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// Options say what is asked of a job beside the job itself.
type Options struct {
	Units units.System // of the sentences; figures are SI
	Pick  string       // id of the pick to give in full; empty: none
	Crew  policy.Crew  // its rules and its gear; empty: the defaults, and no gear
	// Memory, when the job was read by it, remembers what has not changed since; else nil.
	Memory *Memory
	// Gone is closed when nobody waits for the answer any more: it then ends soon, unfinished.
	// Nil: somebody always does.
	Gone <-chan struct{}
}

// Assess works out everything that can be said of a job: every pick in short, one in
// full.
func Assess(document *job.Job, o Options) Assessment {
	f, a := Prepare(document, &o)
	a.Stage, a.Down = stage(document, f != nil && !slices.ContainsFunc(a.Missing, func(m Missing) bool { return m.Location != "picks" }))
	if f == nil {
		a.State = StateWithout(&a)
		return a
	}
	a.GearStandings = f.Gear.Standings()
	a.Cautions = append(a.Cautions, f.Gear.Cautions()...)
	f.Learn(&a)
	m := f.Whole()
	gear, lies := tally{uses: []GearUse{}, ropes: []RopeNeed{}}, heaps{}
	full := []string{}
	for i, turn := range f.turns(m, o.Memory) {
		p, v, out, figures := &f.Job.Picks[i], turn.of, turn.out, turn.figures
		if v == nil {
			a.Picks = append(a.Picks, f.nowhere(p, i+1))
			a.Verdict = policy.Over
			continue
		}
		if o.Pick == p.ID {
			a.Detail = v.detail(out)
		}
		gear.add(v, out)
		if caution := lies.add(v, out); caution != "" {
			full = append(full, caution)
		}
		if !out.TakesNothing() && (a.Heaviest == nil || out.Weight.Kg.Likely > a.Heaviest.MassKg.Likely) {
			a.Heaviest = &Heaviest{i + 1, out.Weight.Kg}
		}
		if n := figures.Nearest; n != nil && (a.Nearest == nil || n.UsePct > a.Nearest.UsePct) {
			a.Nearest = n
		}
		if g := a.Gravest; g == nil || figures.Verdict.Graver(g.Verdict) || g.Verdict == policy.Over && figures.Worst == cannot && g.Said != cannot {
			a.Gravest = &Gravest{i + 1, figures.Worst, figures.Verdict}
		}
		a.Verdict = policy.Worse(a.Verdict, figures.Verdict)
		a.Picks = append(a.Picks, figures)
	}
	if f.Cancelled() {
		return a
	}
	for i, left := range left(m) {
		a.Trees[i].Left = left
	}
	a.Gear, a.Ropes = gear.uses, gear.ropes
	if len(f.Job.Picks) == 0 {
		a.Verdict = policy.NotKnown
	} else {
		a.Cautions = append(a.Cautions, standingCaution)
	}
	a.Cautions = append(a.Cautions, f.powerCautions()...)
	a.Cautions = append(a.Cautions, f.zoneCautions()...)
	a.Cautions = append(a.Cautions, full...)
	for _, v := range f.Surveys {
		if v != nil {
			a.Cautions = append(a.Cautions, v.treeCautions()...)
		}
	}
	a.State = f.state(&a)
	return a
}

// standingCaution holds for every job.
const standingCaution = "The energy sum leaves out the piece striking the stem, the spar's sway and the knot. Local codes, the makers' instructions and a competent person on site come first."
