package question

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"regexp"
	"testing"
	"time"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/propose"
)

// numbers finds the figures of a document.
var numbers = regexp.MustCompile(`:(-?\d+(\.\d+)?)`)

// Whatever figures stand in a document that is read, every question ends soon, without a
// panic and without a NaN: the demo's shapes, their figures bent at random from the same
// seed each time.
func TestBentFiguresNeverHang(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 9))
	shapes := []job.Job{jobtest.Stem(), jobtest.Whole(), jobtest.Thirty()}
	shapes[2].Picks = append(shapes[2].Picks, job.Pick{ID: "p1", What: job.WhatLimb, Limb: "l4", Way: job.WayFromAbove})
	answered := 0
	for round := range 150 {
		written, _ := json.Marshal(shapes[round%len(shapes)])
		bent := numbers.ReplaceAllStringFunc(string(written), func(was string) string {
			if was == ":2" || random.IntN(12) > 0 {
				return was
			}
			return fmt.Sprintf(":%v", []any{0, 1e-6, 0.01, 0.5, 1, 3, 17, 50, 90, 119, 359, 5000}[random.IntN(12)])
		})
		for _, name := range []string{"assess", "simulate", "propose", "ask"} {
			ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)

			answer, err := ask(ctx, name, []byte(bent), Asked{Pick: "p1", By: propose.ByUp, Ask: propose.AskLength, Hold: propose.HoldLimits})
			cancel()
			if err != nil {
				continue
			}
			answered++
			if _, err := json.Marshal(answer); err != nil {
				t.Fatalf("%s: %v\n%s", name, err, bent)
			}
		}
	}
	if answered < 60 {
		t.Errorf("only %d questions were answered: the figures are bent too far", answered)
	}
}
