package exchange

import (
	"math"

	"elkstay/core/job"
)

// The ellipsoid of WGS 84 (NGA.STND.0036, 3.2): semi-major axis, m, and flattening.
const (
	axis      = 6378137.0
	flattened = 1 / 298.257223563
	// Of its eccentricity, the square.
	eccentric = flattened * (2 - flattened)
)

// A frame is the plane that touches the earth at the origin of a plan, its axes the plan's own.
type frame struct {
	at              job.Earth
	x, y, z         float64 // of the origin, from the middle of the earth, m
	east, north, up [3]float64
	sin, cos        float64 // of the bearing of the plan's north
}

func frameOf(at *job.Earth) *frame {
	f := &frame{at: *at}
	sinLat, cosLat := math.Sincos(at.LatDeg * math.Pi / 180)
	sinLon, cosLon := math.Sincos(at.LonDeg * math.Pi / 180)
	f.sin, f.cos = math.Sincos(at.NorthDeg * math.Pi / 180)
	across := axis / math.Sqrt(1-eccentric*sinLat*sinLat)
	f.x, f.y, f.z = across*cosLat*cosLon, across*cosLat*sinLon, across*(1-eccentric)*sinLat
	f.east = [3]float64{-sinLon, cosLon, 0}
	f.north = [3]float64{-sinLat * cosLon, -sinLat * sinLon, cosLat}
	f.up = [3]float64{cosLat * cosLon, cosLat * sinLon, sinLat}
	return f
}

// lonLat is where a place of the plan lies, degrees.
func (f *frame) lonLat(p [2]float64) [2]float64 {
	east, north := p[0]*f.cos+p[1]*f.sin, p[1]*f.cos-p[0]*f.sin
	x, y, z := f.x+east*f.east[0]+north*f.north[0], f.y+east*f.east[1]+north*f.north[1], f.z+north*f.north[2]
	// The latitude by repeated substitution: a few steps are far below a micrometre.
	level := math.Hypot(x, y)
	lat := math.Atan2(z, level*(1-eccentric))
	for range 6 {
		sin := math.Sin(lat)
		lat = math.Atan2(z+eccentric*axis/math.Sqrt(1-eccentric*sin*sin)*sin, level)
	}
	return [2]float64{math.Atan2(y, x) * 180 / math.Pi, lat * 180 / math.Pi}
}

// place is where a longitude and a latitude lie on the plan, m.
func (f *frame) place(lonLat [2]float64) [2]float64 {
	sinLat, cosLat := math.Sincos(lonLat[1] * math.Pi / 180)
	sinLon, cosLon := math.Sincos(lonLat[0] * math.Pi / 180)
	across := axis / math.Sqrt(1-eccentric*sinLat*sinLat)
	off := [3]float64{across*cosLat*cosLon - f.x, across*cosLat*sinLon - f.y, across*(1-eccentric)*sinLat - f.z}
	dot := func(a [3]float64) float64 { return a[0]*off[0] + a[1]*off[1] + a[2]*off[2] }
	east, north := dot(f.east), dot(f.north)
	return [2]float64{east*f.cos - north*f.sin, north*f.cos + east*f.sin}
}
