package assess

import (
	"slices"
)

// A Verdict is what a figure is judged to be.
type Verdict string

// The verdicts, from the mildest to the gravest: not known is graver than within and
// close, because nobody has looked.
const (
	Within   Verdict = "within"
	Close    Verdict = "close"
	NotKnown Verdict = "not known"
	Over     Verdict = "over"
	NotHeld  Verdict = "not held" // the line never stops the piece
)

// verdicts is every verdict, from the mildest to the gravest.
var verdicts = []Verdict{Within, Close, NotKnown, Over, NotHeld}

// Verdicts lists every verdict, from the mildest to the gravest.
func Verdicts() []Verdict { return slices.Clone(verdicts) }

// verdict judges a share of a limit.
func verdict(usePct, closeFromPct float64) Verdict {
	switch {
	case usePct > 100:
		return Over
	case usePct >= closeFromPct:
		return Close
	}
	return Within
}

// worse returns the graver of two verdicts.
func worse(a, b Verdict) Verdict {
	return verdicts[max(slices.Index(verdicts, a), slices.Index(verdicts, b))]
}
