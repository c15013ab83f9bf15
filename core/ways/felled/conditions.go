package felled

import (
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/job"
	"elkstay/core/space"
)

// blown works out what the gusts of the site do to what is felled, its balance so high above the
// hinge: a wind from ahead holds it back, one from the side leans on its hinge; one from behind is
// not counted on, as it lulls.
func (o *Felled) blown(f *felling, cogZ float64) {
	speed, blows := job.Or(o.Job.Site.GustMS, 0), o.Job.Site.GustTowardsDeg
	if speed <= 0 {
		return
	}
	area, height := o.Caught()
	area = job.Or(f.set.WindM2, area)
	arm := max(cogZ, height-f.middle.Z)
	// 0.6·area·speed² is half the density of air times the square of its speed.
	as := 0.0006 * area * speed * speed * arm / o.WeightKn()
	if blows == nil {
		f.gust = &fell.Wind{SpeedMS: speed, TowardsDeg: 180, AreaM2: min(2000, area), HeightM: arm}
		f.gustBack, f.gustSide, f.gustAround = as, as, true
		return
	}
	off := math.Remainder(*blows-o.Settings.FallTowardsDeg, 360)
	f.gust = &fell.Wind{SpeedMS: speed, TowardsDeg: off, AreaM2: min(2000, area), HeightM: arm}
	f.gustBack, f.gustSide = as*max(0, -math.Cos(space.Radians(off))), as*math.Abs(math.Sin(space.Radians(off)))
}

// groundAndWind says what slope and wind do to a felling.
func (o *Felled) groundAndWind(f *felling) {
	if steep := o.FallsAway(o.Settings.FallTowardsDeg); o.Before == nil && math.Abs(steep) >= course.Slides {
		way := "downhill"
		if steep < 0 {
			way = "uphill"
		}
		f.said = append(f.said, fmt.Sprintf("It falls %s, on %.0f°: it can slide or roll on from where it lies; nobody below it.", way, math.Abs(steep)))
	} else if slope := job.Or(o.Job.Site.SlopeDeg, 0); o.Before == nil && slope >= course.Slides {
		f.said = append(f.said, fmt.Sprintf("It lies across a slope of %.0f°: it can roll; nobody below it.", slope))
	}
	if f.gust == nil {
		return
	}
	said := fmt.Sprintf("Gusts of %.0f m/s are counted on %.0f m² of it, %s up", f.gust.SpeedMS, f.gust.AreaM2, o.Height(f.gust.HeightM+f.middle.Z))
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
