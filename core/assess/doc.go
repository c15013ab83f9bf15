// Package assess works a job out: a pure function from the document, the crew's rules and
// its gear to every figure the crew reads.
//
// The picks are walked from first to last, and each is worked out on the tree as it
// stands at that moment: what comes off and what it weighs, how it comes down (each way
// down is a file of its own), what that does to every part from the piece to the hand, what
// it passes, where it lies, and why it cannot happen where it cannot. What is missing is
// named in the order in which to ask for it; every figure that can be worked out is.
//
// The sums are those of the packages beneath it (timber, line, drop, swing, spar, crane,
// cut), each with its source; what is put between them here is common practice and says so.
package assess
