package server

import (
	"net/http"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"elkstay/core/calc"
)

// Media types of files.
const (
	typeCSV  = "text/csv; charset=utf-8"
	typeXLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
	typePDF  = "application/pdf"
	typeDXF  = "image/vnd.dxf"

	typeGeoJSON = "application/geo+json"
)

// gives says, in the description of an operation, that it answers with a file of one of some media types.
func gives(op huma.Operation, media ...string) huma.Operation {
	content := map[string]*huma.MediaType{}
	for _, one := range media {
		one, _, _ = strings.Cut(one, ";")
		file := &huma.Schema{Type: "string", Format: "binary"}
		switch {
		case strings.HasSuffix(one, "json"):
			file = &huma.Schema{}
		case strings.HasPrefix(one, "text/"), strings.HasSuffix(one, "+xml"):
			file = &huma.Schema{Type: "string"}
		}
		content[one] = &huma.MediaType{Schema: file}
	}
	op.Responses = map[string]*huma.Response{strconv.Itoa(http.StatusOK): {Description: "The file", Content: content}}
	return op
}

// refusals are the ways in which an operation may refuse, each described once: by its name, its status, and why.
var refusals = []struct{ name, status, why string }{
	{"Absent", "404", "There is no such thing, or none any more"},
	{"Unfit", "422", "Something asked is not as it must be, by name"},
	{"TooLong", "413", "The body is longer than this operation takes"},
	{"Changed", "412", "It has been changed since the revision named by If-Match"},
	{"Unnamed", "428", "If-Match or Idempotency-Key does not name what it must"},
	{"Taken", "409", "The id is taken by something else"},
	{"Refused", "default", "Refused for where it comes from (403), for being slow (408), or because the server is busy (429), fails (500), cannot keep or reach what it needs (503) or took too long (504)"},
}

// describeRefusals says of every operation what else it may answer, once all of them are mounted: by what it is asked with.
func describeRefusals(api huma.API) {
	description := api.OpenAPI()
	problem := map[string]*huma.MediaType{"application/problem+json": {Schema: description.Components.Schemas.Schema(reflect.TypeFor[calc.Problem](), true, "Problem")}}
	description.Components.Responses = map[string]*huma.Response{"Same": {Description: "Not changed since the answer that If-None-Match names"}}
	for _, r := range refusals {
		description.Components.Responses[r.name] = &huma.Response{Description: r.why, Content: problem}
	}
	for path, item := range description.Paths {
		for _, op := range []*huma.Operation{item.Get, item.Post, item.Put, item.Delete} {
			if op == nil {
				continue
			}
			asked := func(header string) bool {
				return slices.ContainsFunc(op.Parameters, func(p *huma.Param) bool { return p.In == "header" && p.Name == header })
			}
			applies := map[string]bool{"404": strings.Contains(path, "{"), "413": op.RequestBody != nil, "412": asked("If-Match"), "428": asked("If-Match"), "409": asked("Idempotency-Key"), "422": true, "default": true}
			for _, r := range refusals {
				// What an operation says itself, as a save does of what it is too late for, stands.
				if already := op.Responses[r.status]; applies[r.status] && (already == nil || r.status == "422") {
					op.Responses[r.status] = &huma.Response{Ref: "#/components/responses/" + r.name}
				}
			}
			delete(op.Responses, "500") // by default
			if op.Method == http.MethodGet {
				op.Responses["304"] = &huma.Response{Ref: "#/components/responses/Same"}
			}
		}
	}
}

// describeLive describes the stream of a job's saves, which is served beside the other operations as it does not end by itself.
func describeLive(api huma.API) {
	op := operation(http.MethodGet, "/api/jobs/{id}/live", "live", "Every save of a job as it is made, and of the crew's rules and gear: server-sent events, moved with a revision and whether the job is deleted, crew with a revision")
	op.Parameters = []*huma.Param{{Name: "id", In: "path", Required: true, Schema: &huma.Schema{Type: "string", Format: "uuid"}}}
	op = gives(op, eventStream)
	op.Responses["200"].Description = "The stream"
	api.OpenAPI().AddOperation(&op)
}

// answersWith says that an operation, which writes its answer itself, answers with JSON of a type.
func answersWith[T any](api huma.API, op huma.Operation) huma.Operation {
	of := reflect.TypeFor[T]()
	op.Responses = map[string]*huma.Response{strconv.Itoa(http.StatusOK): {Description: "OK", Content: map[string]*huma.MediaType{
		"application/json": {Schema: api.OpenAPI().Components.Schemas.Schema(of, true, of.Name())},
	}}}
	return op
}
