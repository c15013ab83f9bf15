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
