// Package section answers where to cut the whole stem: the fewest pieces from the top
// down that keep every limit, and among those the ones that use the limits least.
//
// Cuts lie on a grid. Each piece is weighed (the heavy end of its mass, the centre of
// gravity at the likely one) and dropped from its own cut by the energy sum of
// package drop. The best way down is found exactly: from each cut, all ways to it
// have been tried (dynamic programming: Bellman 1957).
//
// Lengths are in metres, masses in kilograms, forces in kilonewtons.
package section

import (
	"context"
	"fmt"
	"math"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// A Stem is a stem with its wood.
type Stem struct {
	Wood wood.Wood `json:"wood"`
	timber.Stem
}

// A Rig moves down with the cuts.
type Rig struct {
	TieAboveCutM       float64   `json:"tie_above_cut_m" minimum:"0" maximum:"100"`
	BlockBelowCutM     float64   `json:"block_below_cut_m" minimum:"0" maximum:"100"`
	SlackM             float64   `json:"slack_m" minimum:"0" maximum:"100"`
	DeviceAtM          float64   `json:"device_at_m" minimum:"0" maximum:"100" doc:"Height of the lowering device, m"`
	Rope               gear.Rope `json:"rope"`
	BlockEfficiency    float64   `json:"block_efficiency" minimum:"0.05" maximum:"1"`
	AnchorStiffnessKnM float64   `json:"anchor_stiffness_kn_m,omitempty" minimum:"0.1" maximum:"1000000000"`
	EnergyLostPct      float64   `json:"energy_lost_pct,omitempty" minimum:"0" maximum:"100"`
	DeviceHoldKn       *float64  `json:"device_hold_kn,omitempty" minimum:"0" maximum:"5000"`
}

// Limits are what every piece must keep. Absent: no limit.
type Limits struct {
	LineKn   *float64 `json:"line_kn,omitempty" exclusiveMinimum:"0" maximum:"5000"`
	BlockKn  *float64 `json:"block_kn,omitempty" exclusiveMinimum:"0" maximum:"5000"`
	DeviceKn *float64 `json:"device_kn,omitempty" exclusiveMinimum:"0" maximum:"5000"`
	MassKg   *float64 `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"1000000"`
	LengthM  *float64 `json:"length_m,omitempty" exclusiveMinimum:"0" maximum:"150"`
	RunM     *float64 `json:"run_m,omitempty" exclusiveMinimum:"0" maximum:"150"`
	ClearM   *float64 `json:"clear_m,omitempty" minimum:"0" maximum:"150" doc:"Room to keep above the ground at 0"`
}

// A Problem is a stem to be cut up.
type Problem struct {
	Stem       Stem     `json:"stem"`
	FromM      float64  `json:"from_m" minimum:"0" maximum:"150" doc:"Top of what stands, m"`
	ToM        float64  `json:"to_m" minimum:"0" maximum:"150" doc:"Lowest cut, m"`
	GridM      *float64 `json:"grid_m,omitempty" minimum:"0.01" maximum:"5" doc:"Distance of possible cuts; default 0.1"`
	MinLengthM *float64 `json:"min_length_m,omitempty" minimum:"0" maximum:"50" doc:"Shortest piece; default 0.5"`
	Rig        Rig      `json:"rig"`
	Limits     Limits   `json:"limits"`
}

// A Piece is one piece of the way down.
type Piece struct {
	FromM        float64    `json:"from_m" doc:"Its upper end"`
	ToM          float64    `json:"to_m" doc:"Its cut"`
	LengthM      float64    `json:"length_m"`
	MassKg       wood.Range `json:"mass_kg"`
	LinePeakKn   float64    `json:"line_peak_kn"`
	BlockPeakKn  float64    `json:"block_peak_kn"`
	DevicePeakKn float64    `json:"device_peak_kn"`
	RunM         float64    `json:"run_m"`
	UsePct       float64    `json:"use_pct" doc:"Largest figure in per cent of its limit"`
	Governs      string     `json:"governs" doc:"The limit that is; empty without limits"`
}

// Blocked says why there is no way down.
type Blocked struct {
	AtM float64 `json:"at_m" doc:"Lowest cut that can be reached"`
	Why string  `json:"why" doc:"What stops the shortest piece there"`
}

// Plan is a way down.
type Plan struct {
	Pieces    []Piece  `json:"pieces" nullable:"false" doc:"From the top down; empty when blocked"`
	Count     int      `json:"count"`
	MaxUsePct float64  `json:"max_use_pct"`
	Blocked   *Blocked `json:"blocked,omitempty"`
}

func (p *Problem) grid() float64 {
	if p.GridM == nil {
		return 0.1
	}
	return *p.GridM
}

func (p *Problem) shortest() float64 {
	if p.MinLengthM == nil {
		return 0.5
	}
	return *p.MinLengthM
}

// mostTries bounds the work: each is a piece weighed and dropped. A 60 m stem on a grid of
// 10 cm without a longest piece takes 180,000.
const mostTries = 200_000

// tries is how many pieces are tried at most on so many cuts, the longest of so many cells.
func tries(cuts, longest float64) float64 {
	longest = min(cuts, longest)
	return longest*cuts - longest*(longest-1)/2
}

// Faults names what is wrong between the fields at the given path.
func (p *Problem) Faults(path string) intake.Faults {
	faults := append(p.Stem.Wood.Faults(path+".stem.wood"), p.Stem.Faults(path+".stem")...)
	faults.Join(p.Rig.Rope.Faults(path + ".rig.rope"))
	if len(faults) > 0 || len(p.Stem.Stations) < 2 {
		return faults
	}
	bottom, top := p.Stem.Bottom(), p.Stem.Top()
	if p.FromM > top || p.FromM <= bottom {
		faults.Add(path+".from_m", p.FromM, fmt.Sprintf("more than %g and at most %g m", bottom, top), "from_m is %g, not on the stem (%g to %g m)", p.FromM, bottom, top)
	}
	if p.ToM >= p.FromM || p.ToM < bottom {
		faults.Add(path+".to_m", p.ToM, fmt.Sprintf("at least %g and less than %g m", bottom, p.FromM), "to_m is %g, not between the stem's foot (%g m) and from_m (%g m)", p.ToM, bottom, p.FromM)
	}
	long := math.Inf(1)
	if p.Limits.LengthM != nil {
		long = *p.Limits.LengthM
	}
	many := func(grid float64) float64 { return tries((p.FromM-p.ToM)/grid, long/grid) }
	if many(p.grid()) > mostTries {
		fine := p.grid()
		for many(fine) > mostTries {
			fine *= 1.01
		}
		faults.Add(path+".grid_m", p.grid(), fmt.Sprintf("at least %.3g m", fine), "a grid of %g m makes more pieces to try (%.0f) than can be waited for: a coarser grid, or a longest piece", p.grid(), many(p.grid()))
	}
	return faults
}

// cut returns the height of cut k from the top.
func (p *Problem) cut(k int) float64 { return p.FromM - float64(k)*p.grid() }

// tolerance lets a figure that is its limit but for rounding pass.
const tolerance = 1e-9

// over tells whether a figure is above its limit, if there is one.
func over(figure float64, limit *float64) bool { return limit != nil && figure > *limit*(1+tolerance) }

// What stops a piece that a longer one may not be stopped by.
const (
	tooShort = "it is shorter than the shortest piece"
	underTie = "it is no longer than the tie above the cut"
)

// try weighs and drops the piece between two cuts; stop names what forbids it, in
// words, or is empty.
func (p *Problem) try(density wood.Range, from, to float64) (piece Piece, stop string) {
	piece = Piece{FromM: from, ToM: to, LengthM: from - to}
	rig := &p.Rig
	lead := to - rig.BlockBelowCutM - rig.DeviceAtM
	switch {
	case lead < 0.001:
		return piece, "the block is not above the lowering device"
	case piece.LengthM < p.shortest()-tolerance:
		return piece, tooShort
	case piece.LengthM <= rig.TieAboveCutM+tolerance:
		return piece, underTie
	}
	weight := p.Stem.WeighBetween(to, from, density, timber.Frustum)
	piece.MassKg = weight.MassKg
	c := drop.Case{
		Piece: drop.Piece{MassKg: weight.MassKg.High, CogAboveCutM: weight.CogM - to, LengthM: piece.LengthM},
		Rigging: drop.Rigging{
			TieAboveCutM: rig.TieAboveCutM, BlockBelowCutM: rig.BlockBelowCutM, SlackM: rig.SlackM, LeadM: lead,
			Rope: rig.Rope, BlockEfficiency: rig.BlockEfficiency, AnchorStiffnessKnM: rig.AnchorStiffnessKnM,
			DeviceHoldKn: rig.DeviceHoldKn,
		},
		EnergyLostPct: rig.EnergyLostPct,
	}
	catch := drop.Solve(&c)
	piece.LinePeakKn, piece.BlockPeakKn, piece.DevicePeakKn = catch.LinePeakKn, catch.BlockPeakKn, catch.DevicePeakKn
	if !catch.Holds {
		return piece, "the device never stops it"
	}
	piece.RunM = catch.RunM
	for _, check := range [...]struct {
		name   string
		figure float64
		limit  *float64
	}{
		{"line", catch.LinePeakKn, p.Limits.LineKn}, {"block", catch.BlockPeakKn, p.Limits.BlockKn},
		{"device", catch.DevicePeakKn, p.Limits.DeviceKn}, {"mass", weight.MassKg.High, p.Limits.MassKg},
		{"length", piece.LengthM, p.Limits.LengthM}, {"run", catch.RunM, p.Limits.RunM},
	} {
		if check.limit == nil {
			continue
		}
		if use := 100 * check.figure / *check.limit; use > piece.UsePct || piece.Governs == "" {
			piece.UsePct, piece.Governs = use, check.name
		}
	}
	if whole := 100.0; over(piece.UsePct, &whole) {
		return piece, "it is over the limit of the " + piece.Governs
	}
	if p.Limits.ClearM != nil && to-catch.LowestM < *p.Limits.ClearM-tolerance {
		return piece, "it comes too close to the ground"
	}
	return piece, ""
}

// Solve finds the best way down of a problem without Faults. The error is that of ctx.
func (p *Problem) Solve(ctx context.Context) (Plan, error) {
	density, _ := p.Stem.Wood.GreenDensity()
	cuts := int(math.Floor((p.FromM-p.ToM)/p.grid() + 1e-9))
	type reached struct {
		count, before int
		use           float64
	}
	const never = math.MaxInt32
	best := make([]reached, cuts+1)
	lowest := 0
	for k := 1; k <= cuts; k++ {
		if err := ctx.Err(); err != nil {
			return Plan{}, err
		}
		best[k].count = never
		for i := k - 1; i >= 0 && !over(p.cut(i)-p.cut(k), p.Limits.LengthM); i-- {
			next := reached{best[i].count + 1, i, best[i].use}
			if next.count > best[k].count {
				continue
			}
			piece, stop := p.try(density, p.cut(i), p.cut(k))
			if stop != "" {
				// A longer piece is heavier still: past its mass none can do.
				if over(piece.MassKg.High, p.Limits.MassKg) {
					break
				}
				continue
			}
			next.use = max(next.use, piece.UsePct)
			if next.count < best[k].count || next.use < best[k].use {
				best[k], lowest = next, k
			}
		}
	}
	plan := Plan{Pieces: []Piece{}}
	if lowest < cuts || cuts == 0 {
		plan.Blocked = p.blocked(density, lowest, cuts)
		return plan, nil
	}
	plan.Count, plan.MaxUsePct = best[cuts].count, best[cuts].use
	for k := cuts; k > 0; k = best[k].before {
		piece, _ := p.try(density, p.cut(best[k].before), p.cut(k))
		plan.Pieces = append([]Piece{piece}, plan.Pieces...)
	}
	return plan, nil
}

// blocked says what stops the shortest piece that could leave the lowest cut reached.
func (p *Problem) blocked(density wood.Range, lowest, cuts int) *Blocked {
	from := p.cut(lowest)
	for k := lowest + 1; k <= cuts; k++ {
		switch _, stop := p.try(density, from, p.cut(k)); stop {
		case tooShort, underTie:
		case "":
			return &Blocked{from, "what is left below it cannot be cut within the limits"}
		default:
			return &Blocked{from, stop}
		}
	}
	return &Blocked{from, "what is left above the lowest cut is shorter than the shortest piece"}
}

// Working writes the plan as a sum: piece by piece.
func (p *Problem) Working(plan Plan) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	for i, piece := range plan.Pieces {
		what := fmt.Sprintf("piece %d, %s to %s m", i+1, n(piece.FromM), n(piece.ToM))
		sheet.Add(fmt.Sprintf("m%d", i+1), "mass of "+what+", heavy end", "hollow frustums, as kind piece", piece.MassKg.High, "kg", timber.SolidGeometry)
		sheet.Add(fmt.Sprintf("T%d", i+1), "line peak of "+what, "energy sum, as kind drop", piece.LinePeakKn, "kN", "conservation of energy")
		sheet.Add(fmt.Sprintf("u%d", i+1), "nearest limit of "+what, "largest figure over its limit: "+piece.Governs, piece.UsePct, "%", "as given")
	}
	sheet.Add("N", "pieces", "fewest; among those the least of the largest use", float64(plan.Count), "", "dynamic programming (Bellman 1957)")
	return sheet.Steps()
}

// Cautions returns what must stand beside a plan.
func (p *Problem) Cautions(plan Plan) []string {
	cautions := []string{"Every piece is dropped by the energy sum: what the stem adds by swaying, or takes as a blow, is not in it."}
	if plan.Blocked != nil {
		cautions = append(cautions, "There is no way down within the limits.")
	}
	if p.Rig.Rope.Dynamic() == 1 {
		cautions = append(cautions, drop.SlowTest)
	}
	return cautions
}
