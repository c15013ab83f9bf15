package calc_test

import (
	"context"
	"encoding/json"
	"fmt"

	"elkstay/core/calc"
)

// A question of the contract through the door that command line and HTTP share.
func ExampleFind() {
	wraps, _ := calc.Find("wraps")
	answer, _ := wraps.Run(context.Background(), []byte(`{"line_kn":9,"hand_kn":0.2,"friction":0.2}`))
	encoded, _ := json.Marshal(answer)
	fmt.Println(string(encoded[:17]))
	// Output: {"wraps":3.029245
}
