// Package brief puts a job's assessment into the words of a briefing: every figure as the
// screen prints it, so that paper and screen cannot differ.
package brief
