package paper

import (
	"encoding/json"
	"strconv"
	"strings"

	"elkstay/core/assess"
	groundwork "elkstay/core/ground"
	"elkstay/core/job"
	"elkstay/core/locker"
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
	for i := range g.Settings.Trucks {
		t := &g.Settings.Trucks[i]
		for _, load := range t.Gone {
			row := []string{"gone", "", "", "", "", "", "", "", "", "", "", "", "", "", t.Name, load.On}
			if load.What == job.TakesLogs {
				row[8] = figure(load.Kg)
			} else {
				row[11] = figure(load.Kg)
			}
			table.Rows = append(table.Rows, row)
		}
	}
	return table
}

type feature struct {
	Type       string         `json:"type"`
	Geometry   geometry       `json:"geometry"`
	Properties map[string]any `json:"properties"`
}

type geometry struct {
	Type        string `json:"type"`
	Coordinates any    `json:"coordinates"`
}

// collection is a GeoJSON feature collection (RFC 7946), by prior arrangement in local
// metres in place of degrees; it says so in a member of its own.
type collection struct {
	Type        string    `json:"type"`
	Name        string    `json:"name"`
	Coordinates string    `json:"local_coordinates"`
	Features    []feature `json:"features"`
}

// GeoJSON writes the site for other programs.
func GeoJSON(document *job.Job, a *assess.Assessment) ([]byte, error) {
	all := collection{Type: "FeatureCollection", Name: document.Name, Features: []feature{},
		Coordinates: "Metres from the plan's own origin: x east, y north. Not longitude and latitude: place it by the foot of the tree."}
	add := func(kind string, shape geometry, name string, more map[string]any) {
		properties := map[string]any{"kind": kind, "name": name}
		for key, value := range more {
			properties[key] = value
		}
		all.Features = append(all.Features, feature{"Feature", shape, properties})
	}
	point := func(p job.Spot) geometry { return geometry{"Point", [2]float64{p.X, p.Y}} }
	outline := func(spots []job.Spot, closed bool) geometry {
		points := make([][2]float64, len(spots))
		for i, p := range spots {
			points[i] = [2]float64{p.X, p.Y}
		}
		if !closed || len(points) < 3 {
			return geometry{"LineString", points}
		}
		return geometry{"Polygon", [][][2]float64{append(points, points[0])}}
	}
	feet := make([]job.Spot, len(document.Trees))
	for i := range document.Trees {
		feet[i] = document.Trees[i].Foot()
		add("tree", point(feet[i]), "foot of "+treeName(document, i), nil)
	}
	for i := range document.Site.Zones {
		z := &document.Site.Zones[i]
		add("drop zone", outline(z.Outline, true), z.Name, nil)
	}
	for i := range document.Site.Targets {
		t := &document.Site.Targets[i]
		closed := t.Kind != "fence" && t.Kind != "power-line"
		add("target", outline(t.Corners(), closed), t.Name, map[string]any{"target": t.Kind, "from_m": t.FromM, "to_m": t.ToM})
	}
	for i := range document.Site.Sectors {
		sector := &document.Site.Sectors[i]
		add("sector", point(feet[0]), sector.Name, map[string]any{"from_deg": sector.FromDeg, "to_deg": sector.ToDeg})
	}
	for i := range document.Site.Anchors {
		anchor := &document.Site.Anchors[i]
		add("anchor", point(anchor.At), anchor.Name, map[string]any{"anchor": anchor.Kind})
	}
	for i := range document.Site.Cranes {
		add("crane", point(document.Site.Cranes[i].At), document.Site.Cranes[i].Name, nil)
	}
	for i := range document.Site.Posts {
		post := &document.Site.Posts[i]
		add("post", point(post.At), post.Role, map[string]any{"who": post.Name})
	}
	for i := range document.Site.Escapes {
		add("way out", outline(document.Site.Escapes[i].Outline, false), document.Site.Escapes[i].Name, nil)
	}
	for t := range a.Trees {
		for _, limb := range a.Trees[t].Shape.Limbs {
			points := make([][2]float64, len(limb.Points))
			for k, p := range limb.Points {
				points[k] = [2]float64{p[0], p[1]}
			}
			add("limb", geometry{"LineString", points}, limb.Title, nil)
		}
	}
	return json.MarshalIndent(all, "", " ")
}

// treeName is what a tree is called on paper: of one alone, the tree.
func treeName(document *job.Job, i int) string {
	if len(document.Trees) == 1 && document.Trees[i].Name == "" {
		return "the tree"
	}
	return document.Trees[i].Title()
}
