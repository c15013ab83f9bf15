// Package course is how a piece comes down, as a value: from before the cut until it lies, what
// every way down has of a piece. Each way makes its courses in a package of its own, behind Way
// and Made; nothing here or there judges one.
package course
