package felled

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/units"
)

// Where the butt may come back over the stump: so far, m, and so far to both sides of straight back,
// degrees (common practice, no source).
const (
	buttBack   = 5
	buttSpread = 40
)

// hazards says who and what stands where the tree or a line can come.
func (o *Felled) hazards(f *felling, lies []space.Disc) {
	if f.sound < 1 && len(f.pulled.Holds) == 0 && math.Abs(f.need.Hinge.SideKnm) > 1e-6 {
		f.said = append(f.said, "Its hinge is in wood that is not sound, and nothing but the hinge holds it sideways: hold it with lines.")
	}
	if open := *f.set.OpeningDeg; open < 70 {
		f.said = append(f.said, fmt.Sprintf("The face closes at %.0f°, before it lies: its hinge is gone from there on, and it can slew or come back.", open))
	}
	if f.set.Push != nil && f.set.Pulled() {
		f.said = append(f.said, "What the machine pushes is not counted on: the lines do all of it.")
	}
	if f.set.UpsideDown {
		f.said = append(f.said, "A face cut upside down leaves the butt on the stump longer: look at where it slides to when the hinge lets go (common practice).")
	}
	if strap := f.set.StrapM; strap != nil {
		f.said = append(f.said, fmt.Sprintf("A strap of %s at the back holds it until it is let go: stand outside its line, and cut it from above or with reach (common practice).", units.Print(units.Diameter, o.System, *strap)))
	}
	if aim := o.Limits.AimDeg; aim > 0 && o.Before == nil {
		f.said = append(f.said, fmt.Sprintf("It may go %.0f° to either side of its aim: its tip %s aside.", aim, o.Height(o.farthest()*math.Sin(space.Radians(aim)))))
	}
	o.groundAndWind(f)
	o.strapped(f)
	o.bedded(f)
	o.whoStands(f, lies)
}

// fromTheLay is how far from where a tree comes down somebody stands at the least, m: its crown springs and its tips fly (common practice, no
// source).
const fromTheLay = 1

// whoStands says who and what pulls where the tree, its crown as it is spread, or a line can come.
func (o *Felled) whoStands(f *felling, lies []space.Disc) {
	over := o.over()
	far := o.farthest()
	within := func(at r3.Vec) bool {
		to := space.Level(r3.Sub(at, o.Cut))
		ahead, aside := r3.Dot(to, over), r3.Norm(r3.Cross(over, to))
		if o.Before == nil && ahead > 0 && slices.ContainsFunc(lies, func(d space.Disc) bool { return math.Hypot(at.X-d.X, at.Y-d.Y) < d.R+fromTheLay }) {
			return true
		}
		return ahead > -1 && r3.Norm(to) < far+1 && aside < 2+max(0, ahead)*math.Tan(space.Radians(2*o.Limits.AimDeg))
	}
	for i := range f.pulls {
		t := &f.pulls[i]
		at := t.points[len(t.points)-1].Vec()
		if (t.set.By != "" || t.effortKn > 0 && !t.set.Holds) && within(at) {
			o.Fault(course.FaultFell, "what pulls at %s stands inside the fall: %s out, and its tip may come down %s out; stand further, or lead the line over a redirect", t.anchor.Name, o.Height(r3.Norm(space.Level(r3.Sub(at, o.Cut)))), o.Height(far))
		}
	}
	for i := range o.Job.Site.Posts {
		post := &o.Job.Site.Posts[i]
		at := r3.Vec{X: post.At.X, Y: post.At.Y}
		if to := space.Level(r3.Sub(at, o.Cut)); o.Before == nil && r3.Norm(to) > 1 && r3.Norm(to) < buttBack && r3.Dot(to, over) < -r3.Norm(to)*math.Cos(space.Radians(buttSpread)) {
			f.said = append(f.said, fmt.Sprintf("%s stands behind the stump, where the butt comes back when its tip meets something: out at 45°, and %s away.", post.Role, o.Height(buttBack)))
		}
		if r3.Norm(space.Level(r3.Sub(at, o.Cut))) > 3 && within(at) {
			f.said = append(f.said, fmt.Sprintf("%s stands inside the fall.", post.Role))
		}
		for k := range f.pulls {
			if where := f.pulls[k].endangers(at); where != "" {
				f.said = append(f.said, fmt.Sprintf("%s stands %s of the line to %s: nobody there while it is tight.", post.Role, where, f.pulls[k].anchor.Name))
			}
		}
	}
}

// besideLine is how near a tight line nobody stands, m (common practice, no source).
const besideLine = 1.5

// endangers says where by a line a place lies: in its path, or in the bight of a turn, where the
// line flies to when what turns it lets go.
func (t *pullLine) endangers(at r3.Vec) string {
	spots := make([]job.Spot, len(t.points))
	for i := range t.points {
		spots[i] = job.Spot{X: t.points[i].X, Y: t.points[i].Y}
	}
	for i := 1; i+1 < len(spots); i++ {
		if space.Inside(spots[i-1:i+2], at.X, at.Y) {
			return "in the bight"
		}
	}
	// Near the tree the line is overhead.
	for i := 1; i < len(t.points); i++ {
		a, b := t.points[i-1].Vec(), t.points[i].Vec()
		along := space.Level(r3.Sub(b, a))
		share := max(0, min(1, r3.Dot(space.Level(r3.Sub(at, a)), along)/max(1e-9, r3.Dot(along, along))))
		near := space.OnTheWay(a, b, share)
		if math.Hypot(near.X-at.X, near.Y-at.Y) < besideLine && near.Z < 2.5 {
			return "in the path"
		}
	}
	return ""
}
