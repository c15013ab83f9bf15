package policy

import "slices"

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

// Judge is the verdict of a share of a limit, per cent.
func (l *Limits) Judge(usePct float64) Verdict {
	switch {
	case usePct > 100:
		return Over
	case usePct >= l.CloseFromPct:
		return Close
	}
	return Within
}

// Worse is the graver of two verdicts.
func Worse(a, b Verdict) Verdict {
	return verdicts[max(slices.Index(verdicts, a), slices.Index(verdicts, b))]
}

// Graver tells whether a verdict is worse than another.
func (is Verdict) Graver(than Verdict) bool { return is != than && Worse(is, than) == is }
