package hold

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/crane"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/working"
)

// The parts that a load passes, from the piece to the hand.
const (
	PartPiece     = "piece"
	PartTie       = "tie"
	PartLine      = "line"
	PartBlock     = "block"
	PartConnector = "connector"
	PartSling     = "sling"
	PartSpar      = "spar"   // the stem that stays
	PartHolder    = "holder" // what gear is held to: an anchor, a limb, another tree, a vehicle
	PartRedirect  = "redirect"
	PartDevice    = "device"
	PartHand      = "hand"
	PartSecond    = "second line"
	PartFar       = "second block"
	PartCrane     = "crane"
	PartPull      = "pull"
	PartHinge     = "hinge"
	PartWedge     = "wedge"
	PartPush      = "push"
	PartTag       = "tag line"
	PartStop      = "stop" // what stops a swing
)

// What decides a limit besides what decides that of an item of gear.
const (
	ByHitch  = "hitch"
	ByChart  = "chart"
	ByWood   = "wood"
	ByGrip   = "grip"
	ByCrew   = "crew"
	ByEffort = "effort" // what hands, a winch or a machine pull
)

// A Load is what one part carries, kN, and what it may carry.
type Load struct {
	Part, Name     string
	RestKn, PeakKn float64
	Unseen         bool     // nothing reaches this part
	NotHeld        bool     // it is of a line that never stops the piece
	Item           string   // id in the locker
	Free           bool     // without a limit it is within: none was set
	Why            string   // why there is no limit, or nothing to see
	When           string   // at which moment of its course, and in which case, it is loaded most; "": nothing is said of that
	On             string   // what it is on, where several loads may be on the same
	Dir            r3.Vec   // unit vector of its force, where that is known
	Rig            *job.Rig // whose gear it is, of one line of two; nil: the pick's own rig's
	From           Source   // what it is worked out from; nil: nothing more is said of it
	policy.Rated
}

// A Source is what a load is worked out from: it writes the sum behind it.
type Source interface {
	// Working writes the sum behind a load, its limit left out.
	Working(l *Load, sheet *working.Sheet)
	// Contracted is the same sum as the calculation contract has it: its kind and the request; nil: none of the kinds
	// answers this by itself.
	Contracted(l *Load) (kind string, request any)
	// Beside is what must be read with the load.
	Beside(l *Load) []string
}

// Sees is the greater of its load at the peak and at rest, kN.
func (l *Load) Sees() float64 { return max(l.PeakKn, l.RestKn) }

// Use is the share of its limit that it takes, 1 at the limit.
func (l *Load) Use() float64 { return l.Rated.Use(l.RestKn, l.Sees()) }

// Judged reports that its limit is known and something reaches it.
func (l *Load) Judged() bool { return l.Known && !l.Unseen }

// Say adds a sentence to what must be read with it.
func (l *Load) Say(text string) { l.Cautions = append(l.Cautions, text) }

// widestBasket is the angle between the legs of a basket where nobody gives it, degrees: the widest for which slings are rated, their legs
// 30° from level (ASME B30.9, from memory).
const widestBasket = 120

// Hitched takes the factor of its hitch on a sling's limit; of none said, a choker's; of a basket by the angle between its legs, degrees.
func (l *Load) Hitched(hitch string, basketDeg *float64) {
	if !l.Known {
		return
	}
	if hitch == "" {
		hitch = crane.Choker
	}
	factor, how := crane.HitchFactor(hitch), hitch
	if hitch == crane.Basket {
		legs := job.Or(basketDeg, widestBasket)
		factor *= math.Cos(space.Radians(legs / 2))
		how = fmt.Sprintf("%s, %g° between its legs", hitch, legs)
	} else if factor == 1 {
		return
	}
	l.Limit.Kn *= factor
	l.RestLimit *= factor
	l.Limit.Reason = fmt.Sprintf("%s × %.3g as a %s", l.Limit.Reason, factor, how)
	l.Limit.Source = "ASME B30.9 (from memory)"
	if factor < 1 {
		l.Decided = ByHitch
	}
}

// shared tells whether other loads may be on the same thing.
func (l *Load) shared() bool { return (l.Part == PartSpar || l.Part == PartHolder) && l.Judged() }

// Over is the part that is loaded most over a share of its limit, or "".
func Over(loads []Load, share float64) string {
	worst, use := "", share
	for i := range loads {
		if l := &loads[i]; l.Judged() && l.Use() > use {
			worst, use = l.Part, l.Use()
		}
	}
	return worst
}

// Together judges what several of some loads are on: stem, limb or anchor. Their shares
// of what it bears add up as their forces do, by their directions where those are known; what one
// of them relieves is not credited.
func Together(loads []Load) {
	for i := range loads {
		first := &loads[i]
		if !first.shared() {
			continue
		}
		var on []*Load
		for k := range loads {
			if l := &loads[k]; l.Part == first.Part && l.On == first.On && l.shared() {
				on = append(on, l)
			}
		}
		if len(on) < 2 || on[0] != first {
			continue
		}
		sum, added, most, known := r3.Vec{}, 0.0, 0.0, true
		for _, l := range on {
			use := l.Use()
			sum, added, most = r3.Add(sum, r3.Scale(use, l.Dir)), added+use, max(most, use)
			known = known && r3.Norm(l.Dir) > 0
		}
		if known {
			added = max(most, r3.Norm(sum))
		}
		for _, l := range on {
			if use := l.Use(); use > 0 && added > use {
				l.Limit.Kn *= use / added
				l.RestLimit *= use / added
				l.Limit.Reason += fmt.Sprintf("; %d lines pull on it, and this is left for one beside the others", len(on))
			}
		}
	}
}
