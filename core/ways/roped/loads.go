package roped

import (
	"cmp"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/working"
)

// rate adds a load of a kind of gear, held to what that is rated for.
func (o *Roped) rate(l hold.Load, kind string, rating gear.Rating) {
	said := l.Cautions
	l.Rated = o.Limits.Rate(rating, policy.Used{Kind: kind}, l.RestKn, l.PeakKn)
	l.Cautions = append(said, l.Cautions...)
	o.load(l)
}

// load adds a load that is worked out from this line.
func (o *Roped) load(l hold.Load) {
	l.From = o
	o.Loads = append(o.Loads, l)
}

// LineLoads gathers what each part of the line's way sees and may see.
func (o *Roped) LineLoads() {
	o.tieLoads()
	o.pulls = o.swingPulls()
	block, rest := o.blockKn()
	o.turnLoads(block, rest)
	moments := o.Moments()
	sways := o.sway(moments)
	o.Cases = append(o.Cases, course.Case{Moments: moments})
	if seats := o.Wood(o.Tree).Seats(moments); len(seats[0]) > 0 {
		o.sparLoads(seats, block, rest)
		o.saysSway(&o.Loads[len(o.Loads)-1], sways)
	}
	for _, l := range o.Strength().Holders(o.Tree, moments, o.Without()) {
		o.saysSway(&l, sways)
		o.load(l)
	}
	rig := o.Rig
	if !rig.Device.None {
		o.rate(hold.Load{Part: hold.PartDevice, Name: rig.Device.Name, Item: rig.Device.Item, RestKn: o.bearsKn() * o.Ratio(), PeakKn: o.Catch.DevicePeakKn}, locker.Device, rig.Device.Rating)
	}
	o.handLoad()
}

// tieLoads gathers what the tie and the line itself see.
func (o *Roped) tieLoads() {
	rig, limits := o.Rig, &o.Limits
	weight, peak := o.bearsKn(), o.Catch.LinePeakKn
	tie := hold.Load{Part: hold.PartTie, Name: rig.Tie.Name, Item: rig.Tie.Item, RestKn: weight, PeakKn: peak}
	slung := rig.Tie.MarkedKn != nil || rig.Tie.BreakingKn != nil
	if slung {
		tie.Rated = limits.Rate(rig.Tie.Rating, policy.Used{Kind: locker.Sling}, tie.RestKn, tie.PeakKn)
		tie.Hitched(rig.Tie.Hitch, rig.Tie.Basket)
	} else {
		tie.Item = rig.Rope.Item
		tie.Rated = limits.RateTie(rig, weight, peak)
	}
	o.load(tie)
	along := hold.Load{Part: hold.PartLine, Name: rig.Rope.Name, Item: rig.Rope.Item, RestKn: weight, PeakKn: peak, Rated: limits.RateLine(rig, weight, peak)}
	if knotted := limits.RateTie(rig, weight, peak); slung && knotted.Known && knotted.Limit.Kn < along.Limit.Kn {
		// A sling on the piece does not take the knot out of the line that is made fast to it.
		along.Rated = knotted
	}
	if o.comes != nil {
		along.When = whenOver(o.comes.peakKn[0], weight)
	}
	o.load(along)
}

// whenOver says when what comes on as the cut parts is more than what is carried.
func whenOver(onset, carried float64) string {
	if onset > carried {
		return whenOn
	}
	return "on the way across"
}

// blockKn is the most that the block sees: of two points, and of one of two lines, at the angle of the way.
func (o *Roped) blockKn() (peak, rest float64) {
	switch {
	case o.Leads != nil:
		for _, force := range o.Leads {
			peak = max(peak, r3.Norm(force))
		}
		return peak, o.LeadsRest
	case o.pair != nil:
		for k := range o.carried.Way {
			peak = max(peak, r3.Norm(o.onPoints(k)[0]))
		}
		return max(peak, r3.Norm(o.comes.onBlocks(o)[0])), peak
	}
	for _, p := range o.pulls {
		peak = max(peak, r3.Norm(o.pulledAt(p)))
	}
	factor := o.Path.Points[0].ResultantKn
	peak = max(peak, o.Catch.LinePeakKn*factor)
	if b := o.besides; b != nil {
		// A lead that leads towards the piece stands nearer to its line than as that hangs; an instant's rounding is none.
		if kn := b.blockKn * o.Catch.LinePeakKn / b.ceilingKn; kn > 1.001*peak {
			peak = kn
		}
	}
	return peak, o.bearsKn() * factor
}

// turnLoads gathers what the block, what holds it, and the turns of the line see; between two points the second line, too.
func (o *Roped) turnLoads(block, rest float64) {
	rig := o.Rig
	o.rate(o.rubbing(hold.Load{Part: hold.PartBlock, Name: rig.Block.Name, Item: rig.Block.Item, RestKn: rest, PeakKn: block}), locker.Block, rig.Block.Rating)
	if c := rig.Connector; c != nil {
		o.rate(hold.Load{Part: hold.PartConnector, Name: c.Name, Item: c.Item, RestKn: rest, PeakKn: block}, locker.Connector, c.Rating)
	}
	sling := hold.Load{Part: hold.PartSling, Name: rig.Sling.Name, Item: rig.Sling.Item, RestKn: rest, PeakKn: block}
	sling.Rated = o.Limits.Rate(rig.Sling.Rating, policy.Used{Kind: locker.Sling, Conditions: rig.Sling.Conditions}, rest, block)
	sling.Hitched(rig.Sling.Hitch, rig.Sling.Basket)
	o.load(sling)
	for i := range rig.Redirects {
		factor := o.Path.Points[i+1].ResultantKn
		turn := &rig.Redirects[i]
		o.rate(hold.Load{Part: hold.PartRedirect, Name: turn.Name, Item: turn.Item, RestKn: o.bearsKn() * factor, PeakKn: o.Catch.LinePeakKn * factor}, locker.Pulley, turn.Rating)
	}
	if o.pair != nil {
		o.acrossLoads()
	}
}

// handLoad is what reaches the hand, or the winch in its place.
func (o *Roped) handLoad() {
	rig := o.Rig
	held := func(device float64) float64 { return line.HandFor(device, o.Settings.Wraps, o.Settings.Friction) }
	hand := hold.Load{Part: hold.PartHand, Name: rig.Hands.Name, RestKn: held(o.bearsKn() * o.Ratio()), PeakKn: held(o.Catch.DevicePeakKn), Unseen: o.Settings.How == job.Locked}
	if hand.Unseen {
		hand.Why = "tied off on the device: nothing reaches the hand"
		if rig.Device.None {
			hand.Unseen = false
			hand.Say("Nothing is there to tie it off on: who locks it holds all of this.")
		}
	}
	if rig.Hands.By == "winch" {
		hand.Name = cmp.Or(hand.Name, "winch")
		hand.Item = rig.Hands.Item
		o.rate(hand, locker.Winch, rig.Hands.Rating)
		return
	}
	hand.Limit, hand.Known, hand.Decided = gear.Limit{Kn: o.Limits.HandKn, Reason: "what one person holds: " + policy.Ruled(o.Job.Limits.HandKn), Source: working.Common}, true, hold.ByCrew
	o.load(hand)
}

// rubbing adds what rope over wood or metal that does not turn asks for.
func (o *Roped) rubbing(l hold.Load) hold.Load {
	if o.Rig.Block.Friction != nil {
		l.Say("The rope runs over what does not turn: it heats and wears, there and in the hand; slow, and look at it after each piece.")
	}
	return l
}

// bearsKn is what the piece's own line carries at rest: its weight, a tag line's pull with it, or a
// twin line's share of it, kN; between two points the most of its way, on which it may be held anywhere.
func (o *Roped) bearsKn() float64 {
	switch {
	case o.pair != nil:
		return o.carried.MaxAKn
	case o.bears > 0:
		return o.bears * o.WeightKn()
	}
	return o.WeightKn()
}

// lowest is the height of the piece's lower end at its lowest, and whether it stops.
func (o *Roped) lowest() (z float64, stops bool) {
	switch {
	case o.pair != nil:
		return *o.pair.PieceZ - o.MostBelow(o.Settings.TieM), true
	case o.DropCase == nil || !o.Catch.Holds:
		return 0, false
	}
	lowest := o.Catch.LowestM
	if o.slips != nil && o.slips.Catch.Holds {
		lowest = max(lowest, o.slips.Catch.LowestM)
	}
	if o.swung != nil {
		return o.Block.Z - lowest - o.MostBelow(o.Settings.TieM), true
	}
	// The drop reckons with the end that its balance tells.
	return o.Cut.Z - lowest - (o.MostBelow(o.Settings.TieM) - o.Below(o.Settings.TieM)), true
}
