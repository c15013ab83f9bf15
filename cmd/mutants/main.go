// Command mutants compiles every small bug of a package into one test binary, each behind its
// number, and says which of them the package's own tests see.
//
// scripts/mutants builds and runs a package's tests once for each bug, by a well-known tool; of
// core/assess that takes seven hours. Here one build serves all bugs, each bug runs only the tests
// that reach it, the quickest first, and the same package is gone through in less than one.
//
//	go run ./cmd/mutants -every 3 core/assess
package main

import (
	"bytes"
	"cmp"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"go/ast"
	"go/importer"
	"go/parser"
	"go/token"
	"go/types"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

//go:embed planted.go.txt
var helper string

func main() {
	every := flag.Int("every", 1, "plant one bug in so many")
	from := flag.Int("from", 0, "the first of them")
	tests := flag.String("run", "^(Test|Fuzz|Example)", "tests that count")
	flag.Parse()
	if flag.NArg() == 0 || *every < 1 {
		fmt.Fprintln(os.Stderr, "mutants [-every n] [-from k] [-run tests] package …, such as core/line")
		os.Exit(2)
	}
	for _, name := range flag.Args() {
		one, err := prepare(name, *tests)
		if err == nil {
			one.run(*every, *from)
			err = one.report(filepath.Join("var", "mutants", strings.ReplaceAll(name, "/", "-")+".txt"))
		}
		if one != nil {
			_ = os.RemoveAll(one.work)
		}
		if err != nil {
			fmt.Fprintln(os.Stderr, name+":", err)
			os.Exit(1)
		}
	}
}

// A reach is a test, how long it takes, and which bugs it runs.
type reach struct {
	name string
	took time.Duration
	runs map[int]bool
}

// A planting is a package with its bugs.
type planting struct {
	name, folder   string
	work           string // its binaries
	bugs           []*bug
	tests          []reach
	counted        []*bug
	begins         time.Duration // what a run takes before its tests: the quickest test's, a database's start with it
	tracing, quick string
}

// prepare plants the bugs of a package, builds its tests twice, once to tell which bugs each runs, and
// times them. What it gives back is to be cleared away, with an error too.
func prepare(name, tests string) (*planting, error) {
	var listed struct {
		Dir, Name, ImportPath string
		GoFiles               []string
	}
	text, err := output("", nil, "go", "list", "-json", "./"+name)
	if err != nil {
		return nil, err
	}
	if err := json.Unmarshal(text, &listed); err != nil {
		return nil, err
	}
	p := &planter{files: token.NewFileSet(), info: &types.Info{Types: map[ast.Expr]types.TypeAndValue{}}}
	sources, files := map[string][]byte{}, []*ast.File{}
	for _, name := range listed.GoFiles {
		path := filepath.Join(listed.Dir, name)
		if sources[path], err = os.ReadFile(path); err != nil { //nolint:gosec // a file of the package that go list names
			return nil, err
		}
		file, err := parser.ParseFile(p.files, path, sources[path], parser.ParseComments)
		if err != nil {
			return nil, err
		}
		files = append(files, file)
	}
	checks := types.Config{Importer: importer.ForCompiler(p.files, "source", nil)}
	if _, err := checks.Check(listed.ImportPath, p.files, files, p.info); err != nil {
		return nil, err
	}
	work, err := os.MkdirTemp("", "mutants-")
	if err != nil {
		return nil, err
	}
	one := &planting{name: name, folder: listed.Dir, work: work, tracing: filepath.Join(work, "tracing.test"), quick: filepath.Join(work, "quick.test")}
	replace := map[string]string{filepath.Join(listed.Dir, "planted_bugs.go"): filepath.Join(work, "planted_bugs.go")}
	for _, file := range files {
		path := p.files.Position(file.Pos()).Filename
		p.src = sources[path]
		// What stands above the package's name is kept: it may say when the file is built.
		planted := p.text(p.files.File(file.Pos()).Pos(0), file.Pos()) + p.planted(file)
		replace[path] = filepath.Join(work, filepath.Base(path))
		if err := os.WriteFile(replace[path], []byte(planted), 0o600); err != nil {
			return one, err
		}
	}
	one.bugs = p.bugs
	overlay, err := json.Marshal(map[string]any{"Replace": replace})
	if err == nil {
		err = os.WriteFile(filepath.Join(work, "overlay.json"), overlay, 0o600)
	}
	for _, b := range []struct {
		to     string
		traces bool
	}{{one.tracing, true}, {one.quick, false}} {
		if err != nil {
			return one, err
		}
		help := strings.NewReplacer("PACKAGE", listed.Name, "TRACES", strconv.FormatBool(b.traces), "COUNT", strconv.Itoa(len(p.bugs)+1)).Replace(helper)
		if err = os.WriteFile(filepath.Join(work, "planted_bugs.go"), []byte(help), 0o600); err == nil {
			_, err = output("", nil, "go", "test", "-c", "-vet=off", "-overlay", filepath.Join(work, "overlay.json"), "-o", b.to, "./"+name)
		}
	}
	if err != nil {
		return one, err
	}
	return one, one.reached(tests)
}

// reached runs every test by itself without a bug, to time it and to see which bugs it runs.
func (p *planting) reached(tests string) error {
	text, err := output(p.folder, nil, p.tracing, "-test.list", tests)
	if err != nil {
		return err
	}
	names := strings.Fields(string(text))
	p.tests = make([]reach, len(names))
	failed := make([]error, len(names))
	inParallel(len(names), func(i int) {
		to := filepath.Join(p.work, "run-"+strconv.Itoa(i))
		only := []string{"-test.run", "^" + names[i] + "$", "-test.cpu", "1"}
		if _, failed[i] = output(p.folder, []string{"PLANTED_TO=" + to}, p.tracing, only...); failed[i] != nil {
			return
		}
		start := time.Now()
		_, failed[i] = output(p.folder, nil, p.quick, only...)
		p.tests[i] = reach{names[i], time.Since(start), map[int]bool{}}
		run, _ := os.ReadFile(to) //nolint:gosec // its own trace; a test that runs no bug leaves none
		for _, word := range strings.Fields(string(run)) {
			id, _ := strconv.Atoi(word)
			p.tests[i].runs[id] = true
		}
	})
	slices.SortFunc(p.tests, func(a, b reach) int { return cmp.Compare(a.took, b.took) })
	if len(p.tests) > 0 {
		p.begins = p.tests[0].took
	}
	return errors.Join(failed...)
}

// together is how quick a test is that is run in one go with others.
const together = 150 * time.Millisecond

// run plants the bugs one after another.
func (p *planting) run(every, from int) {
	p.counted = nil
	for i, b := range p.bugs {
		if i%every == from%every {
			p.counted = append(p.counted, b)
		}
	}
	inParallel(len(p.counted), func(i int) { p.counted[i].fate = p.fate(p.counted[i].id) })
}

// fate is what the tests that run a bug make of it: the quick ones in one go, then each of the others.
func (p *planting) fate(id int) string {
	goes, usual, some := [][]string{nil}, []time.Duration{p.begins}, false
	for _, t := range p.tests {
		if !t.runs[id] {
			continue
		}
		some = true
		if own := t.took - p.begins; own < together {
			goes[0], usual[0] = append(goes[0], t.name), usual[0]+own
			continue
		}
		goes, usual = append(goes, []string{t.name}), append(usual, t.took)
	}
	if !some {
		return unreached
	}
	for i, names := range goes {
		if len(names) == 0 {
			continue
		}
		limit := 4*usual[i] + 3*time.Second
		text, err := output(p.folder, []string{"PLANTED_NOW=" + strconv.Itoa(id)}, p.quick, "-test.failfast", "-test.cpu", "1", "-test.run", "^("+strings.Join(names, "|")+")$", "-test.timeout", limit.String())
		switch {
		case err == nil:
		case bytes.Contains(text, []byte("panic: test timed out")):
			return slow
		default:
			return seen
		}
	}
	return lived
}

// report says what became of the bugs, and lists those that no test sees.
func (p *planting) report(path string) error {
	count, list := map[string]int{}, &strings.Builder{}
	for _, b := range p.counted {
		count[b.fate]++
		if b.fate == seen {
			continue
		}
		source, err := os.ReadFile(b.at.Filename)
		if err != nil {
			return err
		}
		line := strings.Split(string(source), "\n")[b.at.Line-1]
		fmt.Fprintf(list, "%-9s %s:%d:%d %s, %s for %s | %s\n", b.fate, filepath.Base(b.at.Filename), b.at.Line, b.at.Column, b.kind, b.to, b.from, strings.TrimSpace(line))
	}
	share := 100 * float64(count[seen]) / float64(max(1, count[seen]+count[lived]))
	fmt.Printf("%-14s %d seen, %d lived, %d slow, %d unreached: %.1f %%\n", p.name, count[seen], count[lived], count[slow], count[unreached], share)
	if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
		return err
	}
	return os.WriteFile(path, []byte(list.String()), 0o600)
}

// output runs a command and gives what it says; the error has it too.
func output(folder string, env []string, name string, args ...string) ([]byte, error) {
	command := exec.CommandContext(context.Background(), name, args...)
	command.Dir, command.Env = folder, append(os.Environ(), env...)
	var out, wrong bytes.Buffer
	command.Stdout, command.Stderr = &out, &wrong
	if err := command.Run(); err != nil {
		all := append(out.Bytes(), wrong.Bytes()...)
		return all, fmt.Errorf("%s: %w\n%s", filepath.Base(name), err, all)
	}
	return out.Bytes(), nil
}

// inParallel does a number of things on every processor.
func inParallel(number int, do func(i int)) {
	next := make(chan int)
	var workers sync.WaitGroup
	for range runtime.NumCPU() {
		workers.Go(func() {
			for i := range next {
				do(i)
			}
		})
	}
	for i := range number {
		next <- i
	}
	close(next)
	workers.Wait()
}
