package loose

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/space"
	"elkstay/core/units"
)

// Thrown is a small piece, cut and pushed clear by hand.
type Thrown struct{ Loose }

// ByThrown is the way down of what is thrown.
var ByThrown course.Way = thrown{}

type thrown struct{ unheld }

// Where a thrown piece comes down (common practice, no source): at least so far out, in rounds of
// such a radius, m; and as far as it flies when it leaves the hand so fast, m/s.
const (
	thrownOut   = 2.5
	thrownRound = 1.5
	thrownFast  = 2.5
)

// thrownTo are the rounds that a piece thrown from a height may come down on: dropped short, or
// thrown far.
func (o *Thrown) thrownTo() (discs []space.Disc) {
	height := max(0, o.Cut.Z)
	slope := math.Tan(space.Radians(max(0, o.FallsAway(o.Settings.FallTowardsDeg))))
	far := max(thrownOut, thrownFast*course.ComesDown(height, 0, 0, thrownFast, slope))
	round := max(thrownRound, o.Length()/2+course.ScatterShare*height)
	steps := int(math.Ceil((far - thrownOut/2) / round))
	for i := range steps + 1 {
		discs = append(discs, o.disc(thrownOut/2+(far-thrownOut/2)*float64(i)/float64(max(1, steps)), round))
	}
	return discs
}

// disc is a round of ground a distance from the cut, the way the piece falls.
func (o *Thrown) disc(d, r float64) space.Disc {
	at := r3.Add(space.Level(o.Cut), r3.Scale(d, space.Towards(o.Settings.FallTowardsDeg)))
	return space.Disc{X: at.X, Y: at.Y, R: r}
}

func (thrown) Bound(s *course.Scene, piece *hold.Load) {
	s.BoundByCrew(piece)
	piece.Known = true
	piece.Limit = gear.Limit{Kn: s.Limits.ThrowKg * units.Gravity / 1000, Reason: fmt.Sprintf("thrown by hand: %s", units.Print(units.Mass, s.System, s.Limits.ThrowKg)), Source: "the crew's own"}
}

func (thrown) Make(c course.Course) course.Made { return &Thrown{Loose{c}} }

// Follow lays out where it may come down.
func (o *Thrown) Follow() { o.Falls(o.thrownTo()) }

// Words are what is called of it.
func (o *Thrown) Words() course.Words { return course.Words{Call: "Clear below, then thrown"} }
