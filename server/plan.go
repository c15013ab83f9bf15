package server

import (
	"context"
	"errors"
	"net/http"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"elkstay/core/calc"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/sight"
	"elkstay/core/units"
	"elkstay/core/wood"
	"elkstay/question"
	"elkstay/store"
)

// Reference is what the interface needs to know of the core before anything is
// asked: species, units, typical ropes, an empty job.
type Reference struct {
	Version    string              `json:"version"`
	Species    []wood.Species      `json:"species"`
	Units      []units.Shown       `json:"units"`
	Ropes      []gear.NamedRope    `json:"ropes" doc:"Typical ropes to begin with"`
	RopeSource string              `json:"rope_source" doc:"Where the typical ropes' figures come from"`
	EmptyJob   job.Job             `json:"empty_job"`
	Rig        job.Settings        `json:"rig_defaults" doc:"What a rig stands at where nobody has said"`
	Fell       job.FellDefaults    `json:"fell_defaults" doc:"What a line of a felling stands at where nobody has said"`
	Knots      []string            `json:"knots" doc:"Ways of tying a line to a piece"`
	Leans      []sight.Guess       `json:"leans" doc:"Leans as the eye judges them"`
	Ways       map[job.Way]string  `json:"ways" doc:"The ways down in a crew's words"`
	Gear       map[string][]string `json:"gear" doc:"The maker's figures that each kind of gear has"`
}

// askedIn is a document and what is asked of it.
type askedIn struct {
	question.Asked
	RawBody []byte `contentType:"application/json"`
}

// mountQuestion registers one question of the table.
func mountQuestion(api huma.API, jobs *store.Store, q *question.Question) {
	op := operation(http.MethodPost, "/api/"+q.Name, q.Name, q.Summary)
	op.Responses = map[string]*huma.Response{"200": {Description: "OK", Content: map[string]*huma.MediaType{
		"application/json": {Schema: api.OpenAPI().Components.Schemas.Schema(q.Answers, true, q.Answers.Name())},
	}}}
	register(api, op, q.Document, func(ctx context.Context, in *askedIn) (*struct{ Body any }, error) {
		var crew policy.Crew
		if q.ByCrew {
			var err error
			if crew, err = crewFor(ctx, jobs, in.RawBody); err != nil {
				return nil, refusal(err)
			}
		}
		answer, err := q.Answer(ctx, in.RawBody, in.Asked, crew)
		if err != nil {
			if errors.Is(err, context.DeadlineExceeded) || errors.Is(err, context.Canceled) {
				return nil, problemOf(http.StatusGatewayTimeout, "This took too long and was broken off: ask for fewer runs.")
			}
			return nil, calc.Refuse(q.Name, err)
		}
		return &struct{ Body any }{answer}, nil
	})
	registered := api.OpenAPI().Paths[op.Path].Post
	registered.Parameters = slices.DeleteFunc(registered.Parameters, func(p *huma.Param) bool { return !slices.Contains(q.Reads, p.Name) })
}

// wayWords are the ways down in a crew's words.
func wayWords() map[job.Way]string {
	words := map[job.Way]string{}
	for _, way := range job.Ways() {
		words[way] = way.String()
	}
	return words
}

func mountPlan(api huma.API, jobs *store.Store) {
	figures := map[string][]string{}
	for _, kind := range locker.Kinds() {
		figures[kind] = locker.Fields(kind)
	}
	reference := Reference{
		Gear: figures, Ways: wayWords(), Leans: sight.Leans(),
		Version: Version, Species: wood.Table(), Units: units.Table(),
		Ropes: gear.TypicalRopes(), RopeSource: gear.TypicalSource, EmptyJob: job.NewJob("New job"), Rig: job.RigDefaults(), Fell: job.FellingDefaults(), Knots: gear.Knots(),
	}
	huma.Register(api, operation(http.MethodGet, "/api/reference", "reference", "Species, units, typical ropes, an empty job"),
		func(context.Context, *struct{}) (*struct{ Body Reference }, error) {
			return &struct{ Body Reference }{reference}, nil
		})
	for _, q := range question.All() {
		mountQuestion(api, jobs, &q)
	}
	huma.Register(api, gives(operation(http.MethodGet, "/api/schemas/job.json", "job-schema", "JSON Schema of the job document"), "application/schema+json"),
		func(context.Context, *struct{}) (*documentOut, error) {
			schema, err := JobSchema()
			return &documentOut{"application/schema+json", schema}, err
		})
}
