package assess

import (
	"fmt"
	"math"

	"elkstay/core/job"
	"elkstay/core/units"
)

// A Doubt is a figure that can be, and seldom is: it is asked about, and counted as given.
type Doubt struct {
	Location string `json:"location" doc:"Path of the document, as faults name it"`
	Ask      string `json:"ask" doc:"What seems odd, in a sentence"`
}

// What is seldom seen (common practice, no source).
const (
	swellsUp   = 1.15 // thicker above than below by more than that
	stoutest   = 0.12 // diameter over height
	slimmest   = 200  // height over diameter
	longLimb   = 1.0  // of the height of the tree
	slimLimb   = 150  // length over diameter
	thickLimb  = 1.05 // of the stem where it leaves
	steepLean  = 35   // degrees
	thickestM  = 3    // of any stem, m
	highestM   = 60   // of a tree that a crew meets, m
	mostOffset = 0.6  // of the height it was taken at
)

// doubts asks about what was measured.
func doubts(j *job.Job, system units.System) []Doubt {
	list := []Doubt{}
	long := func(m float64) string { return units.Print(units.Height, system, m) }
	thick := func(m float64) string { return units.Print(units.Diameter, system, m) }
	for i := range j.Trees {
		t := &j.Trees[i]
		at := fmt.Sprintf("body.trees[%d]", i)
		ask := func(path, format string, args ...any) {
			list = append(list, Doubt{at + path, fmt.Sprintf(format, args...)})
		}
		height := 0.0
		if t.HeightM != nil {
			height = *t.HeightM
		}
		for k := range t.Readings {
			r := &t.Readings[k]
			height = math.Max(height, r.AtM)
			path := fmt.Sprintf(".readings[%d].tape_m", k)
			switch d := r.DiameterM(); {
			case d > thickestM:
				ask(path, "%s through: is that one figure too many, or another unit?", thick(d))
			case k > 0 && d > swellsUp*t.Readings[k-1].DiameterM():
				ask(path, "thicker (%s) than %s below it (%s): is it so?", thick(d), long(r.AtM-t.Readings[k-1].AtM), thick(t.Readings[k-1].DiameterM()))
			case r.Offset != nil && r.AtM > 0 && r.Offset.OffM > mostOffset*r.AtM:
				ask(fmt.Sprintf(".readings[%d].offset.off_m", k), "%s off the plumb line %s up: is it so?", long(r.Offset.OffM), long(r.AtM))
			}
		}
		if len(t.Readings) == 0 || height <= 0 {
			continue
		}
		foot := t.Readings[0].DiameterM()
		if t.HeightM != nil {
			switch {
			case height > highestM:
				ask(".height_m", "%s high: is that so?", long(height))
			case foot > stoutest*height:
				ask(".height_m", "%s high on a stem %s through: is one of them in another unit?", long(height), thick(foot))
			case height > slimmest*foot:
				ask(".height_m", "%s high on a stem of %s: is one of them in another unit?", long(height), thick(foot))
			}
		}
		if t.LeanDeg != nil && *t.LeanDeg > steepLean {
			ask(".lean_deg", "it leans %.0f°: is that so?", *t.LeanDeg)
		}
		stem := t.Stem()
		for k := range t.Limbs {
			l := &t.Limbs[k]
			path := fmt.Sprintf(".limbs[%d]", k)
			if l.LengthM > longLimb*height {
				ask(path+".length_m", "%s long on a tree of %s: is it so?", long(l.LengthM), long(height))
			} else if l.LengthM > slimLimb*l.DiameterM {
				ask(path+".length_m", "%s long and %s thick: is it so?", long(l.LengthM), thick(l.DiameterM))
			}
			if l.Parent == "" && len(stem.Stations) > 1 && l.AtM >= stem.Bottom() && l.AtM <= stem.Top() {
				if there, _ := stem.DiameterAt(l.AtM); l.DiameterM > thickLimb*there && l.DiameterM > 0.05 {
					ask(path+".diameter_m", "%s thick where the stem has %s: is it so?", thick(l.DiameterM), thick(there))
				}
			}
			if l.DiameterM > l.LengthM {
				ask(path+".diameter_m", "thicker (%s) than it is long (%s): is it in another unit?", thick(l.DiameterM), long(l.LengthM))
			}
		}
	}
	return list
}
