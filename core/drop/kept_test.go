package drop

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"elkstay/core/frozen/kept"
	"elkstay/core/gear"
	"elkstay/core/wood"
)

// finite leaves out what cannot be written.
func finite(v float64) any {
	if math.IsInf(v, 0) || math.IsNaN(v) {
		return fmt.Sprint(v)
	}
	return v
}

// Invented cases of every kind say what they said: the energy sum and what it is written as, limits, runs and holds, a held
// end, a swing, two ends, the simulation and its spread. Whether they were right is not told here.
func TestCasesSayWhatTheySaid(t *testing.T) {
	r := rand.New(rand.NewPCG(26, 11))
	f := func(low, high float64) float64 { return low + (high-low)*r.Float64() }
	said := map[string]any{}
	sayDrops(r, f, said)
	sayEnds(f, said)
	saySims(t, f, said)
	for what, change := range map[string]func(*SimCase){
		"mass": func(c *SimCase) { c.Spread = &Spread{Runs: 3, MassKg: &wood.Range{Low: 5, Likely: 3, High: 9}} },
		"tie":  func(c *SimCase) { c.TieAboveCutM = 9 }, "rope": func(c *SimCase) { c.Rope = gear.Rope{} }, "face": func(c *SimCase) { c.FaceClosesDeg, c.StartDeg = number(3), number(40) },
	} {
		c := simCase()
		change(&c)
		said["refused "+what] = c.Faults("body")
	}
	kept.Hold(t, "testdata/kept.json.gz", said)
}

func sayDrops(r *rand.Rand, f func(low, high float64) float64, said map[string]any) {
	for n := range 40 {
		c := random(r)
		if n%4 == 0 {
			c.LineLimitKn = number(f(1, 40))
		}
		catch := Solve(&c)
		said[fmt.Sprintf("locked %d", n)] = []any{catch, c.Cautions(catch), c.Working(catch), c.EnergyKj(), c.FallM(), c.LineM(), c.HangsTipDown(), AtLimit(&c)}
		held := withHold(c, catch.DevicePeakKn*f(0.3, 0.9))
		catch = Solve(&held)
		run, reachable := RunFor(&held, catch.LinePeakKn*0.9)
		said[fmt.Sprintf("running %d", n)] = []any{catch.LinePeakKn, catch.BlockPeakKn, finite(catch.RunM), finite(catch.LowestM), catch.Holds, held.Cautions(catch), finite(run), reachable, finite(HoldFor(&held, f(0.1, 3))), AtLimit(&held)}
		if catch.Holds {
			said[fmt.Sprintf("written %d", n)] = []any{held.Working(catch), AroundHold(&held)}
		}
		h := Held{MassKg: f(20, 800), SinkM: f(0, 2), SlackM: f(0, 0.5), LineM: f(2, 12), LeadM: f(0, 20), Rope: c.Rope, Efficiency: f(0.5, 1), AnchorStiffnessKnM: c.AnchorStiffnessKnM, EnergyLostPct: f(0, 20)}
		if n%2 == 0 {
			h.SlackM, h.PretensionKn = 0, f(0, 4)
		}
		if n%3 == 0 {
			h.HoldKn = number(f(1, 12))
		}
		caught := h.Solve()
		said[fmt.Sprintf("held %d", n)] = []any{caught, h.Cautions(caught), h.Working(caught), h.Faults("body")}
		s := swungCase(f(30, 600), f(0, 6), f(0.5, 7), f(0, 1), f(0, 0.8))
		s.CogOut, s.CogUp = f(-1, 1), f(-1, 1)
		catch = s.Solve(inf)
		hold := catch.DevicePeakKn * f(0.3, 0.95)
		ran := s.Solve(hold)
		run, reachable = s.RunFor(catch.LinePeakKn * 0.8)
		said[fmt.Sprintf("swung %d", n)] = []any{catch.LinePeakKn, catch.BlockPeakKn, catch.DevicePeakKn, catch.StretchM, catch.LowestM, s.Working(catch), ran.LinePeakKn, finite(ran.RunM), finite(ran.LowestM), ran.Holds, finite(run), reachable, finite(s.HoldFor(1))}
	}
}

func sayEnds(f func(low, high float64) float64, said map[string]any) {
	for n := range 24 {
		e := endsOf(f(0, 0.8))
		e.CogM, e.HingeDeg, e.MassKg = f(1.5, 4.5), f(0, 60), f(40, 500)
		e.X = e.CogM
		for i := range e.Ends {
			e.Ends[i].X, e.Ends[i].Z, e.Ends[i].SlackM, e.Ends[i].LeadM, e.Ends[i].Efficiency = e.Ends[i].X+f(-1, 1), f(10, 14), f(0, 0.6), f(0, 15), f(0.7, 1)
			if n%3 > i {
				e.Ends[i].HoldKn = f(1, 6)
			}
		}
		run := e.Follow()
		said[fmt.Sprintf("ends %d", n)] = []any{run.PeakKn, run.RunM, run.LineM, run.LeftDeg, run.LeftS, run.Energy, run.Stopped, run.X, run.Z, run.Deg, run.Kn}
	}
}

func saySims(t *testing.T, f func(low, high float64) float64, said map[string]any) {
	t.Helper()
	for n := range 16 {
		c := simCase()
		c.Piece.MassKg, c.SlackM, c.Piece.CogAboveCutM, c.TieAboveCutM = f(40, 700), f(0, 0.8), f(0.5, 1.8), f(0.1, 2)
		c.HingeMomentKnm, c.FaceClosesDeg, c.UntilS, c.SampleS = f(0, 0.9)*c.Piece.MassKg*9.8e-3*c.Piece.CogAboveCutM*math.Sin(math.Pi/90), number(f(20, 100)), number(2.5), number(0.1)
		if n%2 == 0 {
			c.DeviceHoldKn = number(f(3, 12))
		}
		if n%3 == 0 {
			c.Spar = &SparTop{MassKg: f(100, 900), StiffnessKnM: f(20, 400), DampingRatio: number(0.03)}
		}
		if n%4 == 1 {
			c.AnchorStiffnessKnM, c.RopeDampingRatio, c.StartDeg = f(50, 500), number(0.1), number(f(0, 20))
		}
		if faults := c.Faults("body"); len(faults) > 0 {
			said[fmt.Sprintf("refused %d", n)] = faults
			continue
		}
		run := followed(&c)
		said[fmt.Sprintf("followed %d", n)] = []any{run, c.Cautions(run), c.Working(run)}
		if n%4 == 0 {
			c.Spread = &Spread{Runs: 24, Seed: n, MassKg: &wood.Range{Low: 0.8 * c.Piece.MassKg, Likely: c.Piece.MassKg, High: 1.3 * c.Piece.MassKg}, RopeStiffnessPct: 20, HoldPct: 25, SlackM: 0.1}
			spread, err := SimulateSpread(t.Context(), &c)
			said[fmt.Sprintf("spread %d", n)] = []any{spread, fmt.Sprint(err)}
		}
	}
}
