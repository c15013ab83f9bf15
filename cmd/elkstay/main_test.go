package main

import (
	"bytes"
	"errors"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"elkstay/core/calc"
)

// run runs the command as the shell would, but for the process.
func run(t *testing.T, input string, args ...string) (output string, status int, problem *calc.Problem) {
	t.Helper()
	command := root()
	var out bytes.Buffer
	command.SetIn(strings.NewReader(input))
	command.SetOut(&out)
	command.SetErr(io.Discard)
	command.SetArgs(args)
	err := command.ExecuteContext(t.Context())
	errors.As(err, &problem)
	held := os.Stderr
	os.Stderr, _ = os.Open(os.DevNull)
	status = report(err)
	os.Stderr = held
	return out.String(), status, problem
}

func TestCalcAnswersOnStandardOutput(t *testing.T) {
	output, status, _ := run(t, `{"line_kn":9,"hand_kn":0.2,"friction":0.2}`, "calc", "wraps")
	if status != 0 || !strings.HasPrefix(output, `{"wraps":3.029`) || !strings.HasSuffix(output, "}\n") {
		t.Errorf("status %d: %s", status, output)
	}
}

func TestCalcRefusesWithAProblemAndStatusTwo(t *testing.T) {
	for _, c := range []struct{ kind, input, location string }{
		{"wraps", `{"line_kn":9,"hand_kn":0.2}`, "body.friction"},
		{"drop", `nonsense`, "body"},
	} {
		output, status, problem := run(t, c.input, "calc", c.kind)
		if status != 2 || output != "" || problem == nil || problem.Errors[0].Location != c.location {
			t.Errorf("%s: status %d, %q, %+v", c.kind, status, output, problem)
		}
	}
	if _, status, problem := run(t, "{}", "calc", "guess"); status != 2 || problem == nil || problem.Status != 404 {
		t.Errorf("an unknown kind: status %d, %+v", status, problem)
	}
}

func TestAssessPrintsTheDemoAsATable(t *testing.T) {
	job := filepath.Join("..", "..", "demo", "tern-quay.json")
	output, status, _ := run(t, "", "assess", job)
	for _, part := range []string{"Tern Quay", "Roof limb", "two-points", "nearest limit", "Heron line 16 mm", "rope of Stem rig", "caution:"} {
		if !strings.Contains(output, part) {
			t.Errorf("the table lacks %s:\n%s", part, output)
		}
	}
	if status != 0 {
		t.Errorf("status %d", status)
	}
	output, status, _ = run(t, "", "assess", "--pick", "p19", "--units", "us", job)
	for _, part := range []string{"pick 19", "spar", "device", "lbf", "followed through time: line"} {
		if !strings.Contains(output, part) || status != 0 {
			t.Errorf("one pick in full lacks %s:\n%s", part, output)
		}
	}
	if _, status, _ := run(t, "", "assess", "--pick", "p99", job); status != 1 {
		t.Errorf("a pick that is not there: status %d", status)
	}
	asJSON, status, _ := run(t, "", "assess", "--json", job)
	if status != 0 || !strings.HasPrefix(asJSON, `{"state":"`) {
		t.Errorf("status %d: %.80s", status, asJSON)
	}
	if _, status, _ := run(t, "", "assess", "--units", "cubits", job); status != 1 {
		t.Errorf("unknown units: status %d", status)
	}
	if _, status, _ := run(t, "", "assess", "nowhere.json"); status != 1 {
		t.Errorf("a missing file: status %d", status)
	}
}

func TestServeNeedsADatabase(t *testing.T) {
	t.Setenv(databaseEnv, "")
	if _, status, _ := run(t, "", "serve"); status != 1 {
		t.Errorf("status %d", status)
	}
	t.Setenv(databaseEnv, "postgres://127.0.0.1:1/none?connect_timeout=1")
	if _, status, _ := run(t, "", "demo", "--listen", "127.0.0.1:0", "--reset"); status != 1 {
		t.Errorf("a reset of somebody else's database: status %d", status)
	}
}
