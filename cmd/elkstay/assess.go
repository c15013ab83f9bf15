package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"elkstay/core/assess"
	"elkstay/core/calc"
	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
)

func assessCommand() *cobra.Command {
	var asJSON bool
	var system, pick, crewFile string
	command := &cobra.Command{
		Use: "assess JOB.json", Short: "Assess a job file, as a table or as JSON", Args: cobra.ExactArgs(1),
		Long: "Assesses every pick of a job file. With --pick, one of them in full: its ladder, its\nroom, and the drop followed through time.",
		RunE: func(command *cobra.Command, args []string) error {
			if system != string(units.Metric) && system != string(units.US) {
				return errors.New("--units is metric or us")
			}
			file, err := os.Open(args[0])
			if err != nil {
				return err
			}
			defer func() { _ = file.Close() }()
			data, err := readAll(file)
			if err != nil {
				return err
			}
			document, err := job.ReadJob(data)
			if err != nil {
				return calc.Refuse("job", err)
			}
			options := assess.Options{Units: units.System(system), Pick: pick}
			if options.Crew, err = readCrew(crewFile); err != nil {
				return err
			}
			assessment := assess.Assess(&document, options)
			if pick != "" && assessment.Detail == nil && len(assessment.Missing)+len(assessment.Faults) == 0 {
				return fmt.Errorf("there is no pick %q in this job", pick)
			}
			if asJSON {
				return print(command, assessment)
			}
			t := table{tabwriter.NewWriter(command.OutOrStdout(), 0, 0, 2, ' ', 0), units.System(system)}
			t.whole(&document, &assessment)
			if assessment.Detail != nil {
				trace, err := assess.Simulate(command.Context(), &document, pick, 0, options)
				if err != nil {
					return err
				}
				t.pick(assessment.Detail, &trace)
			}
			return t.out.Flush()
		},
	}
	command.SetContext(context.Background())
	command.Flags().BoolVar(&asJSON, "json", false, "print the whole assessment as JSON")
	command.Flags().StringVar(&system, "units", string(units.Metric), "metric or us")
	command.Flags().StringVar(&crewFile, "crew", "", "file of the crew's rules and gear, as /api/crew gives it; absent: the default rules")
	command.Flags().StringVar(&pick, "pick", "", "id of one pick to give in full")
	return command
}

// readCrew reads a file of rules and gear; no name is a crew with neither.
func readCrew(name string) (policy.Crew, error) {
	if name == "" {
		return policy.Crew{}, nil
	}
	file, err := os.Open(name) //nolint:gosec // the user names it
	if err != nil {
		return policy.Crew{}, err
	}
	defer func() { _ = file.Close() }()
	data, err := readAll(file)
	if err != nil {
		return policy.Crew{}, err
	}
	crew, err := policy.ReadCrew(data)
	if err != nil {
		return policy.Crew{}, calc.Refuse("crew", err)
	}
	return crew, nil
}

// table prints an assessment for people.
type table struct {
	out    *tabwriter.Writer
	system units.System
}

func (t table) line(format string, args ...any) { _, _ = fmt.Fprintf(t.out, format+"\n", args...) }

func (t table) figure(q units.Quantity, si *float64) string {
	if si == nil {
		return "–"
	}
	return units.Print(q, t.system, *si)
}

func percent(pct *float64) string {
	if pct == nil {
		return "–"
	}
	return fmt.Sprintf("%.0f %%", *pct)
}

func (t table) whole(document *job.Job, a *assess.Assessment) {
	t.line("%s\n%s\n", document.Name, a.State)
	if len(a.Picks) > 0 {
		t.line("no.\tpick\tway\tweight\tline peak\trun\troom\tworst\tverdict\tcut")
	}
	for i := range a.Picks {
		p := &a.Picks[i]
		kg, nearest := "–", "–"
		if p.MassKg != nil {
			kg = fmt.Sprintf("%s–%s", units.Figure(units.Mass, t.system, p.MassKg.Low), units.Print(units.Mass, t.system, p.MassKg.High))
		}
		if p.Worst != "" {
			nearest = p.Worst
		}
		t.line("%d\t%s\t%s\t%s\t%s\t%s\t%s\t%s\t%s\t%s", p.Number, p.Title, document.Picks[i].Way, kg,
			t.figure(units.Force, p.PeakKn), t.figure(units.Height, p.RunM), t.figure(units.Height, p.ClearanceM), nearest, p.Verdict, p.Cut)
		for _, fault := range p.Faults {
			t.line("\tcannot happen: %s", fault.Message)
		}
	}
	if len(a.Gear) > 0 {
		t.line("\nrig\tpart\titem\thardest\tlimit\tuse\tat pick\tverdict")
	}
	for _, g := range a.Gear {
		t.line("%s\t%s\t%s\t%s\t%s\t%s\t%d\t%s", g.Rig, g.Part, g.Name, t.figure(units.Force, &g.PeakKn), t.figure(units.Force, g.LimitKn), percent(g.UsePct), g.Pick, g.Verdict)
	}
	for _, r := range a.Ropes {
		t.line("rope of %s\tneeds %s\thas %s\tat pick %d", r.Rig, t.figure(units.Height, &r.NeedM), t.figure(units.Height, r.HaveM), r.Pick)
	}
	t.line("")
	for _, fault := range a.Faults {
		t.line("contradiction: %s", fault.Message)
	}
	for _, missing := range a.Missing {
		t.line("missing: %s", missing.Ask)
	}
	for _, caution := range a.Cautions {
		t.line("caution: %s", caution)
	}
}

func (t table) pick(d *assess.Detail, trace *course.Trace) {
	t.line("\npick %d\nresting\tpeak\tlimit\tuse\tverdict\tpart\twhy", d.Number)
	for i := range d.Ladder {
		r := &d.Ladder[i]
		t.line("%s\t%s\t%s\t%s\t%s\t%s\t%s", t.figure(units.Force, &r.RestingKn), t.figure(units.Force, r.PeakKn), t.figure(units.Force, r.LimitKn), percent(r.UsePct), r.Verdict, r.Part, r.Reason)
	}
	if run := trace.Run; run != nil {
		t.line("followed through time: line %s, block %s", t.figure(units.Force, run.LinePeakKn), t.figure(units.Force, run.BlockPeakKn))
	} else {
		t.line("not followed through time: %s", trace.Why)
	}
	for _, c := range d.Clear {
		t.line("%s from %s: %s", t.figure(units.Height, &c.ClearanceM), c.Name, c.Verdict)
	}
	for _, caution := range d.Cautions {
		t.line("caution: %s", caution)
	}
}
