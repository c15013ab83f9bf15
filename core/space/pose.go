package space

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// Pose is where the middle of the cut is, and how the piece is turned: the directions that
// were east, north and up before the cut.
type Pose struct {
	At      r3.Vec
	X, Y, Z r3.Vec
}

// Place is where a part of the piece is in a pose.
func (p *Pose) Place(off r3.Vec) r3.Vec {
	return r3.Vec{
		X: p.At.X + off.X*p.X.X + off.Y*p.Y.X + off.Z*p.Z.X,
		Y: p.At.Y + off.X*p.X.Y + off.Y*p.Y.Y + off.Z*p.Z.Y,
		Z: p.At.Z + off.X*p.X.Z + off.Y*p.Y.Z + off.Z*p.Z.Z,
	}
}

// Turned is a pose turned about an axis by an angle, rad, with its cut at a place.
func Turned(axis r3.Vec, angle float64, at r3.Vec) Pose {
	long := math.Sqrt(r3.Dot(axis, axis))
	if angle == 0 || long == 0 {
		return Pose{at, r3.Vec{X: 1}, r3.Vec{Y: 1}, r3.Vec{Z: 1}}
	}
	u := r3.Scale(1/long, axis)
	sin, cos := math.Sincos(angle)
	k := 1 - cos
	return Pose{
		at,
		r3.Vec{X: cos + k*u.X*u.X, Y: k*u.X*u.Y + sin*u.Z, Z: k*u.X*u.Z - sin*u.Y},
		r3.Vec{X: k*u.X*u.Y - sin*u.Z, Y: cos + k*u.Y*u.Y, Z: k*u.Y*u.Z + sin*u.X},
		r3.Vec{X: k*u.X*u.Z + sin*u.Y, Y: k*u.Y*u.Z - sin*u.X, Z: cos + k*u.Z*u.Z},
	}
}

// Onto is a pose of a piece turned on, by the shortest way, until its axis, one way before the cut, is another; its cut
// at a place. So it does not roll.
func (p *Pose) Onto(was, axis, butt r3.Vec) Pose {
	turn := TurnedInto(p.Headed(was), axis, Heading(1e-6, r3.Vec{Z: 1}, r3.Cross(r3.Vec{X: 1}, axis)), butt)
	return p.Then(&turn)
}

// Towards is a pose turned about a place by a share of the turn that brings its axis, one way before the cut, into that of
// another.
func (p *Pose) Towards(other *Pose, share float64, was, about r3.Vec) Pose {
	from, to := p.Headed(was), other.Headed(was)
	spin := r3.Cross(from, to)
	turn := Turned(spin, share*math.Atan2(r3.Norm(spin), r3.Dot(from, to)), r3.Vec{})
	turn.At = r3.Add(about, turn.Headed(r3.Sub(p.At, about)))
	return p.Then(&turn)
}

// Headed is where a direction before the cut heads in a pose.
func (p *Pose) Headed(was r3.Vec) r3.Vec { return r3.Sub(p.Place(was), p.At) }

// Then is a pose turned on as another turns what stood before the cut, its cut where that has it.
func (p *Pose) Then(turn *Pose) Pose {
	return Pose{turn.At, turn.Headed(p.X), turn.Headed(p.Y), turn.Headed(p.Z)}
}

// Hung is the pose of a piece whose tie is at a place, turned by a share of the turn into
// how it hangs.
func Hung(axis r3.Vec, angle float64, tie, at r3.Vec) Pose {
	p := Turned(axis, angle, r3.Vec{})
	p.At = r3.Sub(at, p.Place(tie))
	return p
}

// TurnedInto is the pose of a piece whose axis was one way and is another, its cut at a place; straight back it turns
// about a given axis.
func TurnedInto(was, axis, back, butt r3.Vec) Pose {
	spin, turns := Direction(r3.Cross(was, axis), 1e-9)
	if !turns {
		spin = back
	}
	return Turned(spin, math.Acos(max(-1, min(1, r3.Dot(was, axis)))), butt)
}
