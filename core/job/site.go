package job

import (
	"fmt"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/intake"
)

// A Site is what stands and lies around the tree, on a plan.
type Site struct {
	Targets []Target `json:"targets" nullable:"false" maxItems:"60" doc:"What must not be hit"`
	Zones   []Zone   `json:"zones" nullable:"false" maxItems:"30" doc:"Drop zones"`
	Sectors []Sector `json:"sectors" nullable:"false" maxItems:"30" doc:"Sectors round each tree where nothing may go"`
	Anchors []Anchor `json:"anchors" nullable:"false" maxItems:"30" doc:"Ground anchors, other trees, vehicles"`
	Cranes  []Crane  `json:"cranes" nullable:"false" maxItems:"5"`
	Posts   []Post   `json:"posts,omitempty" maxItems:"20" doc:"Who stands where"`
	Escapes []Escape `json:"escapes,omitempty" maxItems:"10" doc:"Ways out, walked and cleared"`
	// What a felling is worked out with.
	SlopeDeg        *float64 `json:"slope_deg,omitempty" minimum:"0" maximum:"45" doc:"How the ground falls away, degrees; absent: level"`
	SlopeTowardsDeg *float64 `json:"slope_towards_deg,omitempty" minimum:"0" maximum:"360" doc:"Azimuth downhill, degrees; absent: downhill along every fall"`
	GustMS          *float64 `json:"gust_m_s,omitempty" minimum:"0" maximum:"60" doc:"Speed of the wind's gusts, m/s; absent: none are counted"`
	GustTowardsDeg  *float64 `json:"gust_towards_deg,omitempty" minimum:"0" maximum:"360" doc:"Azimuth they blow to, degrees; absent: from ahead and from the side at once"`
	Earth           *Earth   `json:"earth,omitempty" doc:"Where on earth the plan lies; absent: nobody said, and it is in metres of its own"`
}

// Earth is where the plan's own origin lies on the earth, and how its north does.
type Earth struct {
	LatDeg   float64 `json:"lat_deg" minimum:"-85" maximum:"85" doc:"North of the equator, degrees of WGS 84"`
	LonDeg   float64 `json:"lon_deg" minimum:"-180" maximum:"180" doc:"East of Greenwich, degrees of WGS 84"`
	NorthDeg float64 `json:"north_deg,omitempty" minimum:"0" maximum:"360" doc:"True bearing of the plan's own north, clockwise, degrees"`
}

// A Spot is a place on the plan, m: x east, y north.
type Spot struct {
	X float64 `json:"x" minimum:"-500" maximum:"500" doc:"East, m"`
	Y float64 `json:"y" minimum:"-500" maximum:"500" doc:"North, m"`
}

// A Post is where somebody stands while pieces come down.
type Post struct {
	ID   string `json:"id" minLength:"1" maxLength:"40"`
	Role string `json:"role" minLength:"1" maxLength:"60" doc:"Such as climber, ground lead, rope, lookout"`
	Name string `json:"name,omitempty" maxLength:"80" doc:"Who"`
	At   Spot   `json:"at"`
}

// An Escape is a way out.
type Escape struct {
	ID      string `json:"id" minLength:"1" maxLength:"40"`
	Name    string `json:"name" minLength:"1" maxLength:"80"`
	Outline []Spot `json:"outline" minItems:"2" maxItems:"20" doc:"From where one stands to where one is out of reach"`
}

// A Box is an upright box on the plan, its edges along the axes.
type Box struct {
	Min Spot `json:"min"`
	Max Spot `json:"max"`
}

// A Target is something that must not be hit: a box or an outline, between two heights.
type Target struct {
	ID        string   `json:"id" minLength:"1" maxLength:"40"`
	Name      string   `json:"name" minLength:"1" maxLength:"80"`
	Kind      string   `json:"kind" enum:"building,fence,power-line,tree,shrub,road,water,ground,other"`
	Box       *Box     `json:"box,omitempty" doc:"A box; or an outline, one of the two"`
	Outline   []Spot   `json:"outline,omitempty" maxItems:"60" doc:"Corners in order; two make a line"`
	VoltageKv *float64 `json:"voltage_kv,omitempty" exclusiveMinimum:"0" maximum:"1500" doc:"Of a power line, kV; not known: it counts as the highest"`
	FromM     float64  `json:"from_m,omitempty" minimum:"-50" maximum:"150" doc:"Height of its underside, m"`
	ToM       float64  `json:"to_m" minimum:"-50" maximum:"150" doc:"Height of its top, m"`
}

// A Zone is ground kept clear to drop on.
type Zone struct {
	ID      string `json:"id" minLength:"1" maxLength:"40"`
	Name    string `json:"name" minLength:"1" maxLength:"80"`
	Outline []Spot `json:"outline" minItems:"3" maxItems:"60" doc:"Corners in order"`
}

// A Sector is an angle of the plan, seen from the tree, where nothing may go.
type Sector struct {
	ID      string  `json:"id" minLength:"1" maxLength:"40"`
	Name    string  `json:"name" minLength:"1" maxLength:"80"`
	FromDeg float64 `json:"from_deg" minimum:"0" maximum:"360" doc:"Azimuth it begins at, clockwise"`
	ToDeg   float64 `json:"to_deg" minimum:"0" maximum:"360" doc:"Azimuth it ends at"`
}

// The kinds of anchors.
const (
	AnchorGround  = "ground"
	AnchorTree    = "tree"
	AnchorVehicle = "vehicle"
)

// An Anchor is something to hold to besides the tree itself.
type Anchor struct {
	ID      string   `json:"id" minLength:"1" maxLength:"40"`
	Name    string   `json:"name" minLength:"1" maxLength:"80"`
	Kind    string   `json:"kind" enum:"ground,tree,vehicle"`
	At      Spot     `json:"at"`
	HeightM *float64 `json:"height_m,omitempty" minimum:"0" maximum:"120" doc:"How high one can hold to it, m; default 0.5"`
	MassKg  *float64 `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Of a vehicle, kg"`
	// Of a tree: what its stem can be bent by follows from it.
	DiameterM *float64 `json:"diameter_m,omitempty" exclusiveMinimum:"0" maximum:"5" doc:"Of another tree, at breast height, m"`
	gear.Rating
}

// A Crane as it stands on the site.
type Crane struct {
	ID          string           `json:"id" minLength:"1" maxLength:"40"`
	Name        string           `json:"name" minLength:"1" maxLength:"80"`
	At          Spot             `json:"at"`
	BoomM       float64          `json:"boom_m" exclusiveMinimum:"0" maximum:"300" doc:"Boom as rigged, m"`
	Chart       []crane.ChartRow `json:"chart" nullable:"false" maxItems:"2000"`
	RiggingKg   float64          `json:"rigging_kg" minimum:"0" maximum:"100000" doc:"Ball, block, slings: anything below the boom tip, kg"`
	ChartUsePct *float64         `json:"chart_use_pct,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Share of the chart used on this job; default the crew's policy"`
	Item        string           `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
}

// Corners returns the target's outline, corner by corner.
func (t *Target) Corners() []Spot {
	if t.Box != nil {
		a, b := t.Box.Min, t.Box.Max
		return []Spot{a, {b.X, a.Y}, b, {a.X, b.Y}}
	}
	return t.Outline
}

// faults names what contradicts itself on the site.
func (s *Site) faults() (faults intake.Faults) {
	for i := range s.Targets {
		t := &s.Targets[i]
		at := fmt.Sprintf("body.site.targets[%d]", i)
		if (t.Box == nil) == (len(t.Outline) == 0) {
			faults.Add(at+".outline", len(t.Outline), "a box or an outline, one of the two", "%s has neither a box nor an outline, or both", t.Name)
		}
		if t.Box == nil && len(t.Outline) == 1 {
			faults.Add(at+".outline", 1, "two corners or more", "%s has one corner only", t.Name)
		}
		if t.Box != nil && (t.Box.Min.X >= t.Box.Max.X || t.Box.Min.Y >= t.Box.Max.Y) {
			faults.Add(at+".box.max", t.Box.Max, "east and north of min", "the box of %s ends before it begins", t.Name)
		}
		if t.ToM <= t.FromM {
			faults.Add(at+".to_m", t.ToM, fmt.Sprintf("more than %g m", t.FromM), "%s ends (%g m) below where it begins (%g m)", t.Name, t.ToM, t.FromM)
		}
	}
	return faults
}
