package main

import (
	"fmt"
	"io"

	"github.com/spf13/cobra"

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
