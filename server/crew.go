package server

import (
	"context"
	"errors"
	"net/http"
	"reflect"
	"slices"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"elkstay/core/assess"
	"elkstay/core/calc"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/store"
)

// today is the day by the server's clock.
func today() string { return time.Now().Format(time.DateOnly) }

// crewFor brings the crew's rules and the gear that a job refers to; without a store, a
// crew with neither.
func crewFor(ctx context.Context, jobs *store.Store, document []byte) (policy.Crew, error) {
	if jobs == nil {
		return policy.Crew{On: today()}, nil
	}
	ids := []string{}
	if document, err := job.ReadJob(document); err == nil {
		ids = document.Items()
	}
	crew, err := jobs.Crew(ctx, ids)
	crew.On = today()
	return crew, err
}

// PolicyHead is the crew's rules as they are kept.
type PolicyHead struct {
	Number int           `json:"number" doc:"How often they were saved; 0: never, all rules at their defaults"`
	Policy policy.Policy `json:"policy"`
	Rules  []policy.Rule `json:"rules" doc:"Every rule, where it stands by default, and why"`
}

// JobEffect is what other rules would do to one open job.
type JobEffect struct {
	ID     uuid.UUID    `json:"id"`
	Name   string       `json:"name"`
	Before JobStanding  `json:"before"`
	After  JobStanding  `json:"after"`
	Picks  []PickEffect `json:"picks" doc:"Those whose verdict or nearest limit changes"`
}

// EffectList is what other rules would do to some of the open jobs: the trial goes on page by
// page, and ends when nobody asks for the next.
type EffectList struct {
	Jobs  []JobEffect `json:"jobs"`
	Tried int         `json:"tried" doc:"How many jobs of this page were tried; those whose picks are all down are left out of jobs"`
	More
}

// PolicyHistory is a page of the saved policies.
type PolicyHistory struct {
	Saves []PolicySave `json:"saves"`
	Total int          `json:"total" doc:"How often the policy was saved"`
	Next  int          `json:"next" doc:"Number to go on below; 0: that was all"`
}

// PolicySave is what one saved policy changed.
type PolicySave struct {
	Number  int             `json:"number"`
	SavedAt time.Time       `json:"saved_at"`
	Changes []policy.Change `json:"changes" nullable:"false" doc:"Against the one before it; against the defaults, of the first"`
}

// JobStanding is how a job stands by a set of rules.
type JobStanding struct {
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	UsePct  *float64       `json:"use_pct" doc:"Of the nearest limit; null when none is known"`
	Nearest string         `json:"nearest" doc:"Part and pick of it"`
	State   string         `json:"state"`
}

// PickEffect is what other rules would do to one pick.
type PickEffect struct {
	Number  int            `json:"number"`
	Title   string         `json:"title"`
	Before  policy.Verdict `json:"before" enum:"within,close,over,not known,not held"`
	After   policy.Verdict `json:"after" enum:"within,close,over,not known,not held"`
	FromPct *float64       `json:"from_pct" doc:"Use of the nearest limit; null when none is known"`
	ToPct   *float64       `json:"to_pct"`
}

type policyOut struct {
	ETag string `header:"ETag"`
	Body PolicyHead
}

func policyHead(rules policy.Policy, number int) *policyOut {
	return &policyOut{tag(number), PolicyHead{number, rules, policy.Rules()}}
}

func mountCrew(api huma.API, jobs *store.Store) {
	huma.Register(api, operation(http.MethodGet, "/api/crew", "crew", "The crew's rules and the items of its gear that are named"),
		func(ctx context.Context, in *struct {
			Items []string `query:"items,explode" maxItems:"2000" doc:"Ids in the locker"`
		}) (*struct{ Body policy.Crew }, error) {
			crew, err := jobs.Crew(ctx, in.Items)
			if err != nil {
				return nil, refusal(err)
			}
			crew.On = today()
			return &struct{ Body policy.Crew }{crew}, nil
		})
	huma.Register(api, operation(http.MethodGet, "/api/policy", "get-policy", "The crew's rules, their defaults and the reasons for them"),
		func(ctx context.Context, _ *struct{}) (*policyOut, error) {
			policy, number, err := jobs.Policy(ctx)
			if err != nil {
				return nil, refusal(err)
			}
			return policyHead(policy, number), nil
		})
	huma.Register(api, operation(http.MethodGet, "/api/policy/history", "policy-history", "What each saved policy changed, the last first"),
		func(ctx context.Context, in *struct {
			Before int `query:"before" minimum:"0" maximum:"2147483647" doc:"Number of the policy to go on below; absent: from the newest"`
			Limit  int `query:"limit" minimum:"1" maximum:"100" default:"20"`
		}) (*struct{ Body PolicyHistory }, error) {
			// One more than is shown: the last shown is told from the one before it.
			kept, total, err := jobs.Policies(ctx, in.Before, in.Limit+1)
			if err != nil {
				return nil, refusal(err)
			}
			out := PolicyHistory{Saves: []PolicySave{}, Total: total}
			for i := range kept[:min(len(kept), in.Limit)] {
				was := policy.Policy{}
				if i+1 < len(kept) {
					was = kept[i+1].Policy
				}
				out.Saves = append(out.Saves, PolicySave{kept[i].Number, kept[i].SavedAt, policy.Changes(&was, &kept[i].Policy)})
			}
			if len(kept) > in.Limit {
				out.Next = kept[in.Limit-1].Number
			}
			return &struct{ Body PolicyHistory }{out}, nil
		})
	mountPolicy(api, jobs)
}

// mountPolicy keeps rules, and tries them on the open jobs.
func mountPolicy(api huma.API, jobs *store.Store) {
	document := reflect.TypeFor[policy.Policy]()
	register(api, operation(http.MethodPut, "/api/policy", "save-policy", "Keep rules as the crew's next"), document,
		func(ctx context.Context, in *struct {
			Base    string `header:"If-Match" required:"true" doc:"The number of the rules these were made from, as an entity tag"`
			RawBody []byte `contentType:"application/json"`
		}) (*policyOut, error) {
			policy, err := policy.ReadPolicy(in.RawBody)
			if err != nil {
				return nil, calc.Refuse("policy", err)
			}
			base, err := untag(in.Base)
			if err != nil {
				return nil, problemOf(http.StatusPreconditionRequired, "If-Match must name the rules these were made from.")
			}
			number, err := jobs.SavePolicy(ctx, policy, base)
			if err != nil {
				return nil, moved(err, "The rules have been changed by somebody else since: look at theirs first.")
			}
			return policyHead(policy, number), nil
		})
	register(api, operation(http.MethodPost, "/api/policy/try", "try-policy", "What rules would do to the open jobs"), document,
		func(ctx context.Context, in *policyTryIn) (*struct{ Body EffectList }, error) {
			policy, err := policy.ReadPolicy(in.RawBody)
			if err != nil {
				return nil, calc.Refuse("policy", err)
			}
			after, err := placed[store.Place](in.After)
			if err != nil {
				return nil, err
			}
			open, next, total, err := jobs.OpenJobs(ctx, after, in.Limit)
			if err != nil {
				return nil, refusal(err)
			}
			effects, err := effects(ctx, jobs, open, policy, in.Units)
			if errors.Is(err, context.DeadlineExceeded) || errors.Is(err, context.Canceled) {
				return nil, problemOf(http.StatusGatewayTimeout, "This took too long and was broken off: try fewer jobs at once.")
			}
			if err != nil {
				return nil, refusal(err)
			}
			return &struct{ Body EffectList }{EffectList{effects, len(open), More{total, written(next)}}}, nil
		})
}

type policyTryIn struct {
	After   string       `query:"after" maxLength:"400" doc:"Where the page before it ended: its next; absent: from the start"`
	Limit   int          `query:"limit" minimum:"1" maximum:"50" default:"20" doc:"How many jobs are tried at once"`
	Units   units.System `query:"units" enum:"metric,us" default:"metric" doc:"Units of the sentences; figures are SI"`
	RawBody []byte       `contentType:"application/json"`
}

// effects works out every open job by the rules that stand and by others.
func effects(ctx context.Context, kept *store.Store, open []store.Job, policy policy.Policy, system units.System) ([]JobEffect, error) {
	jobs := make([]job.Job, len(open))
	ids := []string{}
	for i := range open {
		var err error
		if jobs[i], err = job.ReadJob(open[i].Document); err != nil {
			return nil, err
		}
		ids = append(ids, jobs[i].Items()...)
	}
	slices.Sort(ids)
	crew, err := kept.Crew(ctx, slices.Compact(ids))
	if err != nil {
		return nil, err
	}
	crew.On = today()
	list := []JobEffect{}
	// One after the other: other long sums have their turn besides.
	for i := range open {
		one := effect(open[i].ID, &jobs[i], assess.Options{Units: system, Crew: crew, Gone: ctx.Done()}, policy)
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if one != nil {
			list = append(list, *one)
		}
	}
	return list, nil
}

// effect is nil for a job whose picks are all down.
func effect(id uuid.UUID, document *job.Job, options assess.Options, policy policy.Policy) *JobEffect {
	done := len(document.Picks) > 0
	for i := range document.Picks {
		done = done && document.Picks[i].Done
	}
	if done {
		return nil
	}
	before := assess.Assess(document, options)
	options.Crew.Policy = policy
	after := assess.Assess(document, options)
	one := &JobEffect{ID: id, Name: document.Name, Before: jobStanding(&before), After: jobStanding(&after), Picks: []PickEffect{}}
	for i := range before.Picks {
		a, b := &before.Picks[i], &after.Picks[i]
		use := func(n *assess.Nearest) *float64 {
			if n == nil {
				return nil
			}
			return &n.UsePct
		}
		from, to := use(a.Nearest), use(b.Nearest)
		if a.Verdict != b.Verdict || (from == nil) != (to == nil) || from != nil && *from != *to {
			one.Picks = append(one.Picks, PickEffect{a.Number, a.Title, a.Verdict, b.Verdict, from, to})
		}
	}
	return one
}

func jobStanding(a *assess.Assessment) JobStanding {
	s := JobStanding{Verdict: a.Verdict, State: a.State}
	if a.Nearest != nil {
		s.UsePct = &a.Nearest.UsePct
		name := a.Nearest.Part
		if a.Nearest.Name != "" {
			name += " " + a.Nearest.Name
		}
		s.Nearest = name + ", pick " + strconv.Itoa(a.Nearest.Pick)
	}
	if g := a.Gravest; g != nil && g.Said != "" && g.Verdict.Graver(policy.Close) {
		s.Nearest = g.Said + ", pick " + strconv.Itoa(g.Pick)
	}
	return s
}

// moved turns a change made from something older into the answer that says so.
func moved(err error, what string) error {
	if errors.Is(err, store.ErrMoved) {
		return problemOf(http.StatusPreconditionFailed, what)
	}
	return refusal(err)
}
