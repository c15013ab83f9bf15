// Package propose answers what would do: the order filled by itself, with the reason of
// each pick, and a pick's length, run, wraps, rope or peak asked while something else is
// held. It tries picks with package assess and works out nothing of its own.
package propose
