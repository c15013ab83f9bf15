package crane

import (
	"math"
	"slices"
)

// A ChartRow is one figure of a crane's chart.
type ChartRow struct {
	RadiusM    float64 `json:"radius_m" exclusiveMinimum:"0" maximum:"200"`
	BoomM      float64 `json:"boom_m" exclusiveMinimum:"0" maximum:"300"`
	CapacityKg float64 `json:"capacity_kg" exclusiveMinimum:"0" maximum:"3000000"`
}

// A Read is what the chart has from the read before it out to a radius.
type Read struct {
	RadiusM    float64 `json:"radius_m"`
	CapacityKg float64 `json:"capacity_kg"`
}

// Reads is what the chart has for this boom at every radius it names, from the nearest out,
// as capacity reads it: steps, each as far out as its radius.
func (p *Pick) Reads() []Read {
	radii := make([]float64, len(p.Chart))
	for i, row := range p.Chart {
		radii[i] = row.RadiusM
	}
	slices.Sort(radii)
	at, list := *p, []Read{}
	for _, at.RadiusM = range slices.Compact(radii) {
		if kg, ok := at.capacity(); ok {
			list = append(list, Read{at.RadiusM, kg})
		}
	}
	return list
}

// Farthest is how far out the share of the chart that the crew uses takes this load at the
// hook, kg, by what it reads, with nothing nearer that does not; 0: nowhere.
func (p *Pick) Farthest(reads []Read, hookKg float64) (m float64) {
	for _, read := range reads {
		if read.CapacityKg*p.share()/100 < hookKg {
			break
		}
		m = read.RadiusM
	}
	return m
}

// column is the boom of the chart that counts for this one, m: the shortest that is no shorter; infinite: none is.
func (p *Pick) column() float64 {
	boom := math.Inf(1)
	for _, row := range p.Chart {
		if row.BoomM >= p.BoomM {
			boom = min(boom, row.BoomM)
		}
	}
	return boom
}

// begins is the least radius that the chart has for a boom, m: nearer than that no load stands in it, for there the boom may
// fall back over the crane. Infinite: it has none.
func (p *Pick) begins(boom float64) float64 {
	least := math.Inf(1)
	for _, row := range p.Chart {
		if row.BoomM == boom {
			least = min(least, row.RadiusM)
		}
	}
	return least
}

// Begins is the least radius that the chart has for this boom, m; infinite: it has none.
func (p *Pick) Begins() float64 { return p.begins(p.column()) }

// capacity reads the chart; ok is false where it has no such lift.
func (p *Pick) capacity() (kg float64, ok bool) {
	boom := p.column()
	shorter := math.Inf(-1)
	for _, row := range p.Chart {
		if row.BoomM < boom {
			shorter = max(shorter, row.BoomM)
		}
	}
	read := func(column float64) (kg float64, ok bool) {
		radius := math.Inf(1)
		for _, row := range p.Chart {
			if row.BoomM != column || row.RadiusM < p.RadiusM || row.RadiusM > radius {
				continue
			}
			if row.RadiusM < radius || row.CapacityKg < kg { // written twice: the lesser
				radius, kg, ok = row.RadiusM, row.CapacityKg, true
			}
		}
		return kg, ok
	}
	if kg, ok = read(boom); !ok || p.RadiusM < p.begins(boom)*(1-1e-9) {
		return 0, false
	}
	if other, has := read(shorter); has {
		kg = min(kg, other)
	}
	return kg, true
}
