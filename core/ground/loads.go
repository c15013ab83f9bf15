package ground

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"elkstay/core/job"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// Loads is how a vehicle takes the wood away, as if it took all of what it carries.
type Loads struct {
	ID          string   `json:"id"`
	Name        string   `json:"name"`
	Logs        *int     `json:"logs,omitempty" doc:"Loads of logs; absent: it takes none, one is heavier than it may carry, or neither payload nor room is known"`
	LogsBy      string   `json:"logs_by" enum:"weight,room," doc:"What fills it first"`
	Chips       *int     `json:"chips,omitempty" doc:"Loads of chips, likewise"`
	ChipsBy     string   `json:"chips_by" enum:"weight,room,"`
	LogsLeft    *int     `json:"logs_left,omitempty" doc:"Loads of logs still to go, what has gone taken off"`
	ChipsLeft   *int     `json:"chips_left,omitempty"`
	GoneKg      float64  `json:"gone_kg" doc:"What it has taken"`
	ChipsLoadKg *float64 `json:"chips_load_kg,omitempty" doc:"What its room of chips weighs"`
	Said        string   `json:"said"`
	Cautions    []string `json:"cautions" nullable:"false"`
}

// fills is how many loads a mass and a volume make, and what fills them.
func fills(kg, m3 float64, t *job.Truck) (loads *int, by string) {
	if t.PayloadKg == nil && t.VolumeM3 == nil {
		return nil, ""
	}
	weight, room := 0.0, 0.0
	if t.PayloadKg != nil {
		weight = kg / *t.PayloadKg
	}
	if t.VolumeM3 != nil {
		room = m3 / *t.VolumeM3
	}
	n := int(math.Ceil(max(weight, room) - 1e-9))
	if weight >= room {
		return &n, "weight"
	}
	return &n, "room"
}

// logsToGo are the weights of all logs that do not stay, the heaviest first, kg.
func (g *Ground) logsToGo() (list []wood.Range) {
	for i := range g.Pieces {
		if g.Pieces[i].Logging.Kept {
			continue
		}
		for k := range g.Pieces[i].Parts {
			for _, log := range g.Pieces[i].Parts[k].Logs {
				list = append(list, log.MassKg)
			}
		}
	}
	slices.SortFunc(list, func(a, b wood.Range) int { return cmp.Compare(b.High, a.High) })
	return list
}

// plannedOver is by how much more than was weighed what has gone may have been planned at (common practice, no source).
const plannedOver = 1.05

// without takes off what has gone, kg: nobody has said which logs that were, so the lightest, as they likely weigh.
func without(logs []wood.Range, goneKg float64) []wood.Range {
	goneKg *= plannedOver
	for n := len(logs); n > 0; n-- {
		if goneKg -= logs[n-1].Likely; goneKg < 0 {
			return logs[:n]
		}
	}
	return nil
}

// packed is how many loads logs make that are not sawn up for it, the heaviest first, kg: each goes onto the first load that
// still takes it, which is never more than two ninths over the fewest (first fit decreasing; Johnson 1973, from memory).
func packed(logs []wood.Range, payloadKg float64) int {
	var loads []float64
	for _, log := range logs {
		at := slices.IndexFunc(loads, func(kg float64) bool { return kg+log.High <= payloadKg*(1+1e-9) })
		if at < 0 {
			at, loads = len(loads), append(loads, 0)
		}
		loads[at] += log.High
	}
	return len(loads)
}

// loaded is a number of loads in words: where half of what bounds them is not known, they may be more.
func loaded(t *job.Truck, n int, what, by string) string {
	least := ""
	if t.PayloadKg == nil || t.VolumeM3 == nil {
		least = "at least "
	}
	return fmt.Sprintf("%s%s of %s, full by %s", least, counted(n, "load"), what, by)
}

// loads works out one vehicle: what has to go at the heavy end of its weight.
func (g *Ground) loads(t *job.Truck, system units.System) Loads {
	out := Loads{ID: t.ID, Name: t.Name, Cautions: []string{}}
	for _, load := range g.Settings.Gone {
		if load.Truck == t.ID {
			out.GoneKg += load.Kg
		}
	}
	a := &g.Away
	left := func(kg, gone float64) float64 { return max(0, kg-gone) / math.Max(kg, 1e-9) }
	mass := func(kg float64) string { return units.Print(units.Mass, system, kg) }
	words := ""
	if t.Carries(job.TakesLogs) {
		share := left(a.LogsKg.High, a.GoneLogs)
		out.Logs, out.LogsBy = fills(a.LogsKg.High, a.StackedM3, t)
		out.LogsLeft, _ = fills(share*a.LogsKg.High, share*a.StackedM3, t)
		logs := g.logsToGo()
		if t.PayloadKg != nil && len(logs) > 0 && logs[0].High > *t.PayloadKg {
			out.Logs, out.LogsLeft, out.LogsBy = nil, nil, ""
			out.Cautions = append(out.Cautions, fmt.Sprintf("The heaviest log may weigh %s, more than the %s that it may carry: saw it shorter, or take another vehicle.", mass(logs[0].High), mass(*t.PayloadKg)))
			words = "One log is too heavy for it"
		} else if t.PayloadKg != nil {
			if n := packed(logs, *t.PayloadKg); n > *out.Logs {
				out.Logs, out.LogsBy = &n, "weight"
			}
			n := max(*out.LogsLeft, packed(without(logs, a.GoneLogs), *t.PayloadKg))
			out.LogsLeft = &n
		}
		if out.Logs != nil {
			words = loaded(t, *out.Logs, "logs", out.LogsBy)
		}
	}
	if t.Carries(job.TakesChips) {
		share := left(a.ChipsKg.High, a.GoneChips)
		out.Chips, out.ChipsBy = fills(a.ChipsKg.High, a.ChipsM3, t)
		out.ChipsLeft, _ = fills(share*a.ChipsKg.High, share*a.ChipsM3, t)
		if out.Chips != nil {
			if words != "" {
				words += "; "
			}
			words += loaded(t, *out.Chips, "chips", out.ChipsBy)
		}
		if t.VolumeM3 != nil {
			full := *t.VolumeM3 * *g.Settings.ChipsKgM3
			out.ChipsLoadKg = &full
			if t.PayloadKg != nil && full > *t.PayloadKg {
				out.Cautions = append(out.Cautions, fmt.Sprintf("Full of chips it carries %s, more than its %s: fill it to %.0f %% only.", mass(full), mass(*t.PayloadKg), math.Floor(100**t.PayloadKg/full)))
			}
		}
	}
	if t.PayloadKg == nil {
		out.Cautions = append(out.Cautions, "What it may carry is not known: read its plate.")
	}
	if t.VolumeM3 == nil {
		out.Cautions = append(out.Cautions, "The room of its body is not known.")
	}
	if t.BedM != nil && t.Carries(job.TakesLogs) {
		over := 0
		for i := range g.Pieces {
			for k := range g.Pieces[i].Parts {
				for _, log := range g.Pieces[i].Parts[k].Logs {
					if !g.Pieces[i].Logging.Kept && log.LengthM > *t.BedM+1e-9 {
						over++
					}
				}
			}
		}
		if over > 0 {
			out.Cautions = append(out.Cautions, fmt.Sprintf("%s longer than its bed of %s.", plural(over, "log is", "logs are"), units.Print(units.Height, system, *t.BedM)))
		}
	}
	out.Said = words + "."
	if words == "" {
		out.Said = "Give what it may carry, or the room of its body."
	}
	if out.GoneKg > 0 {
		out.Said += fmt.Sprintf(" It has taken %s.", mass(out.GoneKg))
	}
	return out
}
