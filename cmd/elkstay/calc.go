package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"elkstay/core/calc"
	"elkstay/core/plan"
	"elkstay/core/units"
)

// maxDocument bounds what is read from standard input.
const maxDocument = 16 << 20

func readAll(r io.Reader) ([]byte, error) {
	data, err := io.ReadAll(io.LimitReader(r, maxDocument+1))
	if err == nil && len(data) > maxDocument {
		err = fmt.Errorf("the document is larger than %d bytes", maxDocument)
	}
	return data, err
}

func calcCommand() *cobra.Command {
	var names []string
	long := "Reads a request on standard input and answers it on standard output.\nA refused request: exit status 2 and a problem document on standard error.\n\nKinds:\n"
	for _, kind := range calc.Kinds() {
		names = append(names, kind.Name)
		long += fmt.Sprintf("  %-12s %s\n", kind.Name, kind.Summary)
	}
	return &cobra.Command{
		Use: "calc KIND", Short: "Answer one question of the calculation contract", Long: long,
		Args: cobra.ExactArgs(1), ValidArgs: names,
		RunE: func(command *cobra.Command, args []string) error {
			kind, err := calc.Find(args[0])
			if err != nil {
				return err
			}
			data, err := readAll(command.InOrStdin())
			if err != nil {
				return err
			}
			answer, err := kind.Run(command.Context(), data)
			if err != nil {
				return err
			}
			return print(command, answer)
		},
	}
}

func print(command *cobra.Command, document any) error {
	encoded, err := calc.Encode(document)
	if err != nil {
		return err
	}
	_, err = command.OutOrStdout().Write(encoded)
	return err
}

func assessCommand() *cobra.Command {
	var asJSON bool
	var system string
	command := &cobra.Command{
		Use: "assess JOB.json", Short: "Assess a job file, as a table or as JSON", Args: cobra.ExactArgs(1),
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
			job, err := plan.ReadJob(data)
			if err != nil {
				return calc.Refuse("job", err)
			}
			assessment := plan.Assess(&job, units.System(system))
			if asJSON {
				return print(command, assessment)
			}
			return table(command.OutOrStdout(), &job, &assessment, units.System(system))
		},
	}
	command.Flags().BoolVar(&asJSON, "json", false, "print the whole assessment as JSON")
	command.Flags().StringVar(&system, "units", string(units.Metric), "metric or us")
	return command
}

func table(w io.Writer, job *plan.Job, a *plan.Assessment, system units.System) error {
	force := func(kn *float64) string {
		if kn == nil {
			return "–"
		}
		return units.Print(units.Force, system, *kn)
	}
	out := tabwriter.NewWriter(w, 0, 0, 2, ' ', 0)
	_, _ = fmt.Fprintf(out, "%s\n%s\n\n", job.Name, a.State)
	if len(a.Ladder) > 0 {
		_, _ = fmt.Fprintln(out, "part\tresting\tpeak\tlimit\tuse\tverdict\twhy")
	}
	for _, rung := range a.Ladder {
		use := "–"
		if rung.UsePct != nil {
			use = fmt.Sprintf("%.0f %%", *rung.UsePct)
		}
		_, _ = fmt.Fprintf(out, "%s\t%s\t%s\t%s\t%s\t%s\t%s\n", rung.Part, force(&rung.RestingKn), force(rung.PeakKn), force(rung.LimitKn), use, rung.Verdict, rung.Reason)
	}
	var said []string
	for _, fault := range a.Faults {
		said = append(said, "contradiction: "+fault.Message)
	}
	for _, missing := range a.Missing {
		said = append(said, "missing: "+missing.Ask)
	}
	for _, caution := range a.Cautions {
		said = append(said, "caution: "+caution)
	}
	_, _ = fmt.Fprintln(out, "\n"+strings.Join(said, "\n"))
	return out.Flush()
}
