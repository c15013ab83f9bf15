package server

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"errors"
	"net/http"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"elkstay/core/calc"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/exchange"
)

// maxPlan bounds a file with a plan, as it is sent: in base64, 6 MB of it.
const maxPlan = 8 << 20

// PlanFile is a file with a plan of the site, and the job that it is for.
type PlanFile struct {
	Job  job.Job       `json:"job"`
	Name string        `json:"name" maxLength:"200" doc:"Of the file; its ending says what it is"`
	Data string        `json:"data" contentEncoding:"base64" doc:"The file"`
	Told exchange.Told `json:"told,omitempty" doc:"What is said of it"`
}

// mountReadPlan reads what other programs know of a site: it changes nothing.
func mountReadPlan(api huma.API) {
	op := operation(http.MethodPost, "/api/read-plan", "read-plan", "What a plan of another program, in GeoJSON, DXF or a list of points, would do to a site")
	op.Responses = answersWith[exchange.Read](api, op).Responses
	register(api, op, reflect.TypeFor[PlanFile](), func(_ context.Context, in *documentIn) (*struct{ Body any }, error) {
		var parts struct {
			Job  json.RawMessage `json:"job"`
			Name string          `json:"name"`
			Data string          `json:"data"`
			Told json.RawMessage `json:"told"`
		}
		if err := json.Unmarshal(in.RawBody, &parts); err != nil {
			var faults intake.Faults
			faults.Add("body", nil, "job, name and data", "this is not readable JSON: %s", err)
			return nil, calc.Refuse("plan", faults)
		}
		document, err := job.ReadJob(parts.Job)
		if err != nil {
			return nil, calc.Refuse("plan", err)
		}
		var told exchange.Told
		if len(parts.Told) > 0 {
			var faults intake.Faults
			if err := intake.Decode(parts.Told, &told); errors.As(err, &faults) {
				for i := range faults {
					faults[i].Location = "body.told" + strings.TrimPrefix(faults[i].Location, "body")
				}
				return nil, calc.Refuse("plan", faults)
			}
		}
		data, err := base64.StdEncoding.DecodeString(parts.Data)
		if err != nil {
			var faults intake.Faults
			faults.Add("body.data", len(parts.Data), "base64", "the file did not come whole")
			return nil, calc.Refuse("plan", faults)
		}
		read, err := exchange.Open(&document, parts.Name, data, told)
		if err != nil {
			return nil, calc.Refuse("plan", err)
		}
		return &struct{ Body any }{read}, nil
	})
}
