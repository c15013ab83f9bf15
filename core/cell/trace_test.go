package cell

import (
	"math"
	"math/rand/v2"
	"testing"
)

// plainly finds the rest by looking at every window, sample by sample.
func plainly(r *Trace) (at, rest float64, found bool) {
	window, spread := or(r.RestWindowS, 1.5), or(r.RestSpreadPct, 5)/100
	peak := 0
	for i := range r.Kn {
		if r.Kn[i] > r.Kn[peak] {
			peak = i
		}
	}
	for i := peak + 1; i < len(r.Kn); i++ {
		end := i
		for end < len(r.Kn) && r.TS[end]-r.TS[i] < window-1e-9 {
			end++
		}
		if end == len(r.Kn) {
			return 0, 0, false
		}
		sum := 0.0
		for _, kn := range r.Kn[i : end+1] {
			sum += kn
		}
		mean, good := sum/float64(end+1-i), true
		for _, kn := range r.Kn[i : end+1] {
			good = good && math.Abs(kn-mean) <= mean*spread+1e-12
		}
		if good && mean > 0.05 && mean <= r.Kn[peak] {
			return r.TS[i], mean, true
		}
	}
	return 0, 0, false
}

// Random traces, noisy, settled and not: the sliding window finds what looking at every one does.
func TestRestAgainstEveryWindow(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 4))
	rested := 0
	for range 300 {
		trace := Trace{At: AtLine}
		at, noise, decay := 0.0, 0.3*r.Float64(), 0.5+3*r.Float64()
		for range 400 {
			at += 0.005 + 0.03*r.Float64()
			trace.TS = append(trace.TS, at)
			trace.Kn = append(trace.Kn, 2+3*math.Exp(-decay*at)*math.Cos(9*at)+noise*(r.Float64()-0.5))
		}
		out := trace.Read()
		wantAt, want, found := plainly(&trace)
		if found != (out.RestKn != nil) || found && (*out.RestAtS != wantAt || !(math.Abs(*out.RestKn-want) <= 1e-9)) {
			t.Fatalf("got %v, looked at one by one %v %v %v", out, wantAt, want, found)
		}
		if found {
			rested++
			if kg := want / 9.80665 * 1000; !(math.Abs(*out.MassKg-kg) <= 1e-9) || !(math.Abs(*out.Amplification-out.PeakKn/want) <= 1e-12) {
				t.Errorf("%v kg, want %v", *out.MassKg, kg)
			}
		}
	}
	if rested < 50 || rested == 300 {
		t.Errorf("%d of 300 come to rest", rested)
	}
}

// At a block with both legs down the cell reads 1 + efficiency times the line.
func TestAtABlock(t *testing.T) {
	factor := 1.9
	trace := Trace{At: AtBlock, Factor: &factor, TS: []float64{0, 1, 2, 3}, Kn: []float64{9, 3.8, 3.8, 3.8}}
	if out := trace.Read(); !(math.Abs(*out.MassKg-2/9.80665*1000) <= 1e-9) || out.PeakKn != 9 {
		t.Errorf("%+v", out)
	}
	trace.Factor = nil
	if faults := trace.Faults("body"); len(faults) != 1 || faults[0].Location != "body.factor" {
		t.Errorf("no factor at a block: %v", faults)
	}
	trace = Trace{At: AtLine, TS: []float64{0, 1, 1}, Kn: []float64{1, 2, 3}}
	if faults := trace.Faults("body"); len(faults) != 1 || faults[0].Location != "body.t_s[2]" {
		t.Errorf("times that stand still: %v", faults)
	}
}

func BenchmarkRead200000(b *testing.B) {
	trace := Trace{At: AtLine}
	for i := range 200_000 {
		trace.TS, trace.Kn = append(trace.TS, float64(i)*0.001), append(trace.Kn, 5+math.Sin(float64(i)))
	}
	for range b.N {
		trace.Read()
	}
}
