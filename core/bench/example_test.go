package bench_test

import (
	"context"
	"fmt"

	"elkstay/core/bench"
	"elkstay/core/calc"
)

// Three turns on a bollard, 9 kN on the line, a fifth of one in the hand: how slippery may it be?
func ExampleAsk() {
	wraps, _ := calc.Find("wraps")
	asked, err := bench.Ask(context.Background(), wraps, []byte(`{"line_kn":9,"hand_kn":0.2,"friction":0.2}`), bench.Held{Hold: "wraps", Value: 3, Ask: "friction"})
	fmt.Printf("%.2f %v\n", asked.Answers[0].Value, err)
	// Output: 0.20 <nil>
}
