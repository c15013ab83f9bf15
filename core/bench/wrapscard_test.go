package bench

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"elkstay/core/intake"
)

// The card by the capstan equation; what fits, what is over, what is refused.
func TestTheWrapsCardByHand(t *testing.T) {
	card, err := WrapCard([]byte(`{"friction":0.2,"hand_kn":0.25,"limit_kn":8,"drum_m":0.09,"rope_m":0.016}`))
	if err != nil || len(card.Rows) != 12 {
		t.Fatal(err, card)
	}
	// 90 mm for turns of 1.05 times 16 mm: five and a bit.
	if card.Fit == nil || *card.Fit != 5 {
		t.Errorf("fit %v", card.Fit)
	}
	for i, row := range card.Rows {
		n := 0.5 * float64(i+1)
		least, most := 0.25*math.Exp(2*math.Pi*0.15*n), 0.25*math.Exp(2*math.Pi*0.2*n)
		if row.Wraps != n || !(math.Abs(row.HoldsKn-least) <= 1e-9*least) || !(math.Abs(row.AtMost-most) <= 1e-9*most) || !(math.Abs(row.Kg-least/0.00980665) <= 1e-6*row.Kg) {
			t.Errorf("%v turns: %+v, by hand %v to %v", n, row, least, most)
		}
		if row.Fits != (n <= 5) || row.Over != (least > 8) {
			t.Errorf("%v turns: fits %v, over %v", n, row.Fits, row.Over)
		}
	}
	if card, err = WrapCard([]byte(`{"friction":0.2,"hand_kn":0.25}`)); err != nil || card.Fit != nil || !card.Rows[11].Fits || card.Rows[11].Over {
		t.Errorf("of no drum: %v %+v", err, card)
	}
	// A drum just as long as five turns take has room for them.
	if card, err = WrapCard([]byte(`{"friction":0.2,"hand_kn":0.25,"drum_m":0.084,"rope_m":0.016}`)); err != nil || *card.Fit != 5 || !card.Rows[9].Fits || card.Rows[10].Fits {
		t.Errorf("five turns: %v %v", err, *card.Fit)
	}
	// What is held at the limit is not over it.
	limit := card.Rows[5].HoldsKn
	if card, err = WrapCard(fmt.Appendf(nil, `{"friction":0.2,"hand_kn":0.25,"limit_kn":%v}`, limit)); err != nil || card.Rows[5].Over || !card.Rows[6].Over {
		t.Errorf("at the limit: %v %+v", err, card.Rows[5:7])
	}
	var faults intake.Faults
	for document, at := range map[string]string{`{"friction":0.2,"hand_kn":0.25,"drum_m":0.1}`: "body.rope_m", `{"friction":0,"hand_kn":0.25}`: "body.friction", `{"friction":0.2}`: "body.hand_kn"} {
		if _, err := WrapCard([]byte(document)); !errors.As(err, &faults) || faults[0].Location != at {
			t.Errorf("%s: %v", document, err)
		}
	}
}
