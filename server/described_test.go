package server

import (
	"bytes"
	"compress/gzip"
	"elkstay/core/bench"
	"elkstay/core/calc/calctest"
	"elkstay/core/job"
	"encoding/json"
	"fmt"
	"io"
	"mime"
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
)

// A description is that of the API, read by a validator of JSON Schema 2020-12 that has nothing to do with what made it.
type description struct {
	compiler   *jsonschema.Compiler
	operations []describedOperation
	mu         sync.Mutex
	schemas    map[string]*jsonschema.Schema
	answered   map[string]bool // "id status", of all tests
}

type describedOperation struct {
	id, method, path string
	is               *regexp.Regexp
	responses        map[string]describedResponse
}

type describedResponse struct {
	Ref     string         `json:"$ref"`
	Content map[string]any `json:"content"`
}

var described = sync.OnceValue(func() *description {
	written, err := OpenAPI()
	if err != nil {
		panic(err)
	}
	whole, err := jsonschema.UnmarshalJSON(bytes.NewReader(written))
	if err != nil {
		panic(err)
	}
	d := &description{compiler: jsonschema.NewCompiler(), schemas: map[string]*jsonschema.Schema{}, answered: map[string]bool{}}
	d.compiler.DefaultDraft(jsonschema.Draft2020)
	if err := d.compiler.AddResource("api.json", whole); err != nil {
		panic(err)
	}
	var read struct {
		Paths map[string]map[string]struct {
			OperationID string                       `json:"operationId"`
			Responses   map[string]describedResponse `json:"responses"`
		} `json:"paths"`
		Components struct {
			Responses map[string]describedResponse `json:"responses"`
		} `json:"components"`
	}
	if err := json.Unmarshal(written, &read); err != nil {
		panic(err)
	}
	for path, item := range read.Paths {
		for method, op := range item {
			for status, r := range op.Responses {
				if r.Ref != "" {
					r.Content = read.Components.Responses[strings.TrimPrefix(r.Ref, "#/components/responses/")].Content
					op.Responses[status] = r
				}
			}
			is := regexp.MustCompile("^" + regexp.MustCompile(`\\\{[a-z]+\\\}`).ReplaceAllString(regexp.QuoteMeta(path), "[^/]+") + "$")
			d.operations = append(d.operations, describedOperation{op.OperationID, strings.ToUpper(method), path, is, op.Responses})
		}
	}
	// An address without a place to fill in goes before one with it.
	slices.SortFunc(d.operations, func(a, b describedOperation) int { return strings.Count(a.path, "{") - strings.Count(b.path, "{") })
	return d
})

// faultOf says how an answer is not as it is described; empty: it is.
func (d *description) faultOf(method, path string, status int, header http.Header, body []byte) string {
	d.mu.Lock()
	defer d.mu.Unlock()
	i := slices.IndexFunc(d.operations, func(o describedOperation) bool { return o.method == method && o.is.MatchString(path) })
	if i < 0 {
		if status == 404 || status == 405 || !strings.HasPrefix(path, "/api/") {
			return ""
		}
		return "nothing is described there"
	}
	o := &d.operations[i]
	d.answered[fmt.Sprint(o.id, " ", status)] = true
	key := fmt.Sprint(status)
	response, known := o.responses[key]
	if !known {
		if key, response = "default", o.responses["default"]; status < 400 || status == 404 || status == 409 || status == 412 || status == 413 || status == 422 {
			return fmt.Sprintf("%s: status %d is not described", o.id, status)
		}
	}
	if status == http.StatusMisdirectedRequest || status == http.StatusForbidden {
		return "" // from before the API
	}
	if len(response.Content) == 0 {
		if len(body) > 0 {
			return fmt.Sprintf("%s: %d has a body that is not described", o.id, status)
		}
		return ""
	}
	media, _, _ := mime.ParseMediaType(header.Get("Content-Type"))
	if _, known := response.Content[media]; !known {
		return fmt.Sprintf("%s: %d comes as %q, which is not described", o.id, status, media)
	}
	if !strings.HasSuffix(media, "json") {
		return ""
	}
	escape := strings.NewReplacer("~", "~0", "/", "~1", "{", "%7B", "}", "%7D", "+", "%2B")
	at := "api.json" + response.Ref + "/content/" + escape.Replace(media) + "/schema"
	if response.Ref == "" {
		at = "api.json#/paths/" + escape.Replace(o.path) + "/" + strings.ToLower(method) + "/responses/" + key + "/content/" + escape.Replace(media) + "/schema"
	}
	schema := d.schemas[at]
	if schema == nil {
		var err error
		if schema, err = d.compiler.Compile(at); err != nil {
			return err.Error()
		}
		d.schemas[at] = schema
	}
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(body))
	if err != nil {
		return fmt.Sprintf("%s: %d is not JSON: %v", o.id, status, err)
	}
	if err := schema.Validate(value); err != nil {
		return fmt.Sprintf("%s: %d is not as described: %.1500v", o.id, status, err)
	}
	return ""
}

// asDescribed holds every answer of a server that a test asks for against the description.
func asDescribed(t *testing.T, next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if strings.HasSuffix(r.URL.Path, "/live") {
			next.ServeHTTP(w, r)
			return
		}
		seen := httptest.NewRecorder()
		next.ServeHTTP(seen, r)
		body := seen.Body.Bytes()
		if seen.Header().Get("Content-Encoding") == "gzip" {
			if unpacked, err := gzip.NewReader(bytes.NewReader(body)); err == nil {
				body, _ = io.ReadAll(unpacked)
			}
		}
		if fault := described().faultOf(r.Method, r.URL.Path, seen.Code, seen.Header(), body); fault != "" {
			t.Errorf("%s %s: %s", r.Method, r.URL.Path, fault)
		}
		for name, values := range seen.Header() {
			w.Header()[name] = values
		}
		w.WriteHeader(seen.Code)
		_, _ = w.Write(seen.Body.Bytes())
	})
}

// unanswered are the operations that no test was answered by.
func (d *description) unanswered() (ids []string) {
	for i := range d.operations {
		o := &d.operations[i]
		if o.id != "live" && !d.answered[o.id+" 200"] && !d.answered[o.id+" 201"] && !d.answered[o.id+" 204"] {
			ids = append(ids, o.id)
		}
	}
	return ids
}

// Every kind and every question answers as it is described, for the worked cases and for the sample jobs, in both systems of units;
// that all the other tests' answers do is seen by asDescribed.
func TestEveryOperationAnswersAsDescribed(t *testing.T) {
	server := start(t)
	post := func(path, body string) []byte {
		t.Helper()
		_, answer := send(t, server, call{method: http.MethodPost, path: path, body: body})
		return answer
	}
	for _, c := range calctest.All(t) {
		post("/api/calc/"+c.Kind, string(c.Request))
	}
	instruments, err := bench.All(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	for _, one := range instruments {
		begin := []byte(one.Begin)
		post("/api/calc/"+one.Kind, string(begin))
		post("/api/layout?kind="+one.Kind, string(begin))
		post("/api/into-job?kind="+one.Kind, string(begin))
		for name, value := range decode[map[string]any](t, begin) {
			if v, is := value.(float64); is {
				post(fmt.Sprintf("/api/sweep?kind=%s&of=%s&over=%s&from=%g&to=%g&steps=3", one.Kind, one.Answer, name, v, v*1.1+0.1), string(begin))
				post(fmt.Sprintf("/api/hold?kind=%s&of=%s&over=%s&held=1", one.Kind, one.Answer, name), string(begin))
				break
			}
		}
	}
	for _, name := range []string{"tern-quay", "mill-fold", "reed-lock"} {
		data, err := os.ReadFile("../demo/" + name + ".json")
		if err != nil {
			t.Fatal(err)
		}
		read, err := job.ReadJob(data)
		if err != nil {
			t.Fatal(err)
		}
		for i, p := range read.Picks {
			unit := []string{"metric", "us"}[i%2]
			post("/api/assess?units="+unit+"&pick="+p.ID, string(data))
			if i%4 > 0 {
				continue
			}
			post("/api/simulate?units="+unit+"&pick="+p.ID, string(data))
		}
		for _, question := range []string{"propose", "ground", "brief", "rose?pick=" + read.Picks[0].ID, "trees", "resolve", "ask?ask=peak&pick=" + read.Picks[0].ID} {
			post("/api/"+question, string(data))
		}
	}
	post("/api/weights", `{"wood":{"species":"white-ash"},"units":"us"}`)
	post("/api/wraps-card", `{"device":"bollard","friction":0.2,"hand_kn":0.2}`)
	post("/api/guess-tree", `{"species":"white-ash","girth_m":1.5,"height_m":15,"outline":"open"}`)
	post("/api/merge-item", `{"base":{"id":"a","kind":"sling","name":"a"},"mine":{"id":"a","kind":"sling","name":"b"},"theirs":{"id":"a","kind":"sling","name":"c"}}`)
	post("/api/read-sight", `{"kind":"height","distance_m":20,"top_deg":40,"foot_deg":-3}`)
	post("/api/read-chart", `{"text":"radius\tcapacity\n3\t10\n5\t6"}`)
	for _, path := range []string{"/api/weights.pdf?species=white-ash", "/api/wraps.pdf?friction=0.2&hand_kn=0.2", "/api/schemas/job.json", "/api/locker/file?format=csv", "/api/policy/history", "/api/crew"} {
		send(t, server, call{method: http.MethodGet, path: path})
	}
}

// The description itself would be noticed to be wrong: of a figure that is a text, a field too many, a status nobody named.
func TestDescribedIsHeld(t *testing.T) {
	header := http.Header{"Content-Type": {"application/json"}}
	for says, c := range map[string]struct {
		status int
		body   string
	}{
		"":                        {200, `{"value":1}`},
		"not as described: ":      {200, `{"value":"1"}`},
		"additional properties":   {200, `{"value":1,"more":2}`},
		"202 is not described":    {202, `{}`},
		"which is not described.": {422, `{}`},
	} {
		fault := described().faultOf("POST", "/api/read-units", c.status, header, []byte(c.body))
		if says == "" && fault != "" || !strings.Contains(fault+".", says) {
			t.Errorf("%q: %s", says, fault)
		}
	}
}
