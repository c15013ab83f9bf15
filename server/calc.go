package server

import (
	"context"
	"errors"
	"net/http"
	"strconv"

	"github.com/danielgtaylor/huma/v2"

	"elkstay/core/calc"
)

type documentIn struct {
	RawBody []byte `contentType:"application/json"`
}

type documentOut struct {
	ContentType string `header:"Content-Type"`
	Body        []byte
}

// mountCalc opens every kind of the contract at /api/calc/KIND.
func mountCalc(api huma.API) {
	for _, kind := range calc.Kinds() {
		op := operation(http.MethodPost, "/api/calc/"+kind.Name, "calc-"+kind.Name, kind.Summary)
		op.Tags = []string{"calc"}
		op.Responses = map[string]*huma.Response{strconv.Itoa(http.StatusOK): {
			Description: "The answer, with its working and its cautions",
			Content: map[string]*huma.MediaType{"application/json": {
				Schema: api.OpenAPI().Components.Schemas.Schema(kind.Answer, true, kind.Answer.Name()),
			}},
		}}
		register(api, op, kind.Request, func(ctx context.Context, in *documentIn) (*documentOut, error) {
			answer, err := kind.Run(ctx, in.RawBody)
			if err != nil {
				var problem *calc.Problem
				if errors.As(err, &problem) {
					return nil, problem
				}
				if errors.Is(err, context.DeadlineExceeded) || errors.Is(err, context.Canceled) {
					return nil, problemOf(http.StatusGatewayTimeout, "This took too long and was broken off: ask for fewer runs.")
				}
				return nil, err
			}
			encoded, err := calc.Encode(answer)
			return &documentOut{"application/json", encoded}, err
		})
	}
}
