package server

import (
	"context"
	"errors"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"elkstay/core/calc"
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/plan"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// Reference is what the interface needs to know of the core before anything is
// asked: species, units, typical ropes, an empty job.
type Reference struct {
	Version    string           `json:"version"`
	Species    []wood.Species   `json:"species"`
	Units      []units.Shown    `json:"units"`
	Ropes      []gear.NamedRope `json:"ropes" doc:"Typical ropes to begin with"`
	RopeSource string           `json:"rope_source" doc:"Where the typical ropes' figures come from"`
	EmptyJob   plan.Job         `json:"empty_job"`
}

type planIn struct {
	Units   units.System `query:"units" enum:"metric,us" default:"metric" doc:"Units of the sentences; figures are SI"`
	RawBody []byte       `contentType:"application/json"`
}

// ReadRequest asks what a typed text means.
type ReadRequest struct {
	Quantity units.Quantity `json:"quantity" enum:"height,diameter,mass,force" doc:"What kind of figure is read"`
	Units    units.System   `json:"units" enum:"metric,us" doc:"What a bare number is in"`
	Text     string         `json:"text" maxLength:"200" doc:"What was typed"`
}

// ReadAnswer is what a typed text means.
type ReadAnswer struct {
	Value float64 `json:"value" doc:"SI: m, kg or kN"`
}

func mountPlan(api huma.API) {
	reference := Reference{
		Version: Version, Species: wood.Table(), Units: units.Table(),
		Ropes: gear.TypicalRopes(), RopeSource: gear.TypicalSource, EmptyJob: plan.NewJob("New job"),
	}
	huma.Register(api, operation(http.MethodGet, "/api/reference", "reference", "Species, units, typical ropes, an empty job"),
		func(context.Context, *struct{}) (*struct{ Body Reference }, error) {
			return &struct{ Body Reference }{reference}, nil
		})
	job := reflect.TypeFor[plan.Job]()
	register(api, operation(http.MethodPost, "/api/assess", "assess", "Everything that can be said of a job document"), job,
		func(_ context.Context, in *planIn) (*struct{ Body plan.Assessment }, error) {
			document, err := plan.ReadJob(in.RawBody)
			if err != nil {
				return nil, calc.Refuse("assess", err)
			}
			return &struct{ Body plan.Assessment }{plan.Assess(&document, in.Units)}, nil
		})
	register(api, operation(http.MethodPost, "/api/longest", "longest", "The longest piece that keeps every known limit"), job,
		func(_ context.Context, in *planIn) (*struct{ Body plan.Longest }, error) {
			document, err := plan.ReadJob(in.RawBody)
			if err != nil {
				return nil, calc.Refuse("longest", err)
			}
			return &struct{ Body plan.Longest }{plan.FindLongest(&document, in.Units)}, nil
		})
	register(api, operation(http.MethodPost, "/api/units/read", "read-units", "What a typed length, mass or force means"), reflect.TypeFor[ReadRequest](),
		func(_ context.Context, in *documentIn) (*struct{ Body ReadAnswer }, error) {
			var request ReadRequest
			if err := intake.Decode(in.RawBody, &request); err != nil {
				return nil, calc.Refuse("units", err)
			}
			value, err := units.Read(request.Quantity, request.Units, request.Text)
			if err != nil {
				var faults intake.Faults
				var unread *units.ReadError
				errors.As(err, &unread)
				faults.Add("body.text", request.Text, unread.Examples, "%s", err)
				return nil, calc.Refuse("units", faults)
			}
			return &struct{ Body ReadAnswer }{ReadAnswer{value}}, nil
		})
	huma.Register(api, operation(http.MethodGet, "/api/schemas/job.json", "job-schema", "JSON Schema of the job document"),
		func(context.Context, *struct{}) (*documentOut, error) {
			schema, err := JobSchema()
			return &documentOut{"application/schema+json", schema}, err
		})
}
