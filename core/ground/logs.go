package ground

import (
	"fmt"
	"math"

	"elkstay/core/cut"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// What lifts a log.
const (
	liftsHand    = "by hand"
	liftsMachine = "by machine"
	liftsNeither = "by neither"
)

// Sawing by weight: logs come in steps of this, and none is shorter than a disc, m.
const (
	logStep  = 0.05
	leastLog = 0.3
	mostLogs = 4000 // of a job
)

// A SawCut is where the saw goes through a part, and what it does.
type SawCut struct {
	AtM   float64   `json:"at_m" doc:"From the butt"`
	EndM  float64   `json:"end_m" doc:"How long what lies there is before it"`
	Begin string    `json:"begin" enum:"top,bottom," doc:"The side in compression: first, and shallow; empty: not known"`
	Left  *cut.Part `json:"left,omitempty" doc:"Towards the butt"`
	Right *cut.Part `json:"right,omitempty" doc:"Towards the thin end"`
	Said  string    `json:"said"`
}

// whole is the density by which a member weighs as much as it does: its parts keep their shares.
func whole(m *space.Member) wood.Range {
	one := wood.Range{Low: 1, Likely: 1, High: 1}
	bare := m.Weigh(one, timber.Frustum).MassKg.Likely
	d := m.Kg / bare
	return wood.Range{Low: d, Likely: d, High: d}
}

// part saws one stem or limb; ends are the low and the high end of the piece's weight over the
// likely one.
func (g *Ground) part(m *space.Member, l *job.Logging, ends wood.Range) Part {
	p := Part{Title: m.Title, LengthM: m.Top(), Outline: make([][2]float64, len(m.Stations)), Logs: []Log{}, Cuts: []SawCut{}}
	for i, s := range m.Stations {
		p.Outline[i] = [2]float64{s.AtM, s.DiameterM}
	}
	density := whole(m)
	thick := thickTo(&m.Stem, *g.Settings.LeastM)
	solid := wood.Range{Low: 1, Likely: 1, High: 1}
	for at := 0.0; thick-at > shortest(l); {
		if g.sawn++; g.sawn > mostLogs {
			break
		}
		length, short := g.next(m, l, at, thick, ends.High, density)
		log := Log{FromM: at, ToM: at + length, LengthM: length, Short: short}
		log.DiameterM, _ = m.DiameterAt(at)
		log.ThinM, _ = m.DiameterAt(at + length)
		log.MassKg = ends.Times(m.WeighBetween(at, at+length, density, timber.Frustum).MassKg.Likely)
		log.VolumeM3 = m.WeighBetween(at, at+length, solid, timber.Frustum).MassKg.Likely
		log.Lifted = g.lifts(log.MassKg.High)
		p.Logs = append(p.Logs, log)
		at += length + *g.Settings.KerfM
	}
	return p
}

// shortest is how short a log may be: as wanted, or a disc of what is left.
func shortest(l *job.Logging) float64 {
	least := leastLog
	for _, length := range l.LengthsM {
		least = min(least, length)
	}
	return least - 1e-9
}

// lifts is what lifts a log of a mass.
func (g *Ground) lifts(kg float64) string {
	switch {
	case kg <= *g.Settings.HandKg:
		return liftsHand
	case g.Settings.MachineKg != nil && kg <= *g.Settings.MachineKg:
		return liftsMachine
	}
	return liftsNeither
}

// next is how long the next log is, from a place on; short: shorter than was wanted.
func (g *Ground) next(m *space.Member, l *job.Logging, at, thick, high float64, density wood.Range) (length float64, short bool) {
	left := thick - at
	longest := 0.0
	for _, wanted := range l.LengthsM {
		longest = max(longest, wanted)
		if l.By == job.SawnByLength && wanted <= left+1e-9 {
			return min(wanted, left), false
		}
	}
	if l.By == job.SawnByLength {
		return left, true
	}
	most := math.Inf(1)
	switch l.By {
	case job.SawnByHand:
		most = *g.Settings.HandKg
	case job.SawnByMachine:
		if g.Settings.MachineKg != nil {
			most = *g.Settings.MachineKg
		} else {
			most = *g.Settings.HandKg
		}
	case job.SawnByTruck:
		longest = g.longestBed()
		most = g.heaviestLoad()
	}
	fits := func(length float64) bool {
		return high*m.WeighBetween(at, at+length, density, timber.Frustum).MassKg.Likely <= most
	}
	whole := min(longest, left)
	if fits(whole) {
		return whole, whole < longest && whole < left
	}
	// The longest that is light enough: weight grows with length.
	low, up := 0.0, whole
	for range 40 {
		if middle := (low + up) / 2; fits(middle) {
			low = middle
		} else {
			up = middle
		}
	}
	length = math.Floor(low/logStep+1e-9) * logStep
	return min(max(length, leastLog), left), false
}

// longestBed is the longest log that every vehicle for logs takes, m.
func (g *Ground) longestBed() float64 {
	bed := math.Inf(1)
	for i := range g.Settings.Trucks {
		if t := &g.Settings.Trucks[i]; t.Carries(job.TakesLogs) && t.BedM != nil {
			bed = min(bed, *t.BedM)
		}
	}
	if math.IsInf(bed, 1) {
		return 2.4
	}
	return bed
}

// heaviestLoad is the lightest payload of the vehicles for logs, kg.
func (g *Ground) heaviestLoad() float64 {
	most := math.Inf(1)
	for i := range g.Settings.Trucks {
		if t := &g.Settings.Trucks[i]; t.Carries(job.TakesLogs) && t.PayloadKg != nil {
			most = min(most, *t.PayloadKg)
		}
	}
	return most
}

// thickTo is how far along it is as thick as that, m: beyond, it goes to chips.
func thickTo(s *timber.Stem, least float64) float64 {
	for i := len(s.Stations) - 1; i > 0; i-- {
		a, b := s.Stations[i-1], s.Stations[i]
		if b.DiameterM >= least {
			return b.AtM
		}
		if a.DiameterM >= least {
			return a.AtM + (b.AtM-a.AtM)*(a.DiameterM-least)/(a.DiameterM-b.DiameterM)
		}
	}
	return 0
}

// saw is how the saw goes through a part as it lies, from its thin end on: what is off is gone.
func (g *Ground) saw(m *space.Member, p *Part, l *job.Logging, ends wood.Range, system units.System) []SawCut {
	cuts := []SawCut{}
	density := whole(m)
	end, moved := m.Top(), false
	for i := len(p.Logs) - 1; i >= 0; i-- {
		at := p.Logs[i].ToM
		if at < end-1e-6 {
			c := SawCut{AtM: at, EndM: end, Said: fmt.Sprintf("At %s: it has moved by then. Look again what carries it.", units.Print(units.Height, system, at))}
			if !moved {
				c = sawn(m, l, at, end, density.Likely*ends.High, system)
				moved = len(l.SupportsM) == 2 && (c.Left == nil || c.Left.Does != cut.Stays)
			}
			cuts = append(cuts, c)
		}
		end = at
	}
	return cuts
}

// sawn is one cut through what is left of a part, from its butt to end; a whole part counts at the
// heavy end of its weight.
func sawn(m *space.Member, l *job.Logging, at, end, density float64, system units.System) SawCut {
	c := SawCut{AtM: at, EndM: end}
	height := func(v float64) string { return units.Print(units.Height, system, v) }
	switch {
	case l.Flat:
		c.Said = fmt.Sprintf("At %s it lies on the ground all along: from the top until the saw is nearly through, then roll it and finish from the other side.", height(at))
		return c
	case len(l.SupportsM) < 2:
		c.Said = fmt.Sprintf("At %s: say what carries it and this says which side is pressed.", height(at))
		return c
	}
	b := cut.Bind{Wood: wood.Wood{Density: &wood.Range{Low: density, Likely: density, High: density}}, Stem: upTo(&m.Stem, end), SupportsM: l.SupportsM, CutAtM: at}
	if faults := b.Faults("body"); len(faults) > 0 {
		c.Said = fmt.Sprintf("At %s: %s. Look again what carries it.", height(at), faults[0].Message)
		return c
	}
	out := b.Solve()
	c.Begin, c.Left, c.Right = out.FirstCut, &out.Left, &out.Right
	does := func(p *cut.Part, which string) string {
		words := map[string]string{cut.Stays: "stays", cut.Tips: "tips", cut.EitherWay: "goes either way", cut.Drops: "drops"}[p.Does]
		return fmt.Sprintf("the %s, %s, %s", which, units.Print(units.Mass, system, p.MassKg), words)
	}
	c.Said = fmt.Sprintf("At %s begin at the %s, shallow, then from the %s: %s; %s.", height(at), out.FirstCut, out.LastCut, does(&out.Left, "butt"), does(&out.Right, "end"))
	return c
}

// upTo is a stem as far as a place.
func upTo(s *timber.Stem, end float64) timber.Stem {
	short := timber.Stem{}
	for _, one := range s.Stations {
		if one.AtM < end-1e-9 {
			short.Stations = append(short.Stations, one)
		}
	}
	outside, cavity := s.DiameterAt(end)
	short.Stations = append(short.Stations, timber.Station{AtM: end, DiameterM: outside, CavityM: cavity})
	return short
}
