package cluster_test

import (
	"context"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"elkstay/store"
	"elkstay/store/cluster"
)

// inTemp returns a cluster in a folder of the test's, which the server's own user
// can reach.
func inTemp(t *testing.T, throwaway bool) *cluster.Cluster {
	t.Helper()
	folder := t.TempDir()
	for path := folder; path != os.TempDir() && path != "/"; path = filepath.Dir(path) {
		if err := os.Chmod(path, 0o755); err != nil {
			t.Fatal(err)
		}
	}
	own, err := cluster.New(filepath.Join(folder, "c"), throwaway)
	if err != nil {
		t.Fatal(err)
	}
	return own
}

// A cluster that is killed under load loses no save that was acknowledged, and
// comes back by itself at the same address.
func TestAKilledServerLosesNoAcknowledgedSave(t *testing.T) {
	own := inTemp(t, false)
	address, err := own.Start(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = own.Remove(context.Background()); own.Release() })
	jobs, err := store.Open(t.Context(), address)
	if err != nil {
		t.Fatal(err)
	}
	defer jobs.Close()
	id := uuid.New()
	if _, _, err := jobs.Create(t.Context(), id, []byte(`{"name":"kept"}`), ""); err != nil {
		t.Fatal(err)
	}
	reported := make(chan error, 100)
	watch, stop := context.WithCancel(t.Context())
	defer stop()
	go own.Keep(watch, address, func(_ string, err error) { reported <- err })

	note, err := os.ReadFile(filepath.Join(own.Folder, "data", "postmaster.pid"))
	if err != nil {
		t.Fatal(err)
	}
	pid, err := strconv.Atoi(strings.Split(string(note), "\n")[0])
	if err != nil {
		t.Fatal(err)
	}
	acknowledged, killed := 1, false
	for deadline := time.Now().Add(60 * time.Second); time.Now().Before(deadline); {
		saved, err := jobs.Save(t.Context(), id, acknowledged, uuid.New(), []byte(`{"name":"kept"}`), "")
		if err == nil {
			acknowledged = saved.Number
			if killed {
				break
			}
		} else if killed {
			head, err := jobs.Job(t.Context(), id)
			if err != nil {
				time.Sleep(100 * time.Millisecond)
				continue
			}
			if head.Revision < acknowledged {
				t.Fatalf("revision %d was acknowledged, %d is kept", acknowledged, head.Revision)
			}
			acknowledged = head.Revision
		}
		if acknowledged == 40 && !killed {
			if err := syscall.Kill(pid, syscall.SIGKILL); err != nil {
				t.Fatal(err)
			}
			killed = true
		}
	}
	select {
	case err := <-reported:
		if err != nil {
			t.Logf("one of its tries: %v", err)
		}
	case <-time.After(20 * time.Second):
		t.Error("nobody was told that the server had gone")
	}
	// A save can still go through a process that outlives the killed one for a moment.
	list, _, err := jobs.Revisions(t.Context(), id, 0, 1000)
	for deadline := time.Now().Add(30 * time.Second); err != nil && time.Now().Before(deadline); {
		time.Sleep(100 * time.Millisecond)
		list, _, err = jobs.Revisions(t.Context(), id, 0, 1000)
	}
	if err != nil || len(list) < acknowledged || acknowledged <= 40 {
		t.Errorf("%d acknowledged, %d kept, %v", acknowledged, len(list), err)
	}
}

func TestASecondStartFindsTheServerRunning(t *testing.T) {
	own := inTemp(t, true)
	first, err := own.Start(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	again, err := own.Start(t.Context())
	if err != nil || again != first {
		t.Errorf("started twice: %v, %v, %v", first, again, err)
	}
	// Another cannot take the folder away, or start in it, while it is in use.
	other, err := cluster.New(own.Folder, true)
	if err != nil {
		t.Fatal(err)
	}
	for what, err := range map[string]error{"a reset": other.Remove(t.Context()), "a second start": func() error { _, err := other.Start(t.Context()); return err }()} {
		if err == nil || !strings.Contains(err.Error(), "is in use by another elkstay (process "+strconv.Itoa(os.Getpid())+")") {
			t.Errorf("%s: %v", what, err)
		}
	}
	if err := own.Stop(t.Context()); err != nil {
		t.Fatal(err)
	}
	if err := own.Stop(t.Context()); err != nil {
		t.Errorf("stopping what has stopped: %v", err)
	}
	if err := own.Remove(t.Context()); err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(own.Folder); !os.IsNotExist(err) {
		t.Errorf("its folder is still there: %v", err)
	}
	own.Release()
	if err := other.Remove(t.Context()); err != nil {
		t.Errorf("once it is free: %v", err)
	}
	other.Release()
}

// The application connects as a role that owns nothing, is no superuser, and cannot change what
// stays as it was written.
func TestTheApplicationOwnsNothing(t *testing.T) {
	own := inTemp(t, true)
	address, err := own.Start(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = own.Remove(context.Background()); own.Release() })
	connection, err := pgx.Connect(t.Context(), address)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = connection.Close(context.Background()) }()
	var super, makes bool
	var owned int
	if err := connection.QueryRow(t.Context(), "select rolsuper, rolcreatedb or rolcreaterole, (select count(*) from pg_class where relowner = r.oid) from pg_roles r where rolname = current_user").Scan(&super, &makes, &owned); err != nil || super || makes || owned > 0 {
		t.Errorf("superuser %v, makes roles or databases %v, owns %d: %v", super, makes, owned, err)
	}
	for _, statement := range []string{"drop table job", "create table mine (a int)", "update revision set note = ''", "delete from policy", "update goose_db_version set is_applied = false", "truncate job cascade", "alter table job add column x int"} {
		if _, err := connection.Exec(t.Context(), statement); err == nil || !strings.Contains(err.Error(), "42501") {
			t.Errorf("%s: %v", statement, err)
		}
	}
}
