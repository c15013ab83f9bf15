package roped

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/spar"
)

// A face closes when the piece has turned as far over its hinge as it is cut open: between these, degrees
// (common practice, no source), looked at as closely as apart.
const (
	narrowFace = 40
	wideFace   = 90
	facesApart = 10
	inAHurry   = 25 // apart, for whoever only looks for a piece that nothing forbids and leaves a margin
)

// between is what a face between two that are looked at may bring more: a beam followed in time for faces 5° apart felt up to
// three hundredths more than for those 10° apart.
const between = 1.04

// A stem sways in so many of its modes, on a grid of so many cells of which so many count as one mass. One that sways quicker than
// coupledS, s, is followed by the pull of the line and does not give way to it.
const (
	swayModes  = 3
	swayCells  = 40
	perInertia = 5
	coupledS   = 0.15
)

// looksAt are the shares of its height at which the bending of a stem is compared from moment to moment.
var looksAt = [...]float64{0, 0.25, 0.5, 0.75, 0.9}

// A besides is the course of a piece past its block, followed in time from its hinge until its first catch is over: the line comes
// tight while the piece is beside the stem, so that it pulls the block aside as well as down.
type besides struct {
	fall         drop.SimCase
	over, across r3.Vec // level: the way it falls, and to the right of that
	modes        []mode // of the stem that sways; none: what holds the block does not sway with the piece
	lumps        []lump
	sways        float64 // so many times as far another tree bends that its block sits on, swaying under what is level; 0: once
	worst        []felt
	ceilingKn    float64 // of the line, by which it was followed
	blockKn      float64 // most that its block sees on the way
}

// A mode is one way in which the stem sways.
type mode struct {
	spar.Sway
	atBlock float64               // share of the top's way that the block goes
	bends   [len(looksAt)]float64 // what it bends the stem by where that is looked at, for every m/s² of the top, kN·m
	q, v    float64               // how far its top is off, m, and its speed, m/s
}

// A lump is a part of a stem that sways: where, and what it pushes back with in each mode for every m/s² of the top, kN.
type lump struct {
	at r3.Vec
	kn [swayModes]float64
}

// A felt is a moment of its fall, and how fast each mode of the stem speeds up at it, m/s².
type felt struct {
	drop.Felt
	speedsUp [swayModes]float64
}

// simCase is the drop of a piece past its block to be followed in time, in the plane of its fall.
func (o *Roped) simCase() drop.SimCase {
	start := max(2, o.OrientDeg)
	over := space.Towards(o.Settings.FallTowardsDeg)
	off := r3.Sub(o.Block, o.Cut)
	gyration := o.Gyration(over)
	inertia := o.Counts() * gyration * gyration
	return drop.SimCase{
		Piece: drop.SimPiece{Piece: o.DropCase.Piece, InertiaKgM2: &inertia}, Rigging: o.DropCase.Rigging, Course: o.DropCase.Course, StartDeg: &start,
		BlockOverM: r3.Dot(off, over), BlockAsideM: r3.Dot(off, r3.Cross(over, r3.Vec{Z: 1})),
	}
}

// faces are the tilts at which the face of a piece that leans so far may close, so far apart, degrees.
func faces(start, apart float64) (list []float64) {
	for opens := float64(narrowFace); opens <= wideFace && start+opens <= 170; opens += apart {
		list = append(list, start+opens)
	}
	return list
}

// fallsHardest follows a piece past its block with as much friction as there may be: held hardest, it is pulled hardest.
func (o *Roped) fallsHardest() {
	stuck := o.Rubbed(frictions[0].times)
	stuck.fallsBeside()
	o.besides = stuck.besides
}

// fallsBeside follows a piece past its block, and keeps the moments that load what holds that most.
func (o *Roped) fallsBeside() {
	apart := float64(facesApart)
	if o.Hurried && o.AimsAt > 0 {
		apart = inAHurry
	}
	closes := faces(o.OrientDeg, apart)
	if len(closes) == 0 || !o.Catch.Holds {
		return
	}
	over := space.Towards(o.Settings.FallTowardsDeg)
	b := &besides{fall: o.simCase(), over: over, across: r3.Cross(over, r3.Vec{Z: 1}), ceilingKn: o.Catch.LinePeakKn}
	wood := o.Wood(o.Tree)
	_, own := wood.Seated(o.Rig.Block.Place)
	if own && o.Hurried && o.standsAnyhow() {
		return
	}
	if own && o.Pick.What != job.WhatLimb && o.Species != nil {
		b.swaysWith(o, wood)
	}
	if own {
		b.worst = b.hardestOnStem(o, closes)
	} else {
		b.worst = b.hardestWays(o, closes)
	}
	o.besides = b
}

// swaysMost is more than the sway of a stem multiplies a pull on it by: twice for a sudden one in its first mode, and the others.
const swaysMost = 2.5

// standsAnyhow tells that a sound stem takes all of the line's peak level at its block, as its sway may multiply it, with half of what its
// wood is allowed: how it is pulled need not be followed.
func (o *Roped) standsAnyhow() bool {
	if o.Species == nil || len(o.Measured.Defects) > 0 || o.Rig.Block.Place != nil && o.Rig.Block.Place.On != job.OnStem {
		return false
	}
	allowed := o.Species.RuptureMPa / o.Limits.WoodFactor
	for _, look := range looksAt {
		z := o.Stem.Bottom() + look*(o.Block.Z-o.Stem.Bottom())
		at := o.Wood(o.Tree).StationAt(z)
		outside, cavity := at.DiameterM, at.CavityM
		resists := math.Pi / 32 * (math.Pow(outside, 4) - math.Pow(cavity, 4)) / outside
		if swaysMost*o.Catch.LinePeakKn*(o.Block.Z-z)/resists/1000 > allowed/2 {
			return false
		}
	}
	return true
}

// swaysWith lets the stem that is left sway with the piece.
func (b *besides) swaysWith(o *Roped, wood hold.Wood) {
	beam := wood.Beam(wood.StationsTo(min(o.StandsToM, o.Stem.Top())))
	at, kg, sways := beam.Sways(swayCells, swayModes)
	bottom := at[0]
	b.lumps = make([]lump, swayCells/perInertia+1)
	for k := range b.lumps {
		b.lumps[k].at = o.OnStem(at[min(swayCells, k*perInertia+perInertia/2)])
	}
	for n, sway := range sways {
		m := mode{Sway: sway, atBlock: sway.At(at, blockOn(at, o.Block.Z))}
		for i, z := range at {
			push := kg[i] * sway.Share[i] / 1000
			b.lumps[i/perInertia].kn[n] += push
			for k, look := range looksAt {
				m.bends[k] += push * max(0, z-(bottom+look*(o.Block.Z-bottom)))
			}
		}
		b.modes = append(b.modes, m)
	}
	if first := &b.modes[0]; 2*math.Pi/first.Omega > coupledS {
		b.fall.Spar = &drop.SparTop{MassKg: first.Kg, StiffnessKnM: first.Kg * first.Omega * first.Omega / 1000}
		b.fall.BlockShare = first.atBlock
	}
}

// swaysOn takes the modes of a stem that do not sway with the piece on to a moment, dt after the one before, under the level force of
// the line, kN, and gives how fast they speed up then.
func (b *besides) swaysOn(f *felt, dt, kn float64) {
	for n := range b.modes {
		m := &b.modes[n]
		if n == 0 && b.fall.Spar != nil {
			f.speedsUp[0] = f.SpeedsUpMS2
			continue
		}
		if f.Hinged {
			m.q, m.v = 0, 0
			continue
		}
		push := 1000 * kn * m.atBlock / m.Kg
		still := push / (m.Omega * m.Omega)
		sin, cos := math.Sincos(m.Omega * dt)
		off := m.q - still
		m.q, m.v = still+off*cos+m.v/m.Omega*sin, m.v*cos-off*m.Omega*sin
		f.speedsUp[n] = push - m.Omega*m.Omega*m.q
		if f.After {
			f.speedsUp[n] = m.Omega * m.Omega * math.Hypot(m.q, m.v/m.Omega)
		}
	}
}

// force is what a moment does to the block, kN, on the stem's top while the piece hinges.
func (b *besides) force(o *Roped, f *drop.Felt) r3.Vec {
	towards := r3.Add(r3.Add(r3.Scale(f.Over, b.over), r3.Scale(f.Aside, b.across)), r3.Vec{Z: f.Up})
	if f.Hinged {
		return towards
	}
	lead, _ := space.Direction(r3.Sub(o.Points[2].Vec(), o.Block), 0)
	return r3.Scale(f.LineKn, r3.Add(towards, r3.Scale(o.Path.Legs[1].TensionKn, lead)))
}

// A kept is the greatest so far of one measure of the moments, and that moment.
type kept struct {
	most float64
	felt felt
}

func (k *kept) take(measure float64, f *felt) {
	if measure > k.most {
		k.most, k.felt = measure, *f
	}
}

// hardestOnStem follows it, and keeps the moments that bend the stem most where that is looked at.
func (b *besides) hardestOnStem(o *Roped, closes []float64) []felt {
	var most [len(looksAt)]kept
	bottom := o.Stem.Bottom()
	face, since := 0.0, 0.0
	b.fall.FollowFaces(closes, func(one *drop.Felt) {
		f := felt{Felt: *one}
		force := b.force(o, one)
		if f.FaceDeg != face {
			face, since = f.FaceDeg, f.AtS
			for n := range b.modes {
				b.modes[n].q, b.modes[n].v = 0, 0
			}
		}
		b.swaysOn(&f, f.AtS-since, r3.Dot(force, b.over))
		since = f.AtS
		at := o.Block.Z
		if f.Hinged {
			at = o.Cut.Z
		} else {
			b.blockKn = max(b.blockKn, r3.Norm(force))
		}
		for k, look := range looksAt {
			bend := r3.Scale(at-(bottom+look*(o.Block.Z-bottom)), space.Level(force))
			for n := range b.modes {
				by := f.speedsUp[n] * b.modes[n].bends[k]
				if f.After {
					// They come together sooner or later.
					by = -math.Abs(by)
				}
				bend = r3.Sub(bend, r3.Scale(by, b.over))
			}
			kept := f
			for n := range b.modes {
				if f.After {
					kept.speedsUp[n] = -math.Copysign(f.speedsUp[n], b.modes[n].bends[k])
				}
			}
			most[k].take(r3.Norm(bend), &kept)
		}
	})
	return moments(most[:])
}

// hardestWays follows it, and keeps the moments in which the block is pulled most each of some ways: whatever bends where it sits, one
// of those next to each other bends it nearly most.
func (b *besides) hardestWays(o *Roped, closes []float64) []felt {
	down := r3.Vec{Z: -1}
	ways := []r3.Vec{down}
	for eighth := range 8 {
		way := space.Towards(o.Settings.FallTowardsDeg + 45*float64(eighth))
		ways = append(ways, way, r3.Unit(r3.Add(way, down)))
	}
	most := make([]kept, len(ways))
	level := 0.0
	b.fall.FollowFaces(closes, func(f *drop.Felt) {
		if f.Hinged {
			return
		}
		force := b.force(o, f)
		level = max(level, r3.Norm(space.Level(force)))
		b.blockKn = max(b.blockKn, r3.Norm(force))
		for k := range ways {
			most[k].take(r3.Dot(force, ways[k]), &felt{Felt: *f})
		}
	})
	b.swaysElsewhere(o, closes, level)
	return moments(most)
}

// swaysElsewhere follows it once more over a block on another tree that sways in the plane of the fall, against the most that pulls that
// level while it stands still, kN.
func (b *besides) swaysElsewhere(o *Roped, closes []float64, still float64) {
	if still <= 0 {
		return
	}
	for _, mode := range o.swaysAtBlock() {
		sway, bent := b.fall, 0.0
		sway.Spar, sway.BlockShare = &drop.SparTop{MassKg: mode.Kg, StiffnessKnM: mode.Kg * mode.Omega * mode.Omega / 1000}, 1
		sway.FollowFaces(closes, func(f *drop.Felt) {
			force := r3.Vec{}
			if !f.Hinged && !f.After {
				force = b.force(o, f)
			}
			along := r3.Dot(force, b.over) - mode.Kg*f.SpeedsUpMS2/1000
			bent = max(bent, math.Hypot(along, r3.Dot(force, b.across)))
		})
		b.sways = max(b.sways, bent/still)
	}
}

// moments are those kept, each once.
func moments(list []kept) (all []felt) {
	for i := range list {
		if k := &list[i]; k.most > 0 && !slices.Contains(all, k.felt) {
			all = append(all, k.felt)
		}
	}
	return all
}

// moments adds those of its fall beside the stem to the moments of its gear, the piece hanging beneath its block: with the stem's own
// inertia where it sways with it.
func (b *besides) moments(o *Roped, hanging []hold.Moment) (list []hold.Moment) {
	// One of two lines has its share of it.
	shared := between * o.Catch.LinePeakKn / b.ceilingKn
	inertia := func(m hold.Moment, f *felt, hinge r3.Vec) hold.Moment {
		for _, l := range b.lumps {
			push := 0.0
			for n := range b.modes {
				push += shared * f.speedsUp[n] * l.kn[n]
			}
			m = append(m, hold.Force{At: l.at, Kn: r3.Scale(-push, b.over)})
		}
		return append(m, hold.Force{At: o.Cut, Kn: hinge})
	}
	for _, m := range hanging {
		list = append(list, inertia(m, &felt{}, r3.Vec{}))
	}
	for i := range b.worst {
		f := &b.worst[i]
		share := f.LineKn / b.ceilingKn
		var m hold.Moment
		for _, force := range hanging[0] {
			switch {
			case !force.Leads:
				force.Kn = r3.Scale(share, force.Kn)
			case f.Hinged:
				force.Kn = r3.Vec{}
			default:
				force.Kn = swaying(b.sways, r3.Scale(shared, b.force(o, &f.Felt)))
			}
			m = append(m, force)
		}
		hinge := r3.Vec{}
		if f.Hinged {
			hinge = r3.Scale(shared, b.force(o, &f.Felt))
		}
		list = append(list, inertia(m, f, hinge))
	}
	return list
}

// said is when one of its moments is, the first of them the first after those of the piece hanging.
func (b *besides) said(o *Roped, k int) string {
	f := &b.worst[k]
	face := fmt.Sprintf("its face %.0f° open", f.FaceDeg-o.OrientDeg)
	if f.Hinged {
		return fmt.Sprintf("on its hinge, %.0f° over", f.TiltDeg)
	}
	if f.After || f.LineKn == 0 {
		return "as the stem sways on after its catch, " + face
	}
	off := math.Atan2(math.Hypot(f.Over, f.Aside), -f.Up) * 180 / math.Pi
	return fmt.Sprintf("as the line comes tight with the piece beside the stem, %.0f° off plumb, %s", off, face)
}
