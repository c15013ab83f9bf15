package assess

import (
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
)

// cannot is said of a pick that is impossible where it stands in the order.
const cannot = "cannot happen"

// worst is the gravest thing about a pick in a few words: what makes its verdict, and where all
// is within, the nearest limit. Empty when there is nothing to say.
func (v *Survey) worst(o *Outcome, f *PickFigures) string {
	is := f.Verdict
	switch {
	case o.Stopped():
		return cannot
	case is == policy.NotHeld:
		if held := o.Made.Held(); held != nil && held.Slips {
			return "never stops with less friction"
		}
		return "never stops"
	}
	if is != policy.Within {
		// What it comes down on before what its lines pass.
		if l := o.Landing; l != nil && l.Verdict == is {
			if is == policy.Close {
				return "may hang up on " + l.HangsOn[0]
			}
			return l.Reason
		}
		for i := range o.Clears {
			if c := &o.Clears[i]; judged(c) == is {
				return v.closeTo(c)
			}
		}
		if room := v.room(o); room != nil {
			switch {
			case room.Verdict == is && room.ClearanceM == nil:
				return "no room known beneath"
			case room.Verdict == is && o.Made.Held().Floor.Onto != "" && *room.ClearanceM >= 0:
				return "to be put down on " + o.Made.Held().Floor.Onto
			case room.Verdict == is && *room.ClearanceM < 0:
				return fmt.Sprintf("%s into %s", v.Height(-*room.ClearanceM), room.Beneath)
			case room.Verdict == is:
				return fmt.Sprintf("%s above %s", v.Height(*room.ClearanceM), room.Beneath)
			case room.RunVerdict == is:
				return "runs " + v.Height(o.Made.Held().RunM)
			}
		}
	}
	for i := range o.Loads {
		if _, known, one := v.judge(&o.Loads[i]); one == is && !known && is != policy.Within {
			return o.Loads[i].Part + " not known"
		}
	}
	if n := f.Nearest; n != nil {
		return fmt.Sprintf("%s %.0f %%", n.Part, n.UsePct)
	}
	return ""
}

// closeTo says how close a piece comes to something.
func (v *Survey) closeTo(c *course.Clearance) string {
	if t := c.Target; t != nil {
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
			if !space.Overlap(zone.Outline, t.Corners()) {
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
