package question

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/propose"
	"elkstay/core/units"
)

// One door for all: the same answers as the functions, and faults by name.
func TestQuestions(t *testing.T) {
	j := jobtest.Whole()
	written, _ := json.Marshal(j)
	for name, want := range map[string]any{
		"assess":  assess.Assess(&j, assess.Options{Units: units.US, Pick: "p2"}),
		"propose": propose.Order(&j, propose.BySides, "", assess.Options{Units: units.US}),
	} {
		got, err := ask(context.Background(), name, written, Asked{Units: units.US, Pick: "p2", By: propose.BySides})
		if err != nil {
			t.Fatal(err)
		}
		a, _ := json.Marshal(got)
		b, _ := json.Marshal(want)
		if !bytes.Equal(a, b) {
			t.Errorf("%s differs through the door", name)
		}
	}
	if _, err := ask(context.Background(), "merge", []byte("{"), Asked{}); err == nil {
		t.Error("half a request is merged")
	}
	if _, err := ask(context.Background(), "guess", written, Asked{}); err == nil || !strings.Contains(err.Error(), "guess") {
		t.Errorf("an unknown question: %v", err)
	}
}

// No document that is read makes any question panic, hang or answer with NaN.
func FuzzQuestions(f *testing.F) {
	for _, j := range []job.Job{jobtest.Stem(), jobtest.Whole(), job.NewJob("empty")} {
		written, _ := json.Marshal(j)
		f.Add(written, "p1")
	}
	f.Fuzz(func(t *testing.T, data []byte, pick string) {
		for _, name := range []string{"assess", "simulate", "propose"} {
			answer, err := ask(context.Background(), name, data, Asked{Pick: pick, By: propose.ByUp})
			if err != nil {
				continue
			}
			if _, err := json.Marshal(answer); err != nil {
				t.Errorf("%s: %v", name, err)
			}
		}
	})
}

// A question that nobody waits for ends without an answer, whatever it asks.
func TestNobodyWaits(t *testing.T) {
	gone, leave := context.WithCancel(t.Context())
	leave()
	document, err := json.Marshal(jobtest.Thirty())
	if err != nil {
		t.Fatal(err)
	}
	for _, name := range []string{"assess", "propose", "brief"} {
		if answer, err := ask(gone, name, document, Asked{}); !errors.Is(err, context.Canceled) || answer != nil {
			t.Errorf("%s: %v %v", name, answer, err)
		}
	}
}

// ask asks the question of a name.
func ask(ctx context.Context, name string, document []byte, asked Asked) (any, error) {
	q, err := Find(name)
	if err != nil {
		return nil, err
	}
	return q.Answer(ctx, document, asked, policy.Crew{})
}
