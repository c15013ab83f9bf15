package assess

import (
	"fmt"
	"math"
	"slices"

	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// worst is the gravest thing about a pick in a few words: what makes its verdict, and where all
// is within, the nearest limit. Empty when there is nothing to say.
func (v *Survey) worst(o *Outcome, f *PickFigures) string {
	is := f.Verdict
	switch {
	case o.Stopped():
		return "cannot happen"
	case is == NotHeld:
		return "never stops"
	}
	if is != Within {
		// What it comes down on before what its lines pass.
		if l := o.Landing; l != nil && l.Verdict == is {
			if is == Close {
				return "may hang up on " + l.HangsOn[0]
			}
			return l.Reason
		}
		for i := range o.clears {
			if c := &o.clears[i]; c.Verdict == is {
				return v.closeTo(c)
			}
		}
		if room := v.roomFigures(o); room != nil {
			switch {
			case room.Verdict == is && room.ClearanceM == nil:
				return "no room known beneath"
			case room.Verdict == is && o.floor.onto != "" && *room.ClearanceM >= 0:
				return "to be put down on " + o.floor.onto
			case room.Verdict == is && *room.ClearanceM < 0:
				return fmt.Sprintf("%s into %s", v.Height(-*room.ClearanceM), room.Beneath)
			case room.Verdict == is:
				return fmt.Sprintf("%s above %s", v.Height(*room.ClearanceM), room.Beneath)
			case room.RunVerdict == is:
				return "runs " + v.Height(o.Catch.RunM)
			}
		}
	}
	for i := range o.loads {
		if _, known, one := v.judge(&o.loads[i]); one == is && !known && is != Within {
			return o.loads[i].part + " not known"
		}
	}
	if n := f.Nearest; n != nil {
		return fmt.Sprintf("%s %.0f %%", n.Part, n.UsePct)
	}
	return ""
}

// closeTo says how close a piece comes to something.
func (v *Survey) closeTo(c *Clearance) string {
	if t := c.target; t != nil {
		if metres, power := policy.PowerDistanceOf(t); power {
			return fmt.Sprintf("%s from %s: keep %s", v.Height(math.Max(0, c.ClearanceM)), c.Name, v.Height(metres))
		}
		if c.ClearanceM <= 0 {
			return "strikes " + c.Name
		}
	}
	if c.ClearanceM <= 0 {
		return "brushes " + c.Name
	}
	return fmt.Sprintf("%s from %s", v.Height(c.ClearanceM), c.Name)
}

// zoneCautions name drop zones that something stands in or over, and those that overlap.
func (f *Forest) zoneCautions() []string {
	list := []string{}
	for i := range f.Job.Site.Zones {
		zone := &f.Job.Site.Zones[i]
		for k := range f.Job.Site.Targets {
			t := &f.Job.Site.Targets[k]
			if !overlap(zone.Outline, t.Corners()) {
				continue
			}
			if t.FromM > 0 {
				list = append(list, fmt.Sprintf("Drop zone %s lies under %s (from %s up): what comes down there counts as striking it.", zone.Name, t.Name, units.Print(units.Height, f.System, t.FromM)))
				continue
			}
			list = append(list, fmt.Sprintf("Drop zone %s has %s in it: what comes down there counts as striking it.", zone.Name, t.Name))
		}
	}
	return list
}

// overlap reports whether two outlines of the plan cover a place in common: some of the edge of one lies within the
// other, or they are the same. Side by side they do not.
func overlap(a, b []job.Spot) bool {
	middle := job.Spot{}
	for _, at := range b {
		middle.X, middle.Y = middle.X+at.X/float64(len(b)), middle.Y+at.Y/float64(len(b))
	}
	return enters(a, b) || enters(b, a) || inside(a, middle.X, middle.Y)
}

// enters tells that some of the edge of an outline lies within another: between the places where it meets the
// other's edges it lies within or without.
func enters(one, other []job.Spot) bool {
	for i, from := range one {
		to := one[(i+1)%len(one)]
		dx, dy := to.X-from.X, to.Y-from.Y
		cuts := []float64{0, 1}
		for k, c := range other {
			d := other[(k+1)%len(other)]
			if turns := dx*(d.Y-c.Y) - dy*(d.X-c.X); turns != 0 {
				cuts = append(cuts, max(0, min(1, ((c.X-from.X)*(d.Y-c.Y)-(c.Y-from.Y)*(d.X-c.X))/turns)))
			}
		}
		slices.Sort(cuts)
		for k := 1; k < len(cuts); k++ {
			share := (cuts[k-1] + cuts[k]) / 2
			x, y := from.X+share*dx, from.Y+share*dy
			if inside(other, x, y) && edge(other, x, y) > 1e-6 {
				return true
			}
		}
	}
	return false
}

// powerCautions say whom to call before any work beside a line, and what distance is kept.
func (f *Forest) powerCautions() []string {
	list := []string{}
	for i := range f.Job.Site.Targets {
		t := &f.Job.Site.Targets[i]
		metres, power := policy.PowerDistanceOf(t)
		if !power {
			continue
		}
		what := "its voltage is not given, so it counts as the highest"
		if t.VoltageKv != nil {
			what = fmt.Sprintf("%.4g kV", *t.VoltageKv)
		}
		list = append(list, fmt.Sprintf("Before any work beside %s call its owner, and have it made dead or covered. Wood, rope, people and machines keep %s (%s; %s).",
			t.Name, units.Print(units.Height, f.System, metres), what, policy.PowerSource))
	}
	return list
}
