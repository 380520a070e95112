// Package judge hands what the program writes to the platforms' own readers
// and compilers. It has tests only; what is not installed is skipped by name,
// and with ZELVIK_REQUIRE_TOOLS set a skip is a failure.
package judge
