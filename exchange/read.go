package exchange

import (
	"bytes"
	"fmt"
	"math"
	"path"
	"slices"
	"strings"

	"elkstay/core/job"
	"elkstay/sheet"
)

// Told is what somebody says of a file.
type Told struct {
	UnitM float64 `json:"unit_m,omitempty" minimum:"0" maximum:"10000" doc:"Metres in a unit of a drawing that does not say its own"`
	Swap  bool    `json:"swap,omitempty" doc:"What was read as east is north, and the other way round"`
	Foot  int     `json:"foot,omitempty" minimum:"0" maximum:"20000" doc:"Number of the point, from 1, that is the foot of the job's first tree; absent: told from the file"`
	As    []As    `json:"as,omitempty" maxItems:"200" doc:"What things are whose names say nothing"`
}

// As says what the things of a name are.
type As struct {
	Name string `json:"name" maxLength:"120"`
	Kind string `json:"kind" enum:"tree,drop zone,target,anchor,way out,leave"`
	Is   string `json:"is,omitempty" maxLength:"20" doc:"Kind of a target or an anchor"`
}

// What a part of a site does.
const (
	Does     = "new"
	Changes  = "change"
	Same     = "same"
	LeftOut  = "left"
	Unknown  = "unknown"
	MaxParts = 2000
)

// A Part is one thing of a file as a site would have it.
type Part struct {
	Number int    `json:"number" doc:"Of the thing in the file, from 1"`
	Name   string `json:"name"`
	Kind   string `json:"kind" doc:"Empty: its name says nothing"`
	Shape  string `json:"shape" enum:"point,line,area"`
	Does   string `json:"does" enum:"new,change,same,left,unknown"`
	Why    string `json:"why" doc:"What is said of it: why it is left out, what was assumed"`
	ID     string `json:"id" doc:"Of what it changes; empty: it is new"`
	// One of them, as the site would have it; of something new without an id.
	Target *job.Target `json:"target,omitempty"`
	Zone   *job.Zone   `json:"zone,omitempty"`
	Anchor *job.Anchor `json:"anchor,omitempty"`
	Escape *job.Escape `json:"escape,omitempty"`
	Foot   *job.Spot   `json:"foot,omitempty" doc:"Of a tree"`
}

// A Read is what a file would do to a site.
type Read struct {
	Parts   []Part     `json:"parts" nullable:"false"`
	Moved   string     `json:"moved" doc:"How the file's coordinates were laid on the plan"`
	Asks    string     `json:"asks" enum:"unit,order," doc:"What the file does not say: the unit of a drawing, which column is east; empty: nothing"`
	Earth   *job.Earth `json:"earth,omitempty" doc:"Where on earth the plan would lie, where it has no place yet"`
	Left    []string   `json:"left" nullable:"false" doc:"What of the file is not read"`
	LeftOut int        `json:"left_out" doc:"Things beyond those given"`
}

// Open reads a file for a job. The error is intake.Faults.
func Open(document *job.Job, name string, data []byte, told Told) (Read, error) {
	r := Read{Parts: []Part{}, Left: []string{}}
	var plan []Feature
	var err error
	earthly := false
	switch ending := strings.ToLower(path.Ext(name)); {
	case len(bytes.TrimSpace(data)) == 0:
		return r, fault(0, "GeoJSON, DXF or a list of points", "the file is empty")
	case ending == ".dxf" || bytes.Contains(data[:min(len(data), 400)], []byte("SECTION")):
		var asks bool
		var left map[string]int
		plan, asks, left, err = readDXF(data, told.UnitM)
		if asks {
			r.Asks = "unit"
		}
		for kind, n := range left {
			r.Left = append(r.Left, fmt.Sprintf("%d of %s", n, kind))
		}
		slices.Sort(r.Left)
	case bytes.HasPrefix(bytes.TrimSpace(data), []byte("{")):
		var local bool
		if plan, local, err = isPlan(data); local {
			break
		}
		var lies *job.Earth
		plan, lies, err = readGeoJSON(data, document.Site.Earth)
		if earthly = true; document.Site.Earth == nil {
			r.Earth = lies
		}
	default:
		file, readErr := sheet.Read(data)
		if readErr != nil {
			return r, readErr
		}
		var asks bool
		if plan, asks, err = readSurvey(file); asks {
			r.Asks = "order"
		}
	}
	if err != nil {
		return r, err
	}
	plan = slices.DeleteFunc(plan, func(f Feature) bool { return len(f.Points) == 0 })
	if len(plan) > MaxParts {
		r.LeftOut = len(plan) - MaxParts
		plan = plan[:MaxParts]
	}
	for i := range plan {
		for k := range plan[i].Points {
			if p := &plan[i].Points[k]; told.Swap && !earthly {
				p[0], p[1] = p[1], p[0]
			}
		}
		for _, as := range told.As {
			if plan[i].Kind == "" && as.Name == named(&plan[i]) {
				plan[i].Kind, plan[i].Is = as.Kind, as.Is
			}
		}
	}
	r.lay(document, plan, told, earthly && document.Site.Earth != nil)
	reads := reading{document, map[string]bool{}}
	for i := range plan {
		r.Parts = append(r.Parts, reads.partOf(&plan[i], i+1))
	}
	return r, nil
}

// within is how far from its origin a plan reaches, m.
const within = 500

// lay moves what was read so that it lies on the plan: the foot of the first tree on the point that is said to be it, or that is the
// only tree there is; else the middle of all onto that of the plan, where it lies beyond the plan at all. What has its place on earth, as
// the plan has, stays where it is.
func (r *Read) lay(document *job.Job, plan []Feature, told Told, placed bool) {
	if placed || len(plan) == 0 {
		if placed {
			r.Moved = "By its place on earth."
		}
		return
	}
	low, high := plan[0].Points[0], plan[0].Points[0]
	trees := []int{}
	for i := range plan {
		for _, p := range plan[i].Points {
			low, high = [2]float64{math.Min(low[0], p[0]), math.Min(low[1], p[1])}, [2]float64{math.Max(high[0], p[0]), math.Max(high[1], p[1])}
		}
		if plan[i].Kind == KindTree && plan[i].Shape == Point {
			trees = append(trees, i)
		}
	}
	foot := document.Trees[0].Foot()
	var from [2]float64
	switch {
	case told.Foot > 0 && told.Foot <= len(plan):
		from = plan[told.Foot-1].Points[0]
		r.Moved = fmt.Sprintf("%s is laid on the foot of %s.", plan[told.Foot-1].Name, document.Trees[0].Title())
	case low[0] >= -within && low[1] >= -within && high[0] <= within && high[1] <= within && r.Earth == nil:
		r.Moved = "As it is: its coordinates are taken for those of the plan."
		return
	case len(trees) == 1 && len(document.Trees) == 1:
		from = plan[trees[0]].Points[0]
		r.Moved = fmt.Sprintf("%s, the one tree of the file, is laid on the foot of %s.", plan[trees[0]].Name, document.Trees[0].Title())
	default:
		from, foot = [2]float64{(low[0] + high[0]) / 2, (low[1] + high[1]) / 2}, job.Spot{}
		r.Moved = "Its middle is laid on the origin of the plan: say which point is the foot of the first tree."
	}
	if r.Earth != nil {
		// The plan's origin lies where it comes to lie.
		at := frameOf(r.Earth).lonLat([2]float64{from[0] - foot.X, from[1] - foot.Y})
		r.Earth.LonDeg, r.Earth.LatDeg = math.Round(at[0]/degree)*degree, math.Round(at[1]/degree)*degree
	}
	for i := range plan {
		for k := range plan[i].Points {
			plan[i].Points[k][0] += foot.X - from[0]
			plan[i].Points[k][1] += foot.Y - from[1]
		}
	}
}
