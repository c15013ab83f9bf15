// Package haul answers what it takes to move a load along: pulley systems (mechanical
// advantage with losses, the tension of every leg, the load on every anchor), a sideways
// pull on a tight line, and a log skidded over the ground.
//
// The model of a pulley system is that of the textbooks: legs parallel, one tension
// along a rope but for the loss at each pulley it passes, forces in balance on the
// load and on every hauled end that carries a pulley. While hauling, the tension
// falls by the pulley's efficiency at each pass, counted from the hauled end towards
// the dead end. Weights of rope and pulleys, knots and stretch are left out.
//
// A sideways pull ends where Hooke's law and the balance at the middle meet. A skidded
// log obeys Coulomb's friction; with its front lifted, the line stands at the angle at
// which forces and moments balance.
//
// Forces are in kilonewtons, lengths in metres, angles in degrees. The pure functions
// take what passed its Faults and return no errors.
package haul

import (
	"fmt"
	"slices"
	"strings"

	"elkstay/core/intake"
	"elkstay/core/working"
)

// A Pulley hangs on the load, on an anchor, or on the hauled end of a rope.
type Pulley struct {
	ID         string  `json:"id" minLength:"1" maxLength:"40"`
	On         string  `json:"on" maxLength:"50" doc:"load, anchor, or end:ROPE"`
	Efficiency float64 `json:"efficiency" minimum:"0.05" maximum:"1" doc:"Tension behind over tension before, for a half turn"`
}

// A Rope runs from its dead end to its hauled end.
type Rope struct {
	ID   string   `json:"id" minLength:"1" maxLength:"40"`
	Path []string `json:"path" minItems:"2" maxItems:"60" doc:"Dead end (load, anchor, or a pulley's becket), pulleys, and last hand or free"`
}

// A System is a whole pulley system.
type System struct {
	LoadKn  float64  `json:"load_kn" exclusiveMinimum:"0" maximum:"5000" doc:"Force that moves the load, kN"`
	Pulleys []Pulley `json:"pulleys" maxItems:"60"`
	Ropes   []Rope   `json:"ropes" minItems:"1" maxItems:"20"`
}

// A Leg is one straight part of a rope.
type Leg struct {
	Rope      string  `json:"rope"`
	From      string  `json:"from"`
	To        string  `json:"to"`
	TensionKn float64 `json:"tension_kn"`
}

// An AnchorLoad is what one anchor holds: a pulley's, or a rope's dead end
// ("anchor:ROPE").
type AnchorLoad struct {
	ID     string  `json:"id"`
	LoadKn float64 `json:"load_kn"`
}

// An Advantage is what a system gives.
type Advantage struct {
	Ideal       float64      `json:"ideal" doc:"Load over hand without losses"`
	Actual      float64      `json:"actual" doc:"Load over hand with losses"`
	HandKn      float64      `json:"hand_kn"`
	TravelRatio float64      `json:"travel_ratio" doc:"Rope hauled over travel of the load"`
	Legs        []Leg        `json:"legs" nullable:"false"`
	Anchors     []AnchorLoad `json:"anchors" nullable:"false"`
}

const (
	onLoad   = "load"
	onAnchor = "anchor"
	endHand  = "hand"
	endFree  = "free"
	endOf    = "end:"
)

// Faults names what cannot work at the given path of the request.
func (s *System) Faults(path string) (faults intake.Faults) {
	pulleys, ropes := map[string]int{}, map[string]int{}
	for i, rope := range s.Ropes {
		if _, twice := ropes[rope.ID]; twice {
			faults.Add(fmt.Sprintf("%s.ropes[%d].id", path, i), rope.ID, "a name of its own", "there are two ropes %q", rope.ID)
		}
		ropes[rope.ID] = i
	}
	for i, pulley := range s.Pulleys {
		at := fmt.Sprintf("%s.pulleys[%d]", path, i)
		if _, twice := pulleys[pulley.ID]; twice || pulley.ID == onLoad || pulley.ID == onAnchor || pulley.ID == endHand || pulley.ID == endFree {
			faults.Add(at+".id", pulley.ID, "a name of its own, not load, anchor, hand or free", "the pulley's name %q is taken", pulley.ID)
		}
		pulleys[pulley.ID] = i
		if end, isEnd := strings.CutPrefix(pulley.On, endOf); isEnd {
			if r, known := ropes[end]; !known || last(s.Ropes[r].Path) != endFree {
				faults.Add(at+".on", pulley.On, "the free end of a rope", "pulley %s sits on the end of %q, which is no rope with a free end", pulley.ID, end)
			}
		} else if pulley.On != onLoad && pulley.On != onAnchor {
			faults.Add(at+".on", pulley.On, "load, anchor, or end:ROPE", "pulley %s sits on %q", pulley.ID, pulley.On)
		}
	}
	hands := 0
	for i, rope := range s.Ropes {
		at := fmt.Sprintf("%s.ropes[%d].path", path, i)
		for k, stop := range rope.Path {
			_, isPulley := pulleys[stop]
			place := fmt.Sprintf("%s[%d]", at, k)
			switch {
			case k == len(rope.Path)-1:
				if stop != endHand && stop != endFree {
					faults.Add(place, stop, "hand or free", "rope %s ends in %q", rope.ID, stop)
				}
			case k == 0:
				if stop != onLoad && stop != onAnchor && !isPulley {
					faults.Add(place, stop, "load, anchor or a pulley", "rope %s begins at %q, which is nothing here", rope.ID, stop)
				}
			case !isPulley:
				faults.Add(place, stop, "a pulley", "rope %s passes %q, which is no pulley here", rope.ID, stop)
			case k > 1 && rope.Path[k-1] == stop:
				faults.Add(place, stop, "another pulley than the one before", "rope %s passes %s twice running", rope.ID, stop)
			}
		}
		if last(rope.Path) == endHand {
			hands++
		}
	}
	if hands != 1 {
		faults.Add(path+".ropes", hands, "one rope that ends in hand", "%d ropes end in hand; one must", hands)
	}
	if len(faults) > 0 {
		return faults
	}
	heads, stuck := s.hauled(make([]float64, len(s.Ropes)), false)
	if stuck >= 0 {
		faults.Add(fmt.Sprintf("%s.ropes[%d]", path, stuck), s.Ropes[stuck].ID, "a free end that carries a pulley of another rope, without a loop",
			"the free end of rope %s has nothing on it, or hangs on itself", s.Ropes[stuck].ID)
	} else if s.onLoad(heads, false) <= 0 {
		faults.Add(path+".ropes", len(s.Ropes), "a rope to the load", "no rope pulls on the load")
	}
	return faults
}

func last(path []string) string { return path[len(path)-1] }

func (s *System) pulley(id string) *Pulley {
	for i := range s.Pulleys {
		if s.Pulleys[i].ID == id {
			return &s.Pulleys[i]
		}
	}
	return nil
}

// host is what a pulley, or a dead end named by id, pulls on.
func (s *System) host(id string) string {
	if p := s.pulley(id); p != nil {
		return p.On
	}
	return id
}

// along visits the legs of a rope from its hauled end, where the tension is head, to
// its dead end.
func (s *System) along(rope *Rope, head float64, ideal bool, visit func(leg int, tension float64)) {
	tension := head
	for leg := len(rope.Path) - 2; leg >= 0; leg-- {
		visit(leg, tension)
		if leg > 0 && !ideal {
			tension *= s.pulley(rope.Path[leg]).Efficiency
		}
	}
}

// pullOn sums what the legs of a rope pull on a host.
func (s *System) pullOn(host string, rope *Rope, head float64, ideal bool) (sum float64) {
	s.along(rope, head, ideal, func(leg int, tension float64) {
		for _, end := range rope.Path[leg : leg+2] {
			if s.host(end) == host {
				sum += tension
			}
		}
	})
	return sum
}

// hauled works out the tension at every rope's hauled end for a hand of 1, into
// heads. stuck is a rope whose free end nothing pulls, or which hangs on itself; −1
// when all is well.
func (s *System) hauled(heads []float64, ideal bool) (_ []float64, stuck int) {
	for i := range s.Ropes {
		heads[i] = -1
		if last(s.Ropes[i].Path) == endHand {
			heads[i] = 1
		}
	}
	for range s.Ropes {
		for i := range s.Ropes {
			if heads[i] >= 0 {
				continue
			}
			host, sum, ready := endOf+s.Ropes[i].ID, 0.0, true
			for k := range s.Ropes {
				touches := s.pullOn(host, &s.Ropes[k], 1, true) > 0
				if touches && heads[k] < 0 {
					ready = false
				} else if touches {
					sum += s.pullOn(host, &s.Ropes[k], heads[k], ideal)
				}
			}
			if ready && sum > 0 {
				heads[i] = sum
			}
		}
	}
	for i := range heads {
		if heads[i] < 0 {
			return heads, i
		}
	}
	return heads, -1
}

func (s *System) onLoad(heads []float64, ideal bool) (sum float64) {
	for i := range s.Ropes {
		sum += s.pullOn(onLoad, &s.Ropes[i], heads[i], ideal)
	}
	return sum
}

// Simple is the simple system of so many parts, 3 for 3:1, whose last turn hangs on the load:
// hand and anchor pull the same way. One part is a straight line.
func Simple(parts int, efficiency float64) System {
	// Turns stand on load and anchor by turns, the last on the load.
	stops := []string{endHand}
	s := System{LoadKn: 1, Pulleys: []Pulley{}}
	for i := range parts - 1 {
		one := Pulley{ID: fmt.Sprintf("p%d", i+1), On: onLoad, Efficiency: efficiency}
		if i%2 == 1 {
			one.On = onAnchor
		}
		s.Pulleys = append(s.Pulleys, one)
		stops = append(stops, one.ID)
	}
	if parts%2 == 0 {
		stops = append(stops, onAnchor)
	} else {
		stops = append(stops, onLoad)
	}
	slices.Reverse(stops)
	s.Ropes = []Rope{{ID: "r", Path: stops}}
	return s
}

// Solve works out a system without Faults.
func (s *System) Solve() Advantage {
	heads := make([]float64, len(s.Ropes))
	s.hauled(heads, true)
	ideal := s.onLoad(heads, true)
	s.hauled(heads, false)
	actual := s.onLoad(heads, false)
	hand := s.LoadKn / actual
	a := Advantage{Ideal: ideal, Actual: actual, HandKn: hand, TravelRatio: ideal, Legs: []Leg{}, Anchors: []AnchorLoad{}}
	for i := range s.Ropes {
		rope := &s.Ropes[i]
		legs := make([]Leg, len(rope.Path)-1)
		s.along(rope, heads[i]*hand, false, func(leg int, tension float64) {
			legs[leg] = Leg{rope.ID, rope.Path[leg], rope.Path[leg+1], tension}
		})
		a.Legs = append(a.Legs, legs...)
		if rope.Path[0] == onAnchor {
			a.Anchors = append(a.Anchors, AnchorLoad{onAnchor + ":" + rope.ID, legs[0].TensionKn})
		}
	}
	for _, pulley := range s.Pulleys {
		if pulley.On != onAnchor {
			continue
		}
		load := 0.0
		for _, leg := range a.Legs {
			if leg.From == pulley.ID {
				load += leg.TensionKn
			}
			if leg.To == pulley.ID {
				load += leg.TensionKn
			}
		}
		a.Anchors = append(a.Anchors, AnchorLoad{pulley.ID, load})
	}
	return a
}

// Working writes the sum behind an advantage.
func (s *System) Working(a Advantage) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const statics = "statics: textbook pulley systems, legs parallel"
	for i, leg := range a.Legs {
		sheet.Add(fmt.Sprintf("t%d", i+1), fmt.Sprintf("rope %s, %s to %s, for a hand of 1", leg.Rope, leg.From, leg.To), "the tension before it, less the loss of the pulley passed", leg.TensionKn/a.HandKn, "", statics)
	}
	sheet.Add("MA", "ideal advantage", "pull on the load for a hand of 1, no losses", a.Ideal, "", statics)
	sheet.Add("MA′", "actual advantage", "pull on the load for a hand of 1, losses counted", a.Actual, "", statics)
	sheet.Add("F", "hand", fmt.Sprintf("load/MA′ = %s/%s", n(s.LoadKn), n(a.Actual)), a.HandKn, "kN", statics)
	for _, anchor := range a.Anchors {
		sheet.Add(anchor.ID, "load on this anchor", "sum of its legs", anchor.LoadKn, "kN", statics)
	}
	return sheet.Steps()
}

// Cautions returns what must stand beside an advantage.
func (s *System) Cautions(a Advantage) []string {
	cautions := []string{"Starting and holding differ from hauling: the figures are those while the rope is hauled in. What holds the load when you let go must be a catch of its own."}
	for _, pulley := range s.Pulleys {
		used := false
		for _, leg := range a.Legs {
			used = used || leg.From == pulley.ID || leg.To == pulley.ID
		}
		if !used {
			cautions = append(cautions, fmt.Sprintf("No rope passes pulley %s.", pulley.ID))
		}
	}
	for _, anchor := range a.Anchors {
		if anchor.LoadKn > s.LoadKn {
			cautions = append(cautions, fmt.Sprintf("Anchor %s holds more than the load itself: %.3g kN.", anchor.ID, anchor.LoadKn))
		}
	}
	return cautions
}
