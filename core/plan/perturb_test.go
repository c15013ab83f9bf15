package plan

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"regexp"
	"testing"
	"time"
)

// numbers finds the figures of a document.
var numbers = regexp.MustCompile(`:(-?\d+(\.\d+)?)`)

// Whatever figures stand in a document that is read, every question ends soon, without a
// panic and without a NaN: the demo's shapes, their figures bent at random from the same
// seed each time.
func TestBentFiguresNeverHang(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 9))
	shapes := []Job{job(), tree(), big()}
	shapes[2].Picks = append(shapes[2].Picks, Pick{ID: "p1", What: WhatLimb, Limb: "l4", Way: WayFromAbove})
	answered := 0
	for round := range 150 {
		written, _ := json.Marshal(shapes[round%len(shapes)])
		bent := numbers.ReplaceAllStringFunc(string(written), func(was string) string {
			if was == ":2" || random.IntN(12) > 0 {
				return was
			}
			return fmt.Sprintf(":%v", []any{0, 1e-6, 0.01, 0.5, 1, 3, 17, 50, 90, 119, 359, 5000}[random.IntN(12)])
		})
		for _, name := range []string{QuestionAssess, QuestionFollow, QuestionFill, QuestionAsk} {
			ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)

			answer, err := Question(ctx, name, []byte(bent), Asked{Pick: "p1", By: ByUp, Ask: AskLength, Hold: HoldLimits}, Crew{})
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
