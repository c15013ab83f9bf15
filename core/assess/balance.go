package assess

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/sight"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/working"
)

// balance is where what stands above a height has its weight, with limbs or without, and how that
// comes about.
func (v *Survey) balance(limbs bool, from float64, weight space.Mass, now *space.Standing) Balance {
	foot := v.Foot
	if from > v.Stem.Bottom() {
		foot = v.OnStem(from)
	}
	off := space.Level(r3.Sub(weight.At, foot))
	b := Balance{At: space.PointOf(weight.At), MassKg: weight.Kg, OffM: r3.Norm(off), WithinM: v.BalanceWithin(limbs, from, weight, now),
		MomentKnm: weight.Kg.High * units.Gravity / 1000 * r3.Norm(off)}
	if b.OffM > 1e-6 {
		b.AzimuthDeg = space.AzimuthOf(off)
	}
	lean := "it balances over its foot"
	if b.OffM > 0.02 {
		lean = fmt.Sprintf("it balances %s off its foot, to %s (%.0f°)", v.Height(b.OffM), sight.Wind(b.AzimuthDeg), b.AzimuthDeg)
	}
	b.Said = fmt.Sprintf("%s to %s; %s, give or take %s: %.3g kN·m about the foot at the heavy end.",
		units.Print(units.Mass, v.System, b.MassKg.Low), units.Print(units.Mass, v.System, b.MassKg.High), lean, v.Height(b.WithinM), b.MomentKnm)

	var sheet working.Sheet
	n, to := working.Figure, space.Towards(b.AzimuthDeg)
	const parts = "weight and place of its parts"
	hung, leads := 0.0, 0.0
	v.LimbsAbove(limbs, from, now, func(k int, m space.Mass) {
		out := r3.Dot(space.Level(r3.Sub(m.At, foot)), to)
		hung, leads = hung+m.Kg.Likely, leads+m.Kg.Likely*out
		sheet.Add("m·x", v.Limbs[k].Title(), fmt.Sprintf("%s kg (%s to %s), %s m that way of the foot", n(m.Kg.Likely), n(m.Kg.Low), n(m.Kg.High), n(out)), m.Kg.Likely*out, "kg·m", parts)
	})
	sheet.Add("m·x", "stem, and what sits on it", fmt.Sprintf("%s kg, from bend to bend of its axis", n(weight.Kg.Likely-hung)), weight.Kg.Likely*b.OffM-leads, "kg·m", parts)
	sheet.Add("x", "its balance off the foot", fmt.Sprintf("Σ m·x over %s kg", n(weight.Kg.Likely)), b.OffM, "m", "balance of moments")
	sheet.Add("±", "give or take", "the larger of what half of each limb's range moves it, root of squares, and of all limbs heavier or lighter at once", b.WithinM, "m", "propagation of errors, independent and together")
	sheet.Add("M", "about the foot, at the heavy end", fmt.Sprintf("%s·9.80665/1000·x", n(weight.Kg.High)), b.MomentKnm, "kN·m", units.GravitySource)
	b.Working = sheet.Steps()
	return b
}
