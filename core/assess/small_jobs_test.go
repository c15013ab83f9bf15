package assess

import (
	_ "embed"
	"encoding/json"
	"math"
	"slices"
	"testing"

	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// What testdata/small_jobs.py worked by itself.
//
//go:embed testdata/small_jobs.json
var smallJobs []byte

// smallJob is a job of testdata/small_jobs.py, and what it came to.
type smallJob struct {
	Name       string       `json:"name"`
	Way        job.Way      `json:"way"`
	Stem       [][3]float64 `json:"stem"`
	Top        float64      `json:"top_m"`
	Cut        float64      `json:"cut_m"`
	Tie        float64      `json:"tie_m"`
	BlockBelow float64      `json:"block_below_m"`
	Slack      float64      `json:"slack_m"`
	Efficiency float64      `json:"efficiency"`
	Device     float64      `json:"device_m"`
	Wraps      float64      `json:"wraps"`
	Friction   float64      `json:"friction"`
	Hand       float64      `json:"hand_kn"`
	BlockZ     float64      `json:"block_z"`
	DeviceX    float64      `json:"device_x"`
	DeviceZ    float64      `json:"device_z"`
	A          [2]float64   `json:"a"`
	B          [2]float64   `json:"b"`
	CarryZ     float64      `json:"carry_z"`
	Slings     [][2]float64 `json:"slings"`
	WllKn      float64      `json:"wll_kn"`
	RiggingKg  float64      `json:"rigging_kg"`
	CapacityKg float64      `json:"capacity_kg"`
	Is         smallAnswer  `json:"is"`
}

type smallAnswer struct {
	MassKg     float64   `json:"mass_kg"`
	CogM       *float64  `json:"cog_m"`
	LineKn     *float64  `json:"line_kn"`
	RunM       *float64  `json:"run_m"`
	BlockKn    *float64  `json:"block_kn"`
	DeviceKn   *float64  `json:"device_kn"`
	HandKn     *float64  `json:"hand_kn"`
	LowestM    *float64  `json:"lowest_m"`
	StressMpa  *float64  `json:"stress_mpa"`
	SecondKn   *float64  `json:"second_kn"`
	FarKn      *float64  `json:"far_kn"`
	SlingKn    []float64 `json:"sling_kn"`
	SlingLimit []float64 `json:"sling_limit_kn"`
	HookKn     *float64  `json:"hook_kn"`
	HookLimit  *float64  `json:"hook_limit_kn"`
	EnergyKj   *float64  `json:"energy_kj"`
}

// document writes the job as the board would.
func (s *smallJob) document() job.Job {
	j := jobtest.Stem()
	j.Trees[0].Wood = wood.Wood{Species: "northern-red-oak"}
	j.Trees[0].Readings = nil
	for _, row := range s.Stem[:len(s.Stem)-1] {
		j.Trees[0].Readings = append(j.Trees[0].Readings, job.Reading{AtM: row[0], Tape: job.Diameter, TapeM: row[1], CavityM: row[2]})
	}
	last := s.Stem[len(s.Stem)-1]
	j.Trees[0].HeightM, j.Trees[0].TopDiameterM = &last[0], &last[1]
	r := &j.Rigs[0]
	r.Tie.AboveM, r.SlackM, r.Block.BelowCutM, r.Block.Efficiency, r.Device.AtM = &s.Tie, &s.Slack, &s.BlockBelow, &s.Efficiency, &s.Device
	r.Catch = job.Catch{How: job.Locked}
	if s.Wraps > 0 {
		r.Catch = job.Catch{How: job.ByWraps, HandKn: &s.Hand}
		r.Device.Wraps, r.Device.Friction = &s.Wraps, &s.Friction
	}
	p := &j.Picks[0]
	p.Way, p.CutM, p.FallTowardsDeg = s.Way, &s.Cut, jobtest.Of(90)
	switch s.Way {
	case job.WayFromAbove:
		j.Site.Anchors = []job.Anchor{{ID: "over", Name: "beam", Kind: job.AnchorTree, HeightM: jobtest.Of(40)}, {ID: "aside", Name: "stump", Kind: job.AnchorTree, At: job.Spot{X: s.DeviceX}}}
		r.Block.Place = &job.Place{On: job.OnAnchor, Anchor: "over", AtM: s.BlockZ}
		r.Device.Place = &job.Place{On: job.OnAnchor, Anchor: "aside", AtM: s.DeviceZ}
	case job.WayTwoPoints:
		j.Site.Anchors = []job.Anchor{{ID: "one", Name: "first", Kind: job.AnchorTree, HeightM: jobtest.Of(40), At: job.Spot{X: s.A[0]}}, {ID: "two", Name: "second", Kind: job.AnchorTree, HeightM: jobtest.Of(40), At: job.Spot{X: s.B[0]}}}
		r.Block.Place = &job.Place{On: job.OnAnchor, Anchor: "one", AtM: s.A[1]}
		r.Second = &job.SecondLine{Name: "far block", Place: job.Place{On: job.OnAnchor, Anchor: "two", AtM: s.B[1]}}
		p.CarryM = &s.CarryZ
	case job.WayCrane:
		j.Site.Cranes = []job.Crane{{ID: "c", Name: "crane", At: job.Spot{Y: -10}, BoomM: 30, RiggingKg: s.RiggingKg, Chart: []crane.ChartRow{{RadiusM: 3, BoomM: 30, CapacityKg: s.CapacityKg}, {RadiusM: 12, BoomM: 30, CapacityKg: s.CapacityKg}}}}
		p.Rig, p.Lift = "", &job.Lift{Crane: "c"}
		for i, sling := range s.Slings {
			p.Lift.Slings = append(p.Lift.Slings, crane.Sling{Name: string(rune('a' + i)), AtM: sling[0], LengthM: sling[1], WllKn: s.WllKn, Hitch: crane.Choker})
		}
	case job.WayFree, job.WayThrown:
		p.Rig = ""
	}
	return j
}

// Whole small jobs, of every way down, come to what a separate program came to; in US units too.
func TestSmallJobsAgainstASeparateProgram(t *testing.T) {
	t.Parallel()
	jobs := []smallJob{}
	if err := json.Unmarshal(smallJobs, &jobs); err != nil || len(jobs) < 9 {
		t.Fatal(len(jobs), err)
	}
	for i := range jobs {
		s := &jobs[i]
		t.Run(s.Name, func(t *testing.T) {
			j := s.document()
			for _, system := range []units.System{units.Metric, units.US} {
				s.check(t, Assess(&j, Options{Pick: "p1", Units: system}))
			}
		})
	}
}

// check holds an assessment to the answer. The separate program sums in strips: 1 in 10,000.
func (s *smallJob) check(t *testing.T, a Assessment) {
	t.Helper()
	// Slung to either side of its balance while it stands it topples into its slings; how it hangs then is asked.
	if cannot := slices.DeleteFunc(slices.Clone(a.Picks[0].Faults), func(f space.OrderFault) bool { return s.Way == job.WayCrane && f.Code == course.FaultSlings }); a.Detail == nil || len(cannot) > 0 {
		t.Fatalf("not worked out: %v %v", a.Faults, a.Picks)
	}
	same := func(what string, got *float64, want *float64) {
		t.Helper()
		if want == nil {
			return
		}
		if got == nil || math.IsNaN(*got) || !(math.Abs(*got-*want) <= 1e-4*math.Max(0.1, math.Abs(*want))) {
			t.Errorf("%s: got %v, is %v", what, value(got), *want)
		}
	}
	peak := func(part string) *float64 {
		for i := range a.Detail.Ladder {
			if rung := &a.Detail.Ladder[i]; rung.Part == part {
				if s.Way == job.WayTwoPoints {
					// On the way across it may be held anywhere; how it comes onto both lines is asked elsewhere.
					return &rung.RestingKn
				}
				return rung.PeakKn
			}
		}
		return nil
	}
	is, piece := &s.Is, a.Detail.Piece
	same("mass", &piece.MassKg.High, &is.MassKg)
	same("balance", &piece.CogM, is.CogM)
	same("line", peak(hold.PartLine), is.LineKn)
	same("tie", peak(hold.PartTie), is.LineKn)
	same("block", peak(hold.PartBlock), is.BlockKn)
	same("sling of the block", peak(hold.PartSling), is.BlockKn)
	same("device", peak(hold.PartDevice), is.DeviceKn)
	same("hand", peak(hold.PartHand), is.HandKn)
	same("second line", peak(hold.PartSecond), is.SecondKn)
	same("second block", peak(hold.PartFar), is.FarKn)
	if is.RunM != nil {
		same("run", a.Detail.Catch.RunM, is.RunM)
	}
	if is.LowestM != nil {
		same("lowest", a.Detail.Room.LowestM, is.LowestM)
	}
	if got := a.Detail.Spar; is.StressMpa != nil && s.Way == job.WayPastBlock {
		// As it hangs; how it falls beside the stem is held against a beam of its own.
		if !(got.StressMpa >= *is.StressMpa) {
			t.Errorf("stem: got %v, as it hangs %v", got.StressMpa, *is.StressMpa)
		}
	} else if is.StressMpa != nil {
		same("stem", &got.StressMpa, is.StressMpa)
	}
	if is.EnergyKj != nil {
		same("energy", &a.Detail.Landing.EnergyKj, is.EnergyKj)
	}
	at := 0
	for i := range a.Detail.Ladder {
		rung := &a.Detail.Ladder[i]
		switch {
		case rung.Part == hold.PartSling && is.SlingKn != nil:
			same("crane sling "+rung.Name, &rung.RestingKn, &is.SlingKn[at])
			same("limit of it", rung.LimitKn, &is.SlingLimit[at])
			at++
		case rung.Part == hold.PartCrane:
			same("hook", rung.PeakKn, is.HookKn)
			same("chart", rung.LimitKn, is.HookLimit)
		}
	}
	if at != len(is.SlingKn) {
		t.Errorf("%d slings, are %d", at, len(is.SlingKn))
	}
}
