// Package space is trees and site in space: axes of stems that bend, limbs with their brush, what
// a piece weighs and where it balances, its bodies and the poses it goes through, the ground with
// its slope, how near something that moves comes to what stands, sectors and drop zones.
//
// Places are in metres: x east, y north, z up from the tree's foot level; bearings are azimuths in
// degrees. Masses are ranges in kg. It knows no gear and judges nothing.
package space
