// The runtime that the Go toolchain ships: it sets Go on the global object.
export {};
