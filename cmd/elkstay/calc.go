package main

import (
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/spf13/cobra"

	"elkstay/core/bench"
	"elkstay/core/calc"
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
	var hold, ask, between, sweep, of string
	var steps int
	command := &cobra.Command{
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
			var answer any
			switch {
			case hold != "":
				var held bench.Held
				if held, err = heldOf(hold, ask, between); err == nil {
					answer, err = bench.Ask(command.Context(), kind, data, held)
				}
			case sweep != "":
				over := bench.Over{Of: of, Steps: steps}
				var from, to float64
				name, bounds, _ := strings.Cut(sweep, "=")
				if from, to, err = rangeOf(bounds); err == nil {
					over.Over, over.From, over.To = name, &from, &to
					var swept bench.Swept
					if swept, err = bench.Sweep(command.Context(), kind, data, over); err == nil {
						_, err = command.OutOrStdout().Write(swept.CSV())
						return err
					}
				}
			default:
				answer, err = kind.Run(command.Context(), data)
			}
			if err != nil {
				return err
			}
			return print(command, answer)
		},
	}
	command.Flags().StringVar(&hold, "hold", "", "hold a figure, such as line_peak_kn=12")
	command.Flags().StringVar(&ask, "ask", "", "and ask for an input, such as device_hold_kn")
	command.Flags().StringVar(&between, "between", "", "where it is looked for, such as 0.5:20")
	command.Flags().StringVar(&sweep, "sweep", "", "an input over a range as CSV, such as slack_m=0:2")
	command.Flags().StringVar(&of, "of", "", "the figure that a sweep looks at")
	command.Flags().IntVar(&steps, "steps", 0, "of a sweep; default 100")
	return command
}

// heldOf reads what is held and what is asked.
func heldOf(hold, ask, between string) (bench.Held, error) {
	name, text, _ := strings.Cut(hold, "=")
	value, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return bench.Held{}, fmt.Errorf("--hold takes a figure and its value, such as line_peak_kn=12, not %q", hold)
	}
	held := bench.Held{Hold: name, Value: value, Ask: ask}
	if between != "" {
		from, to, err := rangeOf(between)
		if err != nil {
			return held, err
		}
		held.From, held.To = &from, &to
	}
	return held, nil
}

// rangeOf reads a range, such as 0:2.
func rangeOf(text string) (from, to float64, err error) {
	low, high, _ := strings.Cut(text, ":")
	from, err = strconv.ParseFloat(low, 64)
	if err == nil {
		to, err = strconv.ParseFloat(high, 64)
	}
	if err != nil {
		return 0, 0, fmt.Errorf("a range is two numbers, such as 0:2, not %q", text)
	}
	return from, to, nil
}

func print(command *cobra.Command, document any) error {
	encoded, err := calc.Encode(document)
	if err != nil {
		return err
	}
	_, err = command.OutOrStdout().Write(encoded)
	return err
}
