package job

import (
	"fmt"

	"elkstay/core/gear"
	"elkstay/core/intake"
)

// The things a block, a redirect or a tie-in can sit on.
const (
	OnStem   = "stem"
	OnLimb   = "limb"
	OnAnchor = "anchor"
)

// A Place is where gear sits: on the stem, on a limb, on something else on the site.
type Place struct {
	On     string  `json:"on" enum:"stem,limb,anchor"`
	Tree   string  `json:"tree,omitempty" maxLength:"40" doc:"Id of the tree, on a stem or a limb; empty: the one the pick is of"`
	Limb   string  `json:"limb,omitempty" maxLength:"40" doc:"Id of the limb, when on a limb"`
	Anchor string  `json:"anchor,omitempty" maxLength:"40" doc:"Id of the anchor or other tree, when on one"`
	AtM    float64 `json:"at_m" minimum:"0" maximum:"120" doc:"Height, or distance along the limb, m"`
}

// A Rig is one way of holding pieces: the line's way from the tie to the hands.
type Rig struct {
	ID                 string          `json:"id" minLength:"1" maxLength:"40"`
	Name               string          `json:"name" minLength:"1" maxLength:"80"`
	Rope               *gear.NamedRope `json:"rope,omitempty"`
	RopeLengthM        *float64        `json:"rope_length_m,omitempty" exclusiveMinimum:"0" maximum:"1000" doc:"Length of the rope, m"`
	Tie                Tie             `json:"tie"`
	SlackM             *float64        `json:"slack_m,omitempty" minimum:"0" maximum:"20" doc:"Slack between tie and block, m"`
	Block              Block           `json:"block"`
	Sling              Sling           `json:"sling"`
	Connector          *Connector      `json:"connector,omitempty" doc:"Between block and sling, when there is one"`
	Redirects          []Redirect      `json:"redirects" nullable:"false" maxItems:"8" doc:"Turns between block and device, in the line's order"`
	Device             Device          `json:"device"`
	Hands              Hands           `json:"hands"`
	Catch              Catch           `json:"catch"`
	Second             *SecondLine     `json:"second,omitempty" doc:"The other line, when a piece is moved between two points"`
	AnchorStiffnessKnM *float64        `json:"anchor_stiffness_kn_m,omitempty" minimum:"10" maximum:"1000000" doc:"Stiffness of the block's anchor, kN/m; absent: rigid"`
	EnergyLostPct      *float64        `json:"energy_lost_pct,omitempty" minimum:"0" maximum:"90" doc:"Energy of the fall taken as lost, per cent"`
}

// A Tie is what holds the piece: a knot in the line, or a sling of its own.
type Tie struct {
	Name   string   `json:"name,omitempty" maxLength:"80" doc:"A sling on the piece, when there is one"`
	Hitch  string   `json:"hitch,omitempty" enum:"choker,basket,vertical" doc:"Of a sling on the piece; default choker"`
	Basket *float64 `json:"basket_deg,omitempty" minimum:"0" maximum:"120" doc:"Angle between the legs of a basket; absent: the widest that slings are rated for, 120°"`
	Knot   string   `json:"knot,omitempty" enum:"splice,sewn-eye,figure-eight,running-bowline,bowline,cow-hitch,timber-hitch,clove-hitch,half-hitches" doc:"Default running-bowline"`
	AboveM *float64 `json:"above_cut_m,omitempty" minimum:"0" maximum:"50" doc:"Above the cut, m; a pick may say otherwise"`
	Item   string   `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	gear.Rating
}

// A Block is the block the line runs over.
type Block struct {
	Name       string   `json:"name,omitempty" maxLength:"80"`
	Place      *Place   `json:"place,omitempty" doc:"Where it stays; absent: it moves down the stem with the cuts"`
	BelowCutM  *float64 `json:"below_cut_m,omitempty" minimum:"0" maximum:"50" doc:"Below the cut when it moves with it, m"`
	Efficiency *float64 `json:"efficiency,omitempty" minimum:"0.05" maximum:"1" doc:"Tension behind the block over tension before it, for a half turn"`
	// A fork, a ring, a turning hitch or a friction device aloft in place of a pulley.
	Friction *float64 `json:"friction,omitempty" minimum:"0.02" maximum:"1" doc:"Of rope on what turns it, where that is no pulley; in place of an efficiency"`
	Turns    *float64 `json:"turns,omitempty" minimum:"0" maximum:"6" doc:"Full turns round it besides the bend of its way; default none"`
	BendM    *float64 `json:"bend_m,omitempty" minimum:"0.005" maximum:"2" doc:"Diameter that the rope bends round, m"`
	Item     string   `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	gear.Rating
}

// A Sling holds the block to the tree.
type Sling struct {
	Name       string   `json:"name,omitempty" maxLength:"80"`
	Hitch      string   `json:"hitch,omitempty" enum:"choker,basket,vertical" doc:"Default choker"`
	Basket     *float64 `json:"basket_deg,omitempty" minimum:"0" maximum:"120" doc:"Angle between the legs of a basket; absent: the widest that slings are rated for, 120°"`
	Conditions []string `json:"conditions,omitempty" maxItems:"5" doc:"wet, wet-polyamide, aged, glazed, abraded"`
	Item       string   `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	gear.Rating
}

// A Connector joins block and sling.
type Connector struct {
	Name string `json:"name,omitempty" maxLength:"80"`
	Item string `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	gear.Rating
}

// A Redirect is a turn of the line between block and device: a pulley, or a natural
// fork.
type Redirect struct {
	Name       string   `json:"name" minLength:"1" maxLength:"80"`
	Place      Place    `json:"place"`
	Efficiency *float64 `json:"efficiency,omitempty" minimum:"0.05" maximum:"1" doc:"Of a pulley; or friction, one of the two"`
	Friction   *float64 `json:"friction,omitempty" minimum:"0" maximum:"1.5" doc:"Of rope in a fork or a ring"`
	BendM      *float64 `json:"bend_m,omitempty" minimum:"0.005" maximum:"2" doc:"Diameter that the rope bends round, m"`
	Item       string   `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	gear.Rating
}

// A Device is the lowering device.
type Device struct {
	Name     string   `json:"name,omitempty" maxLength:"80"`
	None     bool     `json:"none,omitempty" doc:"There is none: hands hold the line as it comes from aloft"`
	AtM      *float64 `json:"at_m,omitempty" minimum:"0" maximum:"20" doc:"Height of the device on the stem, m"`
	Place    *Place   `json:"place,omitempty" doc:"Where it sits when not on the stem of this tree"`
	Wraps    *float64 `json:"wraps,omitempty" minimum:"0" maximum:"12" doc:"Turns on the device"`
	Friction *float64 `json:"friction,omitempty" minimum:"0.02" maximum:"1" doc:"Coefficient of friction of rope on device"`
	BendM    *float64 `json:"bend_m,omitempty" minimum:"0.005" maximum:"2" doc:"Diameter that the rope bends round, m"`
	Item     string   `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	gear.Rating
}

// Hands are who or what holds the line behind the device.
type Hands struct {
	By   string `json:"by,omitempty" enum:"hand,winch" doc:"Default hand"`
	Name string `json:"name,omitempty" maxLength:"80"`
	Item string `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	gear.Rating
}

// A SecondLine is the other line of two: its block, where the piece goes to.
type SecondLine struct {
	Name  string `json:"name,omitempty" maxLength:"80"`
	Place Place  `json:"place"`
	Item  string `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	Rig   string `json:"rig,omitempty" maxLength:"40" doc:"Id of the rig whose rope, sling, device and hands hold it; empty: nobody has said"`
	gear.Rating
}

// The ways of catching a piece.
const (
	Locked  = "locked" // tied off: no rope runs
	ByWraps = "wraps"  // the turns and the hand give the hold
	ByHold  = "hold"   // the hold is known
	ByRun   = "run"    // the run is called, the hold follows
)

// A Catch is what the ground crew does with the line.
type Catch struct {
	How    string   `json:"how,omitempty" enum:"locked,wraps,hold,run" doc:"How the piece is caught; default wraps"`
	HandKn *float64 `json:"hand_kn,omitempty" minimum:"0.001" maximum:"5" doc:"What the hand on the line pulls, kN"`
	HoldKn *float64 `json:"hold_kn,omitempty" minimum:"0" maximum:"500" doc:"Tension on the lead at which rope runs, kN"`
	RunM   *float64 `json:"run_m,omitempty" minimum:"0" maximum:"100" doc:"How far the rope is let run, m"`
}

// rigFaults names what contradicts itself in the rigs.
func (j *Job) rigFaults() (faults intake.Faults) {
	for i := range j.Rigs {
		r := &j.Rigs[i]
		at := fmt.Sprintf("body.rigs[%d]", i)
		if r.Rope != nil {
			faults.Join(r.Rope.Faults(at + ".rope"))
		}
		if r.Block.Friction != nil && r.Block.Efficiency != nil {
			faults.Add(at+".block.efficiency", *r.Block.Efficiency, "an efficiency (a pulley) or a friction (a fork, a ring), one of the two",
				"the block of %s has an efficiency and a friction", r.Name)
		}
		if r.Block.Turns != nil && *r.Block.Turns > 0 && r.Block.Friction == nil && r.Block.Item == "" {
			faults.Add(at+".block.turns", *r.Block.Turns, "none round a pulley", "the rope takes %g turns round the block of %s, which has no friction", *r.Block.Turns, r.Name)
		}
		for k := range r.Redirects {
			if d := &r.Redirects[k]; (d.Efficiency == nil) == (d.Friction == nil) {
				faults.Add(fmt.Sprintf("%s.redirects[%d].efficiency", at, k), d.Efficiency, "an efficiency (a pulley) or a friction (a fork, a ring), one of the two",
					"%s has neither an efficiency nor a friction, or both", d.Name)
			}
		}
	}
	return faults
}
