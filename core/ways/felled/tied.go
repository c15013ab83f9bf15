package felled

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
)

// byTheStrap is how near a weak place a tie must sit to hold it together, m (common practice, no
// source).
const byTheStrap = 1.5

// strapped says of every union and crack of what is felled whether it is tied round. What a tie
// holds is not known, so nothing is credited for it.
func (o *Felled) strapped(f *felling) {
	used := make([]bool, len(f.set.Straps))
	for i := range o.Measured.Defects {
		d := &o.Measured.Defects[i]
		if d.Limb != "" || d.To() < o.FromM || d.Kind != job.DefectUnion && d.Kind != job.DefectCrack {
			continue
		}
		what := map[string]string{job.DefectUnion: "union", job.DefectCrack: "crack"}[d.Kind]
		tied := []string{}
		for k := range f.set.Straps {
			if s := &f.set.Straps[k]; s.AtM >= d.AtM-byTheStrap && s.AtM <= d.To()+byTheStrap {
				used[k] = true
				tied = append(tied, o.Height(s.AtM))
			}
		}
		if len(tied) > 0 {
			f.said = append(f.said, fmt.Sprintf("The %s at %s is tied round at %s: nothing is counted for that, as what it holds is not known.", what, o.Height(d.AtM), strings.Join(tied, " and ")))
			continue
		}
		f.said = append(f.said, fmt.Sprintf("The %s at %s is not tied round: it can open when the line takes up or when the tree starts, and what comes off goes its own way; tie it round before the cut.", what, o.Height(d.AtM)))
	}
	for k := range f.set.Straps {
		if s := &f.set.Straps[k]; s.AtM < o.FromM || s.AtM > o.ToM {
			o.Fault(course.FaultFell, "a tie round the stem at %s is not on what is felled (%s to %s)", o.Height(s.AtM), o.Height(o.FromM), o.Height(o.ToM))
		} else if !used[k] {
			f.said = append(f.said, fmt.Sprintf("The tie at %s is by no union or crack of the survey.", o.Height(s.AtM)))
		}
	}
}

// bedded says what bedding logs do where the stem comes down on them.
func (o *Felled) bedded(f *felling) {
	if len(f.set.Beds) == 0 || o.Before != nil {
		return
	}
	over := space.Towards(o.Settings.FallTowardsDeg)
	long := o.Sweeps(over)
	balance := r3.Norm(r3.Sub(o.Weight.At, o.Cut))
	short, beyond := 0, 0
	for i := range f.set.Beds {
		b := &f.set.Beds[i]
		switch {
		case b.OutM > long+max(0, o.Cut.Z):
			o.Fault(course.FaultFell, "a bedding log %s out lies beyond its tip (%s)", o.Height(b.OutM), o.Height(long))
		case b.OutM < balance:
			short++
		default:
			beyond++
		}
		at := r3.Add(space.Level(o.Cut), r3.Scale(b.OutM, over))
		for k := range o.Tree.Targets {
			if t := &o.Tree.Targets[k]; space.Apart(t.Corners, at.X, at.Y) <= 0 {
				f.said = append(f.said, fmt.Sprintf("The bedding log %s out lies on %s: what it takes goes into that.", o.Height(b.OutM), t.Name))
			}
		}
	}
	switch {
	case short == 0:
		f.said = append(f.said, fmt.Sprintf("All bedding logs lie beyond its balance (%s out): it comes down on them first and its butt stays up or kicks.", o.Height(balance)))
	case beyond == 0:
		f.said = append(f.said, fmt.Sprintf("All bedding logs lie short of its balance (%s out): it comes down on them first, its tip goes on down and its butt is thrown up.", o.Height(balance)))
	default:
		f.said = append(f.said, "It comes down on its bedding logs: it can break, roll or spring there; look which side is pressed before the first cut.")
	}
}

// beds are the bedding logs of a felling, where they lie.
func (o *Felled) beds() []course.BedFigures {
	list := []course.BedFigures{}
	for i := range o.felling.set.Beds {
		b := &o.felling.set.Beds[i]
		at := r3.Add(space.Level(o.Cut), r3.Scale(b.OutM, space.Towards(o.Settings.FallTowardsDeg)))
		list = append(list, course.BedFigures{At: line.Point{X: at.X, Y: at.Y, Z: math.Round(1000*b.Thick()/2) / 1000}, ThickM: b.Thick()})
	}
	return list
}

// straps are the places of a felling's ties on its stem.
func (o *Felled) straps() []line.Point {
	list := []line.Point{}
	for i := range o.felling.set.Straps {
		list = append(list, space.PointOf(o.OnStem(o.felling.set.Straps[i].AtM)))
	}
	return list
}
