package server

import (
	"context"
	"errors"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"elkstay/core/calc"
	"elkstay/core/gear"
	"elkstay/core/locker"
	"elkstay/core/plan"
	"elkstay/core/sight"
	"elkstay/core/units"
	"elkstay/core/wood"
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
	EmptyJob   plan.Job            `json:"empty_job"`
	Rig        plan.Settings       `json:"rig_defaults" doc:"What a rig stands at where nobody has said"`
	Knots      []string            `json:"knots" doc:"Ways of tying a line to a piece"`
	Leans      []sight.Guess       `json:"leans" doc:"Leans as the eye judges them"`
	Ways       map[string]string   `json:"ways" doc:"The ways down in a crew's words"`
	Gear       map[string][]string `json:"gear" doc:"The maker's figures that each kind of gear has"`
}

// PlanIn is a job document and what is asked of it.
type PlanIn struct {
	Units   units.System `query:"units" enum:"metric,us" default:"metric" doc:"Units of the sentences; figures are SI"`
	RawBody []byte       `contentType:"application/json"`
}

type assessIn struct {
	PlanIn
	Pick string `query:"pick" maxLength:"40" doc:"Id of the pick to give in full; absent: none"`
}

type followIn struct {
	PlanIn
	Pick string `query:"pick" required:"true" maxLength:"40" doc:"Id of the pick"`
	Runs int    `query:"runs" minimum:"0" maximum:"5000" doc:"Repeat it as often with what is not known well"`
}

type fillIn struct {
	PlanIn
	By  string `query:"by" enum:"up,sides" default:"up" doc:"Limbs from the bottom up, or side by side"`
	Rig string `query:"rig" maxLength:"40" doc:"Id of the rig to hold with; absent: the first with a rope"`
}

type askIn struct {
	PlanIn
	Pick  string  `query:"pick" required:"true" maxLength:"40" doc:"Id of the pick"`
	Ask   string  `query:"ask" required:"true" enum:"length,run,wraps,rope,peak" doc:"What is asked"`
	Hold  string  `query:"hold" enum:"limits,line,block,length,run" default:"limits" doc:"What stays as it is"`
	Value float64 `query:"value" minimum:"0" maximum:"5000" doc:"Of what is held: kN or m"`
}

// MergeRequest is one document changed on two sides.
type MergeRequest struct {
	Base   plan.Job `json:"base" doc:"What both began from"`
	Mine   plan.Job `json:"mine"`
	Theirs plan.Job `json:"theirs"`
}

// answered answers a question about a job, by the crew's rules and with its gear.
func answered[A any](ctx context.Context, jobs *store.Store, question string, in *PlanIn, asked plan.Asked) (*struct{ Body A }, error) {
	asked.Units = in.Units
	var crew plan.Crew
	if question != plan.QuestionMerge {
		var err error
		if crew, err = crewFor(ctx, jobs, in.RawBody); err != nil {
			return nil, refusal(err)
		}
	}
	answer, err := plan.Question(ctx, question, in.RawBody, asked, crew)
	if err != nil {
		if errors.Is(err, context.DeadlineExceeded) || errors.Is(err, context.Canceled) {
			return nil, problemOf(http.StatusGatewayTimeout, "This took too long and was broken off: ask for fewer runs.")
		}
		return nil, calc.Refuse(question, err)
	}
	return &struct{ Body A }{answer.(A)}, nil //nolint:forcetypeassert // each question has one answer
}

func mountPlan(api huma.API, jobs *store.Store) {
	figures := map[string][]string{}
	for _, kind := range locker.Kinds() {
		figures[kind] = locker.Fields(kind)
	}
	reference := Reference{
		Gear: figures, Ways: plan.WayWords, Leans: sight.Leans(),
		Version: Version, Species: wood.Table(), Units: units.Table(),
		Ropes: gear.TypicalRopes(), RopeSource: gear.TypicalSource, EmptyJob: plan.NewJob("New job"), Rig: plan.RigDefaults(), Knots: gear.Knots(),
	}
	huma.Register(api, operation(http.MethodGet, "/api/reference", "reference", "Species, units, typical ropes, an empty job"),
		func(context.Context, *struct{}) (*struct{ Body Reference }, error) {
			return &struct{ Body Reference }{reference}, nil
		})
	job := reflect.TypeFor[plan.Job]()
	register(api, operation(http.MethodPost, "/api/assess", "assess", "Everything that can be said of a job document"), job,
		func(ctx context.Context, in *assessIn) (*struct{ Body plan.Assessment }, error) {
			return answered[plan.Assessment](ctx, jobs, plan.QuestionAssess, &in.PlanIn, plan.Asked{Pick: in.Pick})
		})
	register(api, operation(http.MethodPost, "/api/follow", "follow", "One pick followed through time"), job,
		func(ctx context.Context, in *followIn) (*struct{ Body plan.Trace }, error) {
			return answered[plan.Trace](ctx, jobs, plan.QuestionFollow, &in.PlanIn, plan.Asked{Pick: in.Pick, Runs: in.Runs})
		})
	register(api, operation(http.MethodPost, "/api/fill", "fill", "A way to take down what the order leaves standing"), job,
		func(ctx context.Context, in *fillIn) (*struct{ Body plan.Proposal }, error) {
			return answered[plan.Proposal](ctx, jobs, plan.QuestionFill, &in.PlanIn, plan.Asked{By: in.By, Rig: in.Rig})
		})
	register(api, operation(http.MethodPost, "/api/ask", "ask", "Hold one thing of a pick and ask for another"), job,
		func(ctx context.Context, in *askIn) (*struct{ Body plan.Answer }, error) {
			asked := plan.Asked{Pick: in.Pick, Ask: in.Ask, Hold: in.Hold}
			if in.Hold != plan.HoldLimits && in.Value > 0 {
				asked.Value = &in.Value
			}
			return answered[plan.Answer](ctx, jobs, plan.QuestionAsk, &in.PlanIn, asked)
		})
	register(api, operation(http.MethodPost, "/api/outfit", "outfit", "The job with its gear noted as the locker has it now"), job,
		func(ctx context.Context, in *PlanIn) (*struct{ Body plan.Job }, error) {
			return answered[plan.Job](ctx, jobs, plan.QuestionOutfit, in, plan.Asked{})
		})
	register(api, operation(http.MethodPost, "/api/brief", "brief", "What a briefing on a job document says"), job,
		func(ctx context.Context, in *PlanIn) (*struct{ Body plan.Paper }, error) {
			return answered[plan.Paper](ctx, jobs, plan.QuestionBrief, in, plan.Asked{})
		})
	register(api, operation(http.MethodPost, "/api/merge", "merge", "Bring together two changes of one document"), reflect.TypeFor[MergeRequest](),
		func(ctx context.Context, in *PlanIn) (*struct{ Body plan.Merged }, error) {
			return answered[plan.Merged](ctx, jobs, plan.QuestionMerge, in, plan.Asked{})
		})
	register(api, operation(http.MethodPost, "/api/units/read", units.Question, "What a typed length, mass or force means"), reflect.TypeFor[units.ReadRequest](),
		func(_ context.Context, in *documentIn) (*struct{ Body units.ReadAnswer }, error) {
			answer, err := units.Answer(in.RawBody)
			if err != nil {
				return nil, calc.Refuse("units", err)
			}
			return &struct{ Body units.ReadAnswer }{answer}, nil
		})
	register(api, operation(http.MethodPost, "/api/"+sight.Question, sight.Question, "A height by angles, a lean by a plumb line, a place by bearing and distance"), reflect.TypeFor[sight.Request](),
		func(_ context.Context, in *documentIn) (*struct{ Body sight.Read }, error) {
			read, err := sight.Answer(in.RawBody)
			if err != nil {
				return nil, calc.Refuse(sight.Question, err)
			}
			return &struct{ Body sight.Read }{read}, nil
		})
	huma.Register(api, operation(http.MethodGet, "/api/schemas/job.json", "job-schema", "JSON Schema of the job document"),
		func(context.Context, *struct{}) (*documentOut, error) {
			schema, err := JobSchema()
			return &documentOut{"application/schema+json", schema}, err
		})
}
