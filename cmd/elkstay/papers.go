package main

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/spf13/cobra"

	"elkstay/core/assess"
	"elkstay/core/calc"
	"elkstay/core/ground"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/units"
	"elkstay/exchange"
	"elkstay/paper"
	"elkstay/paper/brief"
	"elkstay/sheet"
	"elkstay/store"
)

// exportCommand writes what other programs and people read of a job file.
func exportCommand() *cobra.Command {
	var system, crewFile, out string
	command := &cobra.Command{
		Use: "export JOB.json --out FILE", Short: "Write a job as a briefing, a drawing or a table, by the file's ending", Args: cobra.ExactArgs(1),
		Long: "Writes a job file as FILE: .pdf the briefing, .csv or .xlsx the picks, waste.csv what has to go, .geojson the site in local metres,\ntree.svg or any other .svg the tree, site.svg the plan. Needs neither database nor server.",
		RunE: func(command *cobra.Command, args []string) error {
			if system != string(units.Metric) && system != string(units.US) {
				return errors.New("--units is metric or us")
			}
			data, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			document, err := job.ReadJob(data)
			if err != nil {
				return calc.Refuse("job", err)
			}
			options := assess.Options{Units: units.System(system)}
			if options.Crew, err = readCrew(crewFile); err != nil {
				return err
			}
			written, err := export(&document, options, out)
			if err != nil {
				return err
			}
			return os.WriteFile(out, written, 0o644) //nolint:gosec // a paper to be handed round
		},
	}
	command.Flags().StringVar(&out, "out", "", "file to write")
	command.Flags().StringVar(&crewFile, "crew", "", "file of the crew's rules and gear, as /api/crew gives it; absent: the default rules")
	command.Flags().StringVar(&system, "units", string(units.Metric), "metric or us")
	_ = command.MarkFlagRequired("out")
	return command
}

func export(document *job.Job, o assess.Options, out string) ([]byte, error) {
	a := assess.Assess(document, o)
	switch strings.ToLower(filepath.Ext(out)) {
	case ".pdf":
		said := brief.Briefing(document, o)
		now := time.Now()
		return paper.Briefing(document, &a, &said, paper.Stamp{SavedAt: now, MadeAt: now, Crew: o.Crew.Revision}, o.Units, o.Units == units.US)
	case ".csv":
		if strings.HasPrefix(filepath.Base(out), "waste") {
			lies, err := ground.Of(document, o)
			if err != nil {
				return nil, err
			}
			return sheet.CSV(paper.Waste(&lies))
		}
		return sheet.CSV(paper.Picks(&a, o.Units))
	case ".xlsx":
		return sheet.XLSX([]locker.Table{paper.Picks(&a, o.Units)})
	case ".geojson":
		return exchange.GeoJSON(document.Site.Earth, exchange.Plan(document, &a))
	case ".dxf":
		return exchange.DXF(exchange.Plan(document, &a)), nil
	case ".svg":
		if strings.HasPrefix(filepath.Base(out), "site") {
			return paper.Site(document, &a, o.Units, 145, 130).SVG(), nil
		}
		return paper.Tree(document, &a, o.Units, 125, 130).SVG(), nil
	}
	return nil, fmt.Errorf("%s ends in none of .pdf, .csv, .xlsx, .geojson, .dxf, .svg", out)
}

// importCommand takes a table over into the locker, or says what it would do.
func importCommand() *cobra.Command {
	var apply bool
	var told locker.Told
	command := &cobra.Command{
		Use: "import TABLE", Short: "Say what a CSV or XLSX file would do to the locker; with --apply, do it", Args: cobra.ExactArgs(1),
		Long: "Reads a table of items, inspections or charts into the locker of the database that " + databaseEnv + " names.\nAll rows are taken over, or none.",
		RunE: func(command *cobra.Command, args []string) error {
			databaseURL := os.Getenv(databaseEnv)
			if databaseURL == "" {
				return errors.New(databaseEnv + " names no database")
			}
			if info, err := os.Stat(args[0]); err == nil && info.Size() > sheet.MaxBytes {
				return sheet.TooLarge(info.Size())
			}
			data, err := os.ReadFile(args[0])
			if err != nil {
				return err
			}
			file, err := sheet.Read(data)
			if err != nil {
				return calc.Refuse("import", err)
			}
			kept, err := store.Open(command.Context(), databaseURL)
			if err != nil {
				return err
			}
			defer kept.Close()
			held, revision, err := kept.Items(command.Context())
			if err != nil {
				return err
			}
			items := make([]locker.Item, len(held))
			for i := range held {
				items[i] = held[i].Item
			}
			read, err := locker.ReadTables(file, told, items, uuid.NewString)
			if err != nil {
				return calc.Refuse("import", err)
			}
			say := func(format string, args ...any) { _, _ = fmt.Fprintf(command.OutOrStdout(), format, args...) }
			for _, row := range read.Rows {
				say("%5d  %-7s %s\n", row.Line, row.Does, row.Title)
				for _, c := range row.Changes {
					if row.Does == locker.RowMoved {
						say("       %s: %q becomes %q\n", c.Field, c.From, c.To)
					}
				}
				for _, f := range row.Faults {
					say("       %s %s: %s; allowed: %s\n", f.Cell, f.Column, f.Message, f.Allowed)
				}
			}
			for _, ask := range read.Dialect.Asked {
				for _, one := range ask.Reads {
					say("%s %q: %s with --%s %s\n", ask.Cell, ask.Value, one.Means, ask.What, one.As)
				}
			}
			say("%d new, %d changed, %d the same, %d wrong\n", read.New, read.Changed, read.Same, read.Wrong)
			switch {
			case read.Wrong > 0:
				return errors.New("some rows are wrong: nothing was taken over")
			case len(read.Dialect.Asked) > 0:
				return errors.New("what can be read in two ways must be said: nothing was taken over")
			case !apply || len(read.Items) == 0:
				return nil
			}
			_, err = kept.ImportItems(command.Context(), read.Items, revision)
			return err
		},
	}
	command.Flags().BoolVar(&apply, "apply", false, "take it over; else say only what it would do")
	command.Flags().StringVar(&told.Decimal, "decimal", "", "what stands before decimals: point or comma; else told from the file")
	command.Flags().StringVar(&told.Days, "days", "", "how days are written: day-first or month-first; else told from the file")
	command.Flags().StringVar(&told.Counts, "counts", "", "what a bare number is where a day belongs: day or no-day; else asked")
	return command
}
