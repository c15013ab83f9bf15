package space

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/line"
)

// Radians of degrees.
func Radians(deg float64) float64 { return deg * math.Pi / 180 }

// Degrees of radians.
func Degrees(rad float64) float64 { return rad * 180 / math.Pi }

// Towards is the level unit vector of an azimuth.
func Towards(azimuthDeg float64) r3.Vec {
	sin, cos := math.Sincos(Radians(azimuthDeg))
	return r3.Vec{X: sin, Y: cos}
}

// AzimuthOf is the azimuth of a level vector, 0 to 360.
func AzimuthOf(v r3.Vec) float64 {
	return math.Mod(Degrees(math.Atan2(v.X, v.Y))+360, 360)
}

// Direction is where a vector leads, if it is longer than so much: of a shorter one that is not known.
func Direction(v r3.Vec, than float64) (unit r3.Vec, known bool) {
	long := r3.Norm(v)
	if long <= than {
		return r3.Vec{}, false
	}
	return r3.Scale(1/long, v), true
}

// OnTheWay is the place at a share of the straight way from one to another.
func OnTheWay(from, to r3.Vec, share float64) r3.Vec {
	return r3.Add(from, r3.Scale(share, r3.Sub(to, from)))
}

// Heading is the last of some ways that leads further than so much, as a unit vector; else the one that always does.
func Heading(than float64, always r3.Vec, ways ...r3.Vec) r3.Vec {
	for _, way := range ways {
		if unit, leads := Direction(way, than); leads {
			always = unit
		}
	}
	return always
}

// Longer is the longer of two vectors.
func Longer(a, b r3.Vec) r3.Vec {
	return slices.MaxFunc([]r3.Vec{a, b}, func(a, b r3.Vec) int { return cmp.Compare(r3.Norm(a), r3.Norm(b)) })
}

// Level is what of a vector is level.
func Level(v r3.Vec) r3.Vec { return r3.Vec{X: v.X, Y: v.Y} }

// PointOf is a place as the sums of lines have it.
func PointOf(v r3.Vec) line.Point { return line.Point{X: v.X, Y: v.Y, Z: v.Z} }
