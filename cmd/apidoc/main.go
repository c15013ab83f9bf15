// Command apidoc writes the description of the API and the schema of the job
// document, both made from the Go types, to the places that use them.
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"

	"elkstay/core/bench"
	"elkstay/core/glossary"
	"elkstay/server"
)

func main() {
	api, err := server.OpenAPI()
	if err == nil {
		err = write("web/src/lib/api/openapi.json", api)
	}
	if err == nil {
		var schema []byte
		if schema, err = server.JobSchema(); err == nil {
			err = write("docs/job.schema.json", schema)
		}
	}
	if err == nil {
		var all []bench.Instrument
		if all, err = bench.All(context.Background()); err == nil {
			var encoded []byte
			if encoded, err = json.Marshal(all); err == nil {
				err = write("web/src/lib/bench/instruments.json", encoded)
			}
		}
	}
	if err == nil {
		var words []byte
		if words, err = json.Marshal(glossary.Words()); err == nil {
			err = write("web/src/lib/words/glossary.json", words)
		}
	}
	if err == nil {
		err = os.WriteFile("docs/glossary.md", []byte(glossary.Markdown()), 0o644) //nolint:gosec // a published document
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "apidoc:", err)
		os.Exit(1)
	}
}

func write(path string, document []byte) error {
	var indented bytes.Buffer
	if err := json.Indent(&indented, document, "", "  "); err != nil {
		return err
	}
	indented.WriteByte('\n')
	return os.WriteFile(path, indented.Bytes(), 0o644) //nolint:gosec // a published document
}
