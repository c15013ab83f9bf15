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
	"elkstay/store/storetest"
)

var databaseURL string

func TestMain(m *testing.M) { os.Exit(storetest.Main(m, &databaseURL)) }

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
	for _, part := range []string{"Tern Quay", "Roof limb", "between two points", "nearest limit", "Heron line 16 mm", "rope of Stem rig", "caution:"} {
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

func TestExportWritesByTheFilesEnding(t *testing.T) {
	job, folder := filepath.Join("..", "..", "demo", "mill-fold.json"), t.TempDir()
	for name, begins := range map[string]string{"b.pdf": "%PDF-", "p.csv": "number,piece", "p.xlsx": "PK", "s.dxf": "  0\r\nSECTION", "tree.svg": "<svg", "site.svg": "<svg"} {
		out := filepath.Join(folder, name)
		if _, status, _ := run(t, "", "export", job, "--out", out, "--units", "us"); status != 0 {
			t.Errorf("%s: status %d", name, status)
		}
		if data, err := os.ReadFile(out); err != nil || !strings.HasPrefix(string(data), begins) {
			t.Errorf("%s: %v %.40q", name, err, data)
		}
	}
	if _, status, _ := run(t, "", "export", job, "--out", filepath.Join(folder, "s.geojson")); status == 0 {
		t.Error("a site without a place on earth is written in degrees")
	}
	if tree, site := filepath.Join(folder, "tree.svg"), filepath.Join(folder, "site.svg"); same(t, tree, site) {
		t.Error("tree and plan are one drawing")
	}
	for _, args := range [][]string{{"export", job, "--out", "x.doc"}, {"export", job}, {"export", "nowhere.json", "--out", "x.pdf"}, {"export", job, "--out", "x.pdf", "--crew", "nowhere.json"}} {
		if _, status, _ := run(t, "", args...); status == 0 {
			t.Errorf("%v went through", args)
		}
	}
}

func same(t *testing.T, a, b string) bool {
	t.Helper()
	first, errA := os.ReadFile(a)
	second, errB := os.ReadFile(b)
	if errA != nil || errB != nil {
		t.Fatal(errA, errB)
	}
	return bytes.Equal(first, second)
}

// A crew's file changes what an assessment comes to.
func TestAssessTakesACrew(t *testing.T) {
	job, crew := filepath.Join("..", "..", "demo", "tern-quay.json"), filepath.Join(t.TempDir(), "crew.json")
	if err := os.WriteFile(crew, []byte(`{"policy":{"design_factors":{},"hand_kn":0.1},"gear":[]}`), 0o600); err != nil {
		t.Fatal(err)
	}
	plainly, _, _ := run(t, "", "assess", job)
	strictly, status, _ := run(t, "", "assess", "--crew", crew, job)
	if status != 0 || plainly == strictly || !strings.Contains(strictly, "over a limit") {
		t.Errorf("status %d: %.200s", status, strictly)
	}
	if err := os.WriteFile(crew, []byte(`{"policy":{"design_factors":{},"hand_kn":-1},"gear":[]}`), 0o600); err != nil {
		t.Fatal(err)
	}
	if _, status, problem := run(t, "", "assess", "--crew", crew, job); status != 2 || problem == nil || !strings.Contains(problem.Errors[0].Location, "hand_kn") {
		t.Errorf("status %d: %+v", status, problem)
	}
}

func TestImportSaysFirstAndThenDoes(t *testing.T) {
	table := filepath.Join(t.TempDir(), "gear.csv")
	write := func(text string) {
		if err := os.WriteFile(table, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	write("kind,name,serial,marked_kn\nblock,one,I-1,30\nblock,two,I-2,40\n")
	t.Setenv(databaseEnv, "")
	if _, status, _ := run(t, "", "import", table); status != 1 {
		t.Errorf("without a database: status %d", status)
	}
	t.Setenv(databaseEnv, databaseURL)
	for _, c := range []struct {
		args []string
		want string
	}{
		{[]string{"import", table}, "2 new, 0 changed, 0 the same, 0 wrong"},
		{[]string{"import", "--apply", table}, "2 new, 0 changed, 0 the same, 0 wrong"},
		{[]string{"import", table}, "0 new, 0 changed, 2 the same, 0 wrong"},
	} {
		if output, status, _ := run(t, "", c.args...); status != 0 || !strings.Contains(output, c.want) {
			t.Errorf("%v: status %d, %s", c.args, status, output)
		}
	}
	write("kind,name,serial,marked_kn\nblock,one,I-1,35\nblock,two,I-2,40 lbf\n")
	output, status, _ := run(t, "", "import", "--apply", table)
	if status != 1 || !strings.Contains(output, `"30" becomes "35"`) || !strings.Contains(output, "D3 marked_kn") {
		t.Errorf("status %d: %s", status, output)
	}
	write("sort;name;serial\nblock;one;two\n")
	if _, status, problem := run(t, "", "import", table); status != 2 || problem == nil {
		t.Errorf("no kind: status %d", status)
	}
	write("kind;name;serial;marked_kn\nblock;one;I-1;1,200\n")
	if output, status, _ := run(t, "", "import", "--apply", table); status != 1 || !strings.Contains(output, `D2 "1,200": 1.200 with --decimal comma`) {
		t.Errorf("unclear: status %d: %s", status, output)
	}
	if output, status, _ := run(t, "", "import", "--decimal", "comma", table); status != 0 || !strings.Contains(output, `"30" becomes "1.2"`) {
		t.Errorf("told: status %d: %s", status, output)
	}
}
