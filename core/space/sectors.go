package space

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

// SectorAt is the no-go sector that a round of the plan lies in, or "".
func (v *Tree) SectorAt(d Disc) string {
	return v.FirstSector(func(s *job.Sector) bool { return v.LiesIn(s, d) })
}

// LiesIn reports that a round of the plan lies in a no-go sector.
func (v *Tree) LiesIn(s *job.Sector, d Disc) bool {
	out := r3.Vec{X: d.X - v.Foot.X, Y: d.Y - v.Foot.Y}
	far, within := r3.Norm(out), 0.0
	if far <= atTheFoot {
		return false
	}
	if far > max(besideIt, d.R) {
		within = math.Asin(d.R/far) * 180 / math.Pi
	}
	return opens(s, AzimuthOf(out), within)
}

// ReachesInto reports that a part of a piece reaches into a no-go sector away from the foot: next to a stem that leans
// over a sector all of its pieces are in it.
func (v *Tree) ReachesInto(s *job.Sector, at r3.Vec, r float64) bool {
	return v.OffSector(s, at, r) <= 0
}

// OffSector is how far a part of a piece has to move at least before it reaches into a no-go sector, m; 0 or less: it does.
func (v *Tree) OffSector(s *job.Sector, at r3.Vec, r float64) float64 {
	out := Level(r3.Sub(at, v.Foot))
	far := math.Sqrt(out.X*out.X + out.Y*out.Y)
	if far <= besideIt {
		return math.Nextafter(besideIt-far, math.Inf(1))
	}
	if far <= r {
		r = 0
	}
	off := offBy(s, AzimuthOf(out))
	if off <= 0 {
		return 0
	}
	return far*math.Sin(Radians(min(90, off))) - r
}

// BroughtInto is the no-go sector that a piece is brought into on its lines, and is not in anyway as it grows or in
// other poses; "": none. Where some of it is, its balance is asked for.
func (v *Piece) BroughtInto(way *Sweep, anyway ...Pose) string {
	anyway = append(anyway, Turned(r3.Vec{}, 0, v.Cut))
	return v.FirstSector(func(s *job.Sector) bool {
		parts := way.Parts
		is := func(b Part) bool {
			return slices.ContainsFunc(anyway, func(p Pose) bool { return v.ReachesInto(s, p.Place(b.Off), b.R) })
		}
		if slices.ContainsFunc(parts, is) {
			balance := r3.Sub(v.Weight.At, v.Cut)
			grows := func(p Pose) bool {
				at := p.Place(balance)
				return v.LiesIn(s, Disc{X: at.X, Y: at.Y})
			}
			if slices.ContainsFunc(anyway, grows) {
				return false
			}
			parts = []Part{{Off: balance}}
		}
		for i := range parts {
			b := &parts[i]
			for k := 0; k < len(way.Poses); {
				// Between two places that are looked at it lies no further off than half of the way.
				half := 0.0
				if k > 0 && !way.Leaps[k] {
					half = (way.Moved[k] - way.Moved[k-1]) / 2
				}
				off := v.OffSector(s, way.Poses[k].Place(b.Off), b.R+half)
				if off <= 0 {
					return true
				}
				next := k + 1
				for next < len(way.Poses) && way.Moved[next]-way.Moved[k] < off {
					next++
				}
				k = next
			}
		}
		return false
	})
}

// FirstSector is the name of the first no-go sector of which something is true, or "".
func (v *Tree) FirstSector(is func(s *job.Sector) bool) string {
	for i := range v.Site.Job.Site.Sectors {
		if s := &v.Site.Job.Site.Sectors[i]; is(s) {
			return s.Name
		}
	}
	return ""
}

// Sector returns the no-go sector that an azimuth leads into, or "".
func (v *Tree) Sector(azimuth float64) string {
	return v.FirstSector(func(s *job.Sector) bool { return opens(s, azimuth, 0) })
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
