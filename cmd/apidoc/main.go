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
	"elkstay/core/ways"
	"elkstay/server"
)

func main() {
	api, err := server.OpenAPI()
	if err == nil {
		err = os.WriteFile("web/src/lib/api/openapi.json", byLines(api, 3), 0o644) //nolint:gosec // a published document
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
		var down []byte
		if down, err = json.Marshal(ways.All()); err == nil {
			err = write("web/src/lib/order/ways.json", down)
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

// byLines writes a document without blanks, a line for each thing down to a depth: as long again
// when it is indented, it is still read and compared by people.
func byLines(document []byte, depth int) []byte {
	var compact, out bytes.Buffer
	if json.Compact(&compact, document) != nil {
		return document
	}
	level, quoted, escaped := 0, false, false
	for _, b := range compact.Bytes() {
		opens, closes := !quoted && (b == '{' || b == '['), !quoted && (b == '}' || b == ']')
		if closes {
			if level <= depth {
				out.WriteByte('\n')
			}
			level--
		}
		out.WriteByte(b)
		if opens {
			level++
		}
		if (opens || !quoted && b == ',') && level <= depth {
			out.WriteByte('\n')
		}
		quoted = quoted != (b == '"' && !escaped)
		escaped = quoted && b == '\\' && !escaped
	}
	out.WriteByte('\n')
	return out.Bytes()
}
