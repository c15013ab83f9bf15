package felled

import (
	"context"
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/hold"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
)

// sawKerf is how far a back cut stands open, m (common practice, no source).
const sawKerf = 0.009

// How long a fall is followed, s, and how often it is repeated at the most: a hand winch takes
// its time, and so does following it.
const (
	followFor = 180.0
	mostFalls = 100
)

// follows is the fall to be followed through time; why says what is missing for it.
func (o *Felled) follows() (fall fell.Fall, why string) {
	f := o.felling
	sound, _ := hold.Soundness(o.Tree, -1, o.FromM)
	left, right := f.wood.SideCapacityKnm.ToLeft*sound, f.wood.SideCapacityKnm.ToRight*sound
	ground := max(0, o.Cut.Z)
	wide := f.wood.ThicknessPerWide
	tree := &f.pulled.Tree
	top := max(tree.CogHeightM, o.ReachM)
	fall = fell.Fall{
		Tree: fell.FallTree{MassKg: tree.MassKg, CogHeightM: tree.CogHeightM, CogForwardM: tree.CogForwardM + f.gustBack,
			CogSideM: tree.CogSideM - math.Copysign(f.gustSide, tree.CogSideM-f.aside), TopHeightM: top},
		Wind:   f.gust,
		Hinge:  &fell.FallHinge{BendingKnm: f.wood.BendingKnm, ToLeftKnm: &left, ToRightKnm: &right, ThicknessOverWidth: &wide, ClosesDeg: f.set.OpeningDeg},
		Back:   &fell.BackCut{CutM: f.wood.BackCutM, KerfM: sawKerf, Wedged: f.set.Wedged},
		Ground: &fell.FallGround{HingeHeightM: &ground, SlopeDeg: o.FallsAway(o.Settings.FallTowardsDeg)},
	}
	if f.push != nil {
		return fall, "A machine's push is not followed through time: its figures stand with the loads."
	}
	for i := range f.pulls {
		line, why := f.pulls[i].followed()
		if why != "" {
			return fall, why
		}
		fall.Lines = append(fall.Lines, line)
	}
	if faults := fall.Faults("fall"); len(faults) > 0 {
		return fall, "The fall cannot be followed: " + faults[0].Message + "."
	}
	return fall, ""
}

// Simulate follows the fall.
func (o *Felled) Simulate(ctx context.Context, runs int, trace *course.Trace) error {
	if o.felling == nil {
		trace.Why = "There is no drop onto a line to follow."
		return nil
	}
	trace.Origin, trace.AzimuthDeg = space.PointOf(o.felling.middle), o.Settings.FallTowardsDeg
	fall, why := o.follows()
	if trace.Why = why; why != "" {
		return nil
	}
	until := followFor
	fall.UntilS = &until
	run, err := fall.Follow(ctx)
	if err != nil {
		return err
	}
	trace.Kind, trace.Fall = "fall", &run
	if o.felling.set.Pulled() {
		// Until its own weight bends the hinge; never: until the face closes.
		until := *o.felling.set.OpeningDeg
		if run.GoesAloneDeg != nil {
			until = *run.GoesAloneDeg
		}
		for share := range search.Shares(40) {
			tilt := until * share
			trace.Need = append(trace.Need, fell.Moment{TiltDeg: tilt, PullKn: o.felling.pulled.PullAt(space.Radians(tilt))})
		}
	}
	trace.Cautions = append(trace.Cautions, fall.Cautions(run)...)
	trace.Said = o.fallSaid(&run)
	if runs <= 0 {
		return nil
	}
	fall.Spread = o.fallSpread(runs)
	trace.Odds, err = fall.FollowSpread(ctx)
	return err
}

// fallSpread is how far off what is known of a felling may be, in so many runs.
func (o *Felled) fallSpread(runs int) *fell.FallSpread {
	mass := o.Weight.Kg
	return &fell.FallSpread{Runs: min(runs, mostFalls), Seed: 1, MassPct: min(90, 100*(mass.High-mass.Low)/(2*max(1, mass.Likely))),
		CogForwardM: max(0.2, o.felling.within), CogSideM: max(0.1, o.felling.within), HingePct: 30, PretensionPct: 15, StiffnessPct: course.SpreadRopePct}
}

// fallSaid says what came of a fall.
func (o *Felled) fallSaid(run *fell.FallRun) string {
	said := map[string]string{
		fell.Goes:       fmt.Sprintf("It goes: its tip is down after %.1f s.", run.TimeS),
		fell.Stands:     "It stands: what pulls does not bring it over.",
		fell.SitsBack:   "It sits back on the saw: it needs a wedge, or the line tight before the cut.",
		fell.Tears:      "The hinge tears sideways.",
		fell.Parts:      "A line parts.",
		fell.Unfinished: fmt.Sprintf("After %.0f s it is not over: haul faster, or make the line tight before.", run.TimeS),
	}[run.Outcome]
	if run.GoesAloneDeg != nil && *run.GoesAloneDeg > 0 {
		said += fmt.Sprintf(" From %.1f° its own weight bends the hinge.", *run.GoesAloneDeg)
	}
	for i := range run.Lines {
		if l := &run.Lines[i]; l.AnchorPeakKn != nil {
			said += fmt.Sprintf(" The weight swings on %s with up to %s.", l.Name, units.Print(units.Force, o.System, *l.AnchorPeakKn))
		}
	}
	if run.SideUsePct != nil && *run.SideUsePct >= 1 {
		said += fmt.Sprintf(" The hinge is used to %.0f %% sideways.", *run.SideUsePct)
	}
	return said
}
