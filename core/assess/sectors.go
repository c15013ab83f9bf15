package assess

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// Nearer to the foot than the one no direction counts; out to the other the middle of a thing counts, as what lies
// beside the foot lies in many sectors a little; beyond, all of it, m (common practice, no source).
const (
	atTheFoot = 1
	besideIt  = 3
)

// sectorAt is the no-go sector that a round of the plan lies in, or "".
func (v *Survey) sectorAt(d Disc) string {
	return v.firstSector(func(s *job.Sector) bool { return v.liesIn(s, d) })
}

// liesIn reports that a round of the plan lies in a no-go sector.
func (v *Survey) liesIn(s *job.Sector, d Disc) bool {
	out := r3.Vec{X: d.X - v.foot.X, Y: d.Y - v.foot.Y}
	far, within := r3.Norm(out), 0.0
	if far <= atTheFoot {
		return false
	}
	if far > max(besideIt, d.R) {
		within = math.Asin(d.R/far) * 180 / math.Pi
	}
	return opens(s, azimuthOf(out), within)
}

// reachesInto reports that a part of a piece reaches into a no-go sector away from the foot: next to a stem that leans
// over a sector all of its pieces are in it.
func (v *Survey) reachesInto(s *job.Sector, at r3.Vec, r float64) bool {
	return v.offSector(s, at, r) <= 0
}

// offSector is how far a part of a piece has to move at least before it reaches into a no-go sector, m; 0 or less: it does.
func (v *Survey) offSector(s *job.Sector, at r3.Vec, r float64) float64 {
	out := level(r3.Sub(at, v.foot))
	far := math.Sqrt(out.X*out.X + out.Y*out.Y)
	if far <= besideIt {
		return math.Nextafter(besideIt-far, math.Inf(1))
	}
	if far <= r {
		r = 0
	}
	off := offBy(s, azimuthOf(out))
	if off <= 0 {
		return 0
	}
	return far*math.Sin(radians(min(90, off))) - r
}

// broughtInto is the no-go sector that a piece is brought into on its lines, and is not in anyway as it grows or in
// other poses; "": none. Where some of it is, its balance is asked for.
func (v *Survey) broughtInto(o *Outcome, way *sweep, anyway ...pose) string {
	anyway = append(anyway, turned(r3.Vec{}, 0, o.cut))
	return v.firstSector(func(s *job.Sector) bool {
		parts := way.balls
		is := func(b ball) bool {
			return slices.ContainsFunc(anyway, func(p pose) bool { return v.reachesInto(s, p.place(b.off), b.r) })
		}
		if slices.ContainsFunc(parts, is) {
			balance := r3.Sub(o.Weight.at, o.cut)
			grows := func(p pose) bool {
				at := p.place(balance)
				return v.liesIn(s, Disc{X: at.X, Y: at.Y})
			}
			if slices.ContainsFunc(anyway, grows) {
				return false
			}
			parts = []ball{{off: balance}}
		}
		for i := range parts {
			b := &parts[i]
			for k := 0; k < len(way.poses); {
				// Between two places that are looked at it lies no further off than half of the way.
				half := 0.0
				if k > 0 && !way.leaps[k] {
					half = (way.moved[k] - way.moved[k-1]) / 2
				}
				off := v.offSector(s, way.poses[k].place(b.off), b.r+half)
				if off <= 0 {
					return true
				}
				next := k + 1
				for next < len(way.poses) && way.moved[next]-way.moved[k] < off {
					next++
				}
				k = next
			}
		}
		return false
	})
}

// staysOut faults a piece that its lines bring into a no-go sector; on one line it may hang in one.
func (v *Survey) staysOut(o *Outcome, way *sweep) {
	anyway := []pose{}
	if o.ends == nil && o.pair == nil {
		axis, angle, tie, _ := v.hangs(o)
		anyway = append(anyway, hung(axis, angle, tie, r3.Vec{X: o.block.X, Y: o.block.Y, Z: o.lowestTie()}))
	}
	if name := v.broughtInto(o, way, anyway...); name != "" {
		o.fault(faultSector, "its lines bring it into the no-go sector %s", name)
	}
}

// firstSector is the name of the first no-go sector of which something is true, or "".
func (v *Survey) firstSector(is func(s *job.Sector) bool) string {
	for i := range v.Job.Site.Sectors {
		if s := &v.Job.Site.Sectors[i]; is(s) {
			return s.Name
		}
	}
	return ""
}

// sector returns the no-go sector that an azimuth leads into, or "".
func (v *Survey) sector(azimuth float64) string {
	return v.firstSector(func(s *job.Sector) bool { return opens(s, azimuth, 0) })
}

// opens reports that a no-go sector comes as near to an azimuth as so many degrees.
func opens(s *job.Sector, azimuth, within float64) bool { return offBy(s, azimuth) <= within }

// offBy is by how many degrees an azimuth lies beside a no-go sector; 0 or less: in it.
func offBy(s *job.Sector, azimuth float64) float64 {
	wide := around(s.ToDeg - s.FromDeg)
	if math.Abs(s.ToDeg-s.FromDeg) >= 360 {
		wide = 360
	}
	past := around(azimuth - s.FromDeg)
	return min(past-wide, 360-past)
}

// around is an angle of the compass, from 0 to 360 degrees.
func around(deg float64) float64 { return deg - 360*math.Floor(deg/360) }
