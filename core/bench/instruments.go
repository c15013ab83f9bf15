package bench

import (
	"context"
	"encoding/json"
	"fmt"

	"elkstay/core/calc"
)

// An Instrument is a kind of the contract as it lies on the bench.
type Instrument struct {
	Kind     string          `json:"kind"`
	Title    string          `json:"title" doc:"What it answers, as a crew asks it"`
	Words    string          `json:"words" doc:"Trade words that lead to it"`
	Group    string          `json:"group"`
	Begin    json.RawMessage `json:"begin" doc:"A sum to begin with; invented"`
	Answer   string          `json:"answer" doc:"Path of the figure that is the answer"`
	Beside   []string        `json:"beside" nullable:"false" doc:"Paths of the figures beside it"`
	Fields   []Field         `json:"fields" nullable:"false"`
	Figures  []Figure        `json:"figures" nullable:"false" doc:"Every number of the answer to begin with"`
	MakesJob bool            `json:"makes_job,omitempty" doc:"Its sum can be put in a job"`
}

// The groups of the bench, in the order in which they lie there.
const (
	weight  = "Weight"
	rope    = "Rope and blocks"
	shock   = "Shock and two lines"
	pulling = "Pulling over"
	ground  = "Ground and wood"
	lifting = "Hook and stem"
)

const (
	heavyOak  = `{"density_kg_m3":{"low":910,"likely":1010,"high":1110}}`
	plainLine = `{"mbs_kn":80,"elongation":[{"load_pct":10,"strain_pct":1.6},{"load_pct":20,"strain_pct":2.6},{"load_pct":30,"strain_pct":3.4}]}`
)

// instruments has a row for every kind of the contract.
var instruments = []Instrument{
	{Kind: "piece", Group: weight, Title: "What does this log weigh?", Words: "log weight mass heavy stem round timber volume", Answer: "mass_kg.likely", Beside: []string{"mass_kg.low", "mass_kg.high", "volume_m3", "cog_m"},
		Begin: raw(`{"wood":{"species":"northern-red-oak"},"stations":[{"at_m":0,"diameter_m":0.56},{"at_m":2.44,"diameter_m":0.5}],"method":"frustum"}`)},
	{Kind: "limb", Group: weight, Title: "What does this limb weigh, with its brush?", Words: "limb branch brush leaf weight", Answer: "mass_kg.likely", Beside: []string{"mass_kg.low", "mass_kg.high", "cog_m"},
		Begin: raw(`{"group":"mixed-hardwood","basal_diameter_m":0.22,"length_m":8,"moisture_pct":90,"in_leaf":true}`)},
	{Kind: "cut-length", Group: weight, Title: "How long may the piece be?", Words: "length limit longest piece", Answer: "length_m", Beside: []string{},
		Begin: raw(`{"wood":` + heavyOak + `,"stations":[{"at_m":0,"diameter_m":0.8},{"at_m":6,"diameter_m":0.6},{"at_m":18,"diameter_m":0.2}],"from":"top","limit_kg":500}`)},
	{Kind: "weigh-in", Group: weight, Title: "What has the scale taught?", Words: "scale weighed load cell learn factor", Answer: "factor", Beside: []string{"low_factor", "high_factor", "cv_pct"},
		Begin: raw(`{"weighed":[{"predicted_kg":400,"measured_kg":452},{"predicted_kg":310,"measured_kg":333},{"predicted_kg":520,"measured_kg":571}]}`)},
	{Kind: "wraps", Group: rope, Title: "How many wraps?", Words: "wraps turns bollard capstan friction hold hand", Answer: "wraps", Beside: []string{"angle_deg"},
		Begin: raw(`{"line_kn":9,"hand_kn":0.2,"friction":0.2}`)},
	{Kind: "line", Group: rope, Title: "What does every leg and turn of the line carry?", Words: "redirect block resultant rope path angle sling", Answer: "points[0].resultant_kn", Beside: []string{"points[1].resultant_kn", "device_kn", "hand_kn"},
		Begin: raw(`{"load_kn":3.2,"motion":"lowering","points":[{"name":"piece","x":2,"y":0,"z":9},{"name":"block","x":1,"y":0,"z":14,"efficiency":0.92},{"name":"fork","x":-3,"y":1,"z":12,"friction":0.3},{"name":"bollard","x":0,"y":0,"z":1.2,"wraps":2.5,"friction":0.2}]}`)},
	{Kind: "haul", Group: rope, Title: "What does this pulling system give?", Words: "mechanical advantage pulley 3:1 5:1 9:1 haul system", Answer: "actual", Beside: []string{"ideal", "hand_kn"},
		Begin: raw(`{"load_kn":5,"pulleys":[{"id":"a1","on":"anchor","efficiency":0.9},{"id":"m1","on":"load","efficiency":0.9}],"ropes":[{"id":"r1","path":["load","a1","m1","hand"]}]}`)},
	{Kind: "vector", Group: rope, Title: "What does pulling sideways on a tight line give?", Words: "side pull sweat vector tight line midline", Answer: "tension_kn", Beside: []string{"gain_kn", "deflection_m", "advantage"},
		Begin: raw(`{"span_m":20,"pretension_kn":1,"stiffness_kn":600,"side_force_kn":0.4}`)},
	{Kind: "rating", Group: rope, Title: "What may this item carry as it is used?", Words: "working load limit knot bend wet worn rating strength choker", Answer: "limit_kn", Beside: []string{},
		Begin: raw(`{"breaking_kn":80,"termination":"running-bowline","bend_ratio":4,"conditions":["wet"],"resting_kn":3,"peak_kn":9}`)},
	{Kind: "heat", Group: rope, Title: "What heat does this lowering make?", Words: "heat glazed melt bollard lowering speed", Answer: "total_kj", Beside: []string{"hand_kj", "device_rise_k", "softens_at_c"},
		Begin: raw(`{"load_kn":3,"motion":"lowering","points":[{"name":"piece","x":0,"y":0,"z":2},{"name":"block","x":0,"y":0,"z":14,"efficiency":0.9},{"name":"bollard","x":0.3,"y":0,"z":1.2,"wraps":2.5,"friction":0.2}],"lowered_m":12,"speed_m_s":1,"device_mass_kg":6}`)},
	{Kind: "drop", Group: shock, Title: "How hard does the line catch it?", Words: "shock drop peak run negative rigging catch", Answer: "line_peak_kn", Beside: []string{"block_peak_kn", "run_m", "stretch_m", "amplification"},
		Begin: raw(`{"piece":{"mass_kg":200,"cog_above_cut_m":1.2,"length_m":2.5},"tie_above_cut_m":0.4,"block_below_cut_m":0.6,"slack_m":0.1,"lead_m":12,"rope":` + plainLine + `,"block_efficiency":0.9,"device_hold_kn":6}`)},
	{Kind: "drop-sim", Group: shock, Title: "The same drop, followed through time", Words: "shock simulation time peak", Answer: "line_peak_kn", Beside: []string{"block_peak_kn", "run_m"},
		Begin: raw(`{"piece":{"mass_kg":200,"cog_above_cut_m":1.2,"length_m":2.5},"tie_above_cut_m":0.4,"block_below_cut_m":0.6,"slack_m":0.1,"lead_m":12,"rope":` + plainLine + `,"block_efficiency":0.9,"until_s":3}`)},
	{Kind: "catch", Group: shock, Title: "Does making the line tight before help?", Words: "pretension tight crank catch from above", Answer: "line_peak_kn", Beside: []string{"without_pretension_kn", "stretch_m", "amplification"},
		Begin: raw(`{"mass_kg":180,"sink_m":0.4,"line_m":6,"lead_m":12,"rope":` + plainLine + `,"efficiency":0.9,"pretension_kn":1}`)},
	{Kind: "swing", Group: shock, Title: "Where does the limb swing?", Words: "swing pendulum arc obstacle", Answer: "line_kn", Beside: []string{"speed_m_s", "radius_m", "lowest_m"},
		Begin: raw(`{"pivot":{"x":0,"y":0,"z":16},"tie":{"x":5,"y":2,"z":13},"mass_kg":180,"reach_m":1.5,"obstacles":[{"name":"roof","min":{"x":-6,"y":-4,"z":0},"max":{"x":-2.5,"y":0,"z":7}}]}`)},
	{Kind: "two-line", Group: shock, Title: "What do two points carry while it goes across?", Words: "two line drift speedline carry", Answer: "max_a_kn", Beside: []string{"max_b_kn"},
		Begin: raw(`{"a":{"x":0,"y":0,"z":14},"b":{"x":9,"y":0,"z":12},"mass_kg":180,"piece_z":9}`)},
	{Kind: "two-tie", Group: shock, Title: "How does it hang on a butt line and a tip line?", Words: "butt line tip line two ties attitude", Answer: "ties[1].tension_kn", Beside: []string{"ties[0].tension_kn", "attitude_deg", "lowest_m"},
		Begin: raw(`{"mass_kg":180,"length_m":5,"cog_m":2.1,"ties":[{"name":"butt","at_m":0.4,"point":{"x":0,"z":14},"line_m":4},{"name":"tip","at_m":4.2,"point":{"x":3,"z":15},"line_m":5.5}]}`)},
	{Kind: "trace-read", Group: shock, Title: "What did the load cell see?", Words: "load cell trace record peak rest", Answer: "peak_kn", Beside: []string{"rest_kn", "mass_kg", "amplification"},
		Begin: raw(`{"t_s":[0,0.2,0.4,0.6,0.8,1,1.2,1.4,1.6,1.8,2,2.2,2.4,2.6,2.8,3],"kn":[0,0.1,6.2,3.1,2.2,1.9,2.1,2,2,2,2,2,2,2,2,2],"at":"line"}`)},
	{Kind: "fell", Group: pulling, Title: "What pull brings it over?", Words: "pull over back lean retainer wedge fell", Answer: "pull_kn", Beside: []string{"retainer_kn", "balance_deg", "hinge.side_use_pct"},
		Begin: raw(`{"tree":{"mass_kg":3000,"cog_height_m":8,"cog_forward_m":-0.6,"cog_side_m":0.3},"hinge":{"width_m":0.4,"thickness_m":0.04,"strength_mpa":50},"pull":{"attach_height_m":12,"anchor_distance_m":25,"bearing_deg":0}}`)},
	{Kind: "fell-sim", Group: pulling, Title: "Does it go, and where does the pull give out?", Words: "fall followed stretch slack winch hinge", Answer: "highest_deg", Beside: []string{"time_s", "goes_alone_deg", "lines[0].peak_kn"},
		Begin: raw(`{"tree":{"mass_kg":1500,"cog_height_m":8,"cog_forward_m":-0.5,"top_height_m":16},"hinge":{"bending_knm":10},"lines":[{"name":"pull","attach_height_m":11,"anchor_distance_m":22,"rope":` + plainLine + `,"pretension_kn":2.5,"haul":{"speed_m_s":0.15,"stall_kn":8}}]}`)},
	{Kind: "hinge", Group: pulling, Title: "What does this hinge bear?", Words: "hinge holding wood stump face back cut bored nicks taper", Answer: "bending_knm", Beside: []string{"side_capacity_knm.to_left", "side_capacity_knm.to_right", "back_cut_m", "chord_m"},
		Begin: raw(`{"stump":{"diameter_m":0.6},"face_depth_m":0.16,"thickness_m":{"left":0.06,"right":0.06},"strength_mpa":50}`)},
	{Kind: "reach", Group: pulling, Title: "Where does its tip come down?", Words: "reach height tip fall length distance", Answer: "farthest_m", Beside: []string{"tip_m", "turned_deg", "shortened_m"},
		Begin: raw(`{"top_height_m":18,"hinge_height_m":0.5,"slope_deg":0}`)},
	{Kind: "push", Group: pulling, Title: "What must a machine push?", Words: "push machine excavator loader", Answer: "push_kn", Beside: []string{"follow_m", "use_pct"},
		Begin: raw(`{"tree":{"mass_kg":1500,"cog_height_m":8,"cog_forward_m":-0.4},"hinge":{"width_m":0.4,"thickness_m":0.04,"strength_mpa":50},"height_m":4,"limit_kn":40}`)},
	{Kind: "midline-weight", Group: pulling, Title: "What does a weight hung in the pull line do?", Words: "weight midline hang follow stone log", Answer: "curve[0].pull_kn", Beside: []string{"curve[0].anchor_kn", "curve[0].moment_knm"},
		Begin: raw(`{"attach_height_m":10,"anchor_distance_m":20,"line_length_m":25,"weight_kg":200,"ground_m":-0.5}`)},
	{Kind: "grip", Group: pulling, Title: "What can this vehicle hold or pull?", Words: "vehicle truck tractor grip anchor tyres brake", Answer: "pull_kn", Beside: []string{},
		Begin: raw(`{"mass_kg":3000,"grip":0.35,"braked_share":0.5,"slope_deg":0,"line_up_deg":10}`)},
	{Kind: "drag", Group: ground, Title: "What drags this log?", Words: "skid drag slope winch log friction", Answer: "pull_kn", Beside: []string{"ground_kn", "friction_kn"},
		Begin: raw(`{"mass_kg":800,"friction":0.6,"slope_deg":8,"line_angle_deg":10}`)},
	{Kind: "bind", Group: ground, Title: "Where do I saw this log?", Words: "bind crosscut buck log supports pinch tension compression saw", Answer: "moment_knm", Beside: []string{"reactions_kn[0]", "reactions_kn[1]", "stress_mpa", "left.mass_kg", "right.mass_kg"},
		Begin: raw(`{"wood":` + heavyOak + `,"stations":[{"at_m":0,"diameter_m":0.5},{"at_m":6,"diameter_m":0.4}],"supports_m":[1,5.2],"cut_at_m":3}`)},
	{Kind: "snap", Group: ground, Title: "Two overlapping cuts: what push breaks it off?", Words: "snap cut overlapping push by hand", Answer: "self_ratio", Beside: []string{"push_moment_knm", "self_moment_knm", "bridge_force_kn"},
		Begin: raw(`{"mass_kg":84,"cog_height_m":0.6,"cog_offset_m":0.02,"lean_deg":3,"bridge_to_edge_m":0.0762,"push":{"force_kn":0.178,"height_m":0.3048},"friction":0.8,"slope_deg":12}`)},
	{Kind: "cut-advice", Group: ground, Title: "Which cut, and why not?", Words: "cut face back plunge advice tear barber", Answer: "", Beside: []string{},
		Begin: raw(`{"orientation_deg":60,"diameter_m":0.3,"length_m":5,"species":"northern-red-oak","rigged":"line"}`)},
	{Kind: "spar", Group: lifting, Title: "What does the standing stem feel?", Words: "spar stem bending stress anchor block", Answer: "worst.use_pct", Beside: []string{"worst.stress_mpa", "worst.at_m", "top_deflection_m"},
		Begin: raw(`{"stations":[{"at_m":0,"diameter_m":0.7,"cavity_m":0.2},{"at_m":8,"diameter_m":0.5},{"at_m":15,"diameter_m":0.35}],"strength_mpa":45,"stiffness_gpa":7.3,"density_kg_m3":830,"loads":[{"at_m":14,"horizontal_kn":3,"vertical_kn":12,"offset_m":0.25}]}`)},
	{Kind: "section", Group: lifting, Title: "Where to cut the whole stem?", Words: "sections stem pieces cut plan", Answer: "count", Beside: []string{"max_use_pct"},
		Begin: raw(`{"stem":{"wood":` + heavyOak + `,"stations":[{"at_m":0,"diameter_m":0.8},{"at_m":6,"diameter_m":0.6},{"at_m":18,"diameter_m":0.2}]},"from_m":18,"to_m":4,"rig":{"tie_above_cut_m":0.4,"block_below_cut_m":0.5,"slack_m":0.1,"device_at_m":1.2,"rope":` + plainLine + `,"block_efficiency":0.9,"device_hold_kn":9},"limits":{"mass_kg":400}}`)},
	{Kind: "pick", Group: lifting, Title: "Can the crane take it, and how does it hang?", Words: "crane sling hook chart radius tilt choker", Answer: "use_pct", Beside: []string{"capacity_kg", "tilt_deg", "hook_over_m", "slings[0].tension_kn", "slings[1].tension_kn"},
		Begin: raw(`{"mass_kg":{"low":900,"likely":1000,"high":1100},"piece":{"length_m":6,"cog_m":2.6},"slings":[{"name":"butt","at_m":1,"length_m":3,"wll_kn":20,"hitch":"choker","choke_deg":130},{"name":"tip","at_m":4.5,"length_m":3.4,"wll_kn":20,"hitch":"choker","choke_deg":100}],"rigging_kg":150,"chart":[{"radius_m":8,"boom_m":24,"capacity_kg":3900},{"radius_m":10,"boom_m":24,"capacity_kg":3000},{"radius_m":12,"boom_m":24,"capacity_kg":2300}],"radius_m":9.2,"boom_m":24}`)},
	{Kind: "release", Group: lifting, Title: "What happens as it comes free on the hook?", Words: "crane hook preload release jump drop shock swing", Answer: "peak_kn", Beside: []string{"travel_m", "swing_m", "side_kn"},
		Begin: raw(`{"weight_kn":12,"hook_kn":9,"stiffness_kn_m":800}`)},
}

func raw(text string) json.RawMessage { return json.RawMessage(text) }

// All are the instruments, each with its fields and figures.
func All(ctx context.Context) ([]Instrument, error) {
	list := make([]Instrument, len(instruments))
	for i, one := range instruments {
		kind, err := calc.Find(one.Kind)
		if err != nil {
			return nil, fmt.Errorf("bench: %s: %w", one.Kind, err)
		}
		document, err := generic(one.Begin)
		if err != nil {
			return nil, fmt.Errorf("bench: %s: %w", one.Kind, err)
		}
		one.Fields, one.MakesJob = fieldsOf(kind.Request, document), intoJob[kind.Name] != nil
		answer, err := kind.Run(ctx, one.Begin)
		if err != nil {
			return nil, fmt.Errorf("bench: %s: %w", one.Kind, err)
		}
		written, err := json.Marshal(answer)
		if err != nil {
			return nil, err
		}
		figures, err := generic(written)
		if err != nil {
			return nil, err
		}
		one.Figures = figuresOf(figures)
		list[i] = one
	}
	return list, nil
}
