package policy

import "elkstay/core/job"

// A PowerDistance is how far all of a job keeps from a line up to a voltage.
type PowerDistance struct {
	UpToKv float64
	Metres float64
}

// PowerSource is where the distances come from.
const PowerSource = "OSHA 29 CFR 1926.1408 table A and 1910.333, ANSI Z133 (from memory)"

// PowerDistances are the least distances of wood, rope, people and machines from power lines,
// by voltage: 10, 15, 20, 25, 35 and 45 ft.
var PowerDistances = []PowerDistance{{50, 3.05}, {200, 4.57}, {350, 6.10}, {500, 7.62}, {750, 10.67}, {1000, 13.72}}

// PowerDistanceOf is what is kept from a target, m, and whether it is a power line at all. A
// voltage that nobody has said counts as the highest.
func PowerDistanceOf(t *job.Target) (metres float64, line bool) {
	if t.Kind != "power-line" {
		return 0, false
	}
	last := PowerDistances[len(PowerDistances)-1]
	if t.VoltageKv == nil || *t.VoltageKv > last.UpToKv {
		return last.Metres, true
	}
	for _, d := range PowerDistances {
		if *t.VoltageKv <= d.UpToKv {
			return d.Metres, true
		}
	}
	return last.Metres, true
}
