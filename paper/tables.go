package paper

import (
	"slices"
	"strconv"
	"strings"

	"elkstay/core/assess"
	groundwork "elkstay/core/ground"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/units"
)

// Picks is the table of picks for other programs: bare figures in the units asked for, which the headers name.
func Picks(a *assess.Assessment, system units.System) locker.Table {
	mass, length, force := units.UnitFor(units.Mass, system), units.UnitFor(units.Height, system), units.UnitFor(units.Force, system)
	in := func(name string, u units.Unit) string { return name + "_" + strings.ToLower(u.Label) }
	table := locker.Table{Name: "picks", Rows: [][]string{{
		"number", "piece", "way", in("low", mass), in("likely", mass), in("high", mass), "basis", in("from", length), in("to", length), in("length", length), "cut",
		in("tie", length), "rig", "wraps", in("run", length), in("peak", force), "nearest", "use_pct", "verdict", "call", "cannot_happen", "done",
	}}}
	scaled := func(v *float64, by float64) string {
		if v == nil {
			return ""
		}
		return strconv.FormatFloat(*v/by, 'f', 4, 64)
	}
	figure := func(v *float64) string { return scaled(v, 1) }
	long := func(v *float64) string { return scaled(v, length.Factor) }
	yes := func(b bool) string {
		if b {
			return "yes"
		}
		return "no"
	}
	for i := range a.Picks {
		p := &a.Picks[i]
		row := []string{strconv.Itoa(p.Number), p.Title, p.Way.String(), "", "", "", string(p.Basis), long(&p.FromM), long(&p.ToM), long(&p.LengthM), p.Cut,
			long(p.TieM), p.Rig, figure(p.Wraps), long(p.RunM), scaled(p.PeakKn, force.Factor), "", "", string(p.Verdict), p.Call, "", yes(p.Done)}
		if m := p.MassKg; m != nil {
			row[3], row[4], row[5] = scaled(&m.Low, mass.Factor), scaled(&m.Likely, mass.Factor), scaled(&m.High, mass.Factor)
		}
		if n := p.Nearest; n != nil {
			row[16], row[17] = strings.TrimSpace(n.Part+" "+n.Name), figure(&n.UsePct)
		}
		said := make([]string, len(p.Faults))
		for k := range p.Faults {
			said[k] = p.Faults[k].Message
		}
		row[20] = strings.Join(said, "; ")
		table.Rows = append(table.Rows, row)
	}
	return table
}

// Waste is what has to go and what has gone, piece by piece and load by load, in SI figures.
func Waste(g *groundwork.Ground) locker.Table {
	table := locker.Table{Name: "waste", Rows: [][]string{{
		"row", "tree", "species", "number", "piece", "down", "stays", "logs", "logs_kg", "logs_high_kg", "logs_m3", "chips_kg", "chips_high_kg", "chips_loose_m3", "vehicle", "on",
	}}}
	figure := func(v float64) string { return strconv.FormatFloat(v, 'f', 3, 64) }
	yes := map[bool]string{true: "yes", false: "no"}
	for i := range g.Pieces {
		p := &g.Pieces[i]
		count := 0
		for k := range p.Parts {
			count += len(p.Parts[k].Logs)
		}
		table.Rows = append(table.Rows, []string{"planned", p.Tree, p.Species, strconv.Itoa(p.Number), p.Title, yes[p.Done], yes[p.Logging.Kept], strconv.Itoa(count),
			figure(p.LogsKg.Likely), figure(p.LogsKg.High), figure(p.LogsM3), figure(p.ChipsKg.Likely), figure(p.ChipsKg.High), figure(p.ChipsM3), "", ""})
	}
	for _, load := range g.Settings.Gone {
		name := ""
		if i := slices.IndexFunc(g.Settings.Trucks, func(t job.Truck) bool { return t.ID == load.Truck }); i >= 0 {
			name = g.Settings.Trucks[i].Name
		}
		row := []string{"gone", "", "", "", "", "", "", "", "", "", "", "", "", "", name, load.On}
		if load.What == job.TakesLogs {
			row[8] = figure(load.Kg)
		} else {
			row[11] = figure(load.Kg)
		}
		table.Rows = append(table.Rows, row)
	}
	return table
}
