// Package locker holds what a crew owns to hold pieces with: each item as its maker
// states it, what inspections found, and whether it may be planned with on a day.
//
// Lengths are in metres, masses in kilograms, forces in kilonewtons, days in the form
// 2026-03-31. The package has no clock: the day is always given.
package locker

import (
	"fmt"
	"slices"
	"time"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/intake"
)

// The kinds of gear.
const (
	Rope      = "rope"
	Block     = "block"
	Sling     = "sling"
	Device    = "device"
	Connector = "connector"
	Pulley    = "pulley"
	Winch     = "winch"
	Crane     = "crane"
	Vehicle   = "vehicle" // what pulls, carries and takes away
)

// Kinds lists the kinds of gear in the order in which a load meets them.
func Kinds() []string {
	return []string{Rope, Block, Sling, Connector, Pulley, Device, Winch, Crane, Vehicle}
}

// An Item is one thing in the locker.
type Item struct {
	ID     string `json:"id" minLength:"1" maxLength:"40"`
	Kind   string `json:"kind" enum:"rope,block,sling,device,connector,pulley,winch,crane,vehicle"`
	Name   string `json:"name" minLength:"1" maxLength:"80" doc:"What the crew calls it"`
	Serial string `json:"serial,omitempty" maxLength:"40" doc:"Number on the item"`
	gear.Rating
	DiameterM     *float64         `json:"diameter_m,omitempty" minimum:"0.001" maximum:"0.1" doc:"Diameter of the rope or sling itself, m"`
	LengthM       *float64         `json:"length_m,omitempty" exclusiveMinimum:"0" maximum:"1000" doc:"Length of a rope or a sling; of a crane its boom, of a vehicle its bed, m"`
	Elongation    []gear.Stretch   `json:"elongation,omitempty" maxItems:"20" doc:"Elongation table of a rope, both columns rising"`
	DynamicFactor *float64         `json:"dynamic_factor,omitempty" minimum:"1" maximum:"5" doc:"How much stiffer a rope is in a shock than in the maker's slow test"`
	Efficiency    *float64         `json:"efficiency,omitempty" minimum:"0.05" maximum:"1" doc:"Of a sheave: tension behind it over tension before it, for a half turn"`
	BendM         *float64         `json:"bend_m,omitempty" minimum:"0.005" maximum:"2" doc:"Diameter that a rope bends round: of sheave or bollard, m"`
	Friction      *float64         `json:"friction,omitempty" minimum:"0.02" maximum:"1" doc:"Coefficient of friction of rope on a lowering device"`
	Conditions    []string         `json:"conditions,omitempty" maxItems:"5" doc:"wet, wet-polyamide, aged, glazed, abraded"`
	RiggingKg     *float64         `json:"rigging_kg,omitempty" minimum:"0" maximum:"100000" doc:"What always hangs below a crane's boom tip, kg"`
	Chart         []crane.ChartRow `json:"chart,omitempty" maxItems:"2000" doc:"Load chart of a crane"`
	MassKg        *float64         `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"60000" doc:"Own mass of a vehicle, kg"`
	PayloadKg     *float64         `json:"payload_kg,omitempty" exclusiveMinimum:"0" maximum:"60000" doc:"What a vehicle may carry, kg"`
	VolumeM3      *float64         `json:"volume_m3,omitempty" exclusiveMinimum:"0" maximum:"150" doc:"Room of a vehicle's body, m³"`
	Grip          *float64         `json:"grip,omitempty" exclusiveMinimum:"0" maximum:"1.5" doc:"Friction of a vehicle's wheels on the ground"`
	WinchKn       *float64         `json:"winch_kn,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"What a vehicle's winch pulls, kN"`
	InService     string           `json:"in_service,omitempty" maxLength:"10" doc:"Day it went into service"`
	SetAside      *SetAside        `json:"set_aside,omitempty" doc:"Absent: in use"`
	Inspections   []Inspection     `json:"inspections,omitempty" maxItems:"500"`
	Note          string           `json:"note,omitempty" maxLength:"2000"`
}

// SetAside says that an item is not to be used, and why.
type SetAside struct {
	On      string `json:"on" minLength:"10" maxLength:"10" doc:"Since which day"`
	Why     string `json:"why" minLength:"3" maxLength:"400"`
	Retired bool   `json:"retired,omitempty" doc:"For good"`
}

// The results of an inspection.
const (
	Pass  = "pass"
	Watch = "watch" // passed, with something to keep an eye on
	Fail  = "fail"
)

// An Inspection is one look at an item.
type Inspection struct {
	On      string `json:"on" minLength:"10" maxLength:"10" doc:"Day of the inspection"`
	By      string `json:"by" minLength:"1" maxLength:"80" doc:"Who looked"`
	Result  string `json:"result" enum:"pass,watch,fail"`
	NextDue string `json:"next_due,omitempty" maxLength:"10" doc:"Day by which the next one is due"`
	Note    string `json:"note,omitempty" maxLength:"400"`
}

// fits lists the kinds that each of the maker's figures belongs to.
var fits = map[string][]string{
	"diameter_m": {Rope, Sling}, "length_m": {Rope, Sling, Winch, Crane, Vehicle}, "elongation": {Rope}, "dynamic_factor": {Rope},
	"efficiency": {Block, Pulley}, "bend_m": {Block, Pulley, Device, Winch}, "friction": {Device},
	"conditions": {Rope, Sling}, "rigging_kg": {Crane}, "chart": {Crane},
	"mass_kg": {Vehicle}, "payload_kg": {Vehicle}, "volume_m3": {Vehicle}, "grip": {Vehicle}, "winch_kn": {Vehicle},
	"marked_kn": {Rope, Block, Sling, Device, Connector, Pulley, Winch}, "breaking_kn": {Rope, Block, Sling, Device, Connector, Pulley, Winch},
}

// Fields lists the maker's figures that a kind of gear has.
func Fields(kind string) []string {
	list := []string{}
	for _, field := range allFields {
		if slices.Contains(fits[field], kind) {
			list = append(list, field)
		}
	}
	return list
}

// mostPerArea bounds the strength of any rope or sling, kN per mm² of its section as
// measured round it: fibres of the strongest kind break at 3.5 kN/mm² of solid fibre
// (from memory), and a rope is never solid.
const mostPerArea = 3.5

// Faults names what is wrong with an item at the given path, beyond the ranges of its
// fields: figures of another kind of gear, strengths that cannot be, dates that are none.
func (it *Item) Faults(path string) (faults intake.Faults) {
	given := map[string]bool{
		"diameter_m": it.DiameterM != nil, "length_m": it.LengthM != nil, "elongation": len(it.Elongation) > 0, "dynamic_factor": it.DynamicFactor != nil,
		"efficiency": it.Efficiency != nil, "bend_m": it.BendM != nil, "friction": it.Friction != nil, "conditions": len(it.Conditions) > 0,
		"rigging_kg": it.RiggingKg != nil, "chart": len(it.Chart) > 0, "mass_kg": it.MassKg != nil, "payload_kg": it.PayloadKg != nil, "volume_m3": it.VolumeM3 != nil,
		"grip": it.Grip != nil, "winch_kn": it.WinchKn != nil, "marked_kn": it.MarkedKn != nil, "breaking_kn": it.BreakingKn != nil,
	}
	own := Fields(it.Kind)
	for _, field := range allFields {
		if given[field] && !slices.Contains(own, field) {
			faults.Add(path+"."+field, nil, "nothing for a "+it.Kind, "a %s has no %s", it.Kind, field)
		}
	}
	if it.Kind == Rope && it.BreakingKn == nil {
		faults.Add(path+".breaking_kn", nil, "the maker's breaking strength, kN", "a rope needs its breaking strength: its elongation table is in per cent of it")
	}
	if it.MarkedKn != nil && it.BreakingKn != nil && *it.MarkedKn >= *it.BreakingKn {
		faults.Add(path+".marked_kn", *it.MarkedKn, fmt.Sprintf("less than %g kN", *it.BreakingKn),
			"the marked working load (%g kN) is not below the breaking strength (%g kN): are they swapped, or in two units?", *it.MarkedKn, *it.BreakingKn)
	}
	if it.DiameterM != nil && it.BreakingKn != nil {
		area := 3.14159 / 4 * *it.DiameterM * *it.DiameterM * 1e6
		if *it.BreakingKn > mostPerArea*area {
			faults.Add(path+".breaking_kn", *it.BreakingKn, fmt.Sprintf("at most %.4g kN for %.3g mm", mostPerArea*area, 1000**it.DiameterM),
				"%g kN on %.3g mm is stronger than any fibre: is one of the two in another unit?", *it.BreakingKn, 1000**it.DiameterM)
		}
	}
	if it.BreakingKn != nil && len(it.Elongation) > 0 {
		rope := gear.Rope{BreakingKn: *it.BreakingKn, Elongation: it.Elongation}
		faults.Join(rope.Faults(path))
	}
	rating := gear.RatingRequest{Rating: gear.Rating{MarkedKn: new(float64)}, Conditions: it.Conditions}
	faults.Join(rating.Faults(path))
	seen := map[[2]float64]bool{}
	for i, row := range it.Chart {
		key := [2]float64{row.RadiusM, row.BoomM}
		if seen[key] {
			faults.Add(fmt.Sprintf("%s.chart[%d]", path, i), row.RadiusM, "each radius once for each boom", "the chart has %g m with %g m of boom twice", row.RadiusM, row.BoomM)
		}
		seen[key] = true
	}
	return append(faults, it.dayFaults(path)...)
}

// allFields are the maker's figures, in the order in which they are asked for.
var allFields = []string{"marked_kn", "breaking_kn", "diameter_m", "length_m", "elongation", "dynamic_factor", "efficiency", "bend_m", "friction", "conditions", "rigging_kg", "chart", "mass_kg", "payload_kg", "volume_m3", "grip", "winch_kn"}

func (it *Item) dayFaults(path string) (faults intake.Faults) {
	day := func(field, text string) bool {
		if text == "" {
			return true
		}
		if !IsDay(text) {
			faults.Add(path+field, text, "a day such as 2026-03-31", "%q is no day of the calendar", text)
			return false
		}
		return true
	}
	day(".in_service", it.InService)
	if it.SetAside != nil {
		day(".set_aside.on", it.SetAside.On)
	}
	for i, look := range it.Inspections {
		at := fmt.Sprintf(".inspections[%d]", i)
		ok := day(at+".on", look.On)
		if i > 0 && it.Inspections[i-1].On == look.On && it.Inspections[i-1].By == look.By {
			faults.Add(path+at+".on", look.On, "one inspection a day by one person", "%s looked at it twice on %s: which one counts?", look.By, look.On)
		}
		if day(at+".next_due", look.NextDue) && ok && look.NextDue != "" && look.NextDue < look.On {
			faults.Add(path+at+".next_due", look.NextDue, "on or after "+look.On, "the next inspection is due (%s) before this one (%s)", look.NextDue, look.On)
		}
	}
	return faults
}

// IsDay reports whether a text is a day of the calendar in the form 2026-03-31.
func IsDay(text string) bool {
	_, err := time.Parse(time.DateOnly, text)
	return err == nil
}

// Read reads one item. The error is intake.Faults.
func Read(data []byte) (Item, error) {
	var item Item
	if err := intake.Decode(data, &item); err != nil {
		return Item{}, err
	}
	item.Settle()
	return item, item.Faults("body").Err()
}

// Settle puts an item's lists in order: inspections and chart as they are kept, the
// empty ones absent.
func (it *Item) Settle() {
	slices.SortStableFunc(it.Inspections, func(a, b Inspection) int {
		switch {
		case a.On < b.On:
			return -1
		case a.On > b.On:
			return 1
		}
		return 0
	})
	slices.SortFunc(it.Chart, func(a, b crane.ChartRow) int {
		switch {
		case a.BoomM != b.BoomM:
			return sign(a.BoomM - b.BoomM)
		default:
			return sign(a.RadiusM - b.RadiusM)
		}
	})
	if len(it.Inspections) == 0 {
		it.Inspections = nil
	}
	if len(it.Chart) == 0 {
		it.Chart = nil
	}
	if len(it.Elongation) == 0 {
		it.Elongation = nil
	}
	if len(it.Conditions) == 0 {
		it.Conditions = nil
	}
}

func sign(x float64) int {
	switch {
	case x < 0:
		return -1
	case x > 0:
		return 1
	}
	return 0
}
