package roped

import (
	"cmp"
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/working"
)

// layAcross lays out the second line of a piece that is carried between two points as its rig has it: from its own block over its turns to its
// own device. It reports whether that can be; faults say why not. Without a rig nobody has said what holds it.
func (o *Roped) layAcross(far r3.Vec) bool {
	if o.second.Rig == "" {
		return true
	}
	given := o.RigNamed(o.second.Rig)
	if given == nil || given.ID != o.second.Rig || given.Rope == nil {
		o.Fault(course.FaultRig, "the rig of the second line is not there, or has no rope: %q", o.second.Rig)
		return false
	}
	rig := *given
	rig.Block.Place = &o.second.Place
	if own := o.second; own.Item != "" || own.Rating != (gear.Rating{}) {
		rig.Block.Name, rig.Block.Item, rig.Block.Rating = own.Name, own.Item, own.Rating
	}
	one := *o
	side := &one
	side.Loads, side.Cases, side.Faults, side.Points, side.Path, side.Tag = nil, nil, nil, nil, line.Tensions{}, nil
	side.Rig, side.Block, side.second, side.pair = &rig, far, nil, nil
	set := given.Settings(o.Pick)
	set.FallTowardsDeg, set.TieM, set.SlackM = o.Settings.FallTowardsDeg, o.Settings.TieM, o.Settings.SlackM
	side.Settings = set
	if side.hold = math.Inf(1); set.How == job.ByWraps {
		side.hold = line.HeldBy(set.HandKn, set.Wraps, set.Friction)
	} else if set.How == job.ByHold {
		side.hold = set.HoldKn
	}
	if !side.LayOut() {
		o.Faults = append(o.Faults, side.Faults...)
		return false
	}
	o.other = side
	return true
}

// hauled is what every leg and turn of a line has for every kN at the piece while it is hauled in.
func (o *Roped) hauled() (path line.Tensions) {
	line.Path{LoadKn: 1, Motion: line.Lifting, Points: o.Points}.SolveInto(&path)
	return path
}

// farLead is the force of the second line's lead on its block for every kN of that line, hauled in across or held: straight down where nobody
// has said how it leads.
func (o *Roped) farLead(hauled bool) r3.Vec {
	switch {
	case o.other == nil:
		return r3.Vec{Z: -1 / o.Settings.BlockEfficiency}
	case !hauled:
		return o.other.leadPull()
	}
	path := o.other.hauled()
	return r3.Add(r3.Scale(path.Points[0].ResultantKn, path.Points[0].Direction.Vec()), r3.Vec{Z: 1})
}

// acrossGear are the forces of the second line's turns and device on what they sit on, of so much at the piece, kN, hauled in across or held;
// none where nobody has said what holds it.
func (o *Roped) acrossGear(kn float64, hauled bool) (list hold.Moment) {
	other := o.other
	if other == nil {
		return nil
	}
	path := other.Path
	if hauled {
		path = other.hauled()
	}
	for i := range other.Rig.Redirects {
		turn := &path.Points[i+1]
		list = append(list, hold.Force{Place: &other.Rig.Redirects[i].Place, At: other.Points[i+2].Vec(), Kn: r3.Scale(turn.ResultantKn*kn, turn.Direction.Vec()), RestKn: turn.ResultantKn * o.carried.MaxBKn})
	}
	if !other.Rig.Device.None {
		last := len(other.Points) - 1
		up, _ := space.Direction(r3.Sub(other.Points[last-1].Vec(), other.Points[last].Vec()), 0)
		list = append(list, hold.Force{Place: other.Rig.Device.Place, At: other.Points[last].Vec(), Kn: r3.Scale(path.DeviceKn*kn, up), RestKn: other.Ratio() * o.carried.MaxBKn})
	}
	return list
}

// acrossLoads gathers what the second line of two points sees: the line, its block and what holds that, its turns, its device and the hand.
func (o *Roped) acrossLoads() {
	far, second := 0.0, o.carried.MaxBKn
	for k := range o.carried.Way {
		far = max(far, r3.Norm(o.onPoints(k)[1]))
	}
	onset, onsetFar := o.comes.peakKn[1], r3.Norm(o.comes.onBlocks(o)[1])
	peak := max(second, onset)
	other := o.other
	rig, block := o.Rig, job.Block{Name: o.second.Name, Item: o.second.Item, Rating: o.second.Rating}
	if other != nil {
		rig, block = other.Rig, other.Rig.Block
	}
	from := acrossLine{o, other}
	put := func(l hold.Load, rated policy.Rated) {
		l.From, l.Rated = from, rated
		if other != nil {
			l.Rig, l.On = rig, l.Name
		}
		o.Loads = append(o.Loads, l)
	}
	l := hold.Load{Part: hold.PartSecond, Name: o.second.Name, RestKn: second, PeakKn: peak, When: whenOver(onset, second)}
	rated := o.Limits.RateLine(rig, second, peak)
	if other != nil {
		l.Name, l.Item, l.Rig, l.On = rig.Rope.Name, rig.Rope.Item, rig, rig.Rope.Name
		if knotted := o.Limits.RateTie(rig, second, peak); knotted.Known && knotted.Limit.Kn < rated.Limit.Kn {
			rated = knotted
		}
	}
	l.Rated = rated
	o.load(l)
	when, most := whenOver(onsetFar, far), max(far, onsetFar)
	onBlock := hold.Load{Part: hold.PartFar, Name: block.Name, Item: block.Item, RestKn: far, PeakKn: most, When: when, Rig: l.Rig}
	if other != nil {
		onBlock.On = block.Name
	}
	o.rate(onBlock, locker.Block, block.Rating)
	if other == nil {
		put(hold.Load{Part: hold.PartHand, Name: secondLine, RestKn: second, PeakKn: peak, Why: "nobody has said what holds the second line: choose its rig"}, policy.Rated{})
		return
	}
	sling := hold.Load{Part: hold.PartSling, Name: rig.Sling.Name, Item: rig.Sling.Item, RestKn: far, PeakKn: most, When: when}
	sling.Rated = o.Limits.Rate(rig.Sling.Rating, policy.Used{Kind: locker.Sling, Conditions: rig.Sling.Conditions}, far, most)
	sling.Hitched(rig.Sling.Hitch, rig.Sling.Basket)
	put(sling, sling.Rated)
	// Hauled in, its turns and its device have as much more as those before them take; held, as much less.
	in := other.hauled()
	for i := range rig.Redirects {
		turn, factor := &rig.Redirects[i], other.Path.Points[i+1].ResultantKn
		most := max(peak*factor, second*in.Points[i+1].ResultantKn)
		put(hold.Load{Part: hold.PartRedirect, Name: turn.Name, Item: turn.Item, RestKn: second * factor, PeakKn: most},
			o.Limits.Rate(turn.Rating, policy.Used{Kind: locker.Pulley}, second*factor, most))
	}
	hauled, held := second*in.DeviceKn, onset*other.Ratio()
	if d := &rig.Device; !d.None {
		put(hold.Load{Part: hold.PartDevice, Name: d.Name, Item: d.Item, RestKn: second * other.Ratio(), PeakKn: max(hauled, held), When: whenOver(held, hauled)},
			o.Limits.Rate(d.Rating, policy.Used{Kind: locker.Device}, second*other.Ratio(), max(hauled, held)))
	}
	o.holdsAcross(other, from, second, peak, hauled)
}

// holdsAcross is what reaches the hand of the second line, or the winch that hauls it in.
func (o *Roped) holdsAcross(other *Roped, from acrossLine, second, peak, hauled float64) {
	rig := other.Rig
	other.Catch.DevicePeakKn, other.bears, other.Loads = peak*other.Ratio(), second/max(1e-9, o.WeightKn()), nil
	other.handLoad()
	for _, hand := range other.Loads {
		hand.From, hand.Rig = from, rig
		hand.Name = cmp.Or(hand.Name, secondLine)
		hand.On = hand.Name
		if rig.Hands.By == "winch" {
			hand.PeakKn = max(hand.PeakKn, hauled)
			hand.Rated = o.Limits.Rate(rig.Hands.Rating, policy.Used{Kind: locker.Winch}, hand.RestKn, hand.PeakKn)
		} else {
			hand.Say("Hauled in it takes " + units.Print(units.Force, o.System, hauled) + " behind its turns: by a winch or a pulling system, a sum of its own.")
		}
		o.Loads = append(o.Loads, hand)
	}
}

// secondLine is what the second of two lines is called where its gear is told from the first's.
const secondLine = "second line"

// An acrossLine is what loads of the second line's own gear are worked out from.
type acrossLine struct{ of, other *Roped }

// Working writes the sum behind a load of the second line's gear.
func (a acrossLine) Working(l *hold.Load, sheet *working.Sheet) {
	a.of.secondWorking(sheet, hold.PartSecond)
	if a.other == nil {
		return
	}
	n, ratio := working.Figure, a.other.Ratio()
	switch l.Part {
	case hold.PartSling:
		sheet.Add("F", "second block: line and lead", "the most of its moments", l.PeakKn, "kN", "statics")
	case hold.PartRedirect:
		sheet.Add("F", "force of both legs", "|T_in·a + T_out·b|", l.PeakKn, "kN", "statics")
	case hold.PartDevice:
		sheet.Add("D", "at its device, hauled in or held", fmt.Sprintf("B/ρ or ρ·T, ρ of all turns = %s", n(ratio)), l.PeakKn, "kN", "statics")
	case hold.PartHand:
		if !l.Unseen {
			set := &a.other.Settings
			sheet.Add("F₂", "its hand at the peak", fmt.Sprintf("ρ·T·e^(−2πμn), ρ = %s, μ = %s, n = %s", n(ratio), n(set.Friction), n(set.Wraps)), l.PeakKn, "kN", line.Capstan)
		}
	}
}

// Contracted is none of the kinds by itself.
func (acrossLine) Contracted(*hold.Load) (kind string, request any) { return "", nil }

// Beside is nothing more than what the load says.
func (acrossLine) Beside(*hold.Load) []string { return nil }
