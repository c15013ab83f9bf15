package drop

// ForLimit is the hold and the run that keep the line at its limit.
type ForLimit struct {
	DeviceHoldKn float64  `json:"device_hold_kn" doc:"Tension on the lead at which the rope must run"`
	RunM         *float64 `json:"run_m" doc:"Run it needs; null when not reachable"`
	Reachable    bool     `json:"reachable" doc:"False when the limit is no more than the weight"`
}

// HoldRange is what a hold a fifth lower or higher does.
type HoldRange struct {
	LowHoldKn            float64  `json:"low_hold_kn" doc:"Hold less 20 %"`
	RunAtLowHoldM        *float64 `json:"run_at_low_hold_m" doc:"Run at that hold; null when the piece is never stopped"`
	HighHoldKn           float64  `json:"high_hold_kn" doc:"Hold plus 20 %"`
	LinePeakAtHighHoldKn float64  `json:"line_peak_at_high_hold_kn" doc:"Peak of the line at that hold"`
}

// AtLimit returns the hold and the run that keep the line at its limit; nil when
// the case has no limit.
func AtLimit(c *Case) *ForLimit {
	if c.LineLimitKn == nil {
		return nil
	}
	limit := ForLimit{DeviceHoldKn: c.BlockEfficiency * *c.LineLimitKn}
	if run, reachable := RunFor(c, *c.LineLimitKn); reachable {
		limit.RunM, limit.Reachable = &run, true
	}
	return &limit
}

// AroundHold returns what a hold a fifth lower or higher than that of the case
// does; nil when the case is locked off.
func AroundHold(c *Case) *HoldRange {
	if c.DeviceHoldKn == nil {
		return nil
	}
	at := *c
	solve := func(holdKn float64) Catch {
		at.DeviceHoldKn = &holdKn
		return Solve(&at)
	}
	spread := HoldRange{LowHoldKn: 0.8 * *c.DeviceHoldKn, HighHoldKn: 1.2 * *c.DeviceHoldKn}
	if low := solve(spread.LowHoldKn); low.Holds {
		spread.RunAtLowHoldM = &low.RunM
	}
	spread.LinePeakAtHighHoldKn = solve(spread.HighHoldKn).LinePeakKn
	return &spread
}
