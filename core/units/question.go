package units

import (
	"errors"

	"elkstay/core/intake"
)

// Question is the name under which every door reads a typed figure.
const Question = "read-units"

// ReadRequest asks what a typed text means.
type ReadRequest struct {
	Quantity Quantity `json:"quantity" enum:"height,diameter,gauge,mass,force,bearing,volume" doc:"What kind of figure is read"`
	Units    System   `json:"units" enum:"metric,us" doc:"What a bare number is in"`
	Text     string   `json:"text" maxLength:"200" doc:"What was typed"`
}

// ReadAnswer is what a typed text means.
type ReadAnswer struct {
	Value float64 `json:"value" doc:"SI: m, kg or kN"`
}

// Answer reads a ReadRequest and answers it. The error is intake.Faults.
func Answer(document []byte) (ReadAnswer, error) {
	var request ReadRequest
	if err := intake.Decode(document, &request); err != nil {
		return ReadAnswer{}, err
	}
	value, err := Read(request.Quantity, request.Units, request.Text)
	if err != nil {
		var faults intake.Faults
		var unread *ReadError
		errors.As(err, &unread)
		faults.Add("body.text", request.Text, unread.Examples, "%s", err)
		return ReadAnswer{}, faults
	}
	return ReadAnswer{value}, nil
}
