package exchange

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geojson"

	"elkstay/core/intake"
	"elkstay/core/job"
)

// fault is what is wrong with a file as a whole.
func fault(value any, allowed, format string, args ...any) error {
	var faults intake.Faults
	faults.Add("file", value, allowed, format, args...)
	return faults
}

// degree is what a longitude or a latitude is rounded to: a millimetre and less.
const degree = 1e-8

// GeoJSON writes a plan by RFC 7946: longitude and latitude of WGS 84, rings counterclockwise. Without a place on earth it is refused:
// metres are no degrees. The error is intake.Faults.
func GeoJSON(at *job.Earth, plan []Feature) ([]byte, error) {
	if at == nil {
		var faults intake.Faults
		faults.Add("job.site.earth", nil, "a latitude, a longitude and the bearing of the plan's north", "the plan has no place on earth, so that it cannot be GeoJSON: say where it lies, or take the DXF or the plain JSON, in metres")
		return nil, faults
	}
	f := frameOf(at)
	all := geojson.NewFeatureCollection()
	for i := range plan {
		one := &plan[i]
		points := make([]orb.Point, len(one.Points))
		for k, p := range one.Points {
			there := f.lonLat(p)
			points[k] = orb.Point{math.Round(there[0]/degree) * degree, math.Round(there[1]/degree) * degree}
		}
		var shape orb.Geometry
		switch one.Shape {
		case Point:
			shape = points[0]
		case Line:
			shape = orb.LineString(points)
		default:
			ring := append(orb.Ring(points), points[0])
			if ring.Orientation() == orb.CW { // 3.1.6: exterior rings are counterclockwise
				ring.Reverse()
			}
			shape = orb.Polygon{ring}
		}
		written := geojson.NewFeature(shape)
		if one.ID != "" {
			written.ID = one.Kind + " " + one.ID
		}
		written.Properties = properties(one)
		all.Append(written)
	}
	data, err := all.MarshalJSON()
	if err != nil {
		return nil, err
	}
	return data, nil
}

// properties are what is said of a feature beside where it is.
func properties(f *Feature) geojson.Properties {
	p := geojson.Properties{"kind": f.Kind, "name": f.Name}
	if f.ID != "" {
		p["id"] = f.ID
	}
	if f.Is != "" {
		p["is"] = f.Is
	}
	if f.Who != "" {
		p["who"] = f.Who
	}
	for name, v := range map[string]*float64{"from_m": f.FromM, "to_m": f.ToM, "from_deg": f.FromDeg, "to_deg": f.ToDeg} {
		if v != nil {
			p[name] = *v
		}
	}
	return p
}

// readGeoJSON reads features by RFC 7946. Without a place on earth of its own the plan gets one: the middle of what is read, north up.
func readGeoJSON(data []byte, at *job.Earth) (plan []Feature, lies *job.Earth, err error) {
	all, err := geojson.UnmarshalFeatureCollection(data)
	if err != nil {
		one, single := geojson.UnmarshalFeature(data)
		if single != nil {
			return nil, nil, fault("", "a FeatureCollection or a Feature of GeoJSON", "the file is no readable GeoJSON: %s", err)
		}
		all = geojson.NewFeatureCollection().Append(one)
	}
	if _, foreign := all.ExtraMembers["crs"]; foreign {
		return nil, nil, fault("crs", "longitude and latitude of WGS 84 (RFC 7946, 4)", "the file names a reference system of its own, which GeoJSON has no longer: write it in longitude and latitude")
	}
	bound, first := orb.Bound{}, true
	for _, f := range all.Features {
		if f.Geometry == nil {
			continue
		}
		if b := f.Geometry.Bound(); first {
			bound, first = b, false
		} else {
			bound = bound.Union(b)
		}
	}
	if bound.Min[0] < -180 || bound.Max[0] > 180 || bound.Min[1] < -90 || bound.Max[1] > 90 {
		return nil, nil, fault(fmt.Sprint(bound), "longitudes of −180 to 180, latitudes of −90 to 90", "the file has coordinates that are no degrees: metres are read from DXF, or from a list of points")
	}
	if lies = at; lies == nil && !first {
		middle := orb.Point{(bound.Min[0] + bound.Max[0]) / 2, (bound.Min[1] + bound.Max[1]) / 2}
		lies = &job.Earth{LatDeg: math.Round(middle[1]/degree) * degree, LonDeg: math.Round(middle[0]/degree) * degree}
	}
	if first {
		return nil, lies, nil
	}
	if math.Abs(lies.LatDeg) > 85 {
		return nil, nil, fault(lies.LatDeg, "latitudes of −85 to 85", "the plan would lie at a pole")
	}
	frame := frameOf(lies)
	for _, f := range all.Features {
		if f.Geometry != nil {
			plan = append(plan, shapes(f, frame)...)
		}
	}
	return plan, lies, nil
}

// shapes are the features that one of GeoJSON holds: of a geometry of several parts each part. Holes are left out: what is inside
// counts as well.
func shapes(f *geojson.Feature, frame *frame) (list []Feature) {
	about := Feature{Kind: f.Properties.MustString("kind", ""), Name: f.Properties.MustString("name", ""), ID: f.Properties.MustString("id", ""), Is: f.Properties.MustString("is", "")}
	if !slices.Contains(kinds, about.Kind) {
		// Of another program: what any of its texts says.
		said := []string{}
		for _, key := range slices.Sorted(maps.Keys(f.Properties)) {
			if text, is := f.Properties[key].(string); is {
				said = append(said, key+" "+text)
			}
		}
		about.Kind, about.Is = layered(strings.Join(said, " "))
	}
	for name, to := range map[string]**float64{"from_m": &about.FromM, "to_m": &about.ToM} {
		if v, is := f.Properties[name].(float64); is {
			*to = &v
		}
	}
	add := func(shape string, points []orb.Point) {
		one := about
		one.Shape = shape
		for _, p := range points {
			one.Points = append(one.Points, frame.place(p))
		}
		list = append(list, one)
	}
	var walk func(g orb.Geometry)
	walk = func(g orb.Geometry) {
		switch g := g.(type) {
		case orb.Point:
			add(Point, []orb.Point{g})
		case orb.MultiPoint:
			for _, p := range g {
				walk(p)
			}
		case orb.LineString:
			add(Line, g)
		case orb.MultiLineString:
			for _, l := range g {
				walk(l)
			}
		case orb.Polygon:
			if len(g) > 0 && len(g[0]) > 3 {
				add(Area, g[0][:len(g[0])-1])
			}
		case orb.MultiPolygon:
			for _, p := range g {
				walk(p)
			}
		case orb.Collection:
			for _, one := range g {
				walk(one)
			}
		}
	}
	walk(f.Geometry)
	if len(list) > 1 {
		for i := range list {
			list[i].ID = "" // one id is not of several
		}
	}
	return list
}

// isPlan reports that a file is a plan as JSON writes it, in metres.
func isPlan(data []byte) (plan []Feature, is bool, err error) {
	var format struct {
		Format string `json:"format"`
	}
	if json.Unmarshal(data, &format) != nil || format.Format != planFormat {
		return nil, false, nil
	}
	var named writtenPlan
	if err := json.Unmarshal(data, &named); err != nil {
		return nil, true, fault("", "a plan", "the plan cannot be read: %s", err)
	}
	if named.Version != 1 {
		return nil, true, fault(named.Version, "1", "the plan is of version %d, which this program does not know", named.Version)
	}
	for i := range named.Features {
		if len(named.Features[i].Points) == 0 {
			return nil, true, fault(i, "at least one point", "%s of the plan has no points", named.Features[i].Name)
		}
	}
	return named.Features, true, nil
}
