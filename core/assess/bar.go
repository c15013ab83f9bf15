package assess

// bar names the gear that this pick may not be planned with.
func (v *Survey) bar(o *Outcome) {
	seen := map[string]bool{}
	for i := range o.loads {
		id := o.loads[i].item
		if id == "" || seen[id] {
			continue
		}
		seen[id] = true
		if standing, barred, _ := v.gear.Stands(id); barred {
			o.fault(faultGear, "%s is not to be planned with: %s. Take another, or record a reason", v.gear.Item(id).Name, standing.Why)
		}
	}
}
