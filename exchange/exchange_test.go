package exchange

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"slices"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/units"
)

// demo is a sample job, somewhere on earth where that is asked for, and its plan.
func demo(t *testing.T, earth *job.Earth) (job.Job, []Feature) {
	t.Helper()
	data, err := os.ReadFile("../demo/tern-quay.json")
	if err != nil {
		t.Fatal(err)
	}
	document, err := job.ReadJob(data)
	if err != nil {
		t.Fatal(err)
	}
	document.Site.Earth = earth
	a := assess.Assess(&document, assess.Options{Units: units.Metric})
	return document, Plan(&document, &a)
}

// Places of a plan on WGS 84, by PROJ 9.1 (its topocentric and cart steps), to the millimetre: 1e-8° is 1.1 mm.
func TestPlacesOnEarth(t *testing.T) {
	for _, c := range []struct {
		at       job.Earth
		x, y     float64
		lon, lat float64
	}{
		{job.Earth{LatDeg: 52.1, LonDeg: 4.3}, 300, -200, 4.304377796, 52.098202477},
		{job.Earth{LatDeg: 52.1, LonDeg: 4.3, NorthDeg: 30}, 300, -200, 4.302331959, 52.097095265},
		{job.Earth{LatDeg: -33.9, LonDeg: 151.2, NorthDeg: 275}, -450, 120, 151.198283428, -33.903947216},
		{job.Earth{LatDeg: 68.5, LonDeg: -15}, 500, 500, -14.987777854, 68.504482151},
		{job.Earth{LonDeg: 179.9999, NorthDeg: 90}, 100, 0, 179.9999, -0.000904369},
	} {
		f := frameOf(&c.at)
		got := f.lonLat([2]float64{c.x, c.y})
		if math.Abs(got[0]-c.lon) > 2e-9 || math.Abs(got[1]-c.lat) > 2e-9 {
			t.Errorf("%+v: %.9f, %.9f", c.at, got[0], got[1])
		}
		// Back on the plane: the height that a plane gains over 700 m, 4 cm, takes less than a tenth of a millimetre of it.
		back := f.place(got)
		if math.Abs(back[0]-c.x) > 0.01 || math.Abs(back[1]-c.y) > 0.01 {
			t.Errorf("%+v: back at %v", c.at, back)
		}
	}
}

// GeoJSON is by RFC 7946, and there only with a place on earth: every ring closed and counterclockwise by the shoelace formula, no
// coordinate but degrees near the place.
func TestGeoJSONIsOnEarth(t *testing.T) {
	document, plan := demo(t, &job.Earth{LatDeg: 52.1, LonDeg: 4.3, NorthDeg: 12})
	data, err := GeoJSON(document.Site.Earth, plan)
	if err != nil {
		t.Fatal(err)
	}
	var all struct {
		Type     string `json:"type"`
		Features []struct {
			Geometry struct {
				Type        string          `json:"type"`
				Coordinates json.RawMessage `json:"coordinates"`
			} `json:"geometry"`
			Properties map[string]any `json:"properties"`
		} `json:"features"`
	}
	if err := json.Unmarshal(data, &all); err != nil || all.Type != "FeatureCollection" {
		t.Fatal(err, all.Type)
	}
	counted, rings := map[string]int{}, 0
	for _, f := range all.Features {
		counted[f.Properties["kind"].(string)]++
		var points [][2]float64
		switch f.Geometry.Type {
		case "Point":
			var p [2]float64
			err = json.Unmarshal(f.Geometry.Coordinates, &p)
			points = append(points, p)
		case "LineString":
			err = json.Unmarshal(f.Geometry.Coordinates, &points)
		case "Polygon":
			var polygon [][][2]float64
			if err = json.Unmarshal(f.Geometry.Coordinates, &polygon); err == nil {
				points = polygon[0]
				rings++
				area := 0.0
				for i := range points[1:] {
					area += (points[i+1][0] - points[i][0]) * (points[i+1][1] + points[i][1]) / 2
				}
				if len(points) < 4 || points[0] != points[len(points)-1] || area >= 0 {
					t.Errorf("%v: a ring of area %g", f.Properties, -area)
				}
			}
		}
		if err != nil || len(points) == 0 {
			t.Errorf("%v: %v", f.Properties, err)
		}
		for _, p := range points {
			if math.Abs(p[0]-4.3) > 0.01 || math.Abs(p[1]-52.1) > 0.01 {
				t.Errorf("%v lies at %v", f.Properties, p)
			}
		}
	}
	site := &document.Site
	for kind, n := range map[string]int{"tree": len(document.Trees), "drop zone": len(site.Zones), "target": len(site.Targets), "sector": len(site.Sectors), "anchor": len(site.Anchors),
		"post": len(site.Posts), "way out": len(site.Escapes), "limb": len(document.Trees[0].Limbs)} {
		if counted[kind] != n {
			t.Errorf("%d of kind %s, want %d", counted[kind], kind, n)
		}
	}
	if rings == 0 {
		t.Error("no ring")
	}
	if _, err := GeoJSON(nil, plan); err == nil || !strings.Contains(err.Error(), "no place on earth") {
		t.Errorf("without a place: %v", err)
	}
}

// What goes out comes in as the same, in every form: nothing moves, nothing is made twice.
func TestWhatGoesOutComesInAsTheSame(t *testing.T) {
	document, plan := demo(t, &job.Earth{LatDeg: 52.1, LonDeg: 4.3, NorthDeg: 12})
	geo, err := GeoJSON(document.Site.Earth, plan)
	if err != nil {
		t.Fatal(err)
	}
	own, err := JSON(document.Name, plan)
	if err != nil {
		t.Fatal(err)
	}
	for name, data := range map[string][]byte{"site.geojson": geo, "site.json": own, "site.dxf": DXF(plan)} {
		read, err := Open(&document, name, data, Told{})
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		if len(read.Parts) != len(plan) || read.Asks != "" || read.Earth != nil {
			t.Errorf("%s: %d parts of %d, asks %q", name, len(read.Parts), len(plan), read.Asks)
		}
		for i, p := range read.Parts {
			want := Same
			if k := plan[i].Kind; k == KindSector || k == KindCrane || k == KindPost || k == KindLimb {
				want = LeftOut
			}
			if p.Does != want {
				t.Errorf("%s: %s %s: %s %s", name, p.Kind, p.Name, p.Does, p.Why)
			}
		}
	}
	// A fence moved by a metre is a change of the fence that is there, and of nothing else.
	for i := range plan {
		if plan[i].Is == "fence" {
			plan[i].Points[0][0]++
		}
	}
	read, err := Open(&document, "site.dxf", DXF(plan), Told{})
	if err != nil {
		t.Fatal(err)
	}
	for i, p := range read.Parts {
		if changed := p.Does == Changes; changed != (plan[i].Is == "fence") || changed && (p.Target.ID == "" || p.Target.ToM == 0) {
			t.Errorf("%s: %s %+v", p.Name, p.Does, p.Target)
		}
	}
}

// drawing is a DXF of some entities, in a unit.
func drawingOf(unit int, entities string) []byte {
	pairs := "0 SECTION 2 HEADER 9 $INSUNITS 70 " + fmt.Sprint(unit) + " 0 ENDSEC 0 SECTION 2 ENTITIES " + entities + " 0 ENDSEC 0 EOF"
	return []byte(strings.ReplaceAll(pairs, " ", "\n") + "\n")
}

// What other programs draw, in their units; expected places by hand. What is round is drawn around, never smaller than it is.
func TestDrawingsOfOthersAreRead(t *testing.T) {
	document, _ := demo(t, nil)
	read := func(unit int, entities string, told Told) Read {
		t.Helper()
		r, err := Open(&document, "plan.dxf", drawingOf(unit, entities), told)
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	// 4000 by 2000 mm, closed; a line; a block put in; what is not read is said.
	r := read(4, "0 LWPOLYLINE 8 HOUSE 90 4 70 1 10 10000 20 0 10 14000 20 0 10 14000 20 2000 10 10000 20 2000 0 LINE 8 FENCE 10 0 20 5000 11 8000 21 5000 0 INSERT 8 X 2 OAK-TREE 10 -30000 20 1000 0 SPLINE 8 PATH", Told{})
	if len(r.Parts) != 3 || len(r.Left) != 1 || r.Left[0] != "1 of SPLINE" {
		t.Fatalf("%+v", r)
	}
	house, fence, tree := r.Parts[0], r.Parts[1], r.Parts[2]
	if o := house.Target.Outline; house.Target.Kind != "building" || len(o) != 4 || o[2] != (job.Spot{X: 14, Y: 2}) || !strings.Contains(house.Why, "30 m are taken") {
		t.Errorf("%+v", house)
	}
	if o := fence.Target.Outline; fence.Target.Kind != "fence" || len(o) != 2 || o[1] != (job.Spot{X: 8, Y: 5}) {
		t.Errorf("%+v", fence)
	}
	if b := tree.Target.Box; tree.Target.Kind != "tree" || b.Min != (job.Spot{X: -34, Y: -3}) {
		t.Errorf("%+v", tree)
	}
	// A circle of 300 ft radius: every edge outside it, and no more than 1 % of it.
	r = read(2, "0 CIRCLE 8 POND 10 10 20 10 40 300", Told{})
	round := r.Parts[0].Target.Outline
	for i, p := range round {
		q := round[(i+1)%len(round)]
		if d := math.Hypot((p.X+q.X)/2-3.048, (p.Y+q.Y)/2-3.048) / 91.44; d < 0.9999 || d > 1.01 {
			t.Errorf("an edge at %.5f of the radius", d)
		}
	}
	// A half circle by its bulge of 1, from (0,0) to (2,0): it passes through (1,−1), on the right of the way there.
	r = read(6, "0 LWPOLYLINE 8 WALL 90 2 70 0 10 0 20 0 42 1 10 2 20 0", Told{})
	low := 0.0
	for _, p := range r.Parts[0].Target.Outline {
		low = math.Min(low, p.Y)
	}
	if low > -1 || low < -1.02 {
		t.Errorf("the half circle reaches %.3f", low)
	}
	// Without a unit it is asked for, and taken as told.
	if r = read(0, "0 LINE 8 FENCE 10 0 20 0 11 10 21 0", Told{}); r.Asks != "unit" {
		t.Errorf("asks %q", r.Asks)
	}
	if r = read(0, "0 LINE 8 FENCE 10 0 20 0 11 10 21 0", Told{UnitM: 0.3048}); r.Parts[0].Target.Outline[1].X != 3.05 {
		t.Errorf("%+v", r.Parts[0].Target)
	}
	// A crown drawn around is what must not be hit, as far as it reaches; that of a tree of this job is not.
	foot := document.Trees[0].Foot()
	r = read(6, fmt.Sprintf("0 CIRCLE 8 TREES 10 30 20 5 40 3 0 CIRCLE 8 TREES 10 %g 20 %g 40 4", foot.X+0.5, foot.Y), Told{})
	if own, other := r.Parts[1], r.Parts[0]; own.Does != LeftOut || other.Target == nil || other.Target.Kind != "tree" || other.Target.ToM != 40 || len(other.Target.Outline) != 24 {
		t.Errorf("%+v", r.Parts)
	}
	// Words in other words: a street is a road, and a lamp post, a climbing frame and a system are nobody knows what, so that they are asked about.
	r = read(6, "0 LINE 8 STREET 10 0 20 0 11 10 21 0 0 POINT 8 LAMP-POST 10 1 20 1 0 POINT 8 CLIMB 10 1 20 2", Told{})
	if r.Parts[0].Target.Kind != "road" || r.Parts[1].Does != Unknown || r.Parts[2].Does != Unknown {
		t.Errorf("%+v", r.Parts)
	}
	// Several of one name are several: each of the site's is matched once, the nearest first, and read again nothing is new or fused.
	three := "0 LINE 8 FENCE 10 0 20 0 11 9 21 0 0 LINE 8 FENCE 10 0 20 20 11 9 21 20 0 LINE 8 FENCE 10 0 20 40 11 9 21 40"
	fenced := document
	fenced.Site.Targets = nil
	for i, p := range read(6, three, Told{}).Parts {
		p.Target.ID = fmt.Sprint("f", i)
		fenced.Site.Targets = append([]job.Target{*p.Target}, fenced.Site.Targets...)
	}
	again, err := Open(&fenced, "plan.dxf", drawingOf(6, three+" 0 LINE 8 FENCE 10 0 20 60 11 9 21 60"), Told{})
	if err != nil {
		t.Fatal(err)
	}
	for i, p := range again.Parts {
		if i < 3 && (p.Does != Same || p.ID != fmt.Sprint("f", i)) || i == 3 && (p.Does != Does || p.ID != "") {
			t.Errorf("%d: %s %s", i, p.Does, p.ID)
		}
	}
	// What its layer does not name is asked for by name, and taken as told.
	if r = read(6, "0 POINT 8 B12 10 1 20 1", Told{}); r.Parts[0].Does != Unknown {
		t.Errorf("%+v", r.Parts[0])
	}
	if r = read(6, "0 POINT 8 B12 10 1 20 1", Told{As: []As{{"B12", KindAnchor, "vehicle"}}}); r.Parts[0].Anchor == nil || r.Parts[0].Anchor.Kind != "vehicle" {
		t.Errorf("%+v", r.Parts[0])
	}
}

// A drawing that a program of others wrote (testdata/outside.py, ezdxf 0.18) is read as it was drawn there.
func TestADrawingOfAnotherProgramIsRead(t *testing.T) {
	document, _ := demo(t, nil)
	data, err := os.ReadFile("testdata/outside.dxf")
	if err != nil {
		t.Fatal(err)
	}
	r, err := Open(&document, "outside.dxf", data, Told{})
	if err != nil || len(r.Parts) != 6 || len(r.Left) != 0 || r.Asks != "" {
		t.Fatalf("%v %+v", err, r)
	}
	for i, want := range []struct {
		name, is string
		corners  int
		last     job.Spot
	}{{"WALL", "fence", 13, job.Spot{X: 2}}, {"POND", "water", 24, job.Spot{}}, {"shed", "building", 4, job.Spot{X: 10, Y: 3}}, {"FENCE", "fence", 2, job.Spot{X: 8, Y: 9}}, {"0 OAK TREE", "tree", 4, job.Spot{X: -24, Y: 8}}, {"KERB", "road", 7, job.Spot{Y: 5}}} {
		p := r.Parts[i]
		corners := p.Target.Corners()
		if p.Name != want.name || p.Target.Kind != want.is || len(corners) != want.corners || want.last != (job.Spot{}) && corners[len(corners)-1] != want.last {
			t.Errorf("%+v %+v", p, corners)
		}
	}
}

// A surveyor's list in a national grid, with a decimal comma, is laid with its one tree on the foot of the job's; the shapes follow their
// codes.
func TestASurveyorsListIsRead(t *testing.T) {
	document, _ := demo(t, nil)
	foot := document.Trees[0].Foot()
	list := "point;easting;northing;height;code\n1;512340,25;181200,50;12,1;TREE\n2;512350,25;181200,50;12;FENCE 1\n3;512350,25;181210,50;12;FENCE 1\n" +
		"4;512330,25;181190,50;12;SHED\n5;512334,25;181190,50;12;SHED\n6;512334,25;181193,50;12;SHED\n7;512330,25;181190,50;12;SHED\n8;512340,25;182200,50;12;FENCE 2\n9;512340,25;182201,50;12;FENCE 2\n"
	r, err := Open(&document, "points.csv", []byte(list), Told{})
	if err != nil {
		t.Fatal(err)
	}
	if len(r.Parts) != 4 || !strings.Contains(r.Moved, "the one tree of the file") || r.Asks != "" {
		t.Fatalf("%+v", r)
	}
	if p := r.Parts[0]; p.Does != Same || p.ID != document.Trees[0].ID {
		t.Errorf("%+v", p)
	}
	if o := r.Parts[1].Target.Outline; len(o) != 2 || o[1] != (job.Spot{X: cm(foot.X + 10), Y: cm(foot.Y + 10)}) {
		t.Errorf("%+v", o)
	}
	if o := r.Parts[2].Target.Outline; len(o) != 3 || r.Parts[2].Target.Kind != "building" {
		t.Errorf("%+v", r.Parts[2].Target)
	}
	if p := r.Parts[3]; p.Does != LeftOut || !strings.Contains(p.Why, "500 m") {
		t.Errorf("%+v", p)
	}
	// Without heads: north before east, and which is which is asked; told to be the other way round, it is.
	bare := "1,20.5,10.25,3,FENCE\n2,30.5,10.25,3,FENCE\n"
	for swap, want := range map[bool]job.Spot{false: {X: 10.25, Y: 20.5}, true: {X: 20.5, Y: 10.25}} {
		if r, err = Open(&document, "points.txt", []byte(bare), Told{Swap: swap}); err != nil || r.Asks != "order" || r.Parts[0].Target.Outline[0] != want {
			t.Errorf("%v: %v %+v", swap, err, r)
		}
	}
}

// GeoJSON of others gives a plan without a place one, and metres are never taken for degrees.
func TestGeoJSONOfOthers(t *testing.T) {
	document, _ := demo(t, nil)
	house := `{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"building":"yes"},"geometry":{"type":"MultiPolygon","coordinates":[[[[4.3,52.1],[4.3002,52.1],[4.3002,52.1001],[4.3,52.1001],[4.3,52.1]]]]}},` +
		`{"type":"Feature","properties":{"natural":"tree"},"geometry":{"type":"Point","coordinates":[4.3003,52.1]}},{"type":"Feature","properties":null,"geometry":null},{"type":"Feature","properties":null,"geometry":{"type":"LineString","coordinates":[]}}]}`
	r, err := Open(&document, "house.geojson", []byte(house), Told{Foot: 2})
	if err != nil || len(r.Parts) != 2 || r.Earth == nil {
		t.Fatalf("%v %+v", err, r)
	}
	// At 52.1° a degree of longitude is 68.5 km and one of latitude 111.25 km (by the series of WGS 84): 13.7 by 11.13 m.
	o := r.Parts[0].Target.Outline
	if len(o) != 4 || math.Abs(o[1].X-o[0].X-13.7) > 0.03 || math.Abs(o[2].Y-o[1].Y-11.13) > 0.02 {
		t.Errorf("%+v", o)
	}
	if p := r.Parts[1]; p.Does != Same || !strings.Contains(r.Moved, "the foot of") {
		t.Errorf("%s %+v", r.Moved, p)
	}
	// The tree lies where it did, now by way of the plan's origin.
	foot := document.Trees[0].Foot()
	if at := frameOf(r.Earth).lonLat([2]float64{foot.X, foot.Y}); math.Abs(at[0]-4.3003) > 1e-7 || math.Abs(at[1]-52.1) > 1e-7 {
		t.Errorf("the tree lies at %v", at)
	}
	// What has no name at all is asked about by what it is shown as, and taken as told.
	bare := []byte(`{"type":"Feature","properties":{},"geometry":{"type":"Point","coordinates":[4.3,52.1]}}`)
	if r, err = Open(&document, "a.geojson", bare, Told{}); err != nil || r.Parts[0].Does != Unknown {
		t.Fatalf("%v %+v", err, r)
	}
	if r, _ = Open(&document, "a.geojson", bare, Told{As: []As{{r.Parts[0].Name, KindAnchor, "tree"}}}); r.Parts[0].Anchor == nil {
		t.Errorf("%+v", r.Parts[0])
	}
	for says, text := range map[string]string{
		"no degrees":                 strings.Replace(house, "4.3,52.1]", "512340,181200]", 1),
		"a reference system":         strings.Replace(house, `"features"`, `"crs":{"type":"name"},"features"`, 1),
		"no readable GeoJSON":        `{"type":"FeatureCollection","features":[{"type":"Feature","geometry":{"type":"Point","coordinates":["a",1]}}]}`,
		"this program does not know": `{"format":"elkstay-plan","version":9}`,
		"neither which column":       "house\n",
		"is no coordinate":           "e,n\n1,x\n",
		"is empty":                   " ",
	} {
		if _, err := Open(&document, "a.geojson", []byte(text), Told{}); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
	for says, text := range map[string]string{"not all of it came": "0\nSECTION\n2\nENTITIES\n", "no group code": "0\nSECTION\nx\ny\n", "binary DXF": "AutoCAD Binary DXF\r\n\x1a\x00"} {
		if _, err := Open(&document, "a.dxf", []byte(text), Told{}); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
}

// Each thing of the site stands in the plain JSON where the site has it.
func TestPlainJSONIsInMetres(t *testing.T) {
	document := job.NewJob("site")
	document.Trees[0].At = &job.Spot{X: 1, Y: 2}
	document.Site.Targets = []job.Target{{Name: "shed", Kind: "building", Box: &job.Box{Min: job.Spot{X: 3, Y: 4}, Max: job.Spot{X: 5, Y: 6}}, FromM: 0.5, ToM: 2.5}}
	document.Site.Sectors = []job.Sector{{Name: "road", FromDeg: 30, ToDeg: 70}}
	document.Site.Anchors = []job.Anchor{{Name: "post", Kind: job.AnchorGround, At: job.Spot{X: 7, Y: 8}}}
	document.Site.Cranes = []job.Crane{{Name: "crane", At: job.Spot{X: 9, Y: 10}}}
	document.Site.Posts = []job.Post{{Role: "ground", Name: "A", At: job.Spot{X: 11, Y: 12}}}
	data, err := JSON("site", Plan(&document, &assess.Assessment{}))
	if err != nil {
		t.Fatal(err)
	}
	var read map[string]any
	if err := json.Unmarshal(data, &read); err != nil {
		t.Fatal(err)
	}
	got := []string{}
	for _, f := range read["features"].([]any) {
		got = append(got, fmt.Sprint(f))
	}
	if want := []string{
		"map[id:1 kind:tree name:foot of the tree points_m:[[1 2]] shape:point]",
		"map[from_m:0.5 is:building kind:target name:shed points_m:[[3 4] [5 4] [5 6] [3 6]] shape:area to_m:2.5]",
		"map[from_deg:30 kind:sector name:road points_m:[[1 2]] shape:point to_deg:70]",
		"map[is:ground kind:anchor name:post points_m:[[7 8]] shape:point]",
		"map[kind:crane name:crane points_m:[[9 10]] shape:point]",
		"map[kind:post name:ground points_m:[[11 12]] shape:point who:A]",
	}; !slices.Equal(got, want) {
		t.Errorf("%s", strings.Join(got, "\n"))
	}
}

// Whatever is read neither hangs nor panics, and every part that it makes is one that a site takes.
func FuzzOpen(f *testing.F) {
	f.Add("a.dxf", drawingOf(6, "0 LWPOLYLINE 8 HOUSE 70 1 10 1 20 2 42 0.5 10 3 20 4"))
	f.Add("a.csv", []byte("e,n,code\n1,2,TREE\n"))
	f.Add("a.geojson", []byte(`{"type":"Feature","properties":{"kind":"target"},"geometry":{"type":"Point","coordinates":[1,2]}}`))
	f.Add("a.json", []byte(`{"format":"elkstay-plan","version":1,"features":[{"kind":"drop zone","points_m":[[0,0],[1,1],[1e300,0]]}]}`))
	document := job.NewJob("x")
	document.Trees = append(document.Trees, job.Tree{})
	f.Fuzz(func(t *testing.T, name string, data []byte) {
		read, err := Open(&document, name, data, Told{})
		if err != nil {
			return
		}
		for _, p := range read.Parts {
			if p.Target != nil {
				for _, c := range p.Target.Corners() {
					if !(math.Abs(c.X) <= within+5 && math.Abs(c.Y) <= within+5) {
						t.Errorf("%+v", p.Target)
					}
				}
			}
		}
	})
}
