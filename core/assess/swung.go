package assess

// swung: held from a block above and to one side, the piece swings off on the line.
type swung struct{ fromAbove }

func (swung) call(v *Survey, o *Outcome) string {
	if o.DropCase == nil {
		return ""
	}
	if said := v.letDown(o); o.Catch.Holds {
		return "Swings " + o.wind() + ", " + said
	} else {
		return said
	}
}

func (swung) because(v *Survey, o *Outcome) string { return v.becauseHeld("Swung", o) }
