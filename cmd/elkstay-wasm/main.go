//go:build js && wasm

// Command elkstay-wasm is the core for the browser: the same questions, the same
// answers, with no server and no signal. It runs in a worker and hangs one function on
// the global object: elkstay(question, document, asked, crew), all text, which returns
// an answer as JSON: {"status":200,"body":…}, or the refusal that HTTP would give.
package main

import (
	"context"
	"fmt"
	"strings"
	"syscall/js"

	"elkstay/core/calc"
	"elkstay/core/intake"
	"elkstay/core/policy"
	"elkstay/question"
)

func main() {
	js.Global().Set("elkstay", js.FuncOf(func(_ js.Value, arguments []js.Value) any {
		return answer(arguments[0].String(), arguments[1].String(), arguments[2].String(), arguments[3].String())
	}))
	select {}
}

func answer(name, document, asked, crew string) string {
	body, err := work(name, document, asked, crew)
	status := 200
	if err != nil {
		problem := calc.Refuse(name, err)
		status, body = problem.Status, problem
	}
	encoded, err := calc.Encode(body)
	if err != nil {
		return `{"status":500,"body":null}`
	}
	return fmt.Sprintf(`{"status":%d,"body":%s}`, status, strings.TrimSpace(string(encoded)))
}

// before is what this page has been answered so far: one page, one job at a time.
var before question.Remembered

func work(name, document, asked, crew string) (any, error) {
	if sum, ok := strings.CutPrefix(name, "calc-"); ok {
		kind, err := calc.Find(sum)
		if err != nil {
			return nil, err
		}
		return kind.Run(context.Background(), []byte(document))
	}
	asks, err := question.Find(name)
	if err != nil {
		return nil, err
	}
	var brought policy.Crew
	if asks.ByCrew {
		if brought, err = policy.ReadCrew([]byte(crew)); err != nil {
			return nil, err
		}
	}
	var about question.Asked
	if err := intake.Decode([]byte(asked), &about); err != nil {
		return nil, err
	}
	before.Crew = crew
	return asks.AnswerAgain(context.Background(), []byte(document), about, brought, &before)
}
