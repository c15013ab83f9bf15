// Package hold is what holds: stems and limbs by the bending of their wood, anchors by what they
// are marked with, each less what defects leave of it; and the forces of everything that pulls on
// one holder at one moment, added.
//
// Forces are in kN. A load carries its limit with it; whether that is enough is judged elsewhere.
package hold
