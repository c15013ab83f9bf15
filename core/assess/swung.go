package assess

import (
	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/sight"
)

// swung: held from a block above and to one side, the piece swings off on the line.
type swung struct{ fromAbove }

func (swung) call(v *Survey, o *Outcome) string {
	if o.DropCase == nil {
		return ""
	}
	if said := v.letDown(o); o.Catch.Holds {
		return "Swings " + o.swingsTo() + ", " + said
	} else {
		return said
	}
}

// swingsTo is the point of the compass that it swings to: under its block and beyond, which is
// not the way it grows.
func (o *Outcome) swingsTo() string {
	if side, leads := direction(level(r3.Sub(o.block, o.tie)), 0.05); leads {
		return sight.Wind(azimuthOf(side))
	}
	return o.wind()
}

func (swung) because(v *Survey, o *Outcome) string { return v.becauseHeld("Swung", o) }
