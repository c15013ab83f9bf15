package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/spf13/cobra"

	"elkstay/demo"
	"elkstay/server"
	"elkstay/store"
	"elkstay/store/cluster"
	"elkstay/store/schema"
	"elkstay/web"
)

// databaseEnv names the database to use in place of the project's own cluster.
const databaseEnv = "ELKSTAY_DATABASE_URL"

// ownerEnv names the same database as the role that owns its tables, when the application is
// to connect as another.
const ownerEnv = "ELKSTAY_OWNER_URL"

// prepare brings the database up to date as its owner, when one is named.
func prepare(ctx context.Context, databaseURL string) error {
	ownerURL := os.Getenv(ownerEnv)
	if ownerURL == "" {
		return nil
	}
	as, err := pgx.ParseConfig(databaseURL)
	if err != nil {
		return err
	}
	return schema.Prepare(ctx, ownerURL, as.User)
}

const defaultListen = "127.0.0.1:8420"

func newLog() *slog.Logger { return slog.New(slog.NewTextHandler(os.Stderr, nil)) }

// serve opens the database and answers until ctx ends. announce is called with
// the address once it does.
func serve(ctx context.Context, log *slog.Logger, listener net.Listener, databaseURL, metrics string, hosts []string, announce func(*store.Store) error) error {
	files, err := web.Files()
	if err != nil {
		return fmt.Errorf("this binary was made without its front end: %w", err)
	}
	jobs, err := store.Open(ctx, databaseURL)
	if err != nil {
		return err
	}
	defer jobs.Close()
	handler, figures, err := server.New(server.Options{Store: jobs, Web: files, Log: log, Hosts: hosts})
	if err != nil {
		return err
	}
	if metrics != "" {
		aside, err := listenAside(metrics)
		if err != nil {
			log.Warn("no metrics", "error", err)
		} else {
			pages := http.NewServeMux()
			pages.Handle("GET /metrics", figures)
			go func() { _ = server.Serve(ctx, aside, pages) }()
		}
	}
	if err := announce(jobs); err != nil {
		return err
	}
	return server.Serve(ctx, listener, handler)
}

// defaultMetrics is where the metrics are read.
const defaultMetrics = "127.0.0.1:8421"

// listenAside listens for what is nobody's business elsewhere: on loopback alone.
func listenAside(address string) (net.Listener, error) {
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return nil, err
	}
	if at, ok := listener.Addr().(*net.TCPAddr); !ok || !at.IP.IsLoopback() {
		_ = listener.Close()
		return nil, fmt.Errorf("metrics are served on a loopback address alone, and %s is none", address)
	}
	return listener, nil
}

func serveCommand() *cobra.Command {
	var listen, metrics string
	var hosts []string
	command := &cobra.Command{
		Use: "serve", Short: "Serve the application on a database of your own", Args: cobra.NoArgs,
		Long: "Serves the application on the database that " + databaseEnv + " names. Several servers may share one database.\nWith " + ownerEnv + " set, the tables are made and brought up to date as that role, and the role of " + databaseEnv + " owns nothing.",
		RunE: func(command *cobra.Command, _ []string) error {
			databaseURL := os.Getenv(databaseEnv)
			if databaseURL == "" {
				return errors.New(databaseEnv + " names no database; `elkstay demo` brings its own")
			}
			listener, err := net.Listen("tcp", listen)
			if err != nil {
				return err
			}
			if err := prepare(command.Context(), databaseURL); err != nil {
				return err
			}
			return serve(command.Context(), newLog(), listener, databaseURL, metrics, hosts, func(*store.Store) error {
				fmt.Printf("Elk Stay answers at http://%s\n", listener.Addr())
				return nil
			})
		},
	}
	command.Flags().StringVar(&listen, "listen", defaultListen, "address to answer at")
	command.Flags().StringVar(&metrics, "metrics", defaultMetrics, "loopback address to give metrics at; empty: none")
	command.Flags().StringSliceVar(&hosts, "host", nil, "further host names to answer for")
	return command
}

func demoCommand() *cobra.Command {
	var listen, metrics, folder string
	var reset, throwaway bool
	command := &cobra.Command{
		Use: "demo", Short: "Serve the application with the demo on a PostgreSQL cluster of its own", Args: cobra.NoArgs,
		Long: "Makes a PostgreSQL cluster under --folder on first use, loads the demo into it and serves. What you change is kept.\nWith " + databaseEnv + " set, that database is used instead.",
		RunE: func(command *cobra.Command, _ []string) error {
			// The port first: a demo that runs already must not lose its database to
			// a reset.
			listener, err := net.Listen("tcp", listen)
			if err != nil {
				return fmt.Errorf("%w: does the demo run already?", err)
			}
			return runDemo(command.Context(), listener, folder, metrics, reset, throwaway)
		},
	}
	command.Flags().StringVar(&listen, "listen", defaultListen, "address to answer at")
	command.Flags().StringVar(&metrics, "metrics", defaultMetrics, "loopback address to give metrics at; empty: none")
	command.Flags().StringVar(&folder, "folder", filepath.Join("var", "postgres"), "folder of the PostgreSQL cluster")
	command.Flags().BoolVar(&reset, "reset", false, "start over: delete the cluster and everything in it first")
	command.Flags().BoolVar(&throwaway, "throwaway", false, "a cluster for tests: fast, and lost in a power cut")
	return command
}

func runDemo(ctx context.Context, listener net.Listener, folder, metrics string, reset, throwaway bool) (err error) {
	log := newLog()
	databaseURL := os.Getenv(databaseEnv)
	if databaseURL != "" && reset {
		return errors.New("--reset starts the demo's own cluster over; it does not touch the database of " + databaseEnv)
	}
	if databaseURL == "" {
		own, err := cluster.New(folder, throwaway)
		if err != nil {
			return err
		}
		defer own.Release()
		if reset {
			if err := own.Remove(ctx); err != nil {
				return err
			}
		}
		if databaseURL, err = own.Start(ctx); err != nil {
			return err
		}
		watch, stopWatching := context.WithCancel(ctx)
		watched := make(chan struct{})
		go func() {
			defer close(watched)
			own.Keep(watch, databaseURL, func(what string, err error) { log.Warn(what, "error", err) })
		}()
		defer func() {
			stopWatching()
			<-watched
			stopping, cancel := context.WithTimeout(context.WithoutCancel(ctx), time.Minute)
			defer cancel()
			err = errors.Join(err, own.Stop(stopping))
		}()
	}
	return serve(ctx, log, listener, databaseURL, metrics, nil, func(jobs *store.Store) error {
		if err := demo.Load(ctx, jobs); err != nil {
			return err
		}
		fmt.Println(strings.Join([]string{
			"", "  Elk Stay, with the demo: http://" + listener.Addr().String(),
			"  No sign-in. Ctrl-C stops it; what you change is kept.", "",
		}, "\n"))
		return nil
	})
}
