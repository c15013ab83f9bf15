package gear

import (
	"fmt"
	"math"
)

// A NamedRope is a rope as a job carries it: the maker's figures under a name.
type NamedRope struct {
	Name      string   `json:"name,omitempty" maxLength:"80" doc:"What the crew calls it"`
	DiameterM float64  `json:"diameter_m,omitempty" minimum:"0.001" maximum:"0.1" doc:"Diameter, m"`
	MarkedKn  *float64 `json:"marked_kn,omitempty" exclusiveMinimum:"0" maximum:"5000" doc:"Working load marked by the maker, kN"`
	Rope
	Conditions []string `json:"conditions,omitempty" maxItems:"5" doc:"wet, wet-polyamide, aged, glazed, abraded"`
	Item       string   `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
}

// Rating returns what the rope says it can do.
func (r NamedRope) Rating() Rating { return Rating{MarkedKn: r.MarkedKn, BreakingKn: &r.BreakingKn} }

// TypicalSource is how the typical ropes are cited.
const TypicalSource = "round figures of their kind, from memory: put your maker's figures in their place"

// A construction is how a rope is made, in the sizes that crews carry.
type construction struct {
	name  string
	sizes []struct{ mm, breakingKn float64 }
	// stretch at 10, 20 and 30 % of strength of its smallest and of its largest size, %: between
	// them by the diameter
	small, large [3]float64
}

// constructions begin with the one that stretches least.
var constructions = []construction{
	{"double braid, polyester", []struct{ mm, breakingKn float64 }{{10, 30}, {12, 44}, {14, 62}, {16, 80}, {19, 110}, {22, 145}, {25, 180}}, [3]float64{2.0, 3.3, 4.3}, [3]float64{1.5, 2.5, 3.3}},
	{"twelve-strand, polyester", []struct{ mm, breakingKn float64 }{{10, 24}, {13, 40}, {16, 60}, {19, 84}}, [3]float64{2.8, 4.5, 5.9}, [3]float64{2.2, 3.6, 4.7}},
	{"three-strand, polyamide", []struct{ mm, breakingKn float64 }{{12, 29}, {14, 40}, {16, 52}, {20, 80}, {24, 115}}, [3]float64{8.4, 13.6, 17.8}, [3]float64{7.2, 11.8, 15.4}},
}

// TypicalRopes returns ropes to begin with: round figures of common kinds of rigging line
// in every size, from memory, to be replaced by the maker's.
func TypicalRopes() []NamedRope {
	var ropes []NamedRope
	for _, made := range constructions {
		first, last := made.sizes[0].mm, made.sizes[len(made.sizes)-1].mm
		for _, size := range made.sizes {
			share := (size.mm - first) / (last - first)
			rope := NamedRope{Name: fmt.Sprintf("Typical %g mm %s", size.mm, made.name), DiameterM: size.mm / 1000, Rope: Rope{BreakingKn: size.breakingKn}}
			// Rounded down: a stiffer rope catches harder.
			for i, load := range [3]float64{10, 20, 30} {
				strain := made.small[i] + share*(made.large[i]-made.small[i])
				rope.Elongation = append(rope.Elongation, Stretch{load, math.Floor(10*strain+1e-9) / 10})
			}
			ropes = append(ropes, rope)
		}
	}
	return ropes
}

// StandIn is the stretch of a rope whose maker gives none: that of the typical kind that
// stretches least, of its size or the next thicker, so that a catch is no softer than it may
// be; where its size is not known either, 0, of the thickest.
func StandIn(diameterM float64) []Stretch {
	braids := TypicalRopes()[:len(constructions[0].sizes)]
	if diameterM > 0 {
		for i := range braids {
			if braids[i].DiameterM >= diameterM-1e-6 {
				return braids[i].Elongation
			}
		}
	}
	return braids[len(braids)-1].Elongation
}
