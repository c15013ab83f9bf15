// Package exchange writes the plan of a site for other programs, and reads what they know of it: GeoJSON where the plan has a place on
// earth, DXF and plain JSON in metres, a surveyor's list of points. What is read is a preview: the parts a site would get, held
// against those it has.
package exchange

import (
	"encoding/json"

	"elkstay/core/assess"
	"elkstay/core/job"
)

// What a shape is.
const (
	Point = "point"
	Line  = "line"
	Area  = "area"
)

// Kinds of what stands on a plan.
const (
	KindTree   = "tree"
	KindZone   = "drop zone"
	KindTarget = "target"
	KindSector = "sector"
	KindAnchor = "anchor"
	KindCrane  = "crane"
	KindPost   = "post"
	KindWayOut = "way out"
	KindLimb   = "limb"
)

var kinds = []string{KindTree, KindZone, KindTarget, KindSector, KindAnchor, KindCrane, KindPost, KindWayOut, KindLimb}

// A Feature is one thing on the plan, m: x east, y north of its origin.
type Feature struct {
	Kind   string       `json:"kind"`
	ID     string       `json:"id,omitempty"`
	Name   string       `json:"name"`
	Shape  string       `json:"shape"` // point, line or area; an area is not closed by its first corner again
	Points [][2]float64 `json:"points_m"`
	// Of a target and an anchor: what it is; of a target between which heights; of a sector its azimuths.
	Is      string   `json:"is,omitempty"`
	FromM   *float64 `json:"from_m,omitempty"`
	ToM     *float64 `json:"to_m,omitempty"`
	FromDeg *float64 `json:"from_deg,omitempty"`
	ToDeg   *float64 `json:"to_deg,omitempty"`
	Who     string   `json:"who,omitempty"`
}

// Plan is everything on the plan of a job, in the order of the document, each limb after them.
func Plan(document *job.Job, a *assess.Assessment) (list []Feature) {
	add := func(f Feature, shape string, spots ...job.Spot) {
		f.Shape, f.Points = shape, make([][2]float64, len(spots))
		for i, p := range spots {
			f.Points[i] = [2]float64{p.X, p.Y}
		}
		list = append(list, f)
	}
	for i := range document.Trees {
		name := document.Trees[i].Title()
		if len(document.Trees) == 1 && document.Trees[i].Name == "" {
			name = "the tree"
		}
		add(Feature{Kind: KindTree, ID: document.Trees[i].ID, Name: "foot of " + name}, Point, document.Trees[i].Foot())
	}
	site := &document.Site
	for i := range site.Zones {
		add(Feature{Kind: KindZone, ID: site.Zones[i].ID, Name: site.Zones[i].Name}, Area, site.Zones[i].Outline...)
	}
	for i := range site.Targets {
		t := &site.Targets[i]
		shape := Area
		if t.Kind == "fence" || t.Kind == "power-line" || len(t.Corners()) < 3 {
			shape = Line
		}
		add(Feature{Kind: KindTarget, ID: t.ID, Name: t.Name, Is: t.Kind, FromM: &t.FromM, ToM: &t.ToM}, shape, t.Corners()...)
	}
	for i := range site.Sectors {
		s := &site.Sectors[i]
		add(Feature{Kind: KindSector, ID: s.ID, Name: s.Name, FromDeg: &s.FromDeg, ToDeg: &s.ToDeg}, Point, document.Trees[0].Foot())
	}
	for i := range site.Anchors {
		add(Feature{Kind: KindAnchor, ID: site.Anchors[i].ID, Name: site.Anchors[i].Name, Is: site.Anchors[i].Kind}, Point, site.Anchors[i].At)
	}
	for i := range site.Cranes {
		add(Feature{Kind: KindCrane, ID: site.Cranes[i].ID, Name: site.Cranes[i].Name}, Point, site.Cranes[i].At)
	}
	for i := range site.Posts {
		add(Feature{Kind: KindPost, ID: site.Posts[i].ID, Name: site.Posts[i].Role, Who: site.Posts[i].Name}, Point, site.Posts[i].At)
	}
	for i := range site.Escapes {
		add(Feature{Kind: KindWayOut, ID: site.Escapes[i].ID, Name: site.Escapes[i].Name}, Line, site.Escapes[i].Outline...)
	}
	for t := range a.Trees {
		for _, limb := range a.Trees[t].Shape.Limbs {
			f := Feature{Kind: KindLimb, Name: limb.Title, Shape: Line}
			for _, p := range limb.Points {
				f.Points = append(f.Points, [2]float64{p[0], p[1]})
			}
			list = append(list, f)
		}
	}
	return list
}

// planFormat is how a plan in metres names itself.
const planFormat = "elkstay-plan"

// writtenPlan is a plan as JSON has it.
type writtenPlan struct {
	Format   string    `json:"format"`
	Version  int       `json:"version"`
	Name     string    `json:"name"`
	Metres   string    `json:"metres"`
	Features []Feature `json:"features"`
}

// JSON writes a plan in metres of its own.
func JSON(name string, plan []Feature) ([]byte, error) {
	return json.MarshalIndent(writtenPlan{planFormat, 1, name, "x east, y north of the plan's own origin", plan}, "", " ")
}
