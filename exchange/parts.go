package exchange

import (
	"fmt"
	"math"
	"reflect"
	"slices"

	"elkstay/core/job"
	"elkstay/core/space"
)

// highs are how high a target is taken to reach where nobody says, m: higher than almost any stands.
var highs = map[string]float64{"building": 30, "fence": 5, "power-line": 60, "tree": 40, "shrub": 8, "road": 0.1, "water": 0.1, "ground": 0.1, "other": 30}

// cm is what a place of a site is rounded to.
func cm(v float64) float64 { return math.Round(v*100) / 100 }

// A reading of a file holds each of its things against what the site has, and each of those at most once.
type reading struct {
	document *job.Job
	matched  map[string]bool // "kind id" of what the site has
}

// partOf is a feature as a site would have it, held against what the site has.
func (r *reading) partOf(f *Feature, number int) Part {
	document := r.document
	p := Part{Number: number, Name: named(f), Kind: f.Kind, Shape: f.Shape, Does: Does}
	leave := func(format string, args ...any) Part {
		p.Does, p.Why = LeftOut, fmt.Sprintf(format, args...)
		return p
	}
	spots := make([]job.Spot, len(f.Points))
	for i, at := range f.Points {
		spots[i] = job.Spot{X: cm(at[0]), Y: cm(at[1])}
		if math.Abs(at[0]) > within || math.Abs(at[1]) > within {
			return leave("it lies more than %d m off the plan's origin", within)
		}
	}
	spots = slices.Compact(spots)
	if len(spots) > 60 {
		return leave("its outline has %d corners, and at most 60 are kept", len(spots))
	}
	switch f.Kind {
	case "":
		p.Does, p.Why = Unknown, "its name does not say what it is"
	case KindTree:
		if f.Shape == Point {
			r.tree(&p, f, spots[0])
			break
		}
		// A crown drawn around.
		if i := slices.IndexFunc(document.Trees, func(t job.Tree) bool { return space.Inside(spots, t.Foot().X, t.Foot().Y) }); i >= 0 {
			return leave("it is drawn around %s of this job, whose crown is as it was measured", document.Trees[i].Title())
		}
		p.Kind = KindTarget
		crowned := *f
		crowned.Is = "tree"
		r.target(&p, &crowned, spots)
	case KindZone:
		if len(spots) < 3 {
			return leave("a drop zone needs three corners")
		}
		r.zone(&p, f, spots)
	case KindTarget:
		r.target(&p, f, spots)
	case KindAnchor:
		r.anchor(&p, f, spots[0])
	case KindWayOut:
		if len(spots) < 2 || len(spots) > 20 {
			return leave("a way out has two to twenty corners")
		}
		r.escape(&p, f, spots)
	case "leave":
		return leave("as you said")
	default:
		return leave("a %s is not read from a file", f.Kind)
	}
	return p
}

// named is what a feature is called.
func named(f *Feature) string {
	name := []rune(f.Name)
	if len(name) == 0 {
		name = []rune(f.Kind)
		if f.Is != "" {
			name = []rune(f.Is)
		}
	}
	if len(name) == 0 {
		name = []rune(f.Shape)
	}
	return string(name[:min(len(name), 80)])
}

// match is what the site has of the same id, or, of what has none, of the same name: of several the nearest that nothing of the file is
// yet; −1: nothing. of gives the id, the name and a place of each.
func match[T any](r *reading, kind string, list []T, f *Feature, of func(*T) (id, name string, at job.Spot)) int {
	best, near := -1, math.Inf(1)
	for i := range list {
		id, name, at := of(&list[i])
		if r.matched[kind+" "+id] || f.ID != "" && id != f.ID || f.ID == "" && name != named(f) {
			continue
		}
		if d := math.Hypot(at.X-f.Points[0][0], at.Y-f.Points[0][1]); best < 0 || d < near {
			best, near = i, d
		}
	}
	if best >= 0 {
		id, _, _ := of(&list[best])
		r.matched[kind+" "+id] = true
	}
	return best
}

// corner is the first corner of an outline.
func corner(outline []job.Spot) job.Spot {
	if len(outline) == 0 {
		return job.Spot{}
	}
	return outline[0]
}

func (r *reading) targetOf(f *Feature) int {
	return match(r, KindTarget, r.document.Site.Targets, f, func(t *job.Target) (string, string, job.Spot) { return t.ID, t.Name, corner(t.Corners()) })
}

// settle says what a part does to what the site has.
func (p *Part) settle(id string, was, is any) {
	p.ID = id
	if reflect.DeepEqual(was, is) {
		p.Does = Same
		return
	}
	p.Does = Changes
}

// crown is how far from its foot a tree is taken to reach that nobody measured, m.
const crown = 4.0

// square is a box about a place, so far to each side, m.
func square(at job.Spot, half float64) *job.Box {
	return &job.Box{Min: job.Spot{X: cm(at.X - half), Y: cm(at.Y - half)}, Max: job.Spot{X: cm(at.X + half), Y: cm(at.Y + half)}}
}

// middle is where a target's box has its middle.
func middle(t *job.Target) job.Spot {
	if t.Box == nil {
		return job.Spot{X: math.Inf(1)}
	}
	return job.Spot{X: cm((t.Box.Min.X + t.Box.Max.X) / 2), Y: cm((t.Box.Min.Y + t.Box.Max.Y) / 2)}
}

func (r *reading) tree(p *Part, f *Feature, at job.Spot) {
	document := r.document
	p.Foot = &at
	for i := range document.Trees {
		t := &document.Trees[i]
		foot := t.Foot()
		near := math.Hypot(foot.X-at.X, foot.Y-at.Y) < 0.05
		if !r.matched[KindTree+" "+t.ID] && (f.ID != "" && t.ID == f.ID || near) {
			r.matched[KindTree+" "+t.ID] = true
			p.Name = t.Title()
			p.settle(t.ID, job.Spot{X: cm(foot.X), Y: cm(foot.Y)}, at)
			return
		}
	}
	// A tree without wood is no tree to take down: it is something that must not be hit.
	top := highs["tree"]
	if f.ToM != nil {
		top = *f.ToM
	}
	p.Foot, p.Kind = nil, KindTarget
	p.Target = &job.Target{Name: p.Name, Kind: "tree", Box: square(at, crown), ToM: top}
	p.Why = fmt.Sprintf("no tree of this job stands there: as what must not be hit, %g m across and %g m high", 2*crown, top)
	if i := r.targetOf(f); i >= 0 && document.Site.Targets[i].Kind == "tree" {
		was := document.Site.Targets[i]
		p.Target.ID, p.Target.FromM, p.Target.ToM, p.Why = was.ID, was.FromM, was.ToM, ""
		if middle(&was) == at {
			p.Target.Box, p.Target.Outline = was.Box, was.Outline
		}
		p.settle(was.ID, was, *p.Target)
	}
}

func (r *reading) zone(p *Part, f *Feature, spots []job.Spot) {
	document := r.document
	p.Zone = &job.Zone{Name: p.Name, Outline: spots}
	if i := match(r, KindZone, document.Site.Zones, f, func(z *job.Zone) (string, string, job.Spot) { return z.ID, z.Name, corner(z.Outline) }); i >= 0 {
		p.Zone.Outline = kept(document.Site.Zones[i].Outline, spots)
		p.Zone.ID = document.Site.Zones[i].ID
		p.settle(p.Zone.ID, document.Site.Zones[i], *p.Zone)
	}
}

func (r *reading) target(p *Part, f *Feature, spots []job.Spot) {
	document := r.document
	is := f.Is
	if _, known := highs[is]; !known {
		is = "other"
	}
	p.Target = &job.Target{Name: p.Name, Kind: is, ToM: highs[is]}
	if len(spots) == 1 {
		p.Target.Box = square(spots[0], 0.5)
		p.Why = "one point only: a metre square"
	} else {
		p.Target.Outline = spots
	}
	i := r.targetOf(f)
	if i >= 0 {
		was := document.Site.Targets[i]
		p.Target.ID, p.Target.FromM, p.Target.ToM, p.Target.VoltageKv = was.ID, was.FromM, was.ToM, was.VoltageKv
		if f.Is == "" {
			p.Target.Kind = was.Kind
		}
		if same := kept(was.Corners(), spots); len(spots) > 1 && len(same) > 0 && &same[0] != &spots[0] {
			p.Target.Box, p.Target.Outline = was.Box, was.Outline
		}
	}
	if f.FromM != nil {
		p.Target.FromM = *f.FromM
	}
	switch {
	case f.ToM != nil:
		p.Target.ToM = *f.ToM
	case i < 0:
		p.Why = fmt.Sprintf("%sits height is not in the file: %g m are taken", map[bool]string{true: p.Why + "; "}[p.Why != ""], p.Target.ToM)
	}
	if i >= 0 {
		p.settle(p.Target.ID, document.Site.Targets[i], *p.Target)
	}
}

// kept is an outline as the site has it where what is read has the same corners, wherever it begins and whichever way round it goes.
func kept(was, read []job.Spot) []job.Spot {
	if len(was) != len(read) {
		return read
	}
	for _, p := range was {
		if !slices.ContainsFunc(read, func(q job.Spot) bool { return math.Hypot(p.X-q.X, p.Y-q.Y) < 0.02 }) {
			return read
		}
	}
	return was
}

func (r *reading) anchor(p *Part, f *Feature, at job.Spot) {
	document := r.document
	is := f.Is
	if is != job.AnchorTree && is != job.AnchorVehicle {
		is = job.AnchorGround
	}
	p.Anchor = &job.Anchor{Name: p.Name, Kind: is, At: at}
	if i := match(r, KindAnchor, document.Site.Anchors, f, func(a *job.Anchor) (string, string, job.Spot) { return a.ID, a.Name, a.At }); i >= 0 {
		was := document.Site.Anchors[i]
		own := was
		own.Name, own.At = p.Name, at
		if f.Is != "" {
			own.Kind = is
		}
		p.Anchor = &own
		was.At = job.Spot{X: cm(was.At.X), Y: cm(was.At.Y)}
		p.settle(own.ID, was, own)
	}
}

func (r *reading) escape(p *Part, f *Feature, spots []job.Spot) {
	document := r.document
	p.Escape = &job.Escape{Name: p.Name, Outline: spots}
	if i := match(r, KindWayOut, document.Site.Escapes, f, func(e *job.Escape) (string, string, job.Spot) { return e.ID, e.Name, corner(e.Outline) }); i >= 0 {
		p.Escape.Outline = kept(document.Site.Escapes[i].Outline, spots)
		p.Escape.ID = document.Site.Escapes[i].ID
		p.settle(p.Escape.ID, document.Site.Escapes[i], *p.Escape)
	}
}
