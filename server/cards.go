package server

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"elkstay/core/bench"
	"elkstay/core/calc"
	"elkstay/core/units"
	"elkstay/core/wood"
	"elkstay/paper"
)

// mountCards serves the tables for a pocket: what logs weigh, what a hand holds.
func mountCards(api huma.API) {
	huma.Register(api, gives(operation(http.MethodGet, "/api/weights.pdf", "weights-pdf", "A table of what logs of one wood weigh, on one page"), typePDF),
		func(_ context.Context, in *struct {
			Units   units.System `query:"units" enum:"metric,us" default:"metric"`
			Sheet   string       `query:"sheet" enum:"a4,letter" default:"a4"`
			Species string       `query:"species" maxLength:"60" required:"true" doc:"Id of the wood table"`
			Taper   float64      `query:"taper_m_per_m" minimum:"0" maximum:"0.1"`
			LimitKg float64      `query:"limit_kg" minimum:"0" maximum:"100000" doc:"0: none"`

			TaughtBy      string  `query:"taught_by" maxLength:"120" doc:"The job whose weighings taught something; empty: none"`
			TaughtWeighed int     `query:"taught_weighed" minimum:"1" maximum:"100000" default:"1"`
			TaughtFactor  float64 `query:"taught_factor" minimum:"0.05" maximum:"20" default:"1"`
			TaughtHigh    float64 `query:"taught_high" minimum:"0.05" maximum:"20" default:"1"`
		}) (*fileOut, error) {
			asked := bench.WeightsRequest{Wood: wood.Wood{Species: in.Species}, Units: in.Units, TaperMPM: in.Taper}
			if in.LimitKg > 0 {
				asked.LimitKg = &in.LimitKg
			}
			if in.TaughtBy != "" {
				asked.Taught = &bench.Taught{By: in.TaughtBy, Weighed: in.TaughtWeighed, Factor: in.TaughtFactor, HighFactor: in.TaughtHigh}
			}
			table, err := asked.Table()
			if err != nil {
				return nil, calc.Refuse("weights", err)
			}
			data, err := paper.Weights(&table, asked.LimitKg, time.Now(), in.Units, in.Sheet == "letter")
			return &fileOut{typePDF, inline(table.Species, "weights.pdf"), data}, err
		})
	huma.Register(api, gives(operation(http.MethodGet, "/api/wraps.pdf", "wraps-pdf", "What a hand holds with every number of turns on a device, on one page"), typePDF),
		func(_ context.Context, in *struct {
			Units    units.System `query:"units" enum:"metric,us" default:"metric"`
			Sheet    string       `query:"sheet" enum:"a4,letter" default:"a4"`
			Device   string       `query:"device" maxLength:"80" doc:"What the crew calls it"`
			Friction float64      `query:"friction" minimum:"0.02" maximum:"1" required:"true"`
			HandKn   float64      `query:"hand_kn" minimum:"0.01" maximum:"5" required:"true"`
			LimitKn  float64      `query:"limit_kn" minimum:"0" maximum:"500" doc:"0: none"`
			DrumM    float64      `query:"drum_m" minimum:"0" maximum:"2" doc:"0: not said"`
			RopeM    float64      `query:"rope_m" minimum:"0" maximum:"0.1" doc:"0: not said"`
		}) (*fileOut, error) {
			asked := bench.WrapsRequest{Device: in.Device, Friction: in.Friction, HandKn: in.HandKn}
			for _, one := range []struct {
				to    **float64
				value *float64
			}{{&asked.LimitKn, &in.LimitKn}, {&asked.DrumM, &in.DrumM}, {&asked.RopeM, &in.RopeM}} {
				if *one.value > 0 {
					*one.to = one.value
				}
			}
			card, err := asked.Card()
			if err != nil {
				return nil, calc.Refuse("wraps-card", err)
			}
			data, err := paper.Wraps(&card, &asked, time.Now(), in.Units, in.Sheet == "letter")
			return &fileOut{typePDF, inline(in.Device, "wraps.pdf"), data}, err
		})
}

// inline names a file that a browser may show.
func inline(document, name string) string {
	return `inline; filename="` + strings.TrimSuffix(fileName(document), ".elkstay.json") + "-" + name + `"`
}
