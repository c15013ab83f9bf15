package calc

import (
	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// PieceRequest is the request of kind piece.
type PieceRequest struct {
	Wood wood.Wood `json:"wood"`
	timber.Stem
	Method timber.Method `json:"method,omitempty" enum:"frustum,smalian,huber,newton" doc:"Formula for the volume; default frustum"`
}

// PieceAnswer is the answer of kind piece.
type PieceAnswer struct {
	LengthM     float64    `json:"length_m"`
	VolumeM3    float64    `json:"volume_m3"`
	MassKg      wood.Range `json:"mass_kg"`
	WeightKn    wood.Range `json:"weight_kn"`
	CogM        float64    `json:"cog_m" doc:"Centre of gravity, on the axis of at_m, at the likely mass"`
	InertiaKgM2 float64    `json:"inertia_kg_m2" doc:"About the centre of gravity, transverse, at the likely mass"`
	Beside
}

func checkPiece(r *PieceRequest) intake.Faults {
	return append(r.Wood.Faults("body.wood"), r.Faults("body")...)
}

// Piece weighs a log or a piece of a stem.
func Piece(r *PieceRequest) PieceAnswer {
	density, source := r.Wood.GreenDensity()
	weight := r.Weigh(density, r.Method)
	return PieceAnswer{
		LengthM: weight.LengthM, VolumeM3: weight.VolumeM3, MassKg: weight.MassKg, WeightKn: weight.WeightKn(),
		CogM: weight.CogM, InertiaKgM2: weight.InertiaKgM2,
		Beside: Beside{r.Working(r.Bottom(), r.Top(), density, source, r.Method), r.Cautions(r.Wood, r.Bottom(), r.Top())},
	}
}
