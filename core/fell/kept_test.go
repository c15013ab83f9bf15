package fell

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"elkstay/core/frozen/kept"
)

// Invented cases of every kind say what they said: fellings, hinges, pushes, reaches, weights in a line, and falls followed
// through time with what pulls, holds, blows and tears. Whether they were right is not told here.
func TestCasesSayWhatTheySaid(t *testing.T) {
	r := rand.New(rand.NewPCG(27, 11))
	f := func(low, high float64) float64 { return low + (high-low)*r.Float64() }
	said := map[string]any{}
	sayFellings(f, said)
	sayFalls(t, f, said)
	kept.Hold(t, "testdata/kept.json.gz", said)
}

func sayFellings(f func(low, high float64) float64, said map[string]any) {
	plain := func(v float64) any {
		if math.IsInf(v, 0) || math.IsNaN(v) {
			return fmt.Sprint(v)
		}
		return v
	}
	line := func(aside float64) Line {
		return Line{AttachHeightM: f(4, 14), AttachForwardM: f(-1, 1), AttachSideM: f(-0.5, 0.5), AnchorDistanceM: f(8, 40), AnchorHeightM: f(-2, 5), BearingDeg: f(-aside, aside)}
	}
	for n := range 40 {
		tree := Tree{MassKg: f(200, 6000), CogHeightM: f(3, 11), CogForwardM: f(-1.5, 1), CogSideM: f(-0.8, 0.8)}
		hinge := &Hinge{WidthM: f(0.2, 0.8), ThicknessM: f(0.02, 0.09), StrengthMpa: f(30, 70)}
		one := Felling{Tree: tree, Pull: line(50)}
		if n%3 > 0 {
			one.Hinge = hinge
		}
		if n%4 == 1 {
			side := line(0)
			side.BearingDeg = math.Copysign(f(60, 120), -tree.CogSideM)
			one.Retainer = &side
		}
		if n%5 == 0 {
			one.Wedge, one.Margin = &Wedge{DistanceM: f(0.1, 0.5)}, number(f(1, 2))
		}
		if n%7 == 3 {
			one.Pulls, one.Holds = []Share{{line(30), 0.6}, {line(60), 0.4}}, []Share{{Line{AttachHeightM: 8, AnchorDistanceM: 20, BearingDeg: -90}, 1}}
		}
		need := one.Solve()
		alone, ever := one.AloneAt(f(20, 400))
		spent, does := one.Pull.SpentAt(f(0.2, 6))
		forward, side, unit := one.Pull.Arms()
		said[fmt.Sprintf("felling %d", n)] = []any{need, one.Faults("body"), one.Cautions(need), one.Working(need), plain(one.PullAt(f(0, 0.6))), plain(alone), ever, plain(spent), does,
			forward, side, unit, one.Pull.LengthM(), one.Pull.LengthAt(f(0, 0.8))}
		cut := HingeCut{Stump: Stump{DiameterM: f(0.3, 1.2)}, StrengthMpa: f(30, 70), ThicknessM: Thickness{Left: f(0.02, 0.1), Right: f(0.02, 0.1)}}
		cut.FaceDepthM, cut.BoredM, cut.NicksM, cut.Stump.CavityM = cut.Stump.DiameterM*f(0.1, 0.5), cut.Stump.DiameterM*f(0, 0.6), f(0, 0.04), cut.Stump.DiameterM*f(0, 0.7)
		if n%3 == 0 {
			cut.BoredM, cut.Stump.CavityM = 0, 0
		}
		if faults := cut.Faults("body"); len(faults) > 0 {
			said[fmt.Sprintf("no hinge %d", n)] = faults
		} else {
			wood := cut.Solve()
			said[fmt.Sprintf("hinge %d", n)] = []any{wood, cut.Cautions(wood), cut.Working(wood)}
		}
		push := Push{Tree: tree, Hinge: one.Hinge, HeightM: f(1, 8), LimitKn: number(f(1, 60))}
		shove := push.Solve()
		reach := Reach{TopHeightM: f(4, 30), SlopeDeg: f(-30, 30), HingeHeightM: number(f(0, 2))}
		if len(reach.Faults("body")) == 0 {
			tip := reach.Solve()
			said[fmt.Sprintf("reach %d", n)] = []any{tip, reach.Cautions(tip), reach.Working(tip)}
		}
		said[fmt.Sprintf("push %d", n)] = []any{shove, push.Cautions(shove), push.Working(shove)}
		mid := Midline{AttachHeightM: f(5, 14), AnchorDistanceM: f(8, 30), AnchorHeightM: f(-1, 7), WeightKg: f(30, 500), GroundM: f(-3, 0), UntilDeg: f(10, 80)}
		mid.LineLengthM = math.Hypot(mid.AnchorDistanceM, mid.AttachHeightM-mid.AnchorHeightM) * f(1.01, 1.25)
		if faults := mid.Faults("body"); len(faults) > 0 {
			said[fmt.Sprintf("no weight %d", n)] = faults
		} else {
			following := mid.Solve()
			sag, hangs := mid.Hangs()
			said[fmt.Sprintf("weight %d", n)] = []any{following, sag, hangs, mid.Cautions(following), mid.Working(following)}
		}
	}
}

func sayFalls(t *testing.T, f func(low, high float64) float64, said map[string]any) {
	t.Helper()
	for n := range 40 {
		fall := benched()
		if n%5 == 4 {
			fall = weighed(f(1, 60))
			*fall.Lines[0].MidKg, *fall.Lines[0].LineM = f(60, 400), f(20.5, 26)
			fall.Lines[0].HoldKn = nil
			l := &fall.Lines[0]
			l.AttachForwardM, l.AttachSideM, l.BearingDeg = -0.5+0.1*float64(n%11), 0.4-0.1*float64(n%7), 24-8*float64(n%6)
		} else {
			fall.Lines[0].PretensionKn, fall.Lines[0].Haul.StallKn, fall.Lines[0].BearingDeg = f(0, 9), f(2, 14), f(-25, 25)
			fall.Lines[0].Efficiency, fall.Lines[1].PretensionKn = number(f(0.6, 1)), f(0, 6)
			if n%3 == 0 {
				fall.Lines[1].HoldKn = number(f(1, 5))
			}
			if n%7 == 0 {
				fall.Lines[0].Haul = nil
			}
			if n%4 == 3 {
				fall.Lines[1].Haul = &HaulSpeed{SpeedMS: 0.2, StallKn: 5}
			}
			if n%6 == 1 {
				fall.Lines[1].Rope.BreakingKn = f(3, 9)
			}
		}
		fall.Tree.CogForwardM, fall.Tree.CogSideM, fall.Tree.MassKg = f(-1, 0.6), f(-0.5, 0.5), f(400, 3500)
		fall.Hinge.BendingKnm, fall.Hinge.HelpsPct = f(0.5, 16), f(0, 60)
		if n%4 == 2 {
			fall.Hinge.ToLeftKnm, fall.Hinge.ToRightKnm, fall.Hinge.ThicknessOverWidth, fall.Hinge.ClosesDeg = number(f(2, 60)), number(f(2, 60)), number(f(0.05, 0.2)), number(f(20, 90))
		}
		if n%3 == 1 {
			fall.Wind, fall.DragAreaM2 = &Wind{SpeedMS: f(2, 14), TowardsDeg: f(-180, 180), AreaM2: f(3, 30), HeightM: f(5, 10)}, f(0, 15)
			fall.Back.Wedged = false
		}
		if n%3 == 2 {
			fall.Ground = &FallGround{HingeHeightM: number(f(0, 1)), SlopeDeg: f(-20, 20)}
		}
		fall.UntilS, fall.SampleS = number(25), number(0.4)
		if faults := fall.Faults("body"); len(faults) > 0 {
			said[fmt.Sprintf("no fall %d", n)] = faults
			continue
		}
		run, err := fall.Follow(t.Context())
		said[fmt.Sprintf("fall %d", n)] = []any{run, fmt.Sprint(err), fall.Cautions(run), fall.Working(run)}
		if n%10 == 0 {
			fall.Spread = &FallSpread{Runs: 12, Seed: int64(n), MassPct: 15, CogForwardM: 0.2, CogSideM: 0.1, HingePct: 30, PretensionPct: 15, StiffnessPct: 20}
			odds, err := fall.FollowSpread(t.Context())
			said[fmt.Sprintf("odds %d", n)] = []any{odds, fmt.Sprint(err)}
		}
	}
}
