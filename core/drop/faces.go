package drop

import (
	"math"

	"elkstay/core/units"
)

// A Felt is one moment of a drop followed in time, as what holds the block feels it.
type Felt struct {
	FaceDeg float64 // at which its face closes; while it hinges: of the widest
	AtS     float64
	Hinged  bool    // it is on its hinge still: the force is at the cut
	LineKn  float64 // tension of the line to the piece
	// From the block to the tie, a unit vector; while it hinges the force on the cut instead, kN.
	Over, Aside, Up float64
	TiltDeg         float64 // of the piece, from upright
	SpeedsUpMS2     float64 // of the top of the stem, + towards the fall
	After           bool    // it is over, and the stem sways on as far as this either way
}

// FollowFaces follows a case from where it hinges until its first catch is over or it strikes the stem, once for each of the angles at which its face may close, least first and all more than the one it starts at,
// and shows every moment of it: without damping of rope or stem, which would only ease it. How far the stem sways
// on by then is shown last.
func (c *SimCase) FollowFaces(faces []float64, see func(*Felt)) {
	s := newSim(c)
	s.rope, s.d, s.coarse = 0, 0, true
	until := given(c.UntilS, 6)
	face := faces[len(faces)-1]
	show := func(s *sim, t float64, y, rates *state) {
		f := Felt{FaceDeg: face, AtS: t, Hinged: s.mode == tipping, TiltDeg: y[iTilt] * 180 / math.Pi, SpeedsUpMS2: rates[iVu]}
		switch s.mode {
		case tipping:
			f.Over, f.Up = -s.m*rates[iVx]/1000, -s.m*(rates[iVz]+units.Gravity)/1000
		case taut, running:
			line, _ := s.forces(y)
			distance, nx, nz, _ := s.tied(y)
			f.LineKn, f.Over, f.Aside, f.Up = line/1000, nx, -s.aside/distance, nz
		}
		see(&f)
	}
	// The piece hinges as it does whatever its face: the states in which each lets go are kept.
	var start [16]state
	var since [16]float64
	gone := 0
	s.follow(s.begin(c.start()), until, radians(face), mostSteps, func(s *sim, t0, h float64, y0, k0, y1, k1 *state) {
		if s.mode != tipping || gone == len(faces) {
			return
		}
		for gone < len(faces) && y1[iTilt] >= radians(faces[gone])-1e-9 {
			share := 1.0
			if turned := y1[iTilt] - y0[iTilt]; turned > 0 {
				share = max(0, min(1, (radians(faces[gone])-y0[iTilt])/turned))
			}
			start[gone], since[gone] = between(y0, k0, y1, k1, h, share), t0+share*h
			gone++
		}
		show(s, t0+h, y1, k1)
	})
	for k := range faces[:gone] {
		face = faces[k]
		s.mode = tipping
		y := start[k]
		s.change(&y)
		last := y
		s.follow(y, until, radians(face), mostSteps, func(s *sim, t0, h float64, _, _, y1, k1 *state) {
			show(s, since[k]+t0+h, y1, k1)
			last = *y1
		})
		after := Felt{FaceDeg: face, AtS: since[k], After: true}
		if s.mass > 0 {
			square := s.spring / s.mass
			after.SpeedsUpMS2 = square * math.Hypot(last[iU], last[iVu]/math.Sqrt(square))
		}
		see(&after)
	}
}
