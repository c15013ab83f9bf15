package assess

import (
	"maps"
	"math/rand/v2"
	"slices"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// A job that is made worse is never judged milder: a building, a power line, a no-go sector, a person or a tree anywhere, wood
// that decays, weaker gear, a stronger gust, more that is wanted clear. Of weaker gear and of a gust no part of any pick is used less.
func TestWorseIsNeverMilder(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(12, 5))
	worse := worsenings(random)
	rank := func(v policy.Verdict) int {
		return slices.Index([]policy.Verdict{policy.Within, policy.Close, policy.NotKnown, policy.Over, policy.NotHeld}, v)
	}
	jobs, n, looked := keptJobs(t), 0, 0
	for _, name := range slices.Sorted(maps.Keys(jobs)) {
		given := jobs[name]
		text := written(t, &given)
		read := func() job.Job {
			j, err := job.ReadJob(text)
			if err != nil {
				t.Fatal(name, err)
			}
			return j
		}
		before := read()
		was := Assess(&before, Options{Units: units.Metric})
		tried := []int{n % len(worse)}
		if slices.ContainsFunc(before.Picks, func(p job.Pick) bool { return p.Way == job.WayFelled }) {
			tried = append(tried, len(worse)-1)
		}
		for _, k := range tried {
			one := &worse[k]
			n++
			after := read()
			one.make(&after)
			is := Assess(&after, Options{Units: units.Metric})
			for i := range is.Picks {
				a, b := &was.Picks[i], &is.Picks[i]
				if len(b.Faults) == 0 && (len(a.Faults) > 0 || rank(b.Verdict) < rank(a.Verdict)) {
					t.Errorf("%s with %s, %s: was %s (%s), is %s (%s)", name, one.what, a.ID, a.Verdict, a.Worst, b.Verdict, b.Worst)
				}
				if !one.each || len(a.Faults)+len(b.Faults) > 0 {
					continue
				}
				parts := func(j *job.Job) []Rung { return Assess(j, Options{Units: units.Metric, Pick: a.ID}).Detail.Ladder }
				had, has := parts(&before), parts(&after)
				for k := range had {
					if k < len(has) && had[k].Part == has[k].Part && had[k].UsePct != nil && has[k].UsePct != nil {
						if looked++; *has[k].UsePct < *had[k].UsePct*(1-1e-9) {
							t.Errorf("%s with %s, %s: %s %s was used to %v %%, is to %v %%", name, one.what, a.ID, had[k].Part, had[k].Name, *had[k].UsePct, *has[k].UsePct)
						}
					}
				}
			}
		}
	}
	if n < 70 || looked < 60 {
		t.Errorf("%d jobs made worse, %d parts looked at", n, looked)
	}
}

// A worsening makes a job worse.
type worsening struct {
	what string
	each bool // every part is looked at, too
	make func(j *job.Job)
}

func worsenings(random *rand.Rand) []worsening {
	f := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	spot := func(r float64) job.Spot { return job.Spot{X: f(-r, r), Y: f(-r, r)} }
	weaker := func(r *gear.Rating) {
		for _, kn := range []*float64{r.MarkedKn, r.BreakingKn} {
			if kn != nil {
				*kn *= 0.9
			}
		}
	}
	return []worsening{
		{"a building", false, func(j *job.Job) {
			low := spot(12)
			j.Site.Targets = append(j.Site.Targets, job.Target{ID: "new", Name: "new shed", Kind: "building", Box: &job.Box{Min: low, Max: job.Spot{X: low.X + f(0.3, 6), Y: low.Y + f(0.3, 6)}}, ToM: f(0.5, 12)})
		}},
		{"a power line", false, func(j *job.Job) {
			from := f(2, 14)
			j.Site.Targets = append(j.Site.Targets, job.Target{ID: "new", Name: "new line", Kind: "power-line", Outline: []job.Spot{spot(20), spot(20)}, FromM: from, ToM: from + 0.2, VoltageKv: jobtest.Of(0.4)})
		}},
		{"a sector", false, func(j *job.Job) {
			from := f(0, 270)
			j.Site.Sectors = append(j.Site.Sectors, job.Sector{ID: "new", Name: "new", FromDeg: from, ToDeg: from + f(5, 90)})
		}},
		{"a person", false, func(j *job.Job) {
			j.Site.Posts = append(j.Site.Posts, job.Post{ID: "new", Role: "ground", At: spot(12)})
		}},
		{"a tree", false, func(j *job.Job) {
			tree, at := j.Trees[0], spot(10)
			tree.ID, tree.Name, tree.At = "new", "new tree", &at
			j.Trees = append(j.Trees, tree)
		}},
		{"decay", false, func(j *job.Job) {
			from := f(0, 18)
			j.Trees[0].Defects = append(j.Trees[0].Defects, job.Defect{ID: "new", Kind: job.DefectDecay, AtM: from, ToM: jobtest.Of(from + f(0, 3))})
		}},
		{"more clear", false, func(j *job.Job) { j.Limits.ClearM = jobtest.Of(1.2) }},
		{"weaker gear", true, func(j *job.Job) {
			for i := range j.Rigs {
				for _, r := range []*gear.Rating{&j.Rigs[i].Block.Rating, &j.Rigs[i].Sling.Rating, &j.Rigs[i].Device.Rating, &j.Rigs[i].Tie.Rating} {
					weaker(r)
				}
			}
			for i := range j.Site.Anchors {
				weaker(&j.Site.Anchors[i].Rating)
			}
		}},
		{"a gust", true, func(j *job.Job) { j.Site.GustMS = jobtest.Of(job.Or(j.Site.GustMS, 0) + 6) }},
	}
}

// No moment of a course asks more of what holds its gear than the rung of that says, whatever else happens on the way: each moment
// by itself, on wood and anchors as they stand once the piece is off.
func TestNoMomentOfACourseIsOverItsRung(t *testing.T) {
	t.Parallel()
	looked := 0
	for name, j := range keptJobs(t) {
		forest, a := Prepare(&j, &Options{Units: units.Metric})
		if forest == nil || len(a.Missing) > 0 {
			continue
		}
		all := forest.Whole()
		for i := range j.Picks {
			p := &j.Picks[i]
			v := forest.Of(p)
			if v == nil {
				continue
			}
			o := v.work(p, i+1, v.Now(all))
			for _, one := range o.Cases {
				for _, moment := range one.Moments {
					for _, asked := range v.Strength().Holders(v.Tree, []hold.Moment{moment}, o.Without()) {
						most, found := 0.0, false
						for k := range o.Loads {
							if l := &o.Loads[k]; l.Part == asked.Part && l.On == asked.On && l.Known {
								most, found = max(most, l.Use()), true
							}
						}
						if looked++; asked.Known && (!found || asked.Use() > most*(1+1e-9)) {
							t.Errorf("%s, %s: %s asked for %v of what it holds at one moment, its rung has %v", name, p.ID, asked.On, asked.Use(), most)
						}
					}
				}
			}
			o.Off(v.Now(all))
		}
	}
	if looked < 500 {
		t.Errorf("%d moments looked at", looked)
	}
}
