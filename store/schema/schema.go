// Package schema brings a database to the tables that the store reads and writes, as the role
// that owns them, and lets another role use them that owns nothing.
package schema

import (
	"context"
	"embed"
	"fmt"
	"io/fs"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Migrate brings a database up to date; several servers may at once.
func Migrate(ctx context.Context, pool *pgxpool.Pool) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return err
	}
	db := stdlib.OpenDBFromPool(pool)
	defer func() { _ = db.Close() }()
	provider, err := goose.NewProvider(goose.DialectPostgres, db, files, goose.WithSessionLocker(locker))
	if err != nil {
		return err
	}
	pending, err := provider.HasPending(ctx)
	if err != nil || !pending {
		return err
	}
	_, err = provider.Up(ctx)
	return err
}

// kept are the tables whose rows stay as they were written.
var kept = []string{"revision", "policy", "briefing"}

// Prepare brings a database up to date as its owner and lets a role use it: read and write
// rows, change none that stay as they were written, and make or drop nothing.
func Prepare(ctx context.Context, ownerURL, role string) error {
	pool, err := pgxpool.New(ctx, ownerURL)
	if err != nil {
		return err
	}
	defer pool.Close()
	if err := Migrate(ctx, pool); err != nil {
		return fmt.Errorf("migrating the database: %w", err)
	}
	to := pgx.Identifier{role}.Sanitize() //nolint:misspell // as the driver spells it
	grants := []string{
		"grant usage on schema public to " + to,
		"grant select, insert, update, delete on all tables in schema public to " + to,
		"revoke insert, update, delete on goose_db_version from " + to,
		"revoke create on schema public from public",
	}
	for _, table := range kept {
		grants = append(grants, "revoke update, delete on "+pgx.Identifier{table}.Sanitize()+" from "+to) //nolint:misspell // as the driver spells it
	}
	for _, grant := range grants {
		if _, err := pool.Exec(ctx, grant); err != nil {
			return fmt.Errorf("letting %s in: %w", role, err)
		}
	}
	return nil
}
