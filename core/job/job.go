// Package job holds the job document: the site, the tree as measured, the rigs, the
// picks in the order in which they come off, and the limits of the job, with the
// versions it has had and how two people's changes of one come together.
//
// The document keeps what was measured and chosen and nothing else. A setting that is
// absent stands at its default. A document may be unfinished or impossible: it is read
// all the same, and Faults names what contradicts itself.
//
// Lengths are in metres, masses in kilograms, forces in kilonewtons; heights are above
// the ground at the foot of the stem. On the plan x is east and y north; an azimuth is in
// degrees clockwise from north. Defaults are common practice, no source.
package job

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"

	"github.com/go-json-experiment/json/jsontext"

	"elkstay/core/intake"
	"elkstay/core/locker"
)

// MostPicks is how many picks a job may have.
const MostPicks = 200

// Format and Version mark the job document.
const (
	Format  = "elkstay-job"
	Version = 5
)

// A Job is one job document: format elkstay-job, version 5.
type Job struct {
	Format     string      `json:"format" enum:"elkstay-job" doc:"Always elkstay-job"`
	Version    int         `json:"version" minimum:"5" maximum:"5" doc:"Version of the format: 5"`
	Name       string      `json:"name" minLength:"1" maxLength:"120" doc:"What the crew calls the job"`
	Note       string      `json:"note,omitempty" maxLength:"4000" doc:"Anything worth keeping"`
	Site       Site        `json:"site"`
	Trees      []Tree      `json:"trees" nullable:"false" minItems:"1" maxItems:"12" doc:"In the order of the survey"`
	Rigs       []Rig       `json:"rigs" nullable:"false" maxItems:"20" doc:"How pieces are held"`
	Picks      []Pick      `json:"picks" nullable:"false" maxItems:"200" doc:"What comes off, first to last"`
	Ground     *Ground     `json:"ground,omitempty" doc:"What becomes of the wood once it lies; absent: all of it at its default"`
	Limits     Limits      `json:"limits"`
	Brief      Brief       `json:"brief,omitempty"`
	WorkOn     string      `json:"work_on,omitempty" maxLength:"10" doc:"The day it is planned for"`
	Facts      []Fact      `json:"facts,omitempty" maxItems:"5000" doc:"What happened: rows are added and none is changed or taken out; absent: nothing yet"`
	Exceptions []Exception `json:"exceptions,omitempty" maxItems:"200" doc:"Recorded reasons for planning with gear that is set aside or overdue"`
}

// Limits are this job's own, where it is held to something else than the crew's policy.
type Limits struct {
	DesignFactor *float64 `json:"design_factor,omitempty" minimum:"1" maximum:"30" doc:"Divides every breaking strength where no working load is marked; default the policy's, by kind of gear"`
	WoodFactor   *float64 `json:"wood_factor,omitempty" minimum:"1" maximum:"20" doc:"Divides the green rupture strength of the standing stem"`
	PieceKg      *float64 `json:"piece_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Heaviest piece the crew will take on a line, kg"`
	ThrowKg      *float64 `json:"throw_kg,omitempty" exclusiveMinimum:"0" maximum:"200" doc:"Heaviest piece thrown by hand, kg"`
	HandKn       *float64 `json:"hand_kn,omitempty" minimum:"0.01" maximum:"5" doc:"What one person may hold on the line, kN"`
	ClearM       *float64 `json:"clear_m,omitempty" minimum:"0" maximum:"50" doc:"Room to keep between the piece and what it must not touch, m"`
	RunM         *float64 `json:"run_m,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Longest run the crew will take, m"`
	CloseFromPct *float64 `json:"close_from_pct,omitempty" minimum:"1" maximum:"100" doc:"Per cent of a limit from which it counts as close"`
}

// Brief is what the paper that goes up the tree says beside the figures.
type Brief struct {
	Lead      string `json:"lead,omitempty" maxLength:"80" doc:"The competent person in charge"`
	PlanB     string `json:"plan_b,omitempty" maxLength:"1200" doc:"When the first way does not work"`
	PlanC     string `json:"plan_c,omitempty" maxLength:"1200" doc:"When that does not work either"`
	Emergency string `json:"emergency,omitempty" maxLength:"600" doc:"Where help comes to, who calls, what is said"`
	Unknown   string `json:"unknown,omitempty" maxLength:"1200" doc:"What is not known, in the crew's words"`
}

// NewJob returns an empty job of the given name, with one rig to fill in.
func NewJob(name string) Job {
	return Job{
		Format: Format, Version: Version, Name: name,
		Site:  Site{Targets: []Target{}, Zones: []Zone{}, Sectors: []Sector{}, Anchors: []Anchor{}, Cranes: []Crane{}},
		Trees: []Tree{{ID: "1", Measured: Measured{Readings: []Reading{}, Limbs: []Limb{}, Defects: []Defect{}}}},
		Rigs:  []Rig{{ID: "r1", Name: "Rig 1", Redirects: []Redirect{}}}, Picks: []Pick{},
	}
}

// ReadJob reads a job document of this or an older version. The error is
// intake.Faults; a version newer than ours is refused by name.
func ReadJob(data []byte) (Job, error) {
	if format, version := marked(data); format == Format {
		switch {
		case version > Version:
			var faults intake.Faults
			faults.Add("body.version", version, fmt.Sprintf("at most %d", Version),
				"this job is written in version %d of the format; this program reads up to version %d", version, Version)
			return Job{}, faults
		case version == 1:
			return readFirst(data)
		case version == 2:
			return readSecond(data)
		case version == 3:
			return readThird(data)
		case version == 4:
			return readFourth(data)
		}
	}
	var job Job
	if err := intake.Decode(data, &job); err != nil {
		return Job{}, err
	}
	return settled(job)
}

// marked is the format and the version that a document says it is written in; 0: none. What is
// between them is passed over.
func marked(data []byte) (format string, version int64) {
	decoder := jsontext.NewDecoder(bytes.NewBuffer(data), jsontext.AllowDuplicateNames(true), jsontext.AllowInvalidUTF8(true))
	if token, err := decoder.ReadToken(); err != nil || token.Kind() != '{' {
		return "", 0
	}
	for decoder.PeekKind() == '"' {
		token, err := decoder.ReadToken()
		if err != nil {
			break
		}
		name := token.String()
		value, err := decoder.ReadValue()
		if err != nil {
			break
		}
		switch name {
		case "format":
			_ = json.Unmarshal(value, &format)
		case "version":
			version, _ = strconv.ParseInt(string(value), 10, 64)
		}
	}
	return format, version
}

// settled gives a document its empty lists, or names the ids that stand twice in it.
func settled(job Job) (Job, error) {
	job.fillLists()
	if faults := job.namesTwice(); len(faults) > 0 {
		return Job{}, faults
	}
	job.NoteFacts()
	return job, nil
}

// TreeIndex is the place of a tree in the document; of no id the first; −1: there is none
// of that id.
func (j *Job) TreeIndex(id string) int {
	if id == "" {
		return 0
	}
	return slices.IndexFunc(j.Trees, func(t Tree) bool { return t.ID == id })
}

// fillLists makes every absent list an empty one, so that a document written out again
// has them all.
func (j *Job) fillLists() {
	s := &j.Site
	s.Targets, s.Zones, s.Sectors = filled(s.Targets), filled(s.Zones), filled(s.Sectors)
	s.Anchors, s.Cranes = filled(s.Anchors), filled(s.Cranes)
	for i := range j.Trees {
		t := &j.Trees[i]
		t.Readings, t.Limbs, t.Defects = filled(t.Readings), filled(t.Limbs), filled(t.Defects)
	}
	j.Rigs, j.Picks = filled(j.Rigs), filled(j.Picks)
	for i := range j.Rigs {
		j.Rigs[i].Redirects = filled(j.Rigs[i].Redirects)
	}
	for i := range s.Cranes {
		s.Cranes[i].Chart = filled(s.Cranes[i].Chart)
	}
}

func filled[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// Faults names what contradicts itself in the document.
func (j *Job) Faults() (faults intake.Faults) {
	for i := range j.Trees {
		faults.Join(j.Trees[i].faults(fmt.Sprintf("body.trees[%d]", i)))
		for k := range j.Trees[i].Tied {
			if tied := &j.Trees[i].Tied[k]; j.TreeIndex(tied.To) == i || j.TreeIndex(tied.To) < 0 {
				faults.Add(fmt.Sprintf("body.trees[%d].tied[%d].to", i, k), tied.To, "the id of another tree", "%s is tied to a tree that is not there: %q", j.Trees[i].Title(), tied.To)
			}
		}
	}
	faults.Join(j.Site.faults())
	faults.Join(j.rigFaults())
	faults.Join(j.steadyFaults())
	faults.Join(j.groundFaults())
	faults.Join(j.factFaults())
	day := func(path, text string) {
		if text != "" && !locker.IsDay(text) {
			faults.Add(path, text, "a day such as 2026-03-31", "%q is no day of the calendar", text)
		}
	}
	day("body.work_on", j.WorkOn)
	for i := range j.Exceptions {
		day(fmt.Sprintf("body.exceptions[%d].on", i), j.Exceptions[i].On)
	}
	if j.Ground != nil {
		for i := range j.Ground.Trucks {
			for k := range j.Ground.Trucks[i].Gone {
				day(fmt.Sprintf("body.ground.trucks[%d].gone[%d].on", i, k), j.Ground.Trucks[i].Gone[k].On)
			}
		}
	}
	return faults
}

// namesTwice refuses two things of one kind under one id: nothing could refer to them,
// and two people's changes could not be told apart.
func (j *Job) namesTwice() (faults intake.Faults) {
	check := func(path string, ids []string) {
		for i, id := range ids {
			if k := slices.Index(ids, id); k < i {
				faults.Add(fmt.Sprintf("%s[%d].id", path, i), id, "an id of its own", "the id %q stands twice, at %d and %d", id, k, i)
			}
		}
	}
	check("body.site.targets", idsOf(j.Site.Targets, func(t Target) string { return t.ID }))
	check("body.site.zones", idsOf(j.Site.Zones, func(z Zone) string { return z.ID }))
	check("body.site.sectors", idsOf(j.Site.Sectors, func(s Sector) string { return s.ID }))
	check("body.site.anchors", idsOf(j.Site.Anchors, func(a Anchor) string { return a.ID }))
	check("body.site.cranes", idsOf(j.Site.Cranes, func(c Crane) string { return c.ID }))
	check("body.site.posts", idsOf(j.Site.Posts, func(p Post) string { return p.ID }))
	check("body.site.escapes", idsOf(j.Site.Escapes, func(e Escape) string { return e.ID }))
	check("body.trees", idsOf(j.Trees, func(t Tree) string { return t.ID }))
	for i := range j.Trees {
		check(fmt.Sprintf("body.trees[%d].limbs", i), idsOf(j.Trees[i].Limbs, func(l Limb) string { return l.ID }))
		check(fmt.Sprintf("body.trees[%d].defects", i), idsOf(j.Trees[i].Defects, func(d Defect) string { return d.ID }))
		check(fmt.Sprintf("body.trees[%d].tied", i), idsOf(j.Trees[i].Tied, func(t Tied) string { return t.ID }))
	}
	check("body.exceptions", idsOf(j.Exceptions, func(e Exception) string { return e.ID }))
	check("body.rigs", idsOf(j.Rigs, func(r Rig) string { return r.ID }))
	check("body.facts", idsOf(j.Facts, func(f Fact) string { return f.ID }))
	check("body.picks", idsOf(j.Picks, func(p Pick) string { return p.ID }))
	for i := range j.Picks {
		if f := j.Picks[i].Fell; f != nil {
			check(fmt.Sprintf("body.picks[%d].fell.lines", i), idsOf(f.Lines, func(l FellLine) string { return l.ID }))
			check(fmt.Sprintf("body.picks[%d].fell.straps", i), idsOf(f.Straps, func(s Strap) string { return s.ID }))
			check(fmt.Sprintf("body.picks[%d].fell.beds", i), idsOf(f.Beds, func(b Bed) string { return b.ID }))
		}
	}
	if g := j.Ground; g != nil {
		check("body.ground.logs", idsOf(g.Logs, func(l Logging) string { return l.ID }))
		check("body.ground.moves", idsOf(g.Moves, func(m Move) string { return m.ID }))
		check("body.ground.trucks", idsOf(g.Trucks, func(t Truck) string { return t.ID }))
		for i := range g.Trucks {
			check(fmt.Sprintf("body.ground.trucks[%d].gone", i), idsOf(g.Trucks[i].Gone, func(l Gone) string { return l.ID }))
		}
	}
	return faults
}

func idsOf[T any](list []T, id func(T) string) []string {
	ids := make([]string, len(list))
	for i := range list {
		ids[i] = id(list[i])
	}
	return ids
}
