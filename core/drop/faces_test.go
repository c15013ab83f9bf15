package drop

import (
	"testing"

	"elkstay/core/gear"
)

func BenchmarkFollowFaces(b *testing.B) {
	hold, inertia := 8.0, 46.0
	c := SimCase{
		Piece: SimPiece{Piece: Piece{MassKg: 149, CogAboveCutM: 0.95, LengthM: 1.9}, InertiaKgM2: &inertia},
		Rigging: Rigging{
			TieAboveCutM: 0.5, BlockBelowCutM: 0.6, SlackM: 0.1, LeadM: 8.3, BlockEfficiency: 0.9, DeviceHoldKn: &hold,
			Rope: gear.Rope{BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 10}}, DynamicFactor: 1.4},
		},
		Spar: &SparTop{MassKg: 198, StiffnessKnM: 11.1},
	}
	shown := 0
	for b.Loop() {
		shown = 0
		c.FollowFaces([]float64{40, 50, 60, 70, 80, 90}, func(*Felt) { shown++ })
	}
	b.ReportMetric(float64(shown), "moments/op")
}

// No moment of a run is above the tension at which its rope runs, whatever the damping of the line pulls as it comes tight.
func TestNoMomentIsAboveTheHold(t *testing.T) {
	for _, damping := range []float64{0, 0.05, 0.3, 0.9} {
		for _, hold := range []float64{1.6, 2, 4} {
			c := SimCase{
				Piece: SimPiece{Piece: Piece{MassKg: 133, CogAboveCutM: 0.95, LengthM: 1.9}},
				Rigging: Rigging{
					TieAboveCutM: 0.5, BlockBelowCutM: 0.6, SlackM: 0.3, LeadM: 4, BlockEfficiency: 0.9, DeviceHoldKn: &hold,
					Rope: gear.Rope{BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 5}}, DynamicFactor: 1.4},
				},
				RopeDampingRatio: &damping,
			}
			run, err := Simulate(t.Context(), &c)
			if err != nil || run.LinePeakKn == nil {
				t.Fatal(err, "it is never tight")
			}
			if slip := hold / 0.9; *run.LinePeakKn > slip*(1+1e-6) || *run.DevicePeakKn > hold*(1+1e-6) {
				t.Errorf("damping %v, hold %v: the line peaks at %v, and runs at %v", damping, hold, *run.LinePeakKn, slip)
			}
		}
	}
}
