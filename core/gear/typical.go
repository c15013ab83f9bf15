package gear

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

// TypicalRopes returns ropes to begin with: round figures of common kinds of
// rigging line, from memory, to be replaced by the maker's.
func TypicalRopes() []NamedRope {
	return []NamedRope{
		{Name: "Typical 14 mm double braid, polyester", DiameterM: 0.014, Rope: Rope{BreakingKn: 62,
			Elongation: []Stretch{{10, 1.9}, {20, 3.1}, {30, 4.1}}}},
		{Name: "Typical 16 mm double braid, polyester", DiameterM: 0.016, Rope: Rope{BreakingKn: 80,
			Elongation: []Stretch{{10, 1.8}, {20, 3.0}, {30, 4.0}}}},
		{Name: "Typical 19 mm double braid, polyester", DiameterM: 0.019, Rope: Rope{BreakingKn: 110,
			Elongation: []Stretch{{10, 1.7}, {20, 2.8}, {30, 3.7}}}},
		{Name: "Typical 13 mm twelve-strand, polyester", DiameterM: 0.013, Rope: Rope{BreakingKn: 40,
			Elongation: []Stretch{{10, 2.6}, {20, 4.2}, {30, 5.5}}}},
		{Name: "Typical 16 mm three-strand, polyamide", DiameterM: 0.016, Rope: Rope{BreakingKn: 52,
			Elongation: []Stretch{{10, 8}, {20, 13}, {30, 17}}}},
	}
}
