package server

import (
	"encoding/json"
	"fmt"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"elkstay/core/job"
)

// JobSchema returns the JSON Schema (2020-12) of the job document, made from the
// Go type it is read into.
func JobSchema() ([]byte, error) {
	registry := huma.NewMapRegistry("#/$defs/", schemaName)
	root := registry.Schema(reflect.TypeFor[job.Job](), false, "Job")
	encoded, err := json.Marshal(root)
	if err != nil {
		return nil, err
	}
	document := map[string]any{}
	if err := json.Unmarshal(encoded, &document); err != nil {
		return nil, err
	}
	document["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	document["title"] = fmt.Sprintf("Elk Stay job document, version %d", job.Version)
	definitions := registry.Map()
	delete(definitions, "JobJob")
	document["$defs"] = definitions
	return json.MarshalIndent(document, "", "  ")
}
