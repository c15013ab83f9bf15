package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/fell"
	"elkstay/core/job"
)

// fallsAway is how steeply the ground falls away along a bearing, degrees; negative: it rises.
func (v *Survey) fallsAway(bearingDeg float64) float64 {
	steep, down := job.Or(v.Job.Site.SlopeDeg, 0), v.Job.Site.SlopeTowardsDeg
	if down == nil {
		return steep
	}
	return math.Atan(math.Tan(radians(steep))*math.Cos(radians(bearingDeg-*down))) * 180 / math.Pi
}

// caught is how much of a piece the wind catches, its outline as if it were closed, m², and how high
// the middle of that stands.
func (v *Survey) caught(o *Outcome, now *Standing) (area, height float64) {
	sum := 0.0
	for _, b := range v.body(o, now) {
		part := 2 * b.r * b.gap
		area += part
		sum += part * (o.cut.Z + b.off.Z)
	}
	return area, sum / max(1e-9, area)
}

// blown works out what the gusts of the site do to what is felled, its balance so high above the
// hinge: a wind from ahead holds it back, one from the side leans on its hinge; one from behind is
// not counted on, as it lulls.
func (v *Survey) blown(o *Outcome, f *fellingOf, cogZ float64, now *Standing) {
	speed, blows := job.Or(v.Job.Site.GustMS, 0), v.Job.Site.GustTowardsDeg
	if speed <= 0 {
		return
	}
	area, height := v.caught(o, now)
	area = job.Or(f.set.WindM2, area)
	arm := max(cogZ, height-f.middle.Z)
	// 0.6·area·speed² is half the density of air times the square of its speed.
	as := 0.0006 * area * speed * speed * arm / o.weightKn()
	if blows == nil {
		f.gust = &fell.Wind{SpeedMS: speed, TowardsDeg: 180, AreaM2: min(2000, area), HeightM: arm}
		f.gustBack, f.gustSide, f.gustAround = as, as, true
		return
	}
	off := math.Remainder(*blows-o.Settings.FallTowardsDeg, 360)
	f.gust = &fell.Wind{SpeedMS: speed, TowardsDeg: off, AreaM2: min(2000, area), HeightM: arm}
	f.gustBack, f.gustSide = as*max(0, -math.Cos(radians(off))), as*math.Abs(math.Sin(radians(off)))
}

// slides is the slope from which a stem is said to slide on, degrees (common practice, no source).
const slides = 10

// groundAndWind says what slope and wind do to a felling.
func (v *Survey) groundAndWind(o *Outcome, f *fellingOf) {
	if steep := v.fallsAway(o.Settings.FallTowardsDeg); !o.aloft && math.Abs(steep) >= slides {
		way := "downhill"
		if steep < 0 {
			way = "uphill"
		}
		f.said = append(f.said, fmt.Sprintf("It falls %s, on %.0f°: it can slide or roll on from where it lies; nobody below it.", way, math.Abs(steep)))
	} else if slope := job.Or(v.Job.Site.SlopeDeg, 0); !o.aloft && slope >= slides {
		f.said = append(f.said, fmt.Sprintf("It lies across a slope of %.0f°: it can roll; nobody below it.", slope))
	}
	if f.gust == nil {
		return
	}
	said := fmt.Sprintf("Gusts of %.0f m/s are counted on %.0f m² of it, %s up", f.gust.SpeedMS, f.gust.AreaM2, v.Height(f.gust.HeightM+f.middle.Z))
	switch off := math.Abs(f.gust.TowardsDeg); {
	case f.gustAround:
		said += ": nobody has said where they blow to, so they hold it back and lean on its hinge."
	case off > 100:
		said += ", from ahead: they hold it back."
	case off < 80:
		said += ", from behind: they are not counted on, and it can go before it is wanted."
	default:
		said += ", from the side: they lean on its hinge."
	}
	f.said = append(f.said, said)
}

// strikes says what a felled tree meets, in the order in which it turns into it, and with how much of
// its fall: the whole tree's, the hinge's hold left out.
func (v *Survey) strikes(o *Outcome, hits []string) string {
	type strike struct {
		name          string
		tilt, out, kJ float64
	}
	list := []strike{}
	over := towards(o.Settings.FallTowardsDeg)
	long := o.reachM
	lever := r3.Sub(o.Weight.at, o.cut)
	ahead := r3.Dot(lever, over)
	for i := range v.targets {
		t := &v.targets[i]
		if !slices.Contains(hits, t.Name) {
			continue
		}
		out := max(0.1, apart(t.corners, o.cut.X, o.cut.Y))
		up := t.ToM - o.cut.Z
		tilt := math.Atan2(out, up)
		if math.Hypot(out, up) > long {
			// Its tip comes down beneath the top, on the face of it.
			tilt = math.Asin(min(1, out/long))
			if up < 0 {
				tilt = math.Pi - tilt
			}
		}
		falls := lever.Z - (lever.Z*math.Cos(tilt) - ahead*math.Sin(tilt))
		list = append(list, strike{name: t.Name, tilt: tilt, out: out, kJ: o.weightKn() * max(0, falls)})
	}
	slices.SortStableFunc(list, func(a, b strike) int { return cmp.Or(cmp.Compare(a.tilt, b.tilt), strings.Compare(a.name, b.name)) })
	parts := make([]string, len(list))
	for i, one := range list {
		parts[i] = fmt.Sprintf("%s at %.0f°, %s out, with up to %.0f kJ", one.name, one.tilt*180/math.Pi, v.Height(one.out), one.kJ)
	}
	return "It meets " + strings.Join(parts, "; then ") + "."
}
