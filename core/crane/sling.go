package crane

import "math"

// A Sling runs from the piece to the hook.
type Sling struct {
	Name     string   `json:"name" minLength:"1" maxLength:"80"`
	AtM      float64  `json:"at_m" minimum:"0" maximum:"100" doc:"On the piece, from the butt, m"`
	LengthM  float64  `json:"length_m" exclusiveMinimum:"0" maximum:"100" doc:"To the hook, m"`
	WllKn    float64  `json:"wll_kn,omitempty" minimum:"0" maximum:"5000" doc:"Working load limit of one straight leg, kN; absent: not known yet, and not worked out as a question"`
	Hitch    string   `json:"hitch" enum:"vertical,choker,basket"`
	Item     string   `json:"item,omitempty" maxLength:"40" doc:"Id in the locker; empty: not from there"`
	ChokeDeg *float64 `json:"choke_deg,omitempty" minimum:"0" maximum:"180" doc:"Angle of the choke; a choker only; default over 120"`
}

// A SlingLoad is what one sling carries.
type SlingLoad struct {
	Name      string  `json:"name"`
	TensionKn float64 `json:"tension_kn"`
	AngleDeg  float64 `json:"angle_deg" doc:"From the piece's axis"`
	RatingKn  float64 `json:"rating_kn"`
	UsePct    float64 `json:"use_pct"`
}

// Rating is what the sling may carry as it is set: ASME B30.9 (from memory).
func (s Sling) Rating() float64 {
	rating := s.WllKn * HitchFactor(s.Hitch)
	if s.Hitch == Choker {
		rating *= s.chokeFactor()
	}
	return rating
}

// HitchFactor is what a sling carries in a hitch, over what one straight leg carries,
// with a choke of more than 120°: ASME B30.9 (from memory).
func HitchFactor(hitch string) float64 {
	switch hitch {
	case Basket:
		return 2
	case Choker:
		return 0.80
	}
	return 1
}

func (s Sling) chokeFactor() float64 {
	switch {
	case s.ChokeDeg == nil || *s.ChokeDeg > 120:
		return 1
	case *s.ChokeDeg >= 90:
		return 0.87
	case *s.ChokeDeg >= 60:
		return 0.74
	case *s.ChokeDeg >= 30:
		return 0.62
	}
	return 0.49
}

func (s Sling) load(tension, angle float64) SlingLoad {
	rating := s.Rating()
	return SlingLoad{s.Name, tension, angle, rating, 100 * tension / rating}
}

// angle is a sling's from the piece's axis.
func angle(s Sling, h hanging) float64 {
	return math.Atan2(h.hookY, math.Abs(h.hookX-s.AtM)) * 180 / math.Pi
}

// worstTwo takes every pair of slings alone and keeps the largest each one sees. A
// pair that cannot hold the piece by itself is passed over.
func (p *Pick) worstTwo() []SlingLoad {
	worst := make([]SlingLoad, len(p.Slings))
	for i, sling := range p.Slings {
		worst[i] = sling.load(0, 0)
	}
	for i := range p.Slings {
		for k := range i {
			pair := []Sling{p.Slings[k], p.Slings[i]}
			h, why := p.hang(pair)
			if why != "" || math.Abs(h.tilt) == math.Pi/2 || min(h.tensions[0], h.tensions[1]) < -1e-9*p.MassKg.High {
				continue // it turns over until one of them hangs slack
			}
			for n, index := range [2]int{k, i} {
				if h.tensions[n] > worst[index].TensionKn {
					worst[index] = pair[n].load(h.tensions[n], angle(pair[n], h))
				}
			}
		}
	}
	return worst
}
