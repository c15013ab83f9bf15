package sums

import "testing"

func TestMost(t *testing.T) {
	if Most(2, 3, 9) != 5 || Most(2, 3, 4) != 4 {
		t.Error("not the most")
	}
}

func TestCount(t *testing.T) {
	if Count(3) != 3 {
		t.Error("miscounted")
	}
}
