// Command elkstay is the whole application in one binary: the server with its
// front end, the demo, and the core's answers on the command line.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"elkstay/core/calc"
	"elkstay/server"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM, syscall.SIGHUP)
	err := root().ExecuteContext(ctx)
	stop()
	os.Exit(report(err))
}

// report prints an error as its kind asks and returns the exit status: 2 for a
// refused document, printed as a problem document, 1 for all else.
func report(err error) int {
	if err == nil {
		return 0
	}
	var problem *calc.Problem
	if errors.As(err, &problem) {
		if encoded, err := calc.Encode(problem); err == nil {
			_, _ = os.Stderr.Write(encoded)
		}
		return 2
	}
	fmt.Fprintln(os.Stderr, "elkstay:", err)
	return 1
}

func root() *cobra.Command {
	command := &cobra.Command{
		Use:           "elkstay",
		Short:         "Size the pieces, work out the loads",
		Version:       server.Version,
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	command.AddCommand(serveCommand(), demoCommand(), calcCommand(), assessCommand(), exportCommand(), importCommand())
	return command
}
