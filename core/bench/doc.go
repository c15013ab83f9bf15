// Package bench holds the instruments of the bench: for every kind of the calculation contract what
// it is for in trade words, a sum to begin with, its fields with their ranges, and which of its
// figures is the answer; and for all of them two more questions: hold a figure and ask for an
// input, and an input over a range.
//
// It holds no sums of the trade: every figure is a kind's own. Numbers are in the units of the
// contract (m, kg, kN, degrees).
package bench
