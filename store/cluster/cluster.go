// Package cluster keeps a PostgreSQL cluster of the project's own, with the
// server that Debian packages: made on first use under one folder, bound to the
// loopback address on a free port, started and stopped from here. Started as
// root, it runs the server as the user postgres, because PostgreSQL refuses root.
package cluster

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"os/exec"
	osuser "os/user"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"

	"elkstay/store/schema"
)

// The owner makes and changes the tables, and is the cluster's own superuser; the application
// connects as user, who owns nothing.
const (
	owner    = "elkstay"
	user     = "elkstay_app"
	database = "elkstay"
)

// A Cluster is one PostgreSQL cluster under a folder of its own.
type Cluster struct {
	// Folder holds everything of the cluster: data, socket, password, log.
	Folder string
	// Throwaway gives up durability for speed. For tests only.
	Throwaway bool

	bin    string
	server *osuser.User // who runs the server when we are root
	lock   *os.File     // held while the cluster is in use; nil: not yet
}

// New returns the cluster under a folder, which need not exist yet. It fails when
// PostgreSQL is not installed.
func New(folder string, throwaway bool) (*Cluster, error) {
	bin, err := findBin()
	if err != nil {
		return nil, err
	}
	absolute, err := filepath.Abs(folder)
	if err != nil {
		return nil, err
	}
	c := &Cluster{Folder: absolute, Throwaway: throwaway, bin: bin}
	if os.Geteuid() == 0 {
		if c.server, err = osuser.Lookup("postgres"); err != nil {
			return nil, fmt.Errorf("running as root needs the user postgres, which Debian's package makes: %w", err)
		}
	}
	return c, nil
}

// findBin returns the folder of the newest installed server.
func findBin() (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/pg_ctl")
	best, newest := "", 0
	for _, path := range found {
		folder := filepath.Dir(path)
		if version, err := strconv.Atoi(filepath.Base(filepath.Dir(folder))); err == nil && version > newest {
			best, newest = folder, version
		}
	}
	if best == "" {
		return "", errors.New("no PostgreSQL server under /usr/lib/postgresql: apt-get install postgresql")
	}
	return best, nil
}

func (c *Cluster) data() string     { return filepath.Join(c.Folder, "data") }
func (c *Cluster) socket() string   { return filepath.Join(c.Folder, "socket") }
func (c *Cluster) password() string { return filepath.Join(c.Folder, "password") }

// userPassword is the file of the password that the application connects with.
func (c *Cluster) userPassword() string { return filepath.Join(c.Folder, "password-app") }

// hold keeps the folder for this process, until Release or its end, however it ends.
func (c *Cluster) hold() error {
	if c.lock != nil {
		return nil
	}
	if err := os.MkdirAll(filepath.Dir(c.Folder), 0o755); err != nil {
		return err
	}
	// Beside the folder, so that a reset does not take it away under whoever waits for it.
	lock, err := os.OpenFile(c.Folder+".lock", os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return err
	}
	if err := syscall.Flock(int(lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		by, _ := os.ReadFile(lock.Name())
		_ = lock.Close()
		return fmt.Errorf("the folder %s is in use by another elkstay (process %s): stop that one, or choose another folder", c.Folder, strings.TrimSpace(string(by)))
	}
	if err := errors.Join(lock.Truncate(0), writePid(lock)); err != nil {
		_ = lock.Close()
		return err
	}
	c.lock = lock
	return nil
}

func writePid(lock *os.File) error {
	_, err := lock.WriteAt([]byte(strconv.Itoa(os.Getpid())+"\n"), 0)
	return err
}

// Release lets others use the folder.
func (c *Cluster) Release() {
	if c.lock != nil {
		_ = c.lock.Close()
		c.lock = nil
	}
}

// Start makes the cluster if need be, starts its server if it is not running, brings its
// database up to date, and returns the address at which the application connects to it. The
// folder is held from then on.
func (c *Cluster) Start(ctx context.Context) (databaseURL string, err error) {
	if err := c.hold(); err != nil {
		return "", err
	}
	if err := c.make(ctx); err != nil {
		return "", err
	}
	port, running := c.running()
	if !running {
		if port, err = freePort(); err != nil {
			return "", err
		}
		if err := c.launch(ctx, port); err != nil {
			return "", err
		}
	}
	secret, err := os.ReadFile(c.password())
	if err != nil {
		return "", err
	}
	address := url.URL{
		Scheme: "postgres", User: url.UserPassword(owner, strings.TrimSpace(string(secret))),
		Host: net.JoinHostPort("127.0.0.1", strconv.Itoa(port)), Path: "/" + database, RawQuery: "sslmode=disable",
	}
	own := rand.Text()
	if had, err := os.ReadFile(c.userPassword()); err == nil {
		own = strings.TrimSpace(string(had))
	} else if err := os.WriteFile(c.userPassword(), []byte(own+"\n"), 0o600); err != nil {
		return "", err
	}
	if err := c.makeDatabase(ctx, address, own); err != nil {
		return "", err
	}
	if err := schema.Prepare(ctx, address.String(), user); err != nil {
		return "", err
	}
	address.User = url.UserPassword(user, own)
	return address.String(), nil
}

// longestSocket is what a socket's path may measure (unix(7)), less the server's
// own file name.
const longestSocket = 107 - len("/.s.PGSQL.65535.lock")

// launch starts the server on a port and waits until it answers.
func (c *Cluster) launch(ctx context.Context, port int) error {
	socket := c.socket()
	if len(socket) > longestSocket {
		socket = "" // too deep a folder: TCP on loopback alone
	}
	options := fmt.Sprintf("-p %d -c listen_addresses=127.0.0.1 -c unix_socket_directories='%s'", port, socket)
	if c.Throwaway {
		options += " -c fsync=off -c full_page_writes=off -c synchronous_commit=off"
	}
	return c.run(ctx, "pg_ctl", "-D", c.data(), "-l", filepath.Join(c.data(), "server.log"), "-w", "-t", "60", "-o", options, "start")
}

// Stop stops the server, finishing what it has at hand. A server that is not
// running is fine.
func (c *Cluster) Stop(ctx context.Context) error {
	if _, running := c.running(); !running {
		return nil
	}
	return c.run(ctx, "pg_ctl", "-D", c.data(), "-m", "fast", "-w", "-t", "60", "stop")
}

// Remove stops the server and deletes the cluster with all its data.
func (c *Cluster) Remove(ctx context.Context) error {
	if err := c.hold(); err != nil {
		return err
	}
	if err := c.Stop(ctx); err != nil {
		return err
	}
	return os.RemoveAll(c.Folder)
}

// Keep watches the server until ctx ends and starts it again when it has gone;
// report hears of each time. The address stays the one Start gave.
func (c *Cluster) Keep(ctx context.Context, databaseURL string, report func(string, error)) {
	port := 0
	if address, err := url.Parse(databaseURL); err == nil {
		port, _ = strconv.Atoi(address.Port())
	}
	for {
		select {
		case <-ctx.Done():
			return
		case <-time.After(time.Second):
		}
		if _, running := c.running(); running {
			continue
		}
		report("the database server had gone; starting it again", c.launch(ctx, port))
	}
}

// make lays the cluster out and initialises it, once.
func (c *Cluster) make(ctx context.Context) error {
	if _, err := os.Stat(filepath.Join(c.data(), "PG_VERSION")); err == nil {
		return nil
	}
	if err := os.MkdirAll(c.Folder, 0o755); err != nil {
		return err
	}
	// A first start that was broken off leaves a folder without PG_VERSION.
	for folder, mode := range map[string]os.FileMode{c.data(): 0o700, c.socket(): 0o755} {
		if err := os.RemoveAll(folder); err != nil {
			return err
		}
		if err := os.Mkdir(folder, mode); err != nil {
			return err
		}
		if err := c.give(folder); err != nil {
			return err
		}
	}
	if err := os.WriteFile(c.password(), []byte(rand.Text()+"\n"), 0o600); err != nil {
		return err
	}
	secret, err := os.ReadFile(c.password())
	if err != nil {
		return err
	}
	handed := filepath.Join(c.socket(), "first-password")
	if err := os.WriteFile(handed, secret, 0o600); err != nil {
		return err
	}
	if err := c.give(handed); err != nil {
		return err
	}
	arguments := []string{"-D", c.data(), "-U", owner, "--auth-local=scram-sha-256", "--auth-host=scram-sha-256", "--pwfile=" + handed, "-E", "UTF8", "--locale=C.UTF-8"}
	if c.Throwaway {
		arguments = append(arguments, "--no-sync")
	}
	return errors.Join(c.run(ctx, "initdb", arguments...), os.Remove(handed))
}

// give hands a file to the user that runs the server.
func (c *Cluster) give(path string) error {
	if c.server == nil {
		return nil
	}
	uid, gid, err := ids(c.server)
	if err != nil {
		return err
	}
	return os.Chown(path, int(uid), int(gid))
}

func ids(u *osuser.User) (uid, gid uint32, err error) {
	own, err := strconv.ParseUint(u.Uid, 10, 32)
	if err != nil {
		return 0, 0, err
	}
	group, err := strconv.ParseUint(u.Gid, 10, 32)
	return uint32(own), uint32(group), err
}

// running reads the server's own note of its process and port.
func (c *Cluster) running() (port int, running bool) {
	note, err := os.ReadFile(filepath.Join(c.data(), "postmaster.pid"))
	if err != nil {
		return 0, false
	}
	lines := strings.Split(string(note), "\n")
	if len(lines) < 4 {
		return 0, false
	}
	pid, err := strconv.Atoi(lines[0])
	if err != nil || lines[1] != c.data() {
		return 0, false
	}
	if port, err = strconv.Atoi(lines[3]); err != nil {
		return 0, false
	}
	if err := syscall.Kill(pid, 0); err != nil && !errors.Is(err, syscall.EPERM) {
		return 0, false
	}
	connection, err := net.DialTimeout("tcp", net.JoinHostPort("127.0.0.1", lines[3]), time.Second)
	if err != nil {
		return 0, false
	}
	return port, connection.Close() == nil
}

// capDacReadSearch lets a process pass folders closed to its user (capabilities(7)).
const capDacReadSearch = 2

// run runs a program of the server's, as its user when we are root. A checkout
// below a folder closed to others (/root) is still reached: the server gets leave
// to pass folders, and only then.
func (c *Cluster) run(ctx context.Context, program string, arguments ...string) error {
	command := exec.CommandContext(ctx, filepath.Join(c.bin, program), arguments...)
	command.Dir = "/"
	command.Env = append(os.Environ(), "LC_ALL=C.UTF-8")
	if c.server != nil {
		uid, gid, err := ids(c.server)
		if err != nil {
			return err
		}
		command.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: uid, Gid: gid}}
		if !openToOthers(c.Folder) {
			command.SysProcAttr.AmbientCaps = []uintptr{capDacReadSearch}
		}
	}
	// The server outlives pg_ctl and keeps its output open: a file, not a pipe,
	// so that waiting ends when pg_ctl does.
	output, err := os.CreateTemp("", "elkstay-"+program+"-*")
	if err != nil {
		return err
	}
	defer func() { _ = os.Remove(output.Name()) }()
	defer func() { _ = output.Close() }()
	command.Stdout, command.Stderr = output, output
	if err := command.Run(); err != nil {
		said, _ := os.ReadFile(output.Name())
		return fmt.Errorf("%s: %w\n%s", program, err, strings.TrimSpace(string(said)))
	}
	return nil
}

// openToOthers reports whether every folder above path can be passed by anyone.
func openToOthers(path string) bool {
	for path = filepath.Dir(path); path != "/"; path = filepath.Dir(path) {
		info, err := os.Stat(path)
		if err != nil || info.Mode().Perm()&0o001 == 0 {
			return false
		}
	}
	return true
}

// makeDatabase makes the database, and the role that the application connects as, in a cluster
// that has none yet.
func (c *Cluster) makeDatabase(ctx context.Context, address url.URL, secret string) error {
	address.Path = "/postgres"
	connection, err := pgx.Connect(ctx, address.String())
	if err != nil {
		return err
	}
	defer func() { _ = connection.Close(context.WithoutCancel(ctx)) }()
	var exists bool
	if err := connection.QueryRow(ctx, "select exists (select 1 from pg_roles where rolname = $1)", user).Scan(&exists); err != nil {
		return err
	}
	if !exists {
		if _, err := connection.Exec(ctx, "create role "+user+" login nosuperuser nocreatedb nocreaterole password '"+secret+"'"); err != nil {
			return err
		}
	}
	if err := connection.QueryRow(ctx, "select exists (select 1 from pg_database where datname = $1)", database).Scan(&exists); err != nil || exists {
		return err
	}
	_, err = connection.Exec(ctx, "create database "+database)
	return err
}

func freePort() (int, error) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer func() { _ = listener.Close() }()
	return listener.Addr().(*net.TCPAddr).Port, nil
}
