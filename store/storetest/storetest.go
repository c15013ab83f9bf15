// Package storetest gives tests a PostgreSQL cluster of their own.
package storetest

import (
	"context"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"elkstay/store/cluster"
)

// Owner is the address of the database for the role that owns its tables, while Main runs.
var Owner string

// Main runs the tests of a package on a throw-away cluster and returns their exit
// status; databaseURL is set before they start.
func Main(m *testing.M, databaseURL *string) (status int) {
	ctx := context.Background()
	folder, err := os.MkdirTemp("", "elkstay-test-")
	if err == nil {
		// The server's own user must be able to pass.
		err = os.Chmod(folder, 0o755) //nolint:gosec // a test's folder
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer func() { _ = os.RemoveAll(folder) }()
	own, err := cluster.New(folder+"/cluster", true)
	if err == nil {
		*databaseURL, err = own.Start(ctx)
	}
	if err == nil {
		Owner, err = asOwner(own.Folder, *databaseURL)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer func() {
		_ = own.Remove(ctx)
		own.Release()
	}()
	return m.Run()
}

// asOwner is the address with the name and the password that the cluster was made with.
func asOwner(folder, databaseURL string) (string, error) {
	secret, err := os.ReadFile(filepath.Join(folder, "password")) //nolint:gosec // a test's folder
	if err != nil {
		return "", err
	}
	address, err := url.Parse(databaseURL)
	if err != nil {
		return "", err
	}
	address.User = url.UserPassword("elkstay", strings.TrimSpace(string(secret)))
	return address.String(), nil
}
