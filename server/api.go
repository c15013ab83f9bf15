package server

import (
	"context"
	"fmt"
	"net/http"
	"reflect"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"

	"elkstay/core/calc"
	"elkstay/core/intake"
	"elkstay/store"
)

// Version is the version of the API and of the program.
const Version = "0.1.0"

// maxBody bounds the body of a request; the largest job document is a twentieth
// of it.
const maxBody = 2 << 20

func init() {
	// One shape of refusal at every door.
	huma.NewError = func(status int, message string, errs ...error) huma.StatusError {
		return problemOf(status, message, errs...)
	}
	huma.NewErrorWithContext = func(_ huma.Context, status int, message string, errs ...error) huma.StatusError {
		return problemOf(status, message, errs...)
	}
	huma.DefaultArrayNullable = false
}

func problemOf(status int, message string, errs ...error) *calc.Problem {
	if status == http.StatusBadRequest {
		status = http.StatusUnprocessableEntity
	}
	problem := &calc.Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Detail: message, Errors: intake.Faults{}}
	for _, err := range errs {
		if detailer, ok := err.(huma.ErrorDetailer); ok {
			detail := detailer.ErrorDetail()
			problem.Errors.Add(detail.Location, detail.Value, "", "%s", detail.Message)
		}
	}
	return problem
}

func noSuchAddress(r *http.Request) *calc.Problem {
	return problemOf(http.StatusNotFound, fmt.Sprintf("There is nothing at %s %s.", r.Method, r.URL.Path))
}

func writeProblem(w http.ResponseWriter, problem *calc.Problem) {
	w.Header().Set("Content-Type", problem.ContentType(""))
	w.WriteHeader(problem.Status)
	if encoded, err := calc.Encode(problem); err == nil {
		_, _ = w.Write(encoded) //nolint:gosec // JSON, and sniffing is off
	}
}

// schemaName names a type in the API's description by its package and its name,
// so that a Piece of one package is not taken for a Piece of another.
func schemaName(t reflect.Type, hint string) string {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	path := t.PkgPath()
	home := path[strings.LastIndexByte(path, '/')+1:]
	if t.Name() == "" || home == "" || home == "server" || home == "calc" {
		return huma.DefaultSchemaNamer(t, hint)
	}
	return strings.ToUpper(home[:1]) + home[1:] + huma.DefaultSchemaNamer(t, hint)
}

func newAPI(router chi.Router, turns *queue) huma.API {
	config := huma.DefaultConfig("Elk Stay", Version)
	config.Info.Description = "Loads on rigging line, anchors and lowering devices; jobs and their revisions. SI throughout: _m metres, _kg kilograms, _kn kilonewtons."
	config.Components.Schemas = huma.NewMapRegistry("#/components/schemas/", schemaName)
	config.OpenAPIPath, config.DocsPath, config.SchemasPath = "/api/openapi", "", ""
	config.CreateHooks = nil
	config.Info.License = &huma.License{Name: "MIT", Identifier: "MIT"}
	config.Servers = []*huma.Server{{URL: "/", Description: "Where the application itself is served"}}
	// Nobody signs in: whoever reaches the address, which is this machine's own unless told otherwise, may ask.
	config.Security = []map[string][]string{{}}
	config.RejectUnknownQueryParameters = true
	api := humachi.New(router, config)
	api.UseMiddleware(within(turns))
	return api
}

// OpenAPI returns the description of the API, OpenAPI 3.1, as JSON.
func OpenAPI() ([]byte, error) {
	return mountAPI(chi.NewRouter(), nil, newQueue()).OpenAPI().MarshalJSON()
}

func mountAPI(router chi.Router, jobs *store.Store, turns *queue) huma.API {
	api := newAPI(router, turns)
	mountCalc(api)
	mountPlan(api, jobs)
	mountJobs(api, jobs)
	mountCrew(api, jobs)
	mountLocker(api, jobs)
	mountPapers(api, jobs)
	mountFigures(api, jobs)
	mountReadPlan(api)
	describeLive(api)
	describeArchives(api)
	describeRefusals(api)
	return api
}

// operation describes one operation; takesDocument says that it takes a body.
func operation(method, path, id, summary string) huma.Operation {
	return huma.Operation{
		Method: method, Path: path, OperationID: id, Summary: summary,
		MaxBodyBytes: boundOf(id).body + 1, BodyReadTimeout: 10 * time.Second, Errors: []int{http.StatusUnprocessableEntity},
	}
}

// register registers an operation whose body is a document of type document: it
// reaches the handler as it was sent, to be read strictly by the core, and stands
// in the description with its full type.
func register[In, Out any](api huma.API, op huma.Operation, document reflect.Type, handler func(context.Context, *In) (*Out, error)) {
	op.SkipValidateBody = true
	huma.Register(api, op, handler)
	item := api.OpenAPI().Paths[op.Path]
	for _, registered := range []*huma.Operation{item.Post, item.Put} {
		if registered != nil && registered.OperationID == op.OperationID {
			registered.RequestBody.Content["application/json"].Schema = api.OpenAPI().Components.Schemas.Schema(document, true, document.Name())
		}
	}
}
